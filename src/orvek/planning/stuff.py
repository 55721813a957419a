"""How a bar works under bit and tool: by what its steps put into it, unless the maker says it once, at Blank.

Boring, tool, edge, minutes, allowance, the usual scrap and the first grit go by it.
"""

from __future__ import annotations

from orvek.craft.boring_plan import Stuff, stuff, stuffs
from orvek.craft.woods import wood
from orvek.documents import Job

FIBRE, BURL, METAL = "fibre", "burl", "metal"
SOLVENT = (
    "Alcohol and acetone burn far below room temperature: air, no flame, spark or hot plate near, gloves; the cloth "
    "dries outdoors. Their safety sheets decide."
)
# What a photo cannot tell: the stuff that a bar is bored as, and how its fibres meet the tool.
_SAID = {
    "wood": "wood",
    "stabilised wood": "stabilised",
    "burl or spalted wood": "burl",
    "resin": "resin",
    "wood and resin": "fused",
    "glued layers": "laminate",
    "compressed fibre": "fibre",
    "bone, horn or antler": "bone",
}
_GRAINS = {"burl or spalted wood": BURL, "compressed fibre": FIBRE}
_GLUED = {"laminate", "stack", "staves", "slice", "cut", "arc", "rip"}


def said_stuff(job: Job) -> Stuff | None:
    """How the maker said that it works; None where he left it to the steps."""
    return next((one for one in stuffs() if one.key == job.bore.stuff), None)


def stuff_of(job: Job) -> Stuff:
    """How the bar works: as the maker said, else by its steps."""
    return said_stuff(job) or stuff_by_steps(job)


def stuff_by_steps(job: Job) -> Stuff:
    """How the bar works by what its steps put into it: the gentlest of it."""
    kinds = {step.kind for step in job.blank.steps}
    photo = job.blank.photographed
    if photo is not None and photo.made_of in _SAID and job.soak.route == "nothing":
        return stuff(_SAID[photo.made_of])
    if "cast" in kinds or not kinds:
        resin = job.pour.resin
        if resin is not None and "polyester" in resin.family:
            return stuff("polyester")
        return stuff("fused" if job.blank.woods else "resin")
    grains = _grains_by_steps(job)
    if FIBRE in grains:
        return stuff("fibre")
    if job.soak.route == "soft, not stabilised" or BURL in grains:
        return stuff("burl")
    if job.soak.route == "stabilised" or (job.soak.route == "nothing" and "dye" in kinds):
        return stuff("stabilised")
    return stuff("laminate" if kinds & _GLUED else "wood")


def grains_of(job: Job) -> frozenset[str]:
    """How the fibres of its wood hold together, as they meet the tool: none where they are full of resin."""
    if (said := said_stuff(job)) is not None:
        return frozenset({said.key} & {FIBRE, BURL})
    return _grains_by_steps(job)


def _grains_by_steps(job: Job) -> frozenset[str]:
    if job.soak.route == "stabilised":
        return frozenset()
    treated = (job.treated_wood,) if job.soak.route != "nothing" else ()
    photo = job.blank.photographed
    seen = {_GRAINS[photo.made_of]} if photo is not None and photo.made_of in _GRAINS else set()
    return frozenset(seen | {job.blank.material(key).grain for key in (*job.blank.woods, *treated)})


def lets_light_through(job: Job) -> bool:
    """Whether what lies behind its wall may be seen: resin of any colour may, wood alone does not."""
    return stuff_of(job).key in {"resin", "fused", "polyester"}


def has_metal(job: Job) -> bool:
    """Whether metal lies in the bar, where the tool meets it."""
    return job.bore.stuff == METAL or any(job.blank.material(key).look == "metal" for key in job.blank.material_keys)


def turned_as(job: Job) -> str:
    """What tool, rate and edge go by: metal in the bar goes before what it is bored as."""
    return METAL if has_metal(job) else stuff_of(job).key


def tears(job: Job) -> bool:
    """Whether it tears before it cuts: fibre, cob, and wood that is soft and stays so."""
    return FIBRE in grains_of(job) or (job.soak.route == "soft, not stabilised" and said_stuff(job) is None)


def oily_woods(job: Job) -> tuple[str, ...]:
    """Names of its woods whose oil keeps glue from holding and resin from curing; none that are full of resin."""
    if job.soak.route == "stabilised":
        return ()
    keys = [key for key in job.blank.woods if (own := wood(key)) is not None and own.is_oily]
    return tuple(job.blank.material(key).name for key in keys)
