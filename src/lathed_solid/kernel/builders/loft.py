"""Skins through sections."""

from __future__ import annotations

from typing import Any

from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.gp import gp_Trsf

from lathed_solid.kernel.builders.boolean import apply
from lathed_solid.kernel.builders.material import Material
from lathed_solid.kernel.builders.planar import Placed, frame_of, planar_wire
from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.topology import Key
from lathed_solid.part.steps.loft import ResolvedLoft
from lathed_solid.quantity.tolerances import LINEAR


def build_loft(parts: Parts, step: ResolvedLoft, number: int) -> Parts:
    """The part with the skin's solid. Raises BuildError."""
    found = lofted(parts, step, f"{number}/")
    return apply(parts, number, found.mode, found.tools, found.on)


def lofted(parts: Parts, step: ResolvedLoft, prefix: str, motion: gp_Trsf | None = None) -> Material:
    """The skin's solid, through its sections at a moved place when ``motion`` is given. Raises BuildError."""
    maker = BRepOffsetAPI_ThruSections(True, step.ruled, LINEAR)
    maker.CheckCompatibility(True)
    first: list[tuple[str, Any]] = []
    for k, section in enumerate(step.sections):
        wire, edges = planar_wire(section.regions[0].outer, Placed(frame_of(section.plane, parts, motion)))
        first = first or edges
        maker.AddWire(wire)
        if k and len(edges) != len(first) and step.ruled:
            raise BuildError("ruled sections must have the same number of sides", hint="a smooth loft")
    try:
        maker.Build()
        done = maker.IsDone()
    except Exception:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
        done = False
    if not done:
        raise BuildError("no skin passes through these sections", hint="sections of like shape, in order")
    names: Names = {Key(maker.FirstShape()): frozenset([f"{prefix}start"])}
    names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
    for entity, edge in first:
        face = maker.GeneratedFace(edge)
        if not face.IsNull():
            names[Key(face)] = frozenset([prefix + entity])
    body: Body = swept(maker.Shape(), names)
    check_solid(body.shape)
    if volume(body.shape) < 0:
        body = Body(body.shape.Reversed(), body.names)
    return Material(step.mode, [body], step.on)
