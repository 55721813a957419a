"""Sixteen kinds of work as jobs of Tern Quay, each with the bar it really has: `SIXTEEN` names them and makes them.

The sizes are what calipers would read at the bench, not what a mould would give.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta

from orvek.documents import (
    BarInHand,
    BarMould,
    Barrel,
    Bath,
    Bore,
    CastStep,
    Cup,
    CutStep,
    Drying,
    DyeStep,
    Finish,
    Heat,
    Hole,
    Insert,
    InsertStep,
    Job,
    LaminateStep,
    Layer,
    Paint,
    Pen,
    PlugStep,
    ReorientStep,
    RipStep,
    RoundStep,
    Sized,
    Soak,
    SolidStep,
    SquareStep,
    Step,
    Weighing,
    WoodInHand,
    WrapStep,
    deeds,
)
from orvek.documents.deeds import set_value
from orvek.store import demo_job

COMPOSITE = (
    Layer(material="black-composite", thickness_mm=0.8),
    Layer(material="aluminium", thickness_mm=0.5),
    Layer(material="black-composite", thickness_mm=0.8),
)


def barrel(
    name: str, tube_mm: float, tube_wide_mm: float, bit_mm: float, *finished_mm: float, trim: float = 1.5
) -> Barrel:
    """A barrel by its tube, its bit and its finished ends."""
    left, right = finished_mm
    return Barrel(
        name=name,
        tube_length_mm=tube_mm,
        tube_diameter_mm=tube_wide_mm,
        bit_diameter_mm=bit_mm,
        finished_left_mm=left,
        finished_right_mm=right,
        trim_mm=trim,
    )


TRAY = BarMould(name="Own tray", cavities=4, length_mm=131, width_mm=20.6, depth_mm=20.2)
SINGLE = barrel("Body", 56.4, 9.3, 9.5, 11.8, 12.4)
LONG = barrel("Body", 94.0, 9.9, 10.1, 12.6, 13.8, trim=2.5)
LOWER = barrel("Lower", 50.8, 8.2, 8.4, 10.6, 11.2)
UPPER = barrel("Upper", 44.5, 10.3, 10.5, 12.2, 12.8)


def job(name: str, pens: int, *barrels: Barrel, steps: tuple[Step, ...], bars: tuple[BarInHand, ...] = ()) -> Job:
    """A job of Tern Quay for so many pens of these barrels, from these steps and bars in hand."""
    begun = demo_job()
    pour = begun.pour if any(step.kind == "cast" for step in steps) else begun.pour.with_(mould=None, resin=None)
    made = begun.with_(batch=begun.batch.with_(name=name, pens_wanted=pens))
    made = deeds.choose_pen(made.with_(pour=pour), Pen(name=f"{name}, pen", barrels=barrels))
    return deeds.set_bars(deeds.set_steps(made, steps), bars)


def cups() -> tuple[Cup, ...]:
    """The two colours of the demo job, the second without its trace of paste."""
    one, other = demo_job().cast.cups
    return one.with_(pigments=one.pigments[:1]), other


def one_cup() -> tuple[Cup, ...]:
    """A single colour."""
    return (cups()[0].with_(share=100),)


def bar(count: int, length_mm: float, width_mm: float, depth_mm: float = 0, form: str = "rectangular") -> BarInHand:
    """So many bars of one measured size."""
    made = BarInHand(count=count, length_mm=length_mm, width_mm=width_mm, depth_mm=depth_mm or width_mm)
    return made.with_(form=form)


def swirl_batch() -> Job:
    """1: five swirl castings out of their mould, measured; the offcut may still make a shorter barrel."""
    steps = (CastStep(cups=cups(), style="swirl"),)
    return job("Slack water", 5, SINGLE, steps=steps, bars=(bar(5, 127.5, 20.4, 19.2),))


def centred_picture() -> Job:
    """2: a shell of one colour round a core that must stay centred; its middle was measured at both ends."""
    steps = (InsertStep(form="core", material="holly", diameter_mm=11.4), CastStep(cups=one_cup()))
    made = set_value(job("Ring buoy", 2, LONG, steps=steps), ("pour", "mould"), TRAY)
    core = Hole(pattern_left_x_mm=0.6, pattern_left_y_mm=-0.2, pattern_right_x_mm=-0.4, pattern_right_y_mm=0.3)
    return made.with_(bore=Bore(centred="on the pattern", pattern_mm=0.5, holes=(core,)))


def weighed(began: datetime, apart_h: float, masses_g: tuple[float, ...]) -> Drying:
    """A log of weights, evenly apart."""
    lines = ((began + timedelta(hours=apart_h * number), mass) for number, mass in enumerate(masses_g))
    return Drying(log=tuple(Weighing(when=when, mass_g=mass) for when, mass in lines))


def porous_core() -> Job:
    """3: a porous core, dried for days, dyed twice, not stabilised; its first colour was seen when it was bored."""
    blue = DyeStep(depth_mm=9, way="under vacuum", seen_mm=8.4, seen_end_mm=40)
    brown = DyeStep(depth_mm=6.5, colour="#8a3b12", carrier="alcohol", soaked_min=240)
    made = job(
        "Withy",
        1,
        SINGLE.with_(trim_mm=4),
        steps=(SolidStep(material="white-ash"), blue, brown),
        bars=(bar(1, 88, 22.5),),
    )
    pith = WoodInHand(species="white-ash", is_soft=True, count=4, form="hollow round", length_mm=88, width_mm=22.5)
    drying = weighed(datetime(2026, 10, 2, 8, 0), 24, (71.4, 63.8, 59.1, 56.0, 54.2, 53.1, 52.4, 52.0))
    return made.with_(soak=Soak(route="soft, not stabilised", wood=pith, drying=drying.with_(way="in the air")))


def live_edge() -> Job:
    """4: a natural edge under resin in a customer's colour, its slab weighed."""
    slab = InsertStep(material="bigleaf-maple", rough_mm=2.5, middle_mm=0.5, seed=7)
    made = set_value(job("Wrack line", 2, UPPER, steps=(slab, CastStep(cups=one_cup()))), ("pour", "insert"), Insert())
    slabs = WoodInHand(species="bigleaf-maple", is_soft=True, count=4, length_mm=128, width_mm=19.5, depth_mm=9.5)
    drying = weighed(datetime(2026, 10, 9, 19, 0), 4, (47.9, 45.2, 43.9, 43.2, 42.8, 42.6))
    bath = Bath(chamber="steel", gauge_bar=0.93, after_g=81.0)
    soak = Soak(route="stabilised", wood=slabs, drying=drying, bath=bath, heat=Heat(core_min=38))
    return set_value(made, ("pour", "mould"), TRAY).with_(soak=soak)


def herringbone() -> Job:
    """5: two contrasting woods in a V, ripped and flipped."""
    strips = (Layer(material="holly", thickness_mm=3.2), Layer(material="black-walnut", thickness_mm=4.6))
    steps = (LaminateStep(strips=strips, angle_deg=40), RipStep(azimuth_deg=90, flip="end for end", kerf_mm=1.8))
    return job("Fair isle", 2, SINGLE, steps=steps, bars=(bar(2, 134, 23.0, 22.0),))


def scallops() -> Job:
    """6: tilted cuts filled with a sheet of composite, metal, composite."""
    cuts = tuple(
        CutStep(
            angle_deg=52,
            azimuth_deg=180 * (n % 2),
            centre_mm=48 + 13 * n,
            kerf_mm=2.2,
            sheet_form="one bonded sheet",
            sheet=COMPOSITE,
            glue_mm=0.05,
        )
        for n in range(3)
    )
    return job("Clinker", 1, SINGLE, steps=(SolidStep(material="bog-oak"), *cuts), bars=(bar(1, 122, 19.1),))


def knot() -> Job:
    """7: the same diagonal cut from four sides, tabs left that keep the register; for a pen without bought parts."""
    cuts = tuple(
        CutStep(
            angle_deg=24,
            azimuth_deg=90 * n,
            centre_mm=70,
            kerf_mm=2.4,
            sheet=(Layer(material="holly", thickness_mm=2.35),),
            tab_mm=2.5,
        )
        for n in (0, 1, 2, 3)
    )
    slim = barrel("Body", 88.0, 6.2, 6.3, 11.4, 11.9, trim=3)  # no bought parts: a refill and a bush of its own
    slim = slim.with_(inside="no tube", wide_bit_mm=8.4, wide_depth_mm=12, wide_end="left")
    return job("Bowline", 1, slim, steps=(SolidStep(material="rosewood"), *cuts), bars=(bar(1, 140, 19.6),))


def printed_sheet() -> Job:
    """8: a printed sheet round a wooden core under clear coats."""
    wrap = WrapStep(
        core="hard-maple", core_mm=12.3, sheet_mm=0.1, pattern="checks", over="clear-resin", covered="coated"
    )
    return job("Tide table", 3, SINGLE.with_(finished_left_mm=13.4, finished_right_mm=13.4), steps=(wrap,))


def shell_voids() -> Job:
    """9: voids filled with crushed shell, made up here as a material of the shop's own would be."""
    plugs = tuple(
        PlugStep(material="white-composite", diameter_mm=3.5, centre_mm=40 + 11 * n, azimuth_deg=75 * n)
        for n in range(4)
    )
    return job(
        "Cockle bank",
        1,
        SINGLE,
        steps=(SolidStep(material="black-cherry"), *plugs),
        bars=(bar(1, 96, 21.5, form="irregular"),),
    )


def striped_round() -> Job:
    """10: a striped round bar, two in one, for two barrels with two bits, one stepped up over a tube set back."""
    strips = tuple(Layer(material=m, thickness_mm=4.2) for m in ("red-composite", "white-composite") * 3)
    steps = (LaminateStep(strips=strips), RoundStep(diameter_mm=19.4))
    stepped = LOWER.with_(wide_bit_mm=9.2, wide_depth_mm=7, wide_end="right", set_back_mm=7)
    made = job("Day mark", 1, stepped, UPPER, steps=steps, bars=(bar(1, 131, 21.0),))
    return set_value(made, ("blank", "joint_mm"), 71.0)


def bigger_casting() -> Job:
    """11: bars cut across a bigger casting."""
    steps = (CastStep(cups=cups(), style="layers"), ReorientStep(angle_deg=35), SquareStep(side_mm=19.5))
    return job("Two waters", 2, SINGLE, steps=steps, bars=(bar(2, 104, 19.5),))


def oblong_own_mould() -> Job:
    """12: oblong bars from an own mould for two different tubes."""
    made = job("Fish box", 2, LOWER, UPPER, steps=(CastStep(cups=cups()),))
    return set_value(
        made, ("pour", "mould"), BarMould(name="Own oblong", cavities=4, length_mm=124, width_mm=22.5, depth_mm=17.5)
    )


def recycled_board() -> Job:
    """13: strips of a used laminated board."""
    strips = (Layer(material="beech", thickness_mm=5.2), Layer(material="veneer-black", thickness_mm=0.6))
    return job("Net loft", 1, UPPER, steps=(LaminateStep(strips=strips, glue_mm=0.1),), bars=(bar(1, 74, 21.2, 20.3),))


def long_barrel() -> Job:
    """14: one long barrel of resin, its tube painted, thin and medium coats; its parts by calipers, and the barrel."""
    made = job("Long reach", 1, LONG, steps=(CastStep(cups=one_cup()),), bars=(bar(1, 108.5, 18.6, form="round"),))
    measured = Sized(part_left_mm=12.55, part_right_mm=13.85, now_left_mm=12.9, now_middle_mm=13.3, now_right_mm=13.8)
    finish = Finish(thin=4, medium=6, level_from="P1000", sized=(measured,))
    return set_value(made, ("blank", "paints"), (Paint(where="tube"),)).with_(finish=finish)


def two_barrel_hybrid() -> Job:
    """15: a hybrid whose grain runs over the joint between two barrels."""
    slab = InsertStep(material="bog-oak", rough_mm=2, middle_mm=-1, slope_deg=2, seed=11)
    return job("Harbour wall", 1, LOWER, UPPER, steps=(slab, CastStep(cups=one_cup())), bars=(bar(1, 133, 20.6, 19.8),))


def fragile_fibre() -> Job:
    """16: a bar of pressed fibre that wants to blow out: bored long, from several bars of unequal length."""
    strips = tuple(Layer(material="paper", thickness_mm=0.7) for _ in range(8))
    bars = (bar(3, 140, 18.9), bar(2, 96, 19.2))
    return job(
        "Chart paper",
        4,
        LOWER.with_(trim_mm=4),
        UPPER.with_(trim_mm=4),
        steps=(LaminateStep(strips=strips),),
        bars=bars,
    )


SIXTEEN: dict[str, Callable[[], Job]] = {
    f"{number:02} {make.__name__.replace('_', ' ')}": make
    for number, make in enumerate(
        (
            swirl_batch,
            centred_picture,
            porous_core,
            live_edge,
            herringbone,
            scallops,
            knot,
            printed_sheet,
            shell_voids,
            striped_round,
            bigger_casting,
            oblong_own_mould,
            recycled_board,
            long_barrel,
            two_barrel_hybrid,
            fragile_fibre,
        ),
        1,
    )
}
