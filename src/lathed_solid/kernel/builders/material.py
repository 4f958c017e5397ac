"""Material of a step, ready to be applied: what, how, and to which bodies. Patterns ask for it anew at each place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from OCP.gp import gp_Dir, gp_Pnt, gp_Trsf

from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Mode, Triple


@dataclass(frozen=True)
class Material:
    """Tools to be added to, cut from or kept in common with the bodies ``on`` (all that are met, when empty)."""

    mode: Mode
    tools: Sequence[Body] = field(repr=False)
    on: tuple[int, ...] = ()


def moved_point(p: Triple, motion: gp_Trsf | None) -> Triple:
    """A place after a motion."""
    if motion is None:
        return p
    q = gp_Pnt(*p).Transformed(motion)
    return (q.X(), q.Y(), q.Z())


def moved_direction(d: Triple, motion: gp_Trsf | None) -> Triple:
    """A direction after a motion."""
    if motion is None:
        return d
    q = gp_Dir(*d).Transformed(motion)
    return (q.X(), q.Y(), q.Z())
