"""What stands on a sheet and is no dimension: tables, the title block, and the marks of the border's zones.

A table is a group of rules that hang together and end on one another. Zones are fields of 50 mm counted from the middle
of the sheet, numbers from the left and letters from the top, without I and O (ISO 5457:1999, 4.4).
"""

from __future__ import annotations

import itertools
import re
from collections.abc import Sequence

#: a group of rules is a table when more of them than this end on others
GRID = 0.95
#: a page with more rules than this is not searched for tables
MOST_RULES = 2500
#: a rule over this share of the page is the frame's, and side of a table that ends on it within so many points
LONG, ON_SIDE = 0.62, 3.0
#: a shorter rule is none of a table, points: curves drawn in pieces have thousands
SHORT = 6.0
#: how far from the edge zone marks stand, share of the page; how many in a row make a border
EDGE, IN_A_ROW = 0.045, 3
MARK = re.compile(r"[A-HJ-NP-Z]|\d{1,2}")
LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ"

Rule = tuple[float, float, float, float]
Box = tuple[float, float, float, float]


def inside(x: float, y: float, boxes: Sequence[Box]) -> bool:
    """Whether a place lies in one of the boxes."""
    return any(b[0] <= x <= b[2] and b[1] <= y <= b[3] for b in boxes)


#: marks of two zones stand farther apart than this share of the page
ZONE_APART = 0.02


def zone_marks(texts: Sequence[tuple[str, float, float]]) -> set[int]:
    """Which of the texts (with their places, shares of the page) are marks of the border's zones: along an edge of the
    page, counting on from one to the next.
    """
    out: set[int] = set()
    marks = [(n, text, x, y) for n, (text, x, y) in enumerate(texts) if MARK.fullmatch(text)]
    for edge in ("left", "right", "bottom", "top"):
        upright = edge in ("left", "right")
        row = []
        for n, text, x, y in marks:
            deep = x if upright else y
            if (deep if edge in ("left", "bottom") else 1 - deep) < EDGE:
                row.append((y if upright else x, n, text))
        row.sort()
        counts = [LETTERS.find(text) if text.isalpha() else int(text) for _, _, text in row]
        steps = {b - a for a, b in itertools.pairwise(counts)}
        apart = min((b[0] - a[0] for a, b in itertools.pairwise(row)), default=0.0)
        if len(row) >= IN_A_ROW and steps in ({1}, {-1}) and apart > ZONE_APART:
            out.update(n for _, n, _ in row)
    return out


def zone(x: float, y: float, width: float, height: float) -> str:
    """The zone of a place (shares of the page from the top left) on a sheet of ``width`` x ``height`` mm: ``C4``."""
    columns, rows = (2 * max(1, round(size / 100)) for size in (width, height))
    column = min(max(int((x * width - width / 2) / 50 + columns / 2), 0), columns - 1)
    row = min(max(int((y * height - height / 2) / 50 + rows / 2), 0), rows - 1)
    return f"{LETTERS[min(row, len(LETTERS) - 1)]}{column + 1}"


def _gridded(group: list[Rule]) -> float:
    """Share of rules that end on others at both ends: a table's all do, those of a view and its dimensions do not."""

    def on(x: float, y: float, own: Rule) -> bool:
        return any(
            r is not own and r[0] - 0.6 <= x <= r[2] + 0.6 and r[1] - 0.6 <= y <= r[3] + 0.6 for r in group
        )  # fmt: skip

    return sum(on(r[0], r[1], r) and on(r[2], r[3], r) for r in group) / len(group)


def _sides(group: Sequence[Rule], long: Sequence[Rule]) -> list[Rule]:
    """The parts of the sheet's frame that are sides of a group of rules."""
    left, low = min(r[0] for r in group), min(r[1] for r in group)
    right, high = max(r[2] for r in group), max(r[3] for r in group)
    out: list[Rule] = []
    for r in long:
        upright = r[2] - r[0] < r[3] - r[1]
        at, a, b = (r[0], r[1], r[3]) if upright else (r[1], r[0], r[2])
        one, other = (left, right) if upright else (low, high)
        side = one if abs(one - at) < abs(other - at) else other
        span = (low, high) if upright else (left, right)
        if abs(side - at) < ON_SIDE and a <= span[0] + ON_SIDE and span[1] - ON_SIDE <= b:
            out.append((side, low, side, high) if upright else (left, side, right, side))
    return out


def tables(rules: Sequence[Rule], width: float, height: float) -> list[Box]:
    """Boxes of rules that hang together and make a grid: tables and the title block. The sheet's frame is none."""
    lines = list(dict.fromkeys((round(a, 1), round(b, 1), round(c, 1), round(d, 1)) for a, b, c, d in rules
                               if c - a > SHORT or d - b > SHORT))  # fmt: skip
    if len(lines) > MOST_RULES:
        return []
    long = [r for r in lines if r[2] - r[0] >= LONG * width or r[3] - r[1] >= LONG * height]
    lines = [r for r in lines if r[2] - r[0] < LONG * width and r[3] - r[1] < LONG * height]
    parent = list(range(len(lines)))

    def root(i: int) -> int:
        while parent[i] != i:
            parent[i] = parent[parent[i]]
            i = parent[i]
        return i

    order = sorted(range(len(lines)), key=lambda i: lines[i][0])
    for n, i in enumerate(order):
        a = lines[i]
        for j in order[n + 1 :]:
            b = lines[j]
            if b[0] - 0.5 > a[2]:
                break
            if a[1] - 0.5 <= b[3] and b[1] - 0.5 <= a[3]:
                parent[root(i)] = root(j)
    groups: dict[int, list[Rule]] = {}
    for i, r in enumerate(lines):
        groups.setdefault(root(i), []).append(r)
    out = []
    for own in groups.values():
        sides = _sides(own, long)
        group = own + sides
        level = {round(r[1]) for r in group if r[2] - r[0] > r[3] - r[1]}
        upright = {round(r[0]) for r in group if r[2] - r[0] <= r[3] - r[1]}
        # in a corner of the frame a list of rows is one, too
        columns = 2 if len(sides) >= 2 else 3
        if len(level) >= 4 and len(upright) >= columns and _gridded(group) > GRID:
            out.append((min(r[0] for r in group), min(r[1] for r in group),
                        max(r[2] for r in group), max(r[3] for r in group)))  # fmt: skip
    return out
