"""A row of a step's form: where its value stands in the step, how it is shown, and what is typed or picked into it.

A row's ``path`` leads into the step (``radius``, ``places.dx``). Names of faces, edges, axes and points are typed or
taken from what is picked in the solid; several are parted by semicolons.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from lathed_solid.part import Document, DocumentError, SketchStep, StepBase
from lathed_solid.part.edits import changed, replace_name
from lathed_solid.part.steps.base import many

#: kinds whose value is an expression
EXPRESSIONS = ("length", "angle", "number")


@dataclass(frozen=True)
class FormRow:
    """One row of a form.

    ``kind``: length, angle, number (expressions), choice, count, flag, text, name, names (of ``picks``: face, edge,
    plane, axis, point), numbers (of steps), table (coordinates). ``empty`` is what an empty field means; an
    ``optional`` one is then None. ``choices``: (value, words). ``when``: whether the row applies to a step.
    """

    path: str
    label: str
    kind: str = "length"
    empty: str = ""
    optional: bool = False
    choices: tuple[tuple[Any, str], ...] = ()
    picks: tuple[str, ...] = ()
    when: Callable[[Any], bool] = lambda _s: True
    most: int = 500
    #: makes the value of a choice that is a model of its own (the way places are given)
    make: Mapping[Any, Callable[[], Any]] | None = None
    #: shown in an empty field, where that is not what it means
    hint: str = ""
    #: the label where it hangs on the step
    named: Callable[[Any], str] | None = None


@dataclass(frozen=True)
class Failure:
    """Why a step could not be built, the name it misses, and what could be meant instead."""

    message: str
    missing: str
    candidates: tuple[str, ...]


def kinds(path: str) -> Callable[..., Callable[[Any], bool]]:
    """Makes conditions on the kind of a model within the step: ``kinds("layout")("row", "grid")``."""
    return lambda *names: lambda step: getattr(step, path).kind in names


def get(step: Any, path: str) -> Any:
    """The value at a path; None where the step has no such field."""
    for name in path.split("."):
        step = getattr(step, name, None)
    return step


def put(step: Any, path: str, value: Any) -> Any:
    """The step with the value at a path. Raises DocumentError."""
    head, _, rest = path.partition(".")
    return changed(step, **{head: put(getattr(step, head), rest, value) if rest else value})


def text_of(row: FormRow, value: Any) -> str:
    """What stands in a row's field; empty where the value is what an empty field means."""
    if row.kind in EXPRESSIONS:
        return "" if value is None or (not row.optional and value == row.empty) else str(value)
    if row.kind == "table":
        return "; ".join(", ".join(r) for r in value or ())
    return "; ".join(map(str, many(value)))


def value_of(row: FormRow, text: str) -> Any:
    """What a text typed into a row means. Raises DocumentError for what is no number of a step."""
    parts = tuple(p.strip() for p in text.split(";") if p.strip())
    if row.kind in EXPRESSIONS:
        return text or (None if row.optional else row.empty)
    if row.kind == "names":
        return parts
    if row.kind == "numbers":
        if not all(p.isdigit() for p in parts):
            raise DocumentError(f"{row.label}: numbers of steps, parted by semicolons", received=text)
        return tuple(int(p) for p in parts)
    if row.kind == "number of a step":
        if not text and row.optional:
            return None
        if not text.isdigit():
            raise DocumentError(f"{row.label}: the number of a step", received=text)
        return int(text)
    if row.kind == "table":
        return tuple(tuple(c.strip() for c in p.split(",")) for p in parts)
    return text or (None if row.optional else "")


def with_picked(row: FormRow, step: Any, picked: Mapping[str, str]) -> Any:
    """A row's value once what is picked is taken: names are added, or let go when they are there already.

    Raises DocumentError when nothing fitting is picked.
    """
    name = next((picked[p] for p in row.picks if picked.get(p)), "")
    if not name:
        raise DocumentError(f"pick a {' or '.join(row.picks)} in the solid first")
    if row.kind != "names":
        return name
    known = get(step, row.path)
    return tuple(n for n in known if n != name) if name in known else (*known, name)


def without(row: FormRow, step: Any, name: str) -> Any:
    """A row's value without one of its names."""
    if row.kind != "names":
        return value_of(row, "")
    return tuple(n for n in get(step, row.path) if n != name)


def with_typed(row: FormRow, step: Any, text: str) -> Any:
    """A row's value with what was typed: names parted by semicolons are added to several, or stand for one."""
    value = value_of(row, text)
    return tuple(dict.fromkeys((*get(step, row.path), *value))) if row.kind == "names" else value


def chosen(row: FormRow, value: Any, document: Document, step: StepBase, picked: Mapping[str, str]) -> Any:
    """The value that a choice stands for. Some start from a sketch of the route or a picked edge.

    Raises DocumentError when there is none.
    """
    if row.make is None:
        return value
    if value in row.make:
        return row.make[value]()
    if value == "walls":
        raise DocumentError("click the face near two of its straight edges, then begin the hole (Ctrl+H)")
    if value == "edges":
        if picked.get("edge"):
            return {"kind": "edges", "edges": (picked["edge"],)}
        raise DocumentError("pick a round edge in the solid first")
    sketches = [s.number for s in document.steps if s.number < step.number and isinstance(s, SketchStep)]
    if value in ("sketch", "curve") and sketches:
        return {"kind": value, "sketch": sketches[-1]}
    raise DocumentError("draw a sketch before this step first")


def mended(document: Document, step: StepBase, old: str, new: str) -> StepBase:
    """A step with a lost name replaced: the step itself, or one that it stands on (the plane of its sketch).

    Raises DocumentError when the name stands in none of them.
    """
    on = (s for s in document.steps if s.number in step.stands_on())
    for s in (step, *on):
        other = replace_name(s, old, new)
        if other != s:
            return other
    raise DocumentError(f"{old} stands in none of the fields: pick it anew")
