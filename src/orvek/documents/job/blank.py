"""The blank: the steps that make it, in the order of the hands, and where the tubes lie on it."""

from typing import Annotated

from pydantic import AfterValidator, Field
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Words, measure
from orvek.documents.job.bar_in_hand import BarInHand
from orvek.documents.job.conditions import Paint
from orvek.documents.shelf.material import Material, material
from orvek.documents.steps import CastStep, DyeStep, PhotoStep, Step, material_keys
from orvek.quantities import Dimension

MOST_DYES = 60  # each is one bit of a point's history in the field


def _few_dyes(steps: tuple[Step, ...]) -> tuple[Step, ...]:
    if sum(isinstance(step, DyeStep) for step in steps) > MOST_DYES:
        raise PydanticCustomError("orvek", "soaks the bar in more than 60 colours")
    return steps


class Blank(Document):
    """What the bar becomes: its steps, the saw, and the tubes laid on it.

    `bars` are those in hand, measured, whatever a mould would give; empty: the bars come from the mould. `piece` is
    the code of the piece on the shelf that the bar is. `tube_starts_mm` holds where each barrel's tube begins, from
    the bar's left end; empty means that Orvek lays them out in the middle of the bar. `tube_turns_deg` holds how far
    each barrel is turned about its axis when the pen is put together; `tube_flips` which of them lie on the bar end
    for end, nib side to the right. `materials` holds copies of the maker's own materials that the steps name.
    """

    steps: Annotated[tuple[Step, ...], Field(min_length=1, max_length=200), AfterValidator(_few_dyes)] = (CastStep(),)
    bars: Annotated[tuple[BarInHand, ...], Field(max_length=10)] = ()
    piece: Words = ""
    saw_kerf_mm: float = measure("Saw kerf", Dimension.LENGTH, low=0, high=10, default=1.6)
    end_waste_mm: float = measure(
        "Lost at each end of the bar",
        Dimension.LENGTH,
        low=0,
        high=50,
        default=4,
        hint="Meniscus, bubbles and the wall's curve: 3 to 5 mm in a cast bar",
    )
    joint_mm: float | None = measure(
        "Two-pattern bar: saw at",
        Dimension.LENGTH,
        low=1,
        high=3000,
        default=None,
        hint="From the bar's left end, where a bar of two patterns is sawn in two; empty: a bar in one",
    )
    tube_turns_deg: Annotated[tuple[Annotated[float, Field(ge=-360, le=360)], ...], Field(max_length=4)] = ()
    tube_flips: Annotated[tuple[bool, ...], Field(max_length=4)] = ()
    materials: Annotated[tuple[Material, ...], Field(max_length=60)] = ()
    paints: Annotated[tuple[Paint, ...], Field(max_length=4)] = ()
    tube_starts_mm: Annotated[tuple[Annotated[float, Field(ge=-1000, le=1000)], ...], Field(max_length=4)] = ()

    def material(self, key: str) -> Material:
        """The material with this key: the maker's own copy, else the generic one."""
        return material(key, self.materials)

    @property
    def photographed(self) -> PhotoStep | None:
        """The bar as photographed, where the blank begins with one."""
        return next((step for step in self.steps if isinstance(step, PhotoStep)), None)

    @property
    def in_hand(self) -> tuple[BarInHand, ...]:
        """The bars that lie on the bench: the one that was photographed, else those that were measured."""
        photo = self.photographed
        if photo is None:
            return self.bars
        size = {"length_mm": photo.length_mm, "width_mm": photo.width_mm, "depth_mm": photo.depth_mm}
        return (BarInHand(name="Bar as photographed", form=photo.form, **size),)

    @property
    def material_keys(self) -> tuple[str, ...]:
        """The keys of all materials that its steps name, in the order of the steps."""
        return tuple(dict.fromkeys(key for step in self.steps for key in material_keys(step)))

    @property
    def woods(self) -> tuple[str, ...]:
        """The keys of all woods that its steps name, in the order of the steps."""
        return tuple(key for key in self.material_keys if self.material(key).look == "wood")

    def is_flipped(self, barrel: int) -> bool:
        """Whether a barrel lies on the bar end for end."""
        return barrel < len(self.tube_flips) and self.tube_flips[barrel]

    def paint(self, barrel: int) -> Paint:
        """How a barrel is painted inside."""
        return self.paints[barrel] if barrel < len(self.paints) else Paint()
