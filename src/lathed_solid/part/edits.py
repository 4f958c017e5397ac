"""Edits: functions from a document to a new one. Each is one undoable entry of the history.

All raise DocumentError when the result would be impossible; the document given is never touched.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from lathed_solid.ledger import Callout, Note, Reading, Redress, Span, callouts_from_note
from lathed_solid.ledger.combining import refreshed
from lathed_solid.ledger.spans import MIDDLE, tidy
from lathed_solid.part.document import Document, DocumentError, Parameter, StatedMass
from lathed_solid.part.names import renamed
from lathed_solid.part.steps import KINDS, StepBase, TurnedStep

M = TypeVar("M", bound=BaseModel)


def changed(model: M, **values: Any) -> M:
    """A validated copy of a frozen model. Raises DocumentError in plain words."""
    data = {name: getattr(model, name) for name in type(model).model_fields}
    data.update(getattr(model, "__pydantic_extra__", None) or {})
    data.update(values)
    try:
        return type(model)(**data)
    except ValidationError as exc:
        raise plain_error(exc) from None


def plain_error(exc: ValidationError) -> DocumentError:
    """The first failure of a validation, in one line."""
    first = exc.errors(include_url=False)[0]
    where = " / ".join(str(p) for p in first["loc"] if str(p) not in KINDS)
    message = str(first["msg"]).removeprefix("Value error, ")
    if first["type"] == "extra_forbidden":
        return DocumentError(f"there is no field {str(first['loc'][-1])!r}", where=where, hint="check its spelling")
    received = first.get("input")
    shown = received if isinstance(received, (str, int, float)) else None
    more = exc.error_count() - 1
    return DocumentError(message, where=where, received=shown, rule=f"and {more} more" if more else "")


# callouts and readings ---------------------------------------------------------------------------
def next_balloon(document: Document) -> int:
    """The first free balloon number after the highest."""
    return max((c.balloon for c in document.callouts), default=0) + 1


def with_callouts(document: Document, callouts: Iterable[Callout]) -> Document:
    """The document with these callouts. Those of one note stay together; one that says another text leaves it."""
    owner = {c.balloon: i for i, n in enumerate(document.notes) for c in n.callouts}
    groups: dict[object, list[Callout]] = {}
    fresh: object = object()
    before: Callout | None = None
    for c in sorted(callouts, key=lambda c: c.balloon):
        says = (c.note, c.unit, c.source)
        if c.balloon in owner:
            key: object = (owner[c.balloon], *says)
        else:
            alike = before is not None and says == (before.note, before.unit, before.source)
            if not (alike and before is not None and c.balloon == before.balloon + 1 and before.balloon not in owner):
                fresh = object()
            key = fresh
        groups.setdefault(key, []).append(c)
        before = c
    kept = {(i, n.text, n.unit, n.source): n.redress for i, n in enumerate(document.notes)}
    return changed(document, notes=tuple(
        Note.of(g, kept.get(key) if isinstance(key, tuple) else None) for key, g in groups.items()
    ))  # fmt: skip


def add_note(document: Document, text: str, *, balloon: int | None = None, source: str = "sheet") -> Document:
    """Add a drawing note with every callout that it states. Raises NoteError, LedgerError, DocumentError."""
    first = next_balloon(document) if balloon is None else balloon
    return put_note(document, callouts_from_note(text, first, document.unit, source))


def put_note(document: Document, callouts: Iterable[Callout]) -> Document:
    """Add a note by its callouts, which must have balloons of their own."""
    return changed(document, notes=(*document.notes, Note.of(callouts)))


def edit_note(document: Document, balloon: int, text: str) -> Document:
    """The note that owns a callout says ``text`` from now on, and all its callouts follow.

    Callouts keep their balloons by their roles; new sizes get new balloons after the highest. Raises NoteError,
    LedgerError, and DocumentError when a size that the note no longer states is still used.
    """
    note = document.note_of(balloon)
    if note is None:
        raise DocumentError(f"there is no callout {balloon}")
    new = list(callouts_from_note(text, 1, document.unit, note.source))
    old = list(note.callouts)
    pairs = []
    for same in (lambda a, b: a.role == b.role, lambda a, b: a.kind == b.kind, lambda a, b: True):
        for a in list(old):
            b = next((b for b in new if same(a, b)), None)
            if b is not None and (len(note.callouts) == 1 or a.kind == b.kind):
                pairs.append(reworded(a, b))
                old.remove(a)
                new.remove(b)
    for gone in old:
        users = users_of(document, gone.name)
        if users:
            raise DocumentError(
                f"the note no longer states callout {gone.balloon} ({gone.meaning or gone.role}), which is used by "
                f"{', '.join(users)}", received=text, hint="give those fields another value first",
            )  # fmt: skip
    free = next_balloon(document)
    added = [changed(c, balloon=free + i) for i, c in enumerate(new)]
    owned = Note.of(sorted([*pairs, *added], key=lambda c: c.balloon), note.redress)
    lost = {c.balloon for c in old}
    return changed(
        document, notes=tuple(owned if n is note else n for n in document.notes),
        readings=refreshed([r for r in document.readings if r.balloon not in lost]),
    )  # fmt: skip


def redress(document: Document, balloon: int, text: str, reason: str) -> Document:
    """The note that owns a callout is disputed: ``text`` is decided on, for a ``reason``; the drawing's text is kept.

    The drawing's own text takes the decision back. Raises as ``edit_note`` does, and DocumentError without a reason.
    """
    note = document.note_of(balloon)
    if note is None:
        raise DocumentError(f"there is no callout {balloon}")
    drawn = note.redress.drawn if note.redress is not None else note.text
    back = text.strip() == drawn
    if not back and not reason.strip():
        raise DocumentError("a decision against the drawing needs its reason", where=f"callout {balloon}")
    edited = edit_note(document, balloon, text)
    decided = None if back else changed(Redress(drawn=drawn, reason="-"), reason=reason.strip())
    owned = edited.note_of(balloon)
    assert owned is not None
    told = changed(owned, redress=decided)
    return changed(edited, notes=tuple(told if n is owned else n for n in edited.notes))


def put_callout(document: Document, callout: Callout) -> Document:
    """Add ``callout``, or replace the one of the same balloon."""
    others = [c for c in document.callouts if c.balloon != callout.balloon]
    return with_callouts(document, [*others, callout])


def reworded(callout: Callout, new: Callout) -> Callout:
    """The callout with another's note, size and limits: what is its own stays - balloon, drive, where it is measured,
    where it stands and between which places it runs.
    """
    own = {k: getattr(callout, k) for k in ("balloon", "drive", "measure", "place", "span", "source")}
    return changed(new, **own)


def drop_callout(document: Document, balloon: int) -> Document:
    """Remove a callout and its reading. Refused while an expression uses it."""
    users = users_of(document, f"#{balloon}")
    if users:
        raise DocumentError(
            f"callout {balloon} is used by {', '.join(users)}", hint="give those fields another value first"
        )
    if document.callout(balloon) is None:
        raise DocumentError(f"there is no callout {balloon}")
    left = with_callouts(document, (c for c in document.callouts if c.balloon != balloon))
    return drop_reading(left, balloon)


def set_span(document: Document, balloon: int, **values: Any) -> Document:
    """Say between which places a callout runs: any of ``along``, ``start``, ``end``, ``symmetric``; an empty ``start``
    takes the span away.
    """
    callout = document.callout(balloon)
    if callout is None:
        raise DocumentError(f"there is no callout {balloon}")
    told = callout.span.model_dump() if callout.span else {"along": "x", "end": MIDDLE, "symmetric": False}
    told |= {k: tidy(v) if isinstance(v, str) else v for k, v in values.items()}
    if not told.get("start"):
        return put_callout(document, changed(callout, span=None))
    told["end"] = told["end"] or MIDDLE
    try:
        return put_callout(document, changed(callout, span=Span.model_validate(told)))
    except ValidationError as exc:
        raise plain_error(exc) from None


def put_reading(document: Document, reading: Reading) -> Document:
    """Add or replace the reading of a balloon, which must exist."""
    if document.callout(reading.balloon) is None:
        raise DocumentError(f"there is no callout {reading.balloon} to measure", hint="enter its note first")
    others = [r for r in document.readings if r.balloon != reading.balloon]
    return changed(document, readings=refreshed(sorted([*others, reading], key=lambda r: r.balloon)))


def drop_reading(document: Document, balloon: int) -> Document:
    """Without the reading of a balloon; what was worked out from it stays as it is."""
    return changed(document, readings=refreshed([r for r in document.readings if r.balloon != balloon]))


def users_of(document: Document, name: str) -> list[str]:
    """Steps and parameters whose expressions use ``name``."""
    from lathed_solid.quantity import QuantityError, names_in

    users = [f"step {s.number}" for s in document.steps if name in s.uses()]
    for p in document.parameters:
        try:
            if name in names_in(p.expression):
                users.append(f"parameter {p.name}")
        except QuantityError:
            continue
    return users


# parameters and masses ---------------------------------------------------------------------------
def put_parameter(document: Document, parameter: Parameter) -> Document:
    """Add or replace a parameter. Raises QuantityError or CycleError when it cannot be evaluated."""
    from lathed_solid.part.scope import scope

    others = tuple(p for p in document.parameters if p.name != parameter.name)
    result = changed(document, parameters=(*others, parameter))
    scope(result)
    return result


def set_in_pieces(document: Document, body: int, meant: bool) -> Document:
    """The document that says whether the body that step ``body`` began is meant to stand in several pieces."""
    others = tuple(n for n in document.in_pieces if n != body)
    return changed(document, in_pieces=(*others, body) if meant else others)


def set_stated_mass(document: Document, mass: StatedMass | None) -> Document:
    """What the drawing or the scale says; None: nothing."""
    return changed(document, stated_mass=mass)


# steps -------------------------------------------------------------------------------------------
def next_number(document: Document) -> int:
    """The next multiple of ten after the last step."""
    last = document.steps[-1].number if document.steps else 0
    return (last // 10 + 1) * 10


def place_after(document: Document, after: int | None) -> tuple[Document, int]:
    """A free number after step ``after`` (None, or a step that is gone: at the end), and the document, renumbered if
    there was no room.
    """
    numbers = [s.number for s in document.steps]
    if after not in numbers:
        after = None
    later = [n for n in numbers if after is not None and n > after]
    if after is None or not later:
        return document, next_number(document)
    middle = (after + later[0]) // 2
    if middle > after:
        return document, middle
    row = numbers.index(after)
    document = renumber_all(document, list(document.steps))
    return document, document.steps[row].number + 5


def renumbering(before: Document, after: Document) -> dict[int, int]:
    """How the steps of one document are numbered in another that holds them in the same order."""
    return {b.number: a.number for b, a in zip(before.steps, after.steps, strict=True)}


def duplicate_step(document: Document, number: int) -> Document:
    """The same step once more, right after itself."""
    step = document.step(number)
    if step is None:
        raise DocumentError(f"there is no step {number}")
    document, free = place_after(document, number)
    before = [s for s in document.steps if s.number < free][-1]
    return put_step(document, changed(before, number=free))


def dependents(document: Document, number: int) -> list[int]:
    """Steps that stand on a step, directly or by others."""
    found: set[int] = {number}
    for s in document.steps:
        if s.stands_on() & found:
            found.add(s.number)
    return sorted(found - {number})


def replace_name(step: M, old: str, new: str) -> M:
    """The step with one name of a face or edge changed for another, wherever it stands. Raises DocumentError."""

    def walk(value: Any) -> Any:
        if isinstance(value, dict):
            return {k: walk(v) for k, v in value.items()}
        if isinstance(value, (list, tuple)):
            return [walk(v) for v in value]
        return new if value == old else value

    try:
        return type(step).model_validate(walk(step.model_dump(mode="json")))
    except ValidationError as exc:
        raise plain_error(exc) from None


def put_step(document: Document, step: StepBase) -> Document:
    """Add ``step``, or replace the one of its number."""
    others = [s for s in document.steps if s.number != step.number]
    return changed(document, steps=tuple(sorted([*others, step], key=lambda s: s.number)))


def drop_step(document: Document, number: int) -> Document:
    """Remove a step. Refused while a later step stands on its faces."""
    if document.step(number) is None:
        raise DocumentError(f"there is no step {number}")
    users = [s.number for s in document.steps if number in s.stands_on()]
    if users:
        raise DocumentError(
            f"step {number} carries step {', '.join(map(str, users))}", hint="remove or re-place those first"
        )
    return changed(document, steps=tuple(s for s in document.steps if s.number != number))


def suspend_step(document: Document, number: int, suspended: bool) -> Document:
    """Leave a step out of the build, or take it in again."""
    step = document.step(number)
    if step is None:
        raise DocumentError(f"there is no step {number}")
    return put_step(document, changed(step, suspended=suspended))


def move_step(document: Document, number: int, row: int) -> Document:
    """Move a step to ``row`` (from 0) of the route and number all steps 10, 20, 30 anew.

    Names of faces carry step numbers, so references are renumbered with them. Refused when a step would
    come before one whose faces it stands on.
    """
    steps = [s for s in document.steps if s.number != number]
    moving = document.step(number)
    if moving is None:
        raise DocumentError(f"there is no step {number}")
    steps.insert(max(0, min(row, len(steps))), moving)
    place = {s.number: i for i, s in enumerate(steps)}
    for s in steps:
        for base in s.stands_on():
            if place.get(base, -1) > place[s.number]:
                raise DocumentError(f"step {s.number} cannot come before step {base}", rule="it stands on that step")
    return renumber_all(document, steps)


def renumber_all(document: Document, steps: list[Any]) -> Document:
    """The document with these steps in this order, numbered 10, 20, 30 anew with all that speaks of them."""
    renumber = {s.number: 10 * (i + 1) for i, s in enumerate(steps)}
    callouts = tuple(
        changed(c, measure=changed(c.measure, faces=tuple(renamed(f, renumber) for f in c.measure.faces)))
        if c.measure
        else c
        for c in document.callouts
    )
    return changed(
        with_callouts(document, callouts),
        steps=tuple(changed(s, number=renumber[s.number], **s.renumbered(renumber)) for s in steps),
        in_pieces=tuple(renumber.get(n, n) for n in document.in_pieces),
        body_materials=tuple(changed(b, step=renumber.get(b.step, b.step)) for b in document.body_materials),
    )


def turned_step(document: Document) -> TurnedStep | None:
    """The first turned table of the route, or None."""
    return next((s for s in document.steps if isinstance(s, TurnedStep)), None)
