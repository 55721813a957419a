"""What bars are laid over: how big it is, what it shows from above, what each bar out of it is made of."""

from __future__ import annotations

from typing import ClassVar, Protocol

from msgspec import Struct
from msgspec.structs import replace
from PySide6.QtGui import QImage

from orvek.documents import FACES, LoafMould, Material, Measure, Pen, PhotoStep, PhotoView, ReorientStep, Step, deeds
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.becoming import bar_for, laid_on_bar, needs_mm
from orvek.quantities import Dimension
from orvek.window.surface import Surface, image_of
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.slab import Slab, SlabBar
from orvek.workpiece.slab_bars import bar_album, marked, slab_of, way_out

_MM = Dimension.LENGTH
_BAR_FIELDS = {
    "length": Measure("Bars, length", _MM, 10, 400, "Tubes, trims and kerfs of your pen, and a little more"),
    "width": Measure("Bars, width", _MM, 5, 200, "At least a millimetre over the finished pen"),
}
_CASTING_FIELDS = {
    "long": Measure("The casting is long", _MM, 20, 2000, "As the mould is"),
    "wide": Measure("… and wide", _MM, 10, 1000, "As the mould is"),
}
_KERF = Measure("Saw kerf", _MM, 0.1, 10, "What the blade takes")
_MARGIN = Measure("Keep off its edge", _MM, 0, 100, "Bark and sapwood that no bar shall have")
_PX_PER_MM, _MOST_PX = 4.0, 1200
_TOUCH_MM = 1e-6
_USUAL_BARS = (2.2, 1.2)  # how many bars long and wide a casting is taken to be until its size is typed; a choice


class BarOut(Struct, frozen=True):
    """A bar as the field has it: its steps, width, depth and length in mm, what is turned of it, own materials."""

    steps: tuple[Step, ...]
    size: tuple[float, float, float, bool]
    barrels: tuple[TurnedBarrel, ...]
    materials: tuple[Material, ...] = ()


class SlabSource(Protocol):
    """Something bigger than a bar.

    Attributes:
        name: what it is called.
        values: what was typed, and the rest: length, width and kerf of the bars, in mm.
        angle_deg: how bars are laid at first; None: whichever way gives most.
        is_marked: whether its edge, knots and cracks can be marked.
    """

    name: str
    values: dict[str, float]
    angle_deg: float | None
    is_marked: bool

    @property
    def fields(self) -> dict[str, Measure]:
        """What is typed of it."""

    @property
    def first(self) -> SlabBar | None:
        """The bar that lies on it already; None where none does."""

    @property
    def slab(self) -> Slab:
        """It, from above, as large as it is by its values now."""

    def mark(self, slab: Slab) -> None:
        """Its edge, knots and cracks as they are marked now."""

    def agreed(self, number: int) -> str:
        """What the button says that takes the bars, or the one of this number."""

    def image(self, surface: Surface) -> QImage | None:
        """Its upper face; None where nobody has seen it."""

    def bar_out(self, bar: SlabBar) -> BarOut:
        """A bar out of it."""


class PhotoSlab:
    """A piece on the shelf as it was photographed, for a pen: bars along its length, as the grain of a board runs."""

    fields: ClassVar = {**_BAR_FIELDS, "kerf": _KERF, "margin": _MARGIN}
    first = None
    angle_deg: float | None = 0.0
    is_marked = True

    def __init__(self, name: str, album: PhotoStep, pen: Pen | None, kerf_mm: float) -> None:
        self.name, self.album, self._pen = name, album, pen
        length_mm, width_mm = bar_for(pen, kerf_mm)
        self.values = {"length": length_mm, "width": width_mm, "kerf": kerf_mm, "margin": 0.0}

    def agreed(self, _number: int) -> str:
        """All of them are sawn."""
        return "Saw it into these bars"

    @property
    def slab(self) -> Slab:
        """It, from above, with what is marked on it."""
        return replace(slab_of(self.album), margin_mm=self.values["margin"])

    def mark(self, slab: Slab) -> None:
        """Keep what is marked on it with its photos.

        Raises:
            BadFieldError: the outline crosses itself, or there are too many marks.
        """
        self.album = marked(self.album, slab)

    def edge(self) -> tuple[tuple[float, float], ...] | None:
        """Its edge as its photo shows it; empty where it fills its four corners, None where it cannot be told."""
        from orvek.workpiece.photo import upright
        from orvek.workpiece.slab_edge import edge_of

        view = self._upper
        dots = upright(view.artwork) if view is not None else None
        if view is None or dots is None:
            return None
        return edge_of(dots, view.corners, (self.album.length_mm, self.album.across_mm(FACES["A"])))

    @property
    def _upper(self) -> PhotoView | None:
        return next((view for view in self.album.views if view.azimuth_deg == FACES["A"]), None)

    def image(self, _surface: Surface) -> QImage | None:
        """Its upper face; None where that was not photographed."""
        from orvek.workpiece.photo import face_of

        view = self._upper
        per_mm = min(_PX_PER_MM, _MOST_PX / self.slab.length_mm)
        flat = face_of(view, self.slab.length_mm, self.slab.width_mm, per_mm) if view is not None else None
        return image_of(flat) if flat is not None else None

    def albums(self, bars: tuple[SlabBar, ...]) -> tuple[PhotoStep, ...]:
        """Each bar as its part of the photos shows it."""
        return tuple(bar_album(self.album, bar) for bar in bars)

    def bar_out(self, bar: SlabBar) -> BarOut:
        """Its part of the photos; nothing is turned of one that is too short for the pen."""
        album, pen, kerf = bar_album(self.album, bar), self._pen, self.values["kerf"]
        is_long_enough = pen is not None and bar.length_mm >= needs_mm(pen, kerf) - _TOUCH_MM
        barrels = laid_on_bar(pen, album.length_mm, kerf) if pen is not None and is_long_enough else ()
        return BarOut((album,), (album.width_mm, album.depth_mm, album.length_mm, False), barrels)


class CastingSlab:
    """The casting that a job's bar is taken out of, as its steps design it: as deep as the bar."""

    name = "the casting"
    fields: ClassVar = {**_CASTING_FIELDS, "kerf": _KERF}
    angle_deg: float | None = None
    is_marked = False

    def __init__(self, plan: Plan) -> None:
        self._plan, self._size = plan, bar_size(plan.layout)
        width_mm, _, length_mm, _ = self._size
        mould = plan.job.pour.mould
        long_mm, wide_mm = length_mm * _USUAL_BARS[0], length_mm * _USUAL_BARS[1]
        if isinstance(mould, LoafMould):
            long_mm, wide_mm = mould.length_mm, mould.width_mm
        self.values = {"long": long_mm, "wide": wide_mm, "kerf": plan.job.blank.saw_kerf_mm}
        self.values |= {"length": length_mm, "width": width_mm}

    @property
    def slab(self) -> Slab:
        """It, from above: the same figure around its middle, whatever its size."""
        return Slab(self.values["long"], self.values["wide"])

    def mark(self, slab: Slab) -> None:
        """Nothing is marked on a casting that is yet to be poured."""

    def agreed(self, number: int) -> str:
        """One of them becomes the job's bar."""
        return f"Take out bar {number}"

    @property
    def first(self) -> SlabBar | None:
        """The job's bar as it lies now, where its steps say so; its middle may lie beside a casting that is smaller."""
        step = next((step for step in reversed(self._plan.job.blank.steps) if isinstance(step, ReorientStep)), None)
        if step is None or step.azimuth_deg:
            return None
        middle = self.slab.length_mm / 2 + step.shift_mm, self.slab.width_mm / 2 - step.across_mm
        return SlabBar(*middle, step.angle_deg, self._size[2], self._size[0])

    def image(self, surface: Surface) -> QImage | None:
        """Its upper face, by the steps before the bar is taken out."""
        from orvek.workpiece.compiling import compiled
        from orvek.workpiece.pictures import block_from_above

        evaluate = surface.evaluator()
        if evaluate is None:
            return None
        blank = self._plan.job.blank
        program = compiled(deeds.steps_before_taking_out(blank.steps), *self._size, blank.materials)
        per_mm = min(_PX_PER_MM, _MOST_PX / max(self.slab.length_mm, self.slab.width_mm))
        return image_of(block_from_above(evaluate, program, (self.slab.length_mm, self.slab.width_mm), per_mm))

    def way_out(self, bar: SlabBar) -> ReorientStep:
        """The step that takes a bar out where it lies."""
        return way_out(self.slab, bar)

    def bar_out(self, bar: SlabBar) -> BarOut:
        """The job's bar, taken out there."""
        steps = deeds.take_out(self._plan.job, self.way_out(bar)).blank.steps
        return BarOut(steps, self._size, barrels_of(self._plan), self._plan.job.blank.materials)
