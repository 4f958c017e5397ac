"""A fit as one file for other programs: every member with its name, colour and place."""

from __future__ import annotations

from pathlib import Path

from lathed_solid.engine.fits import FitEngine
from lathed_solid.fit.document import Fit
from lathed_solid.fit.finish import finish_of
from lathed_solid.kernel.assembly import Placed, write_assembly
from lathed_solid.kernel.errors import ExchangeError


def export(shop: FitEngine, whole: Fit, path: Path) -> None:
    """Write STEP AP242 or GLB, by the ending. Raises ExchangeError for a part that is not whole."""
    parts = shop.parts(whole)
    for name, part in parts.items():
        if part.shape is None or part.message:
            raise ExchangeError("a part is not complete, so the fit is not exported", where=name, rule=part.message)
    placed = [
        Placed(m.name, m.part, parts[m.part].shape, m.placement.matrix, finish_of(whole, m)) for m in whole.members
    ]
    write_assembly(placed, path, whole.name)
