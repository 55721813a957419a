"""Whether the tube shows through a colour."""
