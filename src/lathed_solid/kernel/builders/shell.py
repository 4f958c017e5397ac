"""Hollowing a body out."""

from __future__ import annotations

from lathed_solid.kernel.builders.offset_walls import walled
from lathed_solid.kernel.parts import Parts, gone
from lathed_solid.part.steps.shell import ResolvedShell


def build_shell(parts: Parts, step: ResolvedShell, number: int) -> Parts:
    """The part hollowed out. Raises BuildError."""
    on = parts.carrying(step.open_faces[0])
    body = parts.bodies[on]
    for name in step.open_faces:
        if not body.find(name):
            raise gone(parts, name)
    wall = -step.wall if step.outwards else step.wall
    return parts.with_body(on, walled(body, wall, step.open_faces, "a wall"))
