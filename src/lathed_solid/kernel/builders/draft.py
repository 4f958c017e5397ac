"""Leaning named faces about a neutral plane."""

from __future__ import annotations

from OCP.gp import gp_Ax3, gp_Dir, gp_Pln, gp_Pnt

from lathed_solid.kernel.builders.draft_faces import leaned
from lathed_solid.kernel.builders.references import plane_of
from lathed_solid.kernel.parts import Parts, gone
from lathed_solid.part.steps.draft import ResolvedDraft


def build_draft(parts: Parts, step: ResolvedDraft, number: int) -> Parts:
    """The part with its faces leaned. Raises BuildError."""
    on = parts.carrying(step.faces[0])
    body = parts.bodies[on]
    plane = plane_of(parts, step.neutral)
    neutral = gp_Pln(gp_Ax3(gp_Pnt(*plane.origin), gp_Dir(*plane.direction), gp_Dir(*plane.x)))
    sides = []
    for name in step.faces:
        found = body.find(name)
        if not found:
            raise gone(parts, name)
        sides += [face for group in found.values() for face in group]
    return parts.with_body(on, leaned(body, sides, neutral, step.angle, f"the face {', '.join(step.faces)}"))
