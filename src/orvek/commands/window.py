"""No command: the window."""

from __future__ import annotations

import argparse
from pathlib import Path

from orvek.window.application import run


def window(options: argparse.Namespace) -> int:
    """Show the window, or save a picture of it."""
    picture = Path(options.picture) if options.picture else None
    begin = (options.station, options.first_job)
    return run(options.path, demo=options.demo, picture=picture, begin=begin, file=options.file)
