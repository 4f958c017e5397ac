"""From the characters of a page to the notes on it: lines, stacked tolerances, notes of several lines.

The reading order of a page's text is useless on a drawing, so characters are grouped by place: those of one angle and
one baseline (within 0.18 em) make a line, cut where the gap is over 0.75 em, with a space over 0.17 em. Two tolerances
one above the other join the size to their left. Lines of one size, left-aligned, within 1.45 em make one note. What
lies in a ruled table or the title block is left out.

``u`` runs along the text, ``v`` across it, upwards; in the page's own points, y up.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from lathed_solid.sheets.title_block import Box, Rule, inside, tables, zone_marks

#: in ems: baselines of one line, a cut, a space, lines of one note
BASELINE, CUT, SPACE, LEADING = 0.18, 0.75, 0.17, 1.45
TOLERANCE = re.compile(r"^(?:[+\-−±]\s?\d*[.,]?\d+|0)°?$")
DIAMETERS = str.maketrans({"Ø": "⌀", "ø": "⌀", "∅": "⌀", "Φ": "⌀", "−": "-", "–": "-"})


@dataclass(frozen=True, slots=True)
class Char:
    """A character: its origin and advance end in points, its angle in degrees, its size in points."""

    char: str
    x: float
    y: float
    angle: int
    size: float
    advance: float


@dataclass(frozen=True, slots=True)
class Text:
    """A note found on a page: ``box`` (left, bottom, right, top) in points, ``angle`` in degrees."""

    text: str
    box: Box
    angle: int
    size: float


@dataclass(frozen=True, slots=True)
class TextLine:
    """A line of text: from ``u`` to ``end`` along its angle, its baseline at ``v`` across it, in points."""

    text: str
    angle: int
    size: float
    u: float
    v: float
    end: float


def notes_of(chars: Sequence[Char], rules: Sequence[Rule], width: float, height: float) -> list[Text]:
    """The notes of a page of ``width`` x ``height`` points, the rules being its straight level and upright strokes."""
    return sorted_lines(lines_of(chars), rules, width, height)[0]


def sorted_lines(
    lines: Sequence[TextLine], rules: Sequence[Rule], width: float, height: float
) -> tuple[list[Text], list[TextLine]]:
    """The notes of a page from its lines of text, without the sheet's furniture; and the lines of its tables."""
    stacked, rest = _stacked(list(lines))
    notes = [(group, text, _box(group)) for group, text in stacked + _joined(rest)]
    places = [(text, (b[0] + b[2]) / 2 / width, (b[1] + b[3]) / 2 / height) for _, text, b in notes]
    marks = zone_marks(places)
    regions = tables(rules, width, height)
    furniture = {n for n, (_, x, y) in enumerate(places) if inside(x * width, y * height, regions)}
    found = [
        Text(text.translate(DIAMETERS), box, group[0].angle, group[0].size)
        for n, (group, text, box) in enumerate(notes) if n not in marks and n not in furniture
    ]  # fmt: skip
    return found, [line for n in sorted(furniture) for line in notes[n][0]]


def _axes(angle: int) -> tuple[float, float]:
    return math.cos(math.radians(angle)), math.sin(math.radians(angle))


def lines_of(chars: Sequence[Char]) -> list[TextLine]:
    """Characters of one angle and one baseline, as lines of text."""
    by_angle: dict[int, list[tuple[float, float, Char]]] = {}
    for c in chars:
        ca, sa = _axes(c.angle)
        by_angle.setdefault(c.angle, []).append((c.x * ca + c.y * sa, c.y * ca - c.x * sa, c))
    out = []
    for found in by_angle.values():
        rows: list[list[tuple[float, float, Char]]] = []
        for item in sorted(found, key=lambda t: (-t[1], t[0])):
            for row in reversed(rows[-40:]):
                first = row[0]
                near = abs(first[1] - item[1]) < BASELINE * min(first[2].size, item[2].size)
                if near and 0.85 < first[2].size / item[2].size < 1.18:
                    row.append(item)
                    break
            else:
                rows.append([item])
        for row in rows:
            out += _cut(sorted(row, key=lambda t: t[0]))
    return out


def _cut(row: list[tuple[float, float, Char]]) -> list[TextLine]:
    out: list[TextLine] = []
    u, v, c = row[0]
    line = TextLine(c.char, c.angle, c.size, u, v, u + c.advance)
    for u, _v, c in row[1:]:
        gap = u - line.end
        if gap > CUT * c.size or gap < -c.size:
            out.append(line)
            line = TextLine(c.char, c.angle, c.size, u, line.v, u + c.advance)
        else:
            space = " " if gap > SPACE * c.size else ""
            line = replace(line, text=line.text + space + c.char, end=max(line.end, u + c.advance))
    return [*out, line]


Note = tuple[list[TextLine], str]


def _stacked(lines: list[TextLine]) -> tuple[list[Note], list[TextLine]]:
    """Sizes with two tolerances behind them, one above the other; and the lines that are left."""
    limits = [k for k in lines if TOLERANCE.match(k.text)]
    pairs = []
    for i, a in enumerate(limits):
        for b in limits[i + 1 :]:
            if (
                a.angle != b.angle
                or abs(a.size - b.size) > 0.15 * a.size
                or "+" not in a.text + b.text + "+" * ("-" in a.text + b.text or "−" in a.text + b.text)
            ):
                continue
            upper, lower = (a, b) if a.v > b.v else (b, a)
            apart = upper.v - lower.v
            level = abs(upper.u - lower.u) < 0.8 * a.size or abs(upper.end - lower.end) < 0.5 * a.size
            if 0.5 * a.size < apart < 1.9 * a.size and level:
                pairs.append((apart + abs(upper.u - lower.u), upper, lower))
    used: set[int] = set()
    notes: list[Note] = []
    for _, upper, lower in sorted(pairs, key=lambda p: p[0]):
        if id(upper) in used or id(lower) in used:
            continue
        sizes = [
            k for k in lines
            if k.angle == upper.angle and id(k) not in used and k is not upper and k is not lower
            and re.search(r"\d", k.text) and k.size >= 0.95 * upper.size
            and -0.4 * k.size < min(upper.u, lower.u) - k.end < k.size
            and lower.v - 0.3 * k.size < k.v < upper.v + 0.1 * k.size
        ]  # fmt: skip
        if sizes:
            size = max(sizes, key=lambda k: k.end)
            used |= {id(size), id(upper), id(lower)}
            notes.append(([size, upper, lower], f"{size.text} {upper.text}/{lower.text}"))
    return notes, [k for k in lines if id(k) not in used]


def _joined(lines: list[TextLine]) -> list[Note]:
    """Lines beneath one another, left-aligned and of one size, as one note."""
    todo = sorted(lines, key=lambda k: (k.angle, -k.v, k.u))
    used: set[int] = set()
    out: list[Note] = []
    for line in todo:
        if id(line) in used:
            continue
        used.add(id(line))
        note = [line]
        while True:
            last = note[-1]
            below = next(
                (k for k in todo if id(k) not in used and k.angle == line.angle
                 and abs(k.size - line.size) <= 0.1 * line.size and 0.6 * line.size < last.v - k.v < LEADING * line.size
                 and -0.3 * line.size < k.u - line.u < 1.6 * line.size), None,
            )  # fmt: skip
            if below is None:
                break
            used.add(id(below))
            note.append(below)
        out.append((note, "\n".join(k.text for k in note)))
    return out


def _box(lines: list[TextLine]) -> Box:
    ca, sa = _axes(lines[0].angle)
    xs, ys = [], []
    for k in lines:
        for u in (k.u, k.end):
            for v in (k.v - 0.25 * k.size, k.v + 0.8 * k.size):
                xs.append(u * ca - v * sa)
                ys.append(u * sa + v * ca)
    return min(xs), min(ys), max(xs), max(ys)
