"""Families of notes: which item begins a clause of which kind, and how it is read to its end."""

from __future__ import annotations

from lathed_solid.notation.families import (
    circles,
    designated,
    general,
    kept,
    marks,
    pockets,
    sizes,
    tapers,
    threads,
    turned,
    widenings,
)
from lathed_solid.notation.families.run import Families, Run

FAMILIES = (sizes, circles, widenings, threads, turned, designated, tapers, general, marks, kept, pockets)
READS: Families = {kind: read for family in FAMILIES for kind, read in family.READS.items()}

__all__ = ["FAMILIES", "READS", "Run"]
