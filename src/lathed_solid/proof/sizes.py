"""The sizes that drive a document, one by one, each with a way to make the document where it has another value.

A size is a callout that steps use, or a number typed straight into a step's field. What a slip or a sensitivity asks is
always: the same document, but for this one size.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout
from lathed_solid.part import Document, scope
from lathed_solid.part.edits import changed, put_callout, put_step
from lathed_solid.part.scope import driving_value
from lathed_solid.quantity import Kind, names_in
from lathed_solid.quantity.formatting import angle, length

Path = tuple[str | int, ...]


@dataclass(frozen=True)
class DrivingSize:
    """One driving size: ``target`` names it (``callout 7``, ``step 40 depth``); ``value`` in mm or rad.

    ``put(document, value)`` gives the document with another value; it raises LathedError for an impossible one.
    """

    target: str
    kind: str
    value: float
    put: Callable[[Document, float], Document]
    balloon: int | None = None

    def show(self, value: float, document: Document) -> str:
        """A value of it in the sheet's unit, with its sign (⌀, R)."""
        sign = {"diameter": "⌀", "radius": "R"}.get(self.kind, "")
        return angle(value) if self.kind == "angle" else sign + length(value, document.unit)


def driving_sizes(document: Document) -> tuple[DrivingSize, ...]:
    """Callouts that steps use, then plain numbers in the fields of steps."""
    out = [_callout_size(document, c) for c in document.callouts if c.balloon in _driving(document)]
    for step in document.steps:
        if not step.suspended:
            out += [_field_size(document, step, *leaf) for leaf in field_leaves(step) if not names_in(leaf[1])]
    return tuple(size for size in out if size is not None)


def _driving(document: Document) -> set[int]:
    """Balloons in the expressions of steps at work, or of parameters."""
    used = {b for s in document.steps if not s.suspended for b in s.balloons()}
    for p in document.parameters:
        try:
            used |= {int(n[1:]) for n in names_in(p.expression) if n.startswith("#")}
        except LathedError:
            continue
    return used


def _callout_size(document: Document, callout: Callout) -> DrivingSize | None:
    try:
        value = driving_value(document, callout)
    except LathedError:
        return None

    def put(d: Document, new: float) -> Document:
        return put_callout(d, changed(callout, nominal=new, low=None, high=None, drive="nominal"))

    return DrivingSize(f"callout {callout.balloon}", callout.kind, value, put, callout.balloon)


def field_leaves(step: Any) -> Iterator[tuple[Path, str, str, Kind]]:
    """(path, text, label, kind) of every expression of a step, where it stands in the step's own data."""
    named = {f.text: f for f in step.fields()}
    for path, text in _leaves(step.model_dump(mode="json"), ()):
        field = named.get(text)
        if field is not None and text.strip():
            yield path, text, str(path[-1]) if isinstance(path[-1], str) else field.path, field.kind


def _leaves(value: Any, path: Path) -> Iterator[tuple[Path, str]]:
    if isinstance(value, dict):
        for k, v in value.items():
            yield from _leaves(v, (*path, k))
    elif isinstance(value, list):
        for i, v in enumerate(value):
            yield from _leaves(v, (*path, i))
    elif isinstance(value, str):
        yield path, value


def with_leaf(document: Document, number: int, path: Path, text: Any) -> Document:
    """The document where a step's field reads ``text``. Raises LathedError when the step cannot be so."""
    step: Any = document.step(number)
    if step is None:
        raise LathedError(f"there is no step {number}")
    data = step.model_dump(mode="json")
    at = data
    for key in path[:-1]:
        at = at[key]
    at[path[-1]] = text
    try:
        return put_step(document, type(step).model_validate(data))
    except ValidationError as exc:
        raise LathedError(f"step {number} cannot be so", rule=str(exc.errors()[0]["msg"])) from None


def _field_size(document: Document, step: Any, path: Path, text: str, label: str, kind: Kind) -> DrivingSize | None:
    try:
        value = scope(document)(text, kind)
    except LathedError:
        return None
    if value <= 0 or kind not in ("length", "angle"):
        return None
    unit = "mm" if kind == "length" else "rad"

    def put(d: Document, new: float) -> Document:
        return with_leaf(d, step.number, path, f"{new:.12g} {unit}")

    what = "angle" if kind == "angle" else "diameter" if "diameter" in label else "radius" if "radius" in label else (
        "depth" if "depth" in label else "length")  # fmt: skip
    return DrivingSize(f"step {step.number} {label}", what, value, put)
