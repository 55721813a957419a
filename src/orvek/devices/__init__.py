"""What is plugged in at the bench: scale, calipers, thermometer. Small interfaces, and simulated ones that ship."""

from orvek.devices.lines import SIMULATED
from orvek.devices.meter import Meter, MeterKind, open_meter, value_of
from orvek.devices.ports import Port, ports
from orvek.devices.scale import Reading, ScalePort, SerialScale, SimulatedScale, open_scale, reading_of

__all__ = [
    "SIMULATED",
    "Meter",
    "MeterKind",
    "Port",
    "Reading",
    "ScalePort",
    "SerialScale",
    "SimulatedScale",
    "open_meter",
    "open_scale",
    "ports",
    "reading_of",
    "value_of",
]
