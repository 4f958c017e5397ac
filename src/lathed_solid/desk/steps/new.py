"""New steps of every kind, begun from what is picked in the solid and from what the route has so far.

A new step comes after the row where work stands. What cannot be guessed is left empty for the form to ask for.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from lathed_solid.part import Document, SketchStep, StepBase
from lathed_solid.part.steps import KINDS
from lathed_solid.part.steps.catalogue import CATALOGUE

Picked = Mapping[str, str]
#: fields of the new step
Make = Callable[[Document, Picked], dict[str, Any]]


class Missing(ValueError):
    """What must be picked or drawn before such a step can be begun."""


@dataclass(frozen=True)
class NewStep:
    """A kind of step as the user meets it."""

    kind: str
    title: str
    group: str
    make: Make
    keys: str = ""
    tip: str = ""


def _small(document: Document, mm: str, inch: str) -> str:
    return mm if document.unit == "mm" else inch


def _sketches(document: Document) -> list[int]:
    return [s.number for s in document.steps if isinstance(s, SketchStep)]


def _sketch(document: Document) -> int:
    found = _sketches(document)
    if not found:
        raise Missing("draw a sketch first (Ctrl+K)")
    return found[-1]


def _makers(document: Document) -> list[StepBase]:
    """Steps that made material."""
    return [s for s in document.steps if getattr(s, "kind", "") in ("extrude", "revolve", "hole", "sweep", "helix",
                                                                     "loft", "keyway", "groove", "flats")]  # fmt: skip


def _last_made(document: Document) -> tuple[int, ...]:
    found = _makers(document)
    if not found:
        raise Missing("there is nothing to repeat yet")
    return (found[-1].number,)


def _body(document: Document) -> int:
    for s in document.steps:
        if s.kind in CATALOGUE and CATALOGUE[s.kind].begins_body:
            return s.number
    raise Missing("there is no body yet")


def _edges(_document: Document, picked: Picked) -> dict[str, Any]:
    if picked.get("edge"):
        return {"edges": (picked["edge"],)}
    return {"faces": (picked["face"],)} if picked.get("face") else {"rule": "all others"}


def _cylinder(picked: Picked) -> str:
    if not picked.get("face") or not picked.get("axis"):
        raise Missing("pick the round face first")
    return picked["face"]


def _end(document: Document, face: str) -> str:
    """A flat face beside a turned stretch; the left end where nothing better is known."""
    return f"{face.partition('/')[0]}/face.left" if document.steps and document.steps[0].kind == "turned" else "XY"


def _on_regions(mode: str) -> Make:
    return lambda d, _p: {"sketch": _sketch(d), "mode": mode,
                          **({"distance": None, "side": "both"} if mode == "cut" else
                             {"distance": _small(d, "10", "0.5")})}  # fmt: skip


def _face(picked: Picked) -> str:
    if not picked.get("face"):
        raise Missing("pick the face first")
    return picked["face"]


NEW: tuple[NewStep, ...] = (
    NewStep("extrude", "Extrude the last sketch", "Material", _on_regions("add"), "Ctrl+Alt+E"),
    NewStep("extrude", "Cut the last sketch away", "Material", _on_regions("cut"), "Ctrl+Alt+X"),
    NewStep("sweep", "Sweep along a path", "Material",
            lambda d, p: {"sketch": _sketch(d), "edges": (p["edge"],)} if p.get("edge") else
            {"path": _sketch(d), "sketch": _sketches(d)[0]}),
    NewStep("helix", "Helix", "Material", lambda d, p: {"sketch": _sketch(d), "axis": p.get("axis", "Z")}),
    NewStep("loft", "Loft through sketches", "Material", lambda d, _p: {"sketches": tuple(_sketches(d)[-2:])}),
    NewStep("rib", "Rib", "Material", lambda d, _p: {"sketch": _sketch(d), "thickness": _small(d, "5", "0.25")}),
    NewStep("shell", "Hollow out", "Material",
            lambda d, p: {"open_faces": (_face(p),), "wall": _small(d, "2", "0.1")}),
    NewStep("thread", "Thread", "Details", lambda _d, p: {"face": _cylinder(p)}, "Ctrl+Alt+T"),
    NewStep("fillet", "Round edges", "Edges", lambda d, p: {"pick": _edges(d, p), "radius": _small(d, "1", "0.06")},
            "Ctrl+Alt+R", tip="the picked edge, all edges of the picked face, or by a rule"),
    NewStep("chamfer", "Bevel edges", "Edges", lambda d, p: {"pick": _edges(d, p), "leg": _small(d, "1", "0.06")},
            "Ctrl+Alt+B", tip="the picked edge, all edges of the picked face, or by a rule"),
    NewStep("draft", "Draft faces", "Edges", lambda _d, p: {"faces": (_face(p),)}),
    NewStep("pattern", "Repeat in a row or grid", "Copies",
            lambda d, _p: {"steps": _last_made(d), "layout": {"kind": "row", "spacing": _small(d, "20", "1")}},
            "Ctrl+Alt+P"),
    NewStep("pattern", "Repeat around an axis", "Copies",
            lambda d, p: {"steps": _last_made(d), "layout": {"kind": "ring", "about": p.get("axis", _main_axis(d))}}),
    NewStep("mirror", "Mirror", "Copies",
            lambda _d, p: {"plane": p.get("plane", "YZ")}, "Ctrl+Alt+M", tip="the body, or steps named in the form"),
    NewStep("keyway", "Keyway", "Details", lambda d, p: {"face": _cylinder(p), "from_face": _end(d, p["face"])}),
    NewStep("groove", "Ring groove or undercut", "Details",
            lambda d, p: {"face": _cylinder(p), "from_face": _end(d, p["face"]), "at": _small(d, "5", "0.2")}),
    NewStep("centre", "Centre hole", "Details", lambda d, p: {"face": _face(p), "about": _main_axis(d)}),
    NewStep("flats", "Hexagon, square or flats", "Details",
            lambda d, p: {"face": _cylinder(p), "from_face": _end(d, p["face"])}),
    NewStep("knurl", "Knurl", "Details", lambda _d, p: {"face": _cylinder(p)}),
    NewStep("plane", "Datum plane", "Datums",
            lambda d, p: {"names": (p.get("plane", "XY"),), "distance": _small(d, "10", "0.5")}, "Ctrl+Alt+D"),
    NewStep("axis", "Datum axis", "Datums", lambda _d, p: {"names": (p.get("axis", "X"),)}),
    NewStep("point", "Datum point", "Datums",
            lambda _d, p: {"way": "of", "names": (p["point"],)} if p.get("point") else {}),
    NewStep("zero", "Part datum", "Datums", lambda _d, p: {"origin": p.get("point", "O")}),
    NewStep("combine", "Combine bodies", "Bodies", lambda d, _p: {"body": _body(d)}),
    NewStep("split", "Split the body", "Bodies", lambda d, p: {"body": _body(d), "plane": p.get("plane", "YZ")}),
    NewStep("move", "Move or copy a body", "Bodies",
            lambda d, _p: {"body": _body(d), "x": _small(d, "50", "2"), "as_copy": True}),
    NewStep("drop", "Leave bodies out", "Bodies", lambda d, _p: {"others": (_body(d),)}),
)  # fmt: skip

GROUPS = tuple(dict.fromkeys(n.group for n in NEW))


def _main_axis(document: Document) -> str:
    """X for a turned part, else Z."""
    return "X" if document.steps and getattr(document.steps[0], "kind", "") == "turned" else "Z"


def new_step(new: NewStep, document: Document, picked: Picked, number: int) -> StepBase:
    """The step, with what could be guessed. Raises Missing with words, or a validation error."""
    return KINDS[new.kind](number=number, **new.make(document, picked))
