"""Sizes in the kernel's messages, in the unit of the sheet that the part comes from; and whether anybody reads them."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import length

_unit: ContextVar[LengthUnit] = ContextVar("unit", default="mm")


_advised: ContextVar[bool] = ContextVar("advised", default=True)


@contextmanager
def unadvised() -> Iterator[None]:
    """Within this nobody reads what would fit instead: a failure is enough."""
    token = _advised.set(False)
    try:
        yield
    finally:
        _advised.reset(token)


def advised() -> bool:
    """Whether a builder may take its time to say what would fit."""
    return _advised.get()


@contextmanager
def speaking(unit: LengthUnit) -> Iterator[None]:
    """Within this, sizes are told in ``unit``."""
    token = _unit.set(unit)
    try:
        yield
    finally:
        _unit.reset(token)


def said(mm: float) -> str:
    """A length as the sheet would write it, without its unit."""
    return length(mm, _unit.get())
