"""A witness for every operation on the solid, which shares nothing with the operation's code.

Points are thrown beside the faces of the tools, on both sides, and into the boxes that tools and body share; each is
classified against the body, the tools and the result by counting a ray's crossings. What a set operation means must
hold at every one of them:

    cut      inside(result) = inside(body) and not inside(any tool)
    add      inside(result) = inside(any part)
    common   inside(result) = inside(body) and inside(any tool)

A point on a boundary says nothing and is left out. A few points are enough for tools of flat and round faces, whose
volumes are checked besides; free faces (helices, sweeps, lofts) and many tools get more. The points are the same each
time: a step that was built yesterday is built today.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from typing import Any, Literal

from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepGProp import BRepGProp_Face
from OCP.GeomAbs import GeomAbs_SurfaceType
from OCP.gp import gp_Pnt, gp_Vec

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.rays import Rays
from lathed_solid.kernel.topology import faces
from lathed_solid.quantity.tolerances import NOTHING

Mode = Literal["cut", "add", "common"]
#: points for tools of plain faces, and for those that have free ones; and how many tools are looked at
PLAIN, FREE, TOOLS = 12, 48, 8
#: share of known places that may stay without an answer
UNTOLD = 0.1
_PLAIN = frozenset(
    {
        GeomAbs_SurfaceType.GeomAbs_Plane, GeomAbs_SurfaceType.GeomAbs_Cylinder, GeomAbs_SurfaceType.GeomAbs_Cone,
        GeomAbs_SurfaceType.GeomAbs_Sphere, GeomAbs_SurfaceType.GeomAbs_Torus,
    }
)  # fmt: skip

Point = tuple[float, float, float]
Asked = Callable[[Point], bool | None]


def is_free(face: Any) -> bool:
    """Whether a face is none of the plain kinds."""
    return BRepAdaptor_Surface(face, False).GetType() not in _PLAIN


def witness(mode: Mode, body: Body, tools: Sequence[Body], result: Body) -> None:
    """Raise BuildError when the result of an operation is not what its parts say at some place."""
    throw = random.Random(len(tools))
    asked = [Rays(t.shape) for t in tools]
    around = Rays(body.shape)
    in_body, in_result = around.inside, Rays(result.shape).inside
    for p in _thrown(tools, asked, around, throw):
        told = _follows(mode, in_body, [q.inside(p) for q in asked], p)
        got = in_result(p) if told is not None else None
        if told is not None and got is not None and told != got:
            raise _disagrees(mode, p, got)


def follows(mode: Literal["cut"], body: Body, result: Body, within: Sequence[Point], beside: Sequence[Point]) -> None:
    """The same at places that are known to lie ``within`` the tools, or well ``beside`` them. Raises BuildError."""
    in_body, in_result = Rays(body.shape).inside, Rays(result.shape).inside
    untold = 0
    for p in within:
        told = in_result(p)
        untold += told is None
        if told:
            raise _disagrees(mode, p, True)
    if untold > UNTOLD * len(within):
        raise BuildError("where the result's material is cannot be told", hint="slightly different sizes or places")
    for p in beside:
        if in_body(p) and in_result(p) is False:
            raise _disagrees(mode, p, False)


def _follows(
    mode: Mode, in_body: Callable[[Point], bool | None], tools: Sequence[bool | None], p: Point
) -> bool | None:
    """What must hold at a point; None where a boundary passes."""
    if None in tools:
        return None
    tool = any(tools)
    base = in_body(p)
    if base is None:
        return None
    if mode == "cut":
        return base and not tool
    return base or tool if mode == "add" else base and tool


def _disagrees(mode: Mode, p: Point, got: bool) -> BuildError:
    words = {"cut": "cut", "add": "join", "common": "common part"}[mode]
    what = "material is left where the tool passes" if got and mode == "cut" else (
        "material stands where none of the parts has any" if got else "material is missing where the parts have it"
    )  # fmt: skip
    at = ", ".join(f"{x:.4g}" for x in p)
    return BuildError(
        f"the kernel's {words} is wrong: {what}, at {at}",
        rule="every place of the result follows from its parts", hint="slightly different sizes or places",
    )  # fmt: skip


def _thrown(tools: Sequence[Body], asked: Sequence[Rays], body: Rays, throw: random.Random) -> list[Point]:
    """Places beside the tools' faces, and in the boxes that tool and body have in common."""
    pairs = list(zip(tools, asked, strict=True))
    looked = pairs if len(pairs) <= TOOLS else throw.sample(pairs, TOOLS)
    out: list[Point] = []
    for tool, own in looked:
        surfaces = faces(tool.shape)
        free = any(map(is_free, surfaces))
        many = max(PLAIN, FREE // len(looked)) if free else PLAIN
        beside = (_beside(surfaces[throw.randrange(len(surfaces))], k, throw) for k in range(many // 2))
        out += [p for p in beside if p is not None]
        low = [max(a, b) for a, b in zip(own.room[:3], body.room[:3], strict=True)]
        high = [min(a, b) for a, b in zip(own.room[3:], body.room[3:], strict=True)]
        if all(a < b for a, b in zip(low, high, strict=True)):
            for _ in range(many // 2):
                x, y, z = (throw.uniform(a, b) for a, b in zip(low, high, strict=True))
                out.append((x, y, z))
    return out


def _beside(face: Any, k: int, throw: random.Random) -> Point | None:
    """A place a little off a face, within for odd k."""
    f, a = BRepGProp_Face(face), BRepAdaptor_Surface(face)
    u = throw.uniform(a.FirstUParameter(), a.LastUParameter())
    v = throw.uniform(a.FirstVParameter(), a.LastVParameter())
    at, normal = gp_Pnt(), gp_Vec()
    f.Normal(u, v, at, normal)
    if normal.Magnitude() < NOTHING:
        return None
    n = normal.Normalized()
    away = (-1.0) ** k * 10 ** throw.uniform(-2.3, -0.7)
    return (at.X() + away * n.X(), at.Y() + away * n.Y(), at.Z() + away * n.Z())
