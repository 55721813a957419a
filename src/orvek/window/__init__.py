"""All of Qt: the session, the window with its rail, strip and findings, the stations, the theme."""

from orvek.window import importing as importing  # before anything of Qt
