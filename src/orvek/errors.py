"""Orvek's own errors: one class a mistake, each with one sentence for the maker.

Every error a maker can cause derives from `OrvekError`; `str(error)` is the sentence that is shown.
The attributes carry the bad value, the limit and the place for whoever catches it.
"""

from __future__ import annotations

from pathlib import Path


class OrvekError(Exception):
    """Base of all that Orvek says to the maker; `str()` of it is one plain sentence."""


class NotUnderstoodError(OrvekError):
    """A typed value that cannot be read as what the field asks for."""

    def __init__(self, text: str, wanted: str) -> None:
        self.text = text
        self.wanted = wanted
        shown = text if len(text) <= 40 else text[:39] + "…"
        super().__init__(f"“{shown}” is not {wanted}.")


class OutOfBoundsError(OrvekError):
    """A value that was understood and cannot be used."""

    def __init__(self, where: str, value: object, limit: str) -> None:
        self.where = where
        self.value = value
        self.limit = limit
        super().__init__(f"{where} must be {limit}; {value} is not.")


class BadFieldError(OrvekError):
    """A document's field holds something it may not hold."""

    def __init__(self, where: str, problem: str) -> None:
        self.where = where
        self.problem = problem
        super().__init__(f"{where}: {problem}.")


class NotAJobFileError(OrvekError):
    """A file that is not an Orvek job at all, or only a piece of one."""

    def __init__(self, name: str, problem: str) -> None:
        self.name = name
        self.problem = problem
        super().__init__(f"{name} cannot be read as an Orvek job: {problem}. Nothing was changed.")


class UnknownVersionError(OrvekError):
    """A job file or workshop of a version this program does not know."""

    def __init__(self, name: str, version: object, known: object) -> None:
        self.name = name
        self.version = version
        self.known = known
        super().__init__(
            f"{name} is of version {version}; this Orvek knows up to version {known}. "
            "Open it with a newer Orvek. Nothing was changed."
        )


class CannotReadError(OrvekError):
    """A file that exists or was named and could not be read."""

    def __init__(self, path: Path, reason: str) -> None:
        self.path = path
        self.reason = reason
        super().__init__(f"{path} could not be read: {reason}.")


class CannotWriteError(OrvekError):
    """A file that could not be written; what stood there before still stands there."""

    def __init__(self, path: Path, reason: str) -> None:
        self.path = path
        self.reason = reason
        super().__init__(f"{path} could not be written: {reason}. What was there before is untouched.")


class WorkshopReplacedError(CannotWriteError):
    """The workshop file was deleted, replaced or overwritten while it was open here."""

    def __init__(self, path: Path, what_happened: str) -> None:
        super().__init__(path, f"the file {what_happened} while it was open here")


class WorkshopBusyError(OrvekError):
    """The workshop is open for writing somewhere else."""

    def __init__(self, path: Path) -> None:
        self.path = path
        super().__init__(
            f"{path.name} is open in another window. You can look at everything here; "
            "to change it, use the other window or close it first."
        )


class WorkshopReadOnlyError(OrvekError):
    """The workshop's folder or file does not let us write."""

    def __init__(self, path: Path, reason: str) -> None:
        self.path = path
        self.reason = reason
        super().__init__(f"{path} cannot be written ({reason}). You can look, but nothing you change is kept.")


class WorkshopDamagedError(OrvekError):
    """The file at this place is no workshop that can be read."""

    def __init__(self, path: Path, reason: str) -> None:
        self.path = path
        self.reason = reason
        super().__init__(f"{path} is not a workshop file that can be read: {reason}. It was left as it is.")


class WorkshopGoneError(OrvekError):
    """No workshop is where one was: something of it lies beside the place."""

    def __init__(self, path: Path, found: str) -> None:
        self.path = path
        self.found = found
        super().__init__(f"There is no workshop at {path}, but there was one: beside it lies {found}.")


class WorkshopVersionError(UnknownVersionError):
    """A workshop file of a version this program does not know."""

    def __init__(self, path: Path, version: str, known: str) -> None:
        self.path = path
        OrvekError.__init__(
            self,
            f"{path.name} is of version {version[:20]}; this Orvek knows those up to {known}. A newer Orvek opens it, "
            "and so does the one that wrote it. It was left as it is.",
        )
        self.name, self.version, self.known = path.name, version, known


class NothingToDoError(OrvekError):
    """What was asked for needs something that the job does not have yet."""

    def __init__(self, wanted: str, missing: str) -> None:
        self.wanted = wanted
        self.missing = missing
        super().__init__(f"{wanted} needs {missing} first.")


class NotPluggedInError(OrvekError):
    """A scale, calipers or a thermometer that is not there, is held by another program, or may not be read."""

    def __init__(self, place: str, what: str = "scale") -> None:
        self.place = place
        answers = "calipers answer" if what == "caliper" else f"{what} answers"
        super().__init__(
            f"No {answers} at {place}. Is it plugged in and switched on, and may you read it (the group dialout)?"
        )
