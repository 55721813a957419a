"""The route: every operation of a job in the order of the hands; schedule, bench, cards and shelf read it."""
