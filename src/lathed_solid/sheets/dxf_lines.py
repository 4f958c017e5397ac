"""The linework of a DXF drawing: what is drawn, without dimensions, texts and hatches. Only a worker imports this."""

from __future__ import annotations

import math
from typing import Any

from ezdxf.path import make_path

from lathed_solid.sheets.dxf import Drawing

KINDS = ("LINE", "LWPOLYLINE", "POLYLINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE")
BESIDE = ("DIMENSION", "TEXT", "MTEXT", "LEADER", "MULTILEADER", "HATCH")
DASHED = ("CENTER", "DASH", "HIDDEN", "PHANTOM", "DIVIDE", "DOT")
#: how far a chord may be from its curve, mm
FINE = 0.02
Run = tuple[list[tuple[float, float]], float, bool]


def strokes(drawing: Drawing) -> tuple[list[Run], list[Run]]:
    """A page's strokes from the lower left corner (points in mm, width in mm, whether dashed), and the lines that
    belong to dimensions and texts: leaders, underlines, frames. Raises ValueError for a page without lines.
    """
    document, factor, low = drawing.document, drawing.factor, drawing.low
    layers = {e.dxf.layer for e in drawing.space if e.dxftype() in BESIDE}
    drawn = list(_unfolded(drawing.space, 0))
    found, beside = ([e for e in drawn if (e.dxf.layer in layers) == own] for own in (False, True))
    if not found:
        found, beside = drawn, []
    lines, others = (list(_runs(document, group, factor, low)) for group in (found, beside))
    if not lines:
        raise ValueError("the drawing has no linework")
    return lines, others


def _runs(document: Any, entities: Any, factor: float, low: tuple[float, float]) -> Any:
    for entity in entities:
        curve = make_path(entity)
        points = [((v.x - low[0]) * factor, (v.y - low[1]) * factor) for v in curve.flattening(FINE / factor, 8)]
        if len(points) > 1 and all(math.isfinite(v) for p in points for v in p):
            yield points, _width(document, entity), _dashed(document, entity)


def _unfolded(entities: Any, deep: int) -> Any:
    """Entities that draw lines, those of blocks among them."""
    for e in entities:
        if e.dxftype() in KINDS:
            yield e
        elif e.dxftype() == "INSERT" and deep < 20:
            yield from _unfolded(e.virtual_entities(), deep + 1)


def _width(document: Any, e: Any) -> float:
    """Line width in mm; that of the layer where the entity has none of its own, 0 where none is told."""
    weight = int(e.dxf.get("lineweight", -1))
    if weight < 0 and e.dxf.layer in document.layers:
        weight = int(document.layers.get(e.dxf.layer).dxf.get("lineweight", -3))
    return max(weight, 0) / 100


def _dashed(document: Any, e: Any) -> bool:
    name = str(e.dxf.get("linetype", "BYLAYER")).upper()
    if name == "BYLAYER" and e.dxf.layer in document.layers:
        name = str(document.layers.get(e.dxf.layer).dxf.get("linetype", "CONTINUOUS")).upper()
    return name.startswith(DASHED)
