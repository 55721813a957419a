"""The texts as a gettext template: `template_text()`. A translator fills it in, msgfmt makes a catalogue of it."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence

from orvek import __version__


def template_text(texts: Mapping[str, Sequence[str]]) -> str:
    """The template of `all_texts()`: each text once, under the files where it stands."""
    lines = (
        f"Project-Id-Version: Orvek {__version__}",
        "MIME-Version: 1.0",
        "Content-Type: text/plain; charset=UTF-8",
        "Content-Transfer-Encoding: 8bit",
    )
    head = "\n".join(['msgid ""', 'msgstr ""', *(f'"{line}\\n"' for line in lines), ""])
    return "\n".join([head, *_entries(texts)])


def _entries(texts: Mapping[str, Sequence[str]]) -> Iterator[str]:
    for text, where in texts.items():
        places = "\n".join(f"#: {place}" for place in dict.fromkeys(where))
        flag = "#, python-brace-format\n" if "{" in text else ""  # msgfmt --check then compares the places
        yield f'{places}\n{flag}msgid {json.dumps(text, ensure_ascii=False)}\nmsgstr ""\n'
