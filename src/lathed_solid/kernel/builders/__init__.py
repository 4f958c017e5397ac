"""Builders by step kind: (parts before, resolved figures, step number) -> parts after."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lathed_solid.kernel.builders.bodies import build_bodies
from lathed_solid.kernel.builders.chamfer import build_chamfer
from lathed_solid.kernel.builders.datum import build_datum
from lathed_solid.kernel.builders.draft import build_draft
from lathed_solid.kernel.builders.extrude import build_extrude
from lathed_solid.kernel.builders.fillet import build_fillet
from lathed_solid.kernel.builders.helix import build_helix
from lathed_solid.kernel.builders.hole import build_hole
from lathed_solid.kernel.builders.imported import build_imported
from lathed_solid.kernel.builders.loft import build_loft
from lathed_solid.kernel.builders.mirror import build_mirror
from lathed_solid.kernel.builders.pattern import build_pattern
from lathed_solid.kernel.builders.ready import build_ready
from lathed_solid.kernel.builders.revolve import build_revolve
from lathed_solid.kernel.builders.rib import build_rib
from lathed_solid.kernel.builders.shell import build_shell
from lathed_solid.kernel.builders.sweep import build_sweep
from lathed_solid.kernel.builders.thread import build_thread
from lathed_solid.kernel.builders.turned import build_turned
from lathed_solid.kernel.parts import Parts

BUILDERS: dict[str, Callable[[Parts, Any, int], Parts]] = {
    "turned": build_turned,
    "hole": build_hole,
    "extrude": build_extrude,
    "revolve": build_revolve,
    "fillet": build_fillet,
    "chamfer": build_chamfer,
    "imported": build_imported,
    "knurl": build_ready,
    "flats": build_ready,
    "centre": build_ready,
    "groove": build_ready,
    "keyway": build_ready,
    "drop": build_bodies,
    "move": build_bodies,
    "split": build_bodies,
    "combine": build_bodies,
    "rib": build_rib,
    "draft": build_draft,
    "shell": build_shell,
    "loft": build_loft,
    "helix": build_helix,
    "sweep": build_sweep,
    "zero": build_datum,
    "point": build_datum,
    "axis": build_datum,
    "plane": build_datum,
    "thread": build_thread,
    "mirror": build_mirror,
    "pattern": build_pattern,
}
