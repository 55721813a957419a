"""The station Bore."""
