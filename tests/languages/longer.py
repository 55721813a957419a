"""A language that is English with longer words, as others have them; and a window in it, walked through.

Run as a program it opens every page of the demo workshop and prints, as JSON, which words overlap or are cut off and
which are English still.
"""

from __future__ import annotations

import json
import os
import re
import sys
from pathlib import Path
from typing import Any

from orvek.languages.speaking import speak

_KEPT = re.compile(r"(\{[^{}]*\}|\(\*[^)]*\)|<[^>]*>|&\w|%\w|\w+://\S+|--\w+|\\n)")
_AMOUNT = re.compile(r"\d[\d.,]* (bar|rpm|min|psi)\b")
_WORD = re.compile(r"[A-Za-zäöü'’]{2,}")
_MORE = "ëïöüåæ"


def longer(text: str) -> str:
    """Every word a third longer, with letters that other languages have; places, marks and endings as they are."""
    parts = _KEPT.split(text)
    return "".join(part if _KEPT.fullmatch(part) else _WORD.sub(_longer_word, part) for part in parts)


def _longer_word(word: re.Match[str]) -> str:
    return word[0] + _MORE[: max(1, round(len(word[0]) / 3))]


def is_longer(text: str) -> bool:
    """Whether words on the screen came from that language, or have no words in them."""
    plain = re.sub(_AMOUNT, "", re.sub(r"<[^>]*>", "", text))
    return not re.search(r"[A-Za-z]{3,}", plain) or any(letter in plain for letter in _MORE)


def walk(workshop: Path) -> dict[str, Any]:
    """What all pages have at 1280 x 800 that overlaps, is cut off or English; and how many labels they have."""
    from PySide6.QtWidgets import QApplication

    from orvek.shop import fill_with_demo, open_workshop
    from orvek.window.answers import Answers
    from orvek.window.application import make_application
    from orvek.window.frame import Frame
    from orvek.window.help_window import sections
    from orvek.window.main_window import MainWindow
    from orvek.window.session import Session
    from orvek.workpiece import field
    from orvek.workpiece.reference import evaluate_reference
    from tests.window import test_every_page as every_page
    from tests.window.rough import rough_answer

    Answers._answer = rough_answer  # type: ignore[method-assign]
    field.load_kernel = lambda _cache: evaluate_reference  # it takes long to compile, and has no words

    make_application()
    opened = open_workshop(workshop)
    fill_with_demo(opened)
    session = Session(opened)
    frame = Frame()
    window = MainWindow(session, frame)
    frame.resize(1280, 770)
    frame.show()
    window.load_slow_parts()
    found: dict[str, Any] = {"overlapping": [], "cut off": [], "sideways": [], "english": []}
    seen = 0
    for page in every_page.PAGES:
        window.open_named(page)
        for _ in range(4):
            QApplication.processEvents()
        over = window._areas[window.station].horizontalScrollBar().maximum()
        found["sideways"] += [f"{page}: {over}"] if over else []
        for part in every_page._parts(window):
            every_page._settle(part)
            found["overlapping"] += [f"{page}: {pair}" for pair in every_page._overlapping(part)]
            found["cut off"] += [f"{page}: {words}" for words in every_page._cut_off(part)]
            there = [
                getattr(one, "_full", "") or one.text() for one in every_page._words_in(part)
            ]  # not as it is shortened
            seen += len(there)
            found["english"] += [re.sub(_AMOUNT, "", words) for words in there if not is_longer(words)]
    found["english"] = sorted(set(found["english"]))
    found["seen"] = seen
    found["help"] = [section.title for section in sections()][:1]
    return found


if __name__ == "__main__":
    speak()
    print(json.dumps(walk(Path(sys.argv[1]))), flush=True)
    os._exit(0)  # whatever is still worked out in the background is not waited for
