"""One casting's resin: volumes, masses, parts A and B, pigments, and how well the scale can weigh them."""

from __future__ import annotations

import math

from msgspec.structs import replace

from orvek.craft.moulding import AnyMould, cavity_ml
from orvek.craft.pouring import (
    dosed_density,
    fitting_vessel_ml,
    initiator_g,
    least_dose_g,
    mass_ratio,
    on_scale_g,
    parted,
    ratio_uncertainty,
    resin_volume_ml,
    stock_dose,
)
from orvek.documents import BarMould, Cup, Insert, Job, Known, LoafMould, PigmentDose, Pour, Resin, catalogue
from orvek.planning.layout import BarsPlan
from orvek.planning.pour.inserts import InsertPlan, insert_plan
from orvek.planning.pour.results import CupPlan, DosePlan, MixturePlan
from orvek.planning.working import Figure, Term, known_term
from orvek.quantities import Dimension, decimal

_ML, _G, _PCT, _MM = Dimension.VOLUME, Dimension.MASS, Dimension.PERCENT, Dimension.LENGTH
_UNKNOWN_PIGMENT_DENSITY = Known(value=1.5, standing="guess", source="kind of pigment not known")


def mixture_plan(job: Job, bars: BarsPlan, vessels_ml: tuple[float, ...]) -> MixturePlan | None:
    """Everything about the resin of one casting; None without a mould."""
    pour = job.pour
    if pour.mould is None:
        return None
    cavity = _cavity_figure(pour.mould)
    mould = _filled_figure(cavity, pour.mould, bars)
    insert = insert_plan(job, bars.section)
    volume = _volume_figure(mould, cavity, pour, insert)
    if pour.resin is None:
        return MixturePlan(cavity, mould, insert, volume, None, None, ())
    ratio = ratio_figure(pour.resin)
    cups, mixed = job.cast.cups, job.cast.wet
    solid = tuple(_chips_plan(cup, cups, mould, pour.resin) for cup in cups[: len(cups) - len(mixed)])
    volume = _beside_chips(volume, sum(cup.volume_ml.value for cup in solid), pour)
    shares = (sum(cup.share for cup in cups), sum(cup.share for cup in mixed))
    wet = (_cup_plan(cup, shares, volume, ratio, pour, pour.resin, vessels_ml) for cup in mixed)
    planned = (*solid, *wet)
    return MixturePlan(cavity, mould, insert, volume, _mass_figure(planned, volume, pour.resin), ratio, planned)


def ratio_figure(resin: Resin) -> Figure:
    """B to A by mass, from the label's ratio."""
    a = Term("A", "parts of A", resin.ratio_a, Dimension.RATIO, resin.ratio_standing)
    b = Term("B", "parts of B", resin.ratio_b, Dimension.RATIO, resin.ratio_standing)
    if resin.ratio_by == "mass":
        # The same arithmetic as an initiator dosed in percent of the resin.
        value = initiator_g(1.0, 100 * resin.ratio_b / resin.ratio_a)
        return Figure("B to A by mass", value, Dimension.RATIO, "r = B / A", (a, b), "the label's ratio by mass")
    value = mass_ratio(resin.ratio_a, resin.ratio_b, resin.density_a.value, resin.density_b.value)
    densities = (
        known_term("ρA", "density of A", resin.density_a, Dimension.DENSITY),
        known_term("ρB", "density of B", resin.density_b, Dimension.DENSITY),
    )
    return Figure(
        "B to A by mass",
        value,
        Dimension.RATIO,
        "r = (B / A) · (ρB / ρA)",
        (a, b, *densities),
        "from the ratio by volume",
    )


def _cavity_figure(mould: AnyMould) -> Figure:
    length = Term("l", "length", mould.length_mm, _MM)
    if isinstance(mould, BarMould | LoafMould):
        across = (Term("w", "width", mould.width_mm, _MM), Term("d", "depth", mould.depth_mm, _MM))
        return Figure("One cavity", cavity_ml(mould), _ML, "V = w · d · l / 1000", (*across, length), "geometry")
    across_round = Term("D", "inside diameter", mould.diameter_mm, _MM)
    return Figure("One cavity", cavity_ml(mould), _ML, "V = π/4 · D² · l / 1000", (across_round, length), "geometry")


def _filled_figure(cavity: Figure, mould: AnyMould, bars: BarsPlan) -> Figure:
    count = 1 if isinstance(mould, LoafMould) else bars.bars_per_casting
    terms = (Term("n", "cavities filled", count, Dimension.COUNT), Term("V", "one cavity", cavity.value, _ML))
    return Figure("Cavities filled", count * cavity.value, _ML, "V = n · V cavity", terms, "one casting")


def _volume_figure(mould: Figure, cavity: Figure, pour: Pour, lying: InsertPlan | None) -> Figure:
    insert = pour.insert or Insert()
    inserts_ml = min(lying.volume_ml.value, cavity.value) * mould.value / cavity.value if lying else 0.0
    volume = resin_volume_ml(
        mould.value, inserts_ml, insert.void_fraction, insert.soak_fraction, pour.overage_pct / 100
    )
    terms = [Term("V", "cavities filled", mould.value, _ML), Term("o", "overage", pour.overage_pct, _PCT)]
    if lying is None:
        return Figure("Resin to pour", volume, _ML, "V resin = V · (1 + o)", tuple(terms), "volume and overage")
    terms[1:1] = [
        Term("Vi", "inserts, all cavities", inserts_ml, _ML),
        Term("φ", "pores of the insert", insert.void_fraction, Dimension.FRACTION),
        Term("s", "part of the pores that fills", insert.soak_fraction, Dimension.FRACTION, "guess"),
    ]
    formula = "V resin = (V − Vi + φ · s · Vi) · (1 + o)"
    return Figure("Resin to pour", volume, _ML, formula, tuple(terms), "what the insert displaces and soaks up")


def _beside_chips(volume: Figure, chips_ml: float, pour: Pour) -> Figure:
    """What is mixed where chips fill a part of the mould."""
    if chips_ml <= 0:
        return volume
    value = volume.value - chips_ml * (1 + pour.overage_pct / 100)
    terms = (*volume.terms, Term("Vc", "chips laid in", chips_ml, _ML))
    return replace(volume, value=max(0.0, value), formula=f"{volume.formula} − Vc · (1 + o)", terms=terms)


def _chips_plan(cup: Cup, cups: tuple[Cup, ...], mould: Figure, resin: Resin) -> CupPlan:
    """Chips that were cast before: their volume and mass; nothing is mixed of them."""
    total = sum(one.share for one in cups)
    density = dosed_density(resin.density_mix.value, tuple((d.load_pct / 100, _density(d)) for d in cup.pigments))
    share = Term("share", "of the casting", 100 * cup.share / total, _PCT)
    volume = mould.value * cup.share / total
    none = Figure(f"{cup.name}: nothing is mixed", 0.0, _G, "chips are solid", (), "cast before, broken up, laid in")
    exact = Figure(f"{cup.name}: no ratio", 0.0, _PCT, "chips are solid", (), "cast before", digits=1)
    filled = Term("V", "cavities filled", mould.value, _ML)
    return CupPlan(
        name=cup.name,
        colour=cup.colour,
        share_pct=Figure(f"{cup.name}: share", share.value, _PCT, "share = typed / Σ typed", (share,), "laid in", 0),
        volume_ml=Figure(f"{cup.name}: chips", volume, _ML, "Vc = V · share", (filled, share), "laid in as solids"),
        mass_g=Figure(f"{cup.name}: chips to lay in", volume * density, _G, "m = Vc · ρ", (filled, share), "solid"),
        part_a_g=none,
        part_b_g=none,
        weighed_a_g=0.0,
        weighed_b_g=0.0,
        doses=(),
        ratio_error_pct=exact,
        ratio_uncertainty_pct=exact,
        vessel_ml=math.inf,
        is_solid=True,
    )


def _mass_figure(cups: tuple[CupPlan, ...], volume: Figure, resin: Resin) -> Figure:
    if not cups:
        density = known_term("ρ", "density mixed", resin.density_mix, Dimension.DENSITY)
        value = volume.value * resin.density_mix.value
        return Figure("To mix", value, _G, "m = V · ρ", (Term("V", "resin", volume.value, _ML), density), "geometry")
    terms = tuple(Term(f"cup {n}", cup.name, cup.mass_g.value, _G) for n, cup in enumerate(cups, 1) if not cup.is_solid)
    return Figure("To mix", sum(t.value for t in terms), _G, "m = Σ cups", terms, "what stays in the cups included")


def _cup_plan(
    cup: Cup,
    shares: tuple[float, float],
    volume: Figure,
    ratio: Figure,
    pour: Pour,
    resin: Resin,
    vessels_ml: tuple[float, ...],
) -> CupPlan:
    """One cup; `shares` are those of all cups, and of those that are mixed, added up."""
    total, mixed = shares
    share = Figure(
        f"{cup.name}: share",
        100 * cup.share / total,
        _PCT,
        "share = typed / Σ typed",
        (Term("typed", cup.name, cup.share, _PCT), Term("Σ typed", "all cups", total, _PCT)),
        "shares that do not make 100 % are scaled so that they do",
        digits=0 if abs(cup.share - round(cup.share)) < 0.05 else 1,
    )
    mass, density = _cup_mass(cup, share, mixed / total, volume, pour, resin)
    in_cup = Figure(
        f"{cup.name}: in the cup",
        mass.value / density,
        _ML,
        "V = m / ρ",
        (
            Term("m", "mass in the cup", mass.value, _G),
            Term("ρ", "density with pigments", density, Dimension.DENSITY),
        ),
        "what is poured and what stays in the cup",
    )
    doses = tuple(_dose_plan(dose, mass.value, ratio.value, pour) for dose in cup.pigments)
    part_a, part_b = _parts(cup, mass, ratio, doses, pour)
    weighed_a = on_scale_g(part_a.value, pour.scale.resolution_g)
    weighed_b = on_scale_g(part_b.value, pour.scale.resolution_g)
    return CupPlan(
        name=cup.name,
        colour=cup.colour,
        share_pct=share,
        volume_ml=in_cup,
        mass_g=mass,
        part_a_g=part_a,
        part_b_g=part_b,
        weighed_a_g=weighed_a,
        weighed_b_g=weighed_b,
        doses=doses,
        ratio_error_pct=_ratio_error(cup, weighed_a, weighed_b, doses, ratio.value),
        ratio_uncertainty_pct=_ratio_spread(cup, part_a.value + _carrier_g(doses), ratio.value, pour),
        vessel_ml=cup.vessel_ml or fitting_vessel_ml(in_cup.value, vessels_ml) or max(vessels_ml, default=0),
    )


def _cup_mass(cup: Cup, share: Figure, mixed: float, volume: Figure, pour: Pour, resin: Resin) -> tuple[Figure, float]:
    """What a cup holds, and its density; `mixed` is the part of the casting that is not chips."""
    density = dosed_density(resin.density_mix.value, tuple((d.load_pct / 100, _density(d)) for d in cup.pigments))
    mass = volume.value * share.value / 100 / mixed * density + pour.cup_residue_g
    terms = (
        Term("V", "resin to pour", volume.value, _ML),
        Term("share", cup.name, share.value, _PCT),
        Term("ρ", "density with pigments", density, Dimension.DENSITY, resin.density_mix.standing),
        Term("c", "left in the cup", pour.cup_residue_g, _G, "practice"),
    )
    beside = (Term("w", "of the casting is mixed, not chips", 100 * mixed, _PCT),) if mixed < 1 else ()
    formula = "m = V · share / w · ρ + c" if beside else "m = V · share · ρ + c"
    label = f"{cup.name}: in the cup"
    return Figure(label, mass, _G, formula, (*terms, *beside), "pigments count by their density"), density


def _density(dose: PigmentDose) -> float:
    kind = catalogue().kind(dose.pigment.kind)
    return (kind.density_g_ml if kind else _UNKNOWN_PIGMENT_DENSITY).value


def _parts(cup: Cup, mass: Figure, ratio: Figure, doses: tuple[DosePlan, ...], pour: Pour) -> tuple[Figure, Figure]:
    """A and B to weigh. The carrier of each stock is part A, so it is taken off the fresh A."""
    pigment_g = sum(dose.pigment_g.value for dose in doses)
    resin_g = mass.value - pigment_g
    part_a, part_b = parted(resin_g, ratio.value)
    carrier_g = sum(dose.weighed_g - dose.pigment_g.value for dose in doses if dose.stock_pct)
    terms = (
        Term("m", "mass in the cup", mass.value, _G),
        Term("p", "pigments", pigment_g, _G),
        Term("r", "B to A by mass", ratio.value, Dimension.RATIO),
    )
    source = f"weighed to {decimal(pour.scale.resolution_g)} g"
    a = Figure(f"{cup.name}: part A", part_a, _G, "A = (m − p) / (1 + r)", terms, source)
    b = Figure(
        f"{cup.name}: part B",
        part_b,
        _G,
        "B = A · r",
        (Term("A", "part A, all of it", part_a, _G), terms[2]),
        source,
    )
    if carrier_g:
        carrier = Term("k", "part A that comes with the stock", carrier_g, _G)
        a = replace(a, value=part_a - carrier_g, formula="A fresh = (m − p) / (1 + r) − k", terms=(*terms, carrier))
    return a, b


def _dose_plan(dose: PigmentDose, cup_g: float, ratio: float, pour: Pour) -> DosePlan:
    pigment = Figure(
        f"{dose.pigment.name}",
        cup_g * dose.load_pct / 100,
        _G,
        "p = m · load",
        (Term("m", "mass in the cup", cup_g, _G), Term("load", "of the mixed mass", dose.load_pct, _PCT)),
        "pigment included in the mass",
        digits=2,
    )
    tolerance = pour.dose_tolerance_pct / 100
    least = Figure(
        "Smallest dose this scale weighs",
        least_dose_g(pour.scale.resolution_g, tolerance),
        _G,
        "least = d / e",
        (
            Term("d", "step of the scale", pour.scale.resolution_g, _G),
            Term("e", "colour doses within", pour.dose_tolerance_pct, _PCT),
        ),
        "worst case of one reading (GUM, rectangular)",
        digits=2,
    )
    weighed = pigment.value
    if dose.stock_pct:
        weighed = stock_dose(cup_g, dose.load_pct / 100, dose.stock_pct / 100, ratio).stock_g
    return DosePlan(
        name=dose.pigment.name,
        colour=dose.pigment.colour,
        pigment_g=pigment,
        weighed_g=weighed,
        stock_pct=dose.stock_pct,
        least_g=least,
        is_weighable=dose.load_pct == 0 or weighed >= least.value - 1e-9,
        drops=round(1000 * weighed / dose.pigment.drop_mg.value) if dose.pigment.drop_mg else None,
    )


def _carrier_g(doses: tuple[DosePlan, ...]) -> float:
    """Part A that comes with pigments weighed as stocks."""
    return sum(dose.weighed_g - dose.pigment_g.value for dose in doses if dose.stock_pct)


def _ratio_error(cup: Cup, a_g: float, b_g: float, doses: tuple[DosePlan, ...], ratio: float) -> Figure:
    whole_a = a_g + _carrier_g(doses)
    error = 100 * (b_g / whole_a / ratio - 1) if whole_a > 0 else 100.0
    terms = (
        Term("A", "part A as the scale shows it, stock included", whole_a, _G),
        Term("B", "part B as the scale shows it", b_g, _G),
        Term("r", "B to A by mass", ratio, Dimension.RATIO),
    )
    return Figure(
        f"{cup.name}: ratio off by rounding",
        error,
        _PCT,
        "error = (B / A) / r − 1",
        terms,
        "rounding to the scale",
    )


def _ratio_spread(cup: Cup, part_a_g: float, ratio: float, pour: Pour) -> Figure:
    tared = "√(2r² + 2)" if pour.weighing == "tared" else "√(r² + (1 + r)² + 1)"
    value = 200 * ratio_uncertainty(pour.scale.resolution_g, part_a_g, ratio, pour.weighing)
    terms = (
        Term("d", "step of the scale", pour.scale.resolution_g, _G),
        Term("A", "part A, stock included", part_a_g, _G),
        Term("r", "B to A by mass", ratio, Dimension.RATIO),
    )
    formula = f"U = 2 · {tared} · (d/√12) / (A · r)"
    return Figure(
        f"{cup.name}: reading the scale",
        value,
        _PCT,
        formula,
        terms,
        "GUM, rectangular reading, k = 2 (95 %)",
    )
