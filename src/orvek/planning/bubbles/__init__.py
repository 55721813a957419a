"""What pressure or vacuum does."""
