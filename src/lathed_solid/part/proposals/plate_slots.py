"""The slots of a plate's face: which note says each, a sketch of it, cut through or to its depth."""

from __future__ import annotations

import math

from lathed_solid.ledger import Callout
from lathed_solid.part.document import Document
from lathed_solid.part.edits import next_number, put_step
from lathed_solid.part.proposals.coordinates import ZERO, Told
from lathed_solid.part.proposals.drawn import DRAWN, DrawnNote, Placed, drawn
from lathed_solid.part.proposals.drawn_plate import DrawnPlate
from lathed_solid.part.steps import ExtrudeStep, FacePlane, SketchStep
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
        words = " ".join(note.offer.text.split())
        sheet.rows.append(Placed(words, cells, f"{words}: where it stands, drawn {cells}" if asked else ""))
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
    half, scale = loop.long / 2, sheet.scale
    dx, dy = (0.0, half) if loop.upright else (half, 0.0)
    ways = [(loop.x - dx, loop.y - dy, 0), (loop.x + dx, loop.y + dy, 1), (loop.x, loop.y, None)]
    told = [(sheet.told(x, y), x, y, end) for x, y, end in ways]
    _, u, v, end = next((t for t in told if not any(p.asked for p in t[0])), told[2])
    at = sheet.place(u, v)
    draft = SketchBuilder()
    origin = draft.point(0.0, 0.0)
    draft.add("fixed", origin)
    x, y = loop.x / scale, loop.y / scale
    ends = (x - dx / scale, y - dy / scale), (x + dx / scale, y + dy / scale)
    *rim, middle_line = slot_shape(draft, *ends, loop.wide / scale / 2)
    draft.add("vertical" if loop.upright else "horizontal", middle_line)
    first, second = draft.entities[middle_line].points
    held = first if end == 0 else second
    if end is None:
        held = draft.point(x, y)
        draft.add("midpoint", held, middle_line)
    for axis, cell in zip(("x", "y"), at, strict=True):
        if cell.cell == ZERO:
            draft.add("vertical" if axis == "x" else "horizontal", origin, held)
        else:
            draft.add("across_x" if axis == "x" else "across_y", origin, held, value=cell.cell)
    wide, long = _part(note, "slot width"), _part(note, "slot length")
    assert wide is not None and long is not None
    over = "over all" in long.meaning
    draft.add("distance", first, second, value=f"{long.name} - {wide.name}" if over else long.name)
    draft.add("distance", rim[0], rim[2], value=wide.name)
    number = next_number(document)
    document = put_step(document, SketchStep(number=number, plane=FacePlane(face=top), sketch=draft.done()))
    depth = _part(note, "slot depth")
    cut = ExtrudeStep(number=next_number(document), sketch=number, mode="cut", side="into",
                      distance=None if depth is None else depth.name)  # fmt: skip
    return put_step(document, cut), at
