"""What follows from the pen: its barrels, and where its tubes lie."""
