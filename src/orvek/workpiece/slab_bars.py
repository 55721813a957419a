"""What each bar of a slab looks like: its part of the slab's photos, marks and all, or its way out of a casting."""

from __future__ import annotations

from orvek.documents import FACES, Corners, Crack, PhotoStep, PhotoView, ReorientStep
from orvek.documents.deeds.photos import add_spot, square_onto
from orvek.documents.photo import Mark
from orvek.workpiece.slab import Slab, SlabBar

_BAD = ("must not show", "light comes through")


def slab_of(album: PhotoStep) -> Slab:
    """A slab from above, face A up, with what is marked on that face as bad places."""
    across = album.across_mm(FACES["A"])
    bad = tuple(_spot(mark, across) for mark in album.marks if _is_bad(mark))
    cracks = tuple((*crack.begin_mm, *crack.end_mm, crack.width_mm) for crack in album.cracks)
    return Slab(album.length_mm, across, bad, cracks, album.outline)


def marked(album: PhotoStep, slab: Slab) -> PhotoStep:
    """An album with the edge, the bad places and the cracks of its slab; a mark that was there stays as it was.

    Raises:
        BadFieldError: the outline crosses itself, or there are too many of them.
    """
    across = album.across_mm(FACES["A"])
    marks = tuple(mark for mark in album.marks if not _is_bad(mark) or _spot(mark, across) in slab.bad)
    known = {_spot(mark, across) for mark in marks}
    cracks = tuple(Crack(begin_mm=(x0, y0), end_mm=(x1, y1), width_mm=width) for x0, y0, x1, y1, width in slab.cracks)
    after = album.with_(outline=slab.outline, cracks=cracks, marks=marks)
    for spot in slab.bad:
        if spot not in known:
            after = add_spot(after, *spot)
    return after


def bar_album(album: PhotoStep, bar: SlabBar) -> PhotoStep:
    """A bar as its part of the slab's photos shows it: from above, and from below where that was photographed.

    Its sides lie inside the slab: nobody has seen them. A bar is as deep as the slab.
    """
    across = album.across_mm(FACES["A"])
    places = [(float(x) / album.length_mm, float(y) / across) for x, y in bar.corners()]
    views = []
    for view in album.views:
        if view.azimuth_deg == FACES["A"]:
            views.append(_part(view, places))
        elif view.azimuth_deg == FACES["C"]:
            # Rolled over, the bar's lower edge lies above, and so does the slab's.
            views.append(_part(view, [(u, 1 - v) for u, v in (places[3], places[2], places[1], places[0])]))
    marks = tuple(mark for mark in (_carried(mark, album, bar) for mark in album.marks) if mark is not None)
    return PhotoStep(
        length_mm=max(10.0, round(bar.length_mm, 2)),
        width_mm=max(3.0, round(bar.width_mm, 2)),
        depth_mm=album.depth_mm,
        made_of=album.made_of,
        views=tuple(views),
        marks=marks,
    )


def way_out(casting: Slab, bar: SlabBar) -> ReorientStep:
    """The step that takes a bar out of a casting where it lies on it; the casting's middle is the figure's.

    A bar that lies end for end is the same one turned half round: angles come back between -90 and 90 degrees.
    """
    angle = (bar.angle_deg + 90) % 180 - 90
    return ReorientStep(
        angle_deg=round(angle, 2),
        shift_mm=round(bar.x_mm - casting.length_mm / 2, 2),
        across_mm=round(casting.width_mm / 2 - bar.y_mm, 2),
    )


def _is_bad(mark: Mark) -> bool:
    return mark.kind in _BAD and mark.azimuth_deg == FACES["A"]


def _spot(mark: Mark, across_mm: float) -> tuple[float, float, float]:
    return round(mark.z_mm, 2), round(mark.across_mm + across_mm / 2, 2), mark.size_mm


def _part(view: PhotoView, places: list[tuple[float, float]]) -> PhotoView:
    at = square_onto(view.corners)
    a, b, c, d = (at(u, v) for u, v in places)
    corners: Corners = (a, b, c, d)
    return view.with_(corners=corners)


def _carried(mark: Mark, album: PhotoStep, bar: SlabBar) -> Mark | None:
    """A mark on the slab's upper face as it lies on a bar; None where it does not lie on it."""
    if mark.azimuth_deg != FACES["A"]:
        return None
    place = mark.z_mm, mark.across_mm + album.across_mm(FACES["A"]) / 2
    if not bar.holds(*place):
        return None
    along, across = bar.own(*place)
    return mark.with_(z_mm=round(along + bar.length_mm / 2, 2), across_mm=round(across, 2))
