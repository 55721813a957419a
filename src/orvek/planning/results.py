"""What a plan is made of: small frozen results, each figure with its working. Computed, never edited.

A part is None while the job lacks what it needs (no pen, no mould, no resin); a finding says what is missing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace

from orvek.craft.laying_out import Span
from orvek.craft.moulding import BarSection
from orvek.craft.packing import Packing
from orvek.documents import BarInHand, Finish, Job, Shop
from orvek.planning.coating import finishing_of
from orvek.planning.findings import Finding, Severity, Station, StationState
from orvek.planning.working import Figure
from orvek.quantities import Units

if TYPE_CHECKING:
    from orvek.planning.bore.part import BorePlan
    from orvek.planning.bubbles.part import BubblesPlan
    from orvek.planning.colour.part import TubeView
    from orvek.planning.cure.question import CureForecast
    from orvek.planning.faults.results import FaultsPlan
    from orvek.planning.finish.results import FinishPlan
    from orvek.planning.glue_up.meeting import MeetAnswer
    from orvek.planning.glue_up.nesting import NestAnswer
    from orvek.planning.glue_up.saw import CutPlan
    from orvek.planning.pen.part import PenPlan
    from orvek.planning.pour.costs import CostPlan
    from orvek.planning.pour.mixture import MixturePlan
    from orvek.planning.pour.pace import PacePlan
    from orvek.planning.pour.part import PourPlan
    from orvek.planning.route.results import Route
    from orvek.planning.soak.results import SoakPlan
    from orvek.planning.timetable.weeks import Weeks

Planner = Callable[..., "Plan"]  # `plan` itself


class TubePlace(Struct, frozen=True):
    """One barrel on the bar: its tube, the piece that is sawn for it, and what is turned there.

    The piece is the tube, the trim at both ends and, where the bit comes out, what may tear out there, as far as the
    bar has it to spare; and what is too little to be sawn off. `from_left`: which end the bit enters, `because` why.
    """

    name: str
    tube: Span
    piece: Span
    tube_diameter_mm: float
    finished_left_mm: float
    finished_right_mm: float
    profile: tuple[tuple[float, float], ...] = ()  # parts of the tube's length with their diameters, end to end
    trim_mm: float = 0.0
    glued: Span | None = None  # where brass lies, a tube or a pin; None without either
    from_left: bool = True
    because: str = ""

    @property
    def trimmed(self) -> Span:
        """The tube and its trim, without what may tear out."""
        return Span(self.tube.start_mm - self.trim_mm, self.tube.end_mm + self.trim_mm)

    @property
    def exit_mm(self) -> float:
        """What the piece has to spare where the bit comes out."""
        return self._beyond_mm[1 if self.from_left else 0]

    @property
    def enter_mm(self) -> float:
        """What the piece has beyond its trim where the bit enters: too little to be sawn off, and bored through."""
        return self._beyond_mm[0 if self.from_left else 1]

    @property
    def _beyond_mm(self) -> tuple[float, float]:
        return self.trimmed.start_mm - self.piece.start_mm, self.piece.end_mm - self.trimmed.end_mm


class Layout(Struct, frozen=True):
    """The blank as it lies on the strip. Spans are measured from its left end."""

    length_mm: float
    width_mm: float
    depth_mm: float
    is_round: bool
    tubes: tuple[TubePlace, ...]
    kerfs: tuple[Span, ...]
    waste: tuple[Span, ...]
    ends: tuple[Span, Span]
    is_from_mould: bool
    placed_by_hand: bool
    raw: tuple[float, float, bool]  # width, depth, roundness before any step takes something off
    others: tuple[Span, ...] = ()  # pieces of further blanks sawn from the same bar
    joint: Span | None = None  # where a two-in-one bar is parted
    wanted_others: int = 0  # how many of them the bar would hold if the tubes lay side by side

    @property
    def blanks(self) -> int:
        """Whole blanks that it gives as its tubes lie."""
        return 1 + len(self.others) // max(1, len(self.tubes))

    @property
    def is_fuller_side_by_side(self) -> bool:
        """Whether it would give more blanks if its tubes lay side by side."""
        return len(self.others) < self.wanted_others

    @property
    def across_mm(self) -> float:
        """The smaller of width and depth."""
        return min(self.width_mm, self.depth_mm)

    @property
    def starts_mm(self) -> tuple[float, ...]:
        """Where each tube begins."""
        return tuple(place.tube.start_mm for place in self.tubes)


class BarsPlan(Struct, frozen=True):
    """How many blanks, from how many bars, in how many castings."""

    blanks: Figure
    blanks_per_bar: int
    bars: Figure
    bars_per_casting: int
    castings: int
    section: BarSection | None
    packing: Packing | None = None
    in_hand: tuple[BarInHand, ...] = ()

    @property
    def each_in_hand(self) -> tuple[BarInHand, ...]:
        """The bars in hand one by one, as the packing numbers them."""
        return tuple(bar for bar in self.in_hand for _ in range(bar.count))


class Caution(Struct, frozen=True):
    """What can hurt at a step of the work, told wherever that step is; the key says which it is."""

    key: str
    words: str

    def is_of(self, key: str) -> bool:
        """Whether it is called so, or is of that kind where the key ends with a dot."""
        return self.key == key or (key.endswith(".") and self.key.startswith(key))


class Plan(Struct, frozen=True):
    """All that follows from a job in a shop: one part a topic, and what is to be said about them.

    Checks are handed a plan whose findings are still to come. The slow parts (`cure`, `boards`, `meet`) are None until
    somebody has forecast them.
    """

    job: Job
    shop: Shop
    bars: BarsPlan
    layout: Layout | None = None
    pen: PenPlan | None = None
    pour: PourPlan | None = None
    bubbles: BubblesPlan | None = None
    colour: tuple[TubeView, ...] = ()
    glue_up: CutPlan | None = None
    bore: BorePlan | None = None
    soak: SoakPlan | None = None
    finish: FinishPlan | None = None
    faults: FaultsPlan | None = None
    route: Route | None = None
    cure: CureForecast | None = None
    boards: NestAnswer | None = None
    meet: MeetAnswer | None = None
    weeks: Weeks | None = None
    others: tuple[Job, ...] = ()  # the other jobs of the workshop, for the timetable
    planner: Planner | None = None  # what plans another job alike
    cautions: tuple[Caution, ...] = ()
    findings: tuple[Finding, ...] = ()
    progress: tuple[tuple[Station, tuple[bool, bool]], ...] = ()
    failed: tuple[str, ...] = ()  # parts that raised; a finding says so for each

    def with_part(self, key: str, found: object) -> Plan:
        """This plan with one part in its place; `key` is the field's name."""
        return replace(self, **{key: found})  # the table of topics pairs keys and parts

    # -- short names of what is asked for most ------------------------------------------------------------------

    @property
    def mixture(self) -> MixturePlan | None:
        """One casting's resin, cup by cup."""
        return self.pour.mixture if self.pour else None

    @property
    def pace(self) -> PacePlan | None:
        """The time one casting takes."""
        return self.pour.pace if self.pour else None

    @property
    def costs(self) -> CostPlan | None:
        """What the materials cost."""
        return self.pour.costs if self.pour else None

    @property
    def finishing(self) -> Finish:
        """How the job is finished, with nothing left open."""
        return finishing_of(self.job, self.shop)

    # -- the whole -----------------------------------------------------------------------------------------------

    @property
    def has_stop(self) -> bool:
        """Whether anything must be put right before the work begins."""
        return any(finding.severity is Severity.STOP for finding in self.findings)

    def state(self, station: Station) -> StationState:
        """The mark of a station: a stop or a caution always, else what its topics say has begun and is complete."""
        said = [progress for there, progress in self.progress if there is station]
        begun = any(started for started, _ in said)
        severities = {finding.severity for finding in self.findings if finding.station is station}
        if Severity.STOP in severities:
            return StationState.STOPPED
        if Severity.CAUTION in severities:
            return StationState.NEEDS_A_LOOK
        if said and all(complete for _, complete in said):
            return StationState.READY
        return StationState.IN_WORK if begun else StationState.EMPTY

    def caution(self, key: str) -> str:
        """The words of a caution; empty where it does not apply."""
        return next((caution.words for caution in self.cautions if caution.key == key), "")

    def cautions_of(self, keys: Iterable[str]) -> tuple[str, ...]:
        """The words of several that apply; a key that ends with a dot is the first of its kind."""
        found = (next((one.words for one in self.cautions if one.is_of(key)), "") for key in keys)
        return tuple(words for words in found if words)

    @property
    def units(self) -> Units:
        """How the maker reads quantities."""
        return self.shop.preferences.units
