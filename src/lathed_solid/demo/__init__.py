"""Demo parts: made by the scripting interface, so that they are documents like any other."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.demo.pedestal import pedestal
from lathed_solid.demo.winch_spindle import winch_spindle
from lathed_solid.part import Document

DEMOS: dict[str, Callable[[], Document]] = {"winch-spindle": winch_spindle, "pedestal": pedestal}
