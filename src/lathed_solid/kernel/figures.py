"""What is said of a solid, as plain values that can cross a pipe. Nothing here imports the kernel itself.

Lengths in mm, areas in mm2, angles in rad, second moments of area in mm4.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lathed_solid.kernel.vectors import Triple


@dataclass(frozen=True, slots=True)
class Mark:
    """A thread drawn as a symbol: a thin cylinder of ``radius`` from ``origin`` along ``way``, ``length`` long; mm."""

    origin: Triple
    way: Triple
    radius: float
    length: float


@dataclass(frozen=True, slots=True)
class DatumMark:
    """A datum as it is shown: the ``line`` runs through these places, mm; a plane's is its frame."""

    kind: Literal["plane", "axis", "point"]
    name: str
    line: tuple[Triple, ...]


@dataclass(frozen=True, slots=True)
class SketchMark:
    """A sketch as it is shown over the solid: its curves as the places that each runs through, mm."""

    number: int
    lines: tuple[tuple[Triple, ...], ...]


@dataclass(frozen=True, slots=True)
class FlatSide:
    """A side of a solid as lines (x, y, x, y) in mm: those that are seen, and those that are hidden."""

    name: str
    seen: tuple[tuple[float, float, float, float], ...]
    hidden: tuple[tuple[float, float, float, float], ...]


@dataclass(frozen=True, slots=True)
class Thing:
    """What was picked: a face, an edge or a corner by name, and where (mm)."""

    kind: str
    name: str
    point: Triple


@dataclass(frozen=True, slots=True)
class Hand:
    """One size: ``unit`` mm, mm2 or rad; ``kind`` and ``faces`` of the probe that measures it again (empty: none)."""

    label: str
    value: float
    unit: str
    kind: str = ""
    faces: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class SectionFigures:
    """mm2, mm; ``principal``: the two second moments of area in the plane about the centroid, mm4, the lesser first;
    ``low``, ``high``: the corners of the box about the cut figure.
    """

    area: float
    centre: Triple
    principal: tuple[float, float]
    low: Triple
    high: Triple


@dataclass(frozen=True, slots=True)
class View:
    """``lines``: (x0, y0, x1, y1) in mm; ``balloons``: balloon -> the middle of its face in the view."""

    name: str
    lines: tuple[tuple[float, float, float, float], ...]
    balloons: tuple[tuple[int, float, float], ...]


@dataclass(frozen=True, slots=True)
class FaceChanges:
    """Names of faces only the new solid has, only the old one had, and those of another shape or place."""

    added: tuple[str, ...]
    removed: tuple[str, ...]
    changed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NearEdge:
    """An edge of a picked flat face: its ``name``, the ``wall`` beyond it.

    A straight one: how far the pick is ``away`` from its line, and how far the face reaches from there (``span``), mm.
    A round one: how far the pick is ``away`` from its centre, and its ``radius``.
    """

    name: str
    wall: str
    away: float
    span: float = 0.0
    radius: float = 0.0


@dataclass(frozen=True, slots=True)
class Picked:
    """What lies under the pointer: the name of a face or an edge, and the point in mm; ``facts`` are words for it."""

    kind: str
    names: tuple[str, ...]
    point: Triple
    facts: str = ""
    #: on a flat face: where, in the face's own frame, mm
    place: tuple[float, float] | None = None
    #: what kind of surface a face has: plane, cylinder, cone ...; empty for an edge
    surface: str = ""
    #: on a flat face: the two nearest straight edges that are not parallel, then the round ones, nearest first
    near: tuple[NearEdge, ...] = ()
    #: of an edge: the flat face that it bounds; empty for none
    flat: str = ""
    #: of a flat face, or that of an edge: whether its own frame has Z downwards
    toppled: bool = False
    #: in a fit: the member that it belongs to
    member: str = ""
