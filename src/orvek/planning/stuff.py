"""What a bar is bored as: the gentlest of what its steps put into it, unless the maker says otherwise."""

from __future__ import annotations

from orvek.craft.boring_plan import Stuff, stuff, stuffs
from orvek.documents import Job

_GLUED = {"laminate", "stack", "staves", "slice", "cut", "arc", "rip"}


def stuff_of(job: Job, said: str) -> Stuff:
    """How the bar wants to be bored: as the maker said, else by its steps."""
    named = next((one for one in stuffs() if one.key == said), None)
    if named is not None:
        return named
    kinds = {step.kind for step in job.blank.steps}
    if "cast" in kinds or not kinds:
        resin = job.pour.resin
        return stuff("polyester" if resin is not None and "polyester" in resin.family else "resin")
    if job.soak.route == "soft, not stabilised":
        return stuff("burl")
    if job.soak.route == "stabilised" or (job.soak.route == "nothing" and "dye" in kinds):
        return stuff("stabilised")
    return stuff("laminate" if kinds & _GLUED else "wood")
