"""What is to be said about the cups: shares, vessels, loads, small doses, and the scale."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from orvek.craft.pouring import ROOM_TO_STIR, STOCK_STRENGTHS_PCT, digits_of, fitting_vessel_ml
from orvek.documents import JOB, CastStep, Cup, PigmentDose, Scale, as_kind, catalogue, path_to
from orvek.documents.deeds import renormalise_shares, split_cup
from orvek.errors import OutOfBoundsError
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.pour.results import CupPlan, DosePlan
from orvek.planning.results import Plan
from orvek.quantities import decimal

# How far a dose may be off before it is seen, by kind: workshop practice.
_BEARS_PCT = {"pearl": 15.0, "flake": 15.0, "paste": 10.0, "dye": 5.0, "ink": 5.0}
_LEAST_SHARE_PCT = 1.0
_SHARES_WITHIN_PCT = 0.1  # rounding of typed shares


def shares(plan: Plan) -> Iterator[Finding]:
    """Shares that do not make 100 %."""
    cups = plan.job.cast.cups
    total = sum(cup.share for cup in cups)
    if not cups or abs(total - 100) <= _SHARES_WITHIN_PCT:
        return
    scaled = renormalise_shares(plan.job).cast.cups
    words = ", ".join(plan.units.pct(cup.share) for cup in scaled)
    edits = tuple(Edit(path_to(_cups_place(plan)[i].share), cup.share) for i, cup in enumerate(scaled))
    remedies = (*_the_rest(plan, total), Remedy(f"Write them as {words}", edits))
    because = f"The plan scales them so that they fill the mould: {words}."
    yield Finding(Severity.CAUTION, Station.POUR, f"The shares make {plan.units.pct(total)}.", because, remedies)


def _the_rest(plan: Plan, total: float) -> Iterator[Remedy]:
    """One cup takes what the others leave: the last, and of two the first as well, for nobody knows which was meant."""
    cups = plan.job.cast.cups
    for number in (len(cups) - 1, 0) if len(cups) == 2 else (len(cups) - 1,):
        rest = round(100 - (total - cups[number].share), 1)
        if len(cups) > 1 and rest >= _LEAST_SHARE_PCT:
            edit = Edit(path_to(_cups_place(plan)[number].share), rest)
            yield Remedy(f"{cups[number].name}: the rest, {plan.units.pct(rest)}", (edit,))


def vessels(plan: Plan) -> Iterator[Finding]:
    """Cups that run over, or leave no room to stir."""
    for index, (cup, planned) in enumerate(_cups(plan)):
        if planned.filled <= ROOM_TO_STIR:
            continue
        over = planned.filled > 1
        title = f"{cup.name} runs over its cup." if over else f"{cup.name} leaves little room to stir."
        volume, vessel = plan.units.ml(planned.volume_ml.value), plan.units.ml(planned.vessel_ml)
        because = f"{volume} in a cup of {vessel}; stirring wants a fifth of it free."
        severity = Severity.STOP if over else Severity.CAUTION
        yield Finding(severity, Station.POUR, title, because, tuple(_larger_vessel(plan, index, planned)))


def loads(plan: Plan) -> Iterator[Finding]:
    """Pigment loads above what is usual for their kind, or above what it bears."""
    units = plan.units
    for cup_index, (cup, _) in enumerate(_cups(plan)):
        for index, dose in enumerate(cup.pigments):
            kind = catalogue().kind(dose.pigment.kind)
            if kind is None or dose.load_pct <= kind.usual_high_pct:
                continue
            if dose.load_pct <= kind.most_pct:
                usual = f"{units.pct(kind.usual_low_pct)} to {units.pct(kind.usual_high_pct)} is usual"
                because = f"{units.pct(dose.load_pct)}; {usual}. Above {units.pct(kind.most_pct)} {kind.too_much}."
                edit = Edit(path_to(_dose_place(plan, cup_index, index).load_pct), kind.usual_high_pct)
                remedy = Remedy(f"Lower it to {units.pct(kind.usual_high_pct)}", (edit,))
                title = f"More {dose.pigment.name.lower()} than usual in {cup.name}."
                yield Finding(Severity.NOTE, Station.POUR, title, because, (remedy,))
                continue
            because = (
                f"{units.pct(dose.load_pct)} of {kind.name.lower()}; above {units.pct(kind.most_pct)} {kind.too_much}."
            )
            edit = Edit(path_to(_dose_place(plan, cup_index, index).load_pct), kind.most_pct)
            remedy = Remedy(f"Lower it to {units.pct(kind.most_pct)}", (edit,))
            yield Finding(
                Severity.CAUTION,
                Station.POUR,
                f"Much {dose.pigment.name.lower()} in {cup.name}.",
                because,
                (remedy,),
            )


def doses(plan: Plan) -> Iterator[Finding]:
    """Pigments that this scale cannot weigh closely enough, and stocks too weak for their load."""
    for cup_index, (cup, planned) in enumerate(_cups(plan)):
        for index, amount in enumerate(planned.doses):
            if not amount.is_weighable:
                yield _small_dose(plan, cup, planned, amount, (cup_index, index))
        if planned.part_a_g.value < 0:
            yield _weak_stock(plan, cup_index, cup, planned)


def ratio(plan: Plan) -> Iterator[Finding]:
    """Whether rounding and reading the scale keep the ratio within what the resin bears."""
    units = plan.units
    resin = plan.job.pour.resin
    family = plan.shop.family(resin.family) if resin else None
    tolerance = family.ratio_tolerance_pct.value if family else 3.0
    step = plan.job.pour.scale.resolution_g
    for cup, planned in _cups(plan):
        off = abs(planned.ratio_error_pct.value)
        total = off + planned.ratio_uncertainty_pct.value
        if planned.is_solid:
            continue
        if planned.weighed_b_g <= 0:
            because = f"{units.g(planned.part_b_g.value, 2)} of part B is less than half a step of {decimal(step)} g."
            title = f"The scale cannot weigh the hardener for {cup.name}."
            yield Finding(Severity.STOP, Station.POUR, title, because, tuple(_finer_scale(plan)))
        elif total > tolerance and planned.part_a_g.value >= 0:
            severity = Severity.STOP if total > 3 * tolerance else Severity.CAUTION
            because = (
                f"Rounding to {decimal(step)} g puts B to A {units.pct(off)} off, reading the scale adds up to "
                f"{units.pct(planned.ratio_uncertainty_pct.value)}; this resin bears {units.pct(tolerance)}."
            )
            title = f"{cup.name} is a small cup for this scale."
            yield Finding(severity, Station.POUR, title, because, tuple(_finer_scale(plan)))


def capacity(plan: Plan) -> Iterator[Finding]:
    """Cups heavier than the scale carries."""
    units = plan.units
    scale = plan.job.pour.scale
    for index, (cup, planned) in enumerate(_cups(plan)):
        if planned.mass_g.value <= scale.capacity_g:
            continue
        because = (
            f"{units.g(planned.mass_g.value, 0)} and the cup itself, on a scale for {units.g(scale.capacity_g, 0)}."
        )
        larger = [s for s in plan.shop.scales if s.capacity_g > planned.mass_g.value * 1.1]
        remedies = [_take_scale(larger[0])] if larger else [_split(plan, index)]
        yield Finding(
            Severity.STOP,
            Station.POUR,
            f"{cup.name} is too heavy for the scale.",
            because,
            tuple(r for r in remedies if r),
        )


STATION = Station.POUR
CHECKS: tuple[Callable[[Plan], Iterator[Finding]], ...] = (shares, vessels, loads, doses, ratio, capacity)


def _cups(plan: Plan) -> Iterator[tuple[Cup, CupPlan]]:
    if plan.mixture is not None:
        yield from zip(plan.job.cast.cups, plan.mixture.cups, strict=bool(plan.mixture.cups))


def _cups_place(plan: Plan) -> tuple[Cup, ...]:
    return as_kind(CastStep, JOB.blank.steps[plan.job.cast_index or 0]).cups


def _dose_place(plan: Plan, cup: int, dose: int) -> PigmentDose:
    return _cups_place(plan)[cup].pigments[dose]


def _larger_vessel(plan: Plan, index: int, planned: CupPlan) -> Iterator[Remedy]:
    larger = fitting_vessel_ml(planned.volume_ml.value, plan.shop.vessels_ml)
    if larger:
        yield Remedy(f"Mix it in {plan.units.ml(larger)}", (Edit(path_to(_cups_place(plan)[index].vessel_ml), larger),))
    elif split := _split(plan, index):
        yield split


def _split(plan: Plan, index: int) -> Remedy | None:
    try:
        cups = split_cup(plan.job, index).cast.cups
    except OutOfBoundsError:
        return None
    return Remedy("Mix it in two cups", (Edit(path_to(_cups_place(plan)), cups),))


def _small_dose(plan: Plan, cup: Cup, planned: CupPlan, amount: DosePlan, place: tuple[int, int]) -> Finding:
    step = plan.job.pour.scale.resolution_g
    because = (
        f"{plan.units.g(amount.weighed_g, 2)} on a scale with steps of {decimal(step)} g; to be within "
        f"{plan.units.pct(plan.job.pour.dose_tolerance_pct)} it takes {plan.units.g(amount.least_g.value, 2)}."
    )
    remedies = [
        *_as_stock(plan, planned, amount, place),
        *_finer_scale(plan, amount),
    ]
    # What the eye tells apart decides: a pearl may be off by more than a dye.
    kind = cup.pigments[place[1]].pigment.kind
    off = 100 * step / amount.weighed_g if amount.weighed_g > 0 else 100.0
    bears = off <= _BEARS_PCT.get(kind, 5.0)
    title = f"{amount.name} in {cup.name} is {'hard' if bears else 'too little'} to weigh."
    return Finding(Severity.NOTE if bears else Severity.CAUTION, Station.POUR, title, because, tuple(remedies))


def _as_stock(plan: Plan, planned: CupPlan, amount: DosePlan, place: tuple[int, int]) -> Iterator[Remedy]:
    """The strongest usual stock that is heavy enough to weigh and does not crowd out part A."""
    digits = max(1, digits_of(plan.job.pour.scale.resolution_g))
    for strength in STOCK_STRENGTHS_PCT:
        stock_g = amount.pigment_g.value * 100 / strength
        if stock_g >= amount.least_g.value and stock_g < 0.8 * planned.mass_g.value / (1 + _ratio(plan)):
            edit = Edit(path_to(_dose_place(plan, *place).stock_pct), strength)
            yield Remedy(f"Weigh {plan.units.g(stock_g, digits)} of a {plan.units.pct(strength)} stock", (edit,))
            return


def _ratio(plan: Plan) -> float:
    found = plan.mixture.ratio if plan.mixture else None
    return found.value if found else 1.0


def _weak_stock(plan: Plan, index: int, cup: Cup, planned: CupPlan) -> Finding:
    edits = tuple(
        Edit(path_to(_dose_place(plan, index, n).stock_pct), None)
        for n, dose in enumerate(cup.pigments)
        if dose.stock_pct
    )
    because = f"The stock brings more part A than {cup.name} needs: {plan.units.g(-planned.part_a_g.value)} too much."
    title = f"The stock is too weak for {cup.name}."
    return Finding(Severity.STOP, Station.POUR, title, because, (Remedy("Weigh the pigment straight", edits),))


def _finer_scale(plan: Plan, amount: DosePlan | None = None) -> Iterator[Remedy]:
    """The coarsest scale that is fine enough for a dose; for a ratio the finest, because both readings count."""
    now = plan.job.pour.scale
    heaviest = max(planned.mass_g.value for _, planned in _cups(plan))
    finer = [s for s in plan.shop.scales if s.resolution_g < now.resolution_g and s.capacity_g > 1.1 * heaviest]
    if amount is None:
        if finer:
            yield _take_scale(min(finer, key=lambda scale: scale.resolution_g))
        return
    need = amount.weighed_g * plan.job.pour.dose_tolerance_pct / 100
    finer = [scale for scale in finer if scale.resolution_g <= need]
    if finer:
        yield _take_scale(max(finer, key=lambda scale: scale.resolution_g))


def _take_scale(scale: Scale) -> Remedy:
    return Remedy(f"Use {scale.name}, {decimal(scale.resolution_g)} g", (Edit(path_to(JOB.pour.scale), scale),))
