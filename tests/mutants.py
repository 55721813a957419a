"""Job files that were damaged by hand: numbers at and beyond their bounds, fields gone, lists doubled, odd words.

`mutants(seed, count)` gives texts; some are jobs still, most are not. What `from_text` takes must be planned,
reported, carded and pictured, and every remedy it offers must be possible.
"""

from __future__ import annotations

import copy
import json
import random
from collections.abc import Iterator
from importlib import resources
from typing import Any

from orvek.documents import catalogue, to_text
from orvek.store.demo import demo_job, second_demo_job, third_demo_job

_NUMBERS = (
    *(0, -1, 1, 0.04, 0.05, 0.3, 1e-9, 0.1, 0.5, 2, 3, 5, 7, 12, 20, 24, 36, 45, 60, 90, 100, 150, 200, 300),
    *(360, 500, 600, 1000, 5000, 20000, 1e308, -0.0, 0.999999, 64, 65, 31, 32, 199, 8, 200.0001, 1e-3),
)
_WORDS = ("", "=1+1", "<img src=x>", "a" * 80, "b" * 79, "x\u0000y", "../..", "white wood glue", "tube", "swirl")
_KINDS = (
    *("cast", "solid", "laminate", "stack", "staves", "wrap", "insert", "cut", "arc", "slice", "rip", "plug"),
    *("dye", "round", "square", "reorient"),
)


def seeds() -> list[dict[str, Any]]:
    """Job files to begin from: the demo's, and one for each shipped design."""
    found = [
        json.loads(to_text(demo_job())),
        json.loads(to_text(second_demo_job())),
        json.loads(to_text(third_demo_job())),
    ]
    designs = json.loads(resources.files("orvek.data").joinpath("designs.json").read_text(encoding="utf-8"))
    for design in designs["designs"] if isinstance(designs, dict) else designs:
        for base in found[:2]:
            job = copy.deepcopy(base)
            job["blank"]["steps"] = copy.deepcopy(design["steps"])
            found.append(job)
    return [*found, *(_told_more(copy.deepcopy(job)) for job in found)]


def _told_more(job: dict[str, Any]) -> dict[str, Any]:
    """The same job with what a maker may measure and choose beyond what is asked for."""
    job["glue_up"] |= {"kerf_readings_mm": [1.9, 2.0, 2.1], "sheet_readings_mm": [1.5, 1.6, 1.5], "activator": True}
    job["blank"] |= {"tube_starts_mm": [5.0, 60.0], "tube_turns_deg": [10.0, 90.0], "paints": [{"where": "hole"}]}
    job["pour"]["insert"] = {"volume_ml": 20.0, "mass_g": 14.0, "moisture_pct": 7.0}
    job["pour"]["conditions"] |= {
        "warm_c": 40.0,
        "layers": 2,
        "night_c": 14.0,
        "poured_on": "2026-11-27",
        "drill_on": "2026-11-29",
    }
    job["pour"]["bubbles"] |= {"way": "pressure"}
    for step in job["blank"]["steps"]:
        for cup in step.get("cups", ()):
            for dose in cup["pigments"]:
                dose["pigment"]["chip"] = {"thickness_mm": 2.0, "load_pct": 2.0, "over_black": 0.4, "over_white": 0.5}
        if step["kind"] == "staves":
            step["ring_mm"] = 12.0
        if step["kind"] == "wrap":
            step |= {
                "pattern": "picture",
                "picture": {"name": "Tide", "colours": ["#102030", "#e0e0e0"], "rows": ["0110"]},
            }
    return job


def mutants(seed: int, count: int) -> Iterator[str]:
    """Texts of job files, each with one to four things changed."""
    chance = random.Random(seed)
    begun = seeds()
    families = [json.loads(resin.model_dump_json()) for resin in catalogue().resins]
    for _ in range(count):
        job = copy.deepcopy(chance.choice(begun))
        if chance.random() < 0.3:
            job["pour"]["resin"] = copy.deepcopy(chance.choice(families))
        for _ in range(chance.randint(1, 4)):
            _change(job, chance)
        yield json.dumps(job)


def _places(found: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    entries = found.items() if isinstance(found, dict) else enumerate(found) if isinstance(found, list) else ()
    for key, value in entries:
        yield (*path, key)
        yield from _places(value, (*path, key))


def _change(job: dict[str, Any], chance: random.Random) -> None:
    path = chance.choice(list(_places(job)))
    holder: Any = job
    for key in path[:-1]:
        holder = holder[key]
    old, last = holder[path[-1]], path[-1]
    match old:
        case bool():
            holder[last] = not old
        case int() | float():
            holder[last] = _number(old, chance)
        case str():
            holder[last] = chance.choice([*_WORDS, old * 3, *_KINDS])
        case list() if old:
            _shuffle(old, chance)
        case None:
            holder[last] = chance.choice([*_NUMBERS])
        case dict() if isinstance(holder, dict) and chance.random() < 0.5:
            del holder[last]


def _number(old: float, chance: random.Random) -> float:
    if chance.random() < 0.2 and isinstance(old, int):
        return old + chance.choice([-1, 1, 50])
    if chance.random() < 0.4:
        return round(old * chance.choice([0.01, 0.1, 0.5, 0.9, 1.1, 2, 10]), 4)
    return chance.choice(_NUMBERS)


def _shuffle(items: list[Any], chance: random.Random) -> None:
    match chance.randrange(4):
        case 0:
            items.append(copy.deepcopy(chance.choice(items)))
        case 1:
            items.pop(chance.randrange(len(items)))
        case 2:
            chance.shuffle(items)
        case _:
            items *= chance.choice([2, 3, 8])
