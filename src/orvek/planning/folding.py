"""One subject, one finding: what is said of several steps alike is said once, with all its remedies in one button."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from orvek.planning.findings import Finding, Remedy


def folded(findings: Iterable[Finding]) -> list[Finding]:
    """Findings with those of one judgement that differ only in their place made one, where the first of them stood.

    Only findings that say how several are told (`many`, with {} for the places) are folded. The first keeps its
    reasons: the others differ in their numbers only.
    """
    groups: dict[object, list[Finding]] = {}
    for n, finding in enumerate(findings):
        key = (finding.key, finding.severity, finding.many) if finding.many else n
        groups.setdefault(key, []).append(finding)
    return [_as_one(group) for group in groups.values()]


def listed(places: Iterable[str]) -> str:
    """Places in a sentence, each once: "2", "2 and 4", "2, 3 and 4"; nothing of none."""
    each = list(dict.fromkeys(places))
    return "".join(each) if len(each) < 2 else f"{', '.join(each[:-1])} and {each[-1]}"


def _as_one(group: list[Finding]) -> Finding:
    first = group[0]
    if len(group) == 1:
        return first
    return replace(
        first,
        title=first.many.format(listed(finding.place for finding in group)),
        because=first.because if first.because.startswith("Step ") else f"{first.lead}{first.because}",
        remedies=_in_one(group),
    )


def _in_one(group: list[Finding]) -> tuple[Remedy, ...]:
    """The n-th remedy of all of them in one button; those of the first where the edits would meet at one place."""
    found = []
    for each in zip(*(finding.remedies for finding in group), strict=False):
        edits = tuple(edit for remedy in each for edit in remedy.edits)
        labels = {remedy.label for remedy in each}
        if len({edit.path for edit in edits}) == len(edits):
            label = each[0].label if len(labels) == 1 else f"{each[0].label}; the others likewise"
            found.append(Remedy(label, edits))
    return tuple(found) or group[0].remedies
