"""Which pens share bits, tubes and bushings: whoever makes several wants few bits in the rack and one box of tubes."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

from msgspec import Struct

from orvek.documents import Barrel, Pen

SAME_BIT_MM, SAME_TUBE_MM = 0.03, 0.02  # nearer than that two are one and the same


class Share(Struct, frozen=True):
    """One bit, tube or bushing and the barrels that want it: pen and barrel by name, the pens in the order given."""

    size_mm: float
    length_mm: float | None  # of a tube; of a bushing the tube it fits; None for a bit
    users: tuple[tuple[str, str], ...]

    @property
    def pens(self) -> tuple[str, ...]:
        """The pens that want it, each once."""
        return tuple(dict.fromkeys(pen for pen, _ in self.users))


def shared_bits(pens: Iterable[Pen]) -> tuple[Share, ...]:
    """Every bit that these pens want, those of steps too, the smallest first."""

    def bits(barrel: Barrel) -> Iterator[tuple[float, float | None]]:
        yield barrel.bit_diameter_mm, None
        if barrel.wide_bit_mm is not None:
            yield barrel.wide_bit_mm, None

    return _grouped(pens, bits, SAME_BIT_MM)


def shared_tubes(pens: Iterable[Pen]) -> tuple[Share, ...]:
    """Every tube that these pens want by diameter; one of another length is cut from the same stock."""

    def tubes(barrel: Barrel) -> Iterator[tuple[float, float | None]]:
        if barrel.has_tube:
            yield barrel.tube_diameter_mm, barrel.glued_mm

    return _grouped(pens, tubes, SAME_TUBE_MM)


def shared_bushings(pens: Iterable[Pen]) -> tuple[Share, ...]:
    """Every bushing that these pens want: its diameter and, as `length_mm`, the tube that it must fit into."""
    users = (
        (size, barrel.tube_diameter_mm, pen.name, barrel.name)
        for pen in pens
        for barrel in pen.barrels
        if barrel.has_tube
        for size in barrel.bushings_mm
    )
    found: list[Share] = []
    for size, tube, pen, barrel in sorted(users, key=lambda one: one[:2]):
        same = next(
            (
                n
                for n, one in enumerate(found)
                if abs(one.size_mm - size) <= SAME_TUBE_MM and abs((one.length_mm or 0) - tube) <= SAME_TUBE_MM
            ),
            None,
        )
        if same is None:
            found.append(Share(size, tube, ((pen, barrel),)))
        elif (pen, barrel) not in found[same].users:
            found[same] = Share(found[same].size_mm, found[same].length_mm, (*found[same].users, (pen, barrel)))
    return tuple(found)


def _grouped(
    pens: Iterable[Pen], sizes_of: Callable[[Barrel], Iterable[tuple[float, float | None]]], same_mm: float
) -> tuple[Share, ...]:
    users = (
        (size, length, pen.name, barrel.name)
        for pen in pens
        for barrel in pen.barrels
        for size, length in sizes_of(barrel)
    )
    wanted = sorted(users, key=lambda one: one[0])
    found: list[Share] = []
    for size, length, pen, barrel in wanted:
        if found and size - found[-1].size_mm <= same_mm:
            last = found[-1]
            longest = max(last.length_mm or 0.0, length) if length is not None else None
            found[-1] = Share(last.size_mm, longest, (*last.users, (pen, barrel)))
        else:
            found.append(Share(size, length, ((pen, barrel),)))
    return tuple(found)
