"""What measuring finds out beside the size: one finding for each duty that could be looked at."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.ledger import DutyKind


@dataclass(frozen=True, slots=True)
class Finding:
    """``value`` in mm, rad or a number, ``word`` what has none; ``holds`` None leaves the judging to the limits."""

    kind: DutyKind
    value: float | None = None
    word: str = ""
    holds: bool | None = None
    reason: str = ""
