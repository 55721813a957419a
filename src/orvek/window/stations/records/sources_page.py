"""Lots: what blanks were made of, how many of each were scrapped, and whether one is worse by more than luck."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from orvek.planning import Plan
from orvek.planning.records.sources import Source, sources
from orvek.window.session import Session
from orvek.window.widgets.fields import Answer, quiet_label
from orvek.window.widgets.tables import fill_table, plain_table

_COLUMNS = ("What", "Which", "Scrapped", "9 in 10", "Others", "So")


class SourcesPage(QWidget):
    """A line a lot, seller, wood or resin, the worst first."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.rows: tuple[Source, ...] = ()
        self.answer = Answer()
        self.table = plain_table("Scrap by what it was made of", _COLUMNS)
        line = quiet_label(
            "Lots come from the shelf as the work uses them: type lot and seller at the piece. Chance alone makes some "
            "lots look bad: worse is said where it would happen less than once in twenty. Others: blanks of the same "
            "kinds of work, of another lot, seller, wood or resin."
        )
        line.setWordWrap(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 8, 24, 8)
        column.setSpacing(8)
        column.addWidget(self.answer)
        column.addWidget(line)
        column.addWidget(self.table, 1)

    def show_plan(self, plan: Plan) -> None:
        """Show what the outcomes say now."""
        jobs = (plan.job, *self._session.others.of(plan.job.batch.id))
        self.rows = sources(jobs, plan.shop)
        worst = [one for one in self.rows if one.is_worse]
        said = f"{worst[0].name} is scrapped more often" if worst else "No lot is worse by more than luck"
        self.answer.say(said if self.rows else "No outcomes of a lot yet", plan.units)
        cells = [
            (
                one.kind, one.name, f"{one.scrapped} of {one.of}", _range(one),
                f"{one.others_scrapped} of {one.others}" if one.others else "–", one.verdict,
            )
            for one in self.rows
        ]  # fmt: skip
        marked = frozenset(number for number, one in enumerate(self.rows) if one.is_worse)
        fill_table(self.table, cells or [("", "Enter an outcome for each blank.", "", "", "", "")], marked)


def _range(one: Source) -> str:
    return f"{100 * one.rate.low:.0f} to {100 * one.rate.high:.0f} %"
