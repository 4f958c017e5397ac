"""Two documents, or two moments of one, side by side: what differs in callouts, parameters and steps."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from lathed_solid.part.document import Document

Kind = Literal["added", "removed", "changed"]


@dataclass(frozen=True, slots=True)
class Difference:
    """``what``: callout 7, step 30, parameter wall, part; ``before`` and ``after`` in words, empty where it is not."""

    kind: Kind
    what: str
    before: str
    after: str


def compare(old: Document, new: Document) -> tuple[Difference, ...]:
    """All differences, the part's own first, then callouts, parameters and steps by their numbers."""
    out: list[Difference] = []
    for field in ("name", "unit", "material", "general", "instructions", "stated_mass"):
        a, b = getattr(old, field), getattr(new, field)
        if a != b:
            out.append(Difference("changed", f"part {field.replace('_', ' ')}", _words(a), _words(b)))
    out += _each("callout", _by(old.callouts, "balloon"), _by(new.callouts, "balloon"), lambda c: c.note, "note")
    out += _each("parameter", _by(old.parameters, "name"), _by(new.parameters, "name"), lambda p: p.expression,
                 "expression")  # fmt: skip
    out += _each("step", _by(old.steps, "number"), _by(new.steps, "number"), lambda s: s.title(), "")
    return tuple(out)


def _by(models: tuple[Any, ...], key: str) -> dict[Any, Any]:
    return {getattr(m, key): m for m in models}


def _each(
    what: str, old: Mapping[Any, Any], new: Mapping[Any, Any], title: Callable[[Any], str], main: str
) -> list[Difference]:
    out = []
    for key in sorted({*old, *new}, key=lambda k: (str(type(k)), k)):
        a, b = old.get(key), new.get(key)
        name = f"{what} {key}"
        if a is None:
            out.append(Difference("added", name, "", title(b)))
        elif b is None:
            out.append(Difference("removed", name, title(a), ""))
        elif a != b:
            out += _fields(name, a, b, title, main)
    return out


def _fields(name: str, a: Any, b: Any, title: Callable[[Any], str], main: str) -> list[Difference]:
    if type(a) is not type(b):
        return [Difference("changed", name, title(a), title(b))]
    out = []
    for field in type(a).model_fields:
        x, y = getattr(a, field), getattr(b, field)
        if x != y:
            label = name if field == main else f"{name} {field.replace('_', ' ')}"
            out.append(Difference("changed", label, _words(x), _words(y)))
    return out


def _words(value: Any) -> str:
    """A field's value, short enough for a row."""
    if value is None:
        return "none"
    if hasattr(value, "entities"):
        return f"{len(value.entities)} entities, {len(value.constraints)} constraints"
    text = value if isinstance(value, str) else str(value)
    return text if len(text) <= 120 else text[:117] + "…"
