"""Light and dark in one material, as both readings of a program draw it.

Nothing of it is measured: the numbers were chosen by eye, so that neighbours of one wood are told apart and rings look
grown, not printed. The pictures that are recorded in tests/workpiece hold them.
"""

from __future__ import annotations

LAYER_PHASE = 0.37  # turns from one layer, stave or sheet to the next: far from any simple fraction
STACK_PHASE = 0.61  # turns from one stack of layers to the next
PITH_X_MM, PITH_Y_MM = 31.0, 12.0  # the pith lies well outside the bar
PITH_TURN_MM = 7.0  # a turn of phase moves it by so much
LEAN_MM, LEAN_PER_MM = 2.5, 0.0137  # the trunk's bow, and its waves a millimetre
RINGS_PER_MM, FINE_PER_MM = 0.29, 0.93  # year rings, and what lies between them
WAVY = 0.21  # turns by which the fine lines waver
WAVY_ALONG_PER_MM, WAVY_UP_PER_MM = 0.041, 0.09
RING_SHARE, FINE_SHARE = 0.62, 0.38
