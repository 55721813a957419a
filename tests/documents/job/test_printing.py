"""A picture file as artwork: kept as it is, refused in a sentence when it is none, and as it was kept before."""

from __future__ import annotations

import base64
import io
from pathlib import Path

import pytest
from PIL import Image

from orvek.documents import Artwork, Contents, Job, SolidStep, WrapStep, from_text, to_text
from orvek.documents.base import checked
from orvek.documents.deeds import set_value
from orvek.documents.job.printing import artwork_from, picture_of
from orvek.errors import BadFieldError, CannotReadError
from orvek.workpiece.artwork import MOST_ALONG, MOST_COLOURS, proof


def picture_file(path: Path, size: tuple[int, int] = (600, 200)) -> Path:
    picture = Image.new("RGB", size, "#204060")
    picture.paste("#f0e0d0", (size[0] // 2, 0, *size))
    picture.save(path)
    return path


def wrapped(job: Job, artwork: Artwork | None) -> Job:
    return set_value(job, ("blank", "steps"), (WrapStep(pattern="picture", artwork=artwork),))


def test_a_picture_is_kept_byte_for_byte_wherever_the_job_goes(tmp_path: Path, tideline: Job) -> None:
    path = picture_file(tmp_path / "tide.png")
    artwork = artwork_from(path)
    assert (artwork.name, artwork.content) == ("tide", path.read_bytes())
    job = wrapped(tideline, artwork)
    text = to_text(job)
    assert base64.b64encode(artwork.content).decode() in text
    assert from_text(text) == job
    contents = Contents()
    short = to_text(job, contents)
    assert contents.kept == {artwork.digest: artwork.content}
    assert len(short) < len(text)
    assert from_text(short, contents=contents) == job
    gone = from_text(short).blank.steps[0]
    assert isinstance(gone, WrapStep)
    assert gone.artwork is not None
    assert gone.artwork.content == b""


def test_a_proof_has_its_colours_and_its_shape(tmp_path: Path) -> None:
    found = proof(artwork_from(picture_file(tmp_path / "tide.png", (3000, 1000))))
    assert found is not None
    assert {"#204060", "#f0e0d0"} <= set(found.colours)
    assert found.dots.shape == pytest.approx((MOST_ALONG / 3, MOST_ALONG), abs=1)
    assert (found.colours[found.dots[5, 5]], found.colours[found.dots[5, -5]]) == ("#204060", "#f0e0d0")
    noise = io.BytesIO()
    Image.effect_noise((300, 200), 90).convert("RGB").save(noise, "PNG")
    many = proof(Artwork(content=noise.getvalue()))
    assert many is not None
    assert len(many.colours) <= MOST_COLOURS
    assert proof(Artwork(content=b"")) is None


@pytest.mark.parametrize("content", [b"", b"banana", b"\x89PNG\r\n\x1a\n torn"])
def test_what_is_no_picture_is_said(tmp_path: Path, content: bytes) -> None:
    (tmp_path / "x.png").write_bytes(content)
    with pytest.raises(CannotReadError, match=r"x\.png could not be read"):
        artwork_from(tmp_path / "x.png")
    with pytest.raises(CannotReadError):
        artwork_from(tmp_path / "missing.png")
    with pytest.raises(CannotReadError):
        picture_of(Artwork(content=content))


def test_a_picture_that_was_kept_as_dots_is_artwork_now(tideline: Job) -> None:
    dots = {"name": "Gulls", "colours": ["#102030", "#f0f0f0"], "rows": ["011", "100"]}
    old = to_text(wrapped(tideline, None)).replace('"artwork": null', '"picture": ' + str(dots).replace("'", '"'))
    step = from_text(old).blank.steps[0]
    assert isinstance(step, WrapStep)
    assert step.artwork is not None
    assert step.artwork.name == "Gulls"
    picture = picture_of(step.artwork)
    assert picture.size == (3, 2)
    assert picture.getpixel((1, 0)) == (0xF0, 0xF0, 0xF0)
    for torn in ({"rows": ["0"]}, {"colours": ["#000000"], "rows": ["01"]}, {"colours": [1], "rows": [[]]}):
        with pytest.raises(BadFieldError):
            checked(Artwork, torn)
    with pytest.raises(BadFieldError):
        checked(Artwork, {"content": "no base64 !"})
    assert not isinstance(SolidStep(), WrapStep)
