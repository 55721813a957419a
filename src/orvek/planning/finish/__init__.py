"""Finish: down to which size, through which grits and coats, and what is pressed in which order."""
