"""What is picked in the solid, and what it can serve as."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import replace

from lathed_solid.errors import LathedError
from lathed_solid.kernel.figures import Picked, Thing
from lathed_solid.ledger import Probe
from lathed_solid.part import Document, SketchStep, StepBase, TurnedStep, scope
from lathed_solid.part.names import split
from lathed_solid.part.note_picks import Picks
from lathed_solid.part.steps import ExtrudeStep
from lathed_solid.part.steps.planes import resolve_plane

#: as many holes can be placed by clicks
MAX_PICKS = 100
#: a pick nearer to a round edge's centre than this share of its radius means the centre
CENTRE = 0.4


def served_by(picked: Picked | None) -> dict[str, str]:
    """What a pick can serve as: face, plane, axis, edge, point -> name; an edge also for the flat face beside it."""
    if picked is None or not picked.names:
        return {}
    name = picked.names[0]
    if picked.kind == "edge":
        beside = {"beside": picked.flat} if picked.flat else {}
        return {"edge": name, "axis": name, "point": name, **beside}
    if picked.kind == "datum":
        return {picked.surface: name}
    face = split(name, "+")[0]
    return {"face": face, "plane" if picked.surface == "plane" else "axis": face}


def note_picks(document: Document, picks: Sequence[Picked]) -> Picks:
    """As a note can use them: the last face with the places on it, or the last run of edges."""
    if not picks or not picks[-1].names:
        return Picks()
    last = picks[-1]
    run = list(itertools.takewhile(lambda p: p.kind == last.kind and p.names, reversed(picks)))[::-1]
    if last.kind == "edge":
        return Picks(edges=tuple(dict.fromkeys(p.names[0] for p in run)))
    face = split(last.names[0], "+")[0]
    places = tuple(p.place for p in run if split(p.names[0], "+")[0] == face and p.place is not None)
    head = face.partition("/")[0]
    step = document.step(int(head)) if head.isdigit() else None
    at, datum = _along(document, step, last) if last.surface == "cylinder" else (None, "")
    # one hole in the end of a turned part is meant on its axis
    alone = step is not None and step.kind == "turned" and len(places) < 2
    found = Picks(face, last.surface != "plane", () if alone else places, at, datum or Picks().datum)
    if last.surface != "plane" or alone:
        return found
    on_face = [p for p in run if p.place is not None and split(p.names[0], "+")[0] == face]
    walls = tuple((e.wall, e.away, e.span) for e in last.near if not e.radius)
    rims = tuple(name for p in on_face if (name := rim_meant(p)))
    sketch, points = points_on(document, face)
    return replace(found, walls=walls if len(walls) == 2 else (), rims=rims if len(rims) == len(on_face) else (),
                   sketch=sketch, points=points)  # fmt: skip


def rim_meant(picked: Picked) -> str:
    """The round edge whose centre a pick on a flat face means: near to it, or the face has no straight edges."""
    rounds = [e for e in picked.near if e.radius]
    if not rounds:
        return ""
    straight = len(rounds) < len(picked.near)
    near = rounds[0]
    return near.name if near.away < CENTRE * near.radius or not straight else ""


def points_on(document: Document, face: str) -> tuple[int | None, int]:
    """The last step's number when it is a sketch on the face of nothing but points, which are for holes; how many."""
    last = document.steps[-1] if document.steps else None
    if not isinstance(last, SketchStep) or getattr(last.plane, "face", "") != face:
        return None, 0
    of_curves = {p for c in last.sketch.curves for p in c.points}
    alone = sum(p.id not in of_curves and not p.construction for p in last.sketch.points)
    return (last.number, alone) if alone and all(c.construction for c in last.sketch.curves) else (None, 0)


def _along(document: Document, step: StepBase | None, picked: Picked) -> tuple[float | None, str]:
    """How far along a cylinder a pick lies, mm to a tenth, and the face that this is measured from; None: unknown."""
    if isinstance(step, TurnedStep):
        # the left face of a turned part stands at X = 0
        return round(picked.point[0], 1), f"{step.number}/face.left"
    if not isinstance(step, ExtrudeStep):
        return None, ""
    sketch = document.step(step.sketch)
    try:
        plane = resolve_plane(sketch.plane, scope(document)) if isinstance(sketch, SketchStep) else None
        ends = step.resolve(scope(document))
    except LathedError:
        return None, ""
    if plane is None or plane.frame is None or step.until or step.from_face:
        return None, ""
    away = (p - o for p, o in zip(picked.point, plane.frame.origin, strict=True))
    level = sum(a * n for a, n in zip(away, plane.frame.normal, strict=True))
    return round(abs(level - ends.start), 1), f"{step.number}/start"


def things_of(picks: Sequence[Picked]) -> tuple[Thing, ...]:
    """The last one or two picks, to be measured by hand."""
    return tuple(Thing(p.kind, p.names[0], p.point) for p in picks[-2:] if p.names)


def probe_between(picks: Sequence[Picked], kind: str) -> Probe | None:
    """How a callout of a kind is measured on the last two picked faces, or on the last one alone; None: not so."""
    faces = [(p.surface, split(p.names[0], "+")[0]) for p in picks if p.kind == "face" and p.names][-2:]
    if kind == "diameter" or kind == "radius":
        return Probe(kind=kind, faces=(faces[-1][1],)) if faces and faces[-1][0] == "cylinder" else None
    if len(faces) < 2:
        return None
    faces.sort(key=lambda f: f[0] != "plane")
    names = (faces[0][1], faces[1][1])
    match faces[0][0], faces[1][0]:
        case "plane", "plane":
            return Probe(kind="angle" if kind == "angle" else "distance", faces=names)
        case "plane", "cylinder":
            return Probe(kind="position", faces=names)
        case "cylinder", "cylinder":
            return Probe(kind="axes", faces=names)
    return None
