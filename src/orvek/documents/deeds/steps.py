"""Deeds on the steps of a blank."""

from orvek.documents.deeds.tuples import replaced, without
from orvek.documents.job.job import Job
from orvek.documents.shelf.material import Material
from orvek.documents.steps import STOCK_KINDS, CastStep, InsertStep, Layer, ReorientStep, Step, material_keys
from orvek.errors import OutOfBoundsError


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
    return _with_steps(job, without(job.blank.steps, index))


def move_step(job: Job, index: int, to: int) -> Job:
    """Do a step earlier or later; `to` is its place afterwards."""
    steps = list(job.blank.steps)
    steps.insert(max(0, min(to, len(steps) - 1)), steps.pop(index))
    return _with_steps(job, tuple(steps))


def set_step(job: Job, index: int, step: Step) -> Job:
    """Replace one step."""
    return _with_steps(job, replaced(job.blank.steps, index, step))


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


def carry_materials(job: Job, shelf: tuple[Material, ...]) -> Job:
    """The job with a copy of each of the maker's own materials that its steps or its soaking name, and of no other.

    A copy that the job has stays as it is, whatever became of the shelf: the blank was decided with it.
    """
    named = {key for step in job.blank.steps for key in material_keys(step)} | {job.treated_wood}
    held = {there.key: there for there in (*shelf, *job.blank.materials) if there.key in named}
    kept = tuple(held.values())
    return job if kept == job.blank.materials else job.with_(blank=job.blank.with_(materials=kept))


def take_design(job: Job, steps: tuple[Step, ...]) -> Job:
    """Begin the blank from a design; the cups of a casting that is there already are kept."""
    cups = job.cast.cups
    kept = tuple(step.with_(cups=cups) if isinstance(step, CastStep) and cups else step for step in steps)
    return _with_steps(job, kept)


def _with_steps(job: Job, steps: tuple[Step, ...]) -> Job:
    return job.with_(blank=job.blank.with_(steps=steps))


def take_out(job: Job, way: ReorientStep) -> Job:
    """Take the bar out of a bigger casting so: the last step that does is set, or one is put at the end."""
    steps, last = job.blank.steps, _last_way_out(job.blank.steps)
    if last is not None:
        return set_steps(job, (*steps[:last], way, *steps[last + 1 :]))
    is_as_it_was = way.angle_deg == way.shift_mm == way.across_mm == 0
    return job if is_as_it_was else set_steps(job, (*steps, way))


def steps_before_taking_out(steps: tuple[Step, ...]) -> tuple[Step, ...]:
    """The steps that make the casting: all before the last one that takes a bar out of it; all where none does."""
    last = _last_way_out(steps)
    return steps if last is None else steps[:last]


def _last_way_out(steps: tuple[Step, ...]) -> int | None:
    return max((n for n, step in enumerate(steps) if isinstance(step, ReorientStep)), default=None)
