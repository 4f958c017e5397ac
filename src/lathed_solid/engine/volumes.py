"""Volumes of many documents that differ little: what sensitivities and suspects ask for."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from typing import TypeVar

from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel.properties import volume
from lathed_solid.part import Document

R = TypeVar("R")


def volume_of(engine: Engine, document: Document) -> float | None:
    """The exact volume in mm3; None when a step cannot be built, or there is no solid."""
    built = engine.attempt(document)
    if not built.ok or built.body is None:
        return None
    return volume(built.body.shape)


def volumes(engine: Engine, documents: Sequence[Document]) -> list[float | None]:
    """The volume of each document, mm3; None for one that cannot be built."""
    return [volume_of(engine, d) for d in documents]


def answered(engine: Engine, asking: Generator[list[Document], list[float | None], R]) -> R:
    """Answer everything that ``asking`` (a hunt, sensitivities) wants built, in this process; its result."""
    try:
        wanted = next(asking)
        while True:
            wanted = asking.send(volumes(engine, wanted))
    except StopIteration as done:
        return done.value
