"""Calipers and thermometers that are plugged in, or that write a log."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, StringConstraints, field_validator

from orvek.documents.base import Document, Name, Words, one_line

FilePlace = Annotated[str, StringConstraints(max_length=400), BeforeValidator(one_line)]


class MeterPlace(Document):
    """Where calipers or a thermometer are read: a port, or a log file that grows."""

    name: Name = Field(default="Calipers", title="Name")
    kind: Literal["caliper", "thermometer"] = Field(default="caliper", title="It is a")
    plugged_in_at: FilePlace = Field(default="", title="Plugged in at", description="A port, or a log file that grows")
    baud: Literal["1200", "2400", "4800", "9600", "19200", "38400", "57600", "115200"] = Field(
        default="9600", title="Speed of its line"
    )
    line: Words = Field(
        default="",
        title="Its lines look like",
        description="Empty: the usual ones. Otherwise one of its lines, with {value} where the number stands",
    )

    @field_validator("baud", mode="before")
    @classmethod
    def _as_it_is_written(cls, baud: object) -> object:
        return str(int(baud)) if isinstance(baud, int | float) else baud  # a table has numbers

    @field_validator("line")
    @classmethod
    def _says_where_the_value_stands(cls, line: str) -> str:
        if line and line.count("{value}") != 1:
            raise ValueError("a line says once where its {value} stands")
        return line
