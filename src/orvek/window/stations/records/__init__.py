"""The station Records."""
