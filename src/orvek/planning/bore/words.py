"""What is read at the press and at the glue bottle, in sentences; screen and card take them from here."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.documents import Bore
from orvek.planning.bore.results import BorePlan, HolePlan
from orvek.quantities import Dimension, Units, write, write_bit

LONG_DIAMETERS = 8  # a hole deeper than that wants a short bit first (workshop practice)
_GROWS_MM = 0.1  # less is taken up by any glue (an estimate)
_SAW_FIRST_MM = 3.0  # more than that is sawn or parted off before squaring: a mill chatters (workshop practice)

_WHY = {
    "thin cyanoacrylate": "It wicks and sets in seconds: not for tubes alone.",
    "medium cyanoacrylate": "Sets in seconds: quick, and a tube that grabs half way stays there.",
    "thick cyanoacrylate": "A minute to push the tube home; brittle under heat and pressing.",
    "quick epoxy": "Minutes to work; thought brittle at thin ends.",
    "slow epoxy": "Fills gaps, leaves time, covers all of the tube; cures overnight.",
    "polyurethane": "Foams and fills; needs a damp hole and a plugged tube, and is carved out afterwards.",
}


def from_line(hole: HolePlan) -> str:
    """Which end the bit enters, and why."""
    if hole.from_both:
        return "From both ends, to just past the middle."
    return f"From the {'left' if hole.from_left else 'right'}: {hole.because}."


def step_line(hole: HolePlan, units: Units) -> str:
    """How a hole is stepped up at one end; empty where it is not."""
    if hole.wide is None:
        return ""
    bit, deep = write_bit(hole.wide.bit_mm, units), hole.wide.depth_mm.written(units)
    end = "left" if hole.wide.at_left else "right"
    return f"Then step it up with {bit} to {deep} from the {end}: the small hole guides the wide bit."


def centre_line(hole: HolePlan, how: Bore, units: Units) -> str:
    """How the centres are marked at both ends."""
    pattern = hole.hole.pattern_mm
    if how.centred == "on the outside" or pattern is None:
        return "Mark the centre at both ends: diagonals, or a centre finder on round stock."
    (x0, y0), (x1, y1) = pattern
    left, right = (
        f"{_off(x, 'right', 'left', units)}, {_off(y, 'up', 'down', units)}" for x, y in ((x0, y0), (x1, y1))
    )
    return (
        f"Mark the pattern's middle: left end {left} of the bar's; right end {right}. Hold it by these marks, or round "
        "it down between centres on them first."
    )


def _off(value_mm: float, more: str, less: str, units: Units) -> str:
    return f"{write(abs(value_mm), Dimension.LENGTH, units)} {more if value_mm >= 0 else less}"


def pecks_line(hole: HolePlan, bore: BorePlan, units: Units) -> str:
    """How deep at a time, and what to do between."""
    depths = " · ".join(_bare(depth, units) for depth in hole.pecks_mm)  # a comma may be the decimal mark
    cool = f", let it cool {bore.stuff.cool_s:.0f} s" if bore.stuff.cool_s else ""
    brittle = " Begin with a pilot or a spotting bit." if bore.stuff.is_brittle else ""
    if hole.pecks_mm[-1] > LONG_DIAMETERS * hole.barrel.bit_diameter_mm:
        brittle = " Start it two or three diameters deep with a short bit of the same size, then the long one."
    ends = "" if hole.barrel.is_through else f" Stop at {hole.depth_mm.written(units)}: it does not go through."
    last = " Slow before it comes through." if hole.barrel.is_through and not hole.from_both else ends
    return f"Lift right out at {depths}{_unit(units)}; clear the flutes{cool}.{brittle}{last}"


def chances_line(bore: BorePlan, units: Units) -> str:
    """What the chances rest on."""
    if bore.log is None:
        return "A guess: the chances rest on a usual shop's scatter. Five or six holes in your log replace it."
    low, high = (write(one, Dimension.LENGTH, units, 2) for one in (bore.log.low_mm, bore.log.high_mm))
    sigma = write(bore.log.sigma_mm, Dimension.LENGTH, units, 2)
    return (
        f"By a usual shop and {bore.log.holes} of your own hole{'' if bore.log.holes == 1 else 's'}: they scatter by "
        f"{sigma} (9 in 10: {low} to {high})."
    )


def travels_line(hole: HolePlan, bore: BorePlan, units: Units) -> str:
    """How the quill's travel is made enough; empty where it is."""
    if not bore.is_own_press:
        return "Describe your machine: how far its quill travels and how slowly it turns is not known."
    if bore.press.kind == "lathe" or len(hole.stages_mm) < 2:
        return ""
    first = ", ".join(write(depth, Dimension.LENGTH, units) for depth in hole.stages_mm[:-1])
    return f"Quill too short: at {first} stop, raise the table, bit in the hole, on again."


def depth_line(hole: HolePlan, units: Units) -> str:
    """How the exit is kept whole."""
    depth = hole.depth_mm.written(units)
    if not hole.barrel.is_through:
        return f"Mark {depth} on the bit and stop there."
    if hole.from_both:
        return f"Mark half of {depth} on the bit, turn the bar end for end, and ream right through."
    return f"Mark {depth} on the outside, bore a little past it, saw just beyond the mark and push the plug out."


def tube_lines(bore: BorePlan, how: Bore, units: Units) -> tuple[str, ...]:
    """The tubes in their holes, step by step."""
    glued = [hole for hole in bore.holes if hole.tube is not None]
    return (
        (*_glued_lines(bore, how, glued, units), *_squared_lines(bore, how, units))
        if glued
        else (
            "Nothing is glued in: the holes stay bare.",
            *_squared_lines(bore, how, units),
        )
    )


def strength_line(bore: BorePlan, units: Units) -> str:
    """What the glue has to bear, in one sentence; empty where nothing is glued."""
    tubes = [hole.tube for hole in bore.holes if hole.tube is not None and hole.barrel.has_tube]
    if not tubes:
        return ""
    most = max(tubes, key=lambda one: one.press_mpa.value).press_mpa.written(units)
    apart = max(tubes, key=lambda one: one.grows_mm.value).grows_mm
    words = (
        f"A hard push puts {most} on glue that covers a third of the tube; most glues hold 7 and more. Bare spots fail."
    )
    if apart.value >= _GROWS_MM:
        words += f" In a hot car bar and brass move {apart.written(units)} apart: use a glue that gives a little."
    return words


def _glued_lines(bore: BorePlan, how: Bore, glued: list[HolePlan], units: Units) -> Iterator[str]:
    glue = bore.glue
    if any(hole.hole.tube == "reclaimed" for hole in glued):
        yield (
            "The old tube: warm it until the glue lets go, push it out, scrape it bright, measure it, deburr it inside."
        )
    for hole in glued:
        if hole.tube and hole.tube.cut_mm:
            back = write(hole.barrel.set_back_mm, Dimension.LENGTH, units)
            cut = hole.tube.cut_mm.written(units)
            yield f"{hole.name}: cut the tube to {cut}; it lies {back} back from the {hole.barrel.wide_end} end."
    if not any(hole.barrel.has_tube for hole in glued):
        yield from _pinned_lines(bore, glued, units)
        return
    plug = "Plug the end that goes in first, with wax or putty. " if how.is_plugged else ""
    fills = ", ".join(f"{hole.name} {hole.tube.glue_ml.written(units)}" for hole in glued if hole.tube)
    opened = write(glue.open_min, Dimension.DURATION, units)
    full = write(glue.full_min, Dimension.DURATION, units)
    yield "Scuff the tube crosswise with P150 to P240 and wipe it with alcohol; glue within 15 minutes."
    yield "Blow the hole clean and wipe it too; dry fit, and mark where the tube ends."
    yield f"{plug}Spread {glue.key} in the hole and on the tube; what fills the gap: {fills}."
    yield f"{_mixed(bore, units)}Push it in turning, bushing out, within {opened}; stop at the mark."
    yield "Stand it on its front end; where the glue sank at the back, let a drop of thin glue run in."
    again = ""
    if bore.mixed is not None and bore.mixed.look_min is not None:
        when = write(bore.mixed.look_min, Dimension.DURATION, units)
        again = f"After {when} push back what has crept. "
    yield f"{again}Leave it {bore.wait_min.written(units)} before squaring, {full} to full strength."
    yield "Clear the inside of the tube with a knife or a reamer."


def _mixed(bore: BorePlan, units: Units) -> str:
    """How much of a glue of two parts is mixed at once, and for how many tubes."""
    mix = bore.mixed
    if mix is None or mix.a_g is None or mix.b_g is None:
        return ""
    a, b = (write(mass, Dimension.MASS, units, 1) for mass in (mix.a_g, mix.b_g))
    many = "all tubes" if mix.mixes == 1 else f"every {mix.to_a_mix} tubes"
    return f"Mix {a} of A and {b} of B for {many}. "


def _pinned_lines(bore: BorePlan, glued: list[HolePlan], units: Units) -> Iterator[str]:
    fills = ", ".join(f"{hole.name} {hole.tube.glue_ml.written(units)}" for hole in glued if hole.tube)
    yield "File a flat or a groove along the pin, so that air and glue get out; scuff it, wipe pin and hole."
    yield f"Dry fit it to the bottom. Then {bore.glue.key} into the hole, {fills}, and the pin in, turning."
    yield f"Leave it {bore.wait_min.written(units)} before it is turned."


def _squared_lines(bore: BorePlan, how: Bore, units: Units) -> Iterator[str]:
    long = [hole.name for hole in bore.holes if max(one.value for one in hole.beyond_mm) > _SAW_FIRST_MM]
    if long:
        half = write(0.5, Dimension.LENGTH, units)
        yield f"{', '.join(long)}: saw off what stands beyond, to {half} short; a round bar is parted off on the lathe."
    lengths = ", ".join(f"{hole.name} {hole.square_to_mm.written(units)}" for hole in bore.holes)
    when = (
        "Turn it to within a millimetre first, then square: fragile ends chip less. "
        if how.squared_when == "near its finished size"
        else ""
    )
    tool = (
        "Square with an end mill whose pilot fits the hole"
        if how.squared == "with an end mill"
        else "Square in a sanding jig, gentle on brittle stuff and loose fibre"
    )
    until = "until brass just shines all round" if any(hole.barrel.has_tube for hole in bore.holes) else "to its length"
    yield f"{when}{tool}, {until}, end to end: {lengths}."


def glue_why(key: str) -> str:
    """What speaks for a glue, and against it; empty for one of the maker's own."""
    return _WHY.get(key, "")


def _bare(depth_mm: float, units: Units) -> str:
    return write(depth_mm, Dimension.LENGTH, units).removesuffix(_unit(units))


def _unit(units: Units) -> str:
    return " mm" if units.length == "mm" else " in"
