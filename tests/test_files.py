"""Files are written whole or not at all."""

from __future__ import annotations

import errno
import os
import resource
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.errors import CannotReadError, CannotWriteError
from orvek.files import read_text, safe_name, write_atomically


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


def test_new_files_follow_the_umask_and_old_ones_keep_their_rights(tmp_path: Path) -> None:
    before = os.umask(0o027)
    try:
        write_atomically(tmp_path / "new.pdf", b"x")
    finally:
        os.umask(before)
    assert (tmp_path / "new.pdf").stat().st_mode & 0o777 == 0o640
    (tmp_path / "new.pdf").chmod(0o604)
    write_atomically(tmp_path / "new.pdf", b"y")
    assert (tmp_path / "new.pdf").stat().st_mode & 0o777 == 0o604


def test_what_is_no_ordinary_file_is_neither_read_nor_replaced(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    with pytest.raises(CannotReadError, match="no ordinary file"):
        read_text(pipe)
    with pytest.raises(CannotReadError, match="no ordinary file"):
        read_text(Path("/dev/zero"))
    with pytest.raises(CannotWriteError, match="nobody reads"):
        write_atomically(pipe, b"x")
    assert pipe.is_fifo()
    with pytest.raises(CannotWriteError, match="disk is full"):
        write_atomically(Path("/dev/full"), b"x" * 100_000)


def test_what_an_earlier_kill_left_is_swept_away(tmp_path: Path) -> None:
    target = tmp_path / "card.pdf"
    old, new, others = (tmp_path / name for name in (".card.pdf.a1.part", ".card.pdf.b2.part", ".other.pdf.c.part"))
    for part in (old, new, others):
        part.write_bytes(b"half")
    for part in (old, others):
        os.utime(part, (1, 1))
    write_atomically(target, b"whole")
    assert {path.name for path in tmp_path.iterdir()} == {"card.pdf", new.name, others.name}


@given(st.text(max_size=400))
def test_any_name_makes_a_safe_file_name(name: str) -> None:
    made = safe_name(name)
    assert made
    assert "/" not in made
    assert not made.startswith(".")
    assert made.isprintable()
    assert len(made.encode("utf-8", "surrogatepass")) <= 120


@pytest.mark.parametrize("name", ["../../etc/passwd", "..", "/", "a/b", "x" * 300, "\x00", " ", "Tide\nline", "<b>"])
def test_hostile_names_stay_in_their_folder(tmp_path: Path, name: str) -> None:
    path = tmp_path / f"{safe_name(name)} pour card.pdf"
    assert path.resolve().parent == tmp_path.resolve()
    write_atomically(path, b"x")
