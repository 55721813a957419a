"""The calculations of the craft, one module for each operation, in the order of the work."""
