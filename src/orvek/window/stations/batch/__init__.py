"""The station Batch."""
