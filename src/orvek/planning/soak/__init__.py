"""Soak: is it dry, how much will it take up, how long in the oven, is the colour still there once it is turned."""
