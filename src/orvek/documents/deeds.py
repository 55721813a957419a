"""The maker's deeds: each takes a job and gives the job that follows; none changes what it was given.

A deed that does not apply raises an `OrvekError` with the sentence for the maker.
"""

from __future__ import annotations

from typing import Any

from orvek.documents.base import Document
from orvek.documents.job import Job
from orvek.documents.mould import Mould
from orvek.documents.pen import MOST_BARRELS, Pen
from orvek.documents.pigment import Chip, Pigment, PigmentDose
from orvek.documents.resin import Resin
from orvek.documents.shipped import catalogue
from orvek.documents.steps import MOST_CUPS, STOCK_KINDS, CastStep, Cup, InsertStep, Layer, Step
from orvek.errors import BadFieldError, NothingToDoError, OutOfBoundsError

Path = tuple[str | int, ...]

NEW_CUP_COLOURS = ("#2f5d8c", "#e9e6dc", "#3f7d62", "#b06a3c", "#26272b", "#a92f2b", "#7a5a9a", "#d7b75c")
LEAST_SHARE_PCT = 1.0
_LEAST_TYPED_PCT = 0.1  # the declared least of Cup.share


def set_value(job: Job, path: Path, value: Any) -> Job:
    """Put a value at a path. Everything on the way is validated and made anew.

    Raises:
        BadFieldError: the value is not allowed there, or there is no such place.
    """
    changed = _replaced(job, path, value)
    assert isinstance(changed, Job)
    return changed


def choose_pen(job: Job, pen: Pen) -> Job:
    """Make the job for another pen; tubes placed by hand are laid out anew."""
    return job.with_(pen=pen, blank=job.blank.with_(tube_starts_mm=(), tube_turns_deg=()))


def choose_mould(job: Job, mould: Mould) -> Job:
    """Pour into another mould; tubes placed by hand are laid out anew."""
    return job.with_(pour=job.pour.with_(mould=mould), blank=job.blank.with_(tube_starts_mm=()))


def choose_resin(job: Job, resin: Resin) -> Job:
    """Pour another resin."""
    return job.with_(pour=job.pour.with_(resin=resin))


def add_barrel(job: Job) -> Job:
    """One more barrel, beginning as a copy of the last."""
    pen = _pen(job, "Adding a barrel")
    if len(pen.barrels) >= MOST_BARRELS:
        raise OutOfBoundsError("The number of barrels", len(pen.barrels) + 1, f"at most {MOST_BARRELS}")
    names = [barrel.name for barrel in pen.barrels]
    barrel = pen.barrels[-1].with_(name=_fresh("Barrel", names))
    return choose_pen(job, pen.with_(barrels=(*pen.barrels, barrel)))


def remove_barrel(job: Job, index: int) -> Job:
    """One barrel less; a pen keeps at least one."""
    pen = _pen(job, "Removing a barrel")
    if len(pen.barrels) == 1:
        raise OutOfBoundsError("The number of barrels", 0, "at least 1")
    return choose_pen(job, pen.with_(barrels=_without(pen.barrels, index)))


def move_tube(job: Job, starts_mm: tuple[float, ...], index: int, start_mm: float) -> Job:
    """Lay one tube so that it begins at `start_mm`; the others stay where `starts_mm` has them.

    `starts_mm` is where the plan shows the tubes now, so that a first move fixes the others too. Places are
    kept to a hundredth of a millimetre.
    """
    moved = tuple(round(start_mm if i == index else start, 2) for i, start in enumerate(starts_mm))
    return job.with_(blank=job.blank.with_(tube_starts_mm=moved))


def turn_tube(job: Job, index: int, by_deg: float) -> Job:
    """Turn one barrel about its axis against the others, as when the pen is put together."""
    pen = _pen(job, "Turning a barrel")
    now = (*job.blank.tube_turns_deg, *([0.0] * len(pen.barrels)))[: len(pen.barrels)]
    turned = (now[index] + by_deg + 180) % 360 - 180
    return job.with_(blank=job.blank.with_(tube_turns_deg=_with(now, index, round(turned, 1))))


def lay_tubes_out(job: Job) -> Job:
    """Forget tubes placed by hand; Orvek lays them in the middle of the bar."""
    return job.with_(blank=job.blank.with_(tube_starts_mm=()))


def add_cup(job: Job, pigment: Pigment | None = None) -> Job:
    """One more cup with an equal share; the others give way in proportion."""
    cups = job.cast.cups
    if len(cups) >= MOST_CUPS:
        raise OutOfBoundsError("The number of cups", len(cups) + 1, f"at most {MOST_CUPS}")
    share = 100.0 / (len(cups) + 1)
    total = sum(cup.share for cup in cups)
    kept = [cup.with_(share=max(round(cup.share / total * (100 - share), 4), _LEAST_TYPED_PCT)) for cup in cups]
    colour = pigment.colour if pigment else NEW_CUP_COLOURS[len(cups) % len(NEW_CUP_COLOURS)]
    name = _fresh(pigment.name if pigment else "Colour", [cup.name for cup in cups])
    doses = (PigmentDose(pigment=pigment, load_pct=usual_load_pct(pigment)),) if pigment else ()
    rest = round(100 - sum(cup.share for cup in kept), 4)
    return _with_cups(job, (*kept, Cup(name=name, colour=colour, share=rest, pigments=doses)))


def remove_cup(job: Job, index: int) -> Job:
    """One cup less; the others take over its share in proportion."""
    return _with_cups(job, _shared_out(_without(job.cast.cups, index)))


def split_cup(job: Job, index: int) -> Job:
    """Mix one colour in two cups of half its share each."""
    cups = job.cast.cups
    if len(cups) >= MOST_CUPS:
        raise OutOfBoundsError("The number of cups", len(cups) + 1, f"at most {MOST_CUPS}")
    half = cups[index].with_(share=max(cups[index].share / 2, _LEAST_TYPED_PCT))
    second = half.with_(name=_fresh(half.name, [cup.name for cup in cups]))
    return _with_cups(job, (*cups[:index], half, second, *cups[index + 1 :]))


def renormalise_shares(job: Job) -> Job:
    """Scale all shares so that they make 100 %."""
    return _with_cups(job, _shared_out(job.cast.cups))


def move_boundary(job: Job, index: int, left_share_pct: float) -> Job:
    """Give cup `index` a share, at the cost of the next one; both keep at least 1 %."""
    cups = _shared_out(job.cast.cups)
    both = cups[index].share + cups[index + 1].share
    left = round(min(max(left_share_pct, LEAST_SHARE_PCT), both - LEAST_SHARE_PCT), 2)
    pair = (cups[index].with_(share=left), cups[index + 1].with_(share=round(both - left, 4)))
    return _with_cups(job, (*cups[:index], *pair, *cups[index + 2 :]))


def set_cup(job: Job, index: int, cup: Cup) -> Job:
    """Replace one cup."""
    return _with_cups(job, (*job.cast.cups[:index], cup, *job.cast.cups[index + 1 :]))


def add_pigment(job: Job, cup_index: int, pigment: Pigment) -> Job:
    """Put one more pigment into a cup, at the usual load of its kind."""
    cup = job.cast.cups[cup_index]
    dose = PigmentDose(pigment=pigment, load_pct=usual_load_pct(pigment))
    return set_cup(job, cup_index, cup.with_(pigments=(*cup.pigments, dose)))


def remove_pigment(job: Job, cup_index: int, dose_index: int) -> Job:
    """Take one pigment out of a cup."""
    cup = job.cast.cups[cup_index]
    return set_cup(job, cup_index, cup.with_(pigments=_without(cup.pigments, dose_index)))


def set_dose(job: Job, cup_index: int, dose_index: int, dose: PigmentDose) -> Job:
    """Replace one pigment dose."""
    cup = job.cast.cups[cup_index]
    doses = (*cup.pigments[:dose_index], dose, *cup.pigments[dose_index + 1 :])
    return set_cup(job, cup_index, cup.with_(pigments=doses))


def set_chip(job: Job, pigment: str, chip: Chip) -> Job:
    """Reckon with a measured chip wherever this pigment is used."""

    def measured(dose: PigmentDose) -> PigmentDose:
        return dose.with_(pigment=dose.pigment.with_(chip=chip)) if dose.pigment.name == pigment else dose

    cups = tuple(cup.with_(pigments=tuple(map(measured, cup.pigments))) for cup in job.cast.cups)
    return _with_cups(job, cups)


def add_step(job: Job, step: Step, index: int | None = None) -> Job:
    """Put a step into the list, before the one at `index`, else at its end."""
    steps = job.blank.steps
    place = len(steps) if index is None else index
    return _with_steps(job, (*steps[:place], step, *steps[place:]))


def copy_step(job: Job, index: int) -> Job:
    """The same step once more, right after itself."""
    return add_step(job, job.blank.steps[index], index + 1)


def remove_step(job: Job, index: int) -> Job:
    """One step less; a blank keeps at least one."""
    if len(job.blank.steps) == 1:
        raise OutOfBoundsError("The number of steps", 0, "at least 1")
    return _with_steps(job, _without(job.blank.steps, index))


def move_step(job: Job, index: int, to: int) -> Job:
    """Do a step earlier or later; `to` is its place afterwards."""
    steps = list(job.blank.steps)
    steps.insert(max(0, min(to, len(steps) - 1)), steps.pop(index))
    return _with_steps(job, tuple(steps))


def set_step(job: Job, index: int, step: Step) -> Job:
    """Replace one step."""
    return _with_steps(job, _with(job.blank.steps, index, step))


def replace_stock(job: Job, step: Step) -> Job:
    """Make the bar of something else; what is done to it afterwards stays. Cups that were there are kept.

    Wood laid into the mould comes before its casting, so it brings one along.
    """
    cups = job.cast.cups
    work = tuple(s for s in job.blank.steps if s.kind not in STOCK_KINDS)
    if isinstance(step, CastStep):
        stock: tuple[Step, ...] = (step.with_(cups=cups),)
    elif isinstance(step, InsertStep):
        stock = (step, CastStep(cups=cups))
    else:
        stock = (step,)
    return _with_steps(job, (*stock, *work))


def set_steps(job: Job, steps: tuple[Step, ...]) -> Job:
    """Replace the whole list of steps."""
    return _with_steps(job, steps)


def layer_bounds_mm(layers: tuple[Layer, ...], glue_mm: float, *, centred: bool) -> tuple[float, ...]:
    """Where one layer ends and the next begins: from the pile's middle, or from its start."""
    total = sum(layer.thickness_mm for layer in layers) + glue_mm * (len(layers) - 1)
    place, found = (-total / 2 if centred else 0.0), []
    for layer in layers[:-1]:
        place += layer.thickness_mm + glue_mm
        found.append(place - glue_mm / 2)
    return tuple(found)


def shift_layer_boundary(layers: tuple[Layer, ...], index: int, by_mm: float) -> tuple[Layer, ...]:
    """Move the boundary after a layer; both its neighbours keep at least half a millimetre."""
    one, other = layers[index], layers[index + 1]
    by = max(0.5 - one.thickness_mm, min(other.thickness_mm - 0.5, by_mm))
    pair = (
        one.with_(thickness_mm=round(one.thickness_mm + by, 2)),
        other.with_(thickness_mm=round(other.thickness_mm - by, 2)),
    )
    return (*layers[:index], *pair, *layers[index + 2 :])


def take_design(job: Job, steps: tuple[Step, ...]) -> Job:
    """Begin the blank from a design; the cups of a casting that is there already are kept."""
    cups = job.cast.cups
    kept = tuple(step.with_(cups=cups) if isinstance(step, CastStep) and cups else step for step in steps)
    return _with_steps(job, kept)


def usual_load_pct(pigment: Pigment) -> float:
    """What a maker would begin with for this kind of pigment, in % of the mixed mass."""
    kind = catalogue().kind(pigment.kind)
    return kind.default_pct if kind else 1.0


def _replaced(found: Any, path: Path, value: Any) -> Any:
    if not path:
        return value
    here, rest = path[0], path[1:]
    if isinstance(here, int) and isinstance(found, tuple) and 0 <= here < len(found):
        return (*found[:here], _replaced(found[here], rest, value), *found[here + 1 :])
    if isinstance(here, str) and isinstance(found, Document) and here in type(found).model_fields:
        return found.with_(**{here: _replaced(getattr(found, here), rest, value)})
    raise BadFieldError(str(here), "is not a place in a job")


def _with_cups(job: Job, cups: tuple[Cup, ...]) -> Job:
    index = job.cast_index
    if index is None:
        raise NothingToDoError("A colour", "a casting among the blank's steps")
    steps = _with(job.blank.steps, index, job.cast.with_(cups=cups))
    return job.with_(blank=job.blank.with_(steps=steps))


def _with_steps(job: Job, steps: tuple[Step, ...]) -> Job:
    return job.with_(blank=job.blank.with_(steps=steps))


def _with(items: tuple[Any, ...], index: int, item: Any) -> tuple[Any, ...]:
    return (*items[:index], item, *items[index + 1 :])


def _shared_out(cups: tuple[Cup, ...]) -> tuple[Cup, ...]:
    total = sum(cup.share for cup in cups)
    return tuple(cup.with_(share=max(round(cup.share / total * 100, 4), _LEAST_TYPED_PCT)) for cup in cups)


def _without(items: tuple[Any, ...], index: int) -> tuple[Any, ...]:
    return (*items[:index], *items[index + 1 :])


def _pen(job: Job, wanted: str) -> Pen:
    if job.pen is None:
        raise NothingToDoError(wanted, "a pen")
    return job.pen


def _fresh(name: str, taken: list[str]) -> str:
    if name not in taken:
        return name
    number = next(n for n in range(2, 1000) if f"{name[:75]} {n}" not in taken)
    return f"{name[:75]} {number}"
