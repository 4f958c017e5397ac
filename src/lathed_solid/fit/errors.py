"""What can go wrong with a fit."""

from __future__ import annotations

from lathed_solid.errors import LathedError


class FitError(LathedError, ValueError):
    """An impossible fit or edit of one, or a question that cannot be answered."""


class GoneError(FitError):
    """A relation's face, edge or axis is not on the part; ``candidates`` are what could be meant."""

    def __init__(self, what: str, *, where: str, missing: str, candidates: tuple[str, ...]) -> None:
        self.missing, self.candidates = missing, candidates
        near = ", ".join(candidates[:6])
        super().__init__(
            what, where=where, received=missing, hint=f"pick it again: {near}" if near else "pick it again"
        )
