"""From a note and what is picked in the solid to callouts and a step, in one edit.

| note                        | picked                              | step                                           |
|-----------------------------|-------------------------------------|------------------------------------------------|
| a hole, a tapped hole       | a flat face                         | on its bolt circle, or on a turned part's axis |
|                             | a face whose points were sketched   | holes at those points                          |
|                             | near a round edge's centre          | a hole there                                   |
|                             | elsewhere on it                     | at distances from its two nearest edges        |
|                             | as many points of it as holes       | holes at those places                          |
|                             | a cylinder                          | holes around it, at the picked distance        |
| an external thread          | a cylinder                          | the thread, drawn                              |
| a radius, a chamfer         | edges                               | those edges rounded or bevelled                |
| a general note              | nothing                             | all edges of its kind that no step breaks      |
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from lathed_solid.ledger import Callout, Probe, Role
from lathed_solid.ledger.callouts import callouts_from_meaning
from lathed_solid.notation import BOTH_SIDES, DRILL_POINT_DEG, FLAT_DEG, Clause, Meaning, read_note
from lathed_solid.part import steps
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import (
    changed,
    next_balloon,
    next_number,
    place_after,
    put_callout,
    put_note,
    put_step,
    renumbering,
)
from lathed_solid.part.hole_proposals import Told, even_of, proposed_places, told_from
from lathed_solid.part.note_picks import Picks
from lathed_solid.part.steps import EdgePick, HoleStep, OnCircle, Radial, StepBase, Table
from lathed_solid.quantity.formatting import length

AnyPlaces = OnCircle | Radial | Table | Told
#: how far a drill goes beyond the thread it is for, in pitches, where the note does not say (DIN 76-1, about)
DRILL_BEYOND = 5
#: what a note says of a feature that another clause makes
BESIDE = ("frame", "datum", "texture", "instruction", "feature")
RULES = {"fillet": "inside", "round": "outside", "break": "outside"}


def _made(meaning: Meaning) -> tuple[Clause, ...]:
    """The clauses that make something: not what stands beside a size, nor the far side of a hole."""
    made = tuple(c for c in meaning.clauses if c.kind not in BESIDE)
    return made[:1] if _far(meaning) else made


def _far(meaning: Meaning) -> bool:
    """Whether a hole is widened on both sides: the far one is a step of its own, from there."""
    return BOTH_SIDES in meaning.assumed and [c.kind for c in meaning.clauses][1:2] == ["widening"]


def _by_role(callouts: Sequence[Callout]) -> dict[Role, Callout]:
    """The first callout of each role."""
    return {k.role: k for k in reversed(callouts)}


def step_words(meaning: Meaning, picks: Picks) -> str:
    """What Enter would make beside the callouts; empty for nothing."""
    if meaning.unread or len(_made(meaning)) != 1:
        return ""
    (c,) = _made(meaning)
    n = c.count or 1
    if c.kind == "general" and c.rule is not None:
        return f"{c.rule.what} of {c.rule.where}"
    if c.kind == "hole" or (c.kind == "thread" and c.thread is not None and c.thread.internal):
        if not picks.face:
            return ""
        spots = picks.places[-n:]
        at = f" at the {n} picked places" if n > 1 and len(spots) == n else ""
        at = "" if picks.round else told_from(n, picks) or at
        far = ", the far side left open" if _far(meaning) else ""
        return f"{'holes' if n > 1 else 'a hole'} on {picks.face}{'' if c.bolt_circle_mm else at}{far}"
    if c.kind == "thread" and picks.face and picks.round:
        return f"the thread on {picks.face}"
    if c.kind in ("radius", "fillet", "chamfer") and picks.edges:
        return f"{'bevel' if c.kind == 'chamfer' else 'round'} {len(picks.edges)} picked edge" + "s" * (
            len(picks.edges) > 1
        )
    return ""


def add_note_with_step(document: Document, text: str, picks: Picks) -> Document:
    """The callouts of a note and the step they drive. Raises NoteError, LedgerError, or DocumentError when what is
    picked does not go with the note.
    """
    return add_meaning_with_step(document, read_note(text, document.unit), picks)


def add_meaning_with_step(document: Document, meaning: Meaning, picks: Picks, after: int | None = None) -> Document:
    """The same, of a note that was read already; the step comes after step ``after`` (None: at the end)."""
    c = _one_made(meaning, picks)
    callouts = callouts_from_meaning(meaning, next_balloon(document))
    roomy, number = place_after(document, after)
    document, picks = roomy, picks.renumbered(renumbering(document, roomy))
    step = _step(document, number, c, _by_role(callouts), picks)
    return put_step(put_note(document, _measured(callouts, step)), step)


def _one_made(meaning: Meaning, picks: Picks) -> Clause:
    """The clause whose step is made. Raises DocumentError when none is with what is picked."""
    if not step_words(meaning, picks):
        raise DocumentError("the note makes no step with what is picked", received=meaning.note)
    (c,) = _made(meaning)
    return c


def step_of_callouts(document: Document, meaning: Meaning, callouts: Sequence[Callout], picks: Picks) -> Document:
    """The step of a note whose callouts stand in the document already, at the end. Raises DocumentError."""
    c = _one_made(meaning, picks)
    step = _step(document, next_number(document), c, _by_role(callouts), picks)
    for callout in _measured(callouts, step):
        document = put_callout(document, callout)
    return put_step(document, step)


def _measured(callouts: Sequence[Callout], step: StepBase) -> list[Callout]:
    """A thread's major diameter is in the step's designation, not in a field: where it shows is said here."""
    if step.kind not in ("hole", "thread"):
        return list(callouts)
    face = str(getattr(step, "face", "")) if step.kind == "thread" else f"{step.number}/h*.wall"
    shown = Probe(kind="thread_major", faces=(face,))
    return [changed(k, measure=shown) if k.role == "major diameter" else k for k in callouts]


def hole_from_note(
    document: Document, text: str, face: str, *, radial_at: float | None = None, datum: str = "10/face.left"
) -> Document:
    """Holes of a note on a face, without picked places. Raises DocumentError when the note is not one hole."""
    meaning = read_note(text, document.unit)
    if [c.kind for c in _made(meaning)] not in (["hole"], ["thread"]):
        raise DocumentError("the note does not describe one kind of hole", received=text)
    return add_note_with_step(
        document, text, Picks(face, round=radial_at is not None, radial_at=radial_at, datum=datum)
    )  # fmt: skip


def _step(document: Document, number: int, c: Clause, named: dict[Role, Callout], picks: Picks) -> StepBase:
    first = next(iter(named.values())).name
    if c.kind == "general" and c.rule is not None:
        pick = EdgePick(rule=RULES.get(c.rule.what, "all others"))
        if c.rule.what in ("break", "chamfer"):
            return _new("chamfer", number=number, leg=first, angle=_angle(c.rule.angle_deg), pick=pick)
        return _new("fillet", number=number, radius=first, pick=pick)
    if c.kind in ("radius", "fillet"):
        return _new("fillet", number=number, radius=first, pick=EdgePick(edges=picks.edges))
    if c.kind == "chamfer":
        second = None if c.second_mm is None else length(c.second_mm, document.unit)
        return _new("chamfer",
            number=number, leg=first, second=second, angle=None if second else _angle(c.angle_deg),
            pick=EdgePick(edges=picks.edges),
        )  # fmt: skip
    if c.kind == "thread" and c.thread is not None and not c.thread.internal:
        size = named.get("thread length")
        return _new("thread",
            number=number, face=picks.face, designation=_designation(c), left=c.thread.hand == "left",
            length=size.name if size else None, starts=c.thread.starts or 1,
        )  # fmt: skip
    return _holes(document, number, c, named, picks)


def _new(kind: str, **values: Any) -> StepBase:
    """A step of a kind that is imported only now."""
    made: StepBase = getattr(steps, f"{kind.capitalize()}Step")(**values)
    return made


def _angle(degrees: float | None) -> str | None:
    return None if degrees is None or degrees == 45 else f"{degrees:g}°"


def _point(degrees: float | None) -> str | None:
    """The drill's point, as a cell; None for a hole that ends flat."""
    return None if degrees == FLAT_DEG else f"{DRILL_POINT_DEG if degrees is None else degrees:g}°"


def _designation(c: Clause) -> str:
    """As the thread step reads it, without the class."""
    assert c.thread is not None
    name = c.thread.designation.replace("×", "x")
    klass = c.thread.thread_class
    return name.removesuffix(f"-{klass}") if klass else name


def _holes(document: Document, number: int, c: Clause, named: dict[Role, Callout], picks: Picks) -> HoleStep:
    def name(*roles: Role) -> str | None:
        return next((named[r].name for r in roles if r in named), None)

    values: dict[str, object] = {
        "diameter": name("hole diameter", "drill diameter") or "",
        "depth": name("hole depth", "hole depth to the tip", "drill depth"),
        "depth_to": c.depth_to or "shoulder",
        "cbore_diameter": name("counterbore diameter", "spotface diameter"),
        "cbore_depth": name("counterbore depth", "spotface depth"),
        "cdrill_diameter": name("counterdrill diameter"),
        "cdrill_depth": name("counterdrill depth"),
        "csk_diameter": name("countersink diameter"),
        "csk_angle": name("countersink angle") or "90°",
        "point": _point(c.point_deg),
    }
    if c.thread is not None:
        deep = name("thread length")
        left = " LH" if c.thread.hand == "left" else ""
        values |= {"thread": _designation(c) + left, "thread_depth": deep}
        if deep and values["depth"] is None and not c.through:
            values["depth"] = f"{deep} + {length(DRILL_BEYOND * c.thread.pitch_mm, document.unit)}"
    places = _places(document, c, name("bolt circle"), picks)
    return HoleStep(number=number, face=picks.face, places=places, **values)


def _places(document: Document, c: Clause, circle: str | None, picks: Picks) -> AnyPlaces:
    count = c.count or 1
    if picks.round:
        if picks.radial_at is None:
            raise DocumentError("where along the cylinder is not picked", hint="pick the place on it")
        return Radial(at=length(picks.radial_at, document.unit), datum=picks.datum, count=count)
    if circle is not None or (count == 1 and not picks.places):
        return OnCircle(bolt_circle=circle, count=count)
    told = proposed_places(document, count, picks)
    if told is not None:
        return told
    if len(picks.places) < count:
        raise DocumentError(
            f"{count} holes on a flat face need a bolt circle or {count} picked places; {len(picks.places)} picked",
            hint="... ON ⌀52 BC, or click the places on the face",
        )
    even = even_of(document)
    places = ((round(x / even) * even, round(y / even) * even) for x, y in picks.places[-count:])
    rows = tuple((length(x, document.unit), length(y, document.unit)) for x, y in places)
    if len(set(rows)) < count:
        raise DocumentError("two of the picked places are one", hint="click each place once")
    return Table(rows=rows)
