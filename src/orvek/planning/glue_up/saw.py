"""What a cut list is made of: stock, cuts with their settings, glue-ups; and the geometry of a stop.

Faces of a square bar are called A (azimuth 0°), B (90°), C (180°) and D (270°).
"""

from __future__ import annotations

import math
from typing import Literal

from msgspec import Struct
from msgspec.structs import replace

from orvek.craft.segmenting import Chevron, chevron_width_mm
from orvek.documents import Glue, Machine
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension, Units, decimal, write

_BOARD_MM = 600.0  # a usual length of board, to say how many slices it gives


class Stock(Struct, frozen=True):
    """Pieces to begin with: their grain runs along their length; `step` is the one that takes them."""

    name: str
    material: str
    length_mm: float
    width_mm: float
    thickness_mm: float
    count: int
    step: int = 0

    @property
    def volume_ml(self) -> float:
        """Of all of them."""
        return self.length_mm * self.width_mm * self.thickness_mm * self.count / 1000


class SawCut(Struct, frozen=True):
    """One cut, or several alike.

    Attributes:
        step: which step of the list it belongs to.
        angle_deg: of the cut to the bar's axis; 90 is straight across, 0 along it.
        set_deg: what is set at the saw, from square.
        set_by: "mitre", "tilt" or "" where nothing is turned.
        stop_mm: from the stop, at the left end, along the face against the fence to the near side of the kerf.
        fence_mm: between fence and blade, for a cut along the bar. Neither where nothing is sawn but turned.
        nearest_deg, nearest_stop_mm: what this machine's scales can be set to.
        cost_mm: what that rounding moves the line on the finished barrel.
        held_mm: the shortest piece that has to be held.
        depth_mm: how deep the saw goes, where a tab is left.
        marks_mm: where a cut that leaves a tab enters and where it ends, from the left end along the bar.
        radius_mm, off_mm: of an arc, of the middle of its kerf, and how far its centre lies from the axis.
        then: what the hands do with what was sawn.
        end: which end of the bar is at the stop.
        is_squaring: whether it only saws longer stock square to the length that what follows is reckoned with.
        is_to_length: whether it saws the finished bar into the barrels' pieces, before they are bored.
    """

    step: int
    title: str
    angle_deg: float
    azimuth_deg: float
    centre_mm: float
    kerf_mm: float
    set_deg: float
    set_by: str
    stop_mm: float | None
    fence_mm: float | None
    nearest_deg: float
    nearest_stop_mm: float | None
    cost_mm: float
    face_down: str
    face_fence: str
    keep: str
    held_mm: float
    length_mm: float
    across_mm: float
    count: int = 1
    depth_mm: float | None = None
    radius_mm: float | None = None
    off_mm: float | None = None
    marks_mm: tuple[float, float] | None = None
    then: str = ""
    is_to_length: bool = False
    is_squaring: bool = False
    end: Literal["left", "right"] = "left"


class GlueJoint(Struct, frozen=True):
    """One glue-up: what is joined, how many joints have to close while the glue is open, and how long it then rests."""

    step: int
    what: str
    joints: int
    face_down: str
    needed_min: float
    open_min: float
    rest_min: float
    then: str
    has_metal: bool


class CutPlan(Struct, frozen=True):
    """Everything from boards to bar."""

    machine: Machine
    glue: Glue
    stock: tuple[Stock, ...]
    cuts: tuple[SawCut, ...]
    joints: tuple[GlueJoint, ...]
    bar_ml: float
    bars: int = 1  # the stock is for all of them, the cuts are those of one

    @property
    def yield_pct(self) -> float:
        """Share of the stock that ends in the bar."""
        total = sum(stock.volume_ml for stock in self.stock)
        return 100 * self.bar_ml / total if total > 0 else 0.0


def face_of(azimuth_deg: float) -> str:
    """The letter of the face at an azimuth, or the angle where it is no face."""
    turn = azimuth_deg % 360
    return (
        "ABCD"[round(turn / 90) % 4] if abs(turn / 90 - round(turn / 90)) < 1e-6 else f"{decimal(turn)}° in a V-block"
    )


def added_up(stock: tuple[Stock, ...]) -> tuple[Stock, ...]:
    """Pieces that are alike counted together, in the order of their first."""
    found: dict[tuple[object, ...], Stock] = {}
    for one in stock:
        key = (one.material, one.length_mm, one.width_mm, one.thickness_mm, one.name)
        found[key] = replace(one, count=one.count + found[key].count) if key in found else one
    return tuple(found.values())


def tab_words(cut: SawCut, units: Units | None) -> str:
    """How a cut that leaves a tab is sawn: where it enters, and the mark it stops at."""
    if cut.depth_mm is None or cut.marks_mm is None:
        return ""
    enter, end = (write(mark, Dimension.LENGTH, units) for mark in cut.marks_mm)
    deep = write(cut.depth_mm, Dimension.LENGTH, units)
    return f"{deep} deep, from the mark at {enter} to the mark at {end}; stop there, do not saw through"


def to_mark(value: float, step: float) -> float:
    """The nearest mark of a scale."""
    return round(round(value / step) * step, 4)


def row_words(cut: SawCut, units: Units | None) -> str:
    """One row of the cut list in words, after its title: settings, faces, what is kept and what follows."""
    return "; ".join(part for part in (setting_words(cut, units), under_words(cut, units)) if part)


def under_words(cut: SawCut, units: Units | None) -> str:
    """What stands under a row's settings: its faces where there is a fence, what is kept, what follows."""
    is_sawn = cut.stop_mm is not None or cut.fence_mm is not None
    faces = f"face {cut.face_down} down, face {cut.face_fence} at the fence" if is_sawn else ""
    return "; ".join(part for part in (faces, after_words(cut, units)) if part)


def setting_words(cut: SawCut, units: Units | None) -> str:
    """What is set before a cut: the stop or the fence, and the angle; of an arc, where its centre lies."""
    if cut.radius_mm is not None and cut.off_mm is not None:
        radius, along, off = (write(v, Dimension.LENGTH, units) for v in (cut.radius_mm, cut.centre_mm, cut.off_mm))
        return f"radius {radius}, centre {along} along, {off} off"
    along_mm = cut.stop_mm if cut.stop_mm is not None else cut.fence_mm
    if along_mm is None:
        return ""
    along = f"{'fence' if cut.stop_mm is None else 'stop'} {write(along_mm, Dimension.LENGTH, units)}"
    if not cut.set_deg:
        return f"{along} · square"
    return f"{along} · {cut.set_by} {write(cut.set_deg, Dimension.ANGLE, units, 2 if cut.set_by == 'tilt' else 1)}"


def after_words(cut: SawCut, units: Units | None) -> str:
    """What is kept of a cut, how its tab is left, and what is done with the pieces, in one line."""
    parts = (f"keep {cut.keep}" if cut.keep else "", tab_words(cut, units), cut.then)
    return "; ".join(part for part in parts if part)


def stop_for(centre_mm: float, angle_deg: float, across_mm: float, kerf_mm: float) -> float:
    """Along the fence face (opposite the cut's azimuth), from the left end to the near side of the kerf.

    The plane meets the axis at z0 and the fence face, half the width beyond it, at z0 + w/2·cot a; the kerf is centred.
    """
    angle = math.radians(angle_deg)
    return centre_mm + across_mm / 2 / math.tan(angle) - kerf_mm / 2 / math.sin(angle)


def centre_for(stop_mm: float, angle_deg: float, across_mm: float, kerf_mm: float) -> float:
    """The inverse of `stop_for`: where a cut that is set so meets the axis."""
    angle = math.radians(angle_deg)
    return stop_mm - across_mm / 2 / math.tan(angle) + kerf_mm / 2 / math.sin(angle)


def cut_figures(cut: SawCut) -> tuple[Figure, ...]:
    """The two numbers that are set, with their working: stop or fence, and the angle from square.

    Of an arc, where its centre lies and its radius; nothing of what is not sawn.
    """
    mm, deg = Dimension.LENGTH, Dimension.ANGLE
    angle = Term("a", "the cut to the axis", cut.angle_deg, deg)
    turned = Figure("Set from square", cut.set_deg, deg, "90° − a", (angle,), "the saw's scale counts from square")
    if cut.set_by == "tilt":
        source = "sin bevel = cos slope · sin(180° / n), checked in three dimensions"
        turned = Figure("Tilt", cut.set_deg, deg, "bevel of a stave", (), source, 2)
    if cut.radius_mm is not None:
        words = "from the left end to the arc's centre; it lies beyond the face that is away from the fence"
        off = Figure("Off axis", cut.off_mm or 0.0, mm, "as drawn", (), "measured across the bar")
        along = Figure("Centre at", cut.centre_mm, mm, "as drawn", (), words)
        return along, off, Figure("Radius", cut.radius_mm, mm, "as drawn", (), "of the middle of the kerf")
    if cut.stop_mm is None and cut.fence_mm is None:
        return ()
    if cut.stop_mm is None:
        fence = Figure("Fence", cut.fence_mm or 0.0, mm, "from the fence to the blade", (), "the width that stays")
        return fence, turned
    terms = (
        Term("z₀", "where the cut meets the axis", cut.centre_mm, mm),
        Term("w", "width of the bar", cut.across_mm, mm),
        angle,
        Term("k", "kerf", cut.kerf_mm, mm),
    )
    formula = "stop = z₀ + w / 2 · cot a − k / (2 · sin a)" if cut.set_by == "mitre" else "the length of the piece"
    source = "derived: along the face at the fence, to the near side of the kerf"
    return Figure("Stop", cut.stop_mm, mm, formula, terms, source), turned


def panel_figures(bar_mm: float, across_mm: float, angle_deg: float) -> tuple[Figure, Figure]:
    """The least panel of strips that a bar at an angle to them comes out of: along the strips, and across them."""
    angle, mm = math.radians(angle_deg), Dimension.LENGTH
    terms = (
        Term("L", "the bar", bar_mm, mm),
        Term("w", "bar width", across_mm, mm),
        Term("a", "strips against the axis", angle_deg, Dimension.ANGLE),
    )
    source = "derived: the bar as a rectangle turned in the panel"
    along, over = math.cos(angle), math.sin(angle)
    return (
        Figure(
            "Least panel, along the strips",
            bar_mm * along + across_mm * over,
            mm,
            "L · cos a + w · sin a",
            terms,
            source,
        ),
        Figure("… and across them", bar_mm * over + across_mm * along, mm, "L · sin a + w · cos a", terms, source),
    )


def chevron_figures(bar_mm: float, slice_mm: float, angle_deg: float, strips_mm: float) -> tuple[Figure, ...]:
    """V's from a board of strips: slices sawn at an angle, every other one flipped and glued beside its neighbour.

    How wide the board must be for slices as long as the bar, how far one V is from the next, and the V's angle.
    """
    mm, deg, count = Dimension.LENGTH, Dimension.ANGLE, Dimension.COUNT
    wide = chevron_width_mm(bar_mm, angle_deg, slice_mm)
    board = Chevron(_BOARD_MM, wide, angle_deg, slice_mm, 0.0)
    bar, slice_ = Term("L", "the bar", bar_mm, mm), Term("s", "width of a slice", slice_mm, mm)
    angle, pitch = (
        Term("a", "slices against the strips", angle_deg, deg),
        Term("p", "one repeat of strips", strips_mm, mm),
    )
    source = "derived; unequal strips or dressed edges break the V's: keep them within 0.1 mm"
    return (
        Figure("Board of strips, at least wide", wide, mm, "(L + s · cot a) · sin a", (bar, slice_, angle), source),
        Figure("One V from the next", board.axial_pitch_mm(strips_mm), mm, "p / sin a", (pitch, angle), source),
        Figure(
            "Slices from 600 mm of it", board.slices, count, "⌊(L − W · cot a) · sin a / s⌋", (slice_, angle), source
        ),
    )
