"""What all devices with a cable have: a speed, and a line of the maker's own that says where its number stands."""

from typing import ClassVar, Literal

from pydantic import field_validator

from orvek.documents.base import Document

Baud = Literal["1200", "2400", "4800", "9600", "19200", "38400", "57600", "115200"]


class PluggedIn(Document):
    """A device with the fields `baud` and `line`; `placeholder` is what stands in `line` for its number."""

    placeholder: ClassVar[str] = "value"

    @field_validator("baud", mode="before", check_fields=False)
    @classmethod
    def _as_it_is_written(cls, baud: object) -> object:
        if isinstance(baud, int | float) and 0 < baud < 1e6 and baud == int(baud):
            return str(int(baud))  # a table has numbers; what is no rate is refused where the choices are known
        return baud

    @field_validator("line", check_fields=False)
    @classmethod
    def _says_where_its_number_stands(cls, line: str) -> str:
        if line and line.count(f"{{{cls.placeholder}}}") != 1:
            raise ValueError(f"a line says once where its {{{cls.placeholder}}} stands")
        return line
