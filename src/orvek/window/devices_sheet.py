"""What is plugged in: scale, calipers and thermometer on one sheet, each with what it says now.

What is set up here is the shop's: it answers at every operation of every job.
"""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QDialogButtonBox, QHBoxLayout, QVBoxLayout, QWidget

from orvek.devices import MeterKind
from orvek.documents import MeterPlace, deeds
from orvek.documents.job.pour import Scale
from orvek.window.session import Session
from orvek.window.widgets.device_panel import DevicePanel
from orvek.window.widgets.fields import quiet_label
from orvek.window.widgets.sheets import Sheet

_FIRST_SCALE = Scale(name="Bench scale", resolution_g=0.1)
_NAMES: dict[MeterKind, str] = {"caliper": "Calipers", "thermometer": "Thermometer"}


def plugged_in(session: Session) -> Scale | None:
    """The job's scale where that is plugged in, else one of the shop's: a scale is set up once for all."""
    own = session.job.pour.scale
    same = next((one for one in session.shop.scales if own is not None and one.name == own.name), own)
    if same is not None and same.plugged_in_at:
        return same
    return next((one for one in session.shop.scales if one.plugged_in_at), same)


class DevicesSheet(Sheet):
    """A panel for each kind of device; what is changed is kept at once."""

    def __init__(self, parent: QWidget | None, session: Session) -> None:
        super().__init__(parent)
        self._session = session
        self.setWindowTitle("What is plugged in")
        devices: tuple[Scale | MeterPlace, ...] = (
            plugged_in(session) or _FIRST_SCALE,
            *(_meter(session, kind) for kind in _NAMES),
        )
        self.panels = {panel.kind: panel for panel in (DevicePanel(one, session.units) for one in devices)}
        row = QHBoxLayout()
        row.setSpacing(32)
        for panel in self.panels.values():
            row.addWidget(panel, 1)
            panel.setEnabled(session.workshop.is_writable)
            panel.changed.connect(partial(self._keep, panel))
        note = quiet_label(
            "They answer at the bench in every job. A scale or calipers that type like a keyboard need nothing here."
        )
        note.setWordWrap(True)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.accept)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 16)
        column.setSpacing(14)
        column.addLayout(row, 1)
        column.addWidget(note)
        column.addWidget(buttons)
        self.setMinimumWidth(900)
        for panel in self.panels.values():
            panel.try_out()

    def _keep(self, panel: DevicePanel) -> None:
        """The shop has it like this from now on."""
        device = panel.device
        shelf = "scales" if isinstance(device, Scale) else "meters"
        where = f"is at {device.plugged_in_at}" if device.plugged_in_at else "is read by eye"
        self._session.change_shop(
            f"{device.name} {where}"[:80], partial(deeds.put_on_shelf, shelf=shelf, item=device, instead_of=device.name)
        )


def ask_devices(parent: QWidget, session: Session) -> None:
    """Open the sheet; it lets go of all of them when it is closed."""
    DevicesSheet(parent, session).exec()


def _meter(session: Session, kind: MeterKind) -> MeterPlace:
    """The first of its kind that the shop has."""
    known = [one for one in session.shop.meters if one.kind == kind]
    return known[0] if known else MeterPlace(name=_NAMES[kind], kind=kind)
