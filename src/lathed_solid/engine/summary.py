"""The figures of a built part in the shape that ``build --json`` prints."""

from __future__ import annotations

from typing import Any

from lathed_solid.engine.masses import mass_figures
from lathed_solid.engine.rebuild import Built, Engine
from lathed_solid.kernel.exchange import in_part_datum
from lathed_solid.kernel.topology import EDGE, FACE, SOLID, box, sub_shapes
from lathed_solid.part import Document
from lathed_solid.standards import StandardError


def summary(engine: Engine, document: Document, built: Built) -> dict[str, Any]:
    """The stable shape of ``build --json``; inertia about the centre of mass, in g mm2."""

    figures = engine.properties(built)
    steps = [
        {"number": s.number, "kind": s.kind, "ok": s.ok, "ms": round(s.ms, 3), "message": s.message,
         "cached": s.cached, "suspended": s.suspended}
        for s in built.steps
    ]  # fmt: skip
    out: dict[str, Any] = {"ok": built.ok and built.body is not None, "unit": document.unit, "steps": steps}
    if figures is None or built.body is None:
        return out | {"volume_mm3": 0.0, "solids": 0, "faces": 0, "edges": 0}
    masses: dict[str, Any] = {"mass_g": None, "centre_mm": list(figures.centre), "inertia_g_mm2": None}
    try:
        masses = mass_figures(document, engine.body_properties(built))
    except StandardError as exc:
        out["material_message"] = exc.message
    shape = built.body.shape
    low, high = box(in_part_datum(built.parts).shape)
    return out | {
        "volume_mm3": figures.volume,
        "area_mm2": figures.area,
        **masses,
        "box_mm": [list(low), list(high)],
        "solids": len(sub_shapes(shape, SOLID)),
        "faces": len(sub_shapes(shape, FACE)),
        "edges": len(sub_shapes(shape, EDGE)),
    }
