"""What most jobs leave as it is, behind a word under a page's fields: `More`."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtWidgets import QPushButton, QSizePolicy, QWidget

from orvek.documents import FieldPath
from orvek.documents.deeds import is_set
from orvek.planning import Plan
from orvek.window import places
from orvek.window.widgets.edited import edited

Condition = Callable[[Plan], bool]


class _Held(NamedTuple):
    """What is shown together, while which things are there, and when it is used whatever its fields say."""

    widgets: tuple[QWidget, ...]
    when: Condition | None
    used: Condition | None = None


class More(QPushButton):
    """The word "More"; what it holds is shown once it is pressed, and stays so for this page.

    What the job has set is in sight all the same, and so is what a finding led to.
    """

    def __init__(self, page: str) -> None:
        super().__init__()
        self._page = page
        self._held: list[_Held] = []
        self._revealed: set[FieldPath] = set()
        self._plan: Plan | None = None
        self.setProperty("kind", "place")
        self.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.setCheckable(True)
        self.setChecked(places.is_more_open(page))
        self.toggled.connect(self._toggle)

    def hold(self, *widgets: QWidget, when: Condition | None = None) -> None:
        """Hold fields, each by itself; with `when` only while the job has such a thing at all."""
        self._held.extend(_Held((one,), when) for one in widgets)

    def hold_row(self, *widgets: QWidget, used: Condition | None = None) -> None:
        """Hold what is shown together: a label, and a field for each barrel; `used` where its fields do not say it."""
        self._held.append(_Held(widgets, None, used))

    def release(self) -> None:
        """Hold nothing of the rows any more: they are built anew."""
        self._held = [one for one in self._held if len(one.widgets) == 1]

    def show_plan(self, plan: Plan) -> None:
        """Show of what is held what counts in a job, or all of it."""
        self._plan = plan
        behind = 0
        for held in self._held:
            has = held.when is None or held.when(plan)
            is_used = any(self._is_used(edited(one), plan) for one in held.widgets) or (
                held.used is not None and held.used(plan)
            )
            behind += has and not is_used
            for one in held.widgets:
                one.setVisible(has and (is_used or self.isChecked()))
        self.setVisible(behind > 0)
        self.setText("Less" if self.isChecked() else f"More ({behind})")

    def reveal(self, path: FieldPath) -> None:
        """Show the field that edits a place, from now on: a finding has led to it."""
        self._revealed.add(path)
        if self._plan is not None:
            self.show_plan(self._plan)

    def _is_used(self, path: FieldPath, plan: Plan) -> bool:
        return bool(path) and (path in self._revealed or is_set(plan.job, path))

    def _toggle(self) -> None:
        places.set_more_open(self._page, is_open=self.isChecked())
        if self._plan is not None:
            self.show_plan(self._plan)
