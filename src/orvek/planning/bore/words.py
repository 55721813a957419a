"""What is read at the press and at the glue bottle, in sentences; screen and card take them from here."""

from __future__ import annotations

from orvek.documents import Bore
from orvek.planning.bore.part import BorePlan, HolePlan
from orvek.quantities import Dimension, Units, write

_WHY = {
    "thin cyanoacrylate": "It wicks and sets in seconds: not for tubes alone.",
    "medium cyanoacrylate": "Sets in seconds: quick, and a tube that grabs half way stays there.",
    "thick cyanoacrylate": "A minute to push the tube home; brittle under heat and pressing.",
    "quick epoxy": "Minutes to work; thought brittle at thin ends.",
    "slow epoxy": "Fills, forgives, covers all of the tube; wants the night.",
    "polyurethane": "Foams and fills; needs a damp hole and a plugged tube, and is carved out afterwards.",
}


def from_line(hole: HolePlan, units: Units) -> str:
    """Which end the bit enters, why, and how much longer than on the strip the piece is sawn at the other end."""
    end, other = ("left", "right") if hole.from_left else ("right", "left")
    extra = hole.saw_mm.value - hole.depth_mm.value
    more = write(extra, Dimension.LENGTH, units)
    longer = f" Saw it {more} longer at its {other} end than the strip shows." if extra > 0 else ""
    return f"From the {end}: {hole.because}.{longer}"


def pecks_line(hole: HolePlan, bore: BorePlan, units: Units) -> str:
    """How deep at a time, and what to do between."""
    depths = " · ".join(_bare(depth, units) for depth in hole.pecks_mm)  # a comma may be the decimal mark
    cool = f", let it cool {bore.stuff.cool_s:.0f} s" if bore.stuff.cool_s else ""
    brittle = " Begin with a pilot or a spotting bit." if bore.stuff.is_brittle else ""
    return f"Lift right out at {depths}{_unit(units)}; clear the flutes{cool}.{brittle} Slow before it comes through."


def chances_line(bore: BorePlan) -> str:
    """What the chances rest on."""
    if not bore.logged:
        return "A guess: the chances rest on a usual shop's scatter. Five or six holes in your log replace it."
    return f"The chances rest on a usual shop's scatter and {bore.logged} of your own holes."


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
    return f"Mark {depth} on the outside, bore a little past it, saw just beyond the mark and push the plug out."


def tube_lines(bore: BorePlan, how: Bore, units: Units) -> tuple[str, ...]:
    """The tubes in their holes, step by step."""
    glue = bore.glue
    plug = "Plug the end that goes in first, with wax or putty. " if how.is_plugged else ""
    fills = ", ".join(f"{hole.name} {hole.glue_ml.written(units)}" for hole in bore.holes)
    wait = write(glue.handle_min, Dimension.DURATION, units)
    full = write(glue.full_min, Dimension.DURATION, units)
    opened = write(glue.open_min, Dimension.DURATION, units)
    end = (
        "Square with an end mill whose pilot fits the tube, until brass just shines."
        if how.squared == "with an end mill"
        else "Square in a sanding jig, until brass just shines: gentle on brittle stuff and loose fibre."
    )
    return (
        "Scuff the tube crosswise with P150 to P240 and wipe it with alcohol; glue within 15 minutes.",
        "Blow the hole clean and wipe it too; dry fit, and mark where the tube ends.",
        f"{plug}Spread {glue.key} in the hole and on the tube; what fills the gap: {fills}.",
        f"Push it in turning, bushing out, within {opened}; leave it in as far as was marked.",
        f"Leave it {wait} before squaring at 20 °C, {full} to full strength; twice as long for every 10 °C less.",
        f"Clear the inside of the tube with a knife or a reamer. {end}",
    )


def glue_why(key: str) -> str:
    """What speaks for a glue, and against it; empty for one of the maker's own."""
    return _WHY.get(key, "")


def _bare(depth_mm: float, units: Units) -> str:
    return write(depth_mm, Dimension.LENGTH, units).removesuffix(_unit(units))


def _unit(units: Units) -> str:
    return " mm" if units.length == "mm" else " in"
