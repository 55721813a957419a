"""Photos of a bar, laid flat: each face as it would be seen from straight above, in its own colours.

`face_of` is the face for the eye, `seen` the same for the field: few enough colours, each in the shades in which what
lies further inside is drawn, because nobody has seen it.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from orvek.documents import Artwork, PhotoStep, PhotoView
from orvek.documents.job.printing import picture_of, size_px
from orvek.errors import CannotReadError
from orvek.workpiece.eye import colour_name, lab
from orvek.workpiece.photo_light import gains, levelled
from orvek.workpiece.rectifying import carried, flattening, proportion_span, seen_proportion

Pixels = NDArray[np.uint8]
MOST_ALONG_PX = 1024  # of a face in the field; more than a screen shows of a bar
SHADES = 4
_LIGHT_PX_PER_MM = 2.0  # as finely as light is compared
_COLOURS, _GROUPS = 56, 6  # colours times shades leave the field room for what is inlaid
_FADES_TO = np.array([237.0, 234.0, 227.0])  # paper
_FADE = 0.36  # how much of the paper is in what lies deepest
_TOLD_APART = 14.0  # CIE76; colours nearer than this are one at arm's length (a choice)
_DECODED_PX = 2000  # a photo is not decoded finer: fifteen dots a millimetre on a bar of 130 mm


class Seen(Struct, frozen=True, eq=False):
    """Photos as the field has them.

    Attributes:
        colours: "#rrggbb" of each ink; the inks of one shade stand together, the surface first.
        names: what the eye would call each ink of a shade; inks of one name are one colour of the bar.
        dots: each face's inks, (rows, columns) uint8 in 0 to len(names) - 1, in the order of the step's views.
    """

    colours: tuple[str, ...]
    names: tuple[str, ...]
    dots: tuple[NDArray[np.uint8], ...]


@lru_cache(maxsize=12)
def upright(artwork: Artwork) -> Pixels | None:
    """A photo as it is seen, at most 2,000 pixels wide or tall; None where it cannot be read."""
    sides = size_px(artwork)
    # A JPEG is decoded at a half or a quarter where its shorter side is then still as long as it will be.
    least = round(_DECODED_PX * min(sides) / max(1, *sides))
    try:
        picture = picture_of(artwork, (least, least))
    except CannotReadError:
        return None
    picture.thumbnail((_DECODED_PX, _DECODED_PX))
    found = np.asarray(picture, dtype=np.uint8)
    found.setflags(write=False)
    return found


@lru_cache(maxsize=48)
def face_of(view: PhotoView, length_mm: float, width_mm: float, px_per_mm: float) -> Pixels | None:
    """The face from straight above: rows across, columns along the bar; None where the photo cannot be read."""
    picture = upright(view.artwork)
    if picture is None:
        return None
    found = flat_picture(picture, view.corners, (length_mm, width_mm), px_per_mm)
    balanced = white_balanced(found, view.white)
    balanced.setflags(write=False)
    return balanced


def flat_picture(
    picture: Pixels,
    corners: tuple[tuple[float, float], ...],
    size_mm: tuple[float, float],
    px_per_mm: float,
) -> Pixels:
    """What lies between four corners of a picture, laid flat: `corners` are parts of its width and height."""
    import cv2

    tall, wide = picture.shape[:2]
    columns, rows = (max(1, round(mm * px_per_mm)) for mm in size_mm)
    at = np.array(corners, dtype=float) * (wide, tall)
    to_mm = flattening(at, *size_mm)
    to_px = np.diag([columns / size_mm[0], rows / size_mm[1], 1.0]) @ to_mm
    # Pixels of OpenCV have whole numbers in their middles, ours at their corners.
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    matrix = np.linalg.inv(half) @ to_px @ half
    shrinks = math.hypot(*(at[1] - at[0])) / columns > 1.5
    flags = cv2.INTER_AREA if shrinks else cv2.INTER_LINEAR
    made = cv2.warpPerspective(picture, matrix, (columns, rows), flags=flags, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(made, dtype=np.uint8)


@lru_cache(maxsize=16)
def light_gains(step: PhotoStep) -> tuple[float, ...]:
    """For each photo of a bar, times as much light as it has, so that all are in one light."""
    faces = [face_of(v, step.length_mm, step.across_mm(v.azimuth_deg), _LIGHT_PX_PER_MM) for v in step.views]
    return gains(step, faces)


def let_go() -> None:
    """Let go of whole photos and faces: a few hundred megabytes, wanted only while somebody looks at them."""
    upright.cache_clear()
    face_of.cache_clear()


def white_balanced(picture: Pixels, white: str | None) -> Pixels:
    """The picture with what was grey or white on it made so: each channel scaled, the patch as bright as it was."""
    if white is None:
        return picture.copy()
    patch = np.array([int(white[n : n + 2], 16) for n in (1, 3, 5)], dtype=float)
    gain = np.clip(patch.mean() / np.maximum(patch, 8.0), 0.5, 2.0)
    made: Pixels = np.clip(picture * gain, 0, 255).astype(np.uint8)
    return made


@lru_cache(maxsize=8)
def seen(step: PhotoStep) -> Seen | None:
    """The photos of a bar in few colours, brought to one light; None without a photo that can be read."""
    from PIL import Image

    per_mm = min(8.0, MOST_ALONG_PX / step.length_mm)
    faces = []
    for view, gain in zip(step.views, light_gains(step), strict=True):
        face = face_of(view, step.length_mm, step.across_mm(view.azimuth_deg), per_mm)
        faces.append(levelled(face, gain) if face is not None else np.zeros((1, 1, 3), np.uint8))
    if not faces or all(face.shape == (1, 1, 3) for face in faces):
        return None
    dots = np.concatenate([face.reshape(-1, 3) for face in faces])
    strip = Image.fromarray(dots[None])
    indexed = strip.quantize(_COLOURS, method=Image.Quantize.FASTOCTREE, dither=Image.Dither.NONE)
    palette = np.array(indexed.getpalette() or [], dtype=float).reshape(-1, 3)
    places = np.frombuffer(indexed.tobytes(), dtype=np.uint8)
    used, place = np.unique(places, return_inverse=True)
    inks = palette[used]
    names = named_groups(inks, np.bincount(place))
    shades = [inks + (_FADES_TO - inks) * _FADE * shade / (SHADES - 1) for shade in range(SHADES)]
    colours = tuple("#" + bytes(np.rint(ink).astype(np.uint8)).hex() for shade in shades for ink in shade)
    ends = np.cumsum([face.shape[0] * face.shape[1] for face in faces])[:-1]
    parts = np.split(place.astype(np.uint8), ends)
    made = tuple(part.reshape(face.shape[:2]) for part, face in zip(parts, faces, strict=True))
    for one in made:
        one.setflags(write=False)
    return Seen(colours, names, made)


def named_groups(inks: NDArray[np.float64], counts: NDArray[np.int64]) -> tuple[str, ...]:
    """Colours sorted into at most six groups that the eye tells apart, and each named by its group's middle.

    Nearest groups are joined until few are left and no two are closer than what is told apart at a glance.
    """
    groups = [[n] for n in range(len(inks))]
    middles = [lab(ink) for ink in inks]
    weights = [float(max(1, count)) for count in counts]
    while len(groups) > 1:
        near = np.array(middles)
        apart = np.linalg.norm(near[:, None] - near[None], axis=2)
        # Small groups are joined sooner than large ones.
        share = np.sqrt(np.array(weights) / sum(weights))
        cost = apart * np.minimum(share[:, None], share[None]) ** 0.5
        np.fill_diagonal(cost, np.inf)
        a, b = (int(n) for n in np.unravel_index(int(cost.argmin()), cost.shape))
        if len(groups) <= _GROUPS and apart[a, b] > _TOLD_APART:
            break
        both = weights[a] + weights[b]
        middles[a] = (middles[a] * weights[a] + middles[b] * weights[b]) / both
        weights[a] = both
        groups[a] += groups[b]
        del groups[b], middles[b], weights[b]
    names: list[str] = [""] * len(inks)
    taken: set[str] = set()
    for order in np.argsort(weights)[::-1]:
        called = base = colour_name(middles[order])
        number = 1
        while called in taken:
            number += 1
            called = f"{base} {number}"
        taken.add(called)
        for n in groups[order]:
            names[n] = called
    return tuple(names)


def corners_px(view: PhotoView) -> tuple[NDArray[np.float64], tuple[int, int]]:
    """The corners in pixels, (4, 2), and the picture's width and height; (0, 0) where it cannot be read."""
    size = size_px(view.artwork)
    return np.array(view.corners, dtype=float) * size, size


@lru_cache(maxsize=64)
def proportion(view: PhotoView) -> tuple[float, float] | None:
    """Between what the face's length over its width lies by the photo; None for a photo that cannot be read."""
    corners, size = corners_px(view)
    return proportion_span(corners, size) if size != (0, 0) else None


def sized_by_ruler(
    view: PhotoView, ends: tuple[tuple[float, float], tuple[float, float]], between_mm: float, usual: float
) -> tuple[float, float] | None:
    """Length and width of a face from a ruler that lies beside it, in its plane.

    Args:
        view: the face with its corners.
        ends: two places on the ruler, as parts of the picture's width and height.
        between_mm: how far they are apart on the ruler.
        usual: length over width, where the photo does not tell it.

    Returns:
        Both in mm; None where both places are one.
    """
    corners, size = corners_px(view)
    if size == (0, 0):
        return None
    shape = seen_proportion(corners, size) or usual
    flat = carried(flattening(corners, shape, 1.0), np.array(ends) * size)
    apart = float(np.hypot(*(flat[1] - flat[0])))
    return None if apart < 1e-6 else (shape * between_mm / apart, between_mm / apart)
