"""Boring: where, with which bit, how deep at a time, from which end, what may go wrong; and the tube in its hole."""
