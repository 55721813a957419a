"""One hole: its bit, depth, speed, pecks and travels, how far off it may come out and what that may spoil."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft import boring_plan, off_axis, wander
from orvek.craft.boring_plan import Stuff
from orvek.craft.off_axis_limits import Limit
from orvek.craft.turning import LEAST_WALL_MM
from orvek.craft.wander import Wander
from orvek.documents import Barrel, Hole, Job, Press, RackBit, Shop
from orvek.planning.bore import tubing
from orvek.planning.bore.results import HolePlan, WideHole
from orvek.planning.exits import Exit
from orvek.planning.layout import Layout, TubePlace
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
SAME_BIT_MM = 0.03
_MIDDLE = 0.5
_SEEN_MM = 0.05  # less is rounding
_MEET_MM = 2.0  # bored past the middle from the second end, so that the holes surely meet (workshop practice)


class Drilling(Struct, frozen=True):
    """What all holes of a job share."""

    job: Job
    shop: Shop
    layout: Layout
    press: Press
    is_own_press: bool
    stuff: Stuff
    wander: Wander
    exit: Exit

    def hole(self, number: int) -> HolePlan:
        """The plan of one hole."""
        barrel, seen = self.job.laid[number], self.job.bore.hole(number)
        place, from_both = self.layout.tubes[number], seen.from_end == "both ends" and barrel.is_through
        bit = self._bit(barrel.bit_diameter_mm)
        depth, turns = self._depth(barrel, place, bit), self._turns(barrel)
        pecked = depth.value / 2 + _MEET_MM if from_both else depth.value
        low, high = self.stuff.peck_mm
        peck = min(high, max(low, barrel.bit_diameter_mm))
        pecks = boring_plan.peck_depths_mm(pecked, barrel.bit_diameter_mm, self.stuff.first_diameters, peck)
        bored = seen.measured_mm or (bit.hole_mm if bit else barrel.bit_diameter_mm)
        flat, side, shift = self._chances(barrel, seen, place, depth.value)
        return HolePlan(
            number=number,
            name=barrel.name,
            barrel=barrel,
            hole=seen,
            bit=bit,
            from_left=place.from_left,
            enter_mm=place.enter_mm,
            from_both=from_both,
            because=place.because,
            depth_mm=depth,
            saw_mm=self._saw(barrel, place),
            exit_wanted_mm=self.exit.length_mm if barrel.is_through and not from_both else 0.0,
            exit_source=self.exit.source,
            turns_min=turns,
            pecks_mm=pecks,
            stages_mm=boring_plan.stages_mm(pecked, self.press.travel_mm, self.press.clearance_mm),
            minutes=self._minutes(pecks, turns.value, 2 if from_both else 1),
            scatter_mm=self._scatter(barrel, depth.value / 2 if from_both else depth.value),
            meets_mm=self._meets(barrel, depth.value) if from_both else None,
            flat_pct=flat,
            side_pct=side,
            shift_pct=shift,
            wide=self._wide(barrel, place),
            tube=tubing.tube_plan(self.job, number, barrel, bored, self.stuff),
            beyond_mm=tubing.beyond_mm(barrel, place),
            square_to_mm=tubing.square_to_mm(barrel),
            lip_gap_mm=tubing.lip_gap_mm(barrel),
            bored_mm=bored,
            section_mm=(self.layout.width_mm, self.layout.depth_mm, self.layout.is_round),
            wander=self.wander,
        )

    def _bit(self, size_mm: float) -> RackBit | None:
        fitting = [bit for bit in self.shop.rack if abs(bit.hole_mm - size_mm) <= SAME_BIT_MM]
        return min(fitting, key=lambda bit: abs(bit.hole_mm - size_mm), default=None)

    def _depth(self, barrel: Barrel, place: TubePlace, bit: RackBit | None) -> Figure:
        trim = Term("trim", "left proud at each end", barrel.trim_mm, _MM)
        more = place.enter_mm
        added: tuple[Term, ...] = (_unsawn(more),) if more >= _SEEN_MM else ()
        tip = boring_plan.tip_mm(bit.tip, barrel.bit_diameter_mm) if bit is not None else 0.0
        if bit is not None and tip >= _SEEN_MM:
            added = (*added, Term("tip", f"{bit.tip}: it is not yet full width there", tip, _MM, "practice"))
        plus = "".join(f" + {term.symbol}" for term in added)
        if barrel.hole_depth_mm is not None:
            deep = Term("hole", "deep, in the squared barrel", barrel.hole_depth_mm, _MM)
            depth = barrel.hole_depth_mm + barrel.trim_mm + more + tip
            terms = (deep, trim, *added)
            return Figure("Bore to", depth, _MM, f"depth = hole + trim{plus}", terms, "it does not go through")
        depth = barrel.piece_mm + more + tip
        terms = (Term("tube", "tube length", barrel.tube_length_mm, _MM), trim, *added)
        source = "through the piece as it will be squared"
        return Figure("Bore to", depth, _MM, f"depth = tube + 2 · trim{plus}", terms, source)

    def _saw(self, barrel: Barrel, place: TubePlace) -> Figure:
        short = "" if place.exit_mm >= self.exit.length_mm - 0.05 else ", as much as the bar has"
        terms: tuple[Term, ...] = (
            Term("tube", "tube length", barrel.tube_length_mm, _MM),
            Term("trim", "squared off at each end", barrel.trim_mm, _MM),
            Term("exit", f"may tear out where the bit comes out{short}", place.exit_mm, _MM, source=self.exit.source),
        )
        formula = "length = tube + 2 · trim + exit"
        if place.enter_mm >= _SEEN_MM:
            terms, formula = (*terms, _unsawn(place.enter_mm)), f"{formula} + unsawn"
        return Figure("Saw it to, for boring", place.piece.length_mm, _MM, formula, terms, "as the strip shows it")

    def _wide(self, barrel: Barrel, place: TubePlace) -> WideHole | None:
        """The end that is stepped up, and the least wall left beside it."""
        if barrel.wide_bit_mm is None:
            return None
        beyond = tubing.beyond_mm(barrel, place)[0 if barrel.wide_end == "left" else 1].value
        deep = barrel.wide_depth_mm + beyond
        terms = (
            Term("step", "deep, in the squared barrel", barrel.wide_depth_mm, _MM),
            Term("trim", "squared off there", beyond, _MM),
        )
        depth = Figure(f"Step up to, from the {barrel.wide_end}", deep, _MM, "depth = step + trim", terms, "derived")
        slimmest = barrel.slimmest_beside_step_mm
        wall_terms = (
            Term("finished", "the slimmest beside it", slimmest, _MM),
            Term("hole", "the wider bit", barrel.wide_bit_mm, _MM),
        )
        wall = (slimmest - barrel.wide_bit_mm) / 2
        formula, source = "wall = (finished − hole) / 2", "turned on its hole"
        figure = Figure("Wall beside the step", wall, _MM, formula, wall_terms, source, digits=2)
        return WideHole(barrel.wide_bit_mm, depth, figure, barrel.wide_end == "left")

    def _meets(self, barrel: Barrel, depth: float) -> Figure:
        step = wander.two_end_step_mm(depth, barrel.bit_diameter_mm, self.wander)
        terms = (
            Term("σ", "scatter at half the depth, one way", step / 2**0.5, _MM),
            Term("L", "depth", depth, _MM),
        )
        value, formula = wander.P95_RADIAL * step, "2.45 · √2 · σ(L/2)"
        source = "in 19 cases of 20; from the scatter of this shop's holes"
        return Figure("Step in the middle, up to", value, _MM, formula, terms, source, digits=2)

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

    def _minutes(self, pecks: tuple[float, ...], turns: float, ends: int) -> Figure:
        seconds = ends * boring_plan.boring_s(pecks, turns, self.stuff.cool_s)
        terms = (
            Term("N", "pecks" if ends == 1 else "pecks, from each end", len(pecks), Dimension.COUNT),
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
        return Figure("Drift at exit, up to", wander.P95_RADIAL * sigma, _MM, formula, terms, source, digits=2)

    def _chances(self, barrel: Barrel, seen: Hole, place: TubePlace, depth: float) -> tuple[Figure, Figure, Figure]:
        """Chances of a flat (or a thin wall), of the side broken out, of a pattern off by more than is accepted."""
        aims = _Aims(seen, self.job.bore.centred == "on the pattern", place.from_left, depth)
        begin = place.enter_mm + barrel.trim_mm
        tightest, thinnest = (_worst(barrel, begin, place.from_left, largest=one) for one in (True, False))
        width, high, bit = self.layout.width_mm, self.layout.depth_mm, barrel.bit_diameter_mm
        is_round, from_both = self.layout.is_round, seen.from_end == "both ends"
        if self.job.bore.turned == "on the tube":
            label, formula = "Chance of a flat", "P(off > (w − D) / 2 at either end of the barrel)"
            limits = tuple(Limit(z, (width - size) / 2, (high - size) / 2, aims.at(z)) for z, size in tightest)
            flat = self._chance(limits, bit, depth if from_both else None, is_round=is_round)
        else:
            label, formula = "Chance of a thin wall", "P(off > (D − bit) / 2 − 0.3 mm at either end)"
            limits = tuple(Limit(z, (size - bit) / 2 - LEAST_WALL_MM, None, aims.at(z)) for z, size in thinnest)
            flat = self._chance(limits, bit, depth if from_both else None, is_round=True)
        sides = tuple(Limit(z, (width - bit) / 2, (high - bit) / 2, aims.at(z)) for z in (0.0, depth))
        side = self._chance(sides, bit, depth if from_both else None, is_round=is_round)
        wanted = self.job.bore.pattern_mm
        near, far = begin, begin + barrel.tube_length_mm
        shifts = tuple(Limit(z, wanted, None, aims.off_pattern(z)) for z in (near, far))
        shift = self._chance(shifts, bit, depth if from_both else None, is_round=True)
        room = Term("w", "the bar, across", min(width, high), _MM)
        terms = (room, Term("D", "finished, where it is widest", barrel.widest_mm, _MM), *aims.terms())
        beside = (room, Term("bit", "bit", bit, _MM), *aims.terms())
        accepted = (Term("accepted", "the pattern may lie off by", wanted, _MM), *aims.terms())
        return (
            _percent(label, flat, formula, terms),
            _percent("Chance that the side breaks", side, "P(off > (w − bit) / 2)", beside),
            _percent("Chance of a shifted pattern", shift, "P(off > what you accept)", accepted),
        )

    def _chance(self, limits: tuple[Limit, ...], bit_mm: float, both_mm: float | None, *, is_round: bool) -> float:
        """Chance that the hole is spoilt at either limit; from both ends of a depth each is bored by itself."""
        one, other = limits
        if both_mm is None:
            return off_axis.spoilt_chance((one, other), bit_mm, self.wander, is_round=is_round)
        fine = 1.0
        for limit in limits:
            depth = min(limit.depth_mm, max(0.0, both_mm - limit.depth_mm))
            near = Limit(depth, limit.room_mm, limit.other_mm, limit.aimed_mm)
            fine *= 1 - off_axis.spoilt_chance((near, near), bit_mm, self.wander, is_round=is_round)
        return 1 - fine


class _Aims(Struct, frozen=True):
    """Where a hole is meant to lie, off the bar's axis: in it, or in the middle of the pattern as measured."""

    seen: Hole
    on_pattern: bool
    from_left: bool
    depth_mm: float

    def at(self, depth_mm: float) -> tuple[float, float]:
        """The aim at a depth, off the bar's axis."""
        return self._pattern(depth_mm) if self.on_pattern else (0.0, 0.0)

    def off_pattern(self, depth_mm: float) -> tuple[float, float]:
        """The aim at a depth, off the pattern's middle."""
        if self.on_pattern:
            return 0.0, 0.0
        x, y = self._pattern(depth_mm)
        return -x, -y

    def terms(self) -> tuple[Term, ...]:
        """What is to be told of it in a working."""
        if self.seen.pattern_mm is None:
            return ()
        off = max((x * x + y * y) ** 0.5 for x, y in self.seen.pattern_mm)
        words = f"the pattern's middle, off the bar's; the hole follows {'it' if self.on_pattern else 'the bar'}"
        return (Term("pattern", words, off, _MM, "measured"),)

    def _pattern(self, depth_mm: float) -> tuple[float, float]:
        ends = self.seen.pattern_mm
        if ends is None or self.depth_mm <= 0:
            return 0.0, 0.0
        (x0, y0), (x1, y1) = ends if self.from_left else (ends[1], ends[0])
        along = depth_mm / self.depth_mm
        return x0 + (x1 - x0) * along, y0 + (y1 - y0) * along


def _unsawn(more_mm: float) -> Term:
    return Term("unsawn", "beyond the trim, too little to be sawn off", more_mm, _MM)


def _percent(label: str, chance: float, formula: str, terms: tuple[Term, ...]) -> Figure:
    return Figure(
        label, 100 * chance, Dimension.PERCENT, formula, terms, "by the scatter of this shop's holes", digits=1
    )


def _worst(
    barrel: Barrel, begin_mm: float, from_left: bool, *, largest: bool
) -> tuple[tuple[float, float], tuple[float, float]]:
    """Depth and diameter where each half of a barrel is widest, or slimmest: the nearer half first.

    The barrel begins at the depth `begin_mm`.
    """
    profile = barrel.profile if from_left else tuple((1 - part, size) for part, size in reversed(barrel.profile))
    found = []
    for half in ([one for one in profile if one[0] <= _MIDDLE], [one for one in profile if one[0] >= _MIDDLE]):
        part, size = max(half, key=lambda one: (one[1] if largest else -one[1], one[0]))
        found.append((begin_mm + part * barrel.tube_length_mm, size))
    return found[0], found[1]
