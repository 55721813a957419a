"""Widgets that every station uses."""
