"""Bars laid over something bigger: a slab on the shelf, or a casting that is only designed yet."""
