"""`python -m orvek` and the command `orvek`."""

import sys

from orvek.commands import main

if __name__ == "__main__":
    sys.exit(main())
