"""Bench mode: one step over the whole window."""
