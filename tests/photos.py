"""Photos of bars as a maker would take them: a known texture, tilted, unevenly lit, with noise, on a bench."""

from __future__ import annotations

import io
from functools import cache
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from orvek.documents import Artwork, Corners, PhotoView

Pixels = NDArray[np.uint8]
SIZE = (1200, 800)  # width and height of a photo, in pixels
# Upper left, upper right, lower right, lower left: held a little askew and not straight above.
ASKEW: Corners = ((0.11, 0.42), (0.93, 0.36), (0.95, 0.53), (0.09, 0.60))


def artwork_of(picture: Pixels, name: str = "Photo") -> Artwork:
    """A picture as the file a maker would choose."""
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "PNG")
    return Artwork(name=name, content=out.getvalue())


@cache
def view_of(azimuth_deg: float, seed: int) -> PhotoView:
    """A small photo of nothing in particular, the bar filling it."""
    rng = np.random.default_rng(seed)
    dots = rng.integers(0, 256, (6, 16, 3)).astype(np.uint8)
    return PhotoView(artwork=artwork_of(dots), azimuth_deg=azimuth_deg)


def photographed(
    texture: Pixels,
    corners: Corners = ASKEW,
    *,
    noise: float = 4.0,
    falloff: float = 0.08,
    cast: tuple[float, float, float] = (1.0, 1.0, 1.0),
    bench: tuple[int, int, int] = (176, 168, 156),
    shadow: float = 0.0,
    thrown: tuple[float, float] = (6.0, 18.0),
    blur_px: float = 0.0,
    seed: int = 1,
    whole: Pixels | None = None,
) -> Pixels:
    """A photo of a face with this texture lying on a bench, with the light falling off to one side.

    `shadow` is how much darker the bench is where the bar takes its light, `thrown` how many pixels the soft shadow
    lies off to the right and below. `whole` is 255 where the texture is there at all.
    """
    wide, tall = SIZE
    rows, columns, _ = texture.shape
    at = np.array(corners, dtype=np.float32) * np.float32((wide, tall)) - np.float32(0.5)
    face = np.array([(-0.5, -0.5), (columns - 0.5, -0.5), (columns - 0.5, rows - 0.5), (-0.5, rows - 0.5)], np.float32)
    matrix = cv2.getPerspectiveTransform(face, at)
    bar = cv2.warpPerspective(texture, matrix, SIZE, flags=cv2.INTER_AREA)
    full = np.full((rows, columns), 255, np.uint8) if whole is None else whole
    there = cv2.warpPerspective(full, matrix, SIZE, flags=cv2.INTER_LINEAR)
    part = there[..., None] / 255.0
    moved = cv2.warpAffine(there, np.float32([[1, 0, thrown[0]], [0, 1, thrown[1]]]), SIZE)  # type: ignore[arg-type]
    soft = cv2.GaussianBlur(np.maximum(moved, there), (0, 0), 9.0)[..., None] / 255.0
    picture = bar * part + np.array(bench, dtype=float) * (1 - shadow * soft) * (1 - part)
    light = 1 - falloff * np.linspace(0, 1, wide)[None, :, None]
    picture = picture * light * np.array(cast)
    if blur_px:
        picture = cv2.GaussianBlur(picture, (0, 0), blur_px)
    rng = np.random.default_rng(seed)
    picture += rng.normal(0, noise, picture.shape)
    made: Pixels = np.clip(picture, 0, 255).astype(np.uint8)
    return made


class Bench(NamedTuple):
    """A family of benches and their light: from how much to how much, and which kinds of bar lie there."""

    shadow: tuple[float, float]
    blur_px: tuple[float, float]
    falloff: tuple[float, float]
    colours: tuple[tuple[int, int, int], ...]
    is_dark: bool = False


BENCHES = {
    "shadow": Bench((0.0, 0.4), (0.0, 0.8), (0.05, 0.15), ((176, 168, 156), (200, 196, 190), (120, 118, 114))),
    "blur": Bench((0.0, 0.2), (0.8, 2.5), (0.05, 0.2), ((176, 168, 156), (226, 224, 218), (60, 60, 66))),
    "side": Bench((0.1, 0.4), (0.0, 1.0), (0.25, 0.5), ((176, 168, 156), (210, 205, 198), (130, 134, 140))),
    "dark": Bench((0.0, 0.4), (0.0, 1.0), (0.05, 0.25), ((128, 126, 122), (104, 104, 108), (120, 116, 110)), True),
}
_WOODS = ((150, 104, 66), (92, 60, 40), (60, 92, 120), (196, 170, 130), (120, 48, 40))
_AS_DARK = ((150, 106, 70), (86, 58, 40), (110, 84, 60), (140, 120, 84))


def grained(colour: NDArray[np.int64], rng: np.random.Generator) -> Pixels:
    """A face of 132 by 20 mm with wavy grain, ten dots a millimetre."""
    y, x = np.mgrid[0:200, 0:1320] / 10
    wave = np.sin(y * rng.uniform(0.8, 2) + 3 * np.sin(x / rng.uniform(10, 30)) + rng.uniform(0, 6))
    made: Pixels = np.clip(colour * (1 + 0.14 * wave[..., None]), 0, 255).astype(np.uint8)
    return made


def on_a_bench(name: str, seed: int, checked: Pixels) -> tuple[Corners, Pixels]:
    """A made-up photo of a family of benches, with the corners that are true; `checked` is the face of every other."""
    bench, rng = BENCHES[name], np.random.default_rng([list(BENCHES).index(name), seed])
    moved = rng.uniform(-0.025, 0.025, (4, 2))
    a, b, c, d = ((float(x + dx), float(y + dy)) for (x, y), (dx, dy) in zip(ASKEW, moved, strict=True))
    wood = rng.choice(np.array(_AS_DARK if bench.is_dark else _WOODS), axis=0)
    picture = photographed(
        grained(wood, rng) if bench.is_dark or seed % 2 else checked,
        (a, b, c, d),
        noise=float(rng.uniform(2, 6)),
        falloff=float(rng.uniform(*bench.falloff)),
        bench=bench.colours[seed % 3],
        shadow=float(rng.uniform(*bench.shadow)),
        thrown=(float(rng.uniform(-14, 14)), float(rng.uniform(6, 24) * rng.choice([-1, 1]))),
        blur_px=float(rng.uniform(*bench.blur_px)),
        seed=seed,
    )
    return (a, b, c, d), picture


SLAB_MM, SLAB_CORNERS = (320.0, 160.0), ((0.12, 0.16), (0.87, 0.13), (0.9, 0.84), (0.1, 0.87))


def slab_with_bark(seed: int) -> tuple[tuple[tuple[float, float], ...], Pixels]:
    """A slab of 320 by 160 mm with two natural edges and bark, and where its edge lies in mm; on one of the benches."""
    rng = np.random.default_rng([7, seed])
    bench = BENCHES[("shadow", "blur", "side")[seed % 3]]
    x = np.linspace(0, SLAB_MM[0], 65)
    waves = [
        rng.uniform(2, 5, 3) @ np.sin(np.outer(1 / rng.uniform(12, 60, 3), x) + rng.uniform(0, 6, (3, 1)))
        for _ in range(2)
    ]
    top, bottom = (wave - wave.min() + 1 for wave in waves)
    ends = np.concatenate([np.stack([x, top], 1), np.stack([x, SLAB_MM[1] - bottom], 1)[::-1]])
    whole = np.zeros((int(SLAB_MM[1] * 5), int(SLAB_MM[0] * 5)), np.uint8)
    cv2.fillPoly(whole, [np.round(ends * 5).astype(np.int32)], 255)
    deep = cv2.distanceTransform(whole, cv2.DIST_L2, 5)[..., None] / 5
    y, long = np.mgrid[0 : whole.shape[0], 0 : whole.shape[1]] / 5
    wave = np.sin(y * rng.uniform(0.4, 0.9) + 4 * np.sin(long / rng.uniform(30, 60)))[..., None]
    wood = rng.choice(np.array(_WOODS), axis=0) * (1 + 0.12 * wave)
    side = np.minimum(y - np.interp(long, x, top), np.interp(long, x, SLAB_MM[1] - bottom) - y)[..., None]
    texture = np.where((side < 4) & (deep < 6), np.array((70, 54, 44)), wood)
    picture = photographed(
        np.clip(texture, 0, 255).astype(np.uint8),
        SLAB_CORNERS,
        noise=float(rng.uniform(2, 6)),
        falloff=float(rng.uniform(*bench.falloff)),
        bench=bench.colours[seed % 3],
        shadow=float(rng.uniform(*bench.shadow)),
        thrown=(float(rng.uniform(-14, 14)), float(rng.uniform(6, 18))),
        blur_px=float(rng.uniform(*bench.blur_px)),
        seed=seed,
        whole=whole,
    )
    return tuple((float(a), float(b)) for a, b in ends), picture
