"""Proving a built document: every callout measured where it shows on the solid, with its duties, then judged."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

from lathed_solid.engine.geometry import judge_geometry
from lathed_solid.engine.rebuild import Built, Engine
from lathed_solid.engine.relations import relations
from lathed_solid.engine.telling import Check
from lathed_solid.errors import LathedError
from lathed_solid.kernel.builders.planar import frame_of
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.measure import OUTLINED, measure
from lathed_solid.kernel.thin_walls import thin_walls
from lathed_solid.kernel.vectors import Triple
from lathed_solid.kernel.walls import alike
from lathed_solid.ledger import Callout, Probe
from lathed_solid.part import Document, scope
from lathed_solid.part.steps import Frame
from lathed_solid.proof import Plan, Report, judge_mass, plan
from lathed_solid.proof.derived import expected
from lathed_solid.proof.findings import Finding
from lathed_solid.proof.report import Standing
from lathed_solid.proof.resolve import Shown, values_of, verdict_row
from lathed_solid.quantity import QuantityError
from lathed_solid.sketch.model import Line

#: ways of measuring that give no sign: it is that of the expression
UNSIGNED = frozenset(
    {"distance", "position", "near_side", "far_side", "coaxial", "axes", "apart", "height", "stretch", "gap", "slot"}
)


def prove(engine: Engine, document: Document, built: Built, check: Check = lambda: None) -> Report:
    """The report of ``document`` on its built solid, worked out once. ``check`` looks now and then whether it is
    wanted, and raises what it likes when it is not.
    """
    return looked_at(engine, document, built, check)[0]


def looked_at(
    engine: Engine, document: Document, built: Built, check: Check = lambda: None
) -> tuple[Report, Look | None]:
    """The same with the solid as measuring has looked at it: what it has read of faces is not read again."""
    if engine.proved is None or engine.proved[:2] != (built.key, document):
        look = look_of(document, built)
        engine.proved = (built.key, document, _proof(engine, document, built, look, check), look)
    return engine.proved[2:]


def _proof(engine: Engine, document: Document, built: Built, look: Look | None, check: Check) -> Report:
    plans = plan(document)
    if look is not None:
        engine.kept.look_at(look)
    shown = {}
    for c, p in zip(document.callouts, plans, strict=True):
        check()
        shown[c.balloon] = _shown(engine, document, c, p, built, look)
    if look is not None:
        _count_more(document, shown, look)
        judge_geometry(document, shown, look)
    values = values_of(document, plans, shown)
    rows = tuple(
        verdict_row(document, c, p, shown[c.balloon], values.get(c.balloon, []))
        for c, p in zip(document.callouts, plans, strict=True)
    )
    check()
    mass = judge_mass(document, engine.volumes(built))
    related = () if look is None else relations(document, engine.kept, look)
    standing = tuple(
        Standing(body=n, pieces=body.pieces, meant=n in document.in_pieces)
        for n, body in built.parts.bodies.items() if body.pieces > 1
    )  # fmt: skip
    complete = built.ok and built.body is not None
    check()
    thin = () if look is None else thin_walls(look)
    return Report(rows=rows, mass=mass, complete=complete, relations=related, standing=standing, thin=thin)


def look_of(document: Document, built: Built) -> Look | None:
    """The built solid as measuring looks at it, with the document's sketches; None where there is no solid."""

    def frame(sketch: int) -> Frame:
        try:
            plane = scope(document).sketch(sketch).plane
            return frame_of(plane, built.before.get(sketch, built.parts))
        except LathedError as exc:
            raise MeasureError(f"the plane of sketch {sketch} is gone: {exc.what}") from None

    def drawn(sketch: int, entity: str) -> tuple[Triple, Triple] | None:
        try:
            f, figure = frame(sketch), scope(document).sketch(sketch).sketch
        except LathedError:
            return None
        line = figure.by_id.get(entity)
        if not isinstance(line, Line):
            return None
        (ax, ay), (bx, by) = figure.at(line.start), figure.at(line.end)
        size = math.hypot(bx - ax, by - ay)
        nx, ny = (ay - by) / size, (bx - ax) / size

        def space(x: float, y: float, origin: Triple) -> Triple:
            return tuple(o + x * p + y * q for o, p, q in zip(origin, f.x, f.y, strict=True))  # type: ignore[return-value]

        return space(ax, ay, f.origin), space(nx, ny, (0.0, 0.0, 0.0))

    return None if built.body is None else Look(built.body, built.parts, frame, drawn)


def _count_more(document: Document, shown: dict[int, list[Shown]], look: Look) -> None:
    """Like holes on the same face that no callout speaks of are more places than the note says."""
    claimed = {f for found in shown.values() for s in found for f in (*s.faces, *s.at)}
    for callout in document.callouts:
        if callout.role != "hole diameter" or callout.duty("places") is None:
            continue
        found = shown[callout.balloon]
        more = alike(look, [f for s in found for f in s.at], claimed)
        if more:
            words = f"{len(more)} more of the same size on the same face: {', '.join(more[:3])}"
            beside = Finding("places", holds=False, reason=words)
            first = next(i for i, s in enumerate(found) if s.value is not None)
            found[first] = replace(found[first], findings=(*found[first].findings, beside))


def _shown(
    engine: Engine, document: Document, callout: Callout, p: Plan, built: Built, look: Look | None
) -> list[Shown]:
    """Every showing as measured. Only where none of them is left on the solid is it told why."""
    if look is None:
        return [Shown(s, None, reason="there is no solid yet") for s in p.showings]
    out = []
    for showing in p.showings:
        try:
            wanted = expected(document, showing, callout)
            size = abs(wanted) if showing.probe.kind in UNSIGNED else wanted
            run = partial(measure, look, showing.probe, size)
            reaching = showing.probe.kind in OUTLINED
            found = engine.kept.measured(look, (showing.probe, size), run, outlines=reaching)
            value = math.copysign(found.value, wanted) if showing.probe.kind in UNSIGNED else found.value
            out.append(Shown(showing, value, found.found, found.faces, found.at, found.findings))
        except MeasureError as exc:
            out.append(Shown(showing, None, reason=exc.message))
        except QuantityError as exc:
            out.append(Shown(showing, None, reason=exc.what))
    if all(s.value is None for s in out):
        out = [_with_culprit(engine, document, s, built) for s in out]
    return out


def _with_culprit(engine: Engine, document: Document, shown: Shown, built: Built) -> Shown:
    taken = _taken_by(engine, document, shown.showing.probe, built)
    return Shown(shown.showing, None, reason=shown.reason + taken)


def _taken_by(engine: Engine, document: Document, probe: Probe, built: Built) -> str:
    """Which step took the first missing face of a probe away; empty when none was ever there."""
    if built.body is None:
        return ""
    names = (f.partition(" or ")[0] for f in probe.faces if f != "-")
    missing = next((f for f in names if not built.body.find(f)), None)
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
