"""The demo job, worked out by hand."""

from __future__ import annotations

import pytest

from orvek.documents import Job, RoundStep, Shop, SquareStep, deeds
from orvek.planning import Plan, Severity, Station, StationState, apply_remedy, plan


@pytest.fixture
def planned(tideline: Job, shop: Shop) -> Plan:
    return plan(tideline, shop)


def test_bars(planned: Plan) -> None:
    # 5 good pens, 15 % spoilt: 5 / 0.85 = 5.88
    assert planned.bars.blanks.value == 6
    assert planned.bars.bars.value == 6
    assert (planned.bars.castings, planned.bars.bars_per_casting, planned.bars.blanks_per_bar) == (1, 6, 1)


def test_length_and_tubes(planned: Plan) -> None:
    assert planned.pen is not None
    assert planned.layout is not None
    # (47.5 + 3) + (43.2 + 3) + 3 cuts of 1.6 + 2 ends of 4, and 1.5 where each bit comes out of resin
    assert planned.pen.length_needed_mm.value == pytest.approx(112.5)
    assert planned.pen.least_length_mm == pytest.approx(109.5)
    # packed in 132 mm: (132 - 50.5 - 46.2 - 1.6) / 2 + 1.5
    assert planned.layout.starts_mm == pytest.approx((18.35, 70.45))
    assert len(planned.layout.kerfs) == 3
    stretch = sum(span.length_mm for span in (*planned.layout.kerfs, *planned.layout.waste))
    assert stretch + 50.5 + 46.2 + 2 * 1.5 == pytest.approx(132)


def test_volumes_and_masses(planned: Plan) -> None:
    mixture = planned.mixture
    assert mixture is not None
    assert mixture.mould_ml.value == pytest.approx(6 * 20 * 20 * 132 / 1000)
    assert mixture.volume_ml.value == pytest.approx(316.8 * 1.06)
    assert mixture.ratio is not None
    assert mixture.ratio.value == pytest.approx(0.98 / 1.12 / 2)
    slack, foam = mixture.cups
    # 2 % pearl of 3.0 g/ml and 0.2 % paste of 1.4 g/ml in resin of 1.08 g/ml; 4 g stay in the cup
    density = 1 / (0.978 / 1.08 + 0.02 / 3.0 + 0.002 / 1.4)
    assert slack.mass_g.value == pytest.approx(335.808 * 0.64 * density + 4)
    assert [dose.pigment_g.value for dose in slack.doses] == pytest.approx(
        [0.02 * slack.mass_g.value, 0.002 * slack.mass_g.value]
    )
    for cup in (slack, foam):
        pigments = sum(dose.pigment_g.value for dose in cup.doses)
        assert cup.part_a_g.value + cup.part_b_g.value + pigments == pytest.approx(cup.mass_g.value)
        assert cup.part_b_g.value / cup.part_a_g.value == pytest.approx(0.4375)
        assert abs(cup.weighed_a_g - cup.part_a_g.value) <= 0.05
    assert (slack.vessel_ml, foam.vessel_ml) == (400, 250)


def test_time_and_cost(planned: Plan) -> None:
    assert planned.pace is not None
    assert planned.costs is not None
    assert planned.mixture is not None
    assert planned.pace.working_min.value == pytest.approx(2 * 3 + 6 * 20 / 60)
    resin = sum(c.part_a_g.value + c.part_b_g.value for c in planned.mixture.cups) * 26.5 / 1000
    pearl = (
        planned.mixture.cups[0].doses[0].pigment_g.value * 95 + planned.mixture.cups[1].doses[0].pigment_g.value * 88
    ) / 1000
    paste = planned.mixture.cups[0].doses[1].pigment_g.value * 60 / 1000
    assert planned.costs.total.value == pytest.approx(resin + pearl + paste)


def test_findings(planned: Plan, tideline: Job, shop: Shop) -> None:
    titles = [finding.title for finding in planned.findings]
    assert titles == [
        "Pitch paste in Slack water is too little to weigh.",
        "The tube may show at 4 of 4 ends.",
    ]
    assert not planned.has_stop
    assert planned.state(Station.PEN) is StationState.READY
    assert planned.state(Station.POUR) is StationState.NEEDS_A_LOOK
    stock = planned.findings[0].remedies[0]
    assert stock.label == "Weigh 2.4 g of a 20 % stock"
    better = plan(apply_remedy(tideline, stock), shop)
    assert titles[0] not in [finding.title for finding in better.findings]
    assert better.mixture is not None
    cup, before = better.mixture.cups[0], planned.mixture.cups[0]  # type: ignore[union-attr]
    # The carrier of the stock is part A: 4/5 of 2.39 g less of it is weighed fresh.
    assert before.part_a_g.value - cup.part_a_g.value == pytest.approx(0.8 * cup.doses[1].weighed_g)
    assert cup.part_b_g.value == pytest.approx(before.part_b_g.value)


def test_every_figure_shows_its_working(planned: Plan) -> None:
    assert planned.mixture is not None
    assert planned.costs is not None
    assert planned.pen is not None
    figures = [planned.mixture.volume_ml, planned.mixture.mass_g, planned.costs.total, planned.pen.length_needed_mm]
    for figure in figures:
        assert figure is not None
        assert figure.formula
        assert figure.terms
        assert figure.source
        assert figure.put_in()


def test_a_pen_alone_and_a_mould_alone_give_what_they_can(tideline: Job, shop: Shop) -> None:
    empty = plan(Job(), shop)
    assert [f.title for f in empty.findings] == ["Begin with the pen."]
    assert empty.state(Station.PEN) is StationState.EMPTY
    assert tideline.pen is not None
    pen_only = plan(deeds.choose_pen(Job(), tideline.pen), shop)
    assert pen_only.layout is not None
    assert pen_only.layout.length_mm == pytest.approx(112.5)
    assert pen_only.mixture is None
    assert tideline.pour.mould is not None
    mould_only = plan(deeds.choose_mould(Job(), tideline.pour.mould), shop)
    assert mould_only.mixture is not None
    assert mould_only.mixture.mass_g is None
    assert mould_only.findings[0].severity is Severity.NOTE


def test_a_bar_turned_round_and_squared_again(tideline: Job, shop: Shop) -> None:
    rounded = deeds.add_step(tideline, RoundStep(diameter_mm=16))
    laid = plan(rounded, shop).layout
    assert laid is not None
    assert (laid.width_mm, laid.is_round) == (16, True)
    squared = plan(deeds.add_step(rounded, SquareStep(side_mm=18)), shop).layout
    assert squared is not None
    assert squared.width_mm == pytest.approx(16 / 2**0.5)
    assert any(
        f.title == "The bar is thinner than the barrel."
        for f in plan(deeds.add_step(rounded, SquareStep()), shop).findings
    )
