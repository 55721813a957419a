"""What goes with a pen: a certificate with its own picture and a care card on one sheet, and a price label."""

from __future__ import annotations

import io
from datetime import date

from PIL import Image

from orvek.cards.labels import ROLL
from orvek.cards.sheet import BRASS, QUIET, Sheet
from orvek.documents import Job, Shop, material, material_keys
from orvek.errors import NothingToDoError
from orvek.planning import Plan
from orvek.quantities import write_date, write_price

_MARGIN, _MOST_MADE_OF = 20.0, 6
_WOOD_CARE = (
    "Write with it: hands keep wood and resin better than a drawer does.",
    "Keep it out of the sun behind glass, off radiators and out of a hot car.",
    "Wipe it with a soft, dry cloth; no spirit, no solvent, no dishwasher.",
    "Wood moves with the air: from a very dry room to a damp one give it a day.",
)
_RESIN_CARE = (
    "Write with it: what is used is looked after.",
    "Keep it out of a hot car: resin softens where it gets hot, and dulls in the sun behind glass.",
    "Wipe it with a soft, damp cloth; no spirit, no solvent, no dishwasher.",
    "Fine scratches come out with a plastic polish on a soft cloth, by hand.",
)


def certificate(plan: Plan, shop: Shop, picture: bytes | None, customer: str = "") -> bytes:
    """A certificate and a care card; `picture` is the turned pen as PNG, `customer` for whom it is.

    Raises:
        NothingToDoError: there is no pen.
    """
    job = plan.job
    if job.pen is None:
        raise NothingToDoError("A certificate", "a pen")
    sheet = Sheet(shop.preferences.paper, f"{job.batch.name} – certificate", f"Orvek job {job.batch.id}")
    right = sheet.width_mm - _MARGIN
    wide = right - _MARGIN
    sheet.text(_MARGIN, 28, "Certificate", 10, "medium", QUIET)
    sheet.fitted(_MARGIN, 40, job.batch.name, wide, 28, "bold")
    sheet.line(_MARGIN, 45, right, 45, 0.5, BRASS)
    y = 52.0
    if picture is not None:
        with Image.open(io.BytesIO(picture)) as found:
            tall = wide * found.height / found.width
        sheet.picture(_MARGIN, y, wide, tall, io.BytesIO(picture))
        y += tall + 10
    for words, told in _told(job, customer):
        sheet.text(_MARGIN, y, words, 9, colour=QUIET)
        y = sheet.paragraph(_MARGIN + 34, y, told, wide - 34, 10.5, "medium") + 2
    y = sheet.room_for(y + 8, 60)
    sheet.text(_MARGIN, y, "Care", 14, "bold")
    y += 8
    for line in _WOOD_CARE if _has_wood(job) else _RESIN_CARE:
        sheet.text(_MARGIN, y, "–", 10)
        y = sheet.paragraph(_MARGIN + 5, y, line, wide - 5, 10) + 1.5
    if job.pen.refill:
        y = sheet.paragraph(_MARGIN, y + 3, f"Refill: {job.pen.refill}.", wide, 10, "medium")
    return sheet.bytes()


def price_label(plan: Plan, shop: Shop, asked: float) -> bytes:
    """A label of the small roll with the pen's name and its price.

    Raises:
        NothingToDoError: there is no price.
    """
    if asked <= 0:
        raise NothingToDoError("A price label", "a price")
    sheet = Sheet(ROLL, f"{plan.job.batch.name} – price", f"Orvek job {plan.job.batch.id}")
    room = sheet.width_mm - 8
    sheet.fitted(4, 9, plan.job.batch.name, room, 13, "bold")
    pen = plan.job.pen.name if plan.job.pen is not None else ""
    sheet.fitted(4, 15, pen, room, 9, "regular", QUIET)
    sheet.fitted(4, 25, write_price(asked, shop.preferences.units), room, 18, "bold")
    return sheet.bytes()


def made_of(job: Job) -> str:
    """What a pen's barrels are made of, in words: woods and colours, each once."""
    keys = [key for step in job.blank.steps for key in material_keys(step)]
    found = [material(key, job.blank.materials).name for key in dict.fromkeys(keys)]
    photo = job.blank.photographed
    if photo is not None and photo.made_of != "not said":
        found.insert(0, photo.made_of)
    if job.cast.cups:
        colours = " and ".join(cup.name for cup in job.cast.cups[:4])
        found.append(f"cast resin: {colours}")
    return ", ".join(dict.fromkeys(found[:_MOST_MADE_OF])) or "as its maker knows"


def finished_on(job: Job) -> date | None:
    """The day the pens were pressed, or had written; None while they are not."""
    days = (job.work.when(task, "done") for task in ("write", "press"))
    return next((day.date() for day in days if day is not None), None)


def _has_wood(job: Job) -> bool:
    """Whether it is to be cared for as wood: it is of some, or of a bar that nobody said it is not."""
    photo = job.blank.photographed
    return bool(job.blank.woods) or (photo is not None and photo.made_of != "resin")


def _told(job: Job, customer: str) -> tuple[tuple[str, str], ...]:
    rows = [("Pen", job.pen.name if job.pen is not None else ""), ("Made of", made_of(job))]
    if customer:
        rows.insert(0, ("For", customer))
    finished = finished_on(job)
    rows.append(("Finished", write_date(finished) if finished is not None else ""))
    return tuple((words, told) for words, told in rows if told)
