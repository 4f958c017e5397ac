"""Files of words beside this module: lines of patterns and names, empty ones and those that begin with # left out."""

from __future__ import annotations

from functools import cache
from pathlib import Path


@cache
def lines_of(name: str) -> tuple[str, ...]:
    """What a file says, a line each."""
    text = (Path(__file__).parent / name).read_text("utf-8")
    return tuple(line for line in text.splitlines() if line and not line.startswith("#"))


@cache
def things() -> frozenset[str]:
    """The names of things, round or not."""
    return frozenset(f"{names_of('round')}|{names_of('thing')}".split("|"))


def names_of(key: str) -> str:
    """The names that stand under a key in ``things.txt``, as alternatives of a pattern."""
    rows = (line.split() for line in lines_of("things.txt"))
    return "|".join(name for own, *names in rows if own == key for name in names)
