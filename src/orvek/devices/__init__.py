"""What is plugged in at the bench: a scale. One small interface, and a simulated one that ships."""

from orvek.devices.scale import (
    SIMULATED,
    Reading,
    ScalePort,
    SerialScale,
    SimulatedScale,
    open_scale,
    ports,
    reading_of,
)

__all__ = [
    "SIMULATED",
    "Reading",
    "ScalePort",
    "SerialScale",
    "SimulatedScale",
    "open_scale",
    "ports",
    "reading_of",
]
