"""What the worker does for each request about a fit; see ``handlers``."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from pathlib import Path

from lathed_solid.engine import fit_protocol as ask
from lathed_solid.engine.crew import cores
from lathed_solid.engine.fits import BuiltPart, FitEngine
from lathed_solid.engine.protocol import Exported
from lathed_solid.engine.rebuild import Engine, Progress
from lathed_solid.fit.document import PartSource
from lathed_solid.fit.edits import with_placements


@cache
def fit_engine(engine: Engine) -> FitEngine:
    """The fit engine over an engine; one each."""
    return FitEngine(engine, cores())


def build_parts(engine: Engine, request: ask.BuildParts, progress: Progress) -> ask.PartsBuilt:
    """Each part with its solid, meshed."""
    shop, news, shapes = fit_engine(engine), [], []
    for i, source in enumerate(request.parts):
        progress(i + 1, i, len(request.parts))
        told, shape = _news(source, shop.part(source))
        news.append(told)
        shapes.append(shape)
    return ask.PartsBuilt(parts=tuple(news), shape=b"".join(shapes))


def _news(source: PartSource, part: BuiltPart) -> tuple[ask.BuiltPartNews, bytes]:
    from lathed_solid.kernel.edges import edge_labels
    from lathed_solid.kernel.topology import to_bytes
    from lathed_solid.kernel.triangles import mesh

    told = ask.BuiltPartNews(
        name=source.name, sha256=source.sha256, message=part.message, mass=part.mass, report=part.report,
        features=part.features if part.shape is not None else {},
    )  # fmt: skip
    body = part.built.body
    if body is None:
        return told, b""
    mesh(body.shape)
    data = to_bytes(body.shape)
    more = {
        "labels": tuple(body.labels), "edge_labels": tuple(edge_labels(body)), "bytes": len(data),
        "marks": tuple(m for f, m in part.built.parts.marks.items() if body.find(f)),
    }  # fmt: skip
    return told.model_copy(update=more), data


def _told(progress: Progress) -> Callable[[int, int], None]:
    """How many are done, told as the one in hand."""
    return lambda done, total: progress(done, max(done - 1, 0), total)


def judge_fit(engine: Engine, request: ask.JudgeFit, progress: Progress) -> ask.FitJudged:
    """All overlaps, pair by pair."""
    from lathed_solid.kernel.topology import to_bytes

    shop = fit_engine(engine)
    pairs = request.pairs if request.pairs is not None else shop.meeting(request.fit)
    found = shop.overlaps(request.fit, pairs, _told(progress))
    shapes = [b"" if shape is None else to_bytes(shape) for _, shape in found]
    return ask.FitJudged(overlaps=tuple(overlap for overlap, _ in found), lengths=tuple(map(len, shapes)),
                         pairs=len(pairs), shape=b"".join(shapes))  # fmt: skip


def judge_travel(engine: Engine, request: ask.JudgeTravel, progress: Progress) -> ask.TravelJudged:
    """Overlaps of pairs of which one moves, and the clearance asked for, at each moment."""
    shop, moving = fit_engine(engine), frozenset(request.moving)
    moments = [with_placements(request.fit, placements) for placements in request.frames]
    pairs = [[p for p in shop.meeting(whole) if moving & set(p)] for whole in moments]
    over = shop.travel(moments, pairs, _told(progress))
    clear = () if request.pair is None else tuple(c.mm for c in shop.clearances(moments, *request.pair))
    return ask.TravelJudged(overlaps=tuple(tuple(o for o, _ in found) for found in over), clearances=clear)


def measure_clearance(engine: Engine, request: ask.MeasureClearance, _progress: Progress) -> ask.ClearanceFound:
    """The least distance between two members."""
    return ask.ClearanceFound(clearance=fit_engine(engine).clearance(request.fit, request.a, request.b))


def export_fit(engine: Engine, request: ask.ExportFit, _progress: Progress) -> Exported:
    """A fit of which every part is whole, as one file."""
    from lathed_solid.engine.fit_export import export

    export(fit_engine(engine), request.fit, Path(request.path))
    return Exported(path=request.path)


def read_assembly(_engine: Engine, request: ask.ReadAssembly, _progress: Progress) -> ask.AssemblyRead:
    """The components of a STEP assembly, each distinct body once."""
    from lathed_solid.kernel.assembly import read_assembly as read
    from lathed_solid.kernel.assembly import step_of
    from lathed_solid.kernel.topology import Key

    bodies: dict[Key, int] = {}
    data: list[bytes] = []
    names: list[str] = []
    components = []
    for it in read(Path(request.path)):
        key = Key(it.shape)
        if key not in bodies:
            bodies[key] = len(data)
            data.append(step_of(it.shape))
            names.append(it.part)
        rows = tuple(tuple(float(x) for x in row) for row in it.matrix)
        components.append(ask.Component(name=it.name, colour=it.colour, body=bodies[key], matrix=rows))
    return ask.AssemblyRead(path=request.path, components=tuple(components), names=tuple(names),
                            lengths=tuple(map(len, data)), shape=b"".join(data))  # fmt: skip
