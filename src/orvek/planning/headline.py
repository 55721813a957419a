"""An answer in one line, and what is said under it."""

from __future__ import annotations

from typing import NamedTuple


class Headline(NamedTuple):
    """Both without a full stop at their join; as text they are sentences one after the other."""

    words: str
    rest: str = ""

    def __str__(self) -> str:
        return f"{self.words}. {self.rest}" if self.rest else f"{self.words}."
