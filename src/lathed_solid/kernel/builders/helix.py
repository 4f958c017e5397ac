"""Leading regions along a helix, by a pipe whose section keeps its place to the axis."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
from OCP.BRepLib import BRepLib
from OCP.BRepOffsetAPI import BRepOffsetAPI_MakePipeShell
from OCP.collections import Array1_gp_Pnt
from OCP.Geom import Geom_CylindricalSurface
from OCP.Geom2d import Geom2d_Line
from OCP.GeomAPI import GeomAPI_PointsToBSpline
from OCP.gp import gp_Ax1, gp_Ax3, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.builders.boolean import apply
from lathed_solid.kernel.builders.coil_sum import removed
from lathed_solid.kernel.builders.planar import Placed, frame_of, planar_wire
from lathed_solid.kernel.builders.references import axis_of
from lathed_solid.kernel.checks import check_integrals, check_trims
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, moved, swept
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import adaptive_volume, quick_volume
from lathed_solid.kernel.topology import Key, drained
from lathed_solid.kernel.vectors import Triple
from lathed_solid.kernel.witness import follows
from lathed_solid.part.steps import Frame
from lathed_solid.part.steps.helix import ResolvedHelix
from lathed_solid.part.steps.regions import RegionFigure
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, ROUNDING

#: rad
SECTIONS = 1e-3
#: how far a run-out ends clear of the region's own depth, mm
CLEAR = 0.5


@dataclass(frozen=True)
class Way:
    """How a coil is cut: ``piece`` turns at a time, faces within ``tolerance`` mm, moved ``outwards`` mm."""

    piece: float
    tolerance: float = 1e-6
    outwards: float = 0.0


#: a coil that is cut is taken away in pieces of so many turns: as one tool over many turns the kernel's cut goes wrong,
#: and where it goes wrong with one length of pieces it mostly does not with another; beside each how near the faces
#: come to the true ones, mm, and by how much the groove is moved outwards, mm: where its root lies in a cylinder of the
#: shank the kernel cannot tell the two apart
WAYS = (Way(1.0), Way(0.5), Way(1.0, 1e-6, 4e-6), Way(1.0, 1e-5), Way(0.5, 1e-5), Way(0.5, 1e-6, 4e-6))
#: how far what a coil takes away may be from its screw motion's integral, relative
TAKEN = 9e-6
#: how far a coil's volume may be from its screw motion's, relative
EXACT = 4e-6


def build_helix(parts: Parts, step: ResolvedHelix, number: int) -> Parts:
    """The part with the coiled regions. Raises BuildError."""
    placed = Placed(frame_of(step.picked.plane, parts))
    refused: BuildError | None = None
    said: dict[int, float | None] = {}
    for way in WAYS if step.mode == "cut" else (Way(math.inf),):
        try:
            tools = [t for r in step.picked.regions for t in _coiled(parts, r, placed, step, way, f"{number}/")]
            out = apply(parts, number, step.mode, tools, step.on)
            if step.mode == "cut":
                _follow(parts, out, step, placed, said)
            return out
        except BuildError as exc:
            refused = refused or exc
    assert refused is not None
    raise refused


#: places looked at a turn, along a coil that was cut
A_TURN = 12


def _follow(parts: Parts, out: Parts, step: ResolvedHelix, placed: Placed, said: dict[int, float | None]) -> None:
    """Along the whole coil nothing may be left within it, nor be missing half a pitch beside it. Raises BuildError.

    ``said``: what is to be left of each body, mm3, once it was worked out (None: it cannot be).
    """
    axis = axis_of(parts, step.axis)
    o, d = gp_Pnt(*axis.origin), gp_Vec(*axis.direction)
    hand = -1.0 if step.left else 1.0
    within: list[Triple] = []
    beside: list[Triple] = []
    for region in step.picked.regions:
        cx, cy = region.moment_x / region.area, region.moment_y / region.area
        corners = [p.start for p in region.outer]
        # the middle, and places well towards each corner
        places = [(cx, cy), *((cx + 0.7 * (x - cx), cy + 0.7 * (y - cy)) for x, y in corners)]
        for k in range(int(step.turns * A_TURN)):
            turns = (k + 0.5) / A_TURN
            at = placed.exact(places[k % len(places)])
            motion = gp_Trsf()
            motion.SetRotation(gp_Ax1(o, gp_Dir(d)), step.start + hand * 2 * math.pi * turns)
            p = at.Transformed(motion).Translated(d.Normalized().Multiplied(step.pitch * turns))
            within.append((p.X(), p.Y(), p.Z()))
            if k % 4 == 0:
                q = p.Translated(d.Normalized().Multiplied(step.pitch / 2))
                beside.append((q.X(), q.Y(), q.Z()))
    # where the groove is wider than half its pitch there is no land beside it
    levels = [gp_Vec(placed.exact(p.start).XYZ()).Dot(d) for r in step.picked.regions for p in r.outer]
    land = len(step.picked.regions) == 1 and max(levels) - min(levels) < 0.5 * step.pitch
    for n, body in out.bodies.items():
        if n in parts.bodies and body is not parts.bodies[n]:
            if n not in said:
                said[n] = _to_be_left(parts.bodies[n], step, placed, (axis.origin, axis.direction))
            _check_left(parts.bodies[n], body, said[n])
            check_trims(body)
            follows("cut", parts.bodies[n], body, within, beside if land else ())


def _to_be_left(body: Body, step: ResolvedHelix, placed: Placed, axis: tuple[Triple, Triple]) -> float | None:
    """Volume that a groove leaves of a turned body, by its screw motion's integral, mm3; None for another body."""
    if step.run_out or len(step.picked.regions) != 1:
        return None
    taken = removed(body, step.picked.regions[0], placed, axis, step.pitch, step.turns)
    return None if taken is None else adaptive_volume(body.shape) - taken


def _check_left(body: Body, cut: Body, said: float | None) -> None:
    """What is left of a body against what its screw motion says; where that does not, two ways of integrating it.
    Raises BuildError.
    """
    if said is None:
        check_integrals(cut, body.size - cut.size)
        return
    left, taken = adaptive_volume(cut.shape), body.size - said
    if abs(left - said) > TAKEN * taken:
        raise BuildError(f"the cut takes {taken + said - left:.7g} mm³ away, its screw motion {taken:.7g} mm³",
                         hint="slightly different sizes")  # fmt: skip


def _coiled(
    parts: Parts, region: RegionFigure, placed: Placed, step: ResolvedHelix, way: Way, prefix: str
) -> list[Body]:
    """The coil in pieces of so many turns that follow one another; all of it as one when that is more than it has."""
    piece, tolerance = way.piece, way.tolerance
    if region.holes:
        raise BuildError("a coiled region must have no holes", hint="cut a second helix instead")
    axis = axis_of(parts, step.axis)
    o, d = gp_Pnt(*axis.origin), gp_Vec(*axis.direction)
    if abs(d.Dot(gp_Vec(placed.normal))) > ANGULAR:
        raise BuildError("the sketch's plane does not hold the axis", hint="a plane through the axis")
    xs = [p.start for p in region.outer]
    middle = placed.exact((sum(x for x, _ in xs) / len(xs), sum(y for _, y in xs) / len(xs)))
    out = gp_Vec(o, middle)
    level = out.Dot(d)
    out = out.Subtracted(d.Multiplied(level))
    radius = out.Magnitude()
    if radius < LINEAR:
        raise BuildError("the region lies on the axis", hint="draw it beside the axis")
    if way.outwards:
        shift = out.Normalized().Multiplied(way.outwards)
        f = placed.frame
        moved_to = tuple(a + b for a, b in zip(f.origin, (shift.X(), shift.Y(), shift.Z()), strict=True))
        placed, radius = Placed(Frame(moved_to, f.x, f.y)), radius + way.outwards
    axes = gp_Ax3(o.Translated(d.Multiplied(level)), gp_Dir(d), gp_Dir(out))
    full = 0 if math.isinf(piece) else math.ceil(step.turns / piece - ROUNDING) - 1
    made = []
    if full:
        one = _swept(region, placed, axes, radius, step, piece, tolerance, prefix)
        made = [_screwed(one, o, d, step, k * piece) for k in range(full)]
    done = full * piece if full else 0.0
    rest = step.turns - done
    last = _swept(region, placed, axes, radius, step, rest, tolerance, prefix, run_out=step.run_out > 0)
    made.append(_screwed(last, o, d, step, done))
    # the flats between two pieces are no ends
    ends = {0: f"{prefix}start", len(made) - 1: f"{prefix}end"}
    caps = {f"{prefix}start", f"{prefix}end"}
    bodies = []
    for k, body in enumerate(made):
        mine = {ends[k]} if k in ends and len(made) > 1 else caps if len(made) == 1 else set()
        names = {key: kept for key, atoms in body.names.items() if (kept := atoms - (caps - mine))}
        bodies.append(Body(body.shape, names))
    return bodies


def _swept(
    region: RegionFigure, placed: Placed, axes: gp_Ax3, radius: float, step: ResolvedHelix, turns: float,
    tolerance: float, prefix: str, *, run_out: bool = False,
) -> Body:  # fmt: skip
    """The region led along some turns from where it is drawn.

    A screw motion sweeps what a turn does: V = 2 pi turns int r dA (the shift along the axis adds nothing).
    """
    maker_of_spine = BRepBuilderAPI_MakeWire(_helix(axes, radius, step.pitch, turns, step.left))
    if run_out:
        maker_of_spine.Add(_run_out(axes, radius, _reach(region, placed, axes) + CLEAR, step, turns))
    wire, edges = planar_wire(region.outer, placed)
    maker = BRepOffsetAPI_MakePipeShell(maker_of_spine.Wire())
    maker.SetMode(axes.Direction())  # the section keeps its place to the axis
    maker.SetTolerance(tolerance, tolerance, SECTIONS)
    maker.Add(wire)
    try:
        maker.Build()
        done = maker.IsDone() and maker.MakeSolid()
    except Exception:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
        done = False
    if not done:
        raise BuildError("the region cannot be led along this helix", hint="a larger pitch, or a smaller region")
    names: Names = {}
    for entity, edge in edges:
        for made in drained(maker.Generated(edge)):
            names[Key(made)] = frozenset([f"{prefix}coil.helix.{entity}"])
    names[Key(maker.FirstShape())] = frozenset([f"{prefix}start"])
    names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
    body = swept(maker.Shape(), names)
    size = quick_volume(body.shape)
    if size < 0:
        body = Body(body.shape.Reversed(), body.names)
    if not run_out:
        swept_by = 2 * math.pi * turns * _moment(region, placed, axes)
        if abs(abs(size) - swept_by) > EXACT * swept_by:
            raise BuildError(f"the coil's volume {abs(size):.6g} mm³ is not its screw motion's {swept_by:.6g} mm³",
                             hint="a larger pitch, or a smaller region")  # fmt: skip
    return body


def _moment(region: RegionFigure, placed: Placed, axes: gp_Ax3) -> float:
    """int r dA of a region, r from the axis, mm3."""
    middle = placed.exact((region.moment_x / region.area, region.moment_y / region.area))
    away = gp_Vec(axes.Location(), middle)
    return float(away.Dot(gp_Vec(axes.XDirection()))) * region.area


def _screwed(body: Body, o: gp_Pnt, d: gp_Vec, step: ResolvedHelix, turns: float) -> Body:
    """The body screwed on by some turns from where it was drawn, and by the start angle."""
    shift, turn = gp_Trsf(), gp_Trsf()
    shift.SetTranslation(d.Normalized().Multiplied(step.pitch * turns))
    hand = -1.0 if step.left else 1.0
    turn.SetRotation(gp_Ax1(o, gp_Dir(d)), step.start + hand * 2 * math.pi * (turns % 1.0))
    if not turns and not step.start:
        return body
    return moved(body, TopLoc_Location(shift.Multiplied(turn)), lambda a: a)


def _reach(region: RegionFigure, placed: Placed, axes: gp_Ax3) -> float:
    """How far the region reaches along the radius, mm."""
    out = gp_Vec(axes.XDirection())
    depths = [gp_Vec(axes.Location(), placed.exact(q)).Dot(out) for p in region.outer for q in (p.start, p.middle)]
    return max(depths) - min(depths)


def _run_out(axes: gp_Ax3, radius: float, rise: float, step: ResolvedHelix, turns: float) -> Any:
    """The edge that goes on from the helix's end, led outwards by ``rise``, starting and ending smoothly."""
    hand = -1.0 if step.left else 1.0
    first = 2 * math.pi * turns
    count = 33
    places = Array1_gp_Pnt(1, count)
    for i in range(count):
        t = i / (count - 1)
        angle, r = hand * (first + step.run_out * t), radius + rise * t * t * (3 - 2 * t)
        z = step.pitch * (first + step.run_out * t) / (2 * math.pi)
        x, y, d = (gp_Vec(v) for v in (axes.XDirection(), axes.YDirection(), axes.Direction()))
        off = x.Multiplied(r * math.cos(angle)).Added(y.Multiplied(r * math.sin(angle))).Added(d.Multiplied(z))
        places.SetValue(i + 1, axes.Location().Translated(off))
    return BRepBuilderAPI_MakeEdge(GeomAPI_PointsToBSpline(places).Curve()).Edge()


def _helix(axes: gp_Ax3, radius: float, pitch: float, turns: float, left: bool) -> Any:
    """The edge of a helix on a cylinder: a straight line on the unrolled surface."""
    surface = Geom_CylindricalSurface(axes, radius)
    hand = -1.0 if left else 1.0
    reach = math.hypot(2 * math.pi, pitch) * turns
    line = Geom2d_Line(gp_Pnt2d(0.0, 0.0), gp_Dir2d(hand * 2 * math.pi, pitch))
    edge = BRepBuilderAPI_MakeEdge(line, surface, 0.0, reach).Edge()
    BRepLib.BuildCurves3d_s(edge)
    return edge
