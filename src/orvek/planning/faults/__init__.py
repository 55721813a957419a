"""What now: a fault where it is on the barrel, what may have caused it, and every way out with what it costs."""
