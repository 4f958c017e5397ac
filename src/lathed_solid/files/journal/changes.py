"""What differs between two records, as JSON that makes the second's out of the first's.

Values that an edit left alone are the same objects in both, so that one number changed among thousands of entities is
found by comparing identities. A change is written as

* ``[value]``: another value whole;
* ``{"field": change, ...}``: some fields of a record, or some items of a list by their index;
* ``{"+": [begin, end, [item, ...]]}``: the items from ``begin`` up to ``end`` of a list are replaced.
"""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel
from pydantic_core import to_jsonable_python

#: at an index of a list, or a field: what it becomes
Change = list[Any] | dict[str, Any]
SPLICE = "+"


class TooMuch(Exception):
    """More differs than was asked to be looked at."""


class _Budget:
    def __init__(self, pieces: int | None) -> None:
        self.left = pieces

    def spend(self, pieces: int = 1) -> None:
        if self.left is not None:
            self.left -= pieces
            if self.left < 0:
                raise TooMuch


def changed(old: Any, new: Any, *, pieces: int | None = None) -> Change | None:
    """What makes ``new`` out of ``old``, both records; None when nothing differs. Raises TooMuch when more than
    ``pieces`` pieces do.
    """
    return _changed(old, new, _Budget(pieces))


def _changed(old: Any, new: Any, budget: _Budget) -> Change | None:
    if old is new:
        return None
    if isinstance(old, BaseModel) and type(old) is type(new):
        if getattr(old, "kept", ()) == getattr(new, "kept", ()):
            return _fields(old, new, budget)
    elif isinstance(old, tuple) and isinstance(new, tuple):
        return _items(old, new, budget)
    elif type(old) is type(new) and old == new:
        return None
    budget.spend(_weight(new))
    return [plain(new)]


def _fields(old: BaseModel, new: BaseModel, budget: _Budget) -> Change | None:
    before, after = old.__dict__, new.__dict__
    found: dict[str, Any] = {}
    for name, field in type(new).model_fields.items():
        a, b = before[name], after[name]
        if a is b or name == "kept" or field.exclude:
            continue
        change = _changed(a, b, budget)
        if change is not None:
            found[name] = change
    return found or None


def _items(old: tuple[Any, ...], new: tuple[Any, ...], budget: _Budget) -> Change | None:
    if len(old) == len(new):
        found = {}
        for k, (a, b) in enumerate(zip(old, new, strict=True)):
            if a is not b and (change := _changed(a, b, budget)) is not None:
                found[str(k)] = change
        return found or None
    begin, end, tail = 0, len(old), len(new)
    while begin < min(end, tail) and _same(old[begin], new[begin]):
        begin += 1
    while min(end, tail) > begin and _same(old[end - 1], new[tail - 1]):
        end, tail = end - 1, tail - 1
    items = new[begin:tail]
    budget.spend(_weight(items))
    return {SPLICE: [begin, end, [plain(item) for item in items]]}


def _same(a: Any, b: Any) -> bool:
    return a is b or (type(a) is type(b) and bool(a == b))


def _weight(value: Any) -> int:
    """How many pieces there are to write, at least."""
    if isinstance(value, tuple):
        return 1 + sum(map(_weight, value[:1000])) + max(0, len(value) - 1000)
    if isinstance(value, BaseModel):
        return 1 + sum(_weight(v) for v in value.__dict__.values() if isinstance(v, (tuple, BaseModel)))
    return 1


def plain(value: Any) -> Any:
    """A value as JSON has it, as it stands within its record's."""
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    if isinstance(value, tuple):
        return [plain(item) for item in value]
    return to_jsonable_python(value)


def applied(old: Any, change: Change) -> Any:
    """The JSON that ``change`` makes out of ``old``, which stays as it is. Raises ValueError for what does not fit."""
    if isinstance(change, list):
        if len(change) != 1:
            raise ValueError("a change of a value holds one value")
        return change[0]
    if isinstance(old, list):
        return _spliced(old, change[SPLICE]) if SPLICE in change else _replaced(old, change)
    if not isinstance(old, dict) or not isinstance(change, dict):
        raise ValueError("a change does not fit what it is of")
    return {**old, **{name: applied(old.get(name), c) for name, c in change.items()}}


def _spliced(old: list[Any], splice: Any) -> list[Any]:
    begin, end, items = splice
    if not (isinstance(items, list) and 0 <= begin <= end <= len(old)):
        raise ValueError("a change does not fit its list")
    return [*old[:begin], *items, *old[end:]]


def _replaced(old: list[Any], change: dict[str, Any]) -> list[Any]:
    new = list(old)
    for k, c in change.items():
        if not 0 <= int(k) < len(new):
            raise ValueError("a change does not fit its list")
        new[int(k)] = applied(new[int(k)], c)
    return new
