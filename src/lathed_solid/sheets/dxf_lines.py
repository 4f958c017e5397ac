"""The linework of a DXF drawing: what is drawn, without dimensions, texts and hatches. Only a worker imports this."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import ezdxf
from ezdxf.path import make_path

from lathed_solid.sheets.dxf import UNITS, count_entities

KINDS = ("LINE", "LWPOLYLINE", "POLYLINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE")
BESIDE = ("DIMENSION", "TEXT", "MTEXT", "LEADER", "MULTILEADER", "HATCH")
DASHED = ("CENTER", "DASH", "HIDDEN", "PHANTOM", "DIVIDE", "DOT")
#: how far a chord may be from its curve, mm
FINE = 0.02
Run = tuple[list[tuple[float, float]], float, bool]


def strokes(path: Path) -> tuple[float, float, list[Run]]:
    """Width and height in mm, and the strokes from the lower left corner: points, width in mm, whether dashed."""
    document = ezdxf.readfile(path)
    space = document.modelspace()
    count_entities(document, space)
    _, factor = UNITS.get(int(document.header.get("$INSUNITS", 4)), ("mm", 1.0))
    found: list[Run] = []
    # what stands on a layer of dimensions or texts belongs to them: leaders, underlines, frames
    beside = {e.dxf.layer for e in space if e.dxftype() in BESIDE}
    drawn = list(_unfolded(space, 0))
    for entity in [e for e in drawn if e.dxf.layer not in beside] or drawn:
        curve = make_path(entity)
        points = [(v.x * factor, v.y * factor) for v in curve.flattening(FINE / factor, 8)]
        if len(points) > 1 and all(math.isfinite(v) for p in points for v in p):
            found.append((points, _width(document, entity), _dashed(document, entity)))
    if not found:
        raise ValueError("the drawing has no linework")
    xs = [x for run, _, _ in found for x, _ in run]
    ys = [y for run, _, _ in found for _, y in run]
    left, low = min(xs), min(ys)
    moved = [([(x - left, y - low) for x, y in run], wide, dashed) for run, wide, dashed in found]
    return max(xs) - left, max(ys) - low, moved


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
