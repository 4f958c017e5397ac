"""Places of the plane as complex numbers x + iy: what several modules do with them."""

from __future__ import annotations


def mirrored(z: complex, a: complex, b: complex) -> complex:
    """The mirror image of ``z`` in the line through ``a`` and ``b``, which must differ."""
    return a + ((z - a) / (b - a)).conjugate() * (b - a)


def xy(z: complex) -> tuple[float, float]:
    """The coordinates of a place."""
    return z.real, z.imag
