"""What became of a blank, written down: one click, or a sheet that asks where, while what and why."""

from __future__ import annotations

from datetime import datetime
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCompleter, QDialog, QLineEdit, QWidget

from orvek.craft.faults import fault_kinds
from orvek.craft.spoilage import stage_kinds
from orvek.documents import Fate, FateEntry, Fault, deeds, outcome
from orvek.planning.history import fates_of, kind_of_work
from orvek.planning.results import Plan
from orvek.planning.stock import lots_of
from orvek.window.session import Session
from orvek.window.widgets.document_sheet import DocumentSheet

_ASKED = ("blank_no", "stage", "cause", "place", "tried", "decided_by", "lots", "is_tube_saved")


def known_causes(session: Session) -> tuple[str, ...]:
    """Causes that were written before, the newest first, then those that ship."""
    own = [one.cause for one in reversed(session.shop.ledger) if isinstance(one, FateEntry) and one.cause]
    return tuple(dict.fromkeys((*own, *(kind.key for kind in fault_kinds()))))


def new_fate(session: Session, blank_no: int, fate: Fate) -> FateEntry:
    """A fate of a blank of the job in hand, at the stage that the work has come to, and what was noted of its fault."""
    job = session.job
    content = deeds.records.about(job, kind_of_work(job), datetime.now().replace(microsecond=0))
    lots = lots_of(job, session.others.shelf(session.plan)[1])
    begun = max(blank_no, round(session.plan.bars.blanks.value))
    found = FateEntry(blank_no=blank_no, fate=fate, stage=_stage_now(session.plan), lots=lots, begun=begun, **content)
    fault = next((one for one in reversed(job.faults.found) if one.blank_no == blank_no), None)
    if fault is None or fate == "good":
        return found
    place = job.pen.barrels[fault.barrel].name if job.pen and fault.barrel < len(job.pen.barrels) else ""
    return found.with_(
        cause=fault.kind, stage=fault.moment, place=place, tried=_tried(fault), decided_by=fault.decided_by
    )


def write_fate(session: Session, fate: FateEntry) -> bool:
    """Write it down; where it does not go with the job's tasks that is said. Whether it was written."""
    if not session.write_down(partial(deeds.records.write_entry, entry=fate)):
        return False
    odd = _odd(session.plan, fate)
    if odd:
        session.said.emit(odd)
    return True


class FateSheet(DocumentSheet):
    """Asks where and why; causes that are known are offered while one is typed, so that one cause has one name."""

    def __init__(self, parent: QWidget | None, session: Session, fate: FateEntry) -> None:
        title = f"A blank is {outcome(fate.fate)}"
        super().__init__(parent, title, fate, session.units, session.shop, only=_ASKED)
        line = self.findChild(QLineEdit, "cause")
        if line is not None:
            completer = QCompleter(list(known_causes(session)), line)
            completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
            completer.setFilterMode(Qt.MatchFlag.MatchContains)
            line.setCompleter(completer)


def ask_fate(parent: QWidget | None, session: Session, blank_no: int, fate: Fate) -> bool:
    """Ask what there is to say of it, and write it down; a good one is written without a question."""
    begun = new_fate(session, blank_no, fate)
    if fate == "good":
        return write_fate(session, begun)
    sheet = FateSheet(parent, session, begun)
    if sheet.exec() != QDialog.DialogCode.Accepted or not isinstance(sheet.result_document, FateEntry):
        return False
    return write_fate(session, sheet.result_document)


def _tried(fault: Fault) -> str:
    """The way that was taken, and how the mend looked."""
    return f"{fault.way}, {fault.judged}" if fault.way and fault.judged != "not looked at" else fault.way


def next_blank(session: Session) -> int:
    """The first blank that has no fate yet."""
    known, number = fates_of(session.shop.ledger, session.job.batch.id), 1
    while number in known:
        number += 1
    return number


def _stage_now(plan: Plan) -> str:
    """The stage of the last task that was begun or done; turning where none was."""
    done = {actual.task for actual in plan.job.work.actuals if actual.what in {"began", "done"}}
    kinds = [task.kind for task in (plan.route.operations if plan.route else ()) if task.key in done]
    return next((stage.key for stage in stage_kinds() if kinds and kinds[-1] in stage.tasks), "turning")


def _odd(plan: Plan, fate: FateEntry) -> str:
    """A sentence where a blank failed at a stage before which a task is still open."""
    tasks = plan.route.operations if plan.route is not None else ()
    if fate.fate == "good" or not plan.job.work.done():
        return ""
    own = next((stage.tasks for stage in stage_kinds() if stage.key == fate.stage), ())
    first = next((n for n, task in enumerate(tasks) if task.kind in own), None)
    missing = [task for task in tasks[: first or 0] if plan.route and task.key not in plan.route.done]
    if not missing:
        return ""
    return (
        f"Written. By this job's tasks “{missing[0].words}” comes before that and is not done: tick it, or correct it."
    )
