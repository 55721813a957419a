"""A picture file as a print: few colours, few dots, small enough to live in the job file."""

from __future__ import annotations

from pathlib import Path

from orvek.documents.steps import Print
from orvek.errors import CannotReadError

MOST_ALONG, MOST_AROUND, MOST_COLOURS = 128, 128, 16


def print_from(path: Path) -> Print:
    """Read a picture (PNG, JPEG, …), scaled down to at most 128 x 128 dots in 16 colours.

    The picture's width runs along the bar, its height round it.

    Raises:
        CannotReadError: there is no picture at this place.
    """
    from PIL import Image, UnidentifiedImageError

    try:
        with Image.open(path) as found:
            picture = found.convert("RGB")
    except UnidentifiedImageError as error:
        raise CannotReadError(path, "it is not a picture") from error
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise CannotReadError(path, str(error) or "it is damaged") from error
    picture.thumbnail((MOST_ALONG, MOST_AROUND), Image.Resampling.BOX)
    dots = picture.quantize(MOST_COLOURS, dither=Image.Dither.NONE)
    palette, (wide, tall), data = dots.getpalette() or [], dots.size, dots.tobytes()
    used = sorted(set(data))
    colours = tuple("#" + bytes(palette[3 * n : 3 * n + 3]).hex() for n in used)
    digit = {index: format(n, "x") for n, index in enumerate(used)}
    rows = tuple("".join(digit[index] for index in data[y * wide : (y + 1) * wide]) for y in range(tall))
    return Print(name=path.stem[:80] or "Picture", colours=colours, rows=rows)
