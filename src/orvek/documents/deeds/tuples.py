"""Small changes of tuples that deeds share."""

from typing import Any


def replaced(items: tuple[Any, ...], index: int, item: Any) -> tuple[Any, ...]:
    return (*items[:index], item, *items[index + 1 :])


def without(items: tuple[Any, ...], index: int) -> tuple[Any, ...]:
    return (*items[:index], *items[index + 1 :])


def fresh_name(name: str, taken: list[str]) -> str:
    if name not in taken:
        return name
    number = next(n for n in range(2, 1000) if f"{name[:75]} {n}" not in taken)
    return f"{name[:75]} {number}"
