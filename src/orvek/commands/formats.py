"""What those who write for Orvek ask for: `orvek schema` and `orvek texts`."""

from __future__ import annotations

import argparse

from orvek.documents import schema_text


def schema(_options: argparse.Namespace) -> int:
    """Print the schema of job files."""
    print(schema_text(), end="")
    return 0


def texts(_options: argparse.Namespace) -> int:
    """Print every text of the program."""
    from orvek.languages.making import all_texts
    from orvek.languages.template import template_text

    print(template_text(all_texts()), end="")
    return 0
