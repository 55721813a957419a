"""What is plugged in at the bench: a scale with its tare, calipers, a thermometer; one that is lost is looked for."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, TypeVar

from msgspec.structs import replace

from orvek.devices import Meter, MeterKind, Reading, ScalePort, open_meter, open_scale
from orvek.documents import MeterPlace
from orvek.documents.job.pour import Scale
from orvek.errors import OrvekError

DeviceKind = Literal["scale", "caliper", "thermometer"]
T = TypeVar("T")


class BenchDevices:
    """`lost` is told the kind and the sentence of one that cannot be opened or was pulled out, `back` its kind when it
    answers again. The others go on.
    """

    def __init__(self, lost: Callable[[DeviceKind, str], None], back: Callable[[DeviceKind], None]) -> None:
        self._lost, self._back = lost, back
        self._scale: ScalePort | None = None
        self._meters: dict[MeterKind, Meter] = {}
        self._missing: dict[DeviceKind, Callable[[], None]] = {}  # how each that does not answer is opened
        self._openers: dict[DeviceKind, Callable[[], None]] = {}
        self._tare_g, self._last_g = 0.0, 0.0

    @property
    def is_any(self) -> bool:
        """Whether anything is plugged in, or looked for."""
        return self._scale is not None or bool(self._meters) or bool(self._missing)

    def plug_in(self, scale: Scale | None, meters: tuple[MeterPlace, ...]) -> None:
        """Open what is plugged in: the scale, and the first calipers and thermometer that answer."""
        if scale is not None and scale.plugged_in_at:
            self._plug("scale", lambda: self.use(open_scale(scale.plugged_in_at, int(scale.baud), scale.line)))
        for place in meters:
            if place.plugged_in_at and place.kind not in self._meters:
                self._plug(place.kind, lambda there=place: self._open(there))  # type: ignore[misc]

    def use(self, scale: ScalePort) -> None:
        """Weigh with this from now on; what counts as tare stays, as it does on the scale."""
        self._scale = scale
        self._missing.pop("scale", None)

    def use_meter(self, kind: MeterKind, meter: Meter) -> None:
        """Measure with this from now on."""
        self._meters[kind] = meter
        self._missing.pop(kind, None)

    def look_for_the_lost(self) -> None:
        """Try each once more that does not answer, without a word where it still does not."""
        for kind, opened in tuple(self._missing.items()):
            try:
                opened()
            except OrvekError:
                continue
            self._back(kind)

    def tare(self) -> bool:
        """What lies on the scale now counts as nothing; whether there is a scale."""
        self._tare_g = self._last_g
        return self._scale is not None

    def weight(self) -> Reading | None:
        """What lies on the scale beyond its tare; None while nothing new came."""
        found = self._asked("scale", self._scale.read) if self._scale is not None else None
        if found is None:
            return None
        self._last_g = found.mass_g
        return replace(found, mass_g=round(found.mass_g - self._tare_g, 6))

    def value(self, kind: MeterKind) -> float | None:
        """What calipers or thermometer say, in mm or °C; None while nothing new came."""
        meter = self._meters.get(kind)
        return self._asked(kind, meter.read) if meter is not None else None

    def close(self) -> None:
        """Let go of all of them."""
        for one in (self._scale, *self._meters.values()):
            if one is not None:
                one.close()
        self._scale, self._meters, self._missing = None, {}, {}

    def _open(self, place: MeterPlace) -> None:
        self.use_meter(place.kind, open_meter(place.kind, place.plugged_in_at, int(place.baud), place.line))

    def _plug(self, kind: DeviceKind, opened: Callable[[], None]) -> None:
        self._openers[kind] = opened
        try:
            opened()
        except OrvekError as error:
            self._missing.setdefault(kind, opened)
            self._lost(kind, str(error))

    def _asked(self, kind: DeviceKind, read: Callable[[], T]) -> T | None:
        """What one says; one that does not answer any more is let go and looked for."""
        try:
            return read()
        except OrvekError as error:
            gone: ScalePort | Meter | None
            if kind == "scale":
                gone, self._scale = self._scale, None
            else:
                gone = self._meters.pop(kind, None)
            if gone is not None:
                gone.close()  # else the port stays taken, and does not open again
            if kind in self._openers:
                self._missing[kind] = self._openers[kind]
            self._lost(kind, str(error))
            return None
