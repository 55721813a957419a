"""Files are written whole or not at all."""

from __future__ import annotations

import errno
import os
import resource
import subprocess
import sys
from pathlib import Path

import pytest

from orvek.errors import CannotReadError, CannotWriteError
from orvek.files import read_text, write_atomically


def test_a_file_is_written_over_another(tmp_path: Path) -> None:
    path = tmp_path / "job.orvek.json"
    write_atomically(path, b"one")
    write_atomically(path, b"two")
    assert path.read_bytes() == b"two"
    assert [entry.name for entry in tmp_path.iterdir()] == ["job.orvek.json"]


@pytest.mark.parametrize(("number", "words"), [(errno.ENOSPC, "the disk is full"), (errno.EIO, "reports an error")])
def test_a_failure_leaves_the_old_file_and_no_pieces(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, number: int, words: str
) -> None:
    path = tmp_path / "job.orvek.json"
    write_atomically(path, b"old")

    def fail(_handle: int) -> None:
        raise OSError(number, os.strerror(number))

    monkeypatch.setattr(os, "fsync", fail)
    with pytest.raises(CannotWriteError, match=words):
        write_atomically(path, b"new")
    assert path.read_bytes() == b"old"
    assert [entry.name for entry in tmp_path.iterdir()] == ["job.orvek.json"]


def test_a_real_limit_of_the_system_leaves_the_old_file(tmp_path: Path) -> None:
    path = tmp_path / "job.orvek.json"
    path.write_bytes(b"old")
    program = (
        "import sys; from pathlib import Path; from orvek.files import write_atomically\n"
        "try: write_atomically(Path(sys.argv[1]), b'x' * 100000)\n"
        "except Exception as error: print(type(error).__name__, error)"
    )

    def limit() -> None:
        import signal

        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        resource.setrlimit(resource.RLIMIT_FSIZE, (1000, 1000))

    told = subprocess.run(
        [sys.executable, "-c", program, str(path)], capture_output=True, text=True, preexec_fn=limit, check=False
    )
    assert told.stdout.startswith("CannotWriteError")
    assert path.read_bytes() == b"old"
    assert [entry.name for entry in tmp_path.iterdir()] == ["job.orvek.json"]


@pytest.mark.parametrize("place", ["/proc/self/card.pdf", "/nowhere/at/all/card.pdf"])
def test_a_place_that_refuses_is_named(place: str) -> None:
    with pytest.raises(CannotWriteError, match="could not be written"):
        write_atomically(Path(place), b"x")


def test_what_cannot_be_read_is_named(tmp_path: Path) -> None:
    (tmp_path / "binary").write_bytes(b"\xff\xfe\x00\x9f")
    for name, words in [("binary", "not text"), (".", "folder"), ("gone", "no such place")]:
        with pytest.raises(CannotReadError, match=words):
            read_text(tmp_path / name)
