"""What the window asks of a station: `StationWidget`."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QWidget

from orvek.planning import Plan
from orvek.window.job_looks import JobLooks


class StationWidget(QWidget):
    """A station in the window. What it does not override says that it has no pages and takes no photos."""

    def show_plan(self, plan: Plan) -> None:
        """Show what follows from a job."""
        raise NotImplementedError

    def page(self) -> str:
        """The name of the page that is open; empty where the station is one page."""
        return ""

    def open_page(self, name: str) -> None:
        """Open a page by its name as it is typed in a command."""
        raise KeyError(name)

    def leave(self) -> None:
        """Another station is opened: whatever is done for the eye alone ends."""

    def show_looks(self, looks: JobLooks) -> None:
        """Show what the jobs look like and which of them need a look, where that is shown."""

    def take_photos(self, paths: list[Path]) -> bool:
        """Photos were let fall here; whether the station had a use for them."""
        return not paths
