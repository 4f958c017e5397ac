"""Edges by name: the two faces that meet there, then the faces at the ends, then the place among those still alike.

Pieces of one edge that a vertex of no third face cuts are one edge; seams and degenerate edges are none. A reference
finds its edge by subset of atoms, so that merged faces keep their edges. Where it cannot tell, it says so with the
candidates: nothing is guessed.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

from OCP.BRep import BRep_Tool

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.topology import VERTEX, Key, box, edges, faces, sub_shapes
from lathed_solid.part.names import EdgeParts, read_edge

#: faces and edges whose borders are kept: an edit leaves most as they are
KEPT_BORDERS = 8192
#: centres of edges nearer than this along an axis are in no order, mm
APART = 1e-3


@dataclass
class NamedEdge:
    """One edge (in pieces) between two faces; ``ends``: labels of third faces at its open ends, sorted."""

    faces: tuple[str, str]
    ends: tuple[str, ...]
    pieces: list[Any]
    name: str = ""

    @cached_property
    def middle(self) -> tuple[float, float, float]:
        """The centre of the box around it, mm."""
        ends = [box(piece) for piece in self.pieces]
        low = [min(e[0][k] for e in ends) for k in range(3)]
        high = [max(e[1][k] for e in ends) for k in range(3)]
        return ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2)


def edges_of(body: Body) -> list[NamedEdge]:
    """All edges of a body with their names, worked out once a body."""
    known = body.__dict__.get("named_edges")
    if known is None:
        known = body.__dict__["named_edges"] = _name_all(body)
    return known


def edge_labels(body: Body) -> list[str]:
    """Names in edge order, empty for seams."""
    names = {Key(piece): e.name for e in edges_of(body) for piece in e.pieces}
    return [names.get(Key(e), "") for e in edges(body.shape)]


def named_edges(body: Body, name: str) -> list[Any]:
    """The pieces of the edge of that name. Raises BuildError, with candidates, when it is gone or ambiguous."""
    wanted = read_edge(name)
    if wanted is None:
        raise BuildError("this is no name of an edge", received=name, hint="pick the edge in the solid")
    found = [e for e in edges_of(body) if _joins(e, wanted)]
    if wanted.ends and len(found) > 1:
        found = _by_ends(found, wanted)
    if wanted.axis and len(found) > 1:
        ordered = in_order(found, wanted.axis)
        if ordered is not None and len(ordered) == wanted.many:
            found = [ordered[wanted.place - 1]]
        else:
            raise _unclear(name, found)
    elif wanted.ends and len(found) > 1:
        raise _unclear(name, found)
    if not found:
        near = [e.name for e in edges_of(body) if any(_has(e, side) for side in wanted.faces)]
        raise BuildError(f"the edge {name} is gone", hint="pick it again", missing=name, candidates=tuple(near[:40]))
    return [piece for e in found for piece in e.pieces]


def _unclear(name: str, found: list[NamedEdge]) -> BuildError:
    return BuildError(
        f"the edge {name} could be {len(found)} edges now",
        missing=name,
        hint="pick one of them",
        candidates=tuple(e.name for e in found),
    )


def _atoms(label: str) -> frozenset[str]:
    return frozenset(label.split("+"))


def _has(e: NamedEdge, side: frozenset[str]) -> bool:
    return any(side <= _atoms(f) for f in e.faces)


def _joins(e: NamedEdge, wanted: EdgeParts) -> bool:
    (a, b), (p, q) = wanted.faces, (_atoms(f) for f in e.faces)
    return (a <= p and b <= q) or (a <= q and b <= p)


def _by_ends(found: list[NamedEdge], wanted: EdgeParts) -> list[NamedEdge]:
    """Those whose ends fit best; all that fit equally well."""
    ends = [_atoms(e) for e in wanted.ends]

    def fit(e: NamedEdge) -> int:
        return sum(any(w <= _atoms(label) for label in e.ends) for w in ends)

    best = max(fit(e) for e in found)
    return [e for e in found if fit(e) == best] if best else found


def in_order(found: list[NamedEdge], axis: str) -> list[NamedEdge] | None:
    """Edges in order along an axis; None when two are level there."""
    k = "xyz".index(axis)
    ordered = sorted(found, key=lambda e: e.middle[k])
    gaps = [b.middle[k] - a.middle[k] for a, b in itertools.pairwise(ordered)]
    return ordered if all(g > APART for g in gaps) else None


def _name_all(body: Body) -> list[NamedEdge]:
    beside: dict[Key, list[str]] = {}
    at: dict[Key, set[str]] = {}
    for face, label in zip(faces(body.shape), body.labels, strict=True):
        own = Key(face)
        for edge in _edges(own):
            beside.setdefault(edge, []).append(label)
        for vertex in _vertices(own):
            at.setdefault(vertex, set()).add(label)
    by_faces: dict[tuple[str, str], list[Any]] = {}
    for key, labels in beside.items():
        if len(labels) == 2 and labels[0] != labels[1] and all(labels) and not BRep_Tool.Degenerated_s(key.shape):
            a, b = sorted(labels)
            by_faces.setdefault((a, b), []).append(key.shape)
    out: list[NamedEdge] = []
    for pair, pieces in by_faces.items():
        group = [_ended(pair, chain, at) for chain in _chains(pair, pieces, at)]
        _distinguish(group)
        out += group
    return out


@lru_cache(maxsize=KEPT_BORDERS)
def _edges(face: Key) -> tuple[Key, ...]:
    return tuple(Key(edge) for edge in edges(face.shape))


@lru_cache(maxsize=KEPT_BORDERS)
def _vertices(shape: Key) -> tuple[Key, ...]:
    return tuple(Key(vertex) for vertex in sub_shapes(shape.shape, VERTEX))


def _chains(pair: tuple[str, str], pieces: list[Any], at: dict[Key, set[str]]) -> list[list[Any]]:
    """Pieces joined across vertices that touch no third face."""
    if len(pieces) == 1:
        return [pieces]
    root = list(range(len(pieces)))

    def find(i: int) -> int:
        while root[i] != i:
            root[i] = root[root[i]]
            i = root[i]
        return i

    seen: dict[Key, int] = {}
    for i, piece in enumerate(pieces):
        for key in _vertices(Key(piece)):
            if at[key] <= set(pair):
                root[find(i)] = find(seen.setdefault(key, i))
    groups: dict[int, list[Any]] = {}
    for i, piece in enumerate(pieces):
        groups.setdefault(find(i), []).append(piece)
    return list(groups.values())


def _ended(pair: tuple[str, str], chain: list[Any], at: dict[Key, set[str]]) -> NamedEdge:
    third = {label for piece in chain for v in _vertices(Key(piece)) for label in at[v] - set(pair) if label}
    return NamedEdge(pair, tuple(sorted(third)), chain)


def _distinguish(group: list[NamedEdge]) -> None:
    """Give each edge of two faces the shortest name that tells it from the others."""
    base = "|".join(group[0].faces)
    if len(group) == 1:
        group[0].name = base
        return
    by_ends: dict[tuple[str, ...], list[NamedEdge]] = {}
    for e in group:
        by_ends.setdefault(e.ends, []).append(e)
    for ends, same in by_ends.items():
        name = f"{base}[{','.join(ends)}]" if ends else base
        if len(same) == 1 and ends:
            same[0].name = name
            continue
        for axis in "xyz":
            ordered = in_order(same, axis)
            if ordered is not None:
                for i, e in enumerate(ordered, 1):
                    e.name = f"{name}~{axis}{i}/{len(ordered)}"
                break
