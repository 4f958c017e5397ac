"""What the steps on whole bodies share. A body is known by the step that began it."""

from __future__ import annotations

from dataclasses import dataclass

BodyNumber = int


@dataclass(frozen=True, slots=True)
class ResolvedBodies:
    """``what``: combine, split, move or drop; ``mode`` of a combination; ``names``: a plane, or an axis to turn
    about.
    """

    what: str
    body: int
    others: tuple[int, ...] = ()
    mode: str = ""
    names: tuple[str, ...] = ()
    shift: tuple[float, float, float] = (0.0, 0.0, 0.0)
    turn: float = 0.0
    copy: bool = False
    keep: str = ""
