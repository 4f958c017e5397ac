"""An action as data; the tables of them are ``actions`` and ``fit.actions``."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid.workbench.commands import Commands

Run = Callable[[Commands], object]


@dataclass(frozen=True)
class Action:
    """``run`` gets the commands. ``checked`` makes it a switch."""

    id: str
    title: str
    keys: str
    group: str
    run: Run
    enabled: Callable[[Commands], bool] = lambda _c: True
    checked: Callable[[Commands], bool] | None = None
    tip: str = ""


def at_fit(c: Commands) -> bool:
    """Whether the Fit desk is in view: files and undo act on the fit there."""
    return c.bench.desk == "fit"


def by_desk(fit: Run, part: Run) -> Run:
    """One thing at the Fit desk, another at the others."""
    return lambda c: (fit if at_fit(c) else part)(c)
