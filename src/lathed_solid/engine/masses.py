"""Mass, centre and inertia of bodies of one or several materials.

m = sum m_i      c = sum m_i c_i / m      I = sum I_i + m_i (|d_i|^2 E - d_i d_i'),  d_i = c_i - c
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lathed_solid.engine.results import MassFigures
from lathed_solid.kernel.properties import Properties
from lathed_solid.part import Document
from lathed_solid.standards import material


def mass_figures(document: Document, bodies: Mapping[int, Properties]) -> MassFigures:
    """Mass (g), centre (mm), inertia about it, its principal moments and axes (rows), and inertia about the origin
    (g mm2). Raises StandardError for a material that is not known.
    """
    parts = [(p.volume * rho, rho * np.array(p.inertia), np.array(p.centre))
             for n, p in bodies.items() for rho in (material(document.material_of(n)).density,)]  # fmt: skip
    mass = sum(m for m, _, _ in parts)
    centre = sum((m * c for m, _, c in parts), np.zeros(3)) / mass
    about = sum((i + _shifted(m, c - centre) for m, i, c in parts), np.zeros((3, 3)))
    values, axes = np.linalg.eigh((about + about.T) / 2)
    return {
        "mass_g": float(mass),
        "centre_mm": [float(x) for x in centre],
        "inertia_g_mm2": _rows(about),
        "principal_g_mm2": [float(v) for v in values],
        "principal_axes": _rows(axes.T),
        "inertia_origin_g_mm2": _rows(about + _shifted(mass, centre)),
    }


def inertia_about(figures: MassFigures, origin: Any, direction: Any) -> float:
    """Moment of inertia about an axis, g mm2: d' I_c d + m |r|^2, r from the centre square to the axis."""
    d = np.array(direction, float)
    away = np.array(figures["centre_mm"]) - np.array(origin, float)
    square = away - d * float(away @ d)
    return float(d @ np.array(figures["inertia_g_mm2"]) @ d) + (figures["mass_g"] or 0.0) * float(square @ square)


def _shifted(mass: float, d: Any) -> Any:
    """What a mass at a distance adds (the parallel axis theorem)."""
    return mass * (float(d @ d) * np.eye(3) - np.outer(d, d))


def _rows(matrix: Any) -> list[list[float]]:
    return [[float(x) for x in row] for row in matrix]
