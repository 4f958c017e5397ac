"""Leading regions along a path."""

from __future__ import annotations

import dataclasses
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeWire
from OCP.BRepOffsetAPI import BRepOffsetAPI_MakePipe

from lathed_solid.kernel.builders.boolean import apply, cut
from lathed_solid.kernel.builders.planar import Placed, frame_of, path_wire, planar_face
from lathed_solid.kernel.builders.references import whole
from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.edges import named_edges
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.topology import Key, drained
from lathed_solid.part.steps.regions import RegionFigure
from lathed_solid.part.steps.sweep import ResolvedSweep


def build_sweep(parts: Parts, step: ResolvedSweep, number: int) -> Parts:
    """The part with the swept regions. Raises BuildError."""
    spine = _spine(parts, step)
    placed = Placed(frame_of(step.picked.plane, parts))
    tools = [_swept(region, placed, spine, f"{number}/") for region in step.picked.regions]
    return apply(parts, number, step.mode, tools, step.on)


def _spine(parts: Parts, step: ResolvedSweep) -> Any:
    if step.plane is not None:
        return path_wire(step.path, Placed(frame_of(step.plane, parts)))
    maker = BRepBuilderAPI_MakeWire()
    for name in step.edges:
        for piece in named_edges(whole(parts), name):
            maker.Add(piece)
            if not maker.IsDone():
                raise BuildError(f"the path does not join at {name}", hint="pick the edges in order")
    return maker.Wire()


def _swept(region: RegionFigure, placed: Placed, spine: Any, prefix: str) -> Body:
    """The outer loop swept, without the holes swept alike (the kernel sweeps one loop at a time soundly)."""
    outer = _one(RegionFigure(region.outer, (), 0.0, 0.0, 0.0), placed, spine, prefix)
    if not region.holes:
        return outer
    holes = [_one(RegionFigure(_turned(h), (), 0.0, 0.0, 0.0), placed, spine, prefix) for h in region.holes]
    return cut(outer, holes)


def _turned(loop: tuple[Any, ...]) -> tuple[Any, ...]:
    """A hole's loop the other way round."""
    return tuple(dataclasses.replace(p, start=p.end, end=p.start, left=not p.left) for p in reversed(loop))


def _one(region: RegionFigure, placed: Placed, spine: Any, prefix: str) -> Body:
    face = planar_face(region, placed)
    maker = BRepOffsetAPI_MakePipe(spine, face.shape)
    maker.Build()
    if not maker.IsDone():
        raise BuildError("the region cannot be led along this path", hint="a path with wider bends")
    names: Names = {}
    for entity, edge in face.edges:
        for made in drained(maker.Generated(edge)):
            names[Key(made)] = frozenset([prefix + entity])
    names[Key(maker.FirstShape())] = frozenset([f"{prefix}start"])
    names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
    body = swept(maker.Shape(), names)
    check_solid(body.shape)
    if volume(body.shape) <= 0:
        raise BuildError("the sweep runs into itself", hint="a path with wider bends, or a smaller region")
    return body
