"""Orvek: from a pen and a mould to a blank, its pour card and its costs."""

import os

# None of the packages installed here extends pydantic, and to look into each of them costs a tenth of every start.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

__version__ = "0.1.0"
