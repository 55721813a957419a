"""The page Bubbles of the station Pour."""
