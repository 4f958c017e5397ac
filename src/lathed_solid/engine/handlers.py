"""What the worker does for each request: one function a kind, found by the request's class.

A handler gets the engine, the request and what to tell of each step; it returns the answer. What a seldom request
alone needs of the kernel is imported where it is needed, so that the worker is ready sooner.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from lathed_solid.engine import fit_handlers
from lathed_solid.engine import protocol as ask
from lathed_solid.engine.masses import inertia_about, mass_figures
from lathed_solid.engine.prove import looked_at, prove
from lathed_solid.engine.rebuild import Built, Engine, Progress
from lathed_solid.engine.summary import summary
from lathed_solid.engine.telling import Telling
from lathed_solid.errors import LathedError
from lathed_solid.kernel.datum_marks import datum_marks
from lathed_solid.kernel.figures import Hand, SketchMark, Thing
from lathed_solid.part import Document, SketchStep, scope
from lathed_solid.part.steps import Frame
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Sketch
from lathed_solid.standards import StandardError

Handler = Callable[[Engine, Any, Telling], Any]


def build(engine: Engine, request: ask.Build, telling: Telling) -> ask.BuildReply:
    """The meshed solid with the names of its faces and edges, told ahead; then the proof. Raises GivenUp."""
    document = request.document
    built = engine.build(document, telling)
    if request.shape:
        telling.picture(_pictured(engine, built))
    outlines, sketches = _outlines(document, built) if request.shape else ({}, ())
    report = prove(engine, document, built, telling.check)
    return ask.BuildReply(
        steps=built.steps, summary=summary(engine, document, built), report=report, outlines=outlines,
        sketches=sketches,
    )  # fmt: skip


def _pictured(engine: Engine, built: Built) -> ask.Pictured:
    """What is seen of a build; of one without a solid how its steps went."""
    from lathed_solid.kernel.edges import edge_labels
    from lathed_solid.kernel.topology import SOLID, sub_shapes, to_bytes

    body, parts = built.body, built.parts
    if body is None:
        return ask.Pictured(steps=built.steps)
    engine.meshed.mesh(body.shape)
    return ask.Pictured(
        steps=built.steps, labels=body.labels, edge_labels=edge_labels(body),
        marks=tuple(m for f, m in parts.marks.items() if body.find(f)), datums=datum_marks(parts),
        owners=tuple(n for n, b in parts.bodies.items() for _ in sub_shapes(b.shape, SOLID)),
        shape=to_bytes(body.shape),
    )  # fmt: skip


def drop(_engine: Engine, _request: ask.Drop, _progress: Progress) -> ask.Dropped:
    """What was to be given up is answered already: there is nothing to do."""
    return ask.Dropped()


def _outlines(document: Document, built: Built) -> tuple[dict[int, tuple[Edge, ...]], tuple[SketchMark, ...]]:
    """For each sketch, what lies beneath it in its plane: the body, datums, sketches before it; and the sketches.

    A sketch whose face is gone has none.
    """
    from lathed_solid.kernel import laid
    from lathed_solid.kernel.builders.planar import frame_of
    from lathed_solid.kernel.outline import outline
    from lathed_solid.kernel.sketch_marks import sketch_marks
    from lathed_solid.part.steps.planes import resolve_plane

    out: dict[int, tuple[Edge, ...]] = {}
    evaluate = scope(document)
    before: list[tuple[int, Sketch, Frame]] = []
    for number, parts in built.before.items():
        step = document.step(number)
        if not isinstance(step, SketchStep):
            continue
        try:
            plane = resolve_plane(step.plane, evaluate)
            frame = frame_of(plane, parts)
            body = outline(parts.whole, frame, cut=plane.frame is not None) if parts.whole is not None else []
            others = [e for n, figure, own in before for e in laid.curves(n, figure, own, frame)]
            out[number] = (*body, *laid.datums(parts, frame), *others[: laid.MOST])
            before.append((number, evaluate.sketch(number).sketch, frame))
        except LathedError:
            continue
    return out, sketch_marks(before)


def compare(engine: Engine, request: ask.Compare, progress: Progress) -> ask.Compared:
    """Changed faces by name, and both masses."""
    from lathed_solid.kernel.compare import changed_faces

    after, before = engine.build(request.document, progress), engine.build(request.old)
    old, new = (summary(engine, d, b).get("mass_g") for d, b in ((request.old, before), (request.document, after)))
    return ask.Compared(faces=changed_faces(before.body, after.body), masses=(old, new))


def find_volumes(engine: Engine, request: ask.FindVolumes, _progress: Progress) -> ask.Volumes:
    """The cache serves what the documents have in common."""
    from lathed_solid.engine.volumes import volumes

    return ask.Volumes(values=tuple(volumes(engine, list(request.documents))))


def measure_by_hand(engine: Engine, request: ask.MeasureByHand, _progress: Progress) -> ask.Measured:
    """Sizes of what is picked, the figures of a section, and the volume by a mesh, as asked."""
    from lathed_solid.kernel.by_hand import by_hand
    from lathed_solid.kernel.errors import MeasureError
    from lathed_solid.kernel.section import mesh_volume, section_figures

    built = engine.build(request.document)
    if built.body is None:
        raise MeasureError("there is no solid to measure")
    shape, section = built.body.shape, request.section
    return ask.Measured(
        sizes=(*by_hand(built.body, request.things), *_inertia(engine, request.document, built, request.things)),
        section=section_figures(shape, section[1], section[0]) if section else None,
        mesh=mesh_volume(shape) if request.mesh else None,
    )


def _inertia(engine: Engine, document: Document, built: Built, things: tuple[Thing, ...]) -> list[Hand]:
    """The moment of inertia about the axis of one picked thing; nothing for others, or an unknown material."""
    from lathed_solid.kernel.by_hand import axis_of

    axis = axis_of(built.body, things[0]) if built.body is not None and len(things) == 1 else None
    if axis is None:
        return []
    try:
        figures = mass_figures(document, engine.body_properties(built))
    except StandardError:
        return []
    return [Hand("inertia about its axis", inertia_about(figures, *axis), "g mm2")]


def draw_views(engine: Engine, request: ask.DrawViews, progress: Progress) -> ask.Viewed:
    """The proof with the views of the solid, for the inspection sheet."""
    from lathed_solid.kernel.views import views

    document = request.document
    built = engine.build(document, progress)
    report = prove(engine, document, built)
    found = () if built.body is None else views(built.body, report.rows)
    return ask.Viewed(report=report, views=found, summary=summary(engine, document, built))


def draw_figures(engine: Engine, request: ask.DrawFigures, progress: Progress) -> ask.Figured:
    """What a drawing is made of. Raises MeasureError where there is no solid."""
    from lathed_solid.kernel.drawing.callouts import drawn_callouts
    from lathed_solid.kernel.drawing.sides import projected, stood
    from lathed_solid.kernel.errors import MeasureError

    document = request.document
    built = engine.build(document, progress)
    report, look = looked_at(engine, document, built)
    if built.body is None or look is None:
        raise MeasureError("there is no solid to draw")
    return ask.Figured(
        report=report, summary=summary(engine, document, built), stood=stood(built.body),
        callouts=drawn_callouts(document, look, report.rows) if request.places else (),
        sides=projected(built.body, built.parts, request.sides),
    )  # fmt: skip


def find_for_shop(engine: Engine, request: ask.FindForShop, progress: Progress) -> ask.ShopFound:
    """What cutting the part asks. Raises MeasureError where there is no solid."""
    from lathed_solid.kernel.errors import MeasureError
    from lathed_solid.kernel.shop.found import shop_figures

    document = request.document
    built = engine.build(document, progress)
    report, look = looked_at(engine, document, built)
    if look is None:
        raise MeasureError("there is no solid to cut")
    return ask.ShopFound(report=report, summary=summary(engine, document, built),
                         figures=shop_figures(look, built.parts))  # fmt: skip


def find_loops(engine: Engine, request: ask.FindLoops, progress: Progress) -> ask.LoopsFound:
    """Bounds of a face or a section. Raises MeasureError."""
    from lathed_solid.kernel.errors import MeasureError
    from lathed_solid.kernel.loops import face_loops, section_loops

    built = engine.build(request.document, progress)
    if built.body is None:
        raise MeasureError("there is no solid")
    if request.side is not None:
        from lathed_solid.kernel.shadow import side_loops  # its libraries are not everybody's

        return ask.LoopsFound(loops=side_loops(built.body, request.side))
    if request.section is not None:
        at, axis = request.section
        return ask.LoopsFound(loops=section_loops(built.body, axis, at, request.chord))
    return ask.LoopsFound(loops=face_loops(built.body, request.face, request.chord))


def draw_sides(engine: Engine, request: ask.DrawSides, progress: Progress) -> ask.Sides:
    """The six sides of the solid as lines, or how it is seen aslant."""
    from lathed_solid.kernel.sides import sides

    body = engine.build(request.document, progress).body
    return ask.Sides(sides=() if body is None else sides(body, request.ways))


def export_file(engine: Engine, request: ask.Export, progress: Progress) -> ask.Exported:
    """A part that is not complete is not exported."""
    from lathed_solid.engine.part_export import export_part
    from lathed_solid.kernel.errors import ExchangeError

    built = engine.build(request.document, progress)
    if built.body is None or not built.ok:
        failed = next((s for s in built.steps if not s.ok), None)
        why = f"step {failed.number}: {failed.message}" if failed else "the part has no steps"
        raise ExchangeError("the part is not complete, so it is not exported", rule=why)
    export_part(engine, request.document, built, Path(request.path), request.chord)
    return ask.Exported(path=request.path)


HANDLERS: Mapping[type, Handler] = {
    ask.Build: build,
    ask.Drop: drop,
    ask.Export: export_file,
    ask.Compare: compare,
    ask.MeasureByHand: measure_by_hand,
    ask.DrawViews: draw_views,
    ask.DrawSides: draw_sides,
    ask.DrawFigures: draw_figures,
    ask.FindForShop: find_for_shop,
    ask.FindLoops: find_loops,
    ask.FindVolumes: find_volumes,
    ask.BuildParts: fit_handlers.build_parts,
    ask.JudgeFit: fit_handlers.judge_fit,
    ask.JudgeTravel: fit_handlers.judge_travel,
    ask.MeasureClearance: fit_handlers.measure_clearance,
    ask.ExportFit: fit_handlers.export_fit,
    ask.ReadAssembly: fit_handlers.read_assembly,
}
