"""What a maker does with the photos of a bar: each takes a `PhotoStep` and gives the one that follows."""

from collections.abc import Callable
from itertools import pairwise

from orvek.documents.artwork import Artwork
from orvek.documents.base import checked
from orvek.documents.deeds.tuples import replaced, without
from orvek.documents.photo import FACES, MOST_VIEWS, WHOLE, Corners, Mark, PhotoView
from orvek.documents.steps import PhotoStep
from orvek.errors import NothingToDoError


def add_photo(step: PhotoStep, artwork: Artwork, corners: Corners | None = None) -> PhotoStep:
    """One more face: the next of A to D that has no photo; of a round bar one more view, all evenly round it.

    Raises:
        NothingToDoError: each face has its photo, or there are as many views as a bar has room for.
    """
    if step.form == "round":
        if len(step.views) >= MOST_VIEWS:
            raise NothingToDoError("Another photo", f"room for it: {MOST_VIEWS} views go round a bar")
        new = PhotoView(artwork=artwork, corners=corners or WHOLE, azimuth_deg=359)
        return _evenly(step, (*step.views, new))
    taken = {view.azimuth_deg for view in step.views}
    free = next((at for at in FACES.values() if at not in taken), None)
    if free is None:
        raise NothingToDoError("Another photo", "a face without one; remove one first")
    new = PhotoView(artwork=artwork, corners=corners or WHOLE, azimuth_deg=free)
    return step.with_(views=tuple(sorted((*step.views, new), key=lambda view: view.order)))


def change_view(step: PhotoStep, index: int, **changes: object) -> PhotoStep:
    """A view with other corners, another white, another picture."""
    return step.with_(views=replaced(step.views, index, step.views[index].with_(**changes)))


def swap_face(step: PhotoStep, index: int, azimuth_deg: float) -> PhotoStep:
    """A photo is of another face; the photo that was there takes its place."""
    mine = step.views[index]
    other = [view.with_(azimuth_deg=mine.azimuth_deg) for view in step.views if view.azimuth_deg == azimuth_deg]
    kept = [view for view in step.views if view.azimuth_deg not in {azimuth_deg, mine.azimuth_deg}]
    views = (*kept, *other, mine.with_(azimuth_deg=azimuth_deg)) if mine.azimuth_deg != azimuth_deg else step.views
    return step.with_(views=tuple(sorted(views, key=lambda view: view.order)))


def turn_view(step: PhotoStep, index: int) -> PhotoStep:
    """The bar lay the other way round on this photo: its left end was on the right."""
    a, b, c, d = step.views[index].corners
    return change_view(step, index, corners=(c, d, a, b))


def remove_view(step: PhotoStep, index: int) -> PhotoStep:
    """One photo less."""
    left = without(step.views, index)
    return _evenly(step, left) if step.form == "round" else step.with_(views=left)


def set_form(step: PhotoStep, form: str) -> PhotoStep:
    """The bar is round, or it is not: its photos are of so many views evenly round it, or of the faces from A on."""
    changed = step.with_(form=form, views=())
    if form == "round":
        return _evenly(changed, step.views)
    views = tuple(view.with_(azimuth_deg=at) for at, view in zip(FACES.values(), step.views, strict=False))
    return changed.with_(views=views)


def put_light(step: PhotoStep, view: PhotoView, places: tuple[tuple[float, float, float], ...]) -> PhotoStep:
    """A photo of a face against the light, with what is bright on it marked in place of what was before."""
    kept = (mark for mark in step.marks if (mark.kind, mark.azimuth_deg) != ("light comes through", view.azimuth_deg))
    new = (
        Mark(
            name="Light",
            kind="light comes through",
            azimuth_deg=view.azimuth_deg,
            z_mm=round(z, 1),
            across_mm=round(across, 1),
            size_mm=max(0.2, round(size, 1)),
        )
        for z, across, size in places
    )
    others = (one for one in step.against_light if one.azimuth_deg != view.azimuth_deg)
    return step.with_(marks=(*kept, *new), against_light=(*others, view))


def add_mark(step: PhotoStep, mark: Mark) -> PhotoStep:
    """One more place marked."""
    return step.with_(marks=(*step.marks, mark))


def remove_mark(step: PhotoStep, index: int) -> PhotoStep:
    """One mark less."""
    return step.with_(marks=without(step.marks, index))


def stretch_of(step: PhotoStep, low_mm: float, high_mm: float) -> PhotoStep:
    """A part of a bar between two places of its length, with its part of every photo, mark, edge and crack."""
    low, high = low_mm / step.length_mm, high_mm / step.length_mm
    cut = {
        name: tuple(view.with_(corners=stretched(view.corners, low, high)) for view in getattr(step, name))
        for name in ("views", "against_light")
    }
    marks = (mark.with_(z_mm=round(mark.z_mm - low_mm, 2)) for mark in step.marks if low_mm <= mark.z_mm <= high_mm)
    outline = _sawn(_sawn(step.outline, low_mm, 1), high_mm, -1)
    cracks = (crack for crack in step.cracks if low_mm < max(crack.begin_mm[0], crack.end_mm[0]))
    kept = (crack for crack in cracks if min(crack.begin_mm[0], crack.end_mm[0]) < high_mm)
    return step.with_(
        length_mm=round(max(10.0, high_mm - low_mm), 2),
        marks=tuple(marks),
        outline=tuple((round(z - low_mm, 2), down) for z, down in outline),
        cracks=tuple(
            crack.with_(begin_mm=_moved(crack.begin_mm, -low_mm), end_mm=_moved(crack.end_mm, -low_mm))
            for crack in kept
        ),
        **cut,
    )


def stretched(corners: Corners, low: float, high: float) -> Corners:
    """Corners of the part of a face between two parts of its length."""
    at = square_onto(corners)
    return at(low, 0), at(high, 0), at(high, 1), at(low, 1)


def square_onto(corners: Corners) -> Callable[[float, float], tuple[float, float]]:
    """The map that carries parts of a face's length and width onto its photo: a projective one, as a camera's."""
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = corners
    dx1, dx2, sx = x1 - x2, x3 - x2, x0 - x1 + x2 - x3
    dy1, dy2, sy = y1 - y2, y3 - y2, y0 - y1 + y2 - y3
    down = dx1 * dy2 - dx2 * dy1
    g, h = (sx * dy2 - dx2 * sy) / down, (dx1 * sy - sx * dy1) / down
    a, b, d, e = x1 - x0 + g * x1, x3 - x0 + h * x3, y1 - y0 + g * y1, y3 - y0 + h * y3

    def at(u: float, v: float) -> tuple[float, float]:
        w = g * u + h * v + 1
        return (a * u + b * v + x0) / w, (d * u + e * v + y0) / w

    return at


def add_spot(step: PhotoStep, z_mm: float, down_mm: float, size_mm: float) -> PhotoStep:
    """A round place of a slab's upper face, such as a knot or a hole, that no bar may lie on."""
    across_mm = down_mm - step.across_mm(FACES["A"]) / 2
    place = {"z_mm": round(z_mm, 2), "across_mm": round(across_mm, 2), "size_mm": round(max(1.0, size_mm), 2)}
    return add_mark(step, checked(Mark, {"name": "Spot", "kind": "must not show", "azimuth_deg": FACES["A"]} | place))


def _moved(place: tuple[float, float], by_mm: float) -> tuple[float, float]:
    return round(place[0] + by_mm, 2), place[1]


def _sawn(outline: tuple[tuple[float, float], ...], at_mm: float, side: int) -> tuple[tuple[float, float], ...]:
    """What of an outline lies right (1) or left (-1) of a cut across it."""
    kept: list[tuple[float, float]] = []
    for (z0, y0), (z1, y1) in pairwise((*outline, *outline[:1])):
        if side * (z0 - at_mm) >= 0:
            kept.append((z0, y0))
        if (z0 - at_mm) * (z1 - at_mm) < 0:
            kept.append((at_mm, round(y0 + (at_mm - z0) / (z1 - z0) * (y1 - y0), 2)))
    return tuple(kept) if len(kept) > 2 else ()


def _evenly(step: PhotoStep, views: tuple[PhotoView, ...]) -> PhotoStep:
    turn = 360.0 / max(1, len(views))
    return step.with_(views=tuple(view.with_(azimuth_deg=round(turn * n, 1)) for n, view in enumerate(views)))
