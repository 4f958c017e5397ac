"""Sizes that are asked for, and what was given: expressions with their values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from lathed_solid.quantity import Kind


@dataclass(frozen=True)
class AskedSize:
    """A size to ask for: its label, what it starts as, and its kind."""

    label: str
    start: str
    kind: Kind = "length"


@dataclass(frozen=True)
class GivenSizes:
    """What was given, by label: the texts, and their values in base units."""

    texts: Mapping[str, str]
    values: Mapping[str, float]
