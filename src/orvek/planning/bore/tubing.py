"""A tube in its hole: the room and the glue round it, what pressing and warmth ask of the glue; the squared ends."""

from __future__ import annotations

from orvek.craft import boring_plan
from orvek.craft.boring_plan import Stuff
from orvek.craft.tube_glue import mixes
from orvek.documents import Barrel, Glue, Job
from orvek.planning.bore.results import GluePlan, HolePlan, TubePlan
from orvek.planning.layout import TubePlace
from orvek.planning.working import Figure, Term
from orvek.quantities import Dimension

_MM = Dimension.LENGTH
PAINT_MM = 0.045  # a coat of paint is 0.03 to 0.06 mm thick (workshop practice)
_PRESSED_N, _COVERED = 500.0, 0.3  # a hard push on a lever press, on glue that covers a third: estimates
_WARMER_K = 40.0  # from the bench to a car in the sun, or to polishing heat: an estimate
_BRASS_PER_K = 19e-6  # textbook
_A_TUBE_MIN = 1.0  # to spread and turn one in (workshop practice)
_LOOK_MIN = 30.0  # who waits longer for his second look forgets it (a choice)
_CREEPS_MIN = 10.0  # a tube creeps in a glue that takes longer to hold (workshop practice)
_OUT_OF_SQUARE_DEG = 0.25  # what a careless facing leaves; 0.1 is good work (workshop practice)


def tube_plan(job: Job, number: int, barrel: Barrel, bored_mm: float, stuff: Stuff) -> TubePlan | None:
    """What follows for a barrel's tube or pin; None where nothing is glued in."""
    if barrel.glued_mm <= 0:
        return None
    hole = job.bore.hole(number)
    outside = hole.tube_mm or barrel.tube_diameter_mm
    paint = paint_mm(job, number)
    return TubePlan(
        gap_mm=_gap(job, number, outside, bored_mm),
        glue_ml=_glue(barrel, outside + paint, bored_mm),
        cut_mm=_cut(barrel) if barrel.has_tube and barrel.set_back_mm else None,
        press_mpa=_pressed(barrel, outside),
        grows_mm=_grows(barrel, stuff),
    )


def glue_plan(holes: tuple[HolePlan, ...], glue: Glue, blanks: int) -> GluePlan | None:
    """How the glue of all tubes is mixed: so much for as many as go in while it stays open."""
    filled = [hole.tube.glue_ml.value for hole in holes if hole.tube is not None]
    if not filled:
        return None
    each_g, tubes = sum(filled) / len(filled) * glue.density_g_ml, blanks * len(filled)
    made = mixes(each_g, tubes, glue.open_min, _A_TUBE_MIN)
    terms = (
        Term("m", "fills the gap of a tube", each_g, Dimension.MASS),
        Term("n", "tubes while it stays open", made.tubes, Dimension.COUNT),
        Term("w", "sticks to cup and stick", 60, Dimension.PERCENT, "practice"),
    )
    figure = Figure("Mix", made.mix_g, Dimension.MASS, "m · n · (1 + w)", terms, "less than 1 g is not mixed", digits=1)
    a_g = made.mix_g / (1 + glue.b_per_a) if glue.b_per_a is not None else None
    look = min(_LOOK_MIN, glue.handle_min / 4) if glue.handle_min >= _CREEPS_MIN else None
    return GluePlan(tubes, made.tubes, made.times, figure, a_g, made.mix_g - a_g if a_g is not None else None, look)


def beyond_mm(barrel: Barrel, place: TubePlace) -> tuple[Figure, Figure]:
    """How far the bar stands beyond the barrel at its left and its right end, before it is squared."""
    found = []
    for side in ("left", "right"):
        is_exit = place.from_left == (side == "right")
        more_mm = place.exit_mm if is_exit else place.enter_mm
        words = "more where the bit comes out" if is_exit else "too little to be sawn off"
        terms = (
            Term("trim", "squared off at each end", barrel.trim_mm, _MM),
            Term("more", words, more_mm, _MM),
        )
        label, source = f"Bar beyond it, {side}", "saw or part it off to 0.5 mm, then square"
        found.append(Figure(label, barrel.trim_mm + more_mm, _MM, "beyond = trim + more", terms, source))
    return found[0], found[1]


def square_to_mm(barrel: Barrel) -> Figure:
    """The length between the squared ends: where brass shows."""
    terms = [Term("length", "of the barrel", barrel.tube_length_mm, _MM)]
    if barrel.play_mm is not None:
        terms.append(Term("play", "the pen lets it lose in all", barrel.play_mm, _MM))
    label = "Brass shows at both ends at" if barrel.has_tube and not barrel.set_back_mm else "Square it to"
    source = "measure end to end; past it the barrel becomes too short for its parts"
    return Figure(label, barrel.tube_length_mm, _MM, "the tube's own length", tuple(terms), source)


def lip_gap_mm(barrel: Barrel) -> Figure:
    """The gap at the lip that an end out of square leaves."""
    terms = (
        Term("D", "finished, the wider end", max(barrel.finished_left_mm, barrel.finished_right_mm), _MM),
        Term("ε", "out of square by", _OUT_OF_SQUARE_DEG, Dimension.ANGLE, "practice"),
    )
    gap = boring_plan.out_of_square_mm(terms[0].value, _OUT_OF_SQUARE_DEG)
    return Figure("Gap if 0.25° out of square", gap, _MM, "gap = D · tan ε", terms, "derived; 0.1° is good", digits=2)


def paint_mm(job: Job, number: int) -> float:
    """What the paint on both sides takes of the room round a tube, whether hole or tube is painted."""
    return 2 * PAINT_MM * job.bore.paint_coats if job.blank.paint(number).where != "none" else 0.0


def _gap(job: Job, number: int, outside_mm: float, bored_mm: float) -> Figure:
    hole, paint = job.bore.hole(number), paint_mm(job, number)
    terms = (
        Term("hole", "the hole", bored_mm, _MM, "measured" if hole.measured_mm else None),
        Term("tube", "tube or pin, outside", outside_mm, _MM, "measured" if hole.tube_mm else None),
        Term("paint", "takes on both sides, 0.03 to 0.06 mm a coat", paint, _MM, "practice"),
    )
    room = bored_mm - outside_mm - paint
    return Figure("Room round it", room, _MM, "room = hole − tube − paint", terms, "on the diameter", digits=2)


def _glue(barrel: Barrel, outside_mm: float, bored_mm: float) -> Figure:
    volume = boring_plan.glue_mm3(bored_mm, outside_mm, barrel.glued_mm)
    terms = (
        Term("D", "the hole", bored_mm, _MM),
        Term("d", "tube or pin, outside, with its paint", outside_mm, _MM),
        Term("L", "glued", barrel.glued_mm, _MM),
    )
    formula = "V = π/4 · (D² − d²) · L"
    return Figure("Glue that fills it", volume / 1000, Dimension.VOLUME, formula, terms, "derived", digits=2)


def _cut(barrel: Barrel) -> Figure:
    terms = (
        Term("length", "of the barrel", barrel.tube_length_mm, _MM),
        Term("back", f"set back at the {barrel.wide_end}", barrel.set_back_mm, _MM),
    )
    cut = barrel.tube_length_mm - barrel.set_back_mm
    return Figure("Cut the tube to", cut, _MM, "tube = length − set back", terms, "derived")


def _pressed(barrel: Barrel, outside_mm: float) -> Figure:
    mpa = boring_plan.shear_mpa(_PRESSED_N, outside_mm, barrel.glued_mm, _COVERED)
    terms = (
        Term("F", "pressed with, in N: a hard push", _PRESSED_N, Dimension.RATIO, "guess"),
        Term("d", "tube or pin, outside", outside_mm, _MM),
        Term("L", "glued", barrel.glued_mm, _MM),
        Term("fill", "of it covered with glue", _COVERED, Dimension.RATIO, "guess"),
    )
    source = "mechanics; most glues bear 7 MPa and more on scuffed brass: coverage matters, not strength"
    return Figure("Stress on the glue", mpa, Dimension.STRESS, "τ = F / (π d L · fill)", terms, source, digits=1)


def _grows(barrel: Barrel, stuff: Stuff) -> Figure:
    apart = abs(boring_plan.grows_apart_mm(barrel.glued_mm, _WARMER_K, stuff.grows_per_k, _BRASS_PER_K))
    terms = (
        Term("L", "glued", barrel.glued_mm, _MM),
        Term("ΔT", "warmer, in K: polishing, a car in the sun", _WARMER_K, Dimension.RATIO, "guess"),
        Term("α", f"{stuff.name}, millionths a K", stuff.grows_per_k * 1e6, Dimension.RATIO, "textbook"),
        Term("α brass", "millionths a K", _BRASS_PER_K * 1e6, Dimension.RATIO, "textbook"),
    )
    source = "textbook; a glue that gives a little, and is not starved, takes it up"
    return Figure("Bar and brass part, 40 K warmer", apart, _MM, "L · ΔT · |α − α brass|", terms, source, digits=2)
