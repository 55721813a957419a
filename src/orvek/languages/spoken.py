"""The language of this process: `spoken()`."""

from __future__ import annotations

import os

SPOKEN = "ORVEK_SPOKEN"  # set for the process that is started in another language


def spoken() -> str:
    """The language as systems write it, "de", "pt_BR"; empty for the sources' own English."""
    return os.environ.get(SPOKEN, "")
