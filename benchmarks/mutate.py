"""A seeded mutation run over the core: one place changed at a time, in a copy of the tree; which tests notice?

Prints a line for each mutant, then the survivors: places where the program may say something else and no test minds.
"""

from __future__ import annotations

import argparse
import ast
import copy
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator, Sequence
from pathlib import Path

from msgspec import Struct

ROOT = Path(__file__).parents[1]
# Which tests are asked about a room, the quick ones first; the first failure ends the run.
TESTS = {
    "craft": ("tests/craft", "tests/jobs", "tests/planning", "tests/test_jobs.py"),
    "planning": ("tests/jobs", "tests/planning", "tests/cards", "tests/test_jobs.py", "tests/test_commands.py"),
    "workpiece": (
        "tests/workpiece",
        "tests/jobs",
        "tests/craft",
        "tests/planning/blank",
        "tests/planning/pour",
        "tests/planning/colour",
    ),
    "shop": ("tests/shop",),
}
WORKERS = os.environ.get("ORVEK_MUTATE_WORKERS", "2")
_SKIPPED = {"kernel.py", "__init__.py"}  # machine code is held to the reference by its own tests
_SWAPS: dict[type, type] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip


class Mutant(Struct, frozen=True):
    """One changed place: the file, the line, what was changed, and the file's new text."""

    path: Path
    line: int
    what: str
    text: str


def mutants(rooms: list[str], seed: int) -> Iterator[Mutant]:
    """Mutants without end, each of a place chosen at random, every place at most once."""
    chance, seen = random.Random(seed), set()
    files = [p for room in rooms for p in sorted((ROOT / "src/orvek" / room).rglob("*.py")) if p.name not in _SKIPPED]
    weights = [len(path.read_text().splitlines()) for path in files]
    while True:
        path = chance.choices(files, weights)[0]
        tree = ast.parse(path.read_text())
        places = [node for node in ast.walk(tree) if _changes(node)]
        if not places:
            continue
        number = chance.randrange(len(places))
        if (path, number) in seen:
            continue
        seen.add((path, number))
        node = places[number]
        before = ast.unparse(node)
        _change(node, chance)
        line = getattr(node, "lineno", 0)
        yield Mutant(path, line, f"{before[:60]} -> {ast.unparse(node)[:60]}", ast.unparse(tree))


def _changes(node: ast.AST) -> bool:
    match node:
        case ast.Compare(ops=[op]):
            return type(op) in _SWAPS
        case ast.BinOp(op=op, left=left):
            return type(op) in _SWAPS and not isinstance(left, ast.Constant | ast.JoinedStr)
        case ast.BoolOp():
            return True
        case ast.UnaryOp(op=ast.Not()):
            return True
        case ast.Constant(value=bool()):
            return False
        case ast.Constant(value=int() | float() as value):
            return value not in {0, 1, 2}
        case ast.Return(value=value):
            return value is not None and not isinstance(value, ast.Constant)
    return False


def _change(node: ast.AST, chance: random.Random) -> None:
    match node:
        case ast.Compare(ops=[op]):
            node.ops = [_SWAPS[type(op)]()]
        case ast.BinOp(op=op) | ast.BoolOp(op=op):
            node.op = _SWAPS[type(op)]()
        case ast.UnaryOp():
            node.op = ast.UAdd()
            node.operand = ast.Call(ast.Name("bool", ast.Load()), [copy.deepcopy(node.operand)], [])
        case ast.Constant(value=int() | float() as value):
            node.value = value * chance.choice([0.5, 1.5]) if isinstance(value, float) else value + 1
        case ast.Return():
            node.value = ast.Constant(None)


def is_noticed(mutant: Mutant, copy_of: Path) -> bool:
    """Whether a test fails with this mutant in the copy of the tree."""
    place = copy_of / mutant.path.relative_to(ROOT)
    room = mutant.path.relative_to(ROOT / "src/orvek").parts[0]
    before = place.read_text()
    place.write_text(mutant.text)
    environment = {**os.environ, "PYTHONPATH": str(copy_of / "src"), "QT_QPA_PLATFORM": "offscreen"}
    try:
        return any(_fails(tests, copy_of, environment) for tests in (_nearest(mutant, copy_of), TESTS[room]) if tests)
    finally:
        place.write_text(before)


def _nearest(mutant: Mutant, copy_of: Path) -> list[str]:
    """The tests that mirror the changed file: its own, else its folder's, where there are such."""
    place = mutant.path.relative_to(ROOT / "src/orvek")
    own = copy_of / "tests" / place.parent / f"test_{place.name}"
    if own.exists():
        return [str(own)]
    return [str(own.parent)] if own.parent.is_dir() and len(place.parts) > 2 else []


def _fails(tests: Sequence[str], copy_of: Path, environment: dict[str, str]) -> bool:
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-n", WORKERS, *tests]
    try:
        told = subprocess.run(command, cwd=copy_of, env=environment, capture_output=True, timeout=900, check=False)
    except subprocess.TimeoutExpired:
        return True
    return told.returncode != 0


def main() -> int:
    """Run as many mutants as are asked for; returns 1 where more than 15 % survive."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--room", choices=list(TESTS), action="append")
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        copy_of = Path(folder) / "tree"
        shutil.copytree(ROOT, copy_of, ignore=shutil.ignore_patterns(".git", ".venv", "__pycache__", "docs"))
        survivors = []
        for number, mutant in zip(
            range(options.count), mutants(options.room or list(TESTS), options.seed), strict=False
        ):
            noticed = is_noticed(mutant, copy_of)
            where = f"{mutant.path.relative_to(ROOT / 'src/orvek')}:{mutant.line}"
            print(f"{number + 1:4} {'noticed ' if noticed else 'SURVIVED'} {where}  {mutant.what}", flush=True)
            if not noticed:
                survivors.append(where)
    print(f"{len(survivors)} of {options.count} survived: {', '.join(survivors) or 'none'}")
    return int(len(survivors) > 0.15 * options.count)


if __name__ == "__main__":
    sys.exit(main())
