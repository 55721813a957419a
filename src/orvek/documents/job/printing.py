"""A picture file as a print: few colours, few dots, small enough to live in the job file."""

from __future__ import annotations

import io
import re
import warnings
from pathlib import Path
from typing import TYPE_CHECKING

from orvek.documents.base import one_line
from orvek.documents.steps import Print
from orvek.errors import CannotReadError
from orvek.files import read_bytes

if TYPE_CHECKING:
    from PIL import Image

MOST_ALONG, MOST_AROUND, MOST_COLOURS = 128, 128, 16
MOST_BYTES, MOST_PIXELS = 64 * 1024 * 1024, 50_000_000
# Only what Pillow reads by itself: no format for which it would start another program.
_FORMATS = ("PNG", "JPEG", "WEBP", "GIF", "BMP", "TIFF")
_KNOWN = "PNG, JPEG, WebP, GIF, BMP and TIFF"


def picture_from(path: Path) -> Image.Image:
    """Read a picture file as RGB, upright, its transparent parts white.

    Of an animation the first picture is taken. Size and kind are looked at before anything is decoded.

    Raises:
        CannotReadError: it is missing, too large, damaged, or of a kind that is not read; the sentence says which.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError

    content = read_bytes(path, MOST_BYTES)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow warns of what is refused or read all the same
            with Image.open(io.BytesIO(content), formats=_FORMATS) as found:
                wide, tall = found.size
                if wide * tall > MOST_PIXELS:
                    size = f"{wide} × {tall} pixels are more than the {MOST_PIXELS // 1_000_000} million that are read"
                    raise CannotReadError(path, f"{size}; scale it down first")
                found.draft("RGB", (8 * MOST_ALONG, 8 * MOST_AROUND))
                return _as_rgb(ImageOps.exif_transpose(found))
    except UnidentifiedImageError as error:
        raise CannotReadError(path, _why_not(content)) from error
    except CannotReadError:
        raise
    except Exception as error:  # a damaged picture can break a decoder in any way
        raise CannotReadError(path, "the picture is damaged or breaks off") from error


def print_from(path: Path) -> Print:
    """Read a picture, scaled down to at most 128 x 128 dots in 16 colours.

    The picture's width runs along the bar, its height round it.

    Raises:
        CannotReadError: as `picture_from`.
    """
    from PIL import Image

    picture = picture_from(path)
    picture.thumbnail((MOST_ALONG, MOST_AROUND), Image.Resampling.BOX)
    dots = picture.quantize(MOST_COLOURS, dither=Image.Dither.NONE)
    palette, (wide, tall), data = dots.getpalette() or [], dots.size, dots.tobytes()
    used = sorted(set(data))
    colours = tuple("#" + bytes(palette[3 * n : 3 * n + 3]).hex() for n in used)
    digit = {index: format(n, "x") for n, index in enumerate(used)}
    rows = tuple("".join(digit[index] for index in data[y * wide : (y + 1) * wide]) for y in range(tall))
    return Print(name=str(one_line(path.stem))[:80].strip() or "Picture", colours=colours, rows=rows)


def _as_rgb(found: Image.Image) -> Image.Image:
    from PIL import Image

    if found.mode.startswith(("I", "F")):  # 16 bits and more a dot: from black to white as far as the picture goes
        low, high = (float(str(part)) for part in found.convert("F").getextrema())
        scale = 255 / (high - low) if high > low else 0.0
        return found.convert("F").point(lambda value: (value - low) * scale).convert("L").convert("RGB")
    if found.mode in {"RGBA", "LA", "PA"} or "transparency" in found.info:
        ground = Image.new("RGBA", found.size, "white")
        ground.alpha_composite(found.convert("RGBA"))
        return ground.convert("RGB")
    return found.convert("RGB")


def _why_not(content: bytes) -> str:
    """Why a file is not read as a picture, and what to do about it."""
    if re.search(rb"<svg[\s>]", content[:4096]):
        return "it is an SVG drawing; export it as PNG and take that"
    if content[4:12] in {b"ftypheic", b"ftypheix", b"ftypmif1", b"ftypheim", b"ftypavif"}:
        return "it is a HEIC or AVIF photo; save it as JPEG on the phone or in a picture viewer and take that"
    return f"it is not a picture of a kind that is read ({_KNOWN})"
