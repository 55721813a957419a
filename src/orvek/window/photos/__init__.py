"""Photos of bars: taken in, their corners dragged, laid flat, and places marked on them."""
