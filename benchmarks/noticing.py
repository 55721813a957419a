"""Which tests notice a mutant: `TestMap` knows which come to its lines, `is_noticed` runs them in a copy.

For the map each test works out anew what the program looks up once (`uncached`), or its first reader alone were seen.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path

from coverage import CoverageData
from msgspec import Struct

from benchmarks.mutants import ROOT, Mutant

KEPT = ROOT / "build/mutate"
_QUICK_S, _ENOUGH_S = 20.0, 150.0  # of tests: the first batch, and when a mutant has been looked for long enough
_WINDOW = "tests/window/"
_SETTINGS = "[run]\nsource_pkgs = orvek\nomit = */orvek/window/*\ndata_file = {}\n"
_DURATION = re.compile(r"^([\d.]+)s (?:call|setup|teardown) +(tests/.*\.py::.*\S)\s*$", re.MULTILINE)


class TestMap(Struct, frozen=True):
    """Which tests ran a line of the core, and how long each test takes.

    Attributes:
        ran: by file (from src/orvek), by line, the tests.
        seconds: by test.
    """

    ran: dict[str, dict[int, frozenset[str]]]
    seconds: dict[str, float]

    def about(self, mutant: Mutant) -> tuple[list[str], list[str]]:
        """The tests to ask, quickest first: those near and quick, then the others."""
        place = mutant.path.relative_to(ROOT / "src/orvek")
        lines = self.ran.get(str(place), {})
        own = [lines[line] for line in mutant.statement if line in lines]
        is_inside = mutant.inside and (any(own) or not own)  # run, but by no test: on loading
        of = mutant.statement if is_inside else lines  # what is worked out on loading: whoever uses the file
        asked = frozenset().union(*(lines.get(line, frozenset()) for line in of))
        if not is_inside:
            asked |= {test for test in self.seconds if test.startswith(_mirrors(place))}
        if not is_inside and not asked:
            asked = frozenset(test for test in self.seconds if test.startswith(f"tests/{place.parent}/"))
        quick, slow, spent = [], [], 0.0
        for test in sorted(asked, key=lambda test: (test.startswith(_WINDOW), self.seconds.get(test, 1.0))):
            spent += self.seconds.get(test, 1.0)
            is_quick = spent < _QUICK_S and not test.startswith(_WINDOW)
            if spent < _ENOUGH_S:
                (quick if is_quick else slow).append(test)
        return quick, slow


def _mirrors(place: Path) -> tuple[str, ...]:
    """Where the tests of a file are: its own, or its folder's."""
    own = Path("tests") / place.parent / f"test_{place.name}"
    return (str(own), f"{own.parent}/") if len(place.parts) > 2 else (str(own),)


def test_map(is_new: bool) -> TestMap:
    """The map of this tree; worked out by one run of all tests where there is none, or a new one is asked for."""
    data, told = KEPT / "coverage", KEPT / "durations.txt"
    if is_new or not (data.exists() and told.exists()):
        _run_all(data, told)
    kept = CoverageData(str(data))
    kept.read()
    ran: dict[str, dict[int, frozenset[str]]] = {}
    for file in kept.measured_files():
        by_line = kept.contexts_by_lineno(file)
        place = file.rsplit("src/orvek/", 1)[-1]
        ran[place] = {line: frozenset(test.split("|")[0] for test in of if test) for line, of in by_line.items()}
    seconds: dict[str, float] = {}
    for length, test in _DURATION.findall(told.read_text(encoding="utf-8")):
        seconds[test] = seconds.get(test, 0.0) + float(length)
    return TestMap(ran, seconds)


def _run_all(data: Path, told: Path) -> None:
    KEPT.mkdir(parents=True, exist_ok=True)
    settings = KEPT / "coveragerc"
    settings.write_text(_SETTINGS.format(data), encoding="utf-8")
    options = (
        "-p",
        "benchmarks.uncached",
        "--cov",
        f"--cov-config={settings}",
        "--cov-context=test",
        "--cov-report=",
        "-vv",
    )
    command = (*_pytest(), "-n2", "--dist=worksteal", *options, "--durations=0", "--durations-min=0")
    with told.open("w", encoding="utf-8") as file:
        subprocess.run(command, cwd=ROOT, env=_environment(ROOT), stdout=file, stderr=subprocess.STDOUT, check=True)


def is_noticed(mutant: Mutant, copy_of: Path, tests: TestMap) -> bool:
    """Whether a test fails with this mutant in the copy of the tree."""
    place = copy_of / mutant.path.relative_to(ROOT)
    before = place.read_text(encoding="utf-8")
    place.write_text(mutant.text, encoding="utf-8")
    try:
        return any(_fails(batch, copy_of, _allowed_s(batch, tests)) for batch in tests.about(mutant) if batch)
    finally:
        place.write_text(before, encoding="utf-8")


def passes_unchanged(copy_of: Path, tests: TestMap) -> bool:
    """Whether what many mutants are asked passes without one; else each would seem to be noticed."""
    told = [test for test in tests.seconds if test.startswith("tests/jobs/")]
    return not _fails(told, copy_of, _allowed_s(told, tests))


def _allowed_s(batch: Iterable[str], tests: TestMap) -> float:
    """How long a batch may take: a mutant that never ends is noticed too."""
    return 40 + 3 * sum(tests.seconds.get(test, 1.0) for test in batch)


def _fails(batch: Sequence[str], copy_of: Path, allowed_s: float) -> bool:
    asked = copy_of / "asked.txt"
    asked.write_text("\n".join(batch), encoding="utf-8")
    command = (*_pytest(), "-x", "-q", f"@{asked}")
    try:
        ran = subprocess.run(
            command, cwd=copy_of, env=_environment(copy_of), capture_output=True, timeout=allowed_s, check=False
        )
    except subprocess.TimeoutExpired:
        return True
    told = ran.stdout.decode() + ran.stderr.decode()
    if ran.returncode == 5 or "ERROR: not found:" in told:
        raise RuntimeError(f"A test of the map is not there any more: make it anew.\n{told[-2000:]}")
    return ran.returncode != 0


def _pytest() -> tuple[str, ...]:
    return (sys.executable, "-m", "pytest")


def _environment(tree: Path) -> dict[str, str]:
    more = {"PYTHONPATH": str(tree / "src"), "QT_QPA_PLATFORM": "offscreen", "ORVEK_SAME_EXAMPLES": "1"}
    return {**os.environ, **more, "PYTHONDONTWRITEBYTECODE": ""}  # a mutant's text is never as long as the file's
