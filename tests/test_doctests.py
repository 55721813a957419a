"""Examples in docstrings are tests: what they show is what comes out."""

from __future__ import annotations

import doctest
import importlib
import pkgutil

import orvek

_NOT_ALONE = ("orvek.__main__", "orvek.shop.migrations")  # run by others: the command, the upgrades
_MODULES = [
    module.name
    for module in pkgutil.walk_packages(orvek.__path__, "orvek.")
    if not module.name.startswith((*_NOT_ALONE, "orvek.window"))
]


def test_examples_show_what_comes_out() -> None:
    attempted = 0
    for name in _MODULES:
        told = doctest.testmod(importlib.import_module(name), optionflags=doctest.NORMALIZE_WHITESPACE)
        assert told.failed == 0, name
        attempted += told.attempted
    assert attempted >= 10
