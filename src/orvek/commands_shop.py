"""What the whole workshop has to say without a screen: `orvek shelf`, `buy`, `records`, `cost`."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Any

from orvek.documents import Job, Shop
from orvek.errors import NothingToDoError
from orvek.files import write_atomically
from orvek.planning import plan


def add_shop_commands(commands: Any) -> None:
    """Put these commands beside the others."""
    shelf = commands.add_parser("shelf", help="print what is on the shelf")
    shelf.add_argument("--fits", metavar="PEN", help="only pieces that this pen fits, the one that wastes least first")
    shelf.add_argument("--labels", metavar="PDF", help="write a label for each of them")
    shelf.add_argument("--paper", choices=["A4", "Letter", "label roll"], default="A4", help="of the labels")
    shelf.add_argument("--json", action="store_true", help="as JSON")
    shelf.set_defaults(command=_shelf)
    buy = commands.add_parser("buy", help="print what a job still needs and the shelf has not")
    buy.add_argument("job", help="a job's name or id")
    buy.add_argument("--csv", metavar="FILE", help="write it as a table, too")
    buy.set_defaults(command=_buy)
    records = commands.add_parser("records", help="print what the next batch of each kind costs, starts and changes")
    records.add_argument("--csv", metavar="FILE", help="write the fate of each blank as a table, too")
    records.add_argument("--jsonl", metavar="FILE", help="write every entry that was ever written, a line each")
    records.add_argument("--year", type=int, metavar="YEAR", help="with --pdf: of which year, else this one")
    records.add_argument("--pdf", metavar="FILE", help="write the report of a year")
    records.set_defaults(command=_records)
    cost = commands.add_parser("cost", help="print what a good pen of a job costs, the spoilt ones included")
    cost.add_argument("job", help="a job's name or id")
    cost.set_defaults(command=_cost)


def workshop_path(options: argparse.Namespace) -> Path:
    """The workshop file: `--workshop`, else ORVEK_WORKSHOP, else in the maker's data folder."""
    import platformdirs

    given = options.workshop or os.environ.get("ORVEK_WORKSHOP")
    name = "demo.sqlite" if getattr(options, "demo", False) and not given else "workshop.sqlite"
    return Path(given) if given else platformdirs.user_data_path("orvek", appauthor=False) / name


def all_jobs(options: argparse.Namespace, wanted: str | None, what: str) -> tuple[list[Job], Shop]:
    """All jobs of the workshop, the one that is wanted first; and its shop."""
    from orvek.shop import open_workshop

    path = workshop_path(options)
    if not path.exists():
        raise NothingToDoError(what, f"a workshop with jobs at {path}")
    workshop = open_workshop(path)
    try:
        entries = workshop.jobs()
        first = next((entry for entry in entries if wanted in {entry.id, entry.name}), None)
        if wanted is not None and first is None:
            raise NothingToDoError(f"Finding “{wanted[:60]}”", f"a job of that name in {path.name}")
        order = [*([first] if first else []), *(entry for entry in entries if entry is not first)]
        return [workshop.open_job(entry.id).job for entry in order], workshop.shop()
    finally:
        workshop.close()


def _shelf(options: argparse.Namespace) -> int:
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


def _buy(options: argparse.Namespace) -> int:
    from orvek.cards.shopping import shopping_csv, shopping_lines
    from orvek.planning.shelf_list import ShelfStock
    from orvek.planning.stock import to_buy

    jobs, shop = all_jobs(options, options.job, "A shopping list")
    found = plan(jobs[0], shop)
    wanted = to_buy(found, ShelfStock().entries(found, tuple(jobs[1:]))[1])
    if options.csv:
        write_atomically(Path(options.csv), shopping_csv(wanted))
        print(f"Wrote {options.csv}", file=sys.stderr)
    print("\n".join(shopping_lines(wanted)) or "Nothing: the shelf has all of it.")
    return 0


def _records(options: argparse.Namespace) -> int:
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
    print(records_text(next_batches(first, jobs[1:], today), shop.preferences.units))
    return 0


def _cost(options: argparse.Namespace) -> int:
    from orvek.cards.records_text import cost_text
    from orvek.planning.records.costs import pen_cost

    jobs, shop = all_jobs(options, options.job, "A cost")
    found = pen_cost(plan(jobs[0], shop), date.today())
    if found is None:
        raise NothingToDoError("A cost", "a pen to make")
    print(cost_text(found, shop.preferences.units))
    return 0
