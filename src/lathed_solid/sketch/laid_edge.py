"""An edge of the body laid into a sketch's plane: a plain value, which crosses the pipe from the kernel."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Edge:
    """An edge laid into the plane: ``kind`` point, line, circle, arc or chain; see ``kernel.outline``."""

    name: str
    kind: str
    points: tuple[tuple[float, float], ...]
    radius: float = 0.0

    @classmethod
    def read(cls, data: Mapping[str, Any]) -> Edge:
        """From the names and places that the kernel found."""
        return cls(data["name"], data["kind"], tuple((p[0], p[1]) for p in data["points"]), data.get("radius", 0.0))
