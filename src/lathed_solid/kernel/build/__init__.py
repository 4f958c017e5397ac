"""Builders by step kind: (parts before, resolved figures, step number) -> parts after."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lathed_solid.kernel.build.chamfer import build_chamfer
from lathed_solid.kernel.build.extrude import build_extrude
from lathed_solid.kernel.build.fillet import build_fillet
from lathed_solid.kernel.build.hole import build_hole
from lathed_solid.kernel.build.revolve import build_revolve
from lathed_solid.kernel.build.turned import build_turned
from lathed_solid.kernel.parts import Parts

BUILDERS: dict[str, Callable[[Parts, Any, int], Parts]] = {
    "turned": build_turned,
    "hole": build_hole,
    "extrude": build_extrude,
    "revolve": build_revolve,
    "fillet": build_fillet,
    "chamfer": build_chamfer,
}
