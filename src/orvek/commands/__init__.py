"""Orvek without a screen: `orvek report`, `check`, `card`, `picture`, `schema`; the window, when none is asked for.

Each command takes the name or id of a job in the workshop, or a `.orvek.json` file. The command line (`line`) knows
what there is; the room of a command is loaded when it is asked for.
"""

from orvek.commands.line import main

__all__ = ["main"]
