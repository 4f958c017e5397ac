"""A finished body as measuring looks at it: faces by name with all their copies, neighbours, rays, inside or outside.

A pattern names a face's copy ``60/2(20/h0.wall)``, a mirror ``70/m(...)``, a copied body ``80/c(...)``; copies of
copies nest. ``Look.find`` gives the face of a name and every copy of it, grouped by the copies' own prefix
(``wrap``).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from functools import cached_property
from typing import Any

from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.figures import Mark
from lathed_solid.kernel.look_log import ENDLESS, Log
from lathed_solid.kernel.names import Body, name_pattern, natural
from lathed_solid.kernel.parts import Parts, ThreadData
from lathed_solid.kernel.rays import Rays
from lathed_solid.kernel.surfaces import Surface, one_surface, read_surface, recognised
from lathed_solid.kernel.topology import Key, edges, faces
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.part.steps import Frame
from lathed_solid.quantity.tolerances import ANGULAR

_COPY = re.compile(r"(\d+/(?:\d+|m|c))\(")
#: what lies in one plane, mm
ON = 1e-6

Wrap = tuple[str, ...]


def unwrapped(atom: str) -> list[tuple[Wrap, str]]:
    """The names that an atom is a copy of, itself first: ``60/2(20/h0.wall)`` is ``20/h0.wall`` under ``60/2``."""
    out: list[tuple[Wrap, str]] = [((), atom)]
    wrap: Wrap = ()
    while (found := _COPY.match(atom)) and atom.endswith(")") and _closes_last(atom, found.end() - 1):
        wrap, atom = (*wrap, found[1]), atom[found.end() : -1]
        out.append((wrap, atom))
    return out


def _closes_last(text: str, opened: int) -> bool:
    depth = 0
    for i in range(opened, len(text)):
        depth += (text[i] == "(") - (text[i] == ")")
        if depth == 0:
            return i == len(text) - 1
    return False


class Look:
    """One finished body, with what was found out about it so far. Not for several threads."""

    def __init__(
        self,
        body: Body,
        parts: Parts | None = None,
        frames: Callable[[int], Frame] | None = None,
        drawn: Callable[[int, str], tuple[Triple, Triple] | None] | None = None,
    ) -> None:
        """``frames``: the plane of a sketch; ``drawn``: a place on one of its lines and the direction square to it."""
        self.body, self.parts, self._frames, self._drawn = body, parts, frames, drawn
        self._surfaces: dict[str, Surface] = {}
        #: what is being looked at, while a measurement runs that may be kept
        self.log: Log | None = None

    def frame(self, sketch: int) -> Frame:
        """The frame of a sketch's plane. Raises MeasureError."""
        if self._frames is None:
            raise MeasureError("the sketch's plane is not known here")
        found = self._frames(sketch)
        if self.log is not None:
            self.log.frames[sketch] = found
        return found

    @cached_property
    def _cores(self) -> dict[str, list[tuple[Wrap, str]]]:
        found: dict[str, list[tuple[Wrap, str]]] = {}
        for atom in self.body.by_atom:
            for wrap, core in unwrapped(atom):
                found.setdefault(core, []).append((wrap, atom))
        return found

    def find(self, name: str) -> dict[tuple[Wrap, str], list[Any]]:
        """Faces of a name or pattern and of its copies: (wrap, core name) -> faces; empty when none is left.

        Of names joined by " or " the first that is there is taken; ``@30:l1`` is what lies in a line of a sketch.
        """
        if " or " in name:
            return next((f for f in map(self.find, name.split(" or ")) if f), {})
        if name.startswith("@"):
            return self._lying_in(name)
        if self.log is not None:
            self.log.names.add(name)
        if "*" not in name:
            cores: Iterable[str] = (name,) if name in self._cores else ()
        else:
            regex = name_pattern(name)
            cores = sorted((c for c in self._cores if regex.fullmatch(c)), key=natural)
        out: dict[tuple[Wrap, str], list[Any]] = {}
        seen: set[frozenset[Key]] = set()
        for core in cores:
            for wrap, atom in sorted(self._cores[core], key=lambda w: (len(w[0]), natural("".join(w[0])))):
                there = self.body.by_atom[atom]
                same = frozenset(Key(f) for f in there)
                if same not in seen:  # a mirrored face that lies in the mirror is both
                    seen.add(same)
                    out[(wrap, core)] = there
                    self._note(there)
        return out

    def _note(self, there: Iterable[Any]) -> None:
        if self.log is not None:
            self.log.faces.update(map(Key, there))

    def has(self, atom: str) -> bool:
        """Whether a full name is on the solid."""
        if self.log is not None:
            self.log.names.add(atom)
        return atom in self.body.by_atom

    @property
    def atoms(self) -> Iterable[str]:
        """All full names there are."""
        if self.log is not None:
            self.log.everything = True
        return self.body.by_atom

    def neighbours(self, edge: Any) -> list[Any]:
        """The faces that meet at an edge."""
        found = self._beside.get(Key(edge), [])
        self._note(found)
        return found

    def thread(self, core: str) -> tuple[ThreadData, Mark] | None:
        """The data of the thread drawn on a face, and where it stands."""
        if self.log is not None:
            self.log.names.add(core)
        data = self.parts.threads.get(core) if self.parts is not None else None
        mark = self.parts.marks.get(core) if self.parts is not None else None
        return None if data is None or mark is None else (data, mark)

    def drawn(self, sketch: int, line: str) -> tuple[Triple, Triple] | None:
        """A place on a line of a sketch and the direction square to it; None where there is no such line."""
        found = None if self._drawn is None else self._drawn(sketch, line)
        if self.log is not None:
            self.log.drawn[sketch, line] = found
        return found

    def _lying_in(self, name: str) -> dict[tuple[Wrap, str], list[Any]]:
        number, _, entity = name[1:].partition(":")
        if not number.isdigit():
            return {}
        found = self.drawn(int(number), entity)
        if found is None:
            return {}
        at, normal = found
        there = []
        for face in faces(self.body.shape):
            s = self._read_face(face)
            along = s.kind == "plane" and abs(abs(dot(s.direction, normal)) - 1) < ANGULAR
            if along and abs(dot(minus(s.origin, at), normal)) < ON:
                there.append(face)
        self._note(there)
        if there:
            self._surfaces[name] = one_surface(there)
        return {((), name): there} if there else {}

    def atom(self, wrap: Wrap, core: str) -> str:
        """The full name of a copy."""
        for tag in reversed(wrap):
            core = f"{tag}({core})"
        return core

    def first_name(self, atom: str) -> str:
        """Of the full names that the same faces have, the first: a hole that a later step drilled again has two."""
        there = {Key(f) for f in self.body.by_atom.get(atom, ())}
        shared = frozenset.intersection(*(self.body.names[key] for key in there)) if there else frozenset()
        alike = [name for name in shared if {Key(f) for f in self.body.by_atom[name]} == there]
        return min(alike, key=natural, default=atom)

    def surface(self, wrap: Wrap, core: str) -> Surface:
        """The surface under a found name."""
        atom = self.atom(wrap, core)
        if self.log is not None:
            self.log.names.add(atom)
            self._note(self.body.by_atom.get(atom, ()))
        if atom not in self._surfaces:
            self._surfaces[atom] = recognised(one_surface(self.body.by_atom[atom]))
        return self._surfaces[atom]

    def read(self, face: Any) -> Surface:
        """The surface under one face, read once."""
        if self.log is not None:
            self.log.faces.add(Key(face))
        return self._read_face(face)

    def _read_face(self, face: Any) -> Surface:
        key = Key(face)
        if key not in self._read:
            self._read[key] = recognised(read_surface(face))
        return self._read[key]

    @cached_property
    def _read(self) -> dict[Key, Surface]:
        return {}

    @cached_property
    def _beside(self) -> dict[Key, list[Any]]:
        """The faces that meet at each edge."""
        out: dict[Key, list[Any]] = {}
        for face in faces(self.body.shape):
            for edge in edges(face):
                out.setdefault(Key(edge), []).append(face)
        return out

    @cached_property
    def _rays(self) -> Rays:
        return Rays(self.body.shape)

    def hits(self, origin: Triple, way: Triple, reach: float) -> list[float]:
        """Where a ray of length ``reach`` (mm) meets the boundary, in order."""
        if self.log is not None:
            self.log.ray(origin, way, reach)
        return self._rays.hits(origin, way, reach)

    def free(self, origin: Triple, way: Triple) -> bool:
        """Whether nothing of the part lies before a place at it, however far."""
        if self.log is not None:
            self.log.ray(origin, way)
        return not self._rays.blocked(origin, way)

    def passes(self, origin: Triple, way: Triple) -> None:
        """What is looked at depends on what there is along a line."""
        if self.log is not None:
            self.log.ray(origin, way, back=ENDLESS)

    def inside(self, point: Triple) -> bool:
        """Whether there is material at a point."""
        found = bool(self._rays.inside(point))
        if self.log is not None:
            self.log.points[point] = found
        return found


def turned_about(s: Surface, origin: Triple, axis: Triple) -> bool:
    """Whether a face is one that turning about this axis makes: a round one about it, or a flat square to it."""
    if s.kind == "plane":
        return abs(abs(dot(s.direction, axis)) - 1) < ANGULAR
    return coaxial(s, origin, axis)


def coaxial(s: Surface, origin: Triple, axis: Triple, tolerance: float = 1e-6) -> bool:
    """Whether a round face is about this axis (a sphere: whether its centre lies on it)."""
    if s.kind not in ("cylinder", "cone", "torus", "sphere"):
        return False
    if s.kind != "sphere" and abs(abs(dot(s.direction, axis)) - 1) > ANGULAR:
        return False
    away = minus(s.origin, origin)
    off = minus(away, times(axis, dot(away, axis)))
    return dot(off, off) < tolerance * tolerance
