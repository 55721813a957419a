"""A maker's picture, kept byte for byte as it was chosen; and how it stands in a file.

In a job file the bytes are base64. The workshop keeps each content once, under its SHA-256, and its histories only
name it: it hands a `Contents` to whoever reads or writes a job.
"""

import base64
import binascii
import hashlib
import io
from functools import cached_property
from typing import Annotated, Any

from pydantic import BeforeValidator, Field, PlainSerializer, SerializationInfo, ValidationInfo, model_validator
from pydantic_core import PydanticCustomError

from orvek.documents.base import Document, Name

MOST_ARTWORK_BYTES = 24 * 1024 * 1024
BY_DIGEST = "sha256:"


class Contents:
    """What the workshop keeps apart from a job: bytes by their digest. Filled while a job is written."""

    def __init__(self, kept: dict[str, bytes] | None = None) -> None:
        self.kept: dict[str, bytes] = kept or {}

    def put(self, content: bytes) -> str:
        """Take bytes in; returns the name they have from now on."""
        digest = hashlib.sha256(content).hexdigest()
        self.kept[digest] = content
        return BY_DIGEST + digest

    def get(self, name: str) -> bytes:
        """The bytes of a name; none where they are gone, so that the job can be opened all the same."""
        return self.kept.get(name.removeprefix(BY_DIGEST), b"")


def _from_text(value: Any, info: ValidationInfo) -> Any:
    if not isinstance(value, str):
        return value
    if value.startswith(BY_DIGEST):
        contents = (info.context or {}).get("contents")
        return contents.get(value) if isinstance(contents, Contents) else b""
    try:
        return base64.b64decode(value, validate=True)
    except (binascii.Error, ValueError) as error:
        raise PydanticCustomError("orvek", "is no picture as Orvek writes one") from error


def _to_text(value: bytes, info: SerializationInfo) -> str:
    contents = (info.context or {}).get("contents")
    return contents.put(value) if isinstance(contents, Contents) else base64.b64encode(value).decode()


FileBytes = Annotated[
    bytes,
    Field(max_length=MOST_ARTWORK_BYTES),
    BeforeValidator(_from_text, json_schema_input_type=str),
    PlainSerializer(_to_text, return_type=str, when_used="json"),
]


class Artwork(Document):
    """A picture file as it was chosen, under the name it had. Its width runs along the bar."""

    name: Name = Field(default="Picture", title="Picture")
    content: FileBytes = Field(json_schema_extra={"editor": "none"})

    @cached_property
    def digest(self) -> str:
        """What tells its content from any other."""
        return hashlib.sha256(self.content).hexdigest()

    @model_validator(mode="before")
    @classmethod
    def _from_dots(cls, value: Any) -> Any:
        """A picture as it was kept before: colours, and rows of hexadecimal digits that name them."""
        if not isinstance(value, dict) or "rows" not in value:
            return value
        return {"name": value.get("name") or "Picture", "content": _png(value.get("colours"), value["rows"])}


def _png(colours: Any, rows: Any) -> bytes:
    from PIL import Image

    try:
        inks = [bytes.fromhex(str(colour).removeprefix("#")) for colour in colours]
        dots = b"".join(inks[int(digit, 16)] for row in rows for digit in row)
        image = Image.frombytes("RGB", (len(rows[0]), len(rows)), dots)
    except (TypeError, ValueError, IndexError) as error:
        raise PydanticCustomError("orvek", "is no picture as Orvek wrote one") from error
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()
