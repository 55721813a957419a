"""When time is short: one threshold for everything that sets, hardens or stops being workable.

Source: workshop practice. A label's pot life is measured in one cup at one temperature, a glue's open time on one wood;
a fifth of it is what readings, a warmer hand and a second look take.
"""

HASTE = 0.8  # part of the pot life, working life or open time that may be used before a caution is said
