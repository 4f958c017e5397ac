"""Bodies with named faces, and how names pass through operations.

A face name is a set of atoms ``step/entity`` (``10/sA``, ``60/h0.wall``). Names come from the sketch
entities that generate faces and are carried by the kernel's own history of each operation, never by index.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.gp import gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopExp import TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.properties import face_share, quick_volume, sign_of
from lathed_solid.kernel.topology import FACE, SOLID, Key, drained, faces, sub_shapes
from lathed_solid.turned import Segment

Names = dict[Key, frozenset[str]]


@dataclass(frozen=True)
class Bore:
    """A round tool: its half section ``segments`` about ``way`` from ``origin`` (mm), and the names they make."""

    origin: tuple[float, float, float]
    way: tuple[float, float, float]
    segments: tuple[Segment, ...]
    names: tuple[str, ...]

    def moved(self, motion: gp_Trsf, rename: Callable[[str], str]) -> Bore:
        """The same elsewhere, its faces renamed."""
        at, way = gp_Pnt(*self.origin).Transformed(motion), gp_Vec(*self.way).Transformed(motion).Normalized()
        return Bore(
            (at.X(), at.Y(), at.Z()), (way.X(), way.Y(), way.Z()), self.segments, tuple(map(rename, self.names))
        )  # fmt: skip


@dataclass(frozen=True)
class Body:
    """A shape and the names of its faces."""

    shape: Any
    names: Names = field(repr=False)
    #: shares of the volume of faces that are known already, taken as facing forward (``properties.face_share``)
    shares: dict[Key, float] = field(repr=False, compare=False, default_factory=dict)
    #: what this body is, when it is a round tool
    bore: Bore | None = field(repr=False, compare=False, default=None)
    #: what ``builders.direct_bore`` has found out about its faces
    known: dict[Key, Any] = field(repr=False, compare=False, default_factory=dict)

    @cached_property
    def labels(self) -> list[str]:
        """Names in face order, atoms joined by ``+``; empty for a face without one."""
        return ["+".join(sorted(self.names.get(Key(f), ()))) for f in faces(self.shape)]

    @cached_property
    def by_atom(self) -> dict[str, list[Any]]:
        """Faces carrying each atom."""
        found: dict[str, list[Any]] = {}
        for face in faces(self.shape):
            for atom in self.names.get(Key(face), ()):
                found.setdefault(atom, []).append(face)
        return found

    @cached_property
    def size(self) -> float:
        """Volume in mm3 by the quick rule, for the checks between steps; only faces not known yet are integrated."""
        if not self.names:
            return quick_volume(self.shape)
        total, present = 0.0, {}
        explorer = TopExp_Explorer(self.shape, FACE)
        while explorer.More():
            face = TopoDS.Face(explorer.Current())
            explorer.Next()
            sign = sign_of(face)
            key = Key(face)
            share = self.shares.get(key)
            if share is None:
                share = sign * face_share(face)
            present[key] = share
            total += sign * share
        self.shares.clear()
        self.shares.update(present)
        return total

    @cached_property
    def pieces(self) -> int:
        """How many solids it stands in."""
        return len(sub_shapes(self.shape, SOLID))

    def find(self, pattern: str) -> dict[str, list[Any]]:
        """Faces by atom for a name, or for a pattern with ``*`` or ``**``; empty when the name is gone."""
        if "*" not in pattern:
            return {pattern: self.by_atom[pattern]} if pattern in self.by_atom else {}
        regex = name_pattern(pattern)
        return {a: self.by_atom[a] for a in sorted(self.by_atom, key=natural) if regex.fullmatch(a)}


def name_pattern(pattern: str) -> re.Pattern[str]:
    """A regular expression for a name in which ``*`` stands for a number, ``**`` for anything."""
    many = (r"\d+".join(re.escape(p) for p in piece.split("*")) for piece in pattern.split("**"))
    return re.compile(".+".join(many))


def natural(text: str) -> tuple[Any, ...]:
    """A sort key under which h2 comes before h10."""
    return tuple(int(p) if p.isdigit() else p for p in re.split(r"(\d+)", text))


def carried(names: Names, modified: Callable[[Any], Any], removed: Callable[[Any], bool], result: Any) -> Names:
    """Names of ``result``'s faces, through an operation's history."""
    present = {Key(f) for f in faces(result)}
    out: Names = {}
    for key, atoms in names.items():
        if removed(key.shape):
            continue
        for image in drained(modified(key.shape)) or [key.shape]:
            k = Key(image)
            if k in present:
                out[k] = out.get(k, frozenset()) | atoms
    return out


def swept(shape: Any, names: Names) -> Body:
    """The body a sweep made: its one solid, out of the compound that may be around it."""
    solids = sub_shapes(shape, SOLID)
    return Body(solids[0] if len(solids) == 1 else shape, names)


def moved(body: Body, location: TopLoc_Location, rename: Callable[[str], str]) -> Body:
    """The body elsewhere (a rigid motion), its faces renamed; nothing is copied."""
    shape = body.shape.Moved(location)
    pairs = zip(faces(body.shape), faces(shape), strict=True)
    names = {Key(b): frozenset(map(rename, atoms)) for a, b in pairs if (atoms := body.names.get(Key(a)))}
    return Body(shape, names, bore=body.bore and body.bore.moved(location.Transformation(), rename))


def transformed(body: Body, motion: gp_Trsf, rename: Callable[[str], str]) -> Body:
    """The body through any motion, mirroring too, as a copy."""
    maker = BRepBuilderAPI_Transform(body.shape, motion, True)
    shape = maker.Shape()
    names = {
        Key(maker.ModifiedShape(k.shape)): frozenset(map(rename, atoms)) for k, atoms in body.names.items()
    }  # fmt: skip
    solids = sub_shapes(shape, SOLID)
    bore = body.bore and body.bore.moved(motion, rename)
    return Body(solids[0] if len(solids) == 1 else shape, names, bore=bore)


def merged(bodies: Iterable[Body]) -> Names:
    """The names of several bodies together."""
    out: Names = {}
    for body in bodies:
        out.update(body.names)
    return out
