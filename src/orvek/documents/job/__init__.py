"""A job and its parts, and the file that holds it."""
