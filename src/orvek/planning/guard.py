"""One part of a plan that cannot be worked out never takes the others with it.

`Attempts` runs the parts; one that raises is written to the log and becomes a finding that says so.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator
from typing import TypeVar

from orvek.planning.findings import Ask, Finding, Remedy, Severity, Station

T = TypeVar("T")
D = TypeVar("D")
_LOG = logging.getLogger(__name__)


class Attempts:
    """The parts of one plan, and what became of those that raised."""

    def __init__(self) -> None:
        self._failed: dict[str, Finding] = {}

    def part(self, what: str, station: Station, compute: Callable[[], T], otherwise: D) -> T | D:
        """What `compute` gives; `otherwise` where it raises."""
        try:
            return compute()
        except Exception as error:  # whatever it is, the other parts stand
            self._note(what, station, error)
            return otherwise

    def findings(self, what: str, station: Station, check: Callable[[], Iterator[Finding]]) -> Iterator[Finding]:
        """The findings of a check, up to where it raises."""
        try:
            yield from check()
        except Exception as error:  # as above
            self._note(what, station, error)

    @property
    def failed(self) -> tuple[str, ...]:
        """Names of the parts that raised."""
        return tuple(self._failed)

    def as_findings(self) -> tuple[Finding, ...]:
        """A finding for each part that raised."""
        return tuple(self._failed.values())

    def _note(self, what: str, station: Station, error: Exception) -> None:
        _LOG.error("could not work out %s", what, exc_info=error)
        because = (
            f"{type(error).__name__}: {str(error)[:120]}. This is a fault of Orvek, not yours; everything else on "
            "the screen stands, and your job is kept. The log says where it happened."
        )
        remedies = (Remedy("Undo the last change", (), Ask.UNDO), Remedy("Show the log", (), Ask.SHOW_LOG))
        title = f"Orvek could not work this out: {what}."
        self._failed[what] = Finding(Severity.CAUTION, station, title, because, remedies)
