"""What a fit is judged by, as plain values: overlaps, clearances, masses. The engine finds them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lathed_solid.fit.document import Fit
from lathed_solid.fit.placement import Array

Triple = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Overlap:
    """Two members that have material in common: mm3, and its middle in the room; ``about``: estimated by points."""

    a: str
    b: str
    volume_mm3: float
    middle: Triple
    about: bool = False


@dataclass(frozen=True, slots=True)
class Clearance:
    """The least distance between two members, mm, and where on each."""

    a: str
    b: str
    mm: float
    at_a: Triple
    at_b: Triple


@dataclass(frozen=True, slots=True)
class PartMass:
    """A part's mass (g), centre (mm), and inertia about its centre (g mm2, rows), in its own frame."""

    grams: float
    centre: Triple
    inertia: tuple[Triple, Triple, Triple]


@dataclass(frozen=True, slots=True)
class Mass:
    """Of all members together: g, mm, g mm2 about the centre. ``without``: members whose material is not known."""

    grams: float
    centre: Triple
    inertia: tuple[Triple, Triple, Triple]
    without: tuple[str, ...] = ()


def mass(whole: Fit, parts: Mapping[str, PartMass]) -> Mass:
    """The mass of all members where they stand: m = sum m_i, c = sum m_i c_i / m, and by the parallel axis theorem
    I = sum R I_i R' + m_i (|d|^2 E - d d'), d from the common centre.
    """
    known = [m for m in whole.members if m.part in parts]
    found = [(parts[m.part], m.placement.rotation, np.array(m.placement.at)) for m in known]
    total = sum(p.grams for p, _, _ in found)
    centres = [r @ np.array(p.centre) + t for p, r, t in found]
    centre = sum((p.grams * c for (p, _, _), c in zip(found, centres, strict=True)), np.zeros(3)) / (total or 1.0)
    inertia = np.zeros((3, 3))
    for (p, r, _), c in zip(found, centres, strict=True):
        d = c - centre
        inertia += r @ np.array(p.inertia) @ r.T + p.grams * (float(d @ d) * np.eye(3) - np.outer(d, d))
    without = tuple(m.name for m in whole.members if m.part not in parts)
    return Mass(float(total), _triple(centre), (_triple(inertia[0]), _triple(inertia[1]), _triple(inertia[2])), without)


def _triple(v: Array) -> Triple:
    return float(v[0]), float(v[1]), float(v[2])


@dataclass(frozen=True, slots=True)
class Row:
    """One line of the parts list: a part, how often, of what, g each (None: the material is not known)."""

    number: int
    part: str
    count: int
    material: str
    grams: float | None
    standard: str
    members: tuple[str, ...]


def parts_list(whole: Fit, masses: Mapping[str, PartMass]) -> tuple[Row, ...]:
    """Parts in the order in which their members stand first; standard parts last."""
    members: dict[str, list[str]] = {}
    for m in whole.members:
        members.setdefault(m.part, []).append(m.name)
    order = sorted(members, key=lambda n: bool(whole.by_part[n].standard))
    return tuple(
        Row(i, n, len(members[n]), whole.by_part[n].document.material,
            masses[n].grams if n in masses else None, whole.by_part[n].standard, tuple(members[n]))
        for i, n in enumerate(order, 1)
    )  # fmt: skip
