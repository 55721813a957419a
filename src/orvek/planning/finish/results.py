"""What a finishing plan is made of."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft.abrasives import Rung
from orvek.craft.filling import LEVELS, Fill
from orvek.craft.truing import Fault
from orvek.craft.wrapping import Development
from orvek.documents import Barrel, CoatSchool, EndWork, Sized, Truing, Void, WrapStep
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


class TrueEnd(Struct, frozen=True):
    """One end of a barrel as it is held.

    Attributes:
        name: "left" or "right".
        off: how far its middle lies off the axis; None while it is not read.
        oval: how far it is off round.
        holding, barrel: their shares as vectors in mm; None while the barrel was not turned half round.
        direction_deg: where the high side lies, from the mark.
    """

    name: str
    off: Figure | None
    oval: Figure | None
    holding: complex | None
    barrel: complex | None
    direction_deg: float = 0.0


class TruePlan(Struct, frozen=True):
    """Whether a barrel runs true: both ends, whose fault it is where that is known, what is left to clean up."""

    number: int
    barrel: Barrel
    read: Truing
    ends: tuple[TrueEnd, TrueEnd]
    fault: Fault | None
    clean_mm: Figure | None
    lines: tuple[str, ...]

    @property
    def most_mm(self) -> float:
        """How far the worse end is off."""
        return max((end.off.value for end in self.ends if end.off is not None), default=0.0)

    @property
    def figures(self) -> tuple[Figure, ...]:
        """All that was worked out of its readings."""
        every = (*(one for end in self.ends for one in (end.off, end.oval)), self.clean_mm)
        return tuple(figure for figure in every if figure is not None)


class HoldPlan(Struct, frozen=True):
    """The stack on the mandrel from the headstock on, and what spacers fill."""

    stack: tuple[str, ...]
    fill_mm: Figure
    spacers_mm: tuple[float, ...]
    lines: tuple[str, ...]


class EndPlan(Struct, frozen=True):
    """One end of a barrel that is worked: what it is cut to, how long, and how."""

    index: int  # of its `EndWork`
    work: EndWork
    barrel: Barrel
    where: str
    cut_mm: Figure | None  # None for a nub, and for a ring that nobody has measured
    long_mm: Figure
    lines: tuple[str, ...]


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
    trues: tuple[TruePlan, ...]
    ends: tuple[EndPlan, ...]
    hold: HoldPlan | None  # None where no mandrel is used
    clip: ClipPlan | None
    voids: VoidsPlan | None
    wrap: WrapPlan | None
    is_hybrid: bool  # wood beside resin: the wood is sealed first
    unknown: tuple[str, ...]  # grits that are named and are not in the drawer

    def rungs(self, kind: str) -> tuple[Rung, ...]:
        """What an operation of sanding goes through: "sand", "level" or "polish"."""
        return {"sand": self.bare, "level": self.levelling, "polish": self.polishing}[kind]

    @property
    def levelling(self) -> tuple[Rung, ...]:
        """What makes the coats flat: the first of the ladder over them; nothing without coats."""
        return self.level[:1] if self.coats_mm.value else ()

    @property
    def polishing(self) -> tuple[Rung, ...]:
        """What brings the shine, after that."""
        return self.level[len(self.levelling) :]


class ClipFlaw(Struct, frozen=True):
    """A flaw on the clip's barrel: its azimuth, how wide it is, and how far along the barrel it lies off the clip."""

    azimuth_deg: float
    wide_deg: float
    off_mm: float  # from the clip to the flaw's near edge along the barrel; 0 or less where the clip reaches it
    beyond_mm: float  # how much of its length looks out beyond the clip

    @property
    def is_in_reach(self) -> bool:
        """Whether the clip lies over it, all along, once it is turned there."""
        return self.beyond_mm <= 0


class ClipPlan(Struct, frozen=True):
    """Where the clip lies on the last barrel, what it covers, what lies up on a desk."""

    covers_deg: Figure
    up_deg: Figure  # from the clip to the side that lies up, to either hand
    lines: tuple[str, ...]
    flaws: tuple[ClipFlaw, ...]


class VoidsPlan(Struct, frozen=True):
    """What the voids of one pen take."""

    void: Void
    fill: Fill
    volume: Figure  # of all of one pen, in ml
    powder_g: Figure
    glue_g: Figure | None  # None where resin is poured
    wait: Figure
    wall_mm: float  # the thinnest wall of the pen's barrels, over the hole
    lines: tuple[str, ...]

    @property
    def level(self) -> float:
        """How far a pit is filled, as a part of its depth."""
        return LEVELS[self.void.lies]


class WrapSheet(Struct, frozen=True):
    """The sheet of one barrel, or of the whole bar where it is cast over."""

    number: int | None  # of its barrel; None for the whole bar
    name: str
    begins_mm: float  # where its left end lies on the bar
    length_mm: float
    under_mm: tuple[Figure, Figure]  # the core is turned to this at the left and at the right
    flat: Development
    bulge_mm: float  # how far the barrel's outline leaves the straight line from end to end

    @property
    def long_mm(self) -> float:
        """The sheet along the barrel, with what is sanded off at both ends."""
        return self.flat.slant_mm + 2 * self.flat.bleed_mm


class WrapPlan(Struct, frozen=True):
    """What follows for the printed sheet."""

    index: int  # of its step
    step: WrapStep
    sheets: tuple[WrapSheet, ...]
    dpi: Figure | None  # None without a picture
    wander: Figure
    lines: tuple[str, ...]

    @property
    def is_coated(self) -> bool:
        """Whether it goes on when the barrel is turned, under clear coats; else it is cast over before that."""
        return self.step.covered == "coated"
