"""The slots of a plate's face: which note says each, a sketch of it, cut through or to its depth."""

from __future__ import annotations

import math

from lathed_solid.ledger import Callout
from lathed_solid.part.document import Document
from lathed_solid.part.proposals.coordinates import Told
from lathed_solid.part.proposals.drawn import DRAWN, DrawnNote, Placed, drawn
from lathed_solid.part.proposals.drawn_plate import DrawnPlate, cut_into, hold
from lathed_solid.sheets.plate_outline import SlotLoop
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.compound_shapes import slot as slot_shape

#: a leader ends no farther from its slot, mm on the page
AT = 1.6


def slots_of(document: Document, sheet: DrawnPlate, top: str) -> Document:
    """The document with a sketch on the face ``top`` and a cut for each slot that a note says; others are asked."""
    for loop in sheet.face.slots:
        note = _note(sheet, loop)
        if note is None:
            both = (drawn(mm / sheet.scale, document.unit) for mm in (loop.wide, loop.long + loop.wide))
            size, at = " x ".join(both), sheet.says(loop.x, loop.y, document.unit)
            sheet.rows.append(Placed("a slot", "", f"a slot {size} at {at}: which note says it"))
            continue
        note.used = True
        document, told = _cut(document, note, loop, sheet, top)
        cells = f"at {told[0].cell}, {told[1].cell}"
        asked = any(t.asked for t in told)
        sheet.rows.append(Placed(note.words, cells, f"{note.words}: where it stands, drawn {cells}" if asked else ""))
    return document


def _part(note: DrawnNote, meaning: str) -> Callout | None:
    return next((c for c in note.callouts if c.meaning.startswith(meaning)), None)


def _note(sheet: DrawnPlate, loop: SlotLoop) -> DrawnNote | None:
    """The note whose leader points at the slot, or the only one that says its size."""
    fitting = []
    for note in sheet.notes:
        wide, long = _part(note, "slot width"), _part(note, "slot length")
        if wide is None or long is None or abs(wide.nominal * sheet.scale - loop.wide) > DRAWN:
            continue
        whole = loop.long + (loop.wide if "over all" in long.meaning else 0.0)
        if abs(long.nominal * sheet.scale - whole) <= DRAWN:
            fitting.append(note)
    pointing = [n for n in fitting if n.tip is not None and _off(loop, *sheet.on_page(n)) <= AT]
    many = [n for n in fitting if max(c.count for c in n.callouts) > 1]
    found = pointing or many or [n for n in fitting if n.tip is None]
    return found[0] if len(found) == 1 else None


def _off(loop: SlotLoop, u: float, v: float) -> float:
    """How far a place is from a slot's rim, or within it."""
    along, across = (v - loop.y, u - loop.x) if loop.upright else (u - loop.x, v - loop.y)
    beyond = max(abs(along) - loop.long / 2, 0.0)
    return max(math.hypot(beyond, across) - loop.wide / 2, 0.0)


def _cut(
    document: Document, note: DrawnNote, loop: SlotLoop, sheet: DrawnPlate, top: str
) -> tuple[Document, tuple[Told, Told]]:
    places = (*loop.ends, (loop.x, loop.y))
    way = next((k for k, p in enumerate(places) if not any(t.asked for t in sheet.told(*p))), 2)
    at = sheet.place(*places[way])
    draft = SketchBuilder()
    origin = draft.point(0.0, 0.0)
    draft.add("fixed", origin)
    low, high, middle = ((x / sheet.scale, y / sheet.scale) for x, y in places)
    *rim, middle_line = slot_shape(draft, low, high, loop.wide / sheet.scale / 2)
    draft.add("vertical" if loop.upright else "horizontal", middle_line)
    first, second = draft.entities[middle_line].points
    held = (first, second)[way] if way < 2 else draft.point(*middle)
    if way == 2:
        draft.add("midpoint", held, middle_line)
    for axis, told in zip(("x", "y"), at, strict=True):
        hold(draft, origin, held, axis, told)
    wide, long = _part(note, "slot width"), _part(note, "slot length")
    assert wide is not None and long is not None
    over = "over all" in long.meaning
    draft.add("distance", first, second, value=f"{long.name} - {wide.name}" if over else long.name)
    draft.add("distance", rim[0], rim[2], value=wide.name)
    document, _ = cut_into(document, top, draft.done(), _part(note, "slot depth"))
    return document, at
