"""A picture file as the maker's artwork: looked at before it is taken, and kept as it is."""

from __future__ import annotations

import io
import re
import warnings
from functools import lru_cache
from pathlib import Path
from typing import TYPE_CHECKING

from orvek.documents.artwork import MOST_ARTWORK_BYTES, Artwork
from orvek.documents.base import one_line
from orvek.errors import CannotReadError
from orvek.files import read_bytes

if TYPE_CHECKING:
    from PIL import Image

MOST_BYTES, MOST_PIXELS = 64 * 1024 * 1024, 50_000_000
# Only what Pillow reads by itself: no format for which it would start another program.
_FORMATS = ("PNG", "JPEG", "WEBP", "GIF", "BMP", "TIFF")
_BAND_PX, _MOST_REDUCED = 512, 64
_KNOWN = "PNG, JPEG, WebP, GIF, BMP and TIFF"


def picture_from(path: Path) -> Image.Image:
    """Read a picture file as RGB, upright, its transparent parts white.

    Of an animation the first picture is taken. Size and kind are looked at before anything is decoded.

    Raises:
        CannotReadError: it is missing, too large, damaged, or of a kind that is not read; the sentence says which.
    """
    return _decoded(read_bytes(path, MOST_BYTES), path)


def artwork_from(path: Path) -> Artwork:
    """Take a picture file as it is; its width runs along the bar, its height round it.

    Raises:
        CannotReadError: as `picture_from`, or it is larger than a job keeps.
    """
    content = read_bytes(path, MOST_BYTES)
    if len(content) > MOST_ARTWORK_BYTES:
        most, there = MOST_ARTWORK_BYTES >> 20, len(content) >> 20
        raise CannotReadError(path, f"it has {there} MB, and a job keeps pictures of up to {most}; scale it down first")
    _decoded(content, path, (1, 1))  # whether it can be read
    return Artwork(name=str(one_line(path.stem))[:80].strip() or "Picture", content=content)


def picture_of(artwork: Artwork, at_most: tuple[int, int] | None = None) -> Image.Image:
    """An artwork as RGB, upright; no finer than needed where it shall be at least `at_most` wide and tall.

    Raises:
        CannotReadError: its content is gone or damaged.
    """
    return _decoded(artwork.content, Path(artwork.name), at_most)


@lru_cache(maxsize=16)
def size_px(artwork: Artwork) -> tuple[int, int]:
    """Width and height of the picture as it is seen; (0, 0) where it cannot be read. Only its head is read."""
    from PIL import ExifTags, Image

    try:
        with Image.open(io.BytesIO(artwork.content)) as found:
            wide, tall = found.size
            is_turned = found.getexif().get(ExifTags.Base.Orientation, 1) >= 5
    except Exception:  # a damaged picture can break a decoder in any way
        return 0, 0
    return (tall, wide) if is_turned else (wide, tall)


def _decoded(content: bytes, path: Path, at_most: tuple[int, int] | None = None) -> Image.Image:
    from PIL import Image, ImageOps, UnidentifiedImageError

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow warns of what is refused or read all the same
            with Image.open(io.BytesIO(content), formats=_FORMATS) as found:
                wide, tall = found.size
                if wide * tall > MOST_PIXELS:
                    size = f"{wide} × {tall} pixels are more than the {MOST_PIXELS // 1_000_000} million that are read"
                    raise CannotReadError(path, f"{size}; scale it down first")
                if at_most is not None:
                    found.draft("RGB", at_most)
                found.load()
                smaller = _reduced(found, at_most) if at_most is not None else found
                ImageOps.exif_transpose(smaller, in_place=True)
                return _as_rgb(smaller)
    except UnidentifiedImageError as error:
        raise CannotReadError(path, _why_not(content)) from error
    except CannotReadError:
        raise
    except Image.DecompressionBombError as error:  # so many that Pillow does not even look at its size
        most = MOST_PIXELS // 1_000_000
        raise CannotReadError(path, f"it has far more than the {most} million pixels that are read") from error
    except Exception as error:  # a damaged picture can break a decoder in any way
        raise CannotReadError(path, "the picture is damaged or breaks off") from error


def _reduced(found: Image.Image, at_least: tuple[int, int]) -> Image.Image:
    """A large picture with several dots made one, before it is turned or gets other colours."""
    if found.mode in {"1", "P", "PA"} or ";" in found.mode:
        return found  # dots that name a colour have no mean; of some kinds of 16 bits Pillow makes none
    by = min(found.width // at_least[0], found.height // at_least[1], _MOST_REDUCED)
    return found.reduce(by) if by > 1 else found


def _as_rgb(found: Image.Image) -> Image.Image:
    """The picture in red, green and blue; in bands where it has more, so that few dots stand there twice."""
    from PIL import Image

    if found.mode.startswith(("I", "F")):  # 16 bits and more a dot: from black to white as far as the picture goes
        low, high = (float(str(part)) for part in found.convert("F").getextrema())
        scale = 255 / (high - low) if high > low else 0.0
        return found.convert("F").point(lambda value: (value - low) * scale).convert("L").convert("RGB")
    if found.mode in {"RGBA", "LA", "PA"} or "transparency" in found.info:
        made = Image.new("RGB", found.size, "white")
        for top in range(0, found.height, _BAND_PX):
            band = found.crop((0, top, found.width, min(found.height, top + _BAND_PX))).convert("RGBA")
            made.paste(band, (0, top), band)
        return made
    return found.convert("RGB")


def _why_not(content: bytes) -> str:
    """Why a file is not read as a picture, and what to do about it."""
    if re.search(rb"<svg[\s>]", content[:4096]):
        return "it is an SVG drawing; export it as PNG and take that"
    if content[4:12] in {b"ftypheic", b"ftypheix", b"ftypmif1", b"ftypheim", b"ftypavif"}:
        return "it is a HEIC or AVIF photo; save it as JPEG on the phone or in a picture viewer and take that"
    return f"it is not a picture of a kind that is read ({_KNOWN})"
