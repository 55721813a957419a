"""One window a workshop: a second start hands over what it was asked for, and the window that is there comes forward.

The two talk through a socket in this user's own runtime folder; nothing leaves the computer.
"""

from __future__ import annotations

import hashlib
import json
import os
import socket
import struct
import tempfile
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from orvek.files import is_private

if TYPE_CHECKING:
    from PySide6.QtCore import QObject
    from PySide6.QtNetwork import QLocalServer, QLocalSocket

_WAIT_S = 1.5  # for a window that is busy; then a second one opens, which looks and follows along
_DONE = b"taken"
_CREDENTIALS = struct.Struct("3i")  # process, user and group, as Linux tells them


def socket_path(workshop: Path) -> Path:
    """One place for each workshop of each user, however the workshop's path is written."""
    whole = f"{os.getuid()}:{workshop.expanduser().resolve()}"
    folder = os.environ.get("XDG_RUNTIME_DIR") or Path(tempfile.gettempdir()) / f"orvek-{os.getuid()}"
    return Path(folder) / f"orvek-{hashlib.sha256(whole.encode()).hexdigest()[:16]}"


def handed_over(workshop: Path, wanted: dict[str, str]) -> bool:
    """Ask the window of this workshop to come forward with what is wanted; whether there is one that did."""
    place = socket_path(workshop)
    try:
        if not place.exists():
            return False
        with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as line:
            line.settimeout(_WAIT_S)
            line.connect(str(place))
            if _uid_of(line.fileno()) != os.getuid():
                return False  # somebody else's: a file of the maker's is none of its business
            line.sendall(json.dumps(wanted).encode() + b"\n")
            return line.recv(len(_DONE)) == _DONE
    except OSError:
        return False


def listen(parent: QObject, workshop: Path, come_forward: Callable[[dict[str, str]], None]) -> QLocalServer:
    """Wait for second starts; `come_forward` gets what they want. It ends with its parent."""
    from PySide6.QtNetwork import QLocalServer

    server = QLocalServer(parent)
    if "XDG_RUNTIME_DIR" not in os.environ and not is_private(socket_path(workshop).parent):
        return server  # somebody else made that folder: second starts open windows of their own, which look
    server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
    name = str(socket_path(workshop))
    if not server.listen(name):
        QLocalServer.removeServer(name)  # left behind by one that was killed
        server.listen(name)
    server.newConnection.connect(lambda: _meet(server, come_forward))
    return server


def _uid_of(handle: int) -> int:
    """Whose process is at the other end of a socket; -1 where that is not told."""
    try:
        with socket.socket(fileno=os.dup(handle)) as line:
            told = line.getsockopt(socket.SOL_SOCKET, socket.SO_PEERCRED, _CREDENTIALS.size)
        return int(_CREDENTIALS.unpack(told)[1])
    except OSError:
        return -1


def _meet(server: QLocalServer, come_forward: Callable[[dict[str, str]], None]) -> None:
    line = server.nextPendingConnection()
    if line is None:
        return
    if _uid_of(int(line.socketDescriptor())) != os.getuid():
        line.abort()
        return
    # Never waited for: who connects and says nothing would hold the window up.
    line.readyRead.connect(partial(_hear, line, come_forward))
    _hear(line, come_forward)


def _hear(line: QLocalSocket, come_forward: Callable[[dict[str, str]], None]) -> None:
    """What a second start wants, once all of its line is there."""
    if not line.canReadLine():
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
