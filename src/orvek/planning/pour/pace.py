"""Mixing and pouring time against the pot life on the label."""

from __future__ import annotations

from orvek.craft.pouring import pot_life_min, working_time_min
from orvek.documents import Job, Resin
from orvek.planning.layout import BarsPlan
from orvek.planning.pour.results import MixturePlan, PacePlan
from orvek.planning.working import Figure, Term, known_term
from orvek.quantities import Dimension


def pace_plan(job: Job, bars: BarsPlan, mixture: MixturePlan | None) -> PacePlan | None:
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
    return PacePlan(working, _pot_life(pour.resin, mixture))


def _pot_life(resin: Resin, mixture: MixturePlan | None) -> Figure | None:
    """The label's time, shorter for a cup that holds more than the label's."""
    label, label_g = resin.pot_life_min, resin.pot_life_mass_g
    if label is None:
        return None
    largest_g = max((cup.mass_g.value for cup in mixture.wet), default=label_g) if mixture else label_g
    return Figure(
        "The largest cup stays liquid",
        pot_life_min(label.value, label_g, largest_g),
        Dimension.DURATION,
        "t = label · (label's cup / largest cup) ^ p",
        (
            known_term("label", "pot life on the label", label, Dimension.DURATION),
            Term("label's cup", "mass that the label speaks of", label_g, Dimension.MASS),
            Term("largest cup", "of this casting", largest_g, Dimension.MASS),
        ),
        "a larger cup keeps more of its heat: p, 0 to 0.45, is from calculated cups and grows with the label's time; "
        "a smaller cup is given no longer than its label",
    )
