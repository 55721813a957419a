"""The maker's deeds: each takes a job (or a shop) and gives the one that follows; none changes what it was given.

A deed that does not apply raises an `OrvekError` with the sentence for the maker.
"""

from orvek.documents.deeds.bore import set_hole
from orvek.documents.deeds.cups import (
    LEAST_SHARE_PCT,
    NEW_CUP_COLOURS,
    add_cup,
    add_pigment,
    choose_mould,
    choose_resin,
    move_boundary,
    remove_cup,
    remove_pigment,
    renormalise_shares,
    set_chip,
    set_cup,
    set_dose,
    split_cup,
    usual_load_pct,
)
from orvek.documents.deeds.faults import add_fault, remove_fault, set_fault
from orvek.documents.deeds.finish import choose_school, set_sized
from orvek.documents.deeds.pen import (
    add_barrel,
    choose_pen,
    flip_tube,
    lay_tubes_out,
    move_tube,
    remove_barrel,
    set_bars,
    set_parts,
    turn_tube,
)
from orvek.documents.deeds.shelf import put_on_shelf, set_preference, set_shelf_chip, take_off_shelf
from orvek.documents.deeds.soak import add_dye, begin_soak
from orvek.documents.deeds.steps import (
    add_step,
    carry_materials,
    copy_step,
    layer_bounds_mm,
    move_step,
    remove_step,
    replace_stock,
    set_step,
    set_steps,
    shift_layer_boundary,
    take_design,
)
from orvek.documents.deeds.values import Path, set_value

__all__ = [
    "LEAST_SHARE_PCT",
    "NEW_CUP_COLOURS",
    "Path",
    "add_barrel",
    "add_cup",
    "add_dye",
    "add_fault",
    "add_pigment",
    "add_step",
    "begin_soak",
    "carry_materials",
    "choose_mould",
    "choose_pen",
    "choose_resin",
    "choose_school",
    "copy_step",
    "flip_tube",
    "lay_tubes_out",
    "layer_bounds_mm",
    "move_boundary",
    "move_step",
    "move_tube",
    "put_on_shelf",
    "remove_barrel",
    "remove_cup",
    "remove_fault",
    "remove_pigment",
    "remove_step",
    "renormalise_shares",
    "replace_stock",
    "set_bars",
    "set_chip",
    "set_cup",
    "set_dose",
    "set_fault",
    "set_hole",
    "set_parts",
    "set_preference",
    "set_shelf_chip",
    "set_sized",
    "set_step",
    "set_steps",
    "set_value",
    "shift_layer_boundary",
    "split_cup",
    "take_design",
    "take_off_shelf",
    "turn_tube",
    "usual_load_pct",
]
