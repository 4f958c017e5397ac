"""The bores of a turned part as its drawing shows and says them.

A blind hole is one whose leader points at the middle of an end. What is drawn within the profile from an end face on,
cut or hidden, is a bore: step by step, each with the diameter that agrees with it and the depth of its shoulder.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence

from lathed_solid.ledger import Callout
from lathed_solid.part.proposals.drawn import DRAWN, DrawnNote, DrawnPart, Placed
from lathed_solid.sheets.turned_outline import Stretch
from lathed_solid.turned.table import Bore, BoreStep, End

#: a leader points at an end's middle within this, mm on the page; what is drawn ends at a face within the second
MIDDLE, AT_FACE = 3.0, 0.4


def bores_of(sheet: DrawnPart) -> tuple[list[Bore], list[Placed]]:
    """The bores, and how each was found; notes that say them are used."""
    out, rows = _drilled(sheet)
    drawn = sheet.outline.bores
    whole = sheet.outline.stops[-1]
    if not drawn:
        return out, rows
    if drawn[0].start < AT_FACE and drawn[-1].end > whole - AT_FACE and _hangs_together(drawn):
        falls = drawn[0].left >= drawn[-1].right
        runs: list[tuple[End, list[Stretch]]] = [("left", list(drawn))] if falls else [("right", list(drawn)[::-1])]
        if len(drawn) == 1:
            runs = [("left", list(drawn))]
    else:
        runs = [("left", [s for s in drawn if s.end < whole - AT_FACE]),
                ("right", [s for s in drawn if s.end > whole - AT_FACE])]  # fmt: skip
    for end, run in runs:
        if not run or any(b.end == end for b in out):
            continue
        through = run[-1].end > whole - AT_FACE if end == "left" else run[-1].start < AT_FACE
        bore, row = _bore(sheet, end, run, through=through)
        rows.append(row)
        if bore is not None:
            out.append(bore)
    return out, rows


def _hangs_together(drawn: Sequence[Stretch]) -> bool:
    return all(abs(a.end - b.start) < AT_FACE for a, b in itertools.pairwise(drawn))


def _bore(sheet: DrawnPart, end: End, run: Sequence[Stretch], *, through: bool) -> tuple[Bore | None, Placed]:
    """One bore from an end, its steps in the order of the tool; asked for where a size of it is not said."""
    steps, words = [], []
    used: list[DrawnNote] = []
    what = f"bore, {end}"
    for n, s in enumerate(run):
        mouth, far = (s.left, s.right) if end == "left" else (s.right, s.left)
        wide = _diameter(sheet, 2 * mouth, used)
        narrow = None if s.level else _diameter(sheet, 2 * far, used)
        last = through and n == len(run) - 1
        deep = None if last else _depth(sheet, end, s.end if end == "left" else s.start)
        if wide is None or (narrow is None and not s.level) or (deep is None and not last):
            drawn = f"⌀{2 * mouth / sheet.scale:.1f}"
            return None, Placed(what, "", f"{what}, drawn {drawn}: its {'diameter' if wide is None else 'depth'}")
        used += [found[1] for found in (wide, narrow, deep) if found is not None]
        steps.append(BoreStep(
            diameter=wide[0].name, depth=None if deep is None else deep[0].name,
            end_diameter=None if narrow is None else narrow[0].name,
        ))  # fmt: skip
        to = "" if narrow is None else f" to {narrow[0].name}"
        words.append(f"{wide[0].name}{to} {'through' if deep is None else f'{deep[0].name} deep'}")
    for note in used:
        note.used = True
    return Bore(end=end, steps=tuple(steps)), Placed(what, ", ".join(words))


def _diameter(sheet: DrawnPart, drawn: float, used: Sequence[DrawnNote]) -> tuple[Callout, DrawnNote] | None:
    """The diameter that agrees with what is drawn, mm on the page; one that says nothing else yet."""
    wanted = [
        (abs(c.nominal * sheet.scale - drawn), k, c, n) for k, n in enumerate(sheet.notes) for c in n.callouts
        if c.role in ("diameter", "hole diameter") and not n.used and n not in used
        and abs(c.nominal * sheet.scale - drawn) <= DRAWN and c.count == 1
    ]  # fmt: skip
    if not wanted:
        return None
    _, _, callout, note = min(wanted, key=lambda w: w[:2])
    return callout, note


def _depth(sheet: DrawnPart, end: End, at: float) -> tuple[Callout, DrawnNote] | None:
    """The dimension from an end face to a shoulder, mm on the page from the left."""
    face = 0 if end == "left" else len(sheet.outline.stretches)
    for a, b, callout, note in sheet.spans:
        if face in (a, b):
            other = b if a == face else a
            if abs(sheet.stops[other] * sheet.scale - at) <= DRAWN and not callout.reference:
                return callout, note
    return None


def _drilled(sheet: DrawnPart) -> tuple[list[Bore], list[Placed]]:
    """Blind holes whose leaders point at the middle of an end."""
    out: list[Bore] = []
    rows = []
    for note in sheet.notes:
        by_role = {c.role: c for c in note.callouts}
        wide, deep = by_role.get("hole diameter"), by_role.get("hole depth")
        if note.tip is None or wide is None or deep is None or wide.count > 1 or len(by_role) > 2:
            continue
        u, v = note.tip[0] - sheet.outline.origin[0], note.tip[1] - sheet.outline.origin[1]
        ends = {"left": abs(u), "right": abs(u - sheet.outline.stops[-1])}
        end = min(ends, key=lambda e: ends[e])
        if abs(v) > MIDDLE or ends[end] > MIDDLE or any(b.end == end for b in out):
            continue
        note.used = True
        out.append(Bore(end=end, steps=(BoreStep(diameter=wide.name, depth=deep.name),), point="118°"))
        rows.append(Placed(f"bore, {end}", f"{wide.name}, {deep.name} deep"))
    return out, rows
