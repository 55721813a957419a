"""A picture file as a print: small, in few colours, and refused in a sentence when it is none."""

from __future__ import annotations

from pathlib import Path

import pytest
from PIL import Image

from orvek.documents import Print
from orvek.documents.base import checked
from orvek.documents.job.printing import MOST_ALONG, print_from
from orvek.errors import BadFieldError, CannotReadError


def test_a_picture_keeps_its_colours_and_its_shape(tmp_path: Path) -> None:
    picture = Image.new("RGB", (600, 200), "#204060")
    picture.paste("#f0e0d0", (300, 0, 600, 200))
    picture.save(tmp_path / "tide.png")
    found = print_from(tmp_path / "tide.png")
    assert found.name == "tide"
    assert {"#204060", "#f0e0d0"} <= set(found.colours)
    assert len(found.rows[0]) == MOST_ALONG
    assert len(found.rows) == pytest.approx(MOST_ALONG / 3, abs=1)
    left, right = found.rows[0][0], found.rows[0][-1]
    assert (found.colours[int(left)], found.colours[int(right)]) == ("#204060", "#f0e0d0")


@pytest.mark.parametrize("content", [b"", b"banana", b"\x89PNG\r\n\x1a\n torn"])
def test_what_is_no_picture_is_said(tmp_path: Path, content: bytes) -> None:
    (tmp_path / "x.png").write_bytes(content)
    with pytest.raises(CannotReadError, match=r"x\.png could not be read"):
        print_from(tmp_path / "x.png")
    with pytest.raises(CannotReadError):
        print_from(tmp_path / "missing.png")


def test_a_print_is_a_rectangle_of_its_own_colours() -> None:
    with pytest.raises(BadFieldError, match="different lengths"):
        checked(Print, {"colours": ["#000000"], "rows": ["00", "0"]})
    with pytest.raises(BadFieldError, match="a colour that it does not have"):
        checked(Print, {"colours": ["#000000"], "rows": ["01"]})
