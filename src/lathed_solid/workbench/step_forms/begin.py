"""What a new step begins with: taken from what is picked in the solid, and from what the route has so far.

What cannot be guessed is left empty for the form to ask for.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Literal

from lathed_solid.part import DatumPlane, Document, SketchStep, StepBase
from lathed_solid.part.steps import ExtrudeStep, MirrorStep, PatternStep
from lathed_solid.part.steps.catalogue import CATALOGUE

Picked = Mapping[str, str]
#: fields of the new step
Make = Callable[[Document, Picked], dict[str, Any]]


class Missing(ValueError):
    """What must be picked or drawn before such a step can be begun."""


def small(document: Document, mm: str, inch: str) -> str:
    """A first size, by the unit of the sheet."""
    return mm if document.unit == "mm" else inch


def sketches(document: Document) -> list[int]:
    """Numbers of all sketches."""
    return [s.number for s in document.steps if isinstance(s, SketchStep)]


def last_sketch(document: Document) -> int:
    """The last sketch. Raises Missing."""
    found = sketches(document)
    if not found:
        raise Missing("draw a sketch first (Ctrl+K)")
    return found[-1]


def makers(document: Document) -> list[StepBase]:
    """Steps that made material."""
    return [s for s in document.steps if s.kind in CATALOGUE and CATALOGUE[s.kind].repeats]


def last_made(document: Document) -> tuple[int, ...]:
    """The last step that made something to repeat; what was repeated last together with its copies. Raises Missing."""
    copied = [s for s in document.steps if isinstance(s, MirrorStep | PatternStep) and s.steps]
    made = max((*makers(document), *copied), key=lambda s: s.number, default=None)
    if made is None:
        raise Missing("there is nothing to repeat yet")
    return (*made.steps, made.number) if isinstance(made, MirrorStep | PatternStep) else (made.number,)


def just_made(document: Document, kind: Literal["plane", "axis", "point"]) -> str:
    """The datum that the last step made, when it made one of a kind; empty otherwise."""
    last = document.steps[-1] if document.steps else None
    return f"{last.number}/{kind}" if last is not None and last.kind == kind else ""


def halving_plane(document: Document) -> str:
    """The datum plane to whose both sides the first extrusion reaches, else YZ."""
    for step in document.steps:
        if isinstance(step, ExtrudeStep) and step.side == "both":
            base = document.step(step.sketch)
            if isinstance(base, SketchStep) and isinstance(base.plane, DatumPlane) and base.plane.offset.strip() == "0":
                return base.plane.plane
    return "YZ"


def first_body(document: Document) -> int:
    """The first body. Raises Missing."""
    for s in document.steps:
        if s.kind in CATALOGUE and CATALOGUE[s.kind].begins_body:
            return s.number
    raise Missing("there is no body yet")


def picked_edges(_document: Document, picked: Picked) -> dict[str, Any]:
    """The edges that were picked last, or the face; nothing else: edges are gathered by clicks, faces or a rule."""
    if picked.get("edges"):
        return {"edges": tuple(picked["edges"].split("; "))}
    if picked.get("edge"):
        return {"edges": (picked["edge"],)}
    return {"faces": (picked["face"],)} if picked.get("face") else {}


def picked_cylinder(picked: Picked) -> str:
    """The round face that is picked. Raises Missing."""
    if not picked.get("face") or not picked.get("axis"):
        raise Missing("pick the round face first")
    return picked["face"]


def end_beside(document: Document, face: str) -> str:
    """A flat face beside a round one: the left face of a turned part, the end of an extrusion, else XY."""
    made = face.partition("/")[0]
    step = document.step(int(made)) if made.isdigit() else None
    if isinstance(step, ExtrudeStep):
        return f"{made}/end"
    return f"{made}/face.left" if step is not None and step.kind == "turned" else "XY"


def picked_face(picked: Picked) -> str:
    """The face that is picked. Raises Missing."""
    if not picked.get("face"):
        raise Missing("pick the face first")
    return picked["face"]


def main_axis(document: Document) -> str:
    """The axis just made, else X for a turned part and Z for others."""
    return just_made(document, "axis") or ("X" if turned(document) else "Z")


def turned(document: Document) -> bool:
    """Whether a part begins with a turned table."""
    return bool(document.steps) and document.steps[0].kind == "turned"
