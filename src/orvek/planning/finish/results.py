"""What a finishing plan is made of."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft.abrasives import Rung
from orvek.documents import Barrel, CoatSchool, Sized
from orvek.planning.finish.press import ClipPlan
from orvek.planning.finish.voids import VoidsPlan
from orvek.planning.finish.wrap import WrapPlan
from orvek.planning.working import Figure

PLACES = ("left", "middle", "right")


class SizePlan(Struct, frozen=True):
    """What one barrel is turned to at its left end, its middle and its right end, before grits and coats."""

    number: int
    barrel: Barrel
    sized: Sized
    finished_mm: tuple[Figure, Figure, Figure]  # by the measured part, else as the pen says
    tool_mm: tuple[Figure, Figure, Figure]
    now_mm: tuple[float | None, float | None, float | None]
    along: tuple[tuple[float, Figure], ...]  # at the outline's points: mm from the left end, what to turn to
    dummy_mm: Figure

    @property
    def still_mm(self) -> tuple[float | None, float | None, float | None]:
        """What is still to come off the diameter at each place; below 0: too much is gone."""
        left, middle, right = (
            None if now is None else now - tool.value for now, tool in zip(self.now_mm, self.tool_mm, strict=True)
        )
        return left, middle, right


class FinishPlan(Struct, frozen=True):
    """What follows for turning to size, sanding, coats and the press."""

    sizes: tuple[SizePlan, ...]
    school: CoatSchool
    bare: tuple[Rung, ...]
    level: tuple[Rung, ...]
    sanded_mm: Figure
    coats_mm: Figure
    levelled_mm: Figure
    through_middle_pct: Figure
    through_ends_pct: Figure
    coats_wanted: int | None  # for one in a hundred in the middle, of the mean coat; None where none are put on
    drop_um: Figure | None  # what a drop of the bottle leaves, where drops are counted
    sanding_min: Figure
    lathe: tuple[str, ...]  # tool and speeds
    clip: ClipPlan | None
    voids: VoidsPlan | None
    wrap: WrapPlan | None
    is_hybrid: bool  # wood beside resin: the wood is sealed first
    unknown: tuple[str, ...]  # grits that are named and are not in the drawer

    @property
    def levelling(self) -> tuple[Rung, ...]:
        """What makes the coats flat: the first of the ladder over them; nothing without coats."""
        return self.level[:1] if self.coats_mm.value else ()

    @property
    def polishing(self) -> tuple[Rung, ...]:
        """What brings the shine, after that."""
        return self.level[len(self.levelling) :]
