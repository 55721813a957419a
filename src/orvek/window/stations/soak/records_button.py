"""What was measured here goes into the shop's records, and is the next job's default."""

from __future__ import annotations

from PySide6.QtWidgets import QPushButton

from orvek.errors import OrvekError
from orvek.planning import Plan
from orvek.planning.soak.records import observations
from orvek.window.session import Session


class RecordsButton(QPushButton):
    """Adds all that was seen of this job's wood and does not stand in the records yet."""

    def __init__(self, session: Session) -> None:
        super().__init__("Add what was seen to your records")
        self._session = session
        self.setProperty("kind", "small")
        self.clicked.connect(self.write_down)

    def show_plan(self, plan: Plan) -> None:
        """It can be pressed while there is something to add."""
        try:
            self.setEnabled(bool(observations(plan)))
        except OrvekError:
            self.setEnabled(False)

    def write_down(self) -> None:
        """Add it; undone by the undo of the shelves."""
        try:
            seen = observations(self._session.plan)
        except OrvekError as error:
            self._session.said.emit(str(error))
            return
        many = "1 observation" if len(seen) == 1 else f"{len(seen)} observations"
        self._session.change_shop(f"Add {many}", lambda shop: shop.with_(soaked=(*shop.soaked, *seen)))
