"""The texts as a gettext template: `template_text()`. A translator fills it in, msgfmt makes a catalogue of it."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence

from orvek import __version__


def template_text(texts: Mapping[str, Sequence[str]]) -> str:
    """The template of `all_texts()`: each text once, under the files where it stands."""
    lines = (f"Project-Id-Version: Orvek {__version__}", "Content-Type: text/plain; charset=UTF-8")
    head = "\n".join(['msgid ""', 'msgstr ""', *(f'"{line}\\n"' for line in lines), ""])
    return "\n".join([head, *_entries(texts)])


def _entries(texts: Mapping[str, Sequence[str]]) -> Iterator[str]:
    for text, where in texts.items():
        places = "\n".join(f"#: {place}" for place in dict.fromkeys(where))
        yield f'{places}\nmsgid {json.dumps(text, ensure_ascii=False)}\nmsgstr ""\n'
