"""A gettext catalogue, as msgfmt writes it."""

from __future__ import annotations

import struct
from collections.abc import Mapping


def catalogue(texts: Mapping[str, str]) -> bytes:
    """The bytes of a `.mo` file: sorted texts, and what stands for each (GNU gettext, "The Format of MO Files")."""
    pairs = sorted({"": "Content-Type: text/plain; charset=UTF-8\n", **texts}.items())
    words = [text.encode() for pair in zip(*pairs, strict=True) for text in pair]
    at, tables = 28 + 8 * len(words), b""
    for word in words:
        tables += struct.pack("<II", len(word), at)
        at += len(word) + 1
    head = struct.pack("<7I", 0x950412DE, 0, len(pairs), 28, 28 + 8 * len(pairs), 0, 0)
    return head + tables + b"".join(word + b"\0" for word in words)
