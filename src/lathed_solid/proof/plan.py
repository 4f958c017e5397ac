"""What to measure for each callout: every field that its number goes into, and how that field shows on the solid.

A callout shows where a step's field holds it - alone (``#7``), or in an expression (``#4 / 2 - wall``), also by way
of a parameter - and where that field shows on named faces. ``Callout.measure``, faces that a person pointed at, takes
the place of all of these.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, cast

from lathed_solid.ledger import Callout, Probe, ProbeKind
from lathed_solid.part import Document
from lathed_solid.part.edits import users_of
from lathed_solid.part.names import steps_in
from lathed_solid.part.sketch_probes import height_probe, sketch_fields
from lathed_solid.part.steps.base import FieldOf, StepBase
from lathed_solid.quantity import Kind, QuantityError, names_in


@dataclass(frozen=True, slots=True)
class Showing:
    """One field that a callout goes into, with its expression and how it shows; ``text`` empty: pointed at by hand."""

    where: str
    text: str
    kind: Kind
    probe: Probe

    def alone(self, callout: Callout) -> bool:
        """Whether the field holds nothing but the callout."""
        return self.text.strip() in ("", callout.name)


@dataclass(frozen=True, slots=True)
class Plan:
    """Showings of one callout, the fields that use it, and why there is no showing."""

    balloon: int
    showings: tuple[Showing, ...]
    used_by: tuple[str, ...]
    reason: str = ""


def plan(document: Document) -> tuple[Plan, ...]:
    """One plan for every callout, in balloon order. Suspended steps prove nothing."""
    if not document.callouts:
        return ()
    behind = _behind(document)
    shown: dict[str, list[Showing]] = defaultdict(list)
    for number, field in all_fields(document):
        if field.probe is None:
            continue
        showing = Showing(f"step {number} {field.path}", field.text, field.kind, field.probe)
        for name in _balloons(field.text, behind):
            if showing not in shown[name]:
                shown[name].append(showing)
    return tuple(_plan(document, c, shown.get(c.name, [])) for c in document.callouts)


def all_fields(document: Document) -> list[tuple[int, FieldOf]]:
    """Every field of every step that is built, sketches' dimensions on the steps that build on them."""
    own = [(s.number, f) for s in document.steps if not s.suspended for f in _fields(document, s)]
    return own + sketch_fields(document)


def _fields(document: Document, step: StepBase) -> list[FieldOf]:
    return [f._replace(probe=_completed(document, step, f.probe)) for f in step.known_fields]


def _completed(document: Document, step: StepBase, probe: Probe | None) -> Probe | None:
    """What only the whole document knows of a probe: the face beneath an extrusion, the thread cut into a cylinder."""
    if probe is None:
        return None
    if probe.kind == "height":
        return height_probe(document, step)
    if probe.kind == "bolt_circle":
        on = {document.step(n) for n in steps_in(getattr(step, "face", ""))}
        if any(s is not None and s.kind == "turned" for s in on):
            return probe.model_copy(update={"about": "origin"})  # whatever the step says: about the part's own axis
    if probe.kind == "diameter":
        for s in document.steps:
            cut = s.kind == "thread" and not s.suspended and getattr(s, "real", False)
            if cut and getattr(s, "face", "") == probe.faces[0]:
                crest = f"{probe.faces[0]} or {s.number}/ring.helix.crest"
                return probe.model_copy(update={"faces": (crest,)})
    return probe


def _behind(document: Document) -> Mapping[str, frozenset[str]]:
    """Balloons that each parameter goes back to, through other parameters."""
    direct: dict[str, frozenset[str]] = {}
    for p in document.parameters:
        try:
            direct[p.name] = names_in(p.expression)
        except QuantityError:
            direct[p.name] = frozenset()
    out: dict[str, frozenset[str]] = {}
    for name in direct:
        seen, todo = {name}, [name]
        found: set[str] = set()
        while todo:
            for n in direct.get(todo.pop(), ()):
                if n.startswith("#"):
                    found.add(n)
                elif n not in seen:
                    seen.add(n)
                    todo.append(n)
        out[name] = frozenset(found)
    return out


def _balloons(text: str, behind: Mapping[str, frozenset[str]]) -> frozenset[str]:
    try:
        names = names_in(text)
    except QuantityError:
        return frozenset()
    return frozenset().union(*(frozenset([n]) if n.startswith("#") else behind.get(n, frozenset()) for n in names))


def _threads(document: Document, callout: Callout) -> list[Showing]:
    """A thread's designation is in no field: it shows on the threads that its note's other sizes drive."""
    note = document.note_of(callout.balloon)
    beside = {c.balloon for c in note.callouts} if note is not None else set()
    out = []
    for step in document.steps:
        if step.suspended or not beside & set(step.balloons()):
            continue
        faces, made = "", cast(Any, step)  # told by its kind, so that a part without threads imports none
        if step.kind == "hole" and made.thread:
            faces = f"{step.number}/h*.wall"
        elif step.kind == "thread":
            faces = f"{step.number}/ring.helix" if made.real else made.face
        if faces:
            kind: ProbeKind = "real_major" if faces.endswith(".helix") else "thread_major"
            out.append(Showing(f"step {step.number} thread", "", "length", Probe(kind=kind, faces=(faces,))))
    return out


def _said(showing: Showing, callout: Callout) -> Showing:
    """A hole's depth is measured to the shoulder or to the tip as the note says, however the step was told it."""
    probe = showing.probe
    if probe.kind != "depth" or callout.role not in ("hole depth", "drill depth", "hole depth to the tip"):
        return showing
    tip = callout.role == "hole depth to the tip"
    deepest = probe.faces[-1]
    base = deepest.removesuffix(".wall").removesuffix(".tip")
    if base == deepest:
        return showing
    wanted = f"{base}.tip or {base}.wall" if tip else f"{base}.wall"
    return replace(showing, probe=probe.model_copy(update={"faces": (*probe.faces[:-1], wanted)}))


def balloons_in(document: Document, text: str) -> frozenset[str]:
    """Names of all callouts that an expression goes back to, also by way of parameters."""
    return _balloons(text, _behind(document) if document.parameters else {}) if text else frozenset()


def _plan(document: Document, callout: Callout, shown: list[Showing]) -> Plan:
    used = tuple(dict.fromkeys(s.where for s in shown)) or tuple(users_of(document, callout.name))
    if callout.measure is not None:
        kind: Kind = "angle" if callout.kind == "angle" else "length"
        return Plan(callout.balloon, (Showing("pointed at", "", kind, callout.measure),), used)
    if not shown and callout.role == "major diameter":
        shown = _threads(document, callout)
    if shown:
        return Plan(callout.balloon, tuple(_said(s, callout) for s in shown), used)
    if used:
        reason = f"used by {', '.join(used)}, but no single face shows it: pick the faces to measure"
    else:
        reason = "not used by any step"
    return Plan(callout.balloon, (), used, reason)
