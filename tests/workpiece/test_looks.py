"""How blanks look and what is read from pictures, written down and held to: pictures by the mean of their blocks.

Recorded like the sixteen jobs are: `ORVEK_RECORD=1 python -m pytest tests/workpiece/test_looks.py`. The reference
draws them, so that what stands in the rows is seen; that the kernel reads the rows alike has tests of its own.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from itertools import product

import numpy as np
import pytest

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
    material,
)
from orvek.shop import demo_job
from orvek.workpiece import pictures
from orvek.workpiece.compiling import compiled
from orvek.workpiece.lengths import lengths_mm, starts_mm
from orvek.workpiece.lustre import lean_map
from orvek.workpiece.measures import amounts
from orvek.workpiece.program import Program
from orvek.workpiece.reference import evaluate_reference
from tests.jobs.recorded_text import blocks, hold
from tests.mutants import seeds

GROUND = (255, 0, 255)
Z_MM = (np.arange(64, dtype=np.float32) + np.float32(0.517)) * np.float32(130 / 64.1)
RADIUS_MM = np.linspace(5.1, 7.3, 64).astype(np.float32)


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
    strips = tuple(Layer(material=key, thickness_mm=mm) for key, mm in (("maple", 6), ("walnut", 9), ("holly", 5)))
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


def solids() -> Iterator[str]:
    """The field of each: its surface once turned, two of its faces, how much there is of what."""
    for name, steps in programs():
        program = compiled(steps, 20, 18, 130)
        surface = pictures.unrolled(evaluate_reference, program, Z_MM, RADIUS_MM, 24)
        sides = (pictures.face(evaluate_reference, program, Z_MM, 12, azimuth) for azimuth in (90, 180))
        yield f"{name}: {blocks(surface, 3, 6)} | {' | '.join(blocks(side) for side in sides)}"
        volumes = amounts(evaluate_reference, program, 8, 118, points=20_000)
        yield "  " + ", ".join(f"{one.material.key} {one.volume_ml:.2f} ml" for one in volumes)
        yield f"  {lengths_mm(steps, 140.0)} {starts_mm(steps, 130.0)}"


def seen_solids() -> Iterator[tuple[str, Program, float]]:
    """Blanks that ask for every kind of looking: into clear resin, onto pearl, at rounds and sheets."""
    pearl = tuple(cup for cup in demo_job().cast.cups)
    clear = CastStep(cups=(Cup(name="clear", colour="#e0e0d0", share=1),))
    blue = (material("holly").with_(key="own", name="Own", colour="#1020f0", second="#90a0ff", look="pearl"),)
    sheet = WrapStep(core_mm=10.5, sheet_mm=0.4, pattern="checks", around=4)
    yield "pearl", compiled((CastStep(cups=pearl, seed=4),), 20, 20, 130), 3.5
    yield "clear over a core", compiled((InsertStep(form="core", diameter_mm=9), clear), 20, 16, 130), 3.5
    yield "clear over a sheet", compiled((sheet,), 20, 20, 130), 4.0
    yield "round", compiled((StackStep(), CutStep(angle_deg=50, centre_mm=60)), 21, 21, 130, is_round=True), 4.0
    yield "own", compiled((SolidStep(material="own"),), 20, 20, 130, own=blue), 0.0


def views() -> Iterator[str]:
    """Every kind of picture of each of them, plain and lit."""
    radius_px = (RADIUS_MM * np.float32(1.7)).astype(np.float32)
    radius_px[40:44] = 0
    lit = pictures.turning(radius_px, 30, (40, 42, 46))
    for name, program, hole in seen_solids():
        rolled = pictures.unrolled(
            evaluate_reference, program, Z_MM, RADIUS_MM, 32, hole_radius_mm=hole, behind=(200.0, 20.0, 20.0)
        )
        lean = lean_map(evaluate_reference, program, Z_MM, RADIUS_MM, 32)
        yield f"{name}, rolled out: {blocks(rolled, 3, 6)}"
        of = pictures.unrolled_materials(evaluate_reference, program, Z_MM, RADIUS_MM, 32)
        yield f"  materials {np.bincount(of.ravel())}"
        yield f"  leans: {'none' if lean is None else blocks(lean)}"
        for angle in (0, 100):
            yield f"  turned by {angle}: {blocks(pictures.turned(rolled, lit, angle, lean), 3, 6)}"
            yield f"  part of it: {blocks(pictures.turned(rolled[:, 8:40], lit.part(8, 40), angle), 3, 4)}"
        for azimuth in (0, 35, 90, 270):
            yield f"  face {azimuth}: {blocks(pictures.face(evaluate_reference, program, Z_MM, 20, azimuth))}"
            yield f"  section {azimuth}: {blocks(pictures.section(evaluate_reference, program, Z_MM, 20, azimuth))}"
        yield f"  about it: {blocks(pictures.block_from_above(evaluate_reference, program, (170.3, 52.1), 0.6))}"
        for plane in ((0, 0, 40), (0, 70, 40), (30, 20, 70), (90, 45, 3), (45, 180, 128)):
            made = pictures.oblique(evaluate_reference, program, plane, (24, 40), GROUND)
            yield f"  on the plane {plane}: {blocks(made, 4, 4)}"
        for z in (0.4, 77.3):
            yield f"  end at {z}: {blocks(pictures.end_face(evaluate_reference, program, z, (21, 23), GROUND), 3, 3)}"
        for radius in (None, 6.0):
            volumes = amounts(evaluate_reference, program, 3, 61, radius, points=5_000)
            yield f"  {radius}: {', '.join(f'{one.volume_ml:.3f} ml, {one.mass_g:.3f} g' for one in volumes)}"


LOOKS: dict[str, Callable[[], Iterator[str]]] = {made.__name__: made for made in (solids, views)}


@pytest.mark.parametrize("name", LOOKS)
def test_it_looks_as_it_did(name: str) -> None:
    hold(f"looks_{name}", LOOKS[name]())
