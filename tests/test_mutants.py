"""Job files damaged by hand: what can be read is planned, reported, carded and pictured; what cannot is a sentence."""

from __future__ import annotations

import json
from collections.abc import Callable
from contextlib import suppress
from datetime import date
from functools import partial

import pytest

from orvek.cards import every as cards
from orvek.cards.picture_file import VIEWS, picture_png, unrolled_svg
from orvek.documents import Job, from_text
from orvek.errors import OrvekError
from orvek.planning import Plan, apply_remedy, plan
from orvek.store import demo_shop
from orvek.workpiece.reference import evaluate_reference
from tests.mutants import mutants

SEEDS = range(2)  # of 250 files each; `script/test --long` goes on
_SHOP = demo_shop()


@pytest.mark.parametrize("seed", [*SEEDS, *(pytest.param(n, marks=pytest.mark.long) for n in range(2, 80))])
def test_a_damaged_job_file_is_a_job_or_a_sentence(seed: int) -> None:
    read = 0
    for number, text in enumerate(mutants(seed, 250)):
        job = _read(text)
        if job is None:
            continue
        read += 1
        planned = plan(job, _SHOP)
        assert not planned.failed, (planned.failed, text)
        _check_findings(job, planned)
        report = cards.report_json(planned, _SHOP.preferences.units)
        json.loads(report, parse_constant=lambda word: pytest.fail(f"{word} is no JSON"))
        cards.report_text(planned, _SHOP.preferences.units)
        if number % 25 == 0:
            _print_everything(planned)
    assert read > 30


def _read(text: str) -> Job | None:
    sentence = ""
    try:
        return from_text(text)
    except OrvekError as error:
        sentence = str(error)
    assert 0 < len(sentence) < 400
    return None


def _check_findings(job: Job, planned: Plan) -> None:
    for finding in planned.findings:
        assert len(finding.title) <= 140
        assert len(finding.because) <= 420
        for remedy in finding.remedies:
            apply_remedy(job, remedy)  # what is offered can be made


def _print_everything(planned: Plan) -> None:
    makers = (cards.pour_card, cards.cut_list_card, cards.settings_card, cards.glue_up_card)
    for make in makers:
        _made_or_said(partial(make, planned, _SHOP, date(2026, 11, 25)))
    _made_or_said(lambda: cards.cut_list_csv(planned))
    for view in VIEWS:
        _made_or_said(partial(picture_png, planned, evaluate_reference, view, 60))
    _made_or_said(lambda: unrolled_svg(planned, evaluate_reference, 60))


def _made_or_said(make: Callable[[], bytes]) -> None:
    with suppress(OrvekError):
        assert make()
