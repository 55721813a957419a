"""What every document shares: frozen pydantic models, declared measures, numbers that know their standing.

Modules with documents do without `from __future__ import annotations`: it would keep the annotations as text, and
reading 850 of them back took a twentieth of the time in which the program starts.

A field is declared once, with title, unit, bounds and default; its editor, its error sentence and its place in
the JSON Schema are made from that declaration (`measure`, `known`, `declared`).
"""

import re
import unicodedata
from typing import Annotated, Any, Literal, Self, TypeVar

from msgspec import Struct
from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints, ValidationError
from pydantic.fields import FieldInfo
from pydantic_core import PydanticCustomError, PydanticUndefined

from orvek.errors import BadFieldError
from orvek.quantities import Dimension, Units, decimal, write

Standing = Literal["standard", "textbook", "label", "measured", "practice", "guess"]
STANDING_WORDS: dict[Standing, str] = {
    "standard": "from a standard",
    "textbook": "textbook value",
    "label": "from the label",
    "measured": "measured by you",
    "practice": "common workshop practice",
    "guess": "a guess, change it",
}


def one_line(text: object) -> object:
    """A name as it may stand anywhere: one line, without characters that steer a printer, a terminal or a browser.

    Control, format-override and line-breaking characters become spaces; what is no text is left to the validator.
    """
    if not isinstance(text, str) or text.isprintable():
        return text
    return " ".join("".join(" " if _steers(letter) else letter for letter in text[:10_000]).split())


def _steers(letter: str) -> bool:
    kind = unicodedata.category(letter)
    return kind in {"Cc", "Zl", "Zp"} or letter in _OVERRIDES


_OVERRIDES = frozenset("\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069\ufeff\ufffe\uffff")


def _several_lines(text: object) -> object:
    """Notes keep their lines, and nothing else that steers."""
    return "\n".join(str(one_line(line)) for line in text.split("\n")) if isinstance(text, str) else text


Words = Annotated[str, StringConstraints(max_length=80), BeforeValidator(one_line)]
Name = Annotated[str, StringConstraints(min_length=1, max_length=80), BeforeValidator(one_line)]
Notes = Annotated[str, StringConstraints(max_length=4000), BeforeValidator(_several_lines)]
Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]


M = TypeVar("M", bound=BaseModel)


class Document(BaseModel):
    """Base of all documents: immutable, unknown fields refused, no infinities."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, str_strip_whitespace=True)

    def is_usual(self, field: str) -> bool:
        """Whether a field holds what a new document has there."""
        return bool(getattr(self, field) == type(self).model_fields[field].get_default(call_default_factory=True))

    def with_(self, **changes: Any) -> Self:
        """A copy with some fields replaced, validated like a new one.

        Raises:
            BadFieldError: a value is not allowed; this document stays as it is.
        """
        return checked(type(self), {**dict(self), **changes})


class Known(Document):
    """A number with where it comes from: a label, a measurement, a book, a habit or a guess."""

    value: float
    standing: Standing = "guess"
    source: Words = ""


_EMPTY = re.compile(r"(?:^|; )[Ee]mpty: ([^;,]+)")


class Measure(Struct, frozen=True):
    """The declaration of one numeric field, as an editor needs it."""

    title: str
    dimension: Dimension
    low: float
    high: float
    hint: str

    @property
    def when_empty(self) -> str:
        """What counts where the field is left empty, as its hint says; empty where it says nothing of it."""
        return next(iter(_EMPTY.findall(self.hint)), "")

    def limit(self, units: Units | None = None) -> str:
        """The allowed range in words, e.g. "from 1.0 mm to 60.0 mm"."""
        return f"from {write(self.low, self.dimension, units)} to {write(self.high, self.dimension, units)}"


def measure(
    title: str,
    dimension: Dimension,
    *,
    low: float,
    high: float,
    default: float | Any | None = ...,
    hint: str = "",
) -> Any:
    """Declare a numeric field in the program's unit of `dimension`, with both ends allowed."""
    return Field(
        default=PydanticUndefined if default is ... else default,
        ge=low,
        le=high,
        title=title,
        description=hint or None,
        json_schema_extra={"dimension": dimension.value},
    )


def within(low: float, high: float) -> AfterValidator:
    """A validator for `Known` values, the counterpart of the bounds in `measure`."""

    def check(known: Known | None) -> Known | None:
        if known is not None and not low <= known.value <= high:
            raise PydanticCustomError("within", "must be from {low} to {high}", {"low": low, "high": high})
        return known

    return AfterValidator(check)


def known(title: str, dimension: Dimension, *, low: float, high: float, hint: str = "", default: Any = ...) -> Any:
    """Declare a `Known` field; its type must be `Annotated[Known, within(low, high)]`."""
    return Field(
        default=PydanticUndefined if default is ... else default,
        title=title,
        description=hint or None,
        json_schema_extra={"dimension": dimension.value, "low": low, "high": high},
    )


def declared(model: type[BaseModel], field: str) -> Measure:
    """The declaration of a numeric field of `model`.

    Raises:
        KeyError: the field does not exist or is not a measure.
    """
    info = model.model_fields[field]
    extra = info.json_schema_extra
    if not isinstance(extra, dict) or "dimension" not in extra:
        raise KeyError(field)
    low, high = _bounds(info, extra)
    return Measure(title_of(info, field), Dimension(str(extra["dimension"])), low, high, info.description or "")


def clamped(model: type[BaseModel], field: str, value: float) -> float:
    """A value for a numeric field of `model`, brought within its bounds: for sheets that begin from a measurement."""
    bounds = declared(model, field)
    return min(bounds.high, max(bounds.low, value))


def title_of(info: FieldInfo, field: str) -> str:
    """The maker's word for a field."""
    return info.title or field.replace("_", " ").capitalize()


def _bounds(info: FieldInfo, extra: dict[str, Any]) -> tuple[float, float]:
    if "low" in extra:
        return float(extra["low"]), float(extra["high"])
    low = next((m.ge for m in info.metadata if getattr(m, "ge", None) is not None), 0.0)
    high = next((m.le for m in info.metadata if getattr(m, "le", None) is not None), 1e9)
    return float(low), float(high)


def checked(model: type[M], content: Any, context: dict[str, Any] | None = None) -> M:
    """Validate `content` as a `model`; every failure becomes one sentence. `context` is handed to its validators.

    Raises:
        BadFieldError: naming the first field that is wrong, in the maker's words.
    """
    try:
        return model.model_validate(content, context=context)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        raise BadFieldError(_place(model, first["loc"]), _problem(first)) from error


def _place(model: type[BaseModel], location: tuple[int | str, ...]) -> str:
    """Turn a location such as ("blank", "steps", 0, "cast", "cups", 1, "share") into words."""
    words = []
    for piece in location:
        if isinstance(piece, int):
            words.append(str(piece + 1))
        else:
            words.append(piece[:40].replace("_", " "))
    return " › ".join(words) or model.__name__


def _shown(value: object) -> str:
    """A bad value, short enough for a sentence; a text of megabytes is cut before it is looked at."""
    if isinstance(value, str):
        value = value[:80]
    if isinstance(value, int) and abs(value) > 10**30:
        return "a number beyond reason"
    shown = repr(value) if isinstance(value, str | int | float | None) else "another kind of value"
    return shown if len(shown) <= 40 else shown[:39] + "…"


def _problem(error: Any) -> str:
    shown = _shown(error["input"])
    limits = error.get("ctx", {})
    match error["type"]:
        case "missing":
            return "is missing"
        case "extra_forbidden":
            return "is not a field this Orvek knows"
        case "greater_than_equal":
            return f"{shown} is less than {decimal(limits['ge'])}, the least that makes sense"
        case "less_than_equal":
            return f"{shown} is more than {decimal(limits['le'])}, the most that makes sense"
        case "within":
            return f"must be from {decimal(limits['low'])} to {decimal(limits['high'])}"
        case "finite_number":
            return f"{shown} is not a usable number"
        case "union_tag_invalid":
            return f"{_shown(limits['tag'])} is not a kind this Orvek knows ({limits['expected_tags']})"
        case "string_too_short":
            return "must not be empty"
        case "orvek":
            return str(error["msg"])
        case _:
            return f"{shown} cannot be used here ({str(error['msg'])[:80].rstrip('.').lower()})"
