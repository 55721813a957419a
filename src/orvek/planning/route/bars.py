"""Bars that are sold as they are: sawn to length, squared and looked over, labelled."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.planning.findings import Station
from orvek.planning.results import Plan
from orvek.planning.route.gluing import cut_line, piece_used
from orvek.planning.route.making import SAW, blanks_of, of, operation
from orvek.planning.route.results import Operation
from orvek.planning.working import Figure
from orvek.quantities import Dimension


def bars(plan: Plan) -> Iterator[Operation]:
    """From the casting or the glue-up to the bar with its label; nothing where pens are made."""
    if not plan.job.makes_bars:
        return
    blanks, units = blanks_of(plan), plan.units
    to_length = [cut for cut in plan.glue_up.cuts if cut.is_to_length] if plan.glue_up else []
    long = plan.job.laid[0].tube_length_mm if plan.job.laid else 0.0
    figure = Figure("Bar, long", long, Dimension.LENGTH, "as it is sold", (), "typed")
    yield operation(
        plan, "length", "length", Station.BATCH, pieces=blanks, lines=map(cut_line, to_length), cautions=(SAW,),
        settings=of("Bar", figure), uses=piece_used(plan),
    )  # fmt: skip
    yield operation(
        plan, "square", "square", Station.BATCH, pieces=blanks, words="Square the bars, look them over",
        lines=(
            f"Both ends square, {figure.written(units)} long; edges broken, faces flat and parallel.",
            "Wet it under a lamp: a void, a check, a glue line that gapes goes to What went wrong, not to a customer.",
        ),
        cautions=(SAW,), settings=of("Bar", figure),
    )  # fmt: skip
    yield operation(
        plan, "label", "label", Station.BATCH, pieces=blanks,
        lines=("Code, material, size and lot on one face; the same in the records.",),
    )  # fmt: skip
