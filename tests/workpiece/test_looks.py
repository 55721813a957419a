"""How blanks look and what is read from pictures, written down and held to: pictures by the mean of their blocks.

Recorded like the sixteen jobs are: `ORVEK_RECORD=1 python -m pytest tests/workpiece/test_looks.py`. The reference
draws them, so that what stands in the rows is seen; that the kernel reads the rows alike has tests of its own.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np
import pytest

from orvek.documents import (
    CastStep,
    Cup,
    CutStep,
    InsertStep,
    SolidStep,
    StackStep,
    WrapStep,
    material,
)
from orvek.store import demo_job
from orvek.workpiece import pictures
from orvek.workpiece.compiling import compiled
from orvek.workpiece.lengths import lengths_mm, starts_mm
from orvek.workpiece.lustre import lean_map
from orvek.workpiece.measures import amounts
from orvek.workpiece.program import Program
from orvek.workpiece.reference import evaluate_reference
from tests.designs import programs
from tests.jobs.recorded_text import blocks, hold

GROUND = (255, 0, 255)
Z_MM = (np.arange(64, dtype=np.float32) + np.float32(0.517)) * np.float32(130 / 64.1)
RADIUS_MM = np.linspace(5.1, 7.3, 64).astype(np.float32)


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
