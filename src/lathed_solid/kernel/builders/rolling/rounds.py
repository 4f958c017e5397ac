"""Rounds put on by hand, where the kernel's own are refused: at tapering lands, cusps, heights that are just enough.

For an edge between a flat P and a wall W that stands square to it (a plane, or a cylinder about P's normal) the ball of
radius r that rolls along both leaves, in each section square to the edge, the corner outside its circle

    0 <= u <= r,  0 <= v <= r,  (u - r)^2 + (v - r)^2 >= r^2

with u along P away from W and v along W, out of P's material in a hollow corner and into it at an edge that stands out.
That section is pushed along a straight edge or turned along a round one, and kept over (under) P: it is added in a
hollow corner and taken away at an edge that stands out. So it ends at the bounds of P, where another wall stands: a
land that tapers to nothing, as an arm that runs tangent into a boss has it, is no obstacle. Around a corner of P beyond
a half turn each section is carried on, but not beyond the round of the other edge: they meet in a mitre.

What was taken or given is compared with the sections' volume, and its upper rims must lie on the body: a round that
would stand over its wall, or reach past its whole land, is refused (None).
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common
from OCP.gp import gp_Dir, gp_Vec

from lathed_solid.kernel.builders.boolean import boxes_meet, cut, join, operate
from lathed_solid.kernel.builders.pick import PickedEdge, bend, oriented_edges
from lathed_solid.kernel.builders.rolling.corner import CUSP, EVEN, Corner, ends_of, in_runs
from lathed_solid.kernel.builders.rolling.flat import WAYS, Flat, Way, apart
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.properties import properties, quick_volume
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import SOLID, Key, sub_shapes
from lathed_solid.kernel.vectors import dot
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, RELATIVE_READ, ROUNDING

#: of the volume that rounds change: as near as the kernel's crossings of round faces are to be had
MEANT = 1e-4
#: places along an edge at which the round's rims are looked for
LOOKS = 9


def corner_of(body: Body, p: PickedEdge, radius: float) -> Corner | None:
    """The edge as a corner over one of its faces; None when it is none over either.

    Where both will do, that which tapers, else one that ends at upright walls or runs smoothly on.
    """
    turn = bend(p)
    if abs(abs(turn) - math.pi / 2) > ANGULAR:
        return None
    found = []
    for flat, wall in ((0, 1), (1, 0)):
        f, w = read_surface(p.sides[flat]), read_surface(p.sides[wall])
        if f.kind != "plane" or w.kind not in ("plane", "cylinder"):
            continue
        corner = Corner((p.edge,), p.name, p.sides[flat], gp_Dir(*f.direction), w, turn > 0)
        along = abs(dot(f.direction, w.direction))
        # within a round wall the ball must be smaller than it
        if (w.kind == "plane" and along < ANGULAR) or (
            w.kind == "cylinder" and along > 1 - ANGULAR and (not corner.within or w.radius > radius + LINEAR)
        ):
            found.append(corner)
    found.sort(key=lambda c: (not tapers(c), not Flat(body, c.flat, [c], radius, "").ends_well(c)))
    return found[0] if found else None


def tapers(corner: Corner) -> bool:
    """Whether the flat tapers to nothing at an end of the edge: the kernel's rounds may go wrong there unseen."""
    return any(turn > CUSP for _, turn in ends_of(oriented_edges(corner.flat), corner.edges, corner.normal))


def runs_on(body: Body, corner: Corner) -> bool:
    """Whether the flat of a hollow corner ends, where the edge ends, in a round that goes down from it."""
    flat = Flat(body, corner.flat, [corner], 1.0, "")
    ends = ends_of(flat.outline, corner.edges, corner.normal)
    return not corner.out and any(abs(turn) > EVEN and flat.goes_down(e) for e, turn in ends)


def rolled(body: Body, corners: Sequence[Corner], radius: float, prefix: str, base: Body | None = None) -> Body | None:
    """``base`` (the body itself, when not given) with the corners of ``body`` rounded by hand, ``radius`` mm.

    None where they do not fit. A round is named ``prefix(edge)``.
    """
    out: Body | None = base or body
    for stands_out in (True, False):
        group = [c for c in corners if c.out is stands_out]
        if out is not None and group:
            out = _turned_over(out, body, group, radius, prefix)
    return out


def _turned_over(out: Body, body: Body, group: Sequence[Corner], radius: float, prefix: str) -> Body | None:
    """``out`` with the corners that all stand out, or are all hollow, in the first way that goes well; else None."""
    for way in WAYS:
        try:
            found = _sections(body, group, radius, prefix, way)
        except BuildError:
            continue
        if found is None:
            return None
        after = _changed(out, found, -1 if group[0].out else 1)
        if after is not None:
            return after
    return None


def _changed(body: Body, sections: Sequence[Body], sign: int) -> Body | None:
    """The body with the sections given or taken, at once or one after another; None when its volume did not change by
    all of them: then one of them lies elsewhere than meant.
    """
    before = properties(body.shape).volume
    for groups in ([sections], [[s] for s in sections]):
        out, wanted = body, 0.0
        try:
            for group in groups:
                change = join(group)
                wanted += sign * properties(change.shape).volume
                out = join([out, change]) if sign > 0 else cut(out, [change])
        except BuildError:
            continue
        if abs(properties(out.shape).volume - before - wanted) <= MEANT * abs(wanted) + ROUNDING * before:
            return out
    return None


def _sections(body: Body, corners: Sequence[Corner], radius: float, prefix: str, way: Way) -> list[Body] | None:
    """The rounds' sections along all corners that stand out, or of all hollow ones; None where one does not fit."""
    if not all(_lies(body, c, radius) for c in corners):
        return None
    by_flat: dict[Key, list[Corner]] = {}
    for c in corners:
        by_flat.setdefault(Key(c.flat), []).append(c)
    out: list[tuple[Corner, Body]] = []
    for key, some in by_flat.items():
        group = in_runs(oriented_edges(key.shape), some)
        made = Flat(body, key.shape, group, radius, prefix, way).sections()
        if made is None:
            return None
        out += made
    if any(_in_the_way(a, b) for a, b in itertools.combinations(out, 2)):
        return None
    return [section for _, section in out] or None


def _in_the_way(a: tuple[Corner, Body], b: tuple[Corner, Body]) -> bool:
    """Whether two rounds need the same room: only neighbours over one flat meet, in their mitre."""
    (one, its), (other, others) = a, b
    if one.vertices & other.vertices:
        return not one.flat.IsSame(other.flat)
    if not boxes_meet(its, others):
        return False
    shape, _ = operate(BRepAlgoAPI_Common(), its, [others])
    return any(quick_volume(s) > RELATIVE_READ * its.size for s in sub_shapes(shape, SOLID))


def _lies(body: Body, corner: Corner, radius: float) -> bool:
    """Whether the upper rim is on the body all along, and the lower one on the flat somewhere."""
    curve = BRepAdaptor_Curve(corner.edges[0])
    low, high = curve.FirstParameter(), curve.LastParameter()
    on_flat = False
    for k in range(LOOKS):
        at = curve.Value(low + (high - low) * (k + 0.5) / LOOKS)
        upper = at.Translated(gp_Vec(corner.normal).Multiplied(corner.up * radius))
        if apart(upper, body.shape) > LINEAR:
            return False
        on_flat = on_flat or apart(at.Translated(corner.away(at).Multiplied(radius)), corner.flat) < LINEAR
    return on_flat
