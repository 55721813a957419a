"""`python -m orvek` and the command `orvek`."""

import sys

from orvek.languages.speaking import speak
from orvek.log import keep_log


def main() -> int:
    """Run the program, in the maker's language where there is a catalogue for it."""
    keep_log()
    speak()
    from orvek.commands import main as run

    return run()


if __name__ == "__main__":
    sys.exit(main())
