"""Every card by its name, and what else leaves the program: `CARDS`. It loads what draws them: not at the start."""

from collections.abc import Callable
from datetime import date

from orvek.cards.boring_card import boring_card, marking_strip
from orvek.cards.cure_card import cure_card, cure_rows
from orvek.cards.cut_cards import cut_list_card, cut_list_csv, glue_up_card, settings_card
from orvek.cards.finish_card import finish_card
from orvek.cards.pour_card import Row, pour_card, weighing_rows
from orvek.cards.report import findings_text, report_json, report_text
from orvek.cards.soak_card import soak_card
from orvek.cards.traveller import traveller
from orvek.cards.week_card import week_card
from orvek.cards.wrap_sheet import wrap_sheets
from orvek.documents import Shop
from orvek.planning import Plan

CARDS: dict[str, Callable[[Plan, Shop, date], bytes]] = {
    "traveller": traveller,
    "pour": pour_card,
    "cuts": cut_list_card,
    "settings": settings_card,
    "glue-up": glue_up_card,
    "soak": soak_card,
    "bore": boring_card,
    "finish": finish_card,
    "week": week_card,
    "wrap": wrap_sheets,
    "strip": marking_strip,
}  # the cards that need no forecast, by the names that a command and the menu call them

__all__ = [
    "CARDS",
    "Row",
    "boring_card",
    "cure_card",
    "cure_rows",
    "cut_list_card",
    "cut_list_csv",
    "findings_text",
    "finish_card",
    "glue_up_card",
    "marking_strip",
    "pour_card",
    "report_json",
    "report_text",
    "settings_card",
    "soak_card",
    "traveller",
    "week_card",
    "weighing_rows",
    "wrap_sheets",
]
