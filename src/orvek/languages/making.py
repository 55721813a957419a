"""The program in another language, made once from these sources: `make(target, translate, own_files)`.

`all_texts()` is what there is to translate.

A copy of the package is written whose sources are these, while the code that is run from them has the other texts.
Lines in a log of errors are therefore those of the sources.
"""

from __future__ import annotations

import ast
import importlib.util
import json
import marshal
import shutil
import tempfile
from collections.abc import Callable, Container, Iterable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

from msgspec import Struct

from orvek.languages.keys import SAID
from orvek.languages.texts import Keys, is_text, keys_of, translated

_HERE = Path(__file__).parent
_PACKAGE = _HERE.parent
_UNCHECKED = (1).to_bytes(4, "little")  # PEP 552: code that belongs to its source, and is not to be compared with it
# Under these names data have sentences; under others keys, and names of things that are kept with a job.
_SENTENCES = frozenset({
    "caution", "cautions", "line", "look_for", "note", "prevention", "title", "too_much", "tool", "uses", "words",
})  # fmt: skip
_NO_SENTENCES = ("job.schema.json",)


def all_texts() -> dict[str, list[str]]:
    """Every text of the program, and the files in which it stands, in their order."""
    found: dict[str, list[str]] = {}
    sources = _sources()
    keys = _keys(sources)
    for source in sources:
        here = partial(_note, found, source.path)
        for key in sorted(source.keys.shown):
            here(key)
        translated(source.tree, source.lines, here, keys)
    for path in _data():
        _in_words(json.loads(path.read_text(encoding="utf-8")), partial(_note, found, path), "")
    return found


def _note(found: dict[str, list[str]], path: Path, text: str) -> str:
    found.setdefault(text, []).append(str(path.relative_to(_PACKAGE)))
    return text


def make(target: Path, translate: Callable[[str], str], own_files: Path | None = None) -> None:
    """Write the package `orvek` in another language into the folder `target`, whole or not at all.

    Args:
        target: a folder that is put before others on Python's path; it is not there yet.
        translate: answers a text with that of the other language, or with itself.
        own_files: files that take the place of those of the same name in `data/`, the help's pages for one.

    Raises:
        OSError: it could not be written.
    """
    target.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=target.parent, prefix=".making-") as folder:
        made = Path(folder) / "made" / _PACKAGE.name
        shutil.copytree(_PACKAGE, made, ignore=shutil.ignore_patterns("__pycache__"))
        sources = _sources()
        keys = _keys(sources)
        said = {key: translate(key) for source in sources for key in source.keys.shown}
        (made / "data" / SAID).write_text(json.dumps(said, ensure_ascii=False), encoding="utf-8")
        for source in sources:
            tree = translated(source.tree, source.lines, translate, keys)
            _write_code(made / source.path.relative_to(_PACKAGE), tree)
        for path in _data():
            words = _in_words(json.loads(path.read_text(encoding="utf-8")), translate, "")
            (made / path.relative_to(_PACKAGE)).write_text(json.dumps(words, ensure_ascii=False), encoding="utf-8")
        if own_files is not None and own_files.is_dir():
            shutil.copytree(own_files, made / "data", dirs_exist_ok=True)
        try:
            made.parent.rename(target)
        except OSError:
            if not target.is_dir():  # else a second start has been quicker
                raise


def _write_code(source: Path, tree: ast.Module) -> None:
    """Put code beside a source, which Python takes instead of compiling it."""
    code = compile(tree, str(source), "exec")
    cached = source.parent / "__pycache__" / Path(importlib.util.cache_from_source(str(source))).name
    cached.parent.mkdir(exist_ok=True)
    mark = importlib.util.source_hash(source.read_bytes())
    cached.write_bytes(importlib.util.MAGIC_NUMBER + _UNCHECKED + mark + marshal.dumps(code))


def _in_words(content: Any, translate: Callable[[str], str], name: str) -> Any:
    """Data with other sentences."""
    if isinstance(content, dict):
        return {key: _in_words(value, translate, key) for key, value in content.items()}
    if isinstance(content, list):
        return [_in_words(value, translate, name) for value in content]
    return translate(content) if isinstance(content, str) and name in _SENTENCES and is_text(content) else content


class _Source(Struct, frozen=True):
    """One file of the program: its lines, what it says, and the keys in it."""

    path: Path
    lines: tuple[str, ...]
    tree: ast.Module
    keys: Keys


def _sources() -> list[_Source]:
    """All files of the program but these."""
    found = []
    for path in sorted(_PACKAGE.rglob("*.py")):
        if not path.is_relative_to(_HERE):
            text = path.read_text(encoding="utf-8")
            tree = ast.parse(text, str(path))
            found.append(_Source(path, tuple(text.splitlines()), tree, keys_of(tree)))
    return found


def _keys(sources: Iterable[_Source]) -> Container[str]:
    """The strings that are keys anywhere in the program."""
    return frozenset().union(*(source.keys.compared for source in sources))


def _data() -> Iterator[Path]:
    return (path for path in sorted((_PACKAGE / "data").glob("*.json")) if path.name not in _NO_SENTENCES)
