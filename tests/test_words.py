"""What is written on the screen is in words that people know: those of docs/words.md, none of those it leaves."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import orvek

_ROOT = Path(orvek.__file__).parent
_ROOMS = ("cards", "craft", "documents", "planning", "store", "window")
_LEFT = re.compile(
    r"\b(deed|take in|give out|afresh|anew|reckon\w*|forthwith|begin (one )?like|take off|let in|"
    r"leave as it was|order of the hands|is called so|drinks|"
    r"as told|with the spoilt|nine times in ten|turned away|no way back|ways? out|running away|comes out off|"
    r"off (sideways|upwards)|to be begun)\b",
    re.IGNORECASE,
)
_UNIT_IN_LABEL = re.compile(r"\((mm|g|ml|°C|bar|min|in)\)$|, in (mm|g|ml|bar|min)$")


def _sentences(path: Path) -> Iterator[str]:
    """Texts of a file that may be shown: no docstrings, no keys, no style sheets."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    bodies = [node.body for node in ast.walk(tree) if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef)]
    docstrings = {id(body[0].value) for body in bodies if body and isinstance(body[0], ast.Expr)}
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in docstrings:
            text = node.value
            is_sql = re.match(r"(select|insert|update|delete|create)\b.*\b(from|into|set|table)\b", text) is not None
            if (" " in text or text[:1].isupper()) and "{" not in text and not is_sql:
                yield text


def test_no_word_that_was_left_comes_back() -> None:
    found = {
        (str(path.relative_to(_ROOT)), text)
        for room in _ROOMS
        for path in sorted((_ROOT / room).rglob("*.py"))
        for text in _sentences(path)
        if _LEFT.search(text)
    }
    assert not found
    assert _LEFT.search("Reckon with 2.4 mm"), "and the test would see it"


def test_units_stand_with_the_value() -> None:
    found = {
        (str(path.relative_to(_ROOT)), text)
        for path in sorted((_ROOT / "documents").rglob("*.py"))
        for text in _sentences(path)
        if _UNIT_IN_LABEL.search(text)
    }
    assert not found
