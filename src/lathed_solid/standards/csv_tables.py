"""Reading the CSV tables that ship with the product; every row carries its source."""

from __future__ import annotations

import csv
from functools import cache
from pathlib import Path

from lathed_solid.errors import LathedError

DATA = Path(__file__).parent / "data"


class StandardError(LathedError, LookupError):
    """A size, class or material that the shipped tables do not cover."""


@cache
def rows(table: str) -> tuple[dict[str, str], ...]:
    """All rows of ``data/<table>.csv`` as dictionaries of text."""
    with (DATA / f"{table}.csv").open(encoding="utf-8", newline="") as handle:
        return tuple(csv.DictReader(handle))
