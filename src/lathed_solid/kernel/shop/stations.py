"""Stations of a turned part: its outer and inner round faces about its axis, from its datum end on."""

from __future__ import annotations

import re
from collections.abc import Iterable

from lathed_solid.kernel.drawing.centre_lines import round_faces
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.shop.figures import Station
from lathed_solid.kernel.surfaces import Surface, hollow, one_surface
from lathed_solid.kernel.topology import Key
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.quantity.tolerances import ANGULAR

#: a face of a real thread
_HELIX = re.compile(r"(\d+)/ring\.helix\.")
#: faces about one axis are so near to it, mm
NEAR = 1e-4


def stations(body: Body, parts: Parts, origin: Triple, z: Triple) -> tuple[Station, ...]:
    """From the end at ``origin`` inwards (``z`` points out of it), the outer ones first."""
    name_of = {Key(f): atom for atom, faces in body.by_atom.items() for f in faces}
    found = []
    for s in round_faces(body):
        away = minus(s.origin, origin)
        off = minus(away, times(z, dot(away, z)))
        if abs(dot(s.direction, z)) < 1 - ANGULAR or dot(off, off) > NEAR * NEAR:
            continue
        ends = sorted((-dot(minus(c, origin), z), r) for c, _, r in s.circles)
        if not ends:
            continue
        (start, first), (end, last) = ends[0], ends[-1]
        if end - start < NEAR:  # a cone that ends in its tip has one rim
            low, high = (-v + dot(origin, z) for v in s.extent(z)[::-1])
            start, end, last = low, high, 0.0 if abs(start - low) < NEAR else first
            first = first if last == 0.0 else 0.0
        face = name_of[Key(s.faces[0])]
        thread = _thread(parts, face)
        found.append(Station(start, end, 2 * first, 2 * last, hollow(s), face, thread))
    found += _real_threads(body, origin, z)
    return tuple(sorted(found, key=lambda t: (t.inner, t.start, t.end)))


def _real_threads(body: Body, origin: Triple, z: Triple) -> Iterable[Station]:
    """Real threads, each by its crest, which is a cylinder's."""
    flanks: dict[int, list[Surface]] = {}
    for atom, faces in body.by_atom.items():
        found = _HELIX.match(atom)
        if found is not None:
            flanks.setdefault(int(found[1]), []).append(one_surface(faces))
    for step, surfaces in flanks.items():
        round_ones = [s for s in surfaces if s.kind == "cylinder" and abs(dot(s.direction, z)) > 1 - ANGULAR]
        if not round_ones:
            continue
        inner = hollow(round_ones[0])
        # a screw is known by its crest, a nut by its root: the major diameter of either is the greater one
        major = 2 * max(s.radius for s in round_ones)
        reaches = [s.extent(z) for s in surfaces]
        low, high = min(r[0] for r in reaches), max(r[1] for r in reaches)
        level = dot(origin, z)
        yield Station(level - high, level - low, major, major, inner, f"{step}/ring.helix", "", step)


def _thread(parts: Parts, face: str) -> str:
    names: Iterable[str] = face.split("+")
    return next((d.designation for n in names if (d := parts.threads.get(n)) is not None), "")
