"""Where something is plugged in that may be a device: `ports()`, each by the name it gives itself."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

_BY_ID = Path("/dev/serial/by-id")
_NAMELESS = "n/a"  # as the library says it


class Port(NamedTuple):
    """A place that can be opened, the same one after it was pulled out and put back; and how it is called."""

    place: str
    name: str


def ports(by_id: Path = _BY_ID) -> tuple[Port, ...]:
    """The serial ports of this computer: those that say what they are first."""
    from serial.tools.list_ports import comports  # only who has a device needs it

    lasting = {str(path.resolve()): str(path) for path in sorted(by_id.glob("*"))}
    found = []
    for one in sorted(comports(), key=lambda port: (port.description in {"", _NAMELESS, None}, port.device)):
        short = Path(one.device).name
        named = one.description if one.description not in {"", _NAMELESS, None, short} else "serial port"
        found.append(Port(lasting.get(one.device, one.device), f"{named}, {short}"))
    return tuple(found)
