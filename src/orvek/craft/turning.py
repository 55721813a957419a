"""Turning: the wall that is left over the hole, and whether a bar cleans up round."""

from __future__ import annotations

# Finished walls over a tube, common workshop practice: slim pens are turned to 0.5 to 1 mm as a rule.
WANTED_WALL_MM = 0.8  # workshop practice; thinner walls are many pens' own and stand
THIN_WALL_MM = 0.5  # workshop practice: cracks on pressing become usual
LEAST_WALL_MM = 0.3  # estimate: less does not survive sanding
TUBE_WALL_MM = 0.35  # of a brass tube, where it was not measured: a guess
SPIGOT_UNDER_MM, SPIGOT_DIAMETERS = 0.05, 1.5  # thinner than its hole, and how long: workshop practice
RING_MORE_MM = 0.1  # so much longer a recess is than its ring (workshop practice)


def tube_inside_mm(outside_mm: float) -> float:
    """Across the inside of a brass tube that nobody measured: D − 2 w, a guess.

    >>> round(tube_inside_mm(8.15), 2)
    7.45
    """
    return outside_mm - 2 * TUBE_WALL_MM


def finished_wall_mm(finished_diameter_mm: float, hole_diameter_mm: float) -> float:
    """Wall left over the hole when the barrel is turned on its tube: r finished − r hole.

    Turned about the hole, so an off-centre hole does not thin it; it may leave a flat instead.
    """
    return (finished_diameter_mm - hole_diameter_mm) / 2


def clean_up_mm(bar_across_mm: float, finished_diameter_mm: float) -> float:
    """How far off centre the hole may lie before the barrel keeps a flat: w/2 − r finished."""
    return (bar_across_mm - finished_diameter_mm) / 2


def cleans_up_to_mm(width_mm: float, depth_mm: float, off_x_mm: float, off_y_mm: float) -> float:
    """The largest diameter that is round where the hole lies off the axis by so much: 2 · min(w/2 − |ex|, d/2 − |ey|).

    >>> cleans_up_to_mm(20, 16, 1.5, 0.25), cleans_up_to_mm(20, 16, 3.0, 0)
    (15.5, 14.0)
    """
    return 2 * min(width_mm / 2 - abs(off_x_mm), depth_mm / 2 - abs(off_y_mm))
