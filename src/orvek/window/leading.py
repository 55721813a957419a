"""From a finding to the field that it speaks of: `Leading`."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from orvek.documents import FieldPath
from orvek.planning import Finding, Remedy
from orvek.window.findings_panel import place_of
from orvek.window.host import Host
from orvek.window.widgets.edited import bring_into_sight, field_at
from orvek.window.widgets.more import More
from orvek.window.widgets.outlines import Ring


class Leading:
    """What a click on a finding, or on one of its buttons, does in the window."""

    def __init__(self, window: Host) -> None:
        self._window = window
        self.ring = Ring(window)

    def lead_to(self, finding: Finding) -> None:
        """Go to the page that a finding speaks of, and to the field that its remedies would change."""
        self._window.open_named(place_of(finding))
        paths = [edit.path for remedy in finding.remedies for edit in remedy.edits]
        for more in self._window.area().findChildren(More):
            for path in paths:
                more.reveal(path)
        field = self._point_at(paths)
        if field is not None:
            field.setFocus(Qt.FocusReason.OtherFocusReason)

    def remedy(self, remedy: Remedy) -> None:
        """Do what a finding's button says, and show where it changed something."""
        self._window.session.remedy(remedy)
        self._point_at(edit.path for edit in remedy.edits)

    def _point_at(self, paths: Iterable[FieldPath]) -> QWidget | None:
        """Put a ring round the first field in sight that edits one of these places."""
        area = self._window.area()
        field = next((one for path in paths if (one := field_at(area, path)) is not None), None)
        if field is not None:
            bring_into_sight(field)
            self.ring.show_round(field)
        return field
