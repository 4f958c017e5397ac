"""The figures of a built part in the shape that ``build --json`` prints."""

from __future__ import annotations

from lathed_solid.engine.masses import mass_figures
from lathed_solid.engine.rebuild import Built, Engine
from lathed_solid.engine.results import StepFigures, Summary
from lathed_solid.kernel.exchange import in_part_datum
from lathed_solid.kernel.topology import EDGE, FACE, SOLID, box, sub_shapes
from lathed_solid.part import Document
from lathed_solid.standards import StandardError


def summary(engine: Engine, document: Document, built: Built) -> Summary:
    """The stable shape of ``build --json``; inertia about the centre of mass, in g mm2."""

    figures = engine.properties(built)
    steps: list[StepFigures] = [
        {"number": s.number, "kind": s.kind, "ok": s.ok, "ms": round(s.ms, 3), "message": s.message,
         "cached": s.cached, "suspended": s.suspended}
        for s in built.steps
    ]  # fmt: skip
    out: Summary = {
        "ok": built.ok and built.body is not None, "unit": document.unit, "steps": steps,
        "volume_mm3": 0.0, "solids": 0, "faces": 0, "edges": 0,
    }  # fmt: skip
    if figures is None or built.body is None:
        return out
    shape = built.body.shape
    low, high = box(in_part_datum(built.parts).shape)
    out["volume_mm3"], out["area_mm2"] = figures.volume, figures.area
    out["box_mm"] = [list(low), list(high)]
    out["solids"], out["faces"], out["edges"] = (len(sub_shapes(shape, kind)) for kind in (SOLID, FACE, EDGE))
    try:
        out.update(mass_figures(document, engine.body_properties(built)))
    except StandardError as exc:
        out.update({"mass_g": None, "centre_mm": list(figures.centre), "inertia_g_mm2": None})
        out["material_message"] = exc.message
    return out
