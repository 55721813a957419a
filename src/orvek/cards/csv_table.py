"""Tables as CSV that a spreadsheet opens without running anything."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

from orvek.quantities import decimal_mark

_STARTS_A_FORMULA = ("=", "+", "-", "@", "\t", "\r", "'")  # and the apostrophe itself, so that it is read back


def csv_table(rows: Iterable[Sequence[object]]) -> bytes:
    """Rows as CSV, UTF-8. A text that a spreadsheet would take for a formula gets an apostrophe before it.

    >>> csv_table([["=1+1", -2.5]])
    b"'=1+1,-2.5\\r\\n"
    """
    out = io.StringIO()
    # Where the decimal mark is a comma a spreadsheet parts its columns at semicolons.
    writer = csv.writer(out, delimiter=";" if decimal_mark() == "," else ",")
    for row in rows:
        writer.writerow([_harmless(cell) for cell in row])
    return out.getvalue().encode()


def _harmless(cell: object) -> object:
    if decimal_mark() == "," and (isinstance(cell, float) or (isinstance(cell, str) and _is_number(cell))):
        return str(cell).replace(".", ",")
    if isinstance(cell, str) and cell.startswith(_STARTS_A_FORMULA) and not _is_number(cell):
        return "'" + cell
    return cell


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True
