"""Sentences stay short, however long the names in them are."""

from __future__ import annotations

from msgspec.structs import replace
from pydantic import BaseModel

from orvek.documents import Job, Shop
from orvek.planning.findings import Finding

_LONGEST_NAME, _LONGEST_TITLE, _LONGEST_BECAUSE, _LONGEST_LABEL = 36, 140, 420, 120


def shortened(findings: list[Finding], job: Job, shop: Shop) -> list[Finding]:
    """Findings with long names cut short where a sentence would be longer than can be read at a glance."""
    if all(_is_short(finding) for finding in findings):
        return findings
    names = _names_in(job, shop)
    return [finding if _is_short(finding) else _shortened(finding, names) for finding in findings]


def _names_in(job: Job, shop: Shop) -> tuple[str, ...]:
    found: set[str] = set()
    for document in (job, shop):
        _collect(document, found)
    return tuple(sorted(found, key=len, reverse=True))


def _shortened(finding: Finding, names: tuple[str, ...]) -> Finding:
    remedies = tuple(replace(remedy, label=_short(remedy.label, names, _LONGEST_LABEL)) for remedy in finding.remedies)
    return replace(
        finding,
        title=_short(finding.title, names, _LONGEST_TITLE),
        because=_short(finding.because, names, _LONGEST_BECAUSE),
        remedies=remedies,
    )


def _is_short(finding: Finding) -> bool:
    return (
        len(finding.title) <= _LONGEST_TITLE
        and len(finding.because) <= _LONGEST_BECAUSE
        and all(len(remedy.label) <= _LONGEST_LABEL for remedy in finding.remedies)
    )


def _short(text: str, names: tuple[str, ...], most: int) -> str:
    for name in names:
        if name in text:
            text = text.replace(name, name[: _LONGEST_NAME - 1].rstrip() + "…")
        if name.lower() in text:
            text = text.replace(name.lower(), name.lower()[: _LONGEST_NAME - 1].rstrip() + "…")
    return text if len(text) <= most else text[: most - 1].rsplit(" ", 1)[0] + "…"


def _collect(value: object, found: set[str]) -> None:
    if isinstance(value, BaseModel):
        for field in type(value).model_fields:
            _collect(getattr(value, field), found)
    elif isinstance(value, tuple):
        for item in value:
            _collect(item, found)
    elif isinstance(value, str) and len(value) > _LONGEST_NAME:
        found.add(value)
