"""`python -m orvek` and the command `orvek`."""

import sys

from orvek.log import keep_log


def main() -> int:
    """Run the program."""
    keep_log()
    from orvek.commands import main as run

    return run()


if __name__ == "__main__":
    sys.exit(main())
