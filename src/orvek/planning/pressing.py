"""What a pen is pressed together in, and how forces are kept in line where that is no press."""

from __future__ import annotations

PRESS = "a press"
WITHOUT_A_PRESS = {
    "a vice with soft jaws": "Vice: hardwood on both jaws, their faces parallel, the barrel level in the middle of the "
    "screw. A quarter turn of the handle, look, turn the barrel a quarter round, again.",
    "the lathe": "Lathe unplugged: flat wood in headstock and tailstock, the quill presses, never the bed. Half a turn "
    "of the handwheel, look, turn the barrel a quarter round, again.",
}
