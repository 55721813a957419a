"""How finely a cure is forecast where a test does not look at its percents."""

from __future__ import annotations

from orvek.planning.cure.results import Effort

SKETCH = Effort((4, 2), (4, 2), 1)  # within 1 % of `ROUGH` in times, and in two thirds of its time
