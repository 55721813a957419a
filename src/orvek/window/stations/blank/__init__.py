"""The station Blank."""
