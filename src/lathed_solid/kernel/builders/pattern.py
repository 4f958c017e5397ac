"""Repeating material: every copy of one step in one boolean."""

from __future__ import annotations

from collections.abc import Callable

from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.builders.boolean import apply
from lathed_solid.kernel.builders.broken_copies import broken_again
from lathed_solid.kernel.builders.extrude import extruded
from lathed_solid.kernel.builders.hole import drilled
from lathed_solid.kernel.builders.loft import lofted
from lathed_solid.kernel.builders.material import Material
from lathed_solid.kernel.builders.planar import Placed, frame_of
from lathed_solid.kernel.builders.references import axis_of
from lathed_solid.kernel.builders.revolve import revolved_regions
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, moved
from lathed_solid.kernel.parts import Mode, Parts
from lathed_solid.part.steps.pattern import ResolvedPattern, Source
from lathed_solid.part.steps.pattern_layout import ResolvedLayout

#: kinds that can be made anew at another place
REBUILD: dict[str, Callable[..., Material]] = {
    "extrude": extruded, "revolve": revolved_regions, "hole": drilled, "loft": lofted,
}  # fmt: skip


def build_pattern(parts: Parts, step: ResolvedPattern, number: int) -> Parts:
    """The part with the copies. Raises BuildError."""
    motions = [(k, m) for k, m in enumerate(placements(parts, step.layout), 1) if k not in step.skip]
    if not motions:
        raise BuildError("no copy is left", hint="fewer skipped places")
    made = [s.number for s in step.sources if not s.breaks]
    for source in step.sources:
        if source.breaks:
            renames = [lambda a, k=k: f"{number}/{k}({a})" for k, _ in motions]
            parts = broken_again(parts, source, made, renames)
            continue
        for material in copied(parts, source, motions, number):
            if material.mode == "new":
                raise BuildError(f"step {source.number} begins a body: copy the body instead", hint="a move step")
            parts = apply(parts, number, material.mode, material.tools, material.on)
    return parts


def copied(parts: Parts, source: Source, motions: list[tuple[int, gp_Trsf]], number: int) -> list[Material]:
    """Material of a step at other places, renamed ``number/k(...)``. Raises BuildError."""
    if source.figures is None:
        made = parts.made.get(source.number)
        if made is None:
            raise BuildError(f"step {source.number} made nothing to copy", hint="it failed, or is suspended")
        return [
            Material(m.mode if m.mode != "new" else "add", [
                moved(t, TopLoc_Location(motion), lambda a, k=k: f"{number}/{k}({a})")  # type: ignore[misc]
                for k, motion in motions for t in m.tools
            ], m.on)
            for m in made
        ]  # fmt: skip
    if source.kind not in REBUILD:
        raise BuildError(f"step {source.number} cannot be rebuilt elsewhere", hint="an exact copy")
    tools: list[Body] = []
    mode: Mode = "cut"
    on: tuple[int, ...] = ()
    for k, motion in motions:
        found = REBUILD[source.kind](parts, source.figures, f"{source.number}/", motion)
        still = TopLoc_Location()
        tools += [moved(t, still, lambda a, k=k: f"{number}/{k}({a})") for t in found.tools]  # type: ignore[misc]
        mode, on = found.mode, found.on
    return [Material(mode, tools, on)]


def placements(parts: Parts, layout: ResolvedLayout) -> list[gp_Trsf]:
    """The motion of each copy from the original. Raises BuildError."""
    axes = [axis_of(parts, name) for name in layout.axes]
    out = []
    if layout.kind == "curve":
        assert layout.plane is not None
        placed = Placed(frame_of(layout.plane, parts))
        for x, y, turn, x0, y0 in layout.moves:
            shift, rotation = gp_Trsf(), gp_Trsf()
            shift.SetTranslation(placed.exact((0.0, 0.0)), placed.exact((x, y)))
            rotation.SetRotation(gp_Ax1(placed.exact((x0, y0)), placed.normal), turn)
            out.append(shift.Multiplied(rotation))
        return out
    for move in layout.moves:
        motion = gp_Trsf()
        if layout.kind == "about":
            motion.SetRotation(gp_Ax1(gp_Pnt(*axes[0].origin), gp_Dir(*axes[0].direction)), move[0])
        elif layout.kind == "xyz":
            motion.SetTranslation(gp_Vec(*move))
        else:
            total = gp_Vec(0, 0, 0)
            for amount, axis in zip(move, axes, strict=True):
                total = total.Added(gp_Vec(*axis.direction).Multiplied(amount))
            motion.SetTranslation(total)
        out.append(motion)
    return out
