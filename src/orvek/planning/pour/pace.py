"""Mixing and pouring time against the pot life on the label."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft.pouring import working_time_min
from orvek.documents import Job
from orvek.planning.results import BarsPlan
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension


class PacePlan(Struct, frozen=True):
    """Time on the clock that starts with the first drop of hardener."""

    working_min: Figure
    pot_life_min: float | None


def pace_plan(job: Job, bars: BarsPlan) -> PacePlan | None:
    """The time one casting takes from the first hardener; None without cups or resin."""
    pour, cups = job.pour, len(job.cast.wet)
    if pour.resin is None or cups == 0:
        return None
    working = Figure(
        "Stirring and pouring",
        working_time_min(cups, bars.bars_per_casting, pour.mix_min_per_cup, pour.pour_s_per_bar),
        Dimension.DURATION,
        "t = cups · stir + bars · pour / 60",
        (
            Term("cups", "stirred one after the other", cups, Dimension.COUNT),
            Term("stir", "hardener in and stirred", pour.mix_min_per_cup, Dimension.DURATION, "guess"),
            Term("bars", "in one casting", bars.bars_per_casting, Dimension.COUNT),
            Term("pour", "seconds a bar", pour.pour_s_per_bar, Dimension.RATIO, "guess"),
        ),
        "the clock starts with the first drop of hardener",
    )
    return PacePlan(working, pour.resin.pot_life_min.value if pour.resin.pot_life_min else None)
