"""What steps on picked regions share: from names to closed loops of exact pieces, ready for the kernel.

The arrangement and SciPy are imported where they are used: reading a document needs neither.
"""

from __future__ import annotations

import dataclasses
import itertools
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from lathed_solid.part.steps.resolved import ResolvedPlane, ResolvedSketch
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.part.steps.sketch import PickError
from lathed_solid.quantity.tolerances import LINEAR

if TYPE_CHECKING:
    from lathed_solid.sketch.regions import Loop, Piece, Region

XY = tuple[float, float]
RegionName = Annotated[str, Field(min_length=2, max_length=4000)]


@dataclass(frozen=True, slots=True)
class PieceFigure:
    """One boundary piece in mm: ``kind`` line, arc, ellipse or spline; ``figures`` as that kind needs.

    arc: centre x, y, radius; ellipse: centre x, y, major x, y, minor; spline: t0, t1, knots, poles;
    bezier: t0, t1, three poles.
    ``left`` tells whether it runs counter-clockwise about its centre.
    """

    entity: str
    kind: str
    start: XY
    middle: XY
    end: XY
    left: bool = True
    figures: tuple[Any, ...] = ()


@dataclass(frozen=True, slots=True)
class RegionFigure:
    """Outer loop and holes; ``area`` mm2; ``moment_x`` and ``moment_y``: integrals of x and y over it, mm3."""

    outer: tuple[PieceFigure, ...]
    holes: tuple[tuple[PieceFigure, ...], ...]
    area: float
    moment_x: float
    moment_y: float

    @property
    def free(self) -> bool:
        """Whether a spline bounds it."""
        return any(p.kind in ("spline", "bezier") for loop in (self.outer, *self.holes) for p in loop)


@dataclass(frozen=True, slots=True)
class Picked:
    """The picked regions of a solved sketch, on its plane."""

    plane: ResolvedPlane
    regions: tuple[RegionFigure, ...]


def picked(evaluate: Resolver, sketch: int, names: tuple[str, ...]) -> tuple[Picked, ResolvedSketch]:
    """Regions of sketch step ``sketch`` by name (all that is material, when none), and the resolved sketch.

    Raises PickError, SketchError.
    """
    from lathed_solid.sketch.regions import pick, solid_parts

    resolved = evaluate.sketch(sketch)
    found = resolved.regions
    if not found:
        raise _open(sketch, resolved)
    chosen = [pick(found, n) for n in names] if names else solid_parts(found)
    figures = tuple(_figure(r) for r in dict.fromkeys(chosen))
    return Picked(resolved.plane, figures), resolved


def _open(number: int, resolved: ResolvedSketch) -> PickError:
    """Why a sketch encloses nothing: the narrowest gap of its open ends, where there is one."""
    from lathed_solid.sketch.check import findings

    gaps = [f for f in findings(resolved.sketch) if f.kind == "open end" and f.gap is not None]
    if not gaps:
        return PickError(f"sketch {number} encloses nothing", hint="draw a closed loop; the check lists the open ends")
    least = min(gaps, key=lambda f: f.gap or 0.0)
    who = " and ".join(least.entities)
    return PickError(
        f"the region of sketch {number} is open by {least.gap:.4g} mm at {who}",
        where=f"({least.at.real:.5g}, {least.at.imag:.5g})", hint="close gaps, in the sketch",
    )  # fmt: skip


def _figure(region: Region) -> RegionFigure:
    loops = (region.outer, *region.holes)
    mx, my = (sum(m) for m in zip(*(_moments(loop) for loop in loops), strict=True))
    outer, *holes = (_whole(loop) for loop in loops)
    return RegionFigure(outer, tuple(holes), region.area, mx, my)


def chain_figure(sketch: Any) -> tuple[PieceFigure, ...]:
    """The drawn curves of a sketch as one chain of pieces, each from where the last ended. Raises PickError."""
    from lathed_solid.sketch.geometry import shape
    from lathed_solid.sketch.regions import Piece

    pieces = []
    for c in sketch.curves:
        if not c.construction:
            curve = shape(sketch, c.id)
            pieces.append(Piece(curve, 0.0, 1.0))
    if not pieces:
        raise PickError("the sketch has no curve to follow", hint="draw the path")
    ordered = [pieces.pop(0)]
    while pieces:
        for i, p in enumerate(pieces):
            ahead, behind = ordered[-1].end, ordered[0].start
            back = Piece(p.curve, p.t1, p.t0)
            found = next((x for x in (p, back) if abs(x.start - ahead) < LINEAR), None)
            if found is not None:
                ordered.append(found)
            elif (found := next((x for x in (p, back) if abs(x.end - behind) < LINEAR), None)) is not None:
                ordered.insert(0, found)
            else:
                continue
            pieces.pop(i)
            break
        else:
            raise PickError("the path does not hang together", hint="one open or closed chain of curves")
    return tuple(_piece(p) for p in ordered)


def _whole(loop: Loop) -> tuple[PieceFigure, ...]:
    """The pieces of a loop; one piece when a closed curve is all of it."""
    if len({p.curve.id for p in loop}) == 1 and loop[0].curve.closed:
        first = _piece(loop[0])
        return (dataclasses.replace(first, middle=first.end, end=first.start),)
    return tuple(_piece(p) for p in loop)


def _piece(p: Piece) -> PieceFigure:
    from scipy.interpolate import BSpline, CubicSpline

    from lathed_solid.sketch.geometry import Oval, Round, Smooth
    from lathed_solid.sketch.lettering import Quadratic

    c = p.curve
    s, m, e = ((z.real, z.imag) for z in (p.start, p.middle, p.end))
    if isinstance(c, Round):
        return PieceFigure(c.id, "arc", s, m, e, bool(p.t1 > p.t0), (c.centre.real, c.centre.imag, c.radius))
    if isinstance(c, Oval):
        figures = (c.centre.real, c.centre.imag, c.major.real, c.major.imag, c.minor)
        return PieceFigure(c.id, "ellipse", s, m, e, bool(p.t1 > p.t0), figures)
    if isinstance(c, Smooth):
        cubic, axes = c.curve, []
        for k in (0, 1):
            one = CubicSpline(cubic.x, cubic(cubic.x)[:, k], bc_type="natural")
            axes.append(BSpline.from_power_basis(one, bc_type="natural"))
        poles = tuple(zip(map(float, axes[0].c), map(float, axes[1].c), strict=True))
        return PieceFigure(
            c.id, "spline", s, m, e, bool(p.t1 > p.t0), (float(p.t0), float(p.t1), tuple(map(float, axes[0].t)), poles)
        )
    if isinstance(c, Quadratic):
        poles = tuple((z.real, z.imag) for z in (c.a, c.b, c.c))
        return PieceFigure(c.id, "bezier", s, m, e, bool(p.t1 > p.t0), (float(p.t0), float(p.t1), poles))
    return PieceFigure(c.id, "line", s, m, e)


def _moments(loop: Loop) -> tuple[float, float]:
    """Integrals of x and y over what a loop encloses: half of x^2 dy and -half of y^2 dx along it (Green)."""
    import numpy as np

    nodes, weights = np.polynomial.legendre.leggauss(16)
    mx = my = 0.0
    for p in loop:
        for a, b in itertools.pairwise(p.curve.stretches(p.t0, p.t1)):
            for node, weight in zip(nodes, weights, strict=True):
                t = (a + b) / 2 + (b - a) / 2 * node
                at = t % 1.0 if p.curve.closed and not 0 <= t <= 1 else t
                z, d = p.curve.at(at), p.curve.along(at) * (b - a) / 2 * weight
                mx += z.real**2 / 2 * d.imag
                my -= z.imag**2 / 2 * d.real
    return mx, my
