"""Parts that the tests of steps build on, and a short way to build and weigh them."""

from __future__ import annotations

from typing import Any

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import DatumPlane, Document


def block(x: float = 60, y: float = 40, z: str = "20") -> Document:
    """A block with one corner at the origin: faces 20/l1 (y = 0), 20/l2 (x), 20/l3 (y), 20/l4 (x = 0), start, end."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (x, y))
    return ls.extrude(ls.sketch(ls.new_part("block"), d), 10, z)


def circle(part: Document, plane: Any, x: float, y: float, r: float) -> Document:
    d = ls.Draft()
    d.circle(d.point(x, y), r)
    return ls.sketch(part, d, plane)


def rectangle(part: Document, plane: Any, a: tuple[float, float], b: tuple[float, float]) -> Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, a, b)
    return ls.sketch(part, d, plane)


def polygon(part: Document, plane: Any, corners: list[tuple[float, float]]) -> Document:
    d = ls.Draft()
    ls.shapes.polyline(d, corners, closed=True)
    return ls.sketch(part, d, plane)


def shaft(*rows: tuple[float, float]) -> Document:
    """A turned shaft of (diameter, length); stations A, B, C ..."""
    stations = [ls.Station(key=chr(65 + i), diameter=str(d), length=str(n)) for i, (d, n) in enumerate(rows)]
    return ls.turned(ls.new_part("shaft"), stations)


def bush(outside: float, bore: float, length: float) -> Document:
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter=str(bore), depth=None),))]
    return ls.turned(ls.new_part("bush"), [ls.Station(key="A", diameter=str(outside), length=str(length))], bores=bores)


def at(z: float) -> DatumPlane:
    return DatumPlane(offset=str(z))


def built(part: Document) -> ls.Solid:
    solid = ls.build(part)
    assert solid.messages == []
    return solid


def volume(part: Document) -> float:
    return built(part).volume


def refused(part: Document, words: str) -> Any:
    """The last step fails with these words; the result of it."""
    result = ls.build(part).built.steps[-1]
    assert not result.ok
    assert words in result.message, result.message
    return result


def near(value: float, rel: float = 1e-9) -> Any:
    return pytest.approx(value, rel=rel)
