"""What was led along a helix, told from its faces alone: the screw motion, and the section that was led.

A surface swept by a screw motion has v . n = 0 everywhere, with v = u + w x p the velocity of a point p: its normals
belong to one linear complex (Pottmann, Wallner, Computational Line Geometry, 2001, section 4.2). w and u are fitted to
points and normals of all faces of the coil: w is the axis' direction, w x u a point of it, w . u the rise per radian.
With the motion known every point is led back into one half plane through the axis, where the section shows.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepTools import BRepTools
from OCP.gp import gp_Pnt, gp_Vec
from OCP.TopAbs import TopAbs_Orientation

from lathed_solid.kernel.case import Case, Result
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look
from lathed_solid.proof.findings import Finding
from lathed_solid.quantity.tolerances import NOTHING, RELATIVE_READ

#: places looked at each way of a face
PLACES = 8
#: how far the faces may be from one screw motion, and a section from a line or arc, mm
TRUE = 1e-3
#: rad
SQUARE = 1e-6


@dataclass(frozen=True)
class Screw:
    """``axis`` a unit direction, ``origin`` a point of it, ``lead`` mm a turn, negative for a left hand."""

    axis: np.ndarray
    origin: np.ndarray
    lead: float

    def section(self, points: np.ndarray) -> np.ndarray:
        """(n, 2): along the axis (of places one lead apart the one near the first) and off it, mm."""
        away = points - self.origin
        level = away @ self.axis
        off = away - np.outer(level, self.axis)
        r = np.linalg.norm(off, axis=1)
        x = off[0] / r[0]
        turn = np.arctan2(off @ np.cross(self.axis, x), off @ x)
        back = level - self.lead * turn / (2 * math.pi)
        pitch = abs(self.lead)
        back = back[0] + (back - back[0] + pitch / 2) % pitch - pitch / 2
        return np.column_stack([back, r])


def screw(look: Look, prefix: str) -> Screw:
    """The motion that led a coil's faces. Raises MeasureError where they tell none."""
    found = look.find(f"{prefix}.**")
    if not found:
        raise MeasureError(f"nothing of the coil {prefix} is on the solid")
    samples = [_sampled(face) for faces in found.values() for face in faces]
    p, n = (np.concatenate([s[k] for s in samples]) for k in (0, 1))
    middle = p.mean(axis=0)
    size = float(np.abs(p - middle).max())
    q = (p - middle) / size
    a, b = np.cross(q, n), n
    inverse = np.linalg.pinv(b.T @ b)
    form = a.T @ a - a.T @ b @ inverse @ b.T @ a
    values, ways = np.linalg.eigh(form)
    if values[1] < RELATIVE_READ * values[2]:
        raise MeasureError("the faces of the coil do not tell its axis")
    w = ways[:, 0]
    u = -inverse @ b.T @ a @ w
    off = a @ w + b @ u
    if float(np.abs(off).max()) * size > TRUE:
        raise MeasureError("the faces of the coil are not led by one screw motion")
    return Screw(w, middle + size * np.cross(w, u), 2 * math.pi * size * float(w @ u))


def _sampled(face: Any) -> tuple[np.ndarray, np.ndarray]:
    """Places of a face's surface within its bounds, and the unit normals out of the material there."""
    surface = BRepAdaptor_Surface(face, False)
    low_u, high_u, low_v, high_v = BRepTools.UVBounds_s(face)
    at, du, dv = gp_Pnt(), gp_Vec(), gp_Vec()
    points, normals = [], []
    outward = -1.0 if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED else 1.0
    for u in np.linspace(low_u, high_u, PLACES + 2)[1:-1]:
        for v in np.linspace(low_v, high_v, PLACES + 2)[1:-1]:
            surface.D1(float(u), float(v), at, du, dv)
            n = du.Crossed(dv)
            if n.Magnitude() > NOTHING:
                n.Normalize()
                points.append((at.X(), at.Y(), at.Z()))
                normals.append((outward * n.X(), outward * n.Y(), outward * n.Z()))
    return np.array(points), np.array(normals)


def pitch(look: Look, prefix: str) -> tuple[float, list[Finding]]:
    """How far the coil rises in a turn, mm, and its hand. Raises MeasureError."""
    lead = screw(look, prefix).lead
    return abs(lead), [Finding("pitch", abs(lead)), Finding("hand", word="right" if lead > 0 else "left")]


def _section(case: Case) -> tuple[Screw, np.ndarray]:
    wrap, core = case.groups[0][0]
    motion = screw(case.look, core.rpartition(".")[0])
    points = np.concatenate([_sampled(f)[0] for f in case.look.surface(wrap, core).faces])
    return motion, motion.section(points)


def radii(case: Case) -> Result:
    """The radius of an arc of the section: a circle fitted to it."""
    _, at = _section(case)
    matrix = np.column_stack([2 * at, np.ones(len(at))])
    x, *_ = np.linalg.lstsq(matrix, (at**2).sum(axis=1), rcond=None)
    r = math.sqrt(float(x[2] + x[0] ** 2 + x[1] ** 2))
    if np.abs(np.hypot(at[:, 0] - x[0], at[:, 1] - x[1]) - r).max() > TRUE:
        raise MeasureError("the section of the coil is no arc there")
    return [r], [Finding("form", word="round")], 1


def ordinates(case: Case) -> Result:
    """How far a line of the section that runs along the axis stands off it: the radius at a groove's bottom."""
    motion, at = _section(case)
    origin, way = case.in_sketch()
    away = origin - motion.origin
    off = away - (away @ motion.axis) * motion.axis
    if abs(float(way @ motion.axis)) > SQUARE or float(np.linalg.norm(off)) > TRUE:
        raise MeasureError("the dimension does not count from the coil's axis")
    if np.ptp(at[:, 1]) > TRUE:
        raise MeasureError("the section of the coil does not run along its axis there")
    return [float(at[:, 1].mean())], [], 1


def across(*, air: bool) -> Callable[[Case], Result]:
    """Along the axis from one flank to the other, through the ``air`` of a groove or the material of a ridge.

    A flank stands once in every turn, so the way is the one that begins in the air, or in the material, modulo the
    lead.
    """

    def found(case: Case) -> Result:
        (wrap, core), (_, other) = (case.groups[k][0] for k in (0, 1))
        motion = screw(case.look, core.rpartition(".")[0])
        sides = [[_sampled(f) for f in case.look.surface(wrap, name).faces] for name in (core, other)]
        points = [np.concatenate([p for p, _ in side]) for side in sides]
        normals = np.concatenate([n for _, n in sides[0]])
        levels = motion.section(np.concatenate(points))[:, 0]
        a, b = (_level(z, abs(motion.lead)) for z in np.split(levels, [len(points[0])]))
        out = float((normals @ motion.axis).mean())
        ahead = (out > 0) == air
        return [(b - a if ahead else a - b) % abs(motion.lead)], [], 1

    return found


def _level(levels: np.ndarray, pitch: float) -> float:
    """Where a flank that is square to the axis stands along it, modulo the pitch. Raises MeasureError if it leans."""
    turns = np.exp(2j * math.pi * levels / pitch)
    mean = turns.mean()
    if np.abs(np.angle(turns / mean)).max() * pitch / (2 * math.pi) > TRUE:
        raise MeasureError("the flank of the coil is not square to its axis")
    return float(np.angle(mean)) * pitch / (2 * math.pi)
