"""What a plan is made of: small frozen results, each figure with its working. Computed, never edited.

A part is None while the job lacks what it needs (no pen, no mould, no resin); a finding says what is missing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from msgspec import Struct
from msgspec.structs import replace

from orvek.documents import Finish, Job, Shop
from orvek.planning.coating import finishing_of
from orvek.planning.findings import Caution, Finding, Severity, Station, StationState
from orvek.planning.layout import BarsPlan, Layout
from orvek.quantities import Units

if TYPE_CHECKING:
    from orvek.planning.bore.results import BorePlan
    from orvek.planning.bubbles.results import BubblesPlan
    from orvek.planning.colour.results import TubeView
    from orvek.planning.cure.results import CureForecast
    from orvek.planning.faults.results import FaultsPlan
    from orvek.planning.finish.results import FinishPlan
    from orvek.planning.glue_up.results import MeetAnswer, NestAnswer
    from orvek.planning.glue_up.saw import CutPlan
    from orvek.planning.pen.results import PenPlan
    from orvek.planning.pour.results import CostPlan, MixturePlan, PacePlan, PourPlan
    from orvek.planning.route.results import Route
    from orvek.planning.soak.results import SoakPlan
    from orvek.planning.timetable.results import Weeks


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


Planner = Callable[..., Plan]  # `plan` itself, for those that it is made of
