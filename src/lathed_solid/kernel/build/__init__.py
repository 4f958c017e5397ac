"""Builders by step kind: (body before, resolved figures, name prefix) -> body after."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lathed_solid.kernel.build.extrude import build_extrude
from lathed_solid.kernel.build.hole import build_hole
from lathed_solid.kernel.build.revolve import build_revolve
from lathed_solid.kernel.build.turned import build_turned
from lathed_solid.kernel.names import Body

BUILDERS: dict[str, Callable[[Body | None, Any, str], Body]] = {
    "turned": build_turned,
    "hole": build_hole,
    "extrude": build_extrude,
    "revolve": build_revolve,
}
