"""Bars that lie on the bench, measured with calipers, whatever they were cast, bought or glued as."""

from typing import Literal

from pydantic import Field

from orvek.documents.base import Document, Name, measure
from orvek.quantities import Dimension

_MM = Dimension.LENGTH


class BarInHand(Document):
    """One kind of bar and how many there are of it.

    `width_mm` is the diameter of a round bar; of an irregular one width and depth are the smallest it has anywhere.
    """

    name: Name = Field(default="Bar", title="Bars")
    count: int = measure("How many", Dimension.COUNT, low=1, high=200, default=1)
    length_mm: float = measure("Length", _MM, low=10, high=3000, default=130)
    form: Literal["rectangular", "round", "irregular"] = Field(
        default="rectangular", title="Section", description="irregular: give the smallest width and depth it has"
    )
    width_mm: float = measure("Width, or diameter", _MM, low=3, high=300, default=20)
    depth_mm: float = measure("Depth", _MM, low=3, high=300, default=20, hint="Of a round bar the diameter counts")
    end_loss_mm: float = measure(
        "Lost at each of its ends",
        _MM,
        low=0,
        high=50,
        default=0,
        hint="0 for a bar sawn clean; 3 to 5 mm for a casting that still has its meniscus",
    )
