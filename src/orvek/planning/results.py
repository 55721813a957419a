"""What a plan is made of: small frozen results, each figure with its working. Computed, never edited.

A part is None while the job lacks what it needs (no pen, no mould, no resin); a finding says what is missing.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

from orvek.craft.laying_out import Span
from orvek.craft.moulding import BarSection
from orvek.documents import Job
from orvek.documents.deeds import Path
from orvek.planning.working import Figure

if TYPE_CHECKING:
    from orvek.planning.glue_up.saw import CutPlan


class Severity(StrEnum):
    """How much a finding matters; the value is the word that stands beside its mark."""

    STOP = "Stop"
    CAUTION = "Caution"
    NOTE = "Note"


class Station(StrEnum):
    """Where the maker decides; in the order of the work."""

    PEN = "Pen"
    BLANK = "Blank"
    POUR = "Pour"
    GLUE_UP = "Glue-up"


class StationState(StrEnum):
    """The mark of a station on the rail."""

    EMPTY = "nothing yet"
    IN_WORK = "in work"
    NEEDS_A_LOOK = "needs a look"
    READY = "ready"


@dataclass(frozen=True, slots=True)
class Edit:
    """One change to a job: a value put at a path. Remedies and editors both speak in edits."""

    path: Path
    value: object


class Ask(StrEnum):
    """What a button can ask of the window instead of an edit."""

    UNDO = "undo"
    SHOW_LOG = "show the log"


@dataclass(frozen=True, slots=True)
class Remedy:
    """What a finding's button does: its label says exactly what will change."""

    label: str
    edits: tuple[Edit, ...]
    ask: Ask | None = None


@dataclass(frozen=True, slots=True)
class Finding:
    """A judgement on the plan."""

    severity: Severity
    station: Station
    title: str
    because: str
    remedies: tuple[Remedy, ...] = ()


@dataclass(frozen=True, slots=True)
class EndLine:
    """A line of the pattern near an end of a barrel: how far inside, and of which material."""

    barrel: int
    side: str
    inside_mm: float
    material: str


@dataclass(frozen=True, slots=True)
class Showing:
    """How wide a let-in material shows along a barrel, over all angles."""

    barrel: int
    material: str
    least_mm: float
    most_mm: float


@dataclass(frozen=True, slots=True)
class TubePlace:
    """One barrel on the bar: its tube, its piece (tube and trim), and what is turned there."""

    name: str
    tube: Span
    piece: Span
    tube_diameter_mm: float
    finished_left_mm: float
    finished_right_mm: float


@dataclass(frozen=True, slots=True)
class Layout:
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

    @property
    def across_mm(self) -> float:
        """The smaller of width and depth."""
        return min(self.width_mm, self.depth_mm)

    @property
    def starts_mm(self) -> tuple[float, ...]:
        """Where each tube begins."""
        return tuple(place.tube.start_mm for place in self.tubes)


@dataclass(frozen=True, slots=True)
class BarrelFigures:
    """What follows for one barrel."""

    name: str
    piece_mm: Figure
    clearance_mm: Figure
    wall_left_mm: Figure
    wall_right_mm: Figure


@dataclass(frozen=True, slots=True)
class PenPlan:
    """What follows from the pen alone."""

    barrels: tuple[BarrelFigures, ...]
    length_needed_mm: Figure


@dataclass(frozen=True, slots=True)
class BarsPlan:
    """How many blanks, from how many bars, in how many castings."""

    blanks: Figure
    blanks_per_bar: int
    bars: Figure
    bars_per_casting: int
    castings: int
    section: BarSection | None


@dataclass(frozen=True, slots=True)
class DosePlan:
    """One pigment in one cup: what the maker weighs, straight or from a stock."""

    name: str
    colour: str
    pigment_g: Figure
    weighed_g: float
    stock_pct: float | None
    least_g: Figure
    is_weighable: bool
    drops: int | None = None


@dataclass(frozen=True, slots=True)
class CupPlan:
    """One cup in the order of weighing. The `weighed` masses are what the scale shall show."""

    name: str
    colour: str
    share_pct: Figure
    volume_ml: Figure
    mass_g: Figure
    part_a_g: Figure
    part_b_g: Figure
    weighed_a_g: float
    weighed_b_g: float
    doses: tuple[DosePlan, ...]
    ratio_error_pct: Figure
    ratio_uncertainty_pct: Figure
    vessel_ml: float

    @property
    def filled(self) -> float:
        """How full the vessel is, as a fraction."""
        return self.volume_ml.value / self.vessel_ml if self.vessel_ml else math.inf


@dataclass(frozen=True, slots=True)
class InsertWay:
    """One way of knowing an insert's volume, with its relative standard uncertainty."""

    name: str
    volume_ml: Figure
    uncertainty: float


@dataclass(frozen=True, slots=True)
class InsertPlan:
    """What lies in each cavity. The first way is the one that is used."""

    volume_ml: Figure
    ways: tuple[InsertWay, ...]


@dataclass(frozen=True, slots=True)
class MixturePlan:
    """One casting's resin. Absent parts mean that the job has no resin or no cups yet."""

    cavity_ml: Figure
    mould_ml: Figure
    insert: InsertPlan | None
    volume_ml: Figure
    mass_g: Figure | None
    ratio: Figure | None
    cups: tuple[CupPlan, ...]


@dataclass(frozen=True, slots=True)
class PacePlan:
    """Time on the clock that starts with the first drop of hardener."""

    working_min: Figure
    pot_life_min: float | None


@dataclass(frozen=True, slots=True)
class CostLine:
    """One material of one casting."""

    name: str
    mass_g: float
    price_per_kg: float | None
    cost: float | None


@dataclass(frozen=True, slots=True)
class CostPlan:
    """What the materials of the whole job cost; lines are for one casting."""

    lines: tuple[CostLine, ...]
    total: Figure
    per_pen: Figure
    without_price: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class TubeView:
    """What is seen of a tube through one colour at one end: contrast ratio and verdict (hidden, borderline, shows)."""

    barrel: int
    barrel_name: str
    cup: str
    side: str
    wall_mm: float
    ratio: float
    verdict: str
    measured: bool


@dataclass(frozen=True, slots=True)
class BubblesPlan:
    """What pressure or vacuum does here. What only a pot has is None under vacuum."""

    bubble_pct: Figure
    volume_pct: Figure
    safe_bar: Figure | None
    lid_kn: Figure | None
    stored_kj: Figure | None
    fitting: int
    side_by_side: int
    mould_mm: tuple[float, float, float]
    left_kpa: float | None


@dataclass(frozen=True, slots=True)
class Plan:
    """All that follows from a job."""

    job: Job
    pen: PenPlan | None
    bars: BarsPlan
    layout: Layout | None
    mixture: MixturePlan | None
    pace: PacePlan | None
    costs: CostPlan | None
    bubbles: BubblesPlan | None
    cutting: CutPlan | None
    tube_views: tuple[TubeView, ...]
    cautions: tuple[str, ...]
    findings: tuple[Finding, ...]
    failed: tuple[str, ...] = ()  # parts that raised; a finding says so for each

    @property
    def has_stop(self) -> bool:
        """Whether anything must be put right before the work begins."""
        return any(finding.severity is Severity.STOP for finding in self.findings)

    def state(self, station: Station) -> StationState:
        """The mark of a station."""
        here = [f for f in self.findings if f.station is station and f.severity is not Severity.NOTE]
        if station is Station.PEN:
            begun, complete = self.pen is not None, self.pen is not None
        elif station is Station.BLANK:
            begun = len(self.job.blank.steps) > 1 or self.job.cast_index is None or bool(self.job.cast.cups)
            complete = begun
        elif station is Station.GLUE_UP:
            begun = complete = self.cutting is not None and bool(self.cutting.cuts or self.cutting.joints)
        else:
            pour, is_cast = self.job.pour, self.job.cast_index is not None
            has_any = pour.mould is not None or pour.resin is not None or bool(self.job.cast.cups)
            begun = is_cast and has_any
            complete = self.mixture is not None and bool(self.mixture.cups)
        if here and begun:
            return StationState.NEEDS_A_LOOK
        if complete:
            return StationState.READY
        return StationState.IN_WORK if begun else StationState.EMPTY
