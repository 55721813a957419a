"""Square cuts that make no pattern: a long bar into blanks before they are worked, a finished one into its pieces."""

from __future__ import annotations

from msgspec.structs import replace

from orvek.craft.laying_out import Span
from orvek.documents import Machine
from orvek.planning.glue_up.saw import SawCut, to_mark
from orvek.planning.layout import Layout


def into_blanks(bar_mm: float, blanks: int, kerf_mm: float, machine: Machine, step: int, across_mm: float) -> SawCut:
    """A bar sawn into blanks of one length, each then worked by itself."""
    blank_mm = (bar_mm - (blanks - 1) * kerf_mm) / blanks
    cut = _square(Span(blank_mm, blank_mm + kerf_mm), bar_mm, bar_mm, machine, step, across_mm)
    return replace(cut, title="Saw the bar into blanks", keep="every blank, its left end marked", count=blanks - 1)


def to_its_length(before: SawCut, machine: Machine, across_mm: float) -> SawCut:
    """A bar of longer stock sawn to the length with which the first cut is reckoned whose place counts from an end."""
    bar_mm = before.length_mm
    end = Span(bar_mm, bar_mm + before.kerf_mm)
    cut = _square(end, bar_mm, bar_mm, machine, before.step, across_mm)
    return replace(
        cut,
        title="Square one end, then saw the bar to its length",
        cost_mm=0.0,  # no line lies there
        keep="the bar",
        then="mark its left end: that end is at the stop from now on",
        is_to_length=before.is_to_length,
        is_squaring=True,
    )


def into_pieces(layout: Layout, machine: Machine, step: int) -> list[SawCut]:
    """The finished bar sawn into the pieces of the barrels, so that no short piece has to be held.

    What lies before the first piece goes first, the bar turned end for end and held by its length; then piece after
    piece comes off the right end, and the stop keeps what is left.
    """
    across, kerfs = max(layout.width_mm, layout.depth_mm), sorted(layout.kerfs, key=lambda span: span.start_mm)
    first = min(place.piece.start_mm for place in layout.tubes)
    trims = bool(kerfs) and kerfs[0].end_mm <= first + 1e-6
    begins = kerfs[0].end_mm if trims else 0.0
    found = []
    if trims:
        far = layout.length_mm - begins
        trim = _square(Span(far, far + kerfs[0].length_mm), layout.length_mm, layout.length_mm, machine, step, across)
        words = "turn the bar back: from now on this end is at the stop"
        title = "Trim the left end, the bar turned end for end"
        found.append(replace(trim, title=title, keep="the long piece", then=words, is_to_length=True, end="right"))
    held = layout.length_mm - begins
    for kerf in reversed(kerfs[1:] if trims else kerfs):
        place = Span(kerf.start_mm - begins, kerf.end_mm - begins)
        cut = _square(place, held, layout.length_mm - begins, machine, step, across)
        words = "the piece, its barrel's name on it"
        found.append(replace(cut, title="Crosscut a barrel's end", keep=words, is_to_length=True))
        held = place.start_mm
    return found


def _square(kerf: Span, held_mm: float, long_mm: float, machine: Machine, step: int, across_mm: float) -> SawCut:
    """A cut square across whose kerf lies there, its near side at the stop."""
    nearest = to_mark(kerf.start_mm, machine.stop_step_mm)
    return SawCut(
        step=step,
        title="Crosscut",
        angle_deg=90.0,
        azimuth_deg=0.0,
        centre_mm=kerf.start_mm + kerf.length_mm / 2,
        kerf_mm=kerf.length_mm,
        set_deg=0.0,
        set_by="",
        stop_mm=kerf.start_mm,
        fence_mm=None,
        nearest_deg=0.0,
        nearest_stop_mm=nearest,
        cost_mm=abs(nearest - kerf.start_mm),
        face_down="D",
        face_fence="C",
        keep="",
        held_mm=held_mm,
        length_mm=long_mm,
        across_mm=across_mm,
    )
