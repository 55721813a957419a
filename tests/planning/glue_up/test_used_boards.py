"""Boards that were something before are stripped first; a bowed one may be too thin for what it is to give."""

from __future__ import annotations

import pytest

from orvek.craft.bow import flat_mm, piece_bow_mm
from orvek.documents import Board, Shop
from orvek.planning import Severity, plan
from orvek.store.demo import second_demo_job


def titles(shop: Shop, *boards: Board) -> list[tuple[Severity, str]]:
    made = plan(second_demo_job(), shop.with_(boards=boards))
    return [(one.severity, one.title) for one in made.findings if "strip it" in one.title or "its bow" in one.title]


def test_a_used_board_is_stripped_before_the_saw(shop: Shop) -> None:
    made = plan(second_demo_job(), shop)
    assert made.glue_up is not None
    bar = made.glue_up.stock[0]
    board = Board(name="Bench top", material=bar.material, length_mm=800, width_mm=120, thickness_mm=22)
    assert not titles(shop, board)
    nails = board.with_(was="used, with nails or screws")
    assert titles(shop, nails) == [(Severity.CAUTION, "Bench top: strip it before the saw.")]
    assert titles(shop, board.with_(was="used, with film or print"))[0][0] is Severity.NOTE
    assert not titles(shop, nails.with_(material="holly" if bar.material != "holly" else "ebony", name="Other"))[2:]


@pytest.mark.parametrize(("bow_mm", "is_thin"), [(0.0, False), (2.0, False), (60.0, True)])
def test_what_the_bow_leaves_must_do(shop: Shop, bow_mm: float, is_thin: bool) -> None:
    made = plan(second_demo_job(), shop)
    assert made.glue_up is not None
    bar = made.glue_up.stock[0]
    thick = bar.thickness_mm + 1.2
    board = Board(name="Plank", material=bar.material, length_mm=300, width_mm=120, thickness_mm=thick, bow_mm=bow_mm)
    left = flat_mm(board.thickness_mm, bow_mm, 300, bar.length_mm)
    assert (left < bar.thickness_mm) == is_thin
    assert bool([one for one in titles(shop, board) if "its bow" in one[1]]) == is_thin
    assert piece_bow_mm(bow_mm, 300, 900) == bow_mm
