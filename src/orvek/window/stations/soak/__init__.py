"""The station Soak."""
