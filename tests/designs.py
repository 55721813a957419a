"""Blanks of every kind of step in many ways: `stocks`, `work`, and `programs`, both together with their names."""

from __future__ import annotations

import json
from collections.abc import Iterator
from itertools import product

from orvek.documents import (
    ArcStep,
    Artwork,
    CastStep,
    Cup,
    CutStep,
    DyeStep,
    InsertStep,
    LaminateStep,
    Layer,
    PlugStep,
    ReorientStep,
    RipStep,
    RoundStep,
    SliceStep,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
    checked,
    from_text,
)
from tests.mutants import seeds


def printed(*rows: str) -> Artwork:
    """A small picture of three colours."""
    return checked(Artwork, {"colours": ["#101010", "#f0f0f0", "#a02020"], "rows": rows})


def stocks() -> Iterator[tuple[Step, ...]]:
    """What a blank may begin with, in many ways."""
    three = tuple(Layer(material=key, thickness_mm=mm) for key, mm in (("holly", 5), ("brass", 1.5), ("ebony", 7)))
    yield from ((SolidStep(material="pear", grain_deg=angle),) for angle in (0, 30, -75))
    for angle, azimuth, glue in product((0, 35, 90), (0, 50), (0.0, 0.3)):
        yield (LaminateStep(strips=three, angle_deg=angle, azimuth_deg=azimuth, glue_mm=glue),)
    yield from ((StackStep(pieces=three, glue_mm=glue),) for glue in (0.0, 0.2))
    for count, twist, ring, thick, taper in ((3, 0, 0, 0, 0), (8, 90, 9, 0, 0), (6, -40, 0, 4, 3), (12, 0, 7, 6, -4)):
        yield (StavesStep(count=count, twist_deg=twist, ring_mm=ring, thickness_mm=thick, taper_deg=taper),)
    for pattern, stands, times, art in (
        *((pattern, "along the bar", "repeated", None) for pattern in ("bands", "checks", "waves")),
        *(("picture", stands, times, printed("0120", "2011", "0002"))
          for stands in ("along the bar", "round the bar") for times in ("repeated", "once")),
    ):  # fmt: skip
        wrap = WrapStep(core_mm=9, sheet_mm=0.6, pattern=pattern, around=3, stands=stands, times=times, artwork=art)
        yield (wrap,)
        yield (wrap.with_(core_mm=12.5, shift_mm=17, seam_deg=70, around=5),)
    cups = (
        Cup(name="a", colour="#204060", share=5),
        Cup(name="b", colour="#f0e0c0", share=2),
        Cup(name="c", colour="#a02020", share=1),
    )
    for style, number in product(("swirl", "layers", "chips"), (1, 3)):
        yield (CastStep(cups=cups[:number], style=style, seed=7, scale=1.4, stretch=2.0, contrast=0.6),)
    for form in ("edge", "core", "rods", "chips"):
        laid = InsertStep(form=form, azimuth_deg=30, middle_mm=1.5, slope_deg=4, material="bigleaf-maple")
        yield laid, CastStep(cups=cups, seed=3)
        yield laid.with_(line_mm=(2.0, -1.0, 3.0, 0.5), diameter_mm=8, ring_mm=5, rough_mm=0), CastStep(cups=cups[1:])


def work() -> Iterator[Step]:
    """What may be done to a bar, in many ways."""
    sheet = (Layer(material="brass", thickness_mm=0.8), Layer(material="black-composite", thickness_mm=0.5))
    for register, tab, slip, form in (
        ("coaxial", 0.0, 0.0, "single layers"), ("normal", 0.0, 0.8, "one bonded sheet"),
        ("coaxial", 2.0, 0.0, "single layers"), ("coaxial", 0.0, -2.0, "one bonded sheet"),
    ):  # fmt: skip
        cut = {"register_by": register, "tab_mm": tab, "slip_mm": slip, "sheet_form": form}
        for angle, azimuth, at in ((90, 0, 64.3), (40, 75, 51.7)):
            yield CutStep(angle_deg=angle, azimuth_deg=azimuth, centre_mm=at, kerf_mm=1.7, sheet=sheet, **cut)
        yield CutStep(angle_deg=60, centre_mm=70.2, kerf_mm=2.2, glue_mm=0.2, **cut)
    for azimuth, radius in ((0, 16), (110, 25)):
        yield ArcStep(azimuth_deg=azimuth, centre_mm=61.4, radius_mm=radius, sheet=sheet)
    for turn, angle in product(("90", "180", "end for end"), (90, 55)):
        yield SliceStep(pitch_mm=9.3, angle_deg=angle, azimuth_deg=20, turn=turn)
    for flip, shift in product(("end for end", "face for face"), (0.0, 7.5, -4.0)):
        yield RipStep(azimuth_deg=35, flip=flip, shift_mm=shift)
    for way, deep, long in product(("across", "along"), (None, 5.0), (None, 14.0)):
        yield PlugStep(way=way, deep_mm=deep, long_mm=long, azimuth_deg=60, offset_mm=2, diameter_mm=5, centre_mm=48.8)
    yield from (DyeStep(depth_mm=depth) for depth in (1.5, 4.0, 20.0))
    yield from (ReorientStep(angle_deg=a, azimuth_deg=30, shift_mm=6, across_mm=-3) for a in (-60, 12))
    yield from (RoundStep(), SquareStep())


def programs() -> Iterator[tuple[str, tuple[Step, ...]]]:
    """Names and steps: every stock by itself, every work on a bar that looks otherwise on each side, designs."""
    woods = (("hard-maple", 6), ("black-walnut", 9), ("holly", 5))
    strips = tuple(Layer(material=key, thickness_mm=mm) for key, mm in woods)
    slanting = LaminateStep(strips=strips, angle_deg=25, azimuth_deg=40)
    for steps in stocks():
        yield f"{steps[0].kind} {said(steps[0])}", steps
    for step in work():
        yield f"{step.kind} {said(step)}", (slanting, step)
    yield "one after another", (slanting, *(step for n, step in enumerate(work()) if n % 3 == 0))
    known = [from_text(json.dumps(job)) for job in seeds()[3:9:2]]
    yield from ((f"design {n}", job.blank.steps) for n, job in enumerate(known))


def said(step: Step) -> str:
    """What a step says beyond its defaults."""
    return str(step.model_dump(exclude_defaults=True, exclude={"artwork", "cups", "strips", "layers", "sheet"}))
