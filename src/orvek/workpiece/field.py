"""The blank as a field: any points in, their materials and tones out, by the kernel or by its stand-in."""

from __future__ import annotations

import hashlib
import json
import logging
import os
import platform
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Callable
from importlib import resources
from importlib.metadata import version
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from orvek.documents import SolidStep
from orvek.files import is_private
from orvek.workpiece.compiling import compiled
from orvek.workpiece.program import Program, Sample
from orvek.workpiece.reference import evaluate_reference

_COMPILE = """import pathlib, sys
from orvek.workpiece.field import compile_kernel
compile_kernel(pathlib.Path(sys.argv[1]))"""
_SOURCES = ("kernel.py", "program.py", "columns.py", "waves.py", "grain.py")  # whose numbers become machine code
_FAMILIES = "kinds", "kinds/machine"  # and the folders of which all do
_READY = "ready"
_LOG = logging.getLogger(__name__)
Evaluator = Callable[[Program, NDArray[np.float32]], Sample]


def kernel_cache() -> Path:
    """Where the maker's machine keeps the kernel's machine code."""
    import platformdirs

    return platformdirs.user_cache_path("orvek", appauthor=False) / "kernel"


def load_kernel(cache: Path) -> Evaluator:
    """Load the compiled kernel, its machine code kept in `cache`. Takes seconds: do it in the background.

    What is loaded is run. So it is loaded only from a folder into which nobody but the maker can write, and only as it
    was left there: files are known by their checksums, and what is damaged, foreign or new is thrown away.

    Where there is no machine code yet, it is compiled in a process of its own: the compiler would hold the
    interpreter, and with it the window, for many seconds.

    Returns:
        What evaluates programs from now on; where no compiler can run, the NumPy reference.
    """
    if not is_private(cache):
        _LOG.warning("others can write into %s: the kernel is compiled for this time alone", cache)
        cache = Path(tempfile.mkdtemp(prefix="orvek-kernel-"))
    folder = _folder(cache)
    os.environ.setdefault("NUMBA_CACHE_DIR", str(folder))
    try:
        if not _is_as_it_was_left(folder):
            shutil.rmtree(folder, ignore_errors=True)
            _compile_apart(cache)
        return _warm_kernel()
    except Exception:
        _LOG.warning("the kernel's cache could not be used; it is made anew", exc_info=True)
    try:
        # Machine code that a full disk or another processor left half right is worth nothing: compile again.
        shutil.rmtree(folder, ignore_errors=True)
        return _warm_kernel()
    except Exception:
        # The cache cannot be written or the compiler does not run here: slower, but right.
        _LOG.exception("the kernel does not run here; pictures are computed without it")
        return evaluate_reference


def is_compiled(cache: Path) -> bool:
    """Whether machine code of this very kernel, for this processor and compiler, lies in the cache."""
    return (_folder(cache) / _READY).exists()


def compile_kernel(cache: Path) -> None:
    """Compile the kernel and leave its machine code in the cache; for a process of its own."""
    folder = _folder(cache)
    os.environ["NUMBA_CACHE_DIR"] = str(folder)
    _warm_kernel()
    (folder / _READY).write_text(json.dumps(_checksums(folder)), encoding="utf-8")


def _is_as_it_was_left(folder: Path) -> bool:
    """Whether all machine code is there as it was compiled, and nothing beside it."""
    try:
        left = json.loads((folder / _READY).read_text(encoding="utf-8"))
        return bool(left) and left == _checksums(folder)
    except (OSError, ValueError):
        return False


def _checksums(folder: Path) -> dict[str, str]:
    files = (one for one in folder.rglob("*") if not one.is_dir() and one.name != _READY)
    return {str(one.relative_to(folder)): hashlib.sha256(one.read_bytes()).hexdigest() for one in files}


def _compile_apart(cache: Path) -> None:
    _folder(cache).mkdir(mode=0o700, parents=True, exist_ok=True)
    command = [sys.executable, "-c", _COMPILE, str(cache)]
    subprocess.run(command, check=False, capture_output=True, stdin=subprocess.DEVNULL)


def _folder(cache: Path) -> Path:
    """Where machine code lies: another name with whatever would make old code useless, and the numbers in it.

    The place of the sources is one such thing: numba looks for code by their path.
    """
    here = resources.files("orvek.workpiece")
    files = [here.joinpath(name) for name in _SOURCES]
    for folder in _FAMILIES:
        files += sorted((one for one in here.joinpath(folder).iterdir() if one.name.endswith(".py")), key=str)
    source = b"".join(one.read_bytes() for one in files)
    made_by = f"{version('numba')} {version('numpy')} {sys.version_info[:2]} {platform.machine()} {_processor()} {here}"
    return cache / hashlib.sha256(source + made_by.encode()).hexdigest()[:16]


def _processor() -> str:
    """The processor's name, as Linux tells it; machine code for another is worth nothing."""
    try:
        lines = Path("/proc/cpuinfo").read_text(encoding="utf-8", errors="replace").splitlines()
    except OSError:
        return ""
    return next((line for line in lines if line.startswith(("model name", "CPU part"))), "")


def _warm_kernel() -> Evaluator:
    """The compiled kernel, after it has computed a few points and they were right."""
    from orvek.workpiece.kernel import evaluate_kernel

    warm = compiled((SolidStep(),), 20, 20, 130)
    points = np.zeros((3, 8), np.float32)
    found = evaluate_kernel(warm, points)
    if not np.array_equal(found.material, evaluate_reference(warm, points).material):
        raise ArithmeticError("the kernel computes something else than the reference")
    return evaluate_kernel
