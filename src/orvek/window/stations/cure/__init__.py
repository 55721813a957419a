"""The page Cure of the station Pour."""
