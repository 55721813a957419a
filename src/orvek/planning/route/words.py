"""Operations in words: what is set, how long hands take, what is waited for and whose word that is."""

from __future__ import annotations

from collections.abc import Iterator

from orvek.planning.route.results import Operation, Setting
from orvek.quantities import Dimension, Units, write


def whole_min(minutes: float, units: Units) -> str:
    """Minutes of hands as makers say them: none of it is known to the second."""
    return write(float(max(1, round(minutes))), Dimension.DURATION, units)


def settings_lines(one: Operation, units: Units) -> Iterator[str]:
    """What is set, those of one hole, cut or barrel in a line."""
    grouped: dict[str, list[Setting]] = {}
    for setting in one.settings:
        grouped.setdefault(setting.of, []).append(setting)
    for of, settings in grouped.items():
        values = ", ".join(f"{_label(setting)} {setting.figure.written(units)}" for setting in settings)
        yield f"{of}: {values}"


def _label(setting: Setting) -> str:
    """What is set, without the name that stands before it already."""
    label = setting.figure.label.removeprefix(f"{setting.of}: ").removeprefix("To, ")
    return label if label[1:2].isupper() else f"{label[:1].lower()}{label[1:]}"


def wait_words(one: Operation, units: Units) -> str:
    """How long is waited after an operation, for what, and whose word that is."""
    low, best, high = (write(minutes, Dimension.DURATION, units) for minutes in one.wait_min)
    span = best if low == high else f"{best} ({low} to {high})"
    by = {"forecast": ", as forecast", "log": ", by your log", "label": ", by the label"}.get(one.wait_source, "")
    return f"{span}: {one.wait_words}{by or ', a guess'}"
