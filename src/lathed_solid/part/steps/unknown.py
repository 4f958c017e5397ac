"""A step of a kind that this version does not know: kept as it is and shown, never dropped."""

from __future__ import annotations

from typing import Any

from pydantic import ConfigDict, Field

from lathed_solid.part.steps.base import StepBase
from lathed_solid.part.steps.catalogue import CATALOGUE


def _no_known_kind(schema: dict[str, Any]) -> None:
    """The published schema must not take a known kind for an unknown one."""
    schema["not"] = {"enum": sorted(CATALOGUE)}


class UnknownStep(StepBase):
    """Carries all fields of the unknown kind unread, so that saving gives them back."""

    model_config = ConfigDict(frozen=True, extra="allow")

    kind: str = Field(json_schema_extra=_no_known_kind)

    def title(self) -> str:
        return f"Unknown step ({self.kind})"

    def resolve(self, evaluate: Any) -> Any:
        raise LookupError(self.kind)
