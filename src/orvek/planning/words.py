"""Words that the screen, the card and the report share, so that their figures are the same to the letter."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from typing import TYPE_CHECKING

from orvek.craft.packing import Sawn
from orvek.craft.pouring import digits_of
from orvek.documents import BarInHand, Job, LoafMould, Mould, Resin, RoundMould
from orvek.planning.exits import exit_of
from orvek.planning.layout import BarsPlan
from orvek.planning.results import Plan
from orvek.quantities import Dimension, Units, decimal, write, write_sizes

if TYPE_CHECKING:
    from orvek.planning.blank.lines import Showing
    from orvek.planning.pour.results import DosePlan

LEAST_TOLD_MM = 1.0  # of a bar that is left over: less is dust
_NAMED_LEFT = 3  # more leftovers than that do not fit beside the bar


def weighed(mass_g: float, resolution_g: float, units: Units | None = None) -> str:
    """A mass as the scale shows it."""
    return write(mass_g, Dimension.MASS, units, digits_of(resolution_g))


def dose_name(dose: DosePlan, units: Units | None = None) -> str:
    """A pigment as it is taken from the shelf: straight, or as a stock of some strength."""
    if dose.stock_pct is None:
        return dose.name if dose.drops is None else f"{dose.name}, {dose.drops} drops"
    return f"{dose.name}, {write(dose.stock_pct, Dimension.PERCENT, units)} stock"


def left_words(left_mm: Iterable[float], units: Units) -> str:
    """What is left over, in one number, and of what it is the sum."""
    parts = [round(one, 1) for one in left_mm if one >= LEAST_TOLD_MM]  # so that the sum is the sum of what is read
    if not parts:
        return "nothing left over"
    told = f"left over {write(sum(parts), Dimension.LENGTH, units)}"
    if len(parts) == 1:
        return told
    if len(parts) > _NAMED_LEFT:
        return f"{told} in {len(parts)} pieces, the longest {write(max(parts), Dimension.LENGTH, units)}"
    return f"{told} ({' + '.join(write(one, Dimension.LENGTH, units) for one in parts)})"


def counted(count: int, word: str) -> str:
    """A number with its word: "1 cup", "2 cups"."""
    return f"{count} {word}{'' if count == 1 else 's'}"


def the_barrel(name: str) -> str:
    """A barrel at the beginning of a sentence: "The nib barrel", and "The barrel" for one that is called so."""
    return f"The {name.lower()}" if name.lower().split()[0] == "barrel" else f"The {name.lower()} barrel"


def bars_line(bars: BarsPlan) -> str:
    """How many bars and castings, in one line."""
    count = round(bars.bars.value)
    line = f"{count} bar{'' if count == 1 else 's'}"
    if bars.castings > 1:
        line += f" in {bars.castings} castings of {bars.bars_per_casting}"
    if bars.blanks_per_bar > 1:
        line += f", {bars.blanks_per_bar} blanks from each"
    return line


def bar_line(bar: BarInHand, units: Units | None = None) -> str:
    """A kind of bar in a few words: "3 × Bar, 20 × 20 × 140 mm"."""
    if bar.form == "round":
        return f"{bar.count} × {bar.name}, ⌀ {write_sizes((bar.width_mm, bar.length_mm), units)}"
    about = "at least " if bar.form == "irregular" else ""
    return f"{bar.count} × {bar.name}, {about}{write_sizes((bar.width_mm, bar.depth_mm, bar.length_mm), units)}"


def taken_lines(plan: Plan) -> tuple[str, ...]:
    """The bars in hand that are sawn, each kind with its number: what the cut list begins with."""
    packing = plan.bars.packing
    numbered = [(kind, bar) for kind, bar in enumerate(plan.bars.in_hand) for _ in range(bar.count)]
    taken = Counter(numbered[one.bar][0] for one in packing.sawn) if packing else Counter[int]()
    lines = (bar_line(plan.bars.in_hand[kind].with_(count=count), plan.units) for kind, count in sorted(taken.items()))
    return tuple(f"{line}, in hand" for line in lines)


def sawn_line(plan: Plan) -> str:
    """What is sawn from the bars in hand: "Bar 1 and 2, 132 mm: 2 Nib, left 12.5 mm; …", exits of the bit counted."""
    packing, pen = plan.bars.packing, plan.job.pen
    if packing is None or pen is None:
        return ""
    each = plan.bars.each_in_hand
    alike: dict[tuple[str, str], list[int]] = {}
    for one in packing.sawn:
        pieces = ", ".join(f"{count} {b.name}" for count, b in zip(one.pieces, pen.barrels, strict=True) if count)
        tight = ", without what the bit wants where it comes out" if one.left_mm < _exits_mm(plan, one) else ""
        left = " and ".join(plan.units.mm(mm) for mm in left_mm(plan, one)) or "nothing"
        words = f"{plan.units.mm(each[one.bar].length_mm)}: {pieces}, left {left}{tight}"
        alike.setdefault((each[one.bar].name, words), []).append(one.bar + 1)
    return "; ".join(f"{name} {_numbers(bars)}, {words}" for (name, words), bars in alike.items())


def _exits_mm(plan: Plan, sawn: Sawn) -> float:
    """What the bits want where they come out of the pieces of one bar."""
    exit_mm, barrels = exit_of(plan.job, plan.shop).length_mm, plan.job.pen.barrels if plan.job.pen else ()
    return sum(count * exit_mm for count, b in zip(sawn.pieces, barrels, strict=True) if b.is_through)


def left_mm(plan: Plan, sawn: Sawn) -> tuple[float, ...]:
    """The pieces that are left of a bar in hand: as the strip shows them where it is sawn so, else all in one."""
    bar, layout = plan.bars.each_in_hand[sawn.bar], plan.layout
    if layout is not None and bar.length_mm == layout.length_mm and set(sawn.pieces) == {layout.blanks}:
        return tuple(span.length_mm for span in layout.waste if span.length_mm >= LEAST_TOLD_MM)
    exits = _exits_mm(plan, sawn)
    left = sawn.left_mm - (exits if exits <= sawn.left_mm else 0.0)
    return (left,) if left >= LEAST_TOLD_MM else ()


def _numbers(bars: list[int]) -> str:
    """1; 1 and 2; 1 to 4; 1, 2 and 5."""
    if len(bars) > 2 and bars == list(range(bars[0], bars[-1] + 1)):
        return f"{bars[0]} to {bars[-1]}"
    return " and ".join(filter(None, (", ".join(map(str, bars[:-1])), str(bars[-1]))))


def mould_size(mould: Mould, units: Units | None = None) -> str:
    """A mould's size in one line."""
    if isinstance(mould, RoundMould):
        return f"{mould.cavities} rounds of ⌀ {write_sizes((mould.diameter_mm, mould.length_mm), units)}"
    sizes = write_sizes((mould.width_mm, mould.depth_mm, mould.length_mm), units)
    return f"{sizes}, sawn up" if isinstance(mould, LoafMould) else f"{mould.cavities} bars of {sizes}"


def ratio_line(resin: Resin) -> str:
    """The label's ratio in words."""
    return f"{decimal(resin.ratio_a)} : {decimal(resin.ratio_b)} by {resin.ratio_by}"


def pot_life_line(resin: Resin, units: Units | None = None) -> str:
    """The label's pot life with its conditions; says so where the label gives none."""
    if resin.pot_life_min is None:
        return "no pot life on its label"
    mass = write(resin.pot_life_mass_g, Dimension.MASS, units, 0)
    at = write(resin.pot_life_temperature_c, Dimension.TEMPERATURE, units)
    return f"pot life {write(resin.pot_life_min.value, Dimension.DURATION, units)} ({mass} cup at {at})"


def quiet_line(plan: Plan) -> str:
    """What stands where findings would, when there are none."""
    return "Nothing stands in the way." if plan.mixture and plan.mixture.cups else "Nothing to say yet."


def showing_line(shown: Showing, job: Job, units: Units | None = None) -> str:
    """How wide an inlay shows on a barrel."""
    barrel = job.pen.barrels[shown.barrel].name if job.pen else "the barrel"
    least, most = (write(value, Dimension.LENGTH, units) for value in (shown.least_mm, shown.most_mm))
    width = least if least == most else f"{least} to {most}"
    return f"{shown.material} shows {width} wide on {barrel}"
