"""What the jobs of the list look like: a small picture of the bar and what is to be said of it, made while idle."""

from __future__ import annotations

import logging
from datetime import datetime
from pathlib import Path
from typing import NamedTuple

import msgspec
from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtCore import QBuffer, QIODevice, QObject, QTimer, Signal
from PySide6.QtGui import QImage

from orvek.errors import OrvekError
from orvek.planning import Severity, plan
from orvek.planning.records.search import found
from orvek.planning.route.next import Next, next_of
from orvek.store import JobEntry
from orvek.window.last_time import keep, kept
from orvek.window.session import Session
from orvek.window.surface import Surface

WIDE, TALL = 144, 18
_TO_LOOK_AT = (Severity.STOP, Severity.CAUTION)
_MOST = 300  # older jobs than so many stay without a picture
_MOST_KEPT = 60  # for the next start: more are not seen at once
_BETWEEN_MS = 15  # one job at a time, so that typing never waits
_LOG = logging.getLogger(__name__)


class JobLook(Struct, frozen=True):
    """A job as the list shows it: its bar from the side, the worst that is to be said of it, and what is next."""

    picture: QImage | None
    worst: Severity | None
    now: Next | None = None
    then: Next | None = None  # once it is no longer so

    def next_words(self, when: datetime) -> str:
        """What is next in it at a moment: a wait may have ended since it was looked at."""
        is_over = self.now is not None and self.now.until is not None and self.now.until <= when
        found = self.then if is_over else self.now
        return found.words if found is not None else ""


class Need(NamedTuple):
    """A job that needs a look: what the worst of it is, and its bar, once there is a picture of it."""

    entry: JobEntry
    worst: Severity
    picture: QImage | None


class _Kept(Struct, frozen=True):
    """A look of the last time: what is next is kept without its operation."""

    job: str
    picture: bytes
    worst: Severity | None
    now: Next | None
    then: Next | None


class JobLooks(QObject):
    """Makes the looks of jobs one after another; each version of a job once. Until then they look as the last time."""

    made = Signal(str)  # the id of a job

    def __init__(self, session: Session, surface: Surface) -> None:
        super().__init__()
        self._session, self._surface = session, surface
        self._kept: dict[tuple[str, str], JobLook] = {}
        self._latest: dict[str, JobLook] = {}
        self._waiting: list[JobEntry] = []
        self._entries: tuple[JobEntry, ...] = ()
        self._known: Path | None = None  # the workshop whose looks of the last time were read
        session.leaving.connect(self._keep)
        self._timer = QTimer(self)
        self._timer.setInterval(_BETWEEN_MS)
        self._timer.timeout.connect(self._make_one)

    def look(self, entry: JobEntry) -> JobLook | None:
        """What a job looks like, once that is known; until then what an earlier version of it looked like."""
        return self._kept.get((entry.id, entry.changed_at)) or self._latest.get(entry.id)

    def of(self, job: str) -> JobLook | None:
        """What a job looked like when it was looked at last."""
        return self._latest.get(job)

    def want(self, entries: tuple[JobEntry, ...]) -> None:
        """Make the looks of these that are not made yet, as soon as pictures can be made."""
        if self._known != self._session.workshop.path:
            self._known = self._session.workshop.path
            self._latest = _last_looks(self._known)
        self._entries = entries
        self._waiting = [entry for entry in entries[:_MOST] if (entry.id, entry.changed_at) not in self._kept]
        if self._waiting and self._surface.is_fine():
            self._timer.start()

    def needing(self) -> list[Need] | None:
        """The jobs of which there is a stop or a caution, as far as it is known: stops first; None: of none yet."""
        if self._entries and not self._latest:
            return None
        looks = ((entry, self.look(entry)) for entry in self._entries)
        known = (Need(entry, look.worst, look.picture) for entry, look in looks if look is not None and look.worst)
        return sorted((one for one in known if one.worst in _TO_LOOK_AT), key=lambda one: _TO_LOOK_AT.index(one.worst))

    def matching(self, words: str) -> set[str]:
        """The jobs in which all these words are found: of their name, pen, woods, colours, customer, causes, months."""
        session = self._session
        jobs = (session.job, *session.others.of(session.job.batch.id))
        return {job.batch.id for job in found(jobs, session.shop.ledger, words)}

    def stop(self) -> None:
        """Make no more of them, until they are wanted again."""
        self._timer.stop()
        self._waiting = []

    def is_busy(self) -> bool:
        """Whether looks are still being made."""
        return self._timer.isActive()

    def _make_one(self) -> None:
        if not self._waiting:
            self._timer.stop()
            return
        entry = self._waiting.pop(0)
        self._latest[entry.id] = self._kept[entry.id, entry.changed_at] = self._made(entry)
        self.made.emit(entry.id)

    def _keep(self) -> None:
        looks = ((entry.id, self.look(entry)) for entry in self._entries[:_MOST_KEPT])
        found = [_as_kept(job, look) for job, look in looks if look is not None]
        if found:
            keep(self._session.workshop.path, "looks", msgspec.msgpack.encode(found))

    def _made(self, entry: JobEntry) -> JobLook:
        try:
            planned = plan(self._session.workshop.job(entry.id), self._session.shop)
            worst = planned.findings[0].severity if planned.findings else None
            now = next_of(planned, datetime.now())
            then = next_of(planned, now.until) if now.until is not None else None
            return JobLook(self._surface.thumbnail(planned, 2 * WIDE, 2 * TALL), worst, now, then)
        except OrvekError:
            return JobLook(None, None)
        except Exception:  # the list goes without this picture; opening the job says what is wrong with it
            _LOG.exception("a job of the list could not be drawn")
            return JobLook(None, None)


def _as_kept(job: str, look: JobLook) -> _Kept:
    into = QBuffer()
    into.open(QIODevice.OpenModeFlag.WriteOnly)
    if look.picture is not None:
        look.picture.save(into, "PNG")  # type: ignore[call-overload]
    now, then = (one and replace(one, operation=None) for one in (look.now, look.then))
    return _Kept(job, bytes(into.data().data()), look.worst, now, then)


def _last_looks(workshop: Path) -> dict[str, JobLook]:
    """The looks of the last time, by job; none where none can be read."""
    try:
        found = msgspec.msgpack.decode(kept(workshop, "looks") or b"\x90", type=list[_Kept])
    except msgspec.MsgspecError:
        return {}
    return {one.job: JobLook(_picture(one.picture), one.worst, one.now, one.then) for one in found}


def _picture(content: bytes) -> QImage | None:
    image = QImage.fromData(content)
    return None if image.isNull() else image
