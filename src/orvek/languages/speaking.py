"""The maker's language: `speak()` starts the program in it, where there is a catalogue for it.

A catalogue is `languages/de.mo` in Orvek's folder of the XDG data folder, made from the texts that `orvek texts`
prints; the folder `languages/de/` beside it may hold pages of help that were translated.
"""

from __future__ import annotations

import gettext
import hashlib
import importlib.util
import logging
import os
import shutil
import sys
import time
from collections.abc import Iterator
from pathlib import Path

from orvek import __version__
from orvek.languages.spoken import SPOKEN, spoken

_LOG = logging.getLogger(__name__)
_KEPT_S = 30 * 24 * 3600.0


def wanted() -> Iterator[str]:
    """The maker's languages by the environment, the first one first, up to English: "de_AT", then "de"."""
    told = os.environ.get("LANGUAGE") or next(filter(None, map(os.environ.get, ("LC_ALL", "LC_MESSAGES", "LANG"))), "")
    for language in told.split(":"):
        code = language.partition(".")[0].partition("@")[0]
        if code.partition("_")[0] in ("en", "C", "POSIX", ""):
            return
        yield code
        if "_" in code:
            yield code.partition("_")[0]


def speak() -> None:
    """Start this process again in the maker's language, if there is a catalogue; where that fails, go on in English."""
    if spoken():
        return
    for language in wanted():
        import platformdirs

        catalogue = platformdirs.user_data_path("orvek", appauthor=False) / "languages" / f"{language}.mo"
        if catalogue.is_file():
            cache = platformdirs.user_cache_path("orvek", appauthor=False) / "languages"
            try:
                made = _made(cache, catalogue)
            except Exception:
                _LOG.exception("the texts of %s could not be used", catalogue)
                return
            path = os.pathsep.join(filter(None, (str(made), os.environ.get("PYTHONPATH"))))
            environment = {**os.environ, "PYTHONPATH": path, SPOKEN: language}
            environment.pop("PYTHONPYCACHEPREFIX", None)  # the code with the texts lies beside its sources
            os.execve(sys.executable, [sys.executable, *sys.orig_argv[1:]], environment)


def _made(cache: Path, catalogue: Path) -> Path:
    """The folder with the program in a catalogue's language; made now where it was not."""
    from orvek.languages.making import make

    content = catalogue.read_bytes()
    sources = "".join(f"{path}{path.stat().st_mtime_ns}" for path in sorted(Path(__file__).parents[1].rglob("*.py")))
    by = f"{__version__}{sources}{catalogue}".encode() + content + importlib.util.MAGIC_NUMBER
    folder = cache / f"{catalogue.stem}-{hashlib.sha256(by).hexdigest()[:16]}"
    if not folder.exists():
        with catalogue.open("rb") as file:
            texts = gettext.GNUTranslations(file)
        make(folder, texts.gettext, catalogue.with_suffix(""))
        _clear_old(cache, catalogue.stem)
    return folder


def _clear_old(cache: Path, language: str) -> None:
    """Delete what was made of earlier catalogues; what is newer may be what another window is started from."""
    for folder in cache.glob(f"{language}-*"):
        if folder.stat().st_mtime < time.time() - _KEPT_S:
            shutil.rmtree(folder, ignore_errors=True)
