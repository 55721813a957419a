"""Figures of single steps: what a cut does on the barrel, and how much of each material a bar has."""

from __future__ import annotations

from orvek.craft.segmenting import ArcCut, DiagonalCut
from orvek.documents import ArcStep, CutStep, Job, Material, Step
from orvek.planning.bar import widest_radius_mm
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension
from orvek.workpiece.lengths import sheet_mm

_MM, _DEG = Dimension.LENGTH, Dimension.ANGLE
_SOURCE = "derived, checked in three dimensions: z = z0 + r · cot a · cos(θ − θ0)"


def step_figures(step: Step, job: Job) -> tuple[Figure, ...]:
    """What is worth knowing of a step on the widest barrel; nothing for steps without a formula."""
    if isinstance(step, ArcStep):
        return _arc_figures(step, job)
    if not isinstance(step, CutStep) or not step.sheet:
        return ()
    sheet = sheet_mm(step)
    cut = DiagonalCut(step.angle_deg, sheet, step.kerf_mm)
    radius = widest_radius_mm(job)
    angle, r = Term("a", "angle to the axis", step.angle_deg, _DEG), Term("r", "widest finished radius", radius, _MM)
    t, k = Term("t", "sheet with its glue", sheet, _MM), Term("k", "kerf", step.kerf_mm, _MM)
    return (
        Figure("Band along the barrel", cut.band_mm, _MM, "band = t / sin a", (t, angle), _SOURCE, 2),
        Figure(
            "Length the line takes",
            cut.span_mm(radius),
            _MM,
            "span = 2 · r · cot a + t / sin a",
            (r, angle, t),
            _SOURCE,
        ),
        Figure("The bar grows by", cut.lengthening_mm, _MM, "(t − k) / sin a", (t, k, angle), _SOURCE, 2),
    )


def _arc_figures(step: ArcStep, job: Job) -> tuple[Figure, ...]:
    sheet, radius = sheet_mm(step), widest_radius_mm(job)
    cut = ArcCut(step.radius_mm, step.distance_mm, sheet)
    r, big = Term("r", "widest finished radius", radius, _MM), Term("R", "radius of the arc", step.radius_mm, _MM)
    d, t = Term("D", "arc's centre from the axis", step.distance_mm, _MM), Term("t", "sheet", sheet, _MM)
    source = "derived: z = z0 ± √(R² − (D − r · cos θ)²)"
    strain = "a dry wood sheet breaks at about 1 to 1.5 % (workshop practice): bend several thin ones"
    return (
        Figure("Below the surface", cut.depth_mm(radius), _MM, "depth = r − (D − R)", (r, d, big), source, 2),
        Figure("Half its length", cut.reach_mm(radius), _MM, "reach = √(R² − (D − r)²)", (big, d, r), source),
        Figure(
            "The sheet bends by", 100 * cut.bend_strain, Dimension.PERCENT, "strain = t / (2 R)", (t, big), strain, 1
        ),
    )


def amount_figure(there: Material, volume_ml: float, bar_ml: float, points: int) -> Figure:
    """Volume of one material in a bar, by counting evenly spread points."""
    density = there.density_g_ml
    return Figure(
        there.name,
        volume_ml,
        Dimension.VOLUME,
        "V = share of the points · V bar",
        (
            Term("V bar", "the bar", bar_ml, Dimension.VOLUME),
            Term("points", "spread evenly through it", points, Dimension.COUNT),
            Term("m", "mass, by the density", volume_ml * density.value, Dimension.MASS),
            Term("ρ", "density", density.value, Dimension.DENSITY, density.standing, density.source),
        ),
        "counted in the field; good to about 0.1 % of the bar",
    )
