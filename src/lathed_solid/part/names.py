"""Names of faces, edges and corners: how they are written, read, and renumbered.

A face is a set of atoms ``step/entity`` joined by ``+``. An atom may hold the name of what it came from in
parentheses: a blend is ``40/(20/end|20/l1)``, a face of the second copy in a pattern ``60/2(20/l1)``. An edge is its
two
faces, ``A|B``, with the faces at its ends where several edges join the same two, ``A|B[C,D]``, and at last its place
among
those that are still alike, counted along an axis of the part, ``A|B~z1/2``.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

_STEP = re.compile(r"(?:^|(?<=[|+\[(,]))(\d+)(?=/)")
_PLACE = re.compile(r"~([xyz])(\d+)/(\d+)$")

FaceName = Annotated[str, Field(min_length=1, max_length=400)]
EdgeName = Annotated[str, Field(min_length=3, max_length=900)]


def steps_in(name: str) -> frozenset[int]:
    """Numbers of all steps that a name speaks of."""
    return frozenset(int(n) for n in _STEP.findall(name))


def renamed(name: str, renumber: Mapping[int, int]) -> str:
    """A name after steps got new numbers."""
    return _STEP.sub(lambda m: str(renumber.get(int(m[1]), int(m[1]))), name)


@dataclass(frozen=True, slots=True)
class EdgeParts:
    """``faces``: two sets of atoms; ``ends``: faces at the ends; ``axis``, ``place`` of ``many``."""

    faces: tuple[frozenset[str], frozenset[str]]
    ends: tuple[str, ...]
    axis: str
    place: int
    many: int


def read_edge(name: str) -> EdgeParts | None:
    """The parts of an edge's name; None when it is none."""
    found = _PLACE.search(name)
    axis, place, many = (found[1], int(found[2]), int(found[3])) if found else ("", 0, 0)
    rest = name[: found.start()] if found else name
    opened = _last_bracket(rest)
    ends = tuple(split(rest[opened + 1 : -1], ",")) if opened >= 0 else ()
    sides = split(rest[:opened] if opened >= 0 else rest, "|")
    if len(sides) != 2 or not all(sides):
        return None
    a, b = (frozenset(split(s, "+")) for s in sides)
    return EdgeParts((a, b), ends, axis, place, many)


def _last_bracket(text: str) -> int:
    """Where the bracket opens that ends ``text``; -1 when none ends it."""
    depth = 0
    for i in range(len(text) - 1, -1, -1):
        if text[i] in "])":
            depth += 1
        elif text[i] in "[(":
            depth -= 1
        if depth == 0:
            return i if text[i] == "[" and i < len(text) - 1 else -1
    return -1


def split(text: str, mark: str) -> list[str]:
    """``text`` cut at ``mark`` outside parentheses and brackets."""
    out, depth, start = [], 0, 0
    for i, c in enumerate(text):
        if c in "([":
            depth += 1
        elif c in ")]":
            depth -= 1
        elif c == mark and depth == 0:
            out.append(text[start:i])
            start = i + 1
    return [*out, text[start:]]
