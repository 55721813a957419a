"""The station Pour."""
