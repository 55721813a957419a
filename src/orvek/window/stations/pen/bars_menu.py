"""Where the bars come from: the mould, or what lies on the bench, measured."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu, QWidget

from orvek.documents import BarInHand, deeds
from orvek.planning import Plan
from orvek.planning.words import bar_line
from orvek.quantities import Dimension, Units, write
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action, add_heading
from orvek.window.widgets.document_sheet import edit_document


def bars_text(plan: Plan, units: Units) -> str:
    """What the button shows."""
    bars = plan.job.blank.bars
    if len(bars) == 1:
        return f"{bars[0].count} of {write(bars[0].length_mm, Dimension.LENGTH, units)} in hand"
    if bars:
        return f"{sum(bar.count for bar in bars)} in hand, {len(bars)} sizes"
    return "from the mould" if plan.job.pour.mould else "as the pen needs"


class BarsMenu:
    """Fills the menu of the bars, and does what is chosen."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        self._parent, self._session = parent, session

    def fill(self, menu: QMenu) -> None:
        """All bars in hand, each to be changed or taken out, and one more."""
        bars, units = self._session.job.blank.bars, self._session.units
        words = "From the mould" if self._session.job.pour.mould else "As long as the pen needs"
        add_action(menu, words, partial(self._set, (), "Bars from the mould"), checked=not bars)
        if bars:
            add_heading(menu, "In hand")
        for index, bar in enumerate(bars):
            inner = menu.addMenu(bar_line(bar, units))
            add_action(inner, "Change…", partial(self._ask, index))
            rest = (*bars[:index], *bars[index + 1 :])
            add_action(inner, "Remove", partial(self._set, rest, f"Remove {bar.name}"))
        menu.addSeparator()
        if len(bars) < 10:
            add_action(menu, "Add bars in hand…", partial(self._ask, None))

    def _ask(self, index: int | None) -> None:
        bars = self._session.job.blank.bars
        begin = bars[index] if index is not None else (bars[-1] if bars else self._like_the_mould())
        bar = edit_document(self._parent, "Bars in hand, by calipers", begin, self._session.shop)
        if bar is not None:
            self.keep(index, bar)

    def keep(self, index: int | None, bar: BarInHand) -> None:
        """Put a kind of bar in the place of another, or after the last."""
        bars = list(self._session.job.blank.bars)
        if index is None:
            bars.append(bar)
        else:
            bars[index] = bar
        self._set(tuple(bars), "Bars in hand")

    def _like_the_mould(self) -> BarInHand:
        section = self._session.plan.bars.section
        if section is None:
            return BarInHand()
        form = "round" if section.is_round else "rectangular"
        size = {"length_mm": section.length_mm, "width_mm": section.width_mm, "depth_mm": section.depth_mm}
        return BarInHand().with_(form=form, **size)

    def _set(self, bars: tuple[BarInHand, ...], deed: str) -> None:
        self._session.attempt(deed, lambda job: deeds.set_bars(job, bars))
