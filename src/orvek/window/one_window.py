"""One window a workshop: a second start hands over what it was asked for, and the window that is there comes forward.

The two talk through a socket in this user's own runtime folder; nothing leaves the computer.
"""

from __future__ import annotations

import hashlib
import json
import os
import socket
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from PySide6.QtCore import QObject
    from PySide6.QtNetwork import QLocalServer

_WAIT_S = 1.5  # for a window that is busy; then a second one opens, which looks and follows along
_DONE = b"taken"


def socket_path(workshop: Path) -> Path:
    """One place for each workshop of each user, however the workshop's path is written."""
    whole = f"{os.getuid()}:{workshop.expanduser().resolve()}"
    folder = os.environ.get("XDG_RUNTIME_DIR") or tempfile.gettempdir()
    return Path(folder) / f"orvek-{hashlib.sha256(whole.encode()).hexdigest()[:16]}"


def handed_over(workshop: Path, wanted: dict[str, str]) -> bool:
    """Ask the window of this workshop to come forward with what is wanted; whether there is one that did."""
    place = socket_path(workshop)
    if not place.exists():
        return False
    try:
        with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as line:
            line.settimeout(_WAIT_S)
            line.connect(str(place))
            line.sendall(json.dumps(wanted).encode() + b"\n")
            return line.recv(len(_DONE)) == _DONE
    except OSError:
        return False


def listen(parent: QObject, workshop: Path, come_forward: Callable[[dict[str, str]], None]) -> QLocalServer:
    """Wait for second starts; `come_forward` gets what they want. It ends with its parent."""
    from PySide6.QtNetwork import QLocalServer

    server = QLocalServer(parent)
    server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
    name = str(socket_path(workshop))
    if not server.listen(name):
        QLocalServer.removeServer(name)  # left behind by one that was killed
        server.listen(name)
    server.newConnection.connect(lambda: _meet(server, come_forward))
    return server


def _meet(server: QLocalServer, come_forward: Callable[[dict[str, str]], None]) -> None:
    line = server.nextPendingConnection()
    if line is None or not (line.canReadLine() or line.waitForReadyRead(round(1000 * _WAIT_S))):
        return
    try:
        wanted = json.loads(bytes(line.readLine().data()))
    except ValueError:
        wanted = None
    if isinstance(wanted, dict):
        line.write(_DONE)
        line.flush()
        come_forward({str(key): str(value) for key, value in wanted.items()})
    line.disconnectFromServer()
