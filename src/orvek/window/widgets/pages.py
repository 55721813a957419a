"""Pages over one another: `Pages`, as tall as the one that is open."""

from __future__ import annotations

from PySide6.QtWidgets import QSizePolicy, QStackedWidget, QWidget


class Pages(QStackedWidget):
    """A stack of which only the open page asks for room: the tallest of the others makes nothing scroll."""

    def __init__(self) -> None:
        super().__init__()
        self.currentChanged.connect(self._count_only)

    def addWidget(self, page: QWidget) -> int:
        number = super().addWidget(page)
        self._count_only(self.currentIndex())
        return number

    def _count_only(self, number: int) -> None:
        for at in range(self.count()):
            policy = QSizePolicy.Policy.Preferred if at == number else QSizePolicy.Policy.Ignored
            page = self.widget(at)
            if page is not None:
                page.setSizePolicy(policy, policy)
        self.updateGeometry()
