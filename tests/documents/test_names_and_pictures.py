"""What comes in from outside: names of any letters, picture files of any kind."""

from __future__ import annotations

import io
import json
import subprocess
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from orvek.documents import Batch, Chip, from_text, to_text
from orvek.documents.job.printing import MOST_PIXELS, artwork_from, picture_from
from orvek.errors import CannotReadError, NotAJobFileError
from orvek.store import demo_job
from orvek.workpiece.optics import light_of_chip


@given(st.text(max_size=80))
def test_a_name_is_one_line_that_steers_nothing(text: str) -> None:
    if any("\ud800" <= letter <= "\udfff" for letter in text):
        return
    try:
        name = Batch(name=text).name
    except ValueError:
        return  # nothing was left of it
    assert name.splitlines() == [name]
    assert not any(ord(letter) < 32 or 127 <= ord(letter) < 160 or letter in "\u202e\u2066\ufeff" for letter in name)
    assert Batch(name=name).name == name


def test_a_file_with_control_characters_in_its_names_is_read_without_them() -> None:
    content = json.loads(to_text(demo_job()))
    content["job"]["name"] = "Tide\x1b[31m\u202eline\nsecond"
    assert from_text(json.dumps(content)).batch.name == "Tide [31m line second"


def test_a_kind_of_five_megabytes_is_refused_in_a_short_sentence() -> None:
    content = json.loads(to_text(demo_job()))
    content["blank"]["steps"][0]["kind"] = "swirl" * 1_000_000
    with pytest.raises(NotAJobFileError) as caught:
        from_text(json.dumps(content))
    assert len(str(caught.value)) < 500


@given(st.floats(0.1, 20), st.floats(0.005, 30), st.floats(0.001, 1), st.floats(0.001, 1))
def test_any_chip_gives_a_light_to_reckon_with(thick: float, load: float, black: float, white: float) -> None:
    scatters, absorbs = light_of_chip(Chip(thickness_mm=thick, load_pct=load, over_black=black, over_white=white))
    assert 0 <= scatters < 1e9
    assert 0 <= absorbs < 1e9


@pytest.mark.parametrize(("scattered", "absorbed"), [(0.4, 0.02), (0.02, 0.3), (0.1, 0.1), (0.05, 0.0005)])
def test_a_chip_gives_back_the_areas_it_was_made_with(scattered: float, absorbed: float) -> None:
    from orvek.workpiece.optics import area_mass_g_m2, wall_reflectance

    area = area_mass_g_m2(0.01, 1.1, 1.5)
    black, white = (wall_reflectance(absorbed * area, scattered * area, card) for card in (0.04, 0.85))
    found = light_of_chip(Chip(thickness_mm=1.5, load_pct=1, over_black=black, over_white=white))
    assert found == pytest.approx((scattered, absorbed), rel=0.01, abs=1e-4)


def saved(path: Path, image: Image.Image, kind: str, **more: object) -> Path:
    image.save(path, kind, **more)
    return path


def halves(mode: str, left: object, right: object) -> Image.Image:
    image = Image.new(mode, (40, 20), left)  # type: ignore[arg-type]
    image.paste(right, (20, 0, 40, 20))  # type: ignore[arg-type]
    return image


def test_pictures_of_many_kinds_are_read_as_they_are_seen(tmp_path: Path) -> None:
    exif = Image.Exif()
    exif[0x0112] = 6  # to be turned by a quarter
    made = {
        "cmyk.jpg": saved(tmp_path / "cmyk.jpg", halves("CMYK", (0, 0, 0, 0), (0, 0, 0, 255)), "JPEG"),
        "deep.png": saved(tmp_path / "deep.png", halves("I;16", 60000, 200), "PNG"),
        "glass.png": saved(tmp_path / "glass.png", halves("RGBA", (0, 0, 0, 0), (0, 0, 0, 255)), "PNG"),
        "grey.gif": saved(tmp_path / "grey.gif", halves("L", 255, 0), "GIF"),
        "plain.webp": saved(tmp_path / "plain.webp", halves("RGB", "white", "black"), "WEBP"),
        "   .png": saved(tmp_path / "   .png", halves("RGB", "white", "black"), "PNG"),
    }
    for path in made.values():
        picture = picture_from(path)
        assert picture.mode == "RGB"
        assert picture.getpixel((5, 10))[0] > 200  # type: ignore[index]
        assert picture.getpixel((35, 10))[0] < 60  # type: ignore[index]
        assert artwork_from(path).name
    turned = saved(tmp_path / "turned.jpg", halves("RGB", "white", "black"), "JPEG", exif=exif)
    assert picture_from(turned).size == (20, 40)
    moving = tmp_path / "moving.gif"
    frames = [Image.new("RGB", (8, 8), colour) for colour in ("white", "red", "blue")]
    frames[0].save(moving, "GIF", save_all=True, append_images=frames[1:])
    assert picture_from(moving).getpixel((4, 4)) == (255, 255, 255)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 9 9\n", "not a picture"),
        (b'<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg"/>', "export it as PNG"),
        (b"\x00\x00\x00\x18ftypheic\x00\x00\x00\x00", "save it as JPEG"),
        (b"", "not a picture"),
        (b"\x89PNG\r\n\x1a\n broken", "not a picture"),
        (b"\x00" * 500, "not a picture"),
    ],
)
def test_what_is_no_picture_is_a_sentence_and_starts_no_other_program(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, content: bytes, words: str
) -> None:
    monkeypatch.setattr(subprocess, "Popen", lambda *_, **__: pytest.fail("another program was started"))
    path = tmp_path / "odd.png"
    path.write_bytes(content)
    with pytest.raises(CannotReadError, match=words):
        picture_from(path)


def test_pictures_that_break_off_or_are_bombs_are_refused_before_they_are_decoded(tmp_path: Path) -> None:
    whole = io.BytesIO()
    Image.effect_noise((200, 200), 60).save(whole, "PNG")
    broken = tmp_path / "broken.png"
    broken.write_bytes(whole.getvalue()[: len(whole.getvalue()) // 2])
    with pytest.raises(CannotReadError, match="breaks off"):
        picture_from(broken)
    bomb = tmp_path / "bomb.png"
    Image.new("1", (12_000, 12_000)).save(bomb, "PNG")
    assert MOST_PIXELS < 12_000 * 12_000
    with pytest.raises(CannotReadError, match="12000 × 12000"):
        picture_from(bomb)
    Image.new("1", (20_000, 20_000)).save(bomb, "PNG")
    with pytest.raises(CannotReadError, match="50 million pixels"):
        picture_from(bomb)
    for odd in (Path("/dev/zero"), tmp_path, tmp_path / "nowhere.png"):
        with pytest.raises(CannotReadError):
            picture_from(odd)
