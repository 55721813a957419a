"""Judgements on a plan: how much they matter, where, because of what, and what would help."""

from __future__ import annotations

from enum import StrEnum

from msgspec import Struct
from msgspec.structs import replace

from orvek.documents import Document, FieldPath
from orvek.stations import Station as Station


class Severity(StrEnum):
    """How much a finding matters; the value is the word that stands beside its mark."""

    STOP = "Do not proceed"
    CAUTION = "Caution"
    NOTE = "Note"

    @property
    def words(self) -> str:
        """As it is read."""
        return self.value


class StationState(StrEnum):
    """The mark of a station on the rail."""

    EMPTY = "nothing yet"
    IN_WORK = "in work"
    NEEDS_A_LOOK = "needs a look"
    STOPPED = "do not proceed"
    READY = "ready"

    @property
    def words(self) -> str:
        """As it is read."""
        return self.value


class Edit(Struct, frozen=True):
    """One change to a job: a value put at a path. Remedies and editors both speak in edits."""

    path: FieldPath
    value: object


def changes(path: FieldPath, before: Document, after: Document) -> tuple[Edit, ...]:
    """An edit for each field in which a document at `path` differs from what it was."""
    return tuple(Edit((*path, name), value) for name, value in after if getattr(before, name) != value)


class Ask(StrEnum):
    """What a button can ask of the window instead of an edit."""

    UNDO = "undo"
    SHOW_LOG = "show the log"


class Remedy(Struct, frozen=True):
    """What a finding's button does: its label says exactly what will change."""

    label: str
    edits: tuple[Edit, ...]
    ask: Ask | None = None


NO_BUTTON = "No button here puts that right: change it by hand, or do not begin."


class Finding(Struct, frozen=True):
    """A judgement on the plan."""

    severity: Severity
    station: Station
    title: str
    because: str
    remedies: tuple[Remedy, ...] = ()
    key: str = ""  # which judgement this is, whatever its words: topic and check, e.g. "pen.walls"
    place: str = ""  # where, in a word: the number of a step, the name of a barrel
    many: str = ""  # the title for several places, {} where they are named; empty for what is never folded

    @property
    def lead(self) -> str:
        """What goes before the reasons of one of several."""
        return f"Step {self.place}: " if self.place.isdigit() else ""


def with_a_way_out(finding: Finding) -> Finding:
    """A finding as it is; a stop without a remedy says so, that nobody looks for its button."""
    if finding.severity is not Severity.STOP or finding.remedies or finding.because.endswith(NO_BUTTON):
        return finding
    return replace(finding, because=f"{finding.because} {NO_BUTTON}")


class Caution(Struct, frozen=True):
    """What can hurt at a step of the work, told wherever that step is; the key says which it is."""

    key: str
    words: str

    def is_of(self, key: str) -> bool:
        """Whether it is called so, or is of that kind where the key ends with a dot."""
        return self.key == key or (key.endswith(".") and self.key.startswith(key))
