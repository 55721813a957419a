"""Orvek: from a pen and a mould to a blank, its pour card and its costs."""

__version__ = "0.1.0"
