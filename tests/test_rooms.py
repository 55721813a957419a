"""The rooms: what lies below the window works where Qt cannot be imported at all."""

from __future__ import annotations

import ast
import graphlib
import subprocess
import sys
from pathlib import Path

import orvek

_WITHOUT_QT = """
import sys
class NoQt:
    def find_spec(self, name, path=None, target=None):
        if name.split(".")[0] in {"PySide6", "shiboken6"}:
            raise ImportError(name + " is not for this room")
sys.meta_path.insert(0, NoQt())
import orvek.cards.every, orvek.store, orvek.planning, orvek.craft.turning, orvek.workpiece.kernel
import orvek.commands.one_job, orvek.commands.weeks, orvek.commands.shop, orvek.commands.formats
from datetime import date
from orvek.store import demo_job, demo_shop
from orvek.planning import plan
from orvek.cards.every import pour_card
print(len(pour_card(plan(demo_job(), demo_shop()), demo_shop(), date(2026, 1, 1))) > 1000)
"""


def test_the_core_works_without_qt() -> None:
    told = subprocess.run([sys.executable, "-c", _WITHOUT_QT], capture_output=True, text=True, check=False)
    assert told.stderr == ""
    assert told.stdout.strip() == "True"


def test_no_slow_library_loads_before_the_first_window() -> None:
    program = (
        "import sys, orvek.window.main_window, orvek.window.session, orvek.store\n"
        "from orvek.planning import plan\n"
        "from orvek.store.demo_records import with_demo_records\n"
        "plan(orvek.store.demo_job(), with_demo_records(orvek.store.demo_shop()))  # as it is opened\n"
        "slow = ('numpy', 'scipy', 'pint', 'alembic', 'reportlab', 'segno', 'pyqtgraph')\n"
        "print([m for m in slow if m in sys.modules])"
    )
    told = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=False)
    assert told.stdout.strip() == "[]"


def test_no_file_grows_past_500_lines() -> None:
    root = Path(orvek.__file__).parent
    long = {path.name: len(path.read_text().splitlines()) for path in root.rglob("*.py")}
    assert {name: lines for name, lines in long.items() if lines > 500} == {}


def test_no_files_import_each_other_in_a_circle() -> None:
    """Nor for types alone (`TYPE_CHECKING`), nor late, inside a function: each file can be read after what it names."""
    root = Path(orvek.__file__).parent
    files = {".".join(("orvek", *path.relative_to(root).with_suffix("").parts)): path for path in root.rglob("*.py")}
    imported: dict[str, set[str]] = {}
    for name, path in files.items():
        found = [node for node in ast.walk(ast.parse(path.read_text())) if isinstance(node, ast.ImportFrom)]
        said = {(node.module or "", alias.name) for node in found for alias in node.names}
        named = {f"{module}.{what}" if f"{module}.{what}" in files else module for module, what in said}
        imported[name] = named & files.keys()
    graphlib.TopologicalSorter(imported).prepare()  # raises, and names them
