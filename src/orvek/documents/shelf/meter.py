"""Calipers and thermometers that are plugged in, or that write a log."""

from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, StringConstraints

from orvek.documents.base import Name, Words, one_line
from orvek.documents.shelf.plugged_in import Baud, PluggedIn

FilePlace = Annotated[str, StringConstraints(max_length=400), BeforeValidator(one_line)]


class MeterPlace(PluggedIn):
    """Where calipers or a thermometer are read: a port, or a log file that grows."""

    name: Name = Field(default="Calipers", title="Name")
    kind: Literal["caliper", "thermometer"] = Field(default="caliper", title="It is a")
    plugged_in_at: FilePlace = Field(default="", title="Plugged in at", description="A port, or a log file that grows")
    baud: Baud = Field(default="9600", title="Speed of its line")
    line: Words = Field(
        default="",
        title="Sample line",
        description="Empty: the usual ones. Otherwise one of its lines, with {value} where the number stands",
    )
