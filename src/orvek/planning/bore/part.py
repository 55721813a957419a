"""From the bar and the tubes: each hole's bit, depth, speed, pecks and travels, its scatter, its tube's glue."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from orvek.craft import boring_plan, wander
from orvek.craft.boring_plan import Stuff
from orvek.craft.laying_out import Span
from orvek.craft.turning import LEAST_WALL_MM, cleans_up_to_mm
from orvek.craft.wander import Limit, Wander
from orvek.documents import AS_THE_STEPS_SAY, Barrel, Glue, Hole, Job, Press, RackBit, Shop
from orvek.planning.bore.stuff import stuff_of
from orvek.planning.drift import shop_wander
from orvek.planning.results import Caution, Layout, Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
PAINT_MM = 0.045  # a coat of paint is 0.03 to 0.06 mm thick (workshop practice)
_SAME_BIT_MM = 0.03
_SAME_PLACE_MM = 0.01
_MIDDLE = 0.5


@dataclass(frozen=True, slots=True)
class HolePlan:
    """What follows for one hole. Depths count from the end that is bored from; chances are in %."""

    number: int
    name: str
    barrel: Barrel
    hole: Hole
    bit: RackBit | None  # the one of the maker's rack; None where the rack has none of this size
    from_left: bool
    because: str
    depth_mm: Figure
    saw_mm: Figure
    turns_min: Figure
    pecks_mm: tuple[float, ...]
    stages_mm: tuple[float, ...]
    minutes: Figure
    scatter_mm: Figure
    flat_pct: Figure
    side_pct: Figure
    shift_pct: Figure
    gap_mm: Figure
    glue_ml: Figure
    bored_mm: float  # the hole: as measured, as the bit of the rack bores, else as the pen says
    section_mm: tuple[float, float, bool]
    wander: Wander

    @property
    def ends_mm(self) -> tuple[float, float]:
        """The depths at which the barrel begins and ends."""
        return self.barrel.trim_mm, self.barrel.trim_mm + self.barrel.tube_length_mm

    @property
    def finished(self) -> tuple[tuple[float, float], ...]:
        """The finished outline as depths with their diameters, from where the bit enters."""
        begin, tube = self.barrel.trim_mm, self.barrel.tube_length_mm
        if self.from_left:
            return tuple((begin + part * tube, size) for part, size in self.barrel.profile)
        return tuple((begin + (1 - part) * tube, size) for part, size in reversed(self.barrel.profile))

    @property
    def widest_mm(self) -> float:
        """The largest finished diameter."""
        return self.barrel.widest_mm

    def spread_mm(self, depth_mm: float) -> float:
        """How far off the hole may lie at a depth, nineteen times in twenty."""
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


@dataclass(frozen=True, slots=True)
class BorePlan:
    """What follows for boring and for gluing the tubes in."""

    holes: tuple[HolePlan, ...]
    press: Press
    is_own_press: bool  # described by the maker; else it is a guess, and nothing is judged by it
    stuff: Stuff
    glue: Glue
    wander: Wander
    logged: int


def part(plan: Plan) -> BorePlan | None:
    """The boring plan; None while there is no pen or no bar."""
    job, shop, layout = plan.job, plan.shop, plan.layout
    if job.pen is None or layout is None:
        return None
    bore = job.bore
    press = bore.press or (shop.presses[0] if shop.presses else Press())
    glue = shop.glue(bore.glue) or shop.all_glues[0]  # an unknown one is said by a finding
    stuff = stuff_of(job, bore.stuff)
    learned = shop_wander(shop)
    is_own = bore.press is not None or shop.presses not in {(), (Press(),)}
    boring = _Boring(job, shop, layout, press=press, is_own_press=is_own, stuff=stuff, wander=learned)
    holes = tuple(boring.hole(number) for number in range(len(job.pen.barrels)))
    return BorePlan(holes, press, is_own, stuff, glue, learned, len(shop.bored))


def progress(plan: Plan) -> tuple[bool, bool]:
    """Begun with the pen and the bar; complete when every hole was bored and measured."""
    if plan.bore is None:
        return False, False
    return True, all(hole.hole.offsets_mm is not None or hole.hole.measured_mm is not None for hole in plan.bore.holes)


def sections(plan: Plan) -> Iterator[tuple[str, list[Figure]]]:
    """The figures of a report, by their headings."""
    for hole in plan.bore.holes if plan.bore else ():
        yield (
            f"Bore {hole.name}",
            [
                hole.saw_mm,
                hole.depth_mm,
                hole.turns_min,
                hole.minutes,
                hole.scatter_mm,
                hole.flat_pct,
                hole.side_pct,
                hole.shift_pct,
                hole.gap_mm,
                hole.glue_ml,
            ],
        )


def cautions(plan: Plan) -> Iterator[Caution]:
    """What can hurt."""
    if plan.bore is None:
        return
    yield Caution(
        "bore.press",
        "Clamp the bar, never hold it: a bit that grabs spins it. Key out, no gloves, eye protection; back off to "
        "clear chips. The press's manual decides.",
    )
    if plan.bore.stuff.cool_s:
        yield Caution(
            "bore.dust", "Resin chips and dust irritate: a mask rated for it, and the product's safety sheet."
        )
    if "cyanoacrylate" in plan.bore.glue.key:
        yield Caution(
            "bore.glue", "It bonds skin and eyes, and its fumes sting: gloves, glasses, air. Its sheet decides."
        )


def exit_length_mm(job: Job, shop: Shop, stuff: Stuff) -> tuple[float, str]:
    """Extra length for the exit, and where it comes from: typed, learned from tear-outs, or by the material."""
    if job.bore.exit_mm is not None:
        return job.bore.exit_mm, "as typed"
    torn = sorted(hole.torn_mm for hole in shop.bored if hole.torn_mm is not None and hole.stuff == stuff.key)
    if len(torn) >= 3:
        return torn[min(len(torn) - 1, math.ceil(0.95 * len(torn)) - 1)], f"your log of {len(torn)} tear-outs"
    return stuff.exit_mm, f"{stuff.name}: {stuff.source}"


def spare_mm(layout: Layout, piece: Span, *, right: bool) -> float:
    """How much of the bar lies unused beyond a piece's right or left end, past the kerf between them."""
    edge = piece.end_mm if right else piece.start_mm
    for kerf in layout.kerfs:
        if abs((kerf.start_mm if right else kerf.end_mm) - edge) < _SAME_PLACE_MM:
            edge = kerf.end_mm if right else kerf.start_mm
    there = (span for span in layout.waste if abs((span.start_mm if right else span.end_mm) - edge) < _SAME_PLACE_MM)
    return sum(span.length_mm for span in there)


@dataclass(frozen=True, slots=True)
class _Boring:
    """What all holes of a job share."""

    job: Job
    shop: Shop
    layout: Layout
    press: Press
    is_own_press: bool
    stuff: Stuff
    wander: Wander

    def hole(self, number: int) -> HolePlan:
        """The plan of one hole."""
        assert self.job.pen is not None
        barrel, seen = self.job.pen.barrels[number], self.job.bore.hole(number)
        from_left, because = self._from(number, seen)
        bit = self._bit(barrel.bit_diameter_mm)
        depth = self._depth(barrel)
        turns = self._turns(barrel)
        low, high = self.stuff.peck_mm
        peck = min(high, max(low, barrel.bit_diameter_mm))
        pecks = boring_plan.peck_depths_mm(depth.value, barrel.bit_diameter_mm, self.stuff.first_diameters, peck)
        bored = seen.measured_mm or (bit.hole_mm if bit else barrel.bit_diameter_mm)
        flat, side, shift = self._chances(barrel, from_left, depth.value)
        return HolePlan(
            number=number,
            name=barrel.name,
            barrel=barrel,
            hole=seen,
            bit=bit,
            from_left=from_left,
            because=because,
            depth_mm=depth,
            saw_mm=self._saw(barrel),
            turns_min=turns,
            pecks_mm=pecks,
            stages_mm=boring_plan.stages_mm(depth.value, self.press.travel_mm, self.press.clearance_mm),
            minutes=self._minutes(pecks, turns.value),
            scatter_mm=self._scatter(barrel, depth.value),
            flat_pct=flat,
            side_pct=side,
            shift_pct=shift,
            gap_mm=self._gap(number, barrel, bored),
            glue_ml=self._glue(barrel, bored),
            bored_mm=bored,
            section_mm=(self.layout.width_mm, self.layout.depth_mm, self.layout.is_round),
            wander=self.wander,
        )

    def _from(self, number: int, seen: Hole) -> tuple[bool, str]:
        """Which end is bored from, and why."""
        if seen.from_end != "as advised":
            return seen.from_end == "left", "as you chose"
        match self.job.bore.v_opens:
            case "to the left":
                return True, "the V's open to the left: the bit enters into them, not onto their points"
            case "to the right":
                return False, "the V's open to the right: the bit enters into them, not onto their points"
        place = self.layout.tubes[number].piece
        left, right = (spare_mm(self.layout, place, right=at_right) for at_right in (False, True))
        if abs(left - right) < 1:
            return True, "nothing speaks for one end; have something to spare where the bit comes out"
        where = "right" if right > left else "left"
        return right > left, f"more of the bar is spare beyond its {where} end, where the bit comes out"

    def _bit(self, size_mm: float) -> RackBit | None:
        fitting = [bit for bit in self.shop.rack if abs(bit.hole_mm - size_mm) <= _SAME_BIT_MM]
        return min(fitting, key=lambda bit: abs(bit.hole_mm - size_mm), default=None)

    def _depth(self, barrel: Barrel) -> Figure:
        depth = barrel.tube_length_mm + 2 * barrel.trim_mm
        terms = (
            Term("tube", "tube length", barrel.tube_length_mm, _MM),
            Term("trim", "left proud at each end", barrel.trim_mm, _MM),
        )
        return Figure(
            "Bore to", depth, _MM, "depth = tube + 2 · trim", terms, "through the piece as it will be squared"
        )

    def _saw(self, barrel: Barrel) -> Figure:
        extra, source = exit_length_mm(self.job, self.shop, self.stuff)
        terms = (
            Term("tube", "tube length", barrel.tube_length_mm, _MM),
            Term("trim", "squared off at each end", barrel.trim_mm, _MM),
            Term("exit", "may tear out where the bit comes out", extra, _MM, source=source),
        )
        length = barrel.tube_length_mm + 2 * barrel.trim_mm + extra
        formula = "length = tube + 2 · trim + exit"
        return Figure("Saw it to, for boring", length, _MM, formula, terms, "workshop practice")

    def _turns(self, barrel: Barrel) -> Figure:
        edge = (self.stuff.slowest_m_min + self.stuff.fastest_m_min) / 2
        free = boring_plan.rpm(edge, barrel.bit_diameter_mm)
        least, most = 0.0, boring_plan.MOST_RPM
        if self.is_own_press:  # one that nobody described must not make a bit turn faster than the material bears
            least, most = self.press.slowest_rpm, min(most, self.press.fastest_rpm)
        turns = round(max(least, min(free, most)), -1)
        terms = (
            Term("v", f"edge speed in m/min, {self.stuff.name}", edge, Dimension.RATIO, "practice", self.stuff.source),
            Term("d", "bit", barrel.bit_diameter_mm, _MM),
            Term("least", "the machine goes no slower", least, Dimension.TURNS),
            Term("most", "nor faster, and 3,000 is enough", most, Dimension.TURNS),
        )
        formula = "n = 1000 v / (π d), to tens, from least to most"
        return Figure("Speed", turns, Dimension.TURNS, formula, terms, "textbook")

    def _minutes(self, pecks: tuple[float, ...], turns: float) -> Figure:
        seconds = boring_plan.boring_s(pecks, turns, self.stuff.cool_s)
        terms = (
            Term("N", "pecks", len(pecks), Dimension.COUNT),
            Term("cool", "between them, in seconds", self.stuff.cool_s, Dimension.RATIO, "practice", self.stuff.source),
        )
        formula = "t = depth / (0.1 mm · n) + N · clearing + (N − 1) · cool"
        return Figure("Takes about", seconds / 60, Dimension.DURATION, formula, terms, "an estimate")

    def _scatter(self, barrel: Barrel, depth: float) -> Figure:
        sigma = wander.scatter_mm(depth, barrel.bit_diameter_mm, self.wander)
        logged = len(self.shop.bored)
        source = f"a model, held to your log of {logged} holes" if logged else "a model with guessed numbers; log holes"
        terms = (
            Term("s0", "centring", self.wander.centring_mm, _MM, None if logged else "guess"),
            Term("sa", "the machine's slope, mm in a mm", self.wander.misaligned, Dimension.RATIO),
            Term("c", "the bit's bending", self.wander.bending_mm * 1000, Dimension.RATIO, source="in µm"),
            Term("L", "depth", depth, _MM),
        )
        formula = "2.45 · √(s0² + (sa L)² + (c (L/d)²)²)"
        return Figure("Comes out off by up to", wander.P95_RADIAL * sigma, _MM, formula, terms, source, digits=2)

    def _chances(self, barrel: Barrel, from_left: bool, depth: float) -> tuple[Figure, Figure, Figure]:
        """Chances of a flat (or a thin wall), of the side broken out, of a pattern off by more than is accepted."""
        near, far = barrel.trim_mm, barrel.trim_mm + barrel.tube_length_mm
        tightest, thinnest = (_worst(barrel, from_left, largest=one) for one in (True, False))
        width, high, bit = self.layout.width_mm, self.layout.depth_mm, barrel.bit_diameter_mm
        if self.job.bore.turned == "on the tube":
            label, formula = "Chance of a flat", "P(off > (w − D) / 2 at either end of the barrel)"
            limits = tuple(Limit(z, (width - size) / 2, (high - size) / 2) for z, size in tightest)
            flat = self._chance(limits, bit, is_round=self.layout.is_round)
        else:
            label, formula = "Chance of a thin wall", "P(off > (D − bit) / 2 − 0.3 mm at either end)"
            limits = tuple(Limit(z, (size - bit) / 2 - LEAST_WALL_MM) for z, size in thinnest)
            flat = self._chance(limits, bit, is_round=True)
        sides = (Limit(0.0, (width - bit) / 2, (high - bit) / 2), Limit(depth, (width - bit) / 2, (high - bit) / 2))
        side = self._chance(sides, bit, is_round=self.layout.is_round)
        wanted = self.job.bore.pattern_mm
        shift = self._chance((Limit(near, wanted), Limit(far, wanted)), bit, is_round=True)
        room = Term("w", "the bar, across", min(width, high), _MM)
        terms = (room, Term("D", "finished, where it is widest", barrel.widest_mm, _MM))
        return (
            _percent(label, flat, formula, terms),
            _percent(
                "Chance that the side breaks", side, "P(off > (w − bit) / 2)", (room, Term("bit", "bit", bit, _MM))
            ),
            _percent(
                "Chance of a shifted pattern",
                shift,
                "P(off > what you accept)",
                (Term("accepted", "the pattern may lie off by", wanted, _MM),),
            ),
        )

    def _chance(self, limits: tuple[Limit, ...], bit_mm: float, *, is_round: bool) -> float:
        one, other = limits
        return wander.spoilt_chance((one, other), bit_mm, self.wander, is_round=is_round)

    def _gap(self, number: int, barrel: Barrel, bored: float) -> Figure:
        paint = 2 * PAINT_MM * self.job.bore.paint_coats if _is_painted(self.job, number) else 0.0
        terms = (
            Term("hole", "the hole", bored, _MM, "measured" if self.job.bore.hole(number).measured_mm else None),
            Term("tube", "tube, outside", barrel.tube_diameter_mm, _MM),
            Term("paint", "takes on both sides, 0.03 to 0.06 mm a coat", paint, _MM, "practice"),
        )
        room = bored - barrel.tube_diameter_mm - paint
        return Figure(
            "Room round the tube", room, _MM, "room = hole − tube − paint", terms, "on the diameter", digits=2
        )

    def _glue(self, barrel: Barrel, bored: float) -> Figure:
        volume = boring_plan.glue_mm3(bored, barrel.tube_diameter_mm, barrel.tube_length_mm)
        terms = (
            Term("D", "the hole", bored, _MM),
            Term("d", "tube, outside", barrel.tube_diameter_mm, _MM),
            Term("L", "tube length", barrel.tube_length_mm, _MM),
        )
        formula = "V = π/4 · (D² − d²) · L"
        return Figure("Glue that fills it", volume / 1000, Dimension.VOLUME, formula, terms, "derived", digits=2)


def _percent(label: str, chance: float, formula: str, terms: tuple[Term, ...]) -> Figure:
    return Figure(
        label, 100 * chance, Dimension.PERCENT, formula, terms, "by the scatter of this shop's holes", digits=1
    )


def _worst(barrel: Barrel, from_left: bool, *, largest: bool) -> tuple[tuple[float, float], tuple[float, float]]:
    """Depth and diameter where each half of a barrel is widest, or slimmest: the nearer half first."""
    profile = barrel.profile if from_left else tuple((1 - part, size) for part, size in reversed(barrel.profile))
    found = []
    for half in ([one for one in profile if one[0] <= _MIDDLE], [one for one in profile if one[0] >= _MIDDLE]):
        part, size = max(half, key=lambda one: (one[1] if largest else -one[1], one[0]))
        found.append((barrel.trim_mm + part * barrel.tube_length_mm, size))
    return found[0], found[1]


def _is_painted(job: Job, barrel: int) -> bool:
    return barrel < len(job.blank.paints) and job.blank.paints[barrel].where != "none"


__all__ = ["AS_THE_STEPS_SAY", "BorePlan", "HolePlan", "cautions", "part", "progress", "sections"]
