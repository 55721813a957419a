"""What those who write for Orvek ask for: `orvek schema`."""

from __future__ import annotations

import argparse

from orvek.documents import schema_text


def schema(_options: argparse.Namespace) -> int:
    """Print the schema of job files."""
    print(schema_text(), end="")
    return 0
