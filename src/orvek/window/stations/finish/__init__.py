"""The station Finish."""
