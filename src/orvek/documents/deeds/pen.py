"""Deeds on the pen and on where its tubes lie."""

from orvek.documents.base import Measure, checked
from orvek.documents.deeds.tuples import fresh_name, replaced, without
from orvek.documents.job.bar_in_hand import BarInHand
from orvek.documents.job.job import Job
from orvek.documents.shelf.pen import MOST_BARRELS, Barrel, Pen, PenPart
from orvek.errors import NothingToDoError, OutOfBoundsError
from orvek.quantities import Dimension

BAR_LENGTH = Measure("Bar, squared to", Dimension.LENGTH, 20.0, 250.0, "")  # what is sold as a bar (a choice)


def choose_pen(job: Job, pen: Pen) -> Job:
    """Make the job for another pen; tubes placed by hand are laid out anew."""
    blank = job.blank.with_(tube_starts_mm=(), tube_turns_deg=(), tube_flips=())
    return job.with_(batch=job.batch.with_(made="pens"), pen=pen, blank=blank)


def make_bars(job: Job, length_mm: float) -> Job:
    """Make bars to be sold as they are, each so long; what was decided for a pen's barrels is let go.

    A bar is laid on the castings and boards as a barrel without a tube would be.

    Raises:
        OutOfBoundsError: nobody makes bars so long or so short.
    """
    if not BAR_LENGTH.low <= length_mm <= BAR_LENGTH.high:
        raise OutOfBoundsError("The length of a bar", length_mm, BAR_LENGTH.limit())
    content = {
        "name": "Bar", "tube_length_mm": length_mm, "tube_diameter_mm": 7, "bit_diameter_mm": 7, "trim_mm": 0,
        "finished_left_mm": 12, "finished_right_mm": 12, "inside": "no tube",
    }  # fmt: skip
    bar = checked(Barrel, content)
    made = choose_pen(job, Pen(name=f"Bars of {length_mm:g} mm", barrels=(bar,)))
    return made.with_(batch=made.batch.with_(made="bars"))


def set_bars(job: Job, bars: tuple[BarInHand, ...]) -> Job:
    """Take other bars in hand; tubes placed by hand are laid out anew."""
    return job.with_(blank=job.blank.with_(bars=bars, tube_starts_mm=()))


def add_barrel(job: Job) -> Job:
    """One more barrel, beginning as a copy of the last."""
    pen = _pen(job, "Adding a barrel")
    if len(pen.barrels) >= MOST_BARRELS:
        raise OutOfBoundsError("The number of barrels", len(pen.barrels) + 1, f"at most {MOST_BARRELS}")
    names = [barrel.name for barrel in pen.barrels]
    barrel = pen.barrels[-1].with_(name=fresh_name("Barrel", names))
    return choose_pen(job, pen.with_(barrels=(*pen.barrels, barrel)))


def remove_barrel(job: Job, index: int) -> Job:
    """One barrel less; a pen keeps at least one."""
    pen = _pen(job, "Removing a barrel")
    if len(pen.barrels) == 1:
        raise OutOfBoundsError("The number of barrels", 0, "at least 1")
    return choose_pen(job, pen.with_(barrels=without(pen.barrels, index)))


def set_parts(job: Job, parts: tuple[PenPart, ...]) -> Job:
    """Give the pen other parts, or another order of them."""
    return job.with_(pen=_pen(job, "Listing its parts").with_(parts=parts))


def move_tube(job: Job, starts_mm: tuple[float, ...], index: int, start_mm: float) -> Job:
    """Lay one tube so that it begins at `start_mm`; the others stay where `starts_mm` has them.

    `starts_mm` is where the plan shows the tubes now, so that a first move fixes the others too. Places are
    kept to a hundredth of a millimetre.
    """
    moved = tuple(round(start_mm if i == index else start, 2) for i, start in enumerate(starts_mm))
    return job.with_(blank=job.blank.with_(tube_starts_mm=moved))


def turn_tube(job: Job, index: int, by_deg: float) -> Job:
    """Turn one barrel about its axis against the others, as when the pen is put together."""
    pen = _pen(job, "Turning a barrel")
    now = (*job.blank.tube_turns_deg, *([0.0] * len(pen.barrels)))[: len(pen.barrels)]
    turned = (now[index] + by_deg + 180) % 360 - 180
    return job.with_(blank=job.blank.with_(tube_turns_deg=replaced(now, index, round(turned, 1))))


def flip_tube(job: Job, index: int) -> Job:
    """Lay one barrel on the bar end for end, or back again."""
    pen = _pen(job, "Turning a barrel end for end")
    now = tuple(job.blank.is_flipped(number) for number in range(len(pen.barrels)))
    return job.with_(blank=job.blank.with_(tube_flips=replaced(now, index, not now[index])))


def lay_tubes_out(job: Job) -> Job:
    """Forget tubes placed by hand; Orvek lays them in the middle of the bar."""
    return job.with_(blank=job.blank.with_(tube_starts_mm=()))


def _pen(job: Job, wanted: str) -> Pen:
    if job.pen is None:
        raise NothingToDoError(wanted, "a pen")
    return job.pen
