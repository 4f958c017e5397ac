"""Places of the plane as complex numbers x + iy: what several modules do with them."""

from __future__ import annotations

from lathed_solid.quantity.tolerances import RELATIVE_READ


def mirrored(z: complex, a: complex, b: complex) -> complex:
    """The mirror image of ``z`` in the line through ``a`` and ``b``, which must differ."""
    return a + ((z - a) / (b - a)).conjugate() * (b - a)


def xy(z: complex) -> tuple[float, float]:
    """The coordinates of a place."""
    return z.real, z.imag


def parallel(u: complex, v: complex, within: float = RELATIVE_READ) -> bool:
    """Whether two directions, of any length, run along one line, to within an angle of this sine."""
    return abs((u.conjugate() * v).imag) <= within * abs(u) * abs(v)


def components(w: complex, u: complex, v: complex) -> tuple[float, float]:
    """The a, b of w = a u + b v; ``u`` and ``v`` must not be parallel."""
    cross = (u.conjugate() * v).imag
    return (w.conjugate() * v).imag / cross, (u.conjugate() * w).imag / cross


def crossing(p: complex, u: complex, q: complex, v: complex) -> complex:
    """Where the line through ``p`` along ``u`` meets that through ``q`` along ``v``, which must not be parallel."""
    return p + u * components(q - p, u, v)[0]
