"""Proving a built document: every callout measured on the solid, then judged."""

from __future__ import annotations

from lathed_solid.kernel.engine import Built, Engine
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.measure import Measured, measure
from lathed_solid.kernel.relations import relations
from lathed_solid.ledger import Callout, Probe, limits
from lathed_solid.part import Document
from lathed_solid.proof import Plan, Report, Verdict, VerdictRow, chamfer_angle_fits, judge, judge_mass, plan


def prove(engine: Engine, document: Document, built: Built) -> Report:
    """The report of ``document`` on its built solid."""
    rows = tuple(
        _row(engine, document, callout, p, built) for callout, p in zip(document.callouts, plan(document), strict=True)
    )
    mass = judge_mass(document, {n: p.volume for n, p in engine.body_properties(built).items()})
    related = relations(document, built)
    return Report(rows=rows, mass=mass, complete=built.ok and built.body is not None, relations=related)


def _row(engine: Engine, document: Document, callout: Callout, p: Plan, built: Built) -> VerdictRow:
    bounds = limits(callout, document.general)
    reading = document.reading(callout.balloon)
    uncertainty = reading.uncertainty if reading and callout.drive == "measured" else 0.0
    found, reason = _measure(engine, document, callout, p, built)
    verdict: Verdict = "not found"
    if found is not None:
        verdict = judge(found.value, bounds.low, bounds.high, uncertainty)
        if callout.count > 1 and _counted(p) and found.found != callout.count:
            verdict, reason = "out", f"{found.found} places found, the note says {callout.count}"
        if not chamfer_angle_fits(callout, found.angle):
            verdict, reason = "out", "the leg fits, the angle does not"
    return VerdictRow(
        balloon=callout.balloon,
        note=callout.note,
        meaning=callout.meaning,
        kind=callout.kind,
        nominal=callout.nominal,
        low=bounds.low,
        high=bounds.high,
        limits_source=bounds.source,
        uncertainty=uncertainty,
        measured=None if found is None else found.value,
        verdict=verdict,
        reason=reason,
        used_by=p.used_by,
        faces=() if found is None else found.faces,
    )


def _measure(
    engine: Engine, document: Document, callout: Callout, p: Plan, built: Built
) -> tuple[Measured | None, str]:
    """The worst of the plan's probes; its reason when one of them finds nothing."""
    if not p.probes:
        return None, p.reason
    body = built.body
    if body is None:
        return None, "there is no solid yet"
    results = []
    for probe in p.probes:
        try:
            results.append(measure(body, probe, callout.nominal, built.parts))
        except MeasureError as exc:
            return None, exc.message + _taken_by(engine, document, probe, built)
    worst = max(results, key=lambda m: abs(m.value - callout.nominal))
    faces = tuple(dict.fromkeys(f for m in results for f in m.faces))
    instances = sum(m.found for m in results)
    return Measured(worst.value, instances, faces, worst.angle), ""


def _taken_by(engine: Engine, document: Document, probe: Probe, built: Built) -> str:
    """Which step took the first missing face of a probe away; empty when none was ever there."""
    if built.body is None:
        return ""
    missing = next((f for f in probe.faces if not built.body.find(f)), None)
    if missing is None:
        return ""
    there = None
    for k, step in enumerate(document.steps):
        if step.suspended or step.kind == "sketch":
            continue
        # steps before this one stand in the engine's cache
        body = engine.build(document.model_copy(update={"steps": document.steps[: k + 1]})).body
        has = body is not None and bool(body.find(missing))
        if there and not has:
            return f": step {step.number} ({step.title()}) took it away"
        there = has
    return ""


def _counted(p: Plan) -> bool:
    """Whether the number of places can be told: instances under one pattern, or several fields."""
    return any("*" in f for probe in p.probes for f in probe.faces) or len(p.probes) > 1
