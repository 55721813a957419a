"""The command line: what is asked for, and nothing that takes long to load: the window is to stand at once."""

from __future__ import annotations

import argparse
import io
import locale
import logging
import os
import re
import sys
from collections.abc import Callable, Sequence
from importlib import import_module
from itertools import islice
from pathlib import Path
from typing import Any

from orvek import __version__
from orvek.errors import OrvekError
from orvek.files import JOB_SUFFIX, reason_of
from orvek.log import keep_log, log_path
from orvek.stations import place_names

_WITH_VALUE = {"--workshop", "--picture", "--station", "--job"}
_PLACES = tuple(place_names())
_UNFORESEEN = 3
_LOG = logging.getLogger(__name__)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command.

    Returns:
        0 when all is well, 1 when `check` finds a stop, 2 when something could not be done, 3 when Orvek itself
        is at fault; the reason is printed as one sentence.
    """
    keep_log()
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")  # a terminal that cannot show every letter
    given, file = _job_file_in(list(sys.argv[1:] if arguments is None else arguments))
    options = _parser().parse_args(_to_front(given))
    options.file, options.path = file, _workshop_path(options)
    room, _, name = options.command.partition(".")
    if room != "window":  # that asks Qt
        from orvek.quantities import use_decimal_mark

        use_decimal_mark(_decimal_mark_of_the_system())
    try:
        command: Callable[[argparse.Namespace], int] = getattr(import_module(f"orvek.commands.{room}"), name)
        code = command(options)
        sys.stdout.flush()
        return code
    except OrvekError as error:
        print(error, file=sys.stderr)
        return 2
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except OSError as error:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        print(f"It could not be written: {reason_of(error)}.", file=sys.stderr)
        return 2
    except Exception:  # whatever it is, it is not what `check` answers
        _LOG.exception("%s", options.command)
        print(f"Something went wrong inside Orvek. Its log says what: {log_path()}", file=sys.stderr)
        return _UNFORESEEN


def _decimal_mark_of_the_system() -> str:
    """The decimal mark of the system's locale; a point where that locale is not installed."""
    before = locale.setlocale(locale.LC_NUMERIC)
    try:
        locale.setlocale(locale.LC_NUMERIC, "")
        return str(locale.localeconv()["decimal_point"])
    except locale.Error:
        return "."
    finally:
        locale.setlocale(locale.LC_NUMERIC, before)  # libraries written in C read and write points


def _job_file_in(given: list[str]) -> tuple[list[str], Path | None]:
    """`orvek FILE`, as a file manager calls it, or `orvek ID` from a card: what stands where a command could.

    Returns the other words, and the file where there is one.
    """
    place = 0
    while place < len(given):
        if given[place] in _WITH_VALUE:
            place += 2
        elif given[place].startswith("-"):
            place += 1
        else:
            break
    if place == len(given):
        return given, None
    word, rest = given[place], [*given[:place], *given[place + 1 :]]
    if word.endswith(JOB_SUFFIX) or Path(word).is_file():
        return rest, Path(word)
    if re.fullmatch(r"(orvek:job:)?[0-9a-f]{12}", word):  # what a card's QR code holds
        return [*rest, "--job", word.rpartition(":")[2]], None
    return given, None


def _to_front(given: list[str]) -> list[str]:
    """Which workshop is meant may be said after the command, too."""
    front, rest, words = [], [], iter(given)
    for word in words:
        if word == "--demo" or word.startswith("--workshop="):
            front.append(word)
        elif word == "--workshop":
            front += [word, *islice(words, 1)]
        else:
            rest.append(word)
    return [*front, *rest]


def _workshop_path(options: argparse.Namespace) -> Path:
    """The workshop file: `--workshop`, else ORVEK_WORKSHOP, else in the maker's data folder."""
    import platformdirs

    given = options.workshop or os.environ.get("ORVEK_WORKSHOP")
    name = "demo.sqlite" if getattr(options, "demo", False) and not given else "workshop.sqlite"
    return Path(given) if given else platformdirs.user_data_path("orvek", appauthor=False) / name


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="orvek",
        description="From a pen and a mould to a blank and its pour card.",
        epilog=f"orvek FILE opens a job file (*{JOB_SUFFIX}) in the window.",
    )
    parser.add_argument("--version", action="version", version=f"Orvek {__version__}")
    parser.add_argument("--workshop", metavar="FILE", help="the workshop file to use instead of your own")
    parser.add_argument("--demo", action="store_true", help="open the demo workshop, Tern Quay")
    parser.add_argument("--picture", metavar="PNG", help="save a picture of the window and end")
    parser.add_argument("--station", choices=_PLACES, help="where to begin")
    parser.add_argument("--job", dest="first_job", metavar="JOB", help="the job to begin with, by name or id")
    parser.set_defaults(command="window.window")
    commands = parser.add_subparsers(title="without a screen", metavar="")
    report = commands.add_parser("report", help="print the plan of a job")
    report.add_argument("--json", action="store_true", help="as JSON, with workings")
    report.add_argument("--html", action="store_true", help="as one page of HTML")
    report.set_defaults(command="one_job.report")
    check = commands.add_parser("check", help="print the findings; exit 1 when a stop finding stands")
    check.set_defaults(command="one_job.check")
    for command in (report, check):
        command.add_argument("--cure", action="store_true", help="forecast the cure too; takes some seconds")
        command.add_argument("--all", action="store_true", help="the cure, the boards and whether the lines meet")
    route = commands.add_parser("route", help="print every operation of a job in the order of the work")
    route.add_argument("--json", action="store_true", help="as JSON")
    route.add_argument("--quick", action="store_true", help="without forecasting the cure")
    route.set_defaults(command="one_job.route")
    card = commands.add_parser("card", help="write a card as PDF")
    card.add_argument(
        "--kind",
        choices=["traveller", "pour", "cure", "cuts", "settings", "glue-up", "soak", "bore", "finish", "strip", "wrap"],
        default="pour",
        help="which card",
    )
    card.add_argument("-o", "--output", metavar="PDF", required=True)
    card.add_argument("--paper", choices=["A4", "Letter"], help="instead of your preference")
    card.set_defaults(command="one_job.card")
    template = commands.add_parser("template", help="write a cut's template 1:1 as PDF, SVG or DXF")
    template.add_argument("--cut", type=int, default=1, metavar="N", help="which cut of the cut list, from 1")
    template.add_argument("-o", "--output", metavar="FILE", required=True, help="a name ending in .pdf, .svg or .dxf")
    template.set_defaults(command="one_job.template")
    picture = commands.add_parser("picture", help="write a picture of the blank as PNG, or rolled out as SVG")
    picture.add_argument("-o", "--output", metavar="FILE", required=True, help="a name ending in .png or .svg")
    picture.add_argument("--view", choices=["bar", "unrolled", "turned", "section"], default="turned")
    picture.add_argument("--width", type=int, default=1200, metavar="N", help="pixels along the bar, 50 to 8000")
    picture.add_argument("--rotation", type=float, default=20.0, metavar="DEG", help="from where it is seen")
    picture.add_argument("--angle", type=float, metavar="DEG", help="a section on a plane at this angle to the axis")
    picture.add_argument("--at", type=float, metavar="MM", help="where that plane meets the axis, else the middle")
    picture.set_defaults(command="one_job.picture")
    for command in (report, route, check, card, template, picture):
        command.add_argument("job", help="a job's name or id, or a .orvek.json file")
    today = commands.add_parser("today", help="print what needs the hands now, what is next, what is waited for")
    today.set_defaults(command="weeks.today")
    timetable = commands.add_parser("timetable", help="print when a job's tasks are done, or those of all jobs")
    timetable.add_argument("job", nargs="?", help="a job's name or id; left out: all open jobs")
    timetable.add_argument("--ics", metavar="FILE", help="write it as a calendar, too")
    timetable.set_defaults(command="weeks.timetable")
    for command in (today, timetable):
        command.add_argument("--json", action="store_true", help="as JSON")
        command.add_argument(
            "--effort", type=float, default=6.0, metavar="E", help="of looking further: about so many seconds"
        )
    _add_shop_commands(commands)
    schema = commands.add_parser("schema", help="print the JSON Schema of job files")
    schema.set_defaults(command="formats.schema")
    return parser


def _add_shop_commands(commands: Any) -> None:
    """Put these commands beside the others."""
    shelf = commands.add_parser("shelf", help="print what is on the shelf")
    shelf.add_argument("--fits", metavar="PEN", help="only pieces that this pen fits, the one that wastes least first")
    shelf.add_argument("--labels", metavar="PDF", help="write a label for each of them")
    shelf.add_argument("--paper", choices=["A4", "Letter", "label roll"], default="A4", help="of the labels")
    shelf.add_argument("--json", action="store_true", help="as JSON")
    shelf.set_defaults(command="shop.shelf")
    buy = commands.add_parser("buy", help="print what a job still needs and the shelf has not")
    buy.add_argument("job", help="a job's name or id")
    buy.add_argument("--csv", metavar="FILE", help="write it as a table, too")
    buy.set_defaults(command="shop.buy")
    records = commands.add_parser("records", help="print what the next batch of each kind costs, starts and changes")
    records.add_argument("--csv", metavar="FILE", help="also write the outcome of each blank as a table")
    records.add_argument("--jsonl", metavar="FILE", help="write every entry that was ever written, a line each")
    records.add_argument("--year", type=int, metavar="YEAR", help="with --pdf: of which year, else this one")
    records.add_argument("--pdf", metavar="FILE", help="write the report of a year")
    records.set_defaults(command="shop.records")
    cost = commands.add_parser("cost", help="print what a good pen of a job costs, scrap included")
    cost.add_argument("job", help="a job's name or id")
    cost.set_defaults(command="shop.cost")
