"""Loads Qt, and leaves Python's own way of importing in its place.

PySide6 puts one of its own there. It reads the source of every module that is loaded after it, to learn whether that
module may want other names for Qt's methods (`from __feature__ import ...`). Orvek wants none and has hundreds of
modules: a twelfth of its start went there (measured). `orvek.window` loads this first of all.
"""

import builtins
from importlib import import_module

_plain = builtins.__import__
for _name in ("PySide6.QtCore", "PySide6.QtGui", "PySide6.QtWidgets"):
    import_module(_name)
builtins.__import__ = _plain
