"""How the blank lies on the strip, and how many bars there are: what every topic builds on."""

from __future__ import annotations

from msgspec import Struct

from orvek.craft.laying_out import Span
from orvek.craft.moulding import BarSection
from orvek.craft.packing import Packing
from orvek.documents import BarInHand, Barrel
from orvek.planning.working import Figure


class TubePlace(Struct, frozen=True):
    """One barrel on the bar: its tube, the piece that is sawn for it, and what is turned there.

    The piece is the tube, the trim at both ends and, where the bit comes out, what may tear out there, as far as the
    bar has it to spare; and what is too little to be sawn off. `from_left`: which end the bit enters, `because` why.
    """

    barrel: Barrel  # as it lies, some end for end
    tube: Span
    piece: Span
    glued: Span | None = None  # where brass lies, a tube or a pin; None without either
    from_left: bool = True
    because: str = ""

    @property
    def trimmed(self) -> Span:
        """The tube and its trim, without what may tear out."""
        return Span(self.tube.start_mm - self.barrel.trim_mm, self.tube.end_mm + self.barrel.trim_mm)

    @property
    def exit_mm(self) -> float:
        """What the piece has to spare where the bit comes out."""
        return self._beyond_mm[1 if self.from_left else 0]

    @property
    def enter_mm(self) -> float:
        """What the piece has beyond its trim where the bit enters: too little to be sawn off, and bored through."""
        return self._beyond_mm[0 if self.from_left else 1]

    @property
    def _beyond_mm(self) -> tuple[float, float]:
        return self.trimmed.start_mm - self.piece.start_mm, self.piece.end_mm - self.trimmed.end_mm


class Layout(Struct, frozen=True):
    """The blank as it lies on the strip. Spans are measured from its left end."""

    length_mm: float
    width_mm: float
    depth_mm: float
    is_round: bool
    tubes: tuple[TubePlace, ...]
    kerfs: tuple[Span, ...]
    waste: tuple[Span, ...]
    ends: tuple[Span, Span]
    is_from_mould: bool
    placed_by_hand: bool
    raw: tuple[float, float, bool]  # width, depth, roundness before any step takes something off
    others: tuple[Span, ...] = ()  # pieces of further blanks sawn from the same bar
    joint: Span | None = None  # where a two-in-one bar is parted
    wanted_others: int = 0  # how many of them the bar would hold if the tubes lay side by side

    @property
    def blanks(self) -> int:
        """Whole blanks that it gives as its tubes lie."""
        return 1 + len(self.others) // max(1, len(self.tubes))

    @property
    def is_fuller_side_by_side(self) -> bool:
        """Whether it would give more blanks if its tubes lay side by side."""
        return len(self.others) < self.wanted_others

    @property
    def across_mm(self) -> float:
        """The smaller of width and depth."""
        return min(self.width_mm, self.depth_mm)

    @property
    def starts_mm(self) -> tuple[float, ...]:
        """Where each tube begins."""
        return tuple(place.tube.start_mm for place in self.tubes)


class BarsPlan(Struct, frozen=True):
    """How many blanks, from how many bars, in how many castings."""

    blanks: Figure
    blanks_per_bar: int
    bars: Figure
    bars_per_casting: int
    castings: int
    section: BarSection | None
    packing: Packing | None = None
    in_hand: tuple[BarInHand, ...] = ()

    @property
    def each_in_hand(self) -> tuple[BarInHand, ...]:
        """The bars in hand one by one, as the packing numbers them."""
        return tuple(bar for bar in self.in_hand for _ in range(bar.count))
