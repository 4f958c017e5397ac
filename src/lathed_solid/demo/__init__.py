"""Demo parts: made by the scripting interface, so that they are documents like any other."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.demo.crank_hub import crank_hub
from lathed_solid.demo.gland_nut import gland_nut
from lathed_solid.demo.pedestal import pedestal, pedestal_as_drawn
from lathed_solid.demo.ratchet_wheel import ratchet_wheel
from lathed_solid.demo.winch import winch
from lathed_solid.demo.winch_spindle import winch_spindle
from lathed_solid.fit.document import Fit
from lathed_solid.part import Document

FITS: dict[str, Callable[[], Fit]] = {"winch": winch}
DEMOS: dict[str, Callable[[], Document]] = {
    "winch-spindle": winch_spindle,
    "pedestal": pedestal,
    "pedestal-as-drawn": pedestal_as_drawn,
    "ratchet-wheel": ratchet_wheel,
    "gland-nut": gland_nut,
    "crank-hub": crank_hub,
}
