"""What a boring plan is made of: each hole, its tube, and what all of them share."""

from __future__ import annotations

import math

from msgspec import Struct

from orvek.craft import wander
from orvek.craft.boring_plan import Stuff, shortened_mm
from orvek.craft.turning import cleans_up_to_mm, tube_inside_mm
from orvek.craft.wander import Fit, Wander
from orvek.documents import Barrel, Ends, Glue, Hole, Press, RackBit
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_WORTH_TELLING_PCT = 1.0  # of all that may go wrong with a hole; below it is one line (a choice)


class WideHole(Struct, frozen=True):
    """The end of a hole that is stepped up for a wider part; the small hole goes first and guides it."""

    bit_mm: float
    depth_mm: Figure
    wall_mm: Figure
    at_left: bool


class TubePlan(Struct, frozen=True):
    """What follows for a tube, or a pin, in its hole."""

    gap_mm: Figure
    glue_ml: Figure
    cut_mm: Figure | None  # what the tube is cut to, where it is set back
    press_mpa: Figure
    grows_mm: Figure


class HolePlan(Struct, frozen=True):
    """What follows for one hole. Depths count from the end that is bored from; chances are in %."""

    number: int
    name: str
    barrel: Barrel
    hole: Hole
    bit: RackBit | None  # the one of the maker's rack; None where the rack has none of this size
    from_left: bool
    enter_mm: float  # bar beyond the trim where the bit enters, too little to be sawn off
    from_both: bool
    because: str
    depth_mm: Figure
    saw_mm: Figure
    exit_wanted_mm: float
    exit_source: str
    turns_min: Figure
    pecks_mm: tuple[float, ...]
    stages_mm: tuple[float, ...]
    minutes: Figure
    scatter_mm: Figure
    meets_mm: Figure | None  # the step where holes from both ends meet
    flat_pct: Figure
    side_pct: Figure
    shift_pct: Figure
    wide: WideHole | None
    tube: TubePlan | None  # None where nothing is glued in
    beyond_mm: tuple[Figure, Figure]  # bar beyond the barrel's left and right end
    square_to_mm: Figure
    lip_gap_mm: Figure
    bored_mm: float  # the hole: as measured, as the bit of the rack bores, else as the pen says
    section_mm: tuple[float, float, bool]
    wander: Wander

    @property
    def guide_mm(self) -> float:
        """What an end mill's pilot goes into: the tube, else the hole."""
        return tube_inside_mm(self.barrel.tube_diameter_mm) if self.barrel.has_tube else self.bored_mm

    @property
    def chances(self) -> tuple[Figure, ...]:
        """What may go wrong, each with its chance; where all of it together is under 1 %, that alone."""
        each = (self.flat_pct, self.side_pct, self.shift_pct)
        together = sum(figure.value for figure in each)
        if together >= _WORTH_TELLING_PCT:
            return each
        terms = tuple(Term("+", figure.label, figure.value, Dimension.PERCENT) for figure in each)
        source = "the three chances added up: at most so much"
        return (Figure("Chance that it goes wrong", together, Dimension.PERCENT, "flat + side + shift", terms, source),)

    @property
    def ends_mm(self) -> tuple[float, float]:
        """The depths at which the barrel begins and ends."""
        begin = self.enter_mm + self.barrel.trim_mm
        return begin, begin + self.barrel.tube_length_mm

    @property
    def finished(self) -> tuple[tuple[float, float], ...]:
        """The finished outline as depths with their diameters, from where the bit enters."""
        begin, tube = self.ends_mm[0], self.barrel.tube_length_mm
        if self.from_left:
            return tuple((begin + part * tube, size) for part, size in self.barrel.profile)
        return tuple((begin + (1 - part) * tube, size) for part, size in reversed(self.barrel.profile))

    @property
    def widest_mm(self) -> float:
        """The largest finished diameter."""
        return self.barrel.widest_mm

    @property
    def figures(self) -> tuple[Figure, ...]:
        """All of it that is a figure, in the order of the work."""
        wide = (self.wide.depth_mm, self.wide.wall_mm) if self.wide else ()
        meets = (self.meets_mm,) if self.meets_mm else ()
        bored = (self.saw_mm, self.depth_mm, *wide, self.turns_min, self.minutes, self.scatter_mm, *meets)
        chances = (self.flat_pct, self.side_pct, self.shift_pct)
        return (*bored, *chances, *self.tube_figures)

    @property
    def tube_figures(self) -> tuple[Figure, ...]:
        """The figures of the tube and of squaring, in the order of the work."""
        ends = (*self.beyond_mm, self.square_to_mm, self.lip_gap_mm)
        if self.tube is None:
            return ends
        cut = (self.tube.cut_mm,) if self.tube.cut_mm else ()
        return (*cut, self.tube.gap_mm, self.tube.glue_ml, *ends, self.tube.press_mpa, self.tube.grows_mm)

    def spread_mm(self, depth_mm: float) -> float:
        """How far off the hole may lie at a depth, nineteen times in twenty."""
        if self.from_both:  # bored from the nearer end
            depth_mm = min(depth_mm, max(0.0, self.depth_mm.value - depth_mm))
        return wander.P95_RADIAL * wander.scatter_mm(depth_mm, self.barrel.bit_diameter_mm, self.wander)

    @property
    def cleans_to_mm(self) -> float | None:
        """The largest round that the bar still gives when it is turned on the hole as measured; None without that."""
        offsets = self.hole.offsets_mm
        if offsets is None:
            return None
        width, depth, is_round = self.section_mm
        if is_round:
            return min(width - 2 * math.hypot(*offset) for offset in offsets)
        return min(cleans_up_to_mm(width, depth, *offset) for offset in offsets)

    @property
    def past_trim_mm(self) -> float:
        """How much of the barrel's own length a chip takes at one end; 0 where it comes off in squaring."""
        if self.hole.chip_mm <= 0:
            return 0.0
        return max(0.0, shortened_mm(self.hole.chip_mm) - self.beyond_the_chip_mm)

    @property
    def beyond_the_chip_mm(self) -> float:
        """How far the bar stands beyond the barrel at the end with the chip."""
        at_exit = self.hole.chip_at == "where the bit comes out"
        return self.beyond_mm[1 if at_exit == self.from_left else 0].value

    def aimed_off_mm(self, *, on_pattern: bool) -> Ends:
        """Where a straight hole would lie off the pattern's middle at the left and right end."""
        pattern = self.hole.pattern_mm
        if on_pattern or pattern is None:
            return (0.0, 0.0), (0.0, 0.0)
        (x0, y0), (x1, y1) = pattern
        return (-x0, -y0), (-x1, -y1)

    @property
    def off_pattern_mm(self) -> Ends | None:
        """Where the hole as measured lies off the pattern's middle at the left and right end; None: not measured."""
        offsets, pattern = self.hole.offsets_mm, self.hole.pattern_mm or ((0.0, 0.0), (0.0, 0.0))
        if offsets is None:
            return None
        left, right = ((off[0] - at[0], off[1] - at[1]) for off, at in zip(offsets, pattern, strict=True))
        return left, right


class GluePlan(Struct, frozen=True):
    """The glue of all tubes of the batch, as it is mixed.

    Attributes:
        tubes: of the whole batch.
        to_a_mix: how many go in while a mix stays open.
        mix_g: one mix.
        a_g, b_g: its two parts; None of a glue of one part.
        look_min: after so long the tubes are looked at again; None of a glue that holds at once.
    """

    tubes: int
    to_a_mix: int
    mixes: int
    mix_g: Figure
    a_g: float | None
    b_g: float | None
    look_min: float | None


class BorePlan(Struct, frozen=True):
    """What follows for boring and for gluing the tubes in."""

    holes: tuple[HolePlan, ...]
    press: Press
    is_own_press: bool  # described by the maker; else it is a guess, and nothing is judged by it
    stuff: Stuff
    glue: Glue
    wait_min: Figure
    mixed: GluePlan | None  # None where nothing is glued in
    wander: Wander
    log: Fit | None  # what the shop's log of holes says of its scatter; None without one
    small_mm: float | None = None  # every hole is bored so wide first, and the cap chosen then; None: each to its own

    def first_mm(self, hole: HolePlan) -> float:
        """How wide a hole is bored at first."""
        return hole.bored_mm if self.small_mm is None else min(self.small_mm, hole.bored_mm)

    def opens_up(self, hole: HolePlan) -> bool:
        """Whether a hole is opened up once the cap is chosen."""
        return hole.bored_mm > self.first_mm(hole) + 0.01
