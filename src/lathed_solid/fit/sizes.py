"""What the size of a relation comes to: an expression, in which ``wheel#7`` is callout 7 of the part wheel.

The name before the sign is a member's or a part's, with ``_`` for every blank and sign; behind it may also stand a
parameter of the part (``wheel#play``). The value is the one that the part is built with, in mm or rad.
"""

from __future__ import annotations

import re

from lathed_solid.fit.document import Fit, Relation
from lathed_solid.part.scope import scope
from lathed_solid.quantity import Kind as QuantityKind
from lathed_solid.quantity import QuantityError, Value, evaluate

#: what the size of a relation is; those not here have none
SIZES: dict[str, QuantityKind] = {"gap": "length", "angle": "angle", "screwed": "length", "geared": "number"}

_OF_PART = re.compile(r"(\w+)#(\d{1,6}|[^\W\d]\w*)")


def label(name: str) -> str:
    """A member's or part's name as expressions say it."""
    return re.sub(r"\W", "_", name)


def renamed(text: str, old: str, new: str) -> str:
    """An expression that goes on speaking of a member whose name changes."""
    return _OF_PART.sub(lambda m: f"{label(new)}#{m[2]}" if m[1] == label(old) else m[0], text)


def size_of(fit: Fit, relation: Relation) -> float | None:
    """A relation's size: mm, rad or a ratio; None where it has none. Raises QuantityError."""
    kind = SIZES.get(relation.kind)
    if kind is None or (not relation.size.strip() and relation.kind == "screwed"):
        return None
    return fit_number(fit, relation.size or "0", kind)


def fit_number(fit: Fit, text: str, kind: QuantityKind) -> float:
    """``text`` in base units, callouts of parts looked up. Raises QuantityError, DocumentError."""
    if "#" in _OF_PART.sub("", text):
        raise QuantityError("# does not say of which part", text=text, hint="as wheel#7, callout 7 of the part wheel")
    names: dict[str, Value] = {}

    def looked_up(found: re.Match[str]) -> str:
        # a balloon of this expression's own, so that no part's name has to be one of the expression language
        own = f"#{len(names) + 1}"
        names[own] = _value(fit, found[1], found[2])
        return own

    return evaluate(_OF_PART.sub(looked_up, text), kind, unit=fit.unit, names=names)


def _value(fit: Fit, part: str, key: str) -> Value:
    sources = {label(p.name): p.document for p in fit.parts} | {
        label(m.name): fit.document_of(m.name) for m in fit.members
    }
    if part not in sources:
        raise QuantityError(f"there is no part {part!r}", hint=f"one of {', '.join(sorted(sources)[:8])}")
    names = scope(sources[part]).names
    name = f"#{key}" if key.isdigit() else key
    if name not in names:
        raise QuantityError(f"{part} has no {'callout' if key.isdigit() else 'parameter'} {key}",
                            hint=f"one of {', '.join(sorted(names)[:8]) or 'none: its ledger is empty'}")  # fmt: skip
    return names[name]
