"""What bars are laid over: how big it is, what it shows from above, what each bar out of it is made of."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

from PySide6.QtGui import QImage

from orvek.documents import FACES, LoafMould, Material, Pen, PhotoStep, ReorientStep, Step, deeds
from orvek.planning import Plan
from orvek.planning.bar import bar_size, barrels_of
from orvek.planning.becoming import bar_for, laid_on_bar, needs_mm
from orvek.window.surface import Surface, image_of
from orvek.workpiece.outline import TurnedBarrel
from orvek.workpiece.slab import Slab, SlabBar
from orvek.workpiece.slab_bars import bar_album, slab_of, way_out

_PX_PER_MM, _MOST_PX = 4.0, 1200
_TOUCH_MM = 1e-6
_USUAL_BARS = (2.2, 1.2)  # how many bars long and wide a casting is taken to be until its size is typed; a choice


@dataclass(frozen=True)
class BarOut:
    """A bar as the field has it: its steps, width, depth and length in mm, what is turned of it, own materials."""

    steps: tuple[Step, ...]
    size: tuple[float, float, float, bool]
    barrels: tuple[TurnedBarrel, ...]
    materials: tuple[Material, ...] = ()


class SlabSource(Protocol):
    """Something bigger than a bar. `bar_mm`: length and width of the bars that are wanted first."""

    name: str
    bar_mm: tuple[float, float]
    kerf_mm: float

    @property
    def slab(self) -> Slab:
        """It, from above."""

    def image(self, surface: Surface) -> QImage | None:
        """Its upper face; None where nobody has seen it."""

    def bar_out(self, bar: SlabBar) -> BarOut:
        """A bar out of it."""


class PhotoSlab:
    """A piece on the shelf as it was photographed, for a pen."""

    def __init__(self, name: str, album: PhotoStep, pen: Pen | None, kerf_mm: float) -> None:
        self.name, self.album, self.kerf_mm = name, album, kerf_mm
        self.bar_mm = bar_for(pen, kerf_mm)
        self._pen = pen

    @cached_property
    def slab(self) -> Slab:
        """It, from above, with what is marked on it."""
        return slab_of(self.album)

    def image(self, _surface: Surface) -> QImage | None:
        """Its upper face; None where that was not photographed."""
        from orvek.workpiece.photo import face_of

        view = next((view for view in self.album.views if view.azimuth_deg == FACES["A"]), None)
        per_mm = min(_PX_PER_MM, _MOST_PX / self.slab.length_mm)
        flat = face_of(view, self.slab.length_mm, self.slab.width_mm, per_mm) if view is not None else None
        return image_of(flat) if flat is not None else None

    def albums(self, bars: tuple[SlabBar, ...]) -> tuple[PhotoStep, ...]:
        """Each bar as its part of the photos shows it."""
        return tuple(bar_album(self.album, bar) for bar in bars)

    def bar_out(self, bar: SlabBar) -> BarOut:
        """Its part of the photos; nothing is turned of one that is too short for the pen."""
        album, pen, kerf = bar_album(self.album, bar), self._pen, self.kerf_mm
        is_long_enough = pen is not None and bar.length_mm >= needs_mm(pen, kerf) - _TOUCH_MM
        barrels = laid_on_bar(pen, album.length_mm, kerf) if pen is not None and is_long_enough else ()
        return BarOut((album,), (album.width_mm, album.depth_mm, album.length_mm, False), barrels)


class CastingSlab:
    """The casting that a job's bar is taken out of, as its steps design it: as deep as the bar."""

    name = "the casting"

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._size = bar_size(plan.layout)
        self.bar_mm, self.kerf_mm = (self._size[2], self._size[0]), plan.job.blank.saw_kerf_mm
        mould, long = plan.job.pour.mould, self._size[2]
        self.slab = Slab(long * _USUAL_BARS[0], long * _USUAL_BARS[1])
        if isinstance(mould, LoafMould):
            self.slab = Slab(mould.length_mm, mould.width_mm)

    @property
    def first(self) -> SlabBar | None:
        """The job's bar as it lies now, where its steps say so; its middle may lie beside a casting that is smaller."""
        step = next((step for step in reversed(self._plan.job.blank.steps) if isinstance(step, ReorientStep)), None)
        if step is None or step.azimuth_deg:
            return None
        middle = self.slab.length_mm / 2 + step.shift_mm, self.slab.width_mm / 2 - step.across_mm
        return SlabBar(*middle, step.angle_deg, self._size[2], self._size[0])

    def resize(self, length_mm: float, width_mm: float) -> None:
        """Another casting, with the same figure around its middle."""
        self.slab = Slab(length_mm, width_mm)

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
