"""What is plugged in at the bench: a scale with its tare, calipers, a thermometer; one that fails is let go."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from orvek.devices import Meter, MeterKind, Reading, ScalePort, open_meter, open_scale
from orvek.documents import MeterPlace
from orvek.documents.job.pour import Scale
from orvek.errors import OrvekError


class BenchDevices:
    """`failed` is told the sentence of one that cannot be opened, or that was pulled out; the others go on."""

    def __init__(self, failed: Callable[[str], None]) -> None:
        self._failed = failed
        self._scale: ScalePort | None = None
        self._meters: dict[MeterKind, Meter] = {}
        self._tare_g, self._last_g = 0.0, 0.0

    @property
    def is_any(self) -> bool:
        """Whether anything is plugged in."""
        return self._scale is not None or bool(self._meters)

    def plug_in(self, scale: Scale | None, meters: tuple[MeterPlace, ...]) -> None:
        """Open what is plugged in: the scale, and the first calipers and thermometer that answer."""
        if scale is not None and scale.plugged_in_at:
            self._tried(lambda: self.use(open_scale(scale.plugged_in_at, int(scale.baud), scale.line)))
        for place in meters:
            if place.plugged_in_at and place.kind not in self._meters:
                self._tried(lambda there=place: self._open(there))  # type: ignore[misc]

    def use(self, scale: ScalePort) -> None:
        """Weigh with this from now on."""
        self._scale, self._tare_g = scale, 0.0

    def use_meter(self, kind: MeterKind, meter: Meter) -> None:
        """Measure with this from now on."""
        self._meters[kind] = meter

    def tare(self) -> bool:
        """What lies on the scale now counts as nothing; whether there is a scale."""
        self._tare_g = self._last_g
        return self._scale is not None

    def weight(self) -> Reading | None:
        """What lies on the scale beyond its tare; None while nothing new came."""
        if self._scale is None:
            return None
        try:
            found = self._scale.read()
        except OrvekError as error:
            self._scale = None
            self._failed(str(error))
            return None
        if found is None:
            return None
        self._last_g = found.mass_g
        return replace(found, mass_g=round(found.mass_g - self._tare_g, 6))

    def value(self, kind: MeterKind) -> float | None:
        """What calipers or thermometer say, in mm or °C; None while nothing new came."""
        meter = self._meters.get(kind)
        if meter is None:
            return None
        try:
            return meter.read()
        except OrvekError as error:
            del self._meters[kind]
            self._failed(str(error))
            return None

    def close(self) -> None:
        """Let go of all of them."""
        for one in (self._scale, *self._meters.values()):
            if one is not None:
                one.close()
        self._scale, self._meters = None, {}

    def _open(self, place: MeterPlace) -> None:
        self._meters[place.kind] = open_meter(place.kind, place.plugged_in_at, int(place.baud), place.line)

    def _tried(self, deed: Callable[[], None]) -> None:
        try:
            deed()
        except OrvekError as error:
            self._failed(str(error))
