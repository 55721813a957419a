"""What a single job has to say without a screen: `orvek report`, `route`, `check`, `card`, `template`, `picture`."""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path

from orvek.commands.found import planned, with_answers
from orvek.errors import NothingToDoError, OutOfBoundsError
from orvek.files import ending_of, write_atomically

_CUT_LISTS = (".pdf", ".csv")  # a card, or a table


def report(options: argparse.Namespace) -> int:
    """Print the plan as text, JSON or a page."""
    from orvek.cards.every import report_json, report_text
    from orvek.cards.report_pages import report_html

    found, shop = planned(options)
    write = report_json if options.json else report_html if options.html else report_text
    print(write(found, shop.preferences.units), end="")
    return 0


def route(options: argparse.Namespace) -> int:
    """Print every operation of the job in the order of the work, as text or JSON; the cure is forecast for it."""
    from orvek.cards.route_text import route_json, route_text

    found, shop = planned(options)
    whole = found if options.quick else with_answers(found, ("cure",))
    print((route_json if options.json else route_text)(whole, shop.preferences.units), end="")
    return 0


def check(options: argparse.Namespace) -> int:
    """Print the findings."""
    from orvek.cards.every import findings_text

    found, _ = planned(options)
    print(findings_text(found))
    return 1 if found.has_stop else 0


def card(options: argparse.Namespace) -> int:
    """Write a card as PDF, or the cut list as a table."""
    from orvek.cards.every import CARDS, cure_card, cut_list_csv

    found, shop = planned(options)
    if options.paper:
        shop = shop.with_(preferences=shop.preferences.with_(paper=options.paper))
    target, today = Path(options.output), date.today()
    ending = ending_of(target, *(_CUT_LISTS if options.kind == "cuts" else (".pdf",)))
    if options.kind == "cure":
        forecast = with_answers(found, ("cure",)).cure
        if forecast is None:
            raise NothingToDoError("A forecast", "a mould, a resin with its pot life, and colours")
        content = cure_card(found, forecast, shop, today)
    elif ending == ".csv":
        content = cut_list_csv(found)
    else:
        whole = with_answers(found, ("cure",)) if options.kind == "traveller" else found  # its waits rest on it
        content = CARDS[options.kind](whole, shop, today)
    write_atomically(target, content)
    print(f"Wrote {target}")
    return 0


def template(options: argparse.Namespace) -> int:
    """Write a cut's template."""
    from orvek.cards.template import template as drawing_of
    from orvek.cards.template import template_dxf, template_pdf, template_svg

    found, shop = planned(options)
    cuts = found.glue_up.cuts if found.glue_up else ()
    if not 1 <= options.cut <= len(cuts):
        raise OutOfBoundsError("The cut", options.cut, f"from 1 to {len(cuts)}" if cuts else "one that the job has")
    drawing, target = drawing_of(cuts[options.cut - 1], shop.preferences.units), Path(options.output)
    ending = ending_of(target, ".pdf", ".svg", ".dxf")
    if ending == ".dxf":
        content = template_dxf(drawing)
    elif ending == ".svg":
        content = template_svg(drawing)
    else:
        content = template_pdf(drawing, shop.preferences.paper)
    write_atomically(target, content)
    print(f"Wrote {target}")
    return 0


def picture(options: argparse.Namespace) -> int:
    """Write a picture of the blank."""
    from orvek.cards.picture_file import cut_open_png, picture_png, unrolled_svg
    from orvek.planning.bar import bar_size
    from orvek.workpiece.field import kernel_cache, load_kernel

    if not 50 <= options.width <= 8000:
        raise OutOfBoundsError("The width", options.width, "from 50 to 8000 pixels")
    target = Path(options.output)
    ending = ending_of(target, ".png", ".svg")
    found, _ = planned(options)
    evaluate = load_kernel(kernel_cache())
    if ending == ".svg":
        write_atomically(target, unrolled_svg(found, evaluate, options.width))
    elif options.view == "section" and options.angle is not None:
        if not 0 <= options.angle <= 90:
            raise OutOfBoundsError("The angle", options.angle, "from 0 to 90 degrees")
        at = options.at if options.at is not None else bar_size(found.layout)[2] / 2
        plane = (options.angle, options.rotation, at)
        write_atomically(target, cut_open_png(found, evaluate, options.width, plane))
    else:
        write_atomically(target, picture_png(found, evaluate, options.view, options.width, options.rotation))
    print(f"Wrote {target}")
    return 0
