"""One file a station; each has `show_plan(plan)` and paints what it is given."""
