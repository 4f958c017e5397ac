"""Bodies combined into one."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase, StepError
from lathed_solid.part.steps.bodies import BodyNumber, ResolvedBodies
from lathed_solid.part.steps.resolver import Resolver


class CombineStep(StepBase):
    """``others`` added to, cut from, or kept in common with ``body``; they are used up unless ``keep``."""

    STEPS: ClassVar[tuple[str, ...]] = ("body", "others")

    kind: Literal["combine"] = "combine"
    body: BodyNumber = Field(default=10, ge=1, le=99_990)
    others: tuple[BodyNumber, ...] = Field(default=(), max_length=100)
    mode: Literal["add", "cut", "common"] = "add"
    keep: bool = False

    def title(self) -> str:
        words = {"add": "Join", "cut": "Cut", "common": "Keep common of"}
        return f"{words[self.mode]} bodies {self.body} and {', '.join(map(str, self.others)) or '…'}"

    def resolve(self, evaluate: Resolver) -> ResolvedBodies:
        """Raises StepError."""
        if not self.others or self.body in self.others:
            raise StepError("name the other bodies", where="others", hint="numbers of the steps that began them")
        return ResolvedBodies("combine", self.body, self.others, self.mode, copy=self.keep)
