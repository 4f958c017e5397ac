"""Builders by step kind: (parts before, resolved figures, step number) -> parts after."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from importlib import import_module
from typing import Any

from lathed_solid.kernel.parts import Parts
from lathed_solid.part.steps.catalogue import CATALOGUE

Builder = Callable[[Parts, Any, int], Parts]


@cache
def builder_of(kind: str) -> Builder | None:
    """The builder of a kind, imported when it is first asked for; None where there is none."""
    row = CATALOGUE.get(kind)
    if row is None or not row.built_by:
        return None
    found: Builder = getattr(import_module(f"{__name__}.{row.built_by}"), f"build_{row.built_by}")
    return found
