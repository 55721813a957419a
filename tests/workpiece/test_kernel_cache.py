"""Machine code is loaded as it was left, from a folder of the maker's own, or made anew."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from orvek.files import is_private
from orvek.workpiece import field
from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import Evaluator
from orvek.workpiece.program import Program


@pytest.fixture
def left(tmp_path: Path) -> Path:
    """A folder as it is left: two files and their checksums."""
    folder = tmp_path / "code"
    (folder / "inner").mkdir(parents=True)
    (folder / "inner" / "a.nbi").write_bytes(b"index")
    (folder / "inner" / "a.1.nbc").write_bytes(b"code")
    (folder / "ready").write_text(json.dumps(field._checksums(folder)))
    assert field._is_as_it_was_left(folder)
    return folder


@pytest.mark.parametrize(
    "what", ["changed", "cut short", "beside it", "missing", "a link", "no checksums", "other checksums"]
)
def test_code_that_is_not_as_it_was_left_is_not_loaded(left: Path, what: str) -> None:
    code = left / "inner" / "a.1.nbc"
    match what:
        case "changed":
            code.write_bytes(b"evil")
        case "cut short":
            code.write_bytes(b"cod")
        case "beside it":
            (left / "inner" / "a.2.nbc").write_bytes(b"more")
        case "missing":
            code.unlink()
        case "a link":
            (left / "inner" / "b.nbi").symlink_to(code)
        case "no checksums":
            (left / "ready").write_text("")
        case "other checksums":
            (left / "ready").write_text("[1, 2]")
    assert not field._is_as_it_was_left(left)


def test_a_folder_that_others_can_write_to_is_made_private(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    folder = tmp_path / "cache"
    assert is_private(folder)
    assert folder.stat().st_mode & 0o777 == 0o700
    folder.chmod(0o777)
    assert is_private(folder)
    assert folder.stat().st_mode & 0o777 == 0o700
    monkeypatch.setattr(os, "geteuid", lambda: 12345)
    assert not is_private(folder)
    monkeypatch.undo()
    link = tmp_path / "link"
    link.symlink_to(folder)
    assert not is_private(link)
    file = tmp_path / "file"
    file.touch()
    assert not is_private(file)


def test_numbers_that_can_be_written_to_need_no_other_machine_code(kernel: Evaluator, tideline) -> None:  # type: ignore[no-untyped-def]
    from orvek.workpiece import kernel as machine

    program = compiled(tideline.blank.steps, 20, 20, 130)
    points = np.zeros((3, 100), np.float32)
    before = kernel(program, points)
    known = len(machine._run.signatures)
    parts = {name: getattr(program, name) for name in Program.__struct_fields__}
    loose = Program(**{name: part.copy() if isinstance(part, np.ndarray) else part for name, part in parts.items()})
    assert np.array_equal(kernel(loose, points).material, before.material)
    assert len(machine._run.signatures) == known


@pytest.mark.long
def test_planted_code_is_made_anew(tmp_path: Path) -> None:
    load = (
        "import sys; from pathlib import Path; from orvek.workpiece import field; "
        "print(field.load_kernel(Path(sys.argv[1])) is not field.evaluate_reference)"
    )

    def loads() -> str:
        environment = {name: value for name, value in os.environ.items() if name != "NUMBA_CACHE_DIR"}
        command = [sys.executable, "-c", load, str(tmp_path)]
        return subprocess.run(command, capture_output=True, text=True, env=environment).stdout.strip()

    assert loads() == "True"
    ready = next(tmp_path.rglob("ready"))
    was = ready.read_text()
    code = next(tmp_path.rglob("*.nbc"))
    code.write_bytes(b"planted")
    assert loads() == "True"
    assert code.read_bytes() != b"planted"
    assert json.loads(ready.read_text()).keys() == json.loads(was).keys()
