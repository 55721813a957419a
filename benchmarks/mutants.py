"""Mutants of the core: `mutants(rooms, seed)` gives files with one place changed, chosen at random.

An order (<, ≤, >, ≥) becomes any other comparison, as in kept tools of this kind: `<` for `≤` alone is the same on
lengths and masses. Guards against rounding (below a ten thousandth) and sizes of caches are left: nobody can see them.
"""

from __future__ import annotations

import ast
import copy
import random
from collections.abc import Iterator
from pathlib import Path

from msgspec import Struct

ROOT = Path(__file__).parents[1]
_SKIPPED = {"kernel.py", "__init__.py"}  # machine code is held to the reference by its own tests
_SWAPS: dict[type, type] = {
    ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
_ORDERS: tuple[type[ast.cmpop], ...] = (ast.Lt, ast.LtE, ast.Gt, ast.GtE)
_COMPARISONS = (*_ORDERS, ast.Eq, ast.NotEq)
_GUARD = 1e-4  # what is smaller only guards against rounding


class Mutant(Struct, frozen=True):
    """One changed place: the file, the lines of its statement, what was changed, and the file's new text."""

    path: Path
    line: int
    what: str
    text: str
    statement: range
    inside: bool  # a function, so that it is only run when that is called


def mutants(rooms: list[str], seed: int) -> Iterator[Mutant]:
    """Mutants without end, each of a place chosen at random, every place at most once."""
    chance, seen = random.Random(seed), set()
    files = [p for room in rooms for p in sorted((ROOT / "src/orvek" / room).rglob("*.py")) if p.name not in _SKIPPED]
    weights = [len(path.read_text().splitlines()) for path in files]
    while True:
        path = chance.choices(files, weights)[0]
        tree = ast.parse(path.read_text())
        caches = {id(node) for call in ast.walk(tree) if _is_cache(call) for node in ast.walk(call)}
        places = [node for node in ast.walk(tree) if _changes(node) and id(node) not in caches]
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
        what = f"{before[:60]} -> {ast.unparse(node)[:60]}"
        yield Mutant(path, line, what, ast.unparse(tree), *_statement(tree, line))


def _statement(tree: ast.Module, line: int) -> tuple[range, bool]:
    """The lines of the innermost statement at a line (of one with a body: its head), and whether in a function."""
    found, inside = range(line, line + 1), False
    for node in ast.walk(tree):  # from without to within
        if isinstance(node, ast.stmt) and node.lineno <= line <= (node.end_lineno or node.lineno):
            body = getattr(node, "body", None)
            last = body[0].lineno - 1 if body else node.end_lineno or node.lineno
            found = range(node.lineno, max(last, line) + 1)
            defaults = isinstance(node, ast.FunctionDef) and line < node.body[0].lineno
            inside = inside or (isinstance(node, ast.FunctionDef) and not defaults)
    return found, inside


def _is_cache(node: ast.AST) -> bool:
    match node:
        case ast.Call(func=ast.Name(id="lru_cache")):
            return True
    return False


def _is_guard(node: ast.AST) -> bool:
    match node:
        case ast.Constant(value=float() as value):
            return abs(value) < _GUARD
    return False


def _changes(node: ast.AST) -> bool:
    match node:
        case ast.Compare(ops=[op]):
            return type(op) in _SWAPS or isinstance(op, _ORDERS)
        case ast.BinOp(op=op, left=left, right=right):
            is_plain = not isinstance(left, ast.Constant | ast.JoinedStr) and not _is_guard(right)
            return type(op) in _SWAPS and is_plain
        case ast.BoolOp():
            return True
        case ast.UnaryOp(op=ast.Not()):
            return True
        case ast.Constant(value=bool()):
            return False
        case ast.Constant(value=int() | float() as value):
            return value not in {0, 1, 2} and not _is_guard(node)
        case ast.Return(value=value):
            return value is not None and not isinstance(value, ast.Constant)
    return False


def _change(node: ast.AST, chance: random.Random) -> None:
    match node:
        case ast.Compare(ops=[op]) if isinstance(op, _ORDERS):
            node.ops = [chance.choice([one for one in _COMPARISONS if one is not type(op)])()]
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
