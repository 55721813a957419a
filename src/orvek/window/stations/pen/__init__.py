"""The station Pen."""
