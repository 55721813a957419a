"""What is worked out from pictures and solids, written down and held to: places for barrels, pieces, photos, light.

Recorded like the sixteen jobs are: `ORVEK_RECORD=1 python -m pytest tests/workpiece/test_readings.py`.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date
from itertools import product
from typing import Any

import numpy as np
import pytest

from orvek.documents import (
    Accuracy,
    ArcStep,
    Chip,
    Corners,
    Cup,
    CutStep,
    DyeStep,
    LaminateStep,
    Layer,
    Mark,
    Piece,
    PigmentDose,
    PlugStep,
    RipStep,
    Shop,
    SliceStep,
    SolidStep,
    StackStep,
    StavesStep,
    Step,
)
from orvek.store import demo_job
from orvek.store.demo import second_demo_job
from orvek.store.demo_shelf import demo_album, demo_pieces
from orvek.workpiece import optics
from orvek.workpiece.against_light import bright_places
from orvek.workpiece.best_place import best_place
from orvek.workpiece.compiling import compiled
from orvek.workpiece.joint import carried_over
from orvek.workpiece.lengths import reach_mm
from orvek.workpiece.outline import TurnedBarrel, outline_mm
from orvek.workpiece.photo import face_of, named_groups, proportion, seen, sized_by_ruler, white_balanced
from orvek.workpiece.photo_corners import proposed_corners
from orvek.workpiece.piece_look import apart, bar_of, piece_face, rendered
from orvek.workpiece.reference import evaluate_reference
from orvek.workpiece.slab import SlabBar
from orvek.workpiece.slab_bars import bar_album, slab_of, way_out
from orvek.workpiece.stretch import Room, Wish, proposals
from orvek.workpiece.swirl import swirl_field, swirl_picture
from orvek.workpiece.tolerance import Trial
from tests.jobs.recorded_text import blocks, hold
from tests.jobs.told import told
from tests.photos import ASKEW, photographed


def places(_shop: Shop) -> Iterator[str]:
    """Where barrels go by all that may be wished, one barrel to three."""
    woods = (("hard-maple", 9), ("black-walnut", 4), ("hard-maple", 13))
    layers = tuple(Layer(material=key, thickness_mm=mm) for key, mm in woods)
    slanting = LaminateStep(strips=layers, angle_deg=9, azimuth_deg=20)
    across = CutStep(angle_deg=65, azimuth_deg=40, centre_mm=58, kerf_mm=2)
    ringed, striped = (
        compiled((stock, across, PlugStep(centre_mm=91, diameter_mm=6), DyeStep(depth_mm=2)), 20, 20, 190)
        for stock in (StackStep(pieces=layers), slanting)
    )
    barrels = (TurnedBarrel(5, 47, 12, 12.6, 7), TurnedBarrel(51, 87, 12.6, 11, 7), TurnedBarrel(90, 115, 11, 10, 7))
    wishes = {
        "as usual": Wish(),
        "one material": Wish(feature="black-walnut", same_at_both_ends=True),
        "most of it": Wish(feature="black-walnut", most_of_it=True, feature_centred=False),
        "turned": Wish(carried_over_the_joint=True, may_turn=True, no_line_within_mm=0),
        "under a band": Wish(carried_over_the_joint=True, may_turn=True, band_mm=5, no_line_within_mm=2),
        "marked": Wish(centre_mm=(91.0, 30.0), off_mm=((10.0, 20.0), (150.0, 152.0))),
    }
    for (name, wish), count in product(wishes.items(), (1, 2, 3)):
        trims = (1.5, 2.0, 3.0)[:count]
        for program, high in ((ringed, 101.0), (ringed, 181.0), (striped, 180.5)):
            found = proposals(evaluate_reference, program, barrels[:count], Room(4.0, high, trims, 1.8), wish, 2)
            yield f"{name}, {count} to {high:g}: {[[round(v, 3) for v in flat(one)] for one in found]}"
    rings = np.zeros((2, 36, 3), np.uint8)
    rings[0, 3:9], rings[1, 20:26, 1], rings[1, 22] = 200, 90, 200
    yield f"{carried_over(*rings)} {carried_over(rings[0], rings[0] * 0)}"
    profile = (TurnedBarrel(10, 60, 12, 13, 7, between=((0.3, 15.0),)), TurnedBarrel(64, 110, 13, 9, 7))
    yield " ".join(f"{value:.4g}" for value in outline_mm(np.arange(0, 130, 6.1, dtype=np.float32), profile, 8.0))
    yield " ".join(f"{reach_mm(20, 14, azimuth):.4g}" for azimuth in range(0, 360, 35))


def flat(found: Any) -> Iterator[float]:
    """All figures of a proposal."""
    for name in found.__struct_fields__:
        value = getattr(found, name)
        yield from value if isinstance(value, tuple) else (value,)


def pieces(shop: Shop) -> Iterator[str]:
    """Pieces of the shelf as they look, how unlike they are, and where a pen fits each best."""
    album = demo_album()
    faces = []
    for piece in demo_pieces(shop, demo_job(), second_demo_job(), "album", date(2026, 11, 26)):
        if not piece.is_solid:
            continue
        of = album if piece.album else None
        yield f"{piece.name}: {bar_of(piece, of).size} from {bar_of(piece, of).begins_mm:g}"
        for azimuth in (0, 90):
            made = piece_face(evaluate_reference, piece, of, 60, 10, azimuth)
            yield f"  {azimuth}: {blocks(made)}"
        faces.append((piece, made))
        for pen, kerf in product(shop.pens[:2], (0.0, 1.8)):
            found = best_place(evaluate_reference, piece, of, pen, kerf)
            yield f"  {pen.name}: {[round(v, 3) for v in flat(found)] if found else None}"
    for (one, seen_one), (other, seen_other) in product(faces, faces[1:]):
        far = apart(seen_one, seen_other, (one.length_mm, other.length_mm))
        yield f"{one.name} and {other.name}: {far:.3f}"
    grey = Piece(name="Grey", length_mm=60, width_mm=20, depth_mm=17)
    album = rendered(evaluate_reference, grey, 2.0)
    yield f"{[view.azimuth_deg for view in album.views]} {bar_of(grey).size} {blocks(seen_face(album, 0, 2.0))}"


def seen_face(album: Any, number: int, px_per_mm: float) -> Any:
    """A face of an album, laid flat."""
    view = album.views[number]
    made = face_of(view, album.length_mm, album.across_mm(view.azimuth_deg), px_per_mm)
    assert made is not None
    return made


def photos(_shop: Shop) -> Iterator[str]:
    """What is read from photos: faces, their colours, marks carried onto bars, sizes by a ruler, light through."""
    album = demo_album()
    for number, px_per_mm in product((0, 1), (1.5, 6.0)):
        made = seen_face(album, number, px_per_mm)
        yield f"face {number}, {px_per_mm}: {made.shape} {blocks(made, 2, 8)}"
        for white in (None, "#bdb6a6", "#000000", "#ffffff"):
            yield f"  {white}: {blocks(white_balanced(made, white))}"
    found = seen(album)
    assert found is not None
    yield f"{sorted(set(found.colours))} {sorted(set(found.names))} {[face.shape for face in found.dots]}"
    for view in album.views:
        span = proportion(view)
        yield f"{span and [round(value, 3) for value in span]}"
        for ends in (((0.1, 0.7), (0.9, 0.72)), ((0.2, 0.2), (0.2, 0.21)), ((0.5, 0.5), (0.5, 0.5))):
            yield f"  {sized_by_ruler(view, ends, 100.0, 7.0)}"
    texture = np.kron(np.random.default_rng(5).integers(60, 200, (4, 30, 3)), np.ones((12, 12, 1))).astype(np.uint8)
    level: Corners = ((0.2, 0.3), (0.8, 0.32), (0.79, 0.44), (0.21, 0.43))
    for corners, bench, falloff in ((ASKEW, (176, 168, 156), 0.3), (level, (30, 30, 34), 0.0)):
        found = proposed_corners(photographed(texture, corners, bench=bench, falloff=falloff))
        yield f"proposed {found and [(round(x, 3), round(y, 3)) for x, y in found.corners]}"
    inks = np.array([(250, 250, 240), (240, 245, 238), (20, 30, 200), (30, 30, 190), (200, 20, 20), (90, 90, 90.0)])
    yield f"{named_groups(inks, np.array([50, 3, 20, 4, 9, 1]))} {named_groups(inks[:1], np.array([3]))}"
    marks = (*album.marks, Mark(name="Eye", kind="centre this", z_mm=70, across_mm=-3, size_mm=4, azimuth_deg=90))
    below = album.views[0].with_(azimuth_deg=270.0)
    slab = album.with_(marks=marks, views=(*album.views, below), length_mm=300, width_mm=90, depth_mm=90)
    yield from told(slab_of(slab))
    for bar in (SlabBar(90, 40, 0, 100, 20), SlabBar(70, 42, 33, 60, 22), SlabBar(60, 45, 180, 130, 25)):
        yield from told(bar_album(slab, bar))
        yield from told(way_out(slab_of(slab), bar))
    face = np.full((40, 200, 3), 60, np.uint8)
    for y, x, size in ((10, 30, 4), (20, 120, 12), (30, 180, 1), (0, 60, 3)):
        face[y : y + size, x : x + 2 * size] = 255
    for length in (50.0, 130.0):
        yield f"{[tuple(round(part, 3) for part in place) for place in bright_places(face, length)]}"


def light(_shop: Shop) -> Iterator[str]:
    """What shows through a wall by absorbing, scattering and ground; and what a measured chip says of its pigment."""
    for absorbed, scattered, behind in product((0.0, 0.4, 3.0), (0.0, 0.5, 8.0, 400.0), (0.05, 0.65)):
        figures = (
            optics.wall_reflectance(absorbed, scattered, behind),
            optics.transmittance(absorbed, scattered),
            optics.contrast_ratio(absorbed, scattered, behind),
        )
        yield f"{absorbed} {scattered} {behind}: {' '.join(f'{value:.5g}' for value in figures)}"
    for over_black, over_white in product((0.04, 0.2, 0.5), (0.1, 0.45, 0.8)):
        chip = Chip(over_black=over_black, over_white=over_white, thickness_mm=1.2, load_pct=0.8)
        yield f"chip {over_black} {over_white}: {' '.join(f'{v:.5g}' for v in optics.light_of_chip(chip))}"
        for dose in demo_job().cast.cups[0].pigments[:1]:
            pigment = dose.pigment.with_(chip=chip)
            cup = Cup(name="one", colour="#204060", share=1, pigments=(PigmentDose(pigment=pigment, load_pct=1.5),))
            shown = optics.passes(cup, 2.0), optics.passes(cup, 0.4, strength=2.0)
            yield f"  {shown[0]:.5g} {shown[1]:.5g} {optics.light_of(pigment)[2]}"
    yield f"{optics.platelets(0.01, 1.1, 2.0, 3.0, 0.5)} {optics.area_mass_g_m2(0.02, 1.1, 2.0)}"


def impressions(_shop: Shop) -> Iterator[str]:
    """A swirl as it is drawn before there is a blank."""
    for seed, scale, stretch, contrast in ((1, 1.0, 1.0, 1.0), (5, 2.0, 3.0, 0.3)):
        field = swirl_field(130, 20, 12, 60, seed, scale, stretch, contrast)
        yield f"{blocks(255 * field.level, 2, 6)} | {blocks(100 * field.shimmer, 2, 6)}"
        for colours, shares in ((((10, 20, 200), (240, 240, 230), (200, 40, 40)), (2.0, 3.0, 1.0)), ((), ())):
            yield blocks(swirl_picture(field, colours, shares), 2, 6)


def errors(_shop: Shop) -> Iterator[str]:
    """What small errors of saw, stop, glue and hole do to patterns; sketched, with few draws."""
    accuracy = Accuracy(angle_deg=0.3, stop_mm=0.3, kerf_mm=0.05, sheet_mm=0.05, centring_mm=0.3, boring_mm=0.3)
    sheet = (Layer(material="brass", thickness_mm=1.0),)
    made: tuple[tuple[Step, ...], ...] = (
        (
            SolidStep(),
            CutStep(angle_deg=60, centre_mm=40, sheet=sheet),
            CutStep(angle_deg=90, centre_mm=80, sheet=sheet),
        ),
        (StackStep(), SliceStep(pitch_mm=12, angle_deg=70), RipStep()),
        (StavesStep(count=6), ArcStep(centre_mm=60, sheet=sheet), PlugStep(centre_mm=30)),
    )
    barrels = (TurnedBarrel(6, 60, 12, 13, 7), TurnedBarrel(66, 110, 13, 11, 7))
    for steps in made:
        trial = Trial(evaluate_reference, steps, (20, 20, 120, False), barrels, accuracy)
        yield f"{[cause.group for cause in trial.causes]} {trial.boundary_mm:.2f} mm, {trial.area.sum():.2f} mm²"
        moves = np.eye(trial.values) * trial.scales()
        yield " ".join(f"{miss:.4g}" for miss in trial.mismatches(moves))


READINGS: dict[str, Callable[[Shop], Iterator[str]]] = {
    made.__name__: made for made in (places, pieces, photos, light, impressions, errors)
}


@pytest.mark.parametrize("name", READINGS)
def test_it_reads_what_it_read(name: str, shop: Shop) -> None:
    hold(f"looks_{name}", READINGS[name](shop))
