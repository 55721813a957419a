"""Orvek without a screen: `orvek report`, `check`, `card`, `picture`, `schema`; the window, when none is asked for.

Each command takes the name or id of a job in the workshop, or a `.orvek.json` file.
"""

from __future__ import annotations

import argparse
import io
import locale
import os
import re
import sys
from collections.abc import Callable, Sequence
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from orvek import __version__
from orvek.commands_shop import add_shop_commands, all_jobs, workshop_path
from orvek.documents import SUFFIX, Job, Shop, first_shop, from_text, schema_text
from orvek.errors import NothingToDoError, OrvekError, OutOfBoundsError
from orvek.files import LARGEST_JOB_BYTES, read_text, reason_of, write_atomically
from orvek.log import keep_log
from orvek.planning import QUESTIONS, Plan, answered, plan
from orvek.quantities import use_decimal_mark

if TYPE_CHECKING:
    from orvek.planning.timetable.weeks import Weeks

_WITH_VALUE = {"--workshop", "--picture", "--station", "--job"}
_PLACES = (
    "today",
    "pen",
    "blank",
    "pour",
    "weigh",
    "cure",
    "bubbles",
    "colour",
    "cuts",
    "boards",
    "gluing",
    "meet",
    "soak",
    "drying",
    "resin",
    "dyes",
    "bore",
    "holes",
    "tubes",
    "pattern",
    "finish",
    "size",
    "wrap",
    "voids",
    "sanding",
    "press",
    "what-now",
    "timetable",
    "shelf",
    "next",
    "batch",
    "cost",
    "learned",
    "jobs",
    "charts",
    "records",
)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command.

    Returns:
        0 when all is well, 1 when `check` finds a stop, 2 when something could not be done; the reason is
        printed as one sentence.
    """
    keep_log()
    use_decimal_mark(_decimal_mark_of_the_system())
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")  # a terminal that cannot show every letter
    given, file = _job_file_in(list(sys.argv[1:] if arguments is None else arguments))
    options = _parser().parse_args(given)
    options.file = file
    try:
        command: Callable[[argparse.Namespace], int] = options.command
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
    if word.endswith(SUFFIX) or Path(word).is_file():
        return rest, Path(word)
    if re.fullmatch(r"(orvek:job:)?[0-9a-f]{12}", word):  # what a card's QR code holds
        return [*rest, "--job", word.rpartition(":")[2]], None
    return given, None


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="orvek",
        description="From a pen and a mould to a blank and its pour card.",
        epilog=f"orvek FILE opens a job file (*{SUFFIX}) in the window.",
    )
    parser.add_argument("--version", action="version", version=f"Orvek {__version__}")
    parser.add_argument("--workshop", metavar="FILE", help="the workshop file to use instead of your own")
    parser.add_argument("--demo", action="store_true", help="open the demo workshop, Tern Quay")
    parser.add_argument("--picture", metavar="PNG", help="save a picture of the window and end")
    parser.add_argument("--station", choices=_PLACES, help="where to begin")
    parser.add_argument("--job", dest="first_job", metavar="JOB", help="the job to begin with, by name or id")
    parser.set_defaults(command=_window)
    commands = parser.add_subparsers(title="without a screen", metavar="")
    report = commands.add_parser("report", help="print the plan of a job")
    report.add_argument("--json", action="store_true", help="as JSON, with workings")
    report.add_argument("--html", action="store_true", help="as one page of HTML")
    report.set_defaults(command=_report)
    check = commands.add_parser("check", help="print the findings; exit 1 when a stop finding stands")
    check.set_defaults(command=_check)
    for command in (report, check):
        command.add_argument("--cure", action="store_true", help="forecast the cure too; takes some seconds")
        command.add_argument("--all", action="store_true", help="the cure, the boards and whether the lines meet")
    card = commands.add_parser("card", help="write a card as PDF")
    card.add_argument(
        "--kind",
        choices=["pour", "cure", "cuts", "settings", "glue-up", "soak", "bore", "finish", "strip", "wrap"],
        default="pour",
        help="which card",
    )
    card.add_argument("-o", "--output", metavar="PDF", required=True)
    card.add_argument("--paper", choices=["A4", "Letter"], help="instead of your preference")
    card.set_defaults(command=_card)
    template = commands.add_parser("template", help="write a cut's template 1:1 as PDF, SVG or DXF")
    template.add_argument("--cut", type=int, default=1, metavar="N", help="which cut of the cut list, from 1")
    template.add_argument("-o", "--output", metavar="FILE", required=True, help="a name ending in .pdf, .svg or .dxf")
    template.set_defaults(command=_template)
    picture = commands.add_parser("picture", help="write a picture of the blank as PNG, or rolled out as SVG")
    picture.add_argument("-o", "--output", metavar="FILE", required=True, help="a name ending in .png or .svg")
    picture.add_argument("--view", choices=["bar", "unrolled", "turned", "section"], default="turned")
    picture.add_argument("--width", type=int, default=1200, metavar="N", help="pixels along the bar, 50 to 8000")
    picture.add_argument("--rotation", type=float, default=20.0, metavar="DEG", help="from where it is seen")
    picture.add_argument("--angle", type=float, metavar="DEG", help="a section on a plane at this angle to the axis")
    picture.add_argument("--at", type=float, metavar="MM", help="where that plane meets the axis, else the middle")
    picture.set_defaults(command=_picture)
    for command in (report, check, card, template, picture):
        command.add_argument("job", help="a job's name or id, or a .orvek.json file")
    today = commands.add_parser("today", help="print what needs the hands now, what is next, what is waited for")
    today.set_defaults(command=_today)
    timetable = commands.add_parser("timetable", help="print when a job's tasks are done, or those of all jobs")
    timetable.add_argument("job", nargs="?", help="a job's name or id; left out: all open jobs")
    timetable.add_argument("--ics", metavar="FILE", help="write it as a calendar, too")
    timetable.set_defaults(command=_timetable)
    for command in (today, timetable):
        command.add_argument("--json", action="store_true", help="as JSON")
        command.add_argument("--seconds", type=float, default=6.0, metavar="S", help="how long a better plan is sought")
    add_shop_commands(commands)
    schema = commands.add_parser("schema", help="print the JSON Schema of job files")
    schema.set_defaults(command=_schema)
    texts = commands.add_parser("texts", help="print every text of the program as a template for translators")
    texts.set_defaults(command=_texts)
    return parser


def _window(options: argparse.Namespace) -> int:
    from orvek.window.application import run

    picture = Path(options.picture) if options.picture else None
    begin = (options.station, options.first_job)
    return run(workshop_path(options), demo=options.demo, picture=picture, begin=begin, file=options.file)


def _report(options: argparse.Namespace) -> int:
    from orvek.cards import report_json, report_text
    from orvek.cards.report_pages import report_html

    found, shop = _planned(options)
    write = report_json if options.json else report_html if options.html else report_text
    print(write(found, shop.preferences.units), end="")
    return 0


def _check(options: argparse.Namespace) -> int:
    from orvek.cards import findings_text

    found, _ = _planned(options)
    print(findings_text(found))
    return 1 if found.has_stop else 0


def _card(options: argparse.Namespace) -> int:
    from orvek.cards import CARDS, cure_card, cut_list_csv

    found, shop = _planned(options)
    if options.paper:
        shop = shop.with_(preferences=shop.preferences.with_(paper=options.paper))
    target = Path(options.output)
    today = date.today()
    if options.kind == "cure":
        forecast = _answered(found, ("cure",)).cure
        if forecast is None:
            raise NothingToDoError("A forecast", "a mould, a resin with its pot life, and colours")
        content = cure_card(found, forecast, shop, today)
    elif target.suffix == ".csv":
        content = cut_list_csv(found)
    else:
        content = CARDS[options.kind](found, shop, today)
    write_atomically(target, content)
    print(f"Wrote {target}")
    return 0


def _template(options: argparse.Namespace) -> int:
    from orvek.cards.template import template, template_dxf, template_pdf, template_svg

    found, shop = _planned(options)
    cuts = found.cutting.cuts if found.cutting else ()
    if not 1 <= options.cut <= len(cuts):
        raise OutOfBoundsError("The cut", options.cut, f"from 1 to {len(cuts)}" if cuts else "one that the job has")
    drawing, target = template(cuts[options.cut - 1], shop.preferences.units), Path(options.output)
    if target.suffix == ".dxf":
        content = template_dxf(drawing)
    elif target.suffix == ".svg":
        content = template_svg(drawing)
    else:
        content = template_pdf(drawing, shop.preferences.paper)
    write_atomically(target, content)
    print(f"Wrote {target}")
    return 0


def _answered(found: Plan, keys: tuple[str, ...]) -> Plan:
    """The plan with the answers to its slow questions, as the window shows them."""
    from orvek.workpiece.field import kernel_cache, load_kernel
    from orvek.workpiece.reference import evaluate_reference

    asked = [slow for slow in QUESTIONS if slow.key in keys]
    evaluate = load_kernel(kernel_cache()) if any(slow.key == "meet" for slow in asked) else evaluate_reference
    for slow in asked:
        question = slow.question(found)
        if question is not None:
            answer = slow.answer(question, evaluate, lambda _part: None, lambda _early: None)
            found = answered(found, slow, answer)
    return found


def _picture(options: argparse.Namespace) -> int:
    from orvek.cards.picture_file import cut_open_png, picture_png, unrolled_svg
    from orvek.planning.bar import bar_size
    from orvek.workpiece.field import kernel_cache, load_kernel

    if not 50 <= options.width <= 8000:
        raise OutOfBoundsError("The width", options.width, "from 50 to 8000 pixels")
    found, _ = _planned(options)
    evaluate = load_kernel(kernel_cache())
    target = Path(options.output)
    if target.suffix == ".svg":
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


def _today(options: argparse.Namespace) -> int:
    from datetime import datetime

    from orvek.cards.timetable_text import today_text, weeks_json

    weeks = _weeks(options, None)
    print(weeks_json(weeks) if options.json else today_text(weeks, datetime.now()))
    return 0


def _timetable(options: argparse.Namespace) -> int:
    from orvek.cards.calendar import timetable_ics
    from orvek.cards.timetable_text import timetable_text, weeks_json

    weeks = _weeks(options, options.job)
    job = next((key for key, name in weeks.names if options.job in {key, name}), None)
    if options.ics:
        write_atomically(Path(options.ics), timetable_ics(weeks, job))
        print(f"Wrote {options.ics}", file=sys.stderr)
    print(weeks_json(weeks, job) if options.json else timetable_text(weeks, job))
    return 0


def _weeks(options: argparse.Namespace, wanted: str | None) -> Weeks:
    """The timetable of all open jobs of the workshop; the one that is wanted is in hand, its cure forecast."""
    from dataclasses import replace

    from orvek.planning.cure.moved import moved
    from orvek.planning.timetable.weeks import weeks, weeks_question

    found, shop = all_jobs(options, wanted, "A timetable")
    jobs = [job for job in found if job.work.is_open]
    if not jobs:
        raise NothingToDoError("A timetable", "a job with a pen")
    whole = plan(jobs[0], shop, tuple(jobs[1:]))
    question = weeks_question(whole if wanted is None else _answered(whole, ("cure",)))
    if question is None:
        raise NothingToDoError("A timetable", "a job with a pen")
    return weeks(replace(question, seconds=max(0.1, min(60.0, options.seconds))), moved=moved)


def _schema(_options: argparse.Namespace) -> int:
    print(schema_text(), end="")
    return 0


def _texts(_options: argparse.Namespace) -> int:
    from orvek.languages.making import all_texts
    from orvek.languages.template import template_text

    print(template_text(all_texts()), end="")
    return 0


def _planned(options: argparse.Namespace) -> tuple[Plan, Shop]:
    job, shop = _job_and_shop(options)
    found = plan(job, shop)
    if getattr(options, "all", False):
        found = _answered(found, tuple(slow.key for slow in QUESTIONS if slow.key != "weeks"))
    elif getattr(options, "cure", False):
        found = _answered(found, ("cure",))
    return found, shop


def _job_and_shop(options: argparse.Namespace) -> tuple[Job, Shop]:
    from orvek.shop import open_workshop

    wanted = options.job
    is_file = wanted.endswith(".json") or (len(wanted) < 1000 and "\0" not in wanted and Path(wanted).exists())
    job = from_text(read_text(Path(wanted), LARGEST_JOB_BYTES), Path(wanted).name) if is_file else None
    path = workshop_path(options)
    if not path.exists():
        if job is None:
            raise NothingToDoError(
                f"Finding “{wanted[:60]}”", f"a workshop with that job, or a file {wanted[:60]}{SUFFIX}"
            )
        return job, first_shop()
    workshop = open_workshop(path)
    try:
        shop = workshop.shop()
        if job is None:
            entry = next((e for e in workshop.jobs() if wanted in {e.id, e.name}), None)
            if entry is None:
                raise NothingToDoError(f"Finding “{wanted[:60]}”", f"a job of that name in {path.name}")
            job = workshop.job(entry.id)
        return job, shop
    finally:
        workshop.close()
