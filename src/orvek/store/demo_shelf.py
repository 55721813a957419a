"""What lies on the shelf of Tern Quay: a bar as photographed, leftovers of its jobs, an orphan barrel, tubes, a jar."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from importlib import resources

from orvek.documents import FACES, Artwork, Corners, Job, MadeLook, Mark, PhotoStep, PhotoView, Piece, Shop

_COUNTED_BEFORE, _COUNTED_AT = timedelta(days=26), time(18)
_CARD = "#bdb6a6"  # the grey card beside the bar, as the camera saw it
_CORNERS: dict[str, Corners] = {
    "A": ((0.0757, 0.4498), (0.9, 0.3227), (0.8955, 0.477), (0.0955, 0.6211)),
    "B": ((0.0851, 0.4525), (0.9182, 0.4715), (0.9218, 0.652), (0.071, 0.6134)),
}


def demo_album() -> PhotoStep:
    """Sandbar: two faces of a bar of slanting strips that came with a box of leftovers."""
    views = tuple(
        PhotoView(artwork=_photo(face), azimuth_deg=FACES[face], corners=corners, white=_CARD)
        for face, corners in _CORNERS.items()
    )
    marks = (Mark(name="Check", kind="must not show", z_mm=9, across_mm=2, size_mm=6),)
    return PhotoStep(length_mm=140, width_mm=19, depth_mm=19, made_of="glued layers", views=views, marks=marks)


def demo_pieces(shop: Shop, tideline: Job, ropewalk: Job, album: str, today: date) -> tuple[Piece, ...]:
    """The pieces, counted some weeks ago; `album` is the name under which the photos of Sandbar are kept."""
    counted_at = datetime.combine(today - _COUNTED_BEFORE, _COUNTED_AT)
    pen = shop.pens[0].name
    cast = MadeLook(steps=tideline.blank.steps, length_mm=132)
    knot = MadeLook(steps=ropewalk.blank.steps, length_mm=130)
    sandbar = {"length_mm": 140, "width_mm": 19, "depth_mm": 19, "album": album, "place": "Bin 2"}
    barrel = {"form": "round", "length_mm": 47.5, "width_mm": 12.8, "depth_mm": 12.8, "hole_mm": 8.3}
    counted = {"pen": pen, "counted_at": counted_at, "place": "Drawer 1"}
    shelved = {"counted_at": counted_at, "place": "Shelf over the scale"}
    made = (
        {"name": "Sandbar", "code": "SNDBR2", **sandbar},
        {"name": "Ropewalk, spare end", "code": "RPWK22", "kind": "leftover", "length_mm": 70, "look": knot},
        {"name": "Tideline, first try", "code": "TDLN22", "kind": "leftover", "length_mm": 118, "look": cast},
        {"name": "Nib barrel, cap cracked", "code": "NBRRL2", "kind": "orphan barrel", "look": cast, **barrel},
        {"name": "Tubes, Ebb", "code": "TBSEBB", "kind": "tube", "count": 16, "sold_by": 10, **counted},
        {"name": "Part sets, Ebb", "code": "PRTEBB", "kind": "part set", "count": 7, "sold_by": 5, **counted},
        {"name": "Refills, Ebb", "code": "RFLEBB", "kind": "refill", "count": 12, "sold_by": 10, **counted},
        {
            "name": "Quay slow clear",
            "code": "QYSLWC",
            "kind": "jar",
            "grams": 1850,
            "lot": "QSC 26-1",
            "seller": "The chandler on the quay",
            "counted_at": counted_at,
            "place": "Cellar",
        },
        {"name": "slow epoxy", "code": "SLWEPX", "kind": "glue", "grams": 140, "least": 60, **shelved},
        {
            "name": "gloves, a pair",
            "code": "GLVS22",
            "kind": "consumable",
            "count": 3,
            "least": 5,
            "sold_by": 50,
            **shelved,
        },
        {"name": "cup of 250 ml", "code": "CUP252", "kind": "consumable", "count": 14, **shelved},
        {"name": "P400", "code": "PPR422", "kind": "abrasive", "count": 6, "least": 2, **shelved},
    )
    return tuple(Piece.model_validate(content) for content in made)


def _photo(face: str) -> Artwork:
    content = resources.files("orvek.data").joinpath("demo", f"sandbar {face}.jpg").read_bytes()
    return Artwork(name=f"Sandbar, face {face}", content=content)
