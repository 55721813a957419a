"""The blank's surfaces as images, for whoever paints them: computed from the field and kept.

Until the compiled kernel has loaded in the background the plain reading serves, on a coarser grid. One for the
window, handed to stations and strip.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import TYPE_CHECKING, TypeVar, cast

from PySide6.QtCore import QObject, QThread, Signal
from PySide6.QtGui import QImage

from orvek.documents import CastStep, Material, Step, missing_stock
from orvek.planning import Figure, Plan, amount_figure
from orvek.planning.bar import bar_size
from orvek.planning.colour.part import behind_colour
from orvek.window import theme
from orvek.workpiece.lengths import starts_mm
from orvek.workpiece.outline import TurnedBarrel, outline_mm

if TYPE_CHECKING:
    import numpy as np

    from orvek.workpiece.field import Evaluator
    from orvek.workpiece.pictures import Pixels
    from orvek.workpiece.program import Program

_Key = tuple[tuple[Step, ...], tuple[float, float, float, bool], tuple[Material, ...]]
T = TypeVar("T")
_KEPT = 160
_COARSE = 3
_POINTS = 180_000
_COARSE_ROWS = 100  # a picture of fewer is one that is being dragged


class _Loader(QThread):
    """Loads the kernel where nobody waits for it."""

    loaded = Signal(object)

    def run(self) -> None:
        from orvek.workpiece.field import kernel_cache, load_kernel

        self.loaded.emit(load_kernel(kernel_cache()))


class Surface(QObject):
    """Programs, arrays and images of blanks, each made once."""

    improved = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._evaluate: Evaluator | None = None
        self._coarse = _COARSE
        self._kept: OrderedDict[Hashable, object] = OrderedDict()
        self._loader: _Loader | None = None
        self._is_closed = False
        self._compiled: tuple[Hashable, Program] | None = None  # the last one: a drag asks for it again and again

    def load(self) -> None:
        """Begin to serve by the plain reading, and load the kernel in the background."""
        from orvek.workpiece.reference import evaluate_reference

        self._evaluate = evaluate_reference
        self._loader = _Loader()
        self._loader.loaded.connect(self._improve)
        self._loader.start()

    def will_take_long(self) -> bool:
        """Whether the kernel must be compiled first: once on a machine, some ten seconds to a minute."""
        from orvek.workpiece.field import is_compiled, kernel_cache

        return self.is_loading() and not is_compiled(kernel_cache())

    def use(self, evaluate: Evaluator) -> None:
        """Evaluate with this from now on."""
        self._evaluate, self._coarse = evaluate, 1
        self._kept.clear()
        self.improved.emit()

    def forget(self) -> None:
        """Make all pictures anew: the ground they lie on has changed."""
        self._kept.clear()

    def evaluator(self) -> Evaluator | None:
        """What evaluates programs now; None before `load`."""
        return self._evaluate

    def is_fine(self) -> bool:
        """Whether the compiled kernel serves."""
        return self._evaluate is not None and self._coarse == 1

    def thumbnail(self, plan: Plan, columns: int, rows: int) -> QImage | None:
        """The bar from the side for a list; not kept here."""
        if self._evaluate is None or missing_stock(self._key(plan, None)[0]):
            return None
        import numpy as np

        from orvek.workpiece.compiling import compiled
        from orvek.workpiece.pictures import face

        steps, size, own = self._key(plan, None)
        program = compiled(steps, *size, own)
        z = (np.arange(columns, dtype=np.float32) + 0.5) * np.float32(program.length_mm / columns)
        return image_of(face(self._evaluate, program, z, rows, 90))

    def wait(self) -> None:
        """Wait until the background is done; for pictures and tests, never for a maker."""
        if self._loader is not None:
            self._loader.wait()

    def is_loading(self) -> bool:
        """Whether the background is still at work."""
        return self._loader is not None and self._loader.isRunning()

    def close(self) -> None:
        """Take no notice any more of what the background brings."""
        self._is_closed = True

    def face(
        self, plan: Plan, columns: int, rows: int, azimuth_deg: float = 90, upto: int | None = None
    ) -> QImage | None:
        """The bar seen from the side; `upto` stops after that many steps."""

        def make(program: Program, n: np.ndarray, m: int) -> Pixels:
            from orvek.workpiece.pictures import face

            return face(self._working(), program, n, m, azimuth_deg)

        return self._picture(("face", azimuth_deg), plan, columns, rows, upto, make)

    def section(
        self, plan: Plan, columns: int, rows: int, azimuth_deg: float, upto: int | None = None
    ) -> QImage | None:
        """The bar cut open along its axis."""

        def make(program: Program, n: np.ndarray, m: int) -> Pixels:
            from orvek.workpiece.pictures import section

            return section(self._working(), program, n, m, azimuth_deg)

        return self._picture(("section", azimuth_deg), plan, columns, rows, upto, make)

    def oblique(self, plan: Plan, size: tuple[int, int], plane: tuple[float, ...]) -> Pixels | None:
        """The bar cut open on a plane (angle, azimuth, place on the axis); not kept, it follows a slider."""
        if self._evaluate is None or missing_stock(plan.job.blank.steps):
            return None
        from orvek.workpiece.pictures import oblique

        rows, columns = (max(2, side // self._coarse) for side in size)
        angle, azimuth, place = plane
        program = self._program(plan, None)
        return oblique(self._evaluate, program, (angle, azimuth, place), (rows, columns), theme.rgb(theme.PAPER))

    def unrolled(self, plan: Plan, columns: int, rows: int, barrels: tuple[TurnedBarrel, ...]) -> Pixels | None:
        """The surface at the finished outline of the barrels, as an array, over the whole bar."""
        behind = behind_colour(plan)
        key = ("unrolled", self._key(plan, None), columns, rows, barrels, behind)

        def make() -> Pixels | None:
            import numpy as np

            from orvek.workpiece.pictures import LOOK_INTO, unrolled

            program = self._program(plan, None)
            z = (np.arange(columns, dtype=np.float32) + 0.5) * np.float32(program.length_mm / columns)
            radius = outline_mm(z, barrels, min(program.width_mm, program.depth_mm) * 0.3)
            hole = min((b.hole_mm for b in barrels), default=0.0) / 2
            depths = LOOK_INTO if rows > _COARSE_ROWS else 2  # the eye follows the lines while something is dragged
            return unrolled(self._working(), program, z, radius, rows, hole, behind, depths)

        return self._made(key, plan, None, make)

    def lean(self, plan: Plan, columns: int, rows: int, barrels: tuple[TurnedBarrel, ...]) -> np.ndarray | None:
        """How the pearl leans on the surface that `unrolled` shows; None where there is no pearl."""
        key = ("lean", self._key(plan, None), columns, rows, barrels)

        def make() -> np.ndarray | None:
            import numpy as np

            from orvek.workpiece.lustre import lean_map

            program = self._program(plan, None)
            z = (np.arange(columns, dtype=np.float32) + 0.5) * np.float32(program.length_mm / columns)
            radius = outline_mm(z, barrels, min(program.width_mm, program.depth_mm) * 0.3)
            return lean_map(self._working(), program, z, radius, rows)

        return self._made(key, plan, None, make)

    def seen(self, plan: Plan) -> Hashable:
        """What the pictures of the steps follow from: as long as it stays the same, they do."""
        return self._evaluate, self._key(plan, None), plan.units

    def program(self, plan: Plan) -> Program:
        """The blank's program, compiled.

        Raises:
            NothingToDoError: the steps make no bar.
        """
        return self._program(plan, None)

    def amounts(self, plan: Plan) -> tuple[Figure, ...]:
        """How much of each material is in the bar, the most first; nothing while that cannot be told."""

        def make() -> tuple[Figure, ...]:
            from orvek.documents.photo import is_photo
            from orvek.workpiece.measures import amounts

            program, points = self._program(plan, None), _POINTS // self._coarse**2
            found = amounts(self._working(), program, 0, program.length_mm, points=points)
            bar_ml = sum(amount.volume_ml for amount in found)
            there = [a for a in found if a.volume_ml > 0 and a.material.look != "air" and not is_photo(a.material.key)]
            figures = [amount_figure(a.material, a.volume_ml, bar_ml, points) for a in there]
            return tuple(sorted(figures, key=lambda figure: -figure.value))

        return self._made(("amounts", self._key(plan, None)), plan, None, make) or ()

    def _picture(
        self,
        view: tuple[object, ...],
        plan: Plan,
        columns: int,
        rows: int,
        upto: int | None,
        make: Callable[[Program, np.ndarray, int], Pixels],
    ) -> QImage | None:
        columns, rows = max(2, columns // self._coarse), max(2, rows // self._coarse)

        def image() -> QImage:
            import numpy as np

            program = self._program(plan, upto)
            z = (np.arange(columns, dtype=np.float32) + 0.5) * np.float32(program.length_mm / columns)
            return image_of(make(program, z, rows))

        return self._made((view, self._key(plan, upto), columns, rows), plan, upto, image)

    def _made(self, key: Hashable, plan: Plan, upto: int | None, make: Callable[[], T]) -> T | None:
        if self._evaluate is None or missing_stock(self._key(plan, upto)[0]):
            return None
        if key not in self._kept:
            self._kept[key] = make()
            while len(self._kept) > _KEPT:
                self._kept.popitem(last=False)
        self._kept.move_to_end(key)
        return cast("T", self._kept[key])

    def _program(self, plan: Plan, upto: int | None) -> Program:
        from orvek.workpiece.compiling import compiled

        key = steps, size, own = self._key(plan, upto)
        if self._compiled is None or self._compiled[0] != key:
            self._compiled = (key, compiled(steps, *size, own))
        return self._compiled[1]

    def _key(self, plan: Plan, upto: int | None) -> _Key:
        steps = plan.job.blank.steps[: upto if upto is not None else None]
        if all(step.kind == "insert" for step in steps):
            # What is laid into the mould is shown there before the resin comes.
            steps = (*steps, CastStep())
        width, depth, length, is_round = bar_size(plan.layout)
        before = starts_mm(plan.job.blank.steps, length)
        size = (width, depth, (*before, length)[min(len(steps), len(before))], is_round)
        return steps, size, plan.job.blank.materials

    def _working(self) -> Evaluator:
        assert self._evaluate is not None
        return self._evaluate

    def _improve(self, evaluate: Evaluator) -> None:
        if not self._is_closed:
            self.use(evaluate)


def image_of(pixels: Pixels) -> QImage:
    """An array as an image of its own."""
    rows, columns, _ = pixels.shape
    return QImage(pixels.tobytes(), columns, rows, 3 * columns, QImage.Format.Format_RGB888).copy()
