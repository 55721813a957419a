"""All of Qt: the session, the window with its rail, strip and findings, the stations, the theme."""
