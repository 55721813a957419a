"""Which pens share bits and tubes: whoever makes several wants few bits in the rack and one box of tubes."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from orvek.documents import Barrel, Pen

SAME_BIT_MM, SAME_TUBE_MM = 0.03, 0.02  # nearer than that two are one and the same


@dataclass(frozen=True, slots=True)
class Share:
    """One bit, or one tube, and the barrels that want it: pen and barrel by name, the pens in the order given."""

    size_mm: float
    length_mm: float | None  # of a tube; None for a bit
    users: tuple[tuple[str, str], ...]

    @property
    def pens(self) -> tuple[str, ...]:
        """The pens that want it, each once."""
        return tuple(dict.fromkeys(pen for pen, _ in self.users))


def shared_bits(pens: Iterable[Pen]) -> tuple[Share, ...]:
    """Every bit that these pens want, the smallest first."""
    return _grouped(pens, lambda barrel: (barrel.bit_diameter_mm, None), SAME_BIT_MM)


def shared_tubes(pens: Iterable[Pen]) -> tuple[Share, ...]:
    """Every tube that these pens want by diameter; one of another length is cut from the same stock."""
    return _grouped(pens, lambda barrel: (barrel.tube_diameter_mm, barrel.tube_length_mm), SAME_TUBE_MM)


def _grouped(
    pens: Iterable[Pen], size_of: Callable[[Barrel], tuple[float, float | None]], same_mm: float
) -> tuple[Share, ...]:
    users = ((*size_of(barrel), pen.name, barrel.name) for pen in pens for barrel in pen.barrels)
    wanted = sorted(users, key=lambda one: one[0])
    found: list[Share] = []
    for size, length, pen, barrel in wanted:
        if found and size - found[-1].size_mm <= same_mm:
            last = found[-1]
            longest = max(last.length_mm, length) if last.length_mm is not None and length is not None else None
            found[-1] = Share(last.size_mm, longest, (*last.users, (pen, barrel)))
        else:
            found.append(Share(size, length, ((pen, barrel),)))
    return tuple(found)
