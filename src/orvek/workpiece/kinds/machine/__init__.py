"""Machine code of each kind of row: as the reference of the same family, one folder up, point by point.

Loaded by the kernel alone, for it takes a second or two. A function has a row's numbers and one point, and gives the
material there (-1: none, the point goes on), the point as it lay before that step, and the phase of its grain. What is
commonest works on a chunk of points.
"""
