"""Examples in docstrings are tests: what they show is what comes out."""

from __future__ import annotations

import doctest
import importlib
import pkgutil
from pathlib import Path

import orvek

_NOT_ALONE = ("orvek.__main__", "orvek.store.migrations")  # run by others: the command, the upgrades
_ROOT = Path(orvek.__path__[0])
_MODULES = [
    module.name
    for module in pkgutil.walk_packages(orvek.__path__, "orvek.")
    if not module.name.startswith((*_NOT_ALONE, "orvek.window"))
]


def _has_examples(name: str) -> bool:
    """Whether a module shows any, by its text: importing all of them takes long."""
    path = _ROOT.joinpath(*name.split(".")[1:])
    file = path / "__init__.py" if path.is_dir() else path.with_suffix(".py")
    return ">>>" in file.read_text(encoding="utf-8")


def test_examples_show_what_comes_out() -> None:
    attempted = 0
    for name in filter(_has_examples, _MODULES):
        told = doctest.testmod(importlib.import_module(name), optionflags=doctest.NORMALIZE_WHITESPACE)
        assert told.failed == 0, name
        attempted += told.attempted
    assert attempted >= 10
