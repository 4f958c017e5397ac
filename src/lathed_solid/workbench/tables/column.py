"""A column of a table as data: its title, how a row reads in it, and how, if at all, it is edited."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

Row = Any


@dataclass(frozen=True)
class Column:
    """``text`` reads a row; ``edit(row, text)`` takes a new text.

    ``look``: plain, narrow, number, balloon, sheet, drawing, verdict; own: the user's words, in no other language.
    """

    title: str
    text: Callable[[Row], str]
    edit: Callable[[Row, str], Any] | None = None
    look: str = "plain"
    tip: Callable[[Row], str] | None = None
    width: int | None = None
    raw: Callable[[Row], str] | None = None
    #: what a text of this column is completed from while it is typed
    choices: Callable[[], Sequence[str]] | None = None
