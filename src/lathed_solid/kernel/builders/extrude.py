"""Straight extrusion of picked regions: prisms, with their ends where the step says, tapered or walled."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from OCP.BRepAlgoAPI import BRepAlgoAPI_Common, BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.gp import gp_Ax3, gp_Dir, gp_Pln, gp_Pnt, gp_Trsf, gp_Vec

from lathed_solid.kernel.builders.boolean import apply, operate
from lathed_solid.kernel.builders.draft_faces import leaned
from lathed_solid.kernel.builders.material import Material
from lathed_solid.kernel.builders.offset_walls import walled
from lathed_solid.kernel.builders.planar import Placed, PlanarFace, frame_of, planar_face, shifted
from lathed_solid.kernel.builders.references import datum, named_surface, plane_of
from lathed_solid.kernel.builders.solids import in_front, prism, round_bar
from lathed_solid.kernel.checks import check_exact, check_solid
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Datum, Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import SOLID, box, sub_shapes
from lathed_solid.part.steps import Frame, ResolvedExtrude
from lathed_solid.part.steps.regions import RegionFigure
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, RELATIVE, RELATIVE_READ, ROUNDING

#: how far a cut through all goes past the body, mm
PAST = 1.0


def build_extrude(parts: Parts, step: ResolvedExtrude, number: int) -> Parts:
    """The part with the regions added, cut or kept. Raises BuildError."""
    found = extruded(parts, step, f"{number}/")
    return apply(parts, number, found.mode, found.tools, found.on)


def extruded(parts: Parts, step: ResolvedExtrude, prefix: str, motion: gp_Trsf | None = None) -> Material:
    """The step's material, at a moved place when ``motion`` is given. Raises BuildError."""
    if step.mode in ("cut", "common") and not parts.bodies:
        raise BuildError("there is no body to cut from", hint="add material first")
    frame = frame_of(step.picked.plane, parts, motion)
    if step.way == 0:
        step = _into(parts, step, Placed(frame))
    shift = 0.0
    if step.from_face:
        shift = _along(frame, plane_of(parts, step.from_face), "start")
    placed, start, end = Placed(frame), step.start + shift, step.end + shift
    reach = _reach(parts, frame) if parts.bodies else 0.0
    if step.through:
        start, end = step.start * reach + shift, step.end * reach + shift
    if step.until:
        tools = [_until(parts, step, r, placed, step.start + shift, reach, prefix) for r in step.picked.regions]
    else:
        tools = [_prism(region, placed, start, end, prefix, step) for region in step.picked.regions]
    if step.outside:
        tools = [_around(tools, placed, start, end, reach, prefix)]
    return Material(step.mode, tools, step.on)


def _into(parts: Parts, step: ResolvedExtrude, placed: Placed) -> ResolvedExtrude:
    """The step to the side where more material lies before its regions; to the back, where a face's material is, when
    there is as much on both. Through all goes both ways.
    """
    if step.through or parts.whole is None:
        return replace(step, way=-1 if step.through else 1)
    reach = _reach(parts, placed.frame) if step.until else step.end
    found = {}
    for way in (-1, 1):
        low, high = sorted((0.0, way * reach))
        plain = replace(step, way=way, taper=0.0, wall=0.0)
        tools = [_prism(r, placed, low, high, "", plain) for r in step.picked.regions]
        found[way] = sum(volume(operate(BRepAlgoAPI_Common(), tool, [parts.whole])[0]) for tool in tools)
    if found[1] > found[-1] * (1 + RELATIVE_READ):
        return replace(step, way=1)
    return replace(step, way=-1, start=-step.end, end=-step.start)


def _reach(parts: Parts, frame: Frame) -> float:
    """Past the far side of everything, from the frame's origin, mm."""
    assert parts.whole is not None
    low, high = box(parts.whole.shape)
    middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
    return math.dist(low, high) + math.dist(frame.origin, middle) + PAST


def _along(frame: Frame, plane: Datum, what: str) -> float:
    """How far a parallel plane lies along the frame's normal, mm."""
    n = frame.normal
    if abs(abs(sum(a * b for a, b in zip(n, plane.direction, strict=True))) - 1) > ANGULAR:
        raise BuildError(f"the {what} face is not parallel to the sketch", hint="pick a parallel face")
    return sum((a - b) * c for a, b, c in zip(plane.origin, frame.origin, n, strict=True))


def _prism(region: RegionFigure, placed: Placed, start: float, end: float, prefix: str, step: ResolvedExtrude) -> Body:
    if end - start < LINEAR:
        raise BuildError("the extrusion has no length", hint="check its start and its end")
    face = planar_face(region, placed).moved(shifted(placed, start))
    body = prism(face, gp_Vec(placed.normal).Multiplied(end - start), prefix, "start", "end")
    check_exact(volume(body.shape), region.area * (end - start), free=region.free)
    caps = (f"{prefix}start", f"{prefix}end")
    if step.taper:
        body = _tapered(body, placed, start if step.way > 0 else end, step, caps)
    return walled(body, step.wall, caps, "the wall") if step.wall else body


def _tapered(body: Body, placed: Placed, level: float, step: ResolvedExtrude, caps: tuple[str, str]) -> Body:
    """Side faces leaned inwards (positive taper) away from the start, about where they stand on it."""
    n = placed.frame.normal
    foot = gp_Pnt(*(a + b * level for a, b in zip(placed.frame.origin, n, strict=True)))
    pull = gp_Dir(*(c * step.way for c in n))
    sides = [k.shape for k, atoms in body.names.items() if not atoms & set(caps)]
    return leaned(body, sides, gp_Pln(gp_Ax3(foot, pull, gp_Dir(*placed.frame.x))), step.taper, "this outline")


def _until(
    parts: Parts, step: ResolvedExtrude, region: RegionFigure, placed: Placed, start: float, reach: float, prefix: str
) -> Body:
    """A prism that ends at the next face, or at a face or plane by name."""
    whole = parts.whole
    if whole is None:
        raise BuildError("there is no face to go to yet", hint="give a distance")
    long = (start, start + 2 * reach) if step.way > 0 else (start - 2 * reach, start)
    if step.until == "next":
        tall = _prism(region, placed, *long, prefix, step)
        operation = BRepAlgoAPI_Cut() if step.mode in ("add", "new") else BRepAlgoAPI_Common()
        shape, names = operate(operation, tall, [whole])
        own = {k: frozenset(a for a in v if a.startswith(prefix)) or frozenset([f"{prefix}end"])
               for k, v in names.items()}  # fmt: skip
        pieces = sub_shapes(shape, SOLID)
        sheet = planar_face(region, placed).shape.Moved(shifted(placed, start))
        away = sorted((BRepExtrema_DistShapeShape(s, sheet).Value(), i) for i, s in enumerate(pieces))
        # added material begins at the sketch; a cut from the open goes through the first that it meets
        met = away and (away[0][0] < LINEAR or step.mode in ("cut", "common"))
        piece = pieces[away[0][1]] if met else None
        if piece is None or (len(pieces) == 1 and operation.__class__ is BRepAlgoAPI_Cut and _beyond(piece, tall)):
            raise BuildError("there is no next face in that direction", hint="the other side, or a distance")
        return Body(piece, own)
    if datum(parts, step.until, "plane") is None:
        surface = named_surface(parts, step.until, "plane", "cylinder", "sphere")
        if surface.kind != "plane":
            tall = _prism(region, placed, *long, prefix, step)
            return _to_round(tall, surface, region, placed, start, step, f"{prefix}end")
    plane = plane_of(parts, step.until)
    n = placed.frame.normal
    facing = sum(a * b for a, b in zip(n, plane.direction, strict=True))
    if abs(abs(facing) - 1) < ANGULAR:
        far = _along(placed.frame, plane, "end") + step.offset * step.way
        if (far - start) * step.way <= ROUNDING:
            raise BuildError(f"{step.until} lies behind the start", hint="the other side, or another face")
        return _prism(region, placed, min(start, far), max(start, far), prefix, step)
    if abs(facing) < RELATIVE_READ:
        raise BuildError(f"{step.until} runs along the extrusion, which never meets it", hint="pick another face")
    tall = _prism(region, placed, *long, prefix, step)
    return _cut_off(tall, plane, step.offset, step.way * math.copysign(1.0, facing), reach, f"{prefix}end")


def _to_round(
    tall: Body, surface: Surface, region: RegionFigure, placed: Placed, start: float, step: ResolvedExtrude, name: str
) -> Body:
    """The prism from its start to a round face, from without or from within; the offset is along the radius."""
    middle = placed.exact((region.moment_x / region.area, region.moment_y / region.area))
    foot = middle.Translated(gp_Vec(placed.normal).Multiplied(start))
    off = gp_Vec(gp_Pnt(*surface.origin), foot)
    if surface.kind == "cylinder":
        along = gp_Vec(*surface.direction)
        off = off.Subtracted(along.Multiplied(off.Dot(along)))
    within = off.Magnitude() < surface.radius
    radius = surface.radius + step.offset * (1 if within else -1)
    if radius <= LINEAR:
        raise BuildError(f"{step.until} is passed by more than its radius", hint="a smaller offset")
    low, high = box(tall.shape)
    bar = round_bar(surface, radius, 2 * math.dist(low, high) + off.Magnitude() + radius, name)
    shape, names = operate(BRepAlgoAPI_Common() if within else BRepAlgoAPI_Cut(), tall, [bar])
    sheet = planar_face(region, placed).shape.Moved(shifted(placed, start))
    near = [s for s in sub_shapes(shape, SOLID) if BRepExtrema_DistShapeShape(s, sheet).Value() < LINEAR]
    if not near or _beyond(near[0], tall):
        raise BuildError("the extrusion does not reach that face", hint="the other side, or another face")
    return Body(near[0], names)


def _beyond(piece: Any, whole: Body) -> bool:
    """Whether nothing was cut from the prism: it went on to its far end."""
    return abs(Body(piece, {}).size - whole.size) < RELATIVE * whole.size


def _cut_off(body: Body, plane: Datum, offset: float, side: float, reach: float, name: str) -> Body:
    """The body on the near side of a plane; ``side`` is +1 where the far side is along the plane's normal."""
    (x, y, z), (ox, oy, oz) = (side * c for c in plane.direction), plane.origin
    far = replace(plane, origin=(ox + offset * x, oy + offset * y, oz + offset * z), direction=(x, y, z))
    tool = in_front(far, 8 * reach, name)
    shape, names = operate(BRepAlgoAPI_Cut(), body, [tool])
    solids = sub_shapes(shape, SOLID)
    if len(solids) != 1:
        raise BuildError("the extrusion does not reach that face", hint="the other side, or another face")
    return Body(solids[0], names)


def _around(tools: Sequence[Body], placed: Placed, start: float, end: float, reach: float, prefix: str) -> Body:
    """All that lies between the two ends, but for the tools."""
    span = 4 * reach + 1.0
    plane = gp_Pln(gp_Ax3(placed.exact((0.0, 0.0)), placed.normal, gp_Dir(*placed.frame.x)))
    sheet = BRepBuilderAPI_MakeFace(plane, -span, span, -span, span).Face().Moved(shifted(placed, start))
    slab = prism(PlanarFace(sheet, []), gp_Vec(placed.normal).Multiplied(end - start), prefix, "start", "end")
    shape, names = operate(BRepAlgoAPI_Cut(), slab, tools)
    if not sub_shapes(shape, SOLID):
        raise BuildError("the regions leave nothing around them", hint="check the regions")
    return Body(check_solid(shape), names)
