"""Deeds at the mould: what is poured, its cups, their pigments."""

from orvek.documents.deeds.tuples import fresh_name, replaced, without
from orvek.documents.job.job import Job
from orvek.documents.job.pour import Pour
from orvek.documents.shelf.mould import Mould
from orvek.documents.shelf.pigment import Chip, Pigment, PigmentDose
from orvek.documents.shelf.resin import Resin, generic_families
from orvek.documents.shipped import catalogue
from orvek.documents.steps import MOST_CUPS, Cup
from orvek.errors import NothingToDoError, OutOfBoundsError

NEW_CUP_COLOURS = ("#2f5d8c", "#e9e6dc", "#3f7d62", "#b06a3c", "#26272b", "#a92f2b", "#7a5a9a", "#d7b75c")


LEAST_SHARE_PCT = 1.0


_LEAST_TYPED_PCT = 0.1  # the declared least of Cup.share


def choose_mould(job: Job, mould: Mould) -> Job:
    """Pour into another mould; tubes placed by hand are laid out anew."""
    return job.with_(pour=job.pour.with_(mould=mould), blank=job.blank.with_(tube_starts_mm=()))


def choose_resin(job: Job, resin: Resin) -> Job:
    """Pour another resin; it is stirred as long as its family usually is, unless the maker has said otherwise."""
    pour = job.pour
    families = {family.key: family.stir_min for family in generic_families()}
    was = families.get(pour.resin.family) if pour.resin else None
    usual = families.get(resin.family)
    # A time that the maker has set himself stays.
    as_usual = pour.mix_min_per_cup in {Pour().mix_min_per_cup, was.value if was else None}
    stir = usual.value if usual and as_usual else pour.mix_min_per_cup
    return job.with_(pour=pour.with_(resin=resin, mix_min_per_cup=stir))


def add_cup(job: Job, pigment: Pigment | None = None) -> Job:
    """One more cup with an equal share; the others give way in proportion."""
    cups = job.cast.cups
    if len(cups) >= MOST_CUPS:
        raise OutOfBoundsError("The number of cups", len(cups) + 1, f"at most {MOST_CUPS}")
    share = 100.0 / (len(cups) + 1)
    total = sum(cup.share for cup in cups)
    kept = [cup.with_(share=max(round(cup.share / total * (100 - share), 4), _LEAST_TYPED_PCT)) for cup in cups]
    colour = pigment.colour if pigment else NEW_CUP_COLOURS[len(cups) % len(NEW_CUP_COLOURS)]
    name = fresh_name(pigment.name if pigment else "Colour", [cup.name for cup in cups])
    doses = (PigmentDose(pigment=pigment, load_pct=usual_load_pct(pigment)),) if pigment else ()
    rest = round(100 - sum(cup.share for cup in kept), 4)
    return _with_cups(job, (*kept, Cup(name=name, colour=colour, share=rest, pigments=doses)))


def remove_cup(job: Job, index: int) -> Job:
    """One cup less; the others take over its share in proportion."""
    return _with_cups(job, _shared_out(without(job.cast.cups, index)))


def split_cup(job: Job, index: int) -> Job:
    """Mix one colour in two cups of half its share each."""
    cups = job.cast.cups
    if len(cups) >= MOST_CUPS:
        raise OutOfBoundsError("The number of cups", len(cups) + 1, f"at most {MOST_CUPS}")
    half = cups[index].with_(share=max(cups[index].share / 2, _LEAST_TYPED_PCT))
    second = half.with_(name=fresh_name(half.name, [cup.name for cup in cups]))
    return _with_cups(job, (*cups[:index], half, second, *cups[index + 1 :]))


def renormalise_shares(job: Job) -> Job:
    """Scale all shares so that they make 100 %."""
    return _with_cups(job, _shared_out(job.cast.cups))


def move_boundary(job: Job, index: int, left_share_pct: float) -> Job:
    """Give cup `index` a share, at the cost of the next one; both keep at least 1 %."""
    cups = _shared_out(job.cast.cups)
    both = cups[index].share + cups[index + 1].share
    left = round(min(max(left_share_pct, LEAST_SHARE_PCT), both - LEAST_SHARE_PCT), 2)
    pair = (cups[index].with_(share=left), cups[index + 1].with_(share=round(both - left, 4)))
    return _with_cups(job, (*cups[:index], *pair, *cups[index + 2 :]))


def set_cup(job: Job, index: int, cup: Cup) -> Job:
    """Replace one cup."""
    return _with_cups(job, (*job.cast.cups[:index], cup, *job.cast.cups[index + 1 :]))


def add_pigment(job: Job, cup_index: int, pigment: Pigment) -> Job:
    """Put one more pigment into a cup, at the usual load of its kind."""
    cup = job.cast.cups[cup_index]
    dose = PigmentDose(pigment=pigment, load_pct=usual_load_pct(pigment))
    return set_cup(job, cup_index, cup.with_(pigments=(*cup.pigments, dose)))


def remove_pigment(job: Job, cup_index: int, dose_index: int) -> Job:
    """Take one pigment out of a cup."""
    cup = job.cast.cups[cup_index]
    return set_cup(job, cup_index, cup.with_(pigments=without(cup.pigments, dose_index)))


def set_dose(job: Job, cup_index: int, dose_index: int, dose: PigmentDose) -> Job:
    """Replace one pigment dose."""
    cup = job.cast.cups[cup_index]
    doses = (*cup.pigments[:dose_index], dose, *cup.pigments[dose_index + 1 :])
    return set_cup(job, cup_index, cup.with_(pigments=doses))


def set_chip(job: Job, pigment: str, chip: Chip) -> Job:
    """Reckon with a measured chip wherever this pigment is used."""

    def measured(dose: PigmentDose) -> PigmentDose:
        return dose.with_(pigment=dose.pigment.with_(chip=chip)) if dose.pigment.name == pigment else dose

    cups = tuple(cup.with_(pigments=tuple(map(measured, cup.pigments))) for cup in job.cast.cups)
    return _with_cups(job, cups)


def usual_load_pct(pigment: Pigment) -> float:
    """What a maker would begin with for this kind of pigment, in % of the mixed mass."""
    kind = catalogue().kind(pigment.kind)
    return kind.default_pct if kind else 1.0


def _with_cups(job: Job, cups: tuple[Cup, ...]) -> Job:
    index = job.cast_index
    if index is None:
        raise NothingToDoError("A colour", "a casting among the blank's steps")
    steps = replaced(job.blank.steps, index, job.cast.with_(cups=cups))
    return job.with_(blank=job.blank.with_(steps=steps))


def _shared_out(cups: tuple[Cup, ...]) -> tuple[Cup, ...]:
    total = sum(cup.share for cup in cups)
    return tuple(cup.with_(share=max(round(cup.share / total * 100, 4), _LEAST_TYPED_PCT)) for cup in cups)
