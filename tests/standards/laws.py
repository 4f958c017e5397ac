"""What must hold over a whole table, whatever its single values: monotony, ratios, formulas, ranges without gaps."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable, Sequence

Row = dict[str, str]


def column(rows: Iterable[Row], name: str) -> list[float]:
    """The numbers of a column; empty cells are left out."""
    return [float(r[name]) for r in rows if r[name]]


def rising(values: Sequence[float], *, strictly: bool = True) -> bool:
    """Each above (or not below) the one before."""
    return all(a < b or (not strictly and a == b) for a, b in itertools.pairwise(values))


def off_law(rows: Iterable[Row], law: Callable[[Row], float], name: str, share: float, least: float = 0.0) -> list[Row]:
    """Rows whose value is further from the law than ``share`` of it, or ``least``."""
    return [r for r in rows if r[name] and abs(float(r[name]) - law(r)) > max(share * abs(law(r)), least)]


def gaps(rows: Sequence[Row], low: str, high: str) -> list[Row]:
    """Rows that do not begin where the one before ends."""
    return [b for a, b in itertools.pairwise(rows) if float(a[high]) != float(b[low])]


def grouped(rows: Iterable[Row], *names: str) -> dict[tuple[str, ...], list[Row]]:
    """The rows of each group, in their order."""
    out: dict[tuple[str, ...], list[Row]] = {}
    for r in rows:
        out.setdefault(tuple(r[n] for n in names), []).append(r)
    return out
