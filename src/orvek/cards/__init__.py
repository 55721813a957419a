"""What leaves the program: pour card and cure card as PDF, the plan as text and JSON."""

from orvek.cards.cure_card import cure_card, cure_rows
from orvek.cards.pour_card import Row, pour_card, weighing_rows
from orvek.cards.report import findings_text, report_json, report_text

__all__ = ["Row", "cure_card", "cure_rows", "findings_text", "pour_card", "report_json", "report_text", "weighing_rows"]
