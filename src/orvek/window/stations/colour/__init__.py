"""The page Colour of the station Pour."""
