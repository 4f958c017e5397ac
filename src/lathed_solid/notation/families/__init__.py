"""Families of notes: what each kind of item does to the clause that is being read, as tables of functions on one run.

A family is a module with two tables: ``TAKES``, by the kind of item, and ``COMPLETES``, by the kind of clause.
"""

from __future__ import annotations

from collections.abc import Mapping

from lathed_solid.notation.families import general, holes, sizes, threads, turned
from lathed_solid.notation.families.run import Complete, Run, Take

FAMILIES = (sizes, holes, threads, turned, general)
TAKES: Mapping[str, Take] = {kind: take for family in FAMILIES for kind, take in family.TAKES.items()}
COMPLETES: Mapping[str, Complete] = {kind: way for family in FAMILIES for kind, way in family.COMPLETES.items()}

__all__ = ["COMPLETES", "FAMILIES", "TAKES", "Run"]
