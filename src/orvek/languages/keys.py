"""Words that are kept in files and shown as they are, "as advised", "Do not proceed": `said(key)` is what is read."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources

from orvek.languages.spoken import spoken

SAID = "said.json"


def said(key: str) -> str:
    """What a maker reads for a key: itself in English, its translation in another language."""
    return _said().get(key, key)


@cache
def _said() -> dict[str, str]:
    file = resources.files("orvek.data").joinpath(SAID)
    found: dict[str, str] = json.loads(file.read_text(encoding="utf-8")) if spoken() and file.is_file() else {}
    return found
