"""What the whole workshop has to say without a screen: `orvek shelf`, `buy`, `records`, `cost`."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from datetime import date
from pathlib import Path

from orvek.commands.found import all_jobs
from orvek.documents import Job
from orvek.errors import NothingToDoError
from orvek.files import write_atomically
from orvek.planning import plan


def shelf(options: argparse.Namespace) -> int:
    """Print what is on the shelf, or what a pen fits."""
    from orvek.cards.labels import labels
    from orvek.cards.shelf_text import shelf_json, shelf_text
    from orvek.planning.shelf_list import ShelfStock, fitting, matching

    jobs, shop = all_jobs(options, None, "A list of the shelf")
    found, _ = ShelfStock().entries(plan(jobs[0] if jobs else Job(), shop), tuple(jobs[1:]))
    entries = matching(found, "", "")
    if options.fits:
        pen = next((one for one in shop.pens if one.name == options.fits), None)
        if pen is None:
            raise NothingToDoError(f"Fitting “{options.fits[:60]}”", "a pen of that name on the shelf Pens")
        entries = fitting(entries, pen, Job().blank.saw_kerf_mm, shop.preferences.units)
    if options.labels:
        pieces = tuple(entry.piece for entry in entries)
        write_atomically(Path(options.labels), labels(pieces, options.paper, shop.preferences.units))
        print(f"Wrote {options.labels}", file=sys.stderr)
    print(shelf_json(entries) if options.json else shelf_text(entries, shop.preferences.units))
    return 0


def buy(options: argparse.Namespace) -> int:
    """Print what a job still needs."""
    from orvek.cards.shopping import shopping_csv, shopping_lines
    from orvek.planning.lay_out import all_to_buy
    from orvek.planning.shelf_list import ShelfStock

    jobs, shop = all_jobs(options, options.job, "A shopping list")
    found = plan(jobs[0], shop)
    wanted = all_to_buy(found, ShelfStock().entries(found, tuple(jobs[1:]))[1])
    if options.csv:
        write_atomically(Path(options.csv), shopping_csv(wanted))
        print(f"Wrote {options.csv}", file=sys.stderr)
    print("\n".join(shopping_lines(wanted)) or "Nothing: the shelf has all of it.")
    return 0


def records(options: argparse.Namespace) -> int:
    """Print the next batches; write the records."""
    from orvek.cards.records_text import records_csv, records_jsonl, records_text
    from orvek.cards.year_report import year_report
    from orvek.planning.records.overview import next_batches

    jobs, shop = all_jobs(options, None, "Records")
    today = date.today()
    made: tuple[tuple[str | None, Callable[[], bytes]], ...] = (
        (options.csv, lambda: records_csv(shop.ledger)),
        (options.jsonl, lambda: records_jsonl(shop.ledger)),
        (options.pdf, lambda: year_report(shop, options.year or today.year, today)),
    )
    for target, content in made:
        if target:
            write_atomically(Path(target), content())
            print(f"Wrote {target}", file=sys.stderr)
    first = plan(jobs[0] if jobs else Job(), shop)
    print(records_text(next_batches(first, plan, jobs[1:], today), shop.preferences.units))
    return 0


def cost(options: argparse.Namespace) -> int:
    """Print what a good pen costs."""
    from orvek.cards.records_text import cost_text
    from orvek.planning.records.costs import pen_cost

    jobs, shop = all_jobs(options, options.job, "A cost")
    found = pen_cost(plan(jobs[0], shop), date.today())
    if found is None:
        raise NothingToDoError("A cost", "a pen to make")
    print(cost_text(found, shop.preferences.units))
    return 0
