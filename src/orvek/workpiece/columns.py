"""What stands in which column of a program's rows, kind by kind: each name is the number of its column.

One declaration for compiler, kernel and reference. A column more, or in another place, is a change here alone.
"""

from __future__ import annotations

from functools import cache

# What stands in which column of a row, kind by kind. A name is the number of its column.

# SOLID: material, cosine and sine of the grain against the axis.
SOLID_MATERIAL, SOLID_COS, SOLID_SIN = range(3)

# LAYERED: normal, offset along it, where bounds and materials begin in aux, how many, total, whether it repeats.
(
    LAYERED_NX,
    LAYERED_NY,
    LAYERED_NZ,
    LAYERED_OFFSET,
    LAYERED_START,
    LAYERED_COUNT,
    LAYERED_TOTAL,
    LAYERED_PERIODIC,
) = range(8)

# STAVES: staves, half a glue line, its material, where their materials begin and how many, twist in radians a mm,
# rings and their turn; apothem of the hole, how it grows a mm, from which z; what is inside.
(
    STAVES_COUNT,
    STAVES_HALF_GLUE,
    STAVES_GLUE,
    STAVES_START,
    STAVES_KEYS,
    STAVES_TWIST,
    STAVES_RING,
    STAVES_RING_TURN,
    STAVES_HOLE,
    STAVES_GROWS,
    STAVES_MIDDLE,
    STAVES_INSIDE,
) = range(12)

# CAST: cups, where waves and thresholds begin in aux, whether in layers, depth.
CAST_CUPS, CAST_WAVES, CAST_START, CAST_LAYERED, CAST_DEPTH = range(5)

# EDGE: azimuth, distance, slope, roughness, z in the middle, waves in aux, material; drawn points in aux, how many,
# how far apart.
(
    EDGE_COS,
    EDGE_SIN,
    EDGE_MIDDLE,
    EDGE_SLOPE,
    EDGE_ROUGH,
    EDGE_Z_MIDDLE,
    EDGE_WAVES,
    EDGE_MATERIAL,
    EDGE_LINE,
    EDGE_POINTS,
    EDGE_SPACING,
) = range(11)

# CORE: radius, material.
CORE_RADIUS, CORE_MATERIAL = range(2)

# RODS: radius squared, material, how many, on which ring, first azimuth.
RODS_RADIUS_SQUARED, RODS_MATERIAL, RODS_COUNT, RODS_RING, RODS_AZIMUTH = range(5)

# WRAP: radius of core and sheet, four materials, pattern, repeats around and along; picture among the dots, its rows
# and columns; where it begins along and round (as a part of the circle), whether once; then its paper is material one.
(
    WRAP_CORE,
    WRAP_OUTER,
    WRAP_CORE_MATERIAL,
    WRAP_ONE,
    WRAP_OTHER,
    WRAP_OVER,
    WRAP_PATTERN,
    WRAP_AROUND,
    WRAP_PITCH,
    WRAP_PICTURE,
    WRAP_ROWS,
    WRAP_COLUMNS,
    WRAP_SHIFT,
    WRAP_TURN,
    WRAP_ONCE,
) = range(15)

# CHIPS: waves in aux, threshold, material.
CHIPS_WAVES, CHIPS_THRESHOLD, CHIPS_MATERIAL = range(3)

# PHOTO: views in aux (cosine and sine of the side, where its dots begin, rows, columns), how many; half the width and
# depth of the bar as photographed, its length, whether it is round; in how many shades the dots stand.
(
    PHOTO_START,
    PHOTO_VIEWS,
    PHOTO_HALF_WIDTH,
    PHOTO_HALF_DEPTH,
    PHOTO_LENGTH,
    PHOTO_ROUND,
    PHOTO_SHADES,
) = range(7)

# CUT: normal, distance, lower face, sheet, how what lies beyond moves, layers in aux, how many, limit of a tab and
# its direction.
(
    CUT_NX,
    CUT_NY,
    CUT_NZ,
    CUT_D,
    CUT_LOW,
    CUT_SHEET,
    CUT_MX,
    CUT_MY,
    CUT_MZ,
    CUT_START,
    CUT_COUNT,
    CUT_LIMIT,
    CUT_UX,
    CUT_UY,
) = range(14)

# ARC: azimuth, distance of the centre, radius, its z, lower face, sheet, how what lies beyond moves, layers in aux,
# how many.
ARC_COS, ARC_SIN, ARC_DISTANCE, ARC_RADIUS, ARC_Z0, ARC_LOW, ARC_SHEET, ARC_MOVE, ARC_START, ARC_COUNT = range(10)

# SLICE: normal, first face, slice, kerf, gap, how every other is turned, the axis of a turn end for end, material
# between.
(
    SLICE_NX,
    SLICE_NY,
    SLICE_NZ,
    SLICE_START,
    SLICE_SLICE,
    SLICE_KERF,
    SLICE_GAP,
    SLICE_TURN,
    SLICE_UX,
    SLICE_UY,
    SLICE_UZ,
    SLICE_MATERIAL,
) = range(12)

# RIP: azimuth, kerf, how one half is flipped, length, half the width, where the bar begins in either half.
RIP_COS, RIP_SIN, RIP_KERF, RIP_FLIP, RIP_LENGTH, RIP_HALF, RIP_LEFT, RIP_SLID = range(8)

# PLUG: direction, a point, radius squared, material; how far along the direction it begins, and by how much it is
# shorter along the bar than across it (below 1: longer).
(
    PLUG_DX,
    PLUG_DY,
    PLUG_DZ,
    PLUG_PX,
    PLUG_PY,
    PLUG_PZ,
    PLUG_RADIUS_SQUARED,
    PLUG_MATERIAL,
    PLUG_FLOOR,
    PLUG_STRETCH,
) = range(10)

# DYE: depth from the faces, half the width and depth of the bar, its length, map in aux, its places, which dye of the
# program; depth from the ends, whether the bar is round.
(
    DYE_DEPTH,
    DYE_HALF_WIDTH,
    DYE_HALF_DEPTH,
    DYE_LENGTH,
    DYE_START,
    DYE_PLACES,
    DYE_NUMBER,
    DYE_END_DEPTH,
    DYE_ROUND,
) = range(9)

# REORIENT: azimuth, cosine and sine of the angle, shift along, z of the middle, shift across.
(
    REORIENT_COS,
    REORIENT_SIN,
    REORIENT_TURN_COS,
    REORIENT_TURN_SIN,
    REORIENT_SHIFT,
    REORIENT_MIDDLE,
    REORIENT_ACROSS,
) = range(7)


@cache
def columns_of(kind: str) -> int:
    """How many columns a kind of row has, by its name: `columns_of("CORE")` is 2."""
    return sum(1 for name in globals() if name.startswith(f"{kind}_"))
