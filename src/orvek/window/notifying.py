"""A word on the desktop when something long is done and the window is behind others."""

from __future__ import annotations

import shutil

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QApplication, QWidget

LONG_S = 10.0  # what took longer is told; who waits less is still looking


def notify(window: QWidget, title: str, words: str) -> bool:
    """Tell the desktop, unless the window is the one in hand. The desktop's own program for this shows it.

    Returns:
        Whether it was told.
    """
    if window.isActiveWindow():
        return False
    QApplication.alert(window)
    tool = shutil.which("notify-send")
    if tool is not None:
        QProcess.startDetached(tool, ["--app-name=Orvek", "--icon=orvek", "--", title, words])
    return True
