"""The circles of a plate's face as holes: which note says each, where they stand.

Circles about one middle are one spot. A note says a spot whose circles are as wide as it says; the leader's own first,
then as many alike as it counts. Where more are alike than are counted it is asked which.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.notation import Clause, Meaning, NoteError, read_note
from lathed_solid.part.document import Document
from lathed_solid.part.edits import changed, next_number, put_step
from lathed_solid.part.from_note import step_of_callouts
from lathed_solid.part.note_picks import Picks
from lathed_solid.part.proposals.drawn import DRAWN, DrawnNote, Placed, drawn
from lathed_solid.part.proposals.drawn_plate import DrawnPlate
from lathed_solid.part.steps import ChamferStep, EdgePick, HoleStep, OnCircle, Table
from lathed_solid.sheets.plate_outline import PlateFace

#: middles that are nearer are one, mm on the page; a leader ends no farther from its circle
ONE, AT = 0.3, 1.6
#: an angle of a first hole that nobody has to say, degrees
USUAL, NEAR = 15.0, 0.5


@dataclass(frozen=True)
class Spot:
    """Circles about one middle, mm on the page, the widest first."""

    x: float
    y: float
    radii: tuple[float, ...]

    def off(self, u: float, v: float) -> float:
        """How far a place is from the nearest of its circles, or within the widest."""
        away = math.hypot(u - self.x, v - self.y)
        return min([abs(away - r) for r in self.radii] + ([0.5] if away < self.radii[0] else []))


def holes_of(document: Document, sheet: DrawnPlate, top: str) -> Document:
    """The document with a step on the face ``top`` for each note of holes; what is asked goes to the sheet's rows."""
    spots = _spots(sheet.face)
    free = set(range(len(spots)))
    walls: dict[int, str] = {}
    for note, meaning, clause in _said(sheet.notes, document):
        chosen = _chosen(note, clause, spots, free, sheet)
        if not chosen:
            continue
        told = [sheet.place(spots[k].x, spots[k].y) for k in chosen]
        where = _places(clause, note, [spots[k] for k in chosen], sheet) or Table(
            rows=tuple((x.cell, y.cell) for x, y in told)
        )
        try:
            made = _drilled(document, meaning, clause, note, top, where, [(spots[k].x, spots[k].y) for k in chosen])
        except LathedError:
            continue
        document, note.used = made, True
        free -= set(chosen)
        walls |= {k: f"{made.steps[-1].number}/h{n}.wall" for n, k in enumerate(chosen) if not _sizes(clause)[1]}
        asked = isinstance(where, Table) and any(t.asked for both in told for t in both)
        cells = "; ".join(f"{x}, {y}" for x, y in where.rows) if isinstance(where, Table) else "on its circle"
        sheet.rows.append(
            Placed(note.words, f"at {cells}", f"{note.words}: where it stands, drawn at {cells}" if asked else "")
        )
    document = _bevelled(document, sheet, spots, walls, top)
    for k in sorted(free):
        s = spots[k]
        size = " in ".join(f"⌀{drawn(2 * r / sheet.scale, document.unit)}" for r in reversed(s.radii))
        at = sheet.says(s.x, s.y, document.unit)
        sheet.rows.append(Placed("a circle", "", f"a circle {size} at {at}: which note says it"))
    return document


def _bevelled(
    document: Document, sheet: DrawnPlate, spots: Sequence[Spot], walls: dict[int, str], top: str
) -> Document:
    """Rims of holes that are drawn bevelled, by the note that points there or says as much."""
    for note in sheet.notes:
        callout = next((c for c in note.callouts if c.role == "chamfer"), None)
        if note.used or callout is None:
            continue
        leg = callout.nominal * sheet.scale
        rims = [k for k in walls if len(spots[k].radii) == 2
                and abs(spots[k].radii[0] - spots[k].radii[1] - leg) <= DRAWN / 2]  # fmt: skip
        pointed = [k for k in rims if note.tip is not None and spots[k].off(*sheet.on_page(note)) <= AT]
        rims = pointed or rims  # its leader may point at the rim in the other view
        if not rims or callout.count not in (1, len(rims)):
            continue
        note.used = True
        edges = tuple("|".join(sorted((walls[k], top))) for k in rims)
        angle = "45°" if callout.angle is None else f"{math.degrees(callout.angle):g}°"
        step = ChamferStep(number=next_number(document), leg=callout.name, angle=angle, pick=EdgePick(edges=edges))
        document = put_step(document, step)
        many = "s" * (len(rims) > 1)
        sheet.rows.append(Placed(f"{len(rims)} hole rim{many}", f"chamfer {callout.name}"))
    return document


def _spots(face: PlateFace) -> list[Spot]:
    middles: list[tuple[float, float, list[float]]] = []
    for c in face.circles:
        home = next((m for m in middles if math.hypot(m[0] - c.x, m[1] - c.y) < ONE), None)
        if home is None:
            middles.append((c.x, c.y, [c.radius]))
        else:
            home[2].append(c.radius)
    return [Spot(x, y, tuple(sorted(radii, reverse=True))) for x, y, radii in middles]


def _said(notes: Sequence[DrawnNote], document: Document) -> list[tuple[DrawnNote, Meaning, Clause]]:
    """Notes of one kind of hole, those with a leader first."""
    out = []
    for note in notes:
        if note.used or not note.callouts:
            continue
        try:
            meaning = read_note(note.offer.text, document.unit)
        except NoteError:
            continue
        made = [c for c in meaning.clauses if c.kind in ("hole", "thread", "diameter")]
        if len(made) == 1 and not meaning.unread:
            out.append((note, meaning, made[0]))
    return sorted(out, key=lambda s: s[0].tip is None)


def _sizes(clause: Clause) -> tuple[list[float], list[float]]:
    """Diameters (mm) of which one is drawn, and those that are drawn too."""
    wide = [e.diameter_mm for e in (clause.cbore, clause.csk, clause.spotface, clause.cdrill)
            if e is not None and e.diameter_mm is not None]  # fmt: skip
    if clause.thread is None:
        return [clause.diameter_mm or 0.0], wide
    drills = [clause.diameter_mm] if clause.diameter_mm is not None else []
    return [*drills, clause.thread.major_mm - clause.thread.pitch_mm, clause.thread.major_mm], wide


def _fits(clause: Clause, spot: Spot, scale: float) -> bool:
    own, wide = _sizes(clause)

    def is_drawn(d: float) -> bool:
        return any(abs(d * scale / 2 - r) <= DRAWN / 2 for r in spot.radii)

    return any(map(is_drawn, own)) and all(map(is_drawn, wide)) and len(spot.radii) <= 2 + len(wide)


def _chosen(note: DrawnNote, clause: Clause, spots: Sequence[Spot], free: set[int], sheet: DrawnPlate) -> list[int]:
    """The spots that a note says; none, and what is asked, where it is not beyond doubt."""
    pool = [k for k in sorted(free) if _fits(clause, spots[k], sheet.scale)]
    count = clause.count or 1
    if note.tip is not None:
        u, v = sheet.on_page(note)
        at = [(spots[k].off(u, v), k) for k in pool if spots[k].off(u, v) <= AT]
        if not at:
            return []
        first = min(at)[1]
        pool = [first] if count == 1 else [k for k in pool if _alike(spots[k], spots[first])]
    if len(pool) == count:
        return pool
    if pool and note.tip is not None:
        sheet.rows.append(
            Placed(note.words, "", f"{note.words}: {len(pool)} circles are drawn alike, {count} are told")
        )
    return []


def _alike(one: Spot, two: Spot) -> bool:
    return len(one.radii) == len(two.radii) and all(
        abs(a - b) <= DRAWN / 2 for a, b in zip(one.radii, two.radii, strict=True)
    )


def _places(clause: Clause, note: DrawnNote, spots: Sequence[Spot], sheet: DrawnPlate) -> OnCircle | None:
    """On the circle that the note gives, where they stand on it evenly and begin at a usual angle."""
    circle = next((c for c in note.callouts if c.role == "bolt circle"), None)
    n = len(spots)
    if circle is None or n < 2:
        return None
    x, y = sum(s.x for s in spots) / n, sum(s.y for s in spots) / n
    angles = sorted(math.degrees(math.atan2(s.y - y, s.x - x)) % 360 for s in spots)
    first = min(angles)
    if any(abs(a - first - 360 / n * k) > NEAR for k, a in enumerate(angles)):
        return None
    start = round(first / USUAL) * USUAL
    across, up = sheet.place(x, y)
    if abs(first - start) > NEAR or across.asked or up.asked:
        return None
    return OnCircle(bolt_circle=circle.name, count=n, start_angle=f"{start:g}", x=across.cell, y=up.cell)


def _drilled(
    document: Document, meaning: Meaning, clause: Clause, note: DrawnNote, top: str, where: Table | OnCircle,
    at: Sequence[tuple[float, float]],
) -> Document:  # fmt: skip
    """The step of a note that was taken already. Raises LathedError."""
    if clause.kind == "diameter":
        number = next_number(document)
        step: Any = HoleStep(number=number, face=top, diameter=note.callouts[0].name, places=where)
        return put_step(document, step)
    picks = Picks(top, places=tuple(at))
    document = step_of_callouts(document, meaning, note.callouts, picks)
    return put_step(document, changed(document.steps[-1], places=where))
