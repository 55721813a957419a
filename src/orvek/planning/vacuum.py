"""What every vacuum asks for, whichever step pulls it: a vessel that holds, and air enough that nothing boils."""

from __future__ import annotations

import math
from collections.abc import Iterator

from orvek.craft.bubbles import GAUGE_ERROR_KPA, air_kpa
from orvek.documents import FieldPath
from orvek.planning.findings import Edit, Finding, Remedy, Severity, Station
from orvek.planning.results import Plan

_LEAST_BAR = 0.1  # a dial reads no less


def vessel(station: Station, made_of: str, path: FieldPath) -> Iterator[Finding]:
    """A vessel that implodes, one that nobody described, one that crazes; `path` is where the job says what it is."""
    rated = Remedy("A rated steel chamber", (Edit(path, "steel"),))
    match made_of:
        case "plain glass":
            because = "Plain glass bursts inwards under vacuum without warning, and throws splinters."
            yield Finding(Severity.STOP, station, "Never pull a vacuum on plain glass.", because, (rated,))
        case "not known":
            because = "Only a vessel that its maker rates for vacuum: steel, thick acrylic, tempered glass in a cage."
            yield Finding(Severity.CAUTION, station, "What is the chamber made of?", because, (rated,))
        case "thick acrylic, rated":
            because = "Some resins and all alcohol craze it: look along its wall against the light before every use."
            yield Finding(Severity.NOTE, station, "Look the acrylic over for crazing.", because)


def boiling(plan: Plan, station: Station, left_kpa: float, boils_kpa: float, gauge: FieldPath) -> Iterator[Finding]:
    """A resin that boils at this vacuum, or may, as far as a dial gauge can be trusted."""
    units = plan.units
    if left_kpa >= boils_kpa + GAUGE_ERROR_KPA:
        return
    weaker = math.floor(air_kpa(plan.shop.preferences.altitude_m) - boils_kpa - GAUGE_ERROR_KPA) / 100
    remedies = (Remedy(f"Pull only {units.bar(weaker, 2)}", (Edit(gauge, weaker),)),) if weaker >= _LEAST_BAR else ()
    surely = left_kpa < boils_kpa
    off = "" if surely else f" A dial gauge and the weather may be {units.kpa(GAUGE_ERROR_KPA)} off."
    because = (
        f"{units.kpa(max(0.0, left_kpa))} are left, and by its vapour pressure it boils near {units.kpa(boils_kpa)} in "
        f"this shop.{off} What boils is lost, and never stops bubbling."
    )
    title = "The resin itself boils." if surely else "The resin itself may boil."
    yield Finding(Severity.CAUTION if surely else Severity.NOTE, station, title, because, remedies)
