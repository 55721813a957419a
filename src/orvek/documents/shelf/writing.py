"""Refill and mechanism of a pen as they were measured: what the pen's length hangs on."""

from orvek.documents.base import Document, measure
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


class Writing(Document):
    """Nothing is known of a pen that nobody has measured; the parts are put together dry for it."""

    out_mm: float | None = measure(
        "Tip stands out, writing",
        _MM,
        low=-20,
        high=20,
        default=None,
        hint="Put together dry; below 0: it stays inside",
    )
    stroke_mm: float = measure(
        "Mechanism draws it in by", _MM, low=0, high=30, default=0, hint="Out, less drawn in; 0: a cap, no mechanism"
    )
    refill_mm: float | None = measure("Refill, long", _MM, low=20, high=250, default=None)
    spring_mm: float = measure("Spring, pressed together", _MM, low=0, high=60, default=0, hint="0: none")
    room_mm: float | None = measure(
        "Room for it, deep", _MM, low=10, high=300, default=None, hint="From the mouth to the mechanism"
    )
    other_mm: float | None = measure("Another refill, long", _MM, low=20, high=250, default=None)
    parts_mm: float = measure(
        "Parts add to the length", _MM, low=0, high=200, default=0, hint="What stands out of the barrels, all together"
    )
    parts_g: float | None = measure("Parts weigh", Dimension.MASS, low=0.1, high=500, default=None)
