"""Voids: how much goes into them, how high, in which order, and how long it waits."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.craft.coating import GLUE_G_ML
from orvek.craft.faults import NATURAL, PACKED, STRAIGHT, pit_mm3
from orvek.craft.filling import LEVELS, THICK_MM, Fill, fill_masses_g, fill_of, fill_wait_min
from orvek.documents import JOB, Job, PlugStep, Void, path_to
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.finish.results import VoidsPlan
from orvek.planning.results import Plan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM, _MASS, _COUNT = Dimension.LENGTH, Dimension.MASS, Dimension.COUNT
_SEEN_MM = 0.3  # a fill that lies deeper is seen to be sunk (a choice)


def voids_plan(plan: Plan) -> VoidsPlan | None:
    """What is filled on one pen; None where nothing is."""
    void, pen = plan.job.finish.void, plan.job.pen
    if pen is None or void.count == 0:
        return None
    fill = fill_of(void.fill)
    volume = _volume(void)
    powder, glue = fill_masses_g(volume.value * 1000, fill)
    walls = [(size - barrel.bit_diameter_mm) / 2 for barrel in pen.barrels for _, size in barrel.profile]
    return VoidsPlan(
        void=void,
        fill=fill,
        volume=volume,
        powder_g=_powder(fill, powder, volume),
        glue_g=_glue(glue, volume) if glue else None,
        wait=_wait(void),
        wall_mm=max(0.0, min(walls)),
        lines=tuple(_lines(plan, void, fill)),
    )


def pits(job: Job) -> tuple[int, float]:
    """How many pits of a depth the blank's steps have, and how deep the deepest is bored."""
    deep = [step.deep_mm for step in job.blank.steps if isinstance(step, PlugStep) and step.deep_mm is not None]
    return len(deep), max(deep, default=0.0)


def _volume(void: Void) -> Figure:
    shape, level = NATURAL if void.shape == "natural" else STRAIGHT, LEVELS[void.lies]
    each = pit_mm3(void.long_mm, void.wide_mm, void.deep_mm, shape)
    terms = (
        Term("n", "voids on one pen", void.count, _COUNT),
        Term("L", "long", void.long_mm, _MM),
        Term("w", "wide", void.wide_mm, _MM),
        Term("d", "deep", void.deep_mm, _MM),
        Term("s", "share of that box a pit fills (0.5 to 0.67 natural, 1 bored)", shape, Dimension.RATIO, "practice"),
        Term("f", f"filled {void.lies}", level, Dimension.RATIO, "practice"),
    )
    value = void.count * each * level / 1000
    return Figure("Fill for one pen", value, Dimension.VOLUME, "n · L · w · d · s · f", terms, "practice", digits=2)


def _powder(fill: Fill, mass_g: float, volume: Figure) -> Figure:
    terms = (
        Term("V", "fill", volume.value, Dimension.VOLUME),
        Term("ρ", fill.key, fill.density_g_ml, Dimension.DENSITY, "textbook"),
    )
    formula = "V · ρ" if fill.key == "resin" else "V · ρ · 0.5"
    return Figure(fill.key.capitalize(), mass_g, _MASS, formula, terms, "half of a packed fill is powder", digits=2)


def _glue(mass_g: float, volume: Figure) -> Figure:
    terms = (
        Term("V", "fill", volume.value, Dimension.VOLUME),
        Term("p", "share of powder in the fill", PACKED, Dimension.RATIO, "practice"),
        Term("ρ", "of the glue", GLUE_G_ML, Dimension.DENSITY, "textbook"),
    )
    return Figure("Thin glue with it", mass_g, _MASS, "V · (1 − p) · ρ", terms, "between the powder", digits=2)


def _wait(void: Void) -> Figure:
    minutes = fill_wait_min(void.deep_mm)
    terms = (Term("d", "deep", void.deep_mm, _MM),)
    source = f"1 to 2 h; a day inside fills deeper than {THICK_MM:.0f} mm; activator on the outside only"
    return Figure("Then wait", minutes, Dimension.DURATION, "by its depth", terms, source)


def _lines(plan: Plan, void: Void, fill: Fill) -> Iterator[str]:
    yield f"Pick loose bark and dust out, alcohol and a brush; let it dry. {fill.note[:1].upper()}{fill.note[1:]}."
    yield "Seal the pits' walls with a drop of thin glue, so that the wood beside them does not stain."
    if fill.key == "resin":
        yield "Pour it warm, thinly, in two goes; prick what rises; keep the pit on top while it sets."
    elif void.deep_mm > THICK_MM:
        thick = f"{plan.units.mm(1)} to {plan.units.mm(2)}"
        yield f"Pack {fill.key} in layers of {thick}, a drop of thin glue on each; let each draw in."
    else:
        yield f"Pack {fill.key} in, press it down, then thin glue from one side until it draws through."
    level = {
        "sunk, for depth": "Stop at about 0.7 of the depth: to the brim it looks painted on.",
        "flush": "Fill it to the brim: it sinks a little, top it up once.",
        "proud, turned flush": "Leave it proud all round; activator on the outside only, or it foams and turns white.",
    }
    yield level[void.lies]
    yield f"Wait {plan.units.minutes(fill_wait_min(void.deep_mm))}, then turn: {fill.tool}."


def voids(plan: Plan) -> Iterator[Finding]:
    """Pits that go down to the brass, or are so shallow that the last cut takes the fill."""
    units = plan.units
    finish = plan.finish
    if finish is None or finish.voids is None:
        return
    void, wall = finish.voids.void, finish.voids.wall_mm
    if void.deep_mm >= wall:
        because = (
            f"They are {units.mm(void.deep_mm)} deep and the thinnest wall {units.mm(wall, 2)}: brass or the hole lies "
            "at their bottom, and glue can run into the tube. Paint the tube, or fill with something that hides it."
        )
        remedies = (
            Remedy(
                "Paint the tubes",
                (Edit(path_to(JOB.blank.paints), plan.job.painted(range(len(plan.job.laid)), "tube")),),
            ),
        )
        if any(plan.job.blank.paint(number).where == "none" for number in range(len(plan.job.laid))):
            yield Finding(Severity.NOTE, Station.FINISH, "The voids may reach the tube.", because, remedies)
    if void.lies == "sunk, for depth" and void.deep_mm * (1 - finish.voids.level) < _SEEN_MM:
        because = f"The fill would lie {units.mm(void.deep_mm * (1 - finish.voids.level), 2)} deep: nobody sees that."
        remedy = Remedy("Fill them flush", (Edit(path_to(JOB.finish.void.lies), "flush"),))
        yield Finding(Severity.NOTE, Station.FINISH, "Too shallow for depth.", because, (remedy,))
