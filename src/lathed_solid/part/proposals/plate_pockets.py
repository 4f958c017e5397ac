"""The pockets and windows of a plate's face, and the corners of its loops that are rounded or bevelled.

A pocket is as deep as the note says whose leader points into it, or that alone speaks of a pocket. Holes in its floor
are asked: their depths count from there.
"""

from __future__ import annotations

import re

from lathed_solid.ledger import Callout
from lathed_solid.part.document import Document
from lathed_solid.part.edits import next_number, put_step
from lathed_solid.part.proposals.drawn import DRAWN, DrawnNote, Placed, drawn, use
from lathed_solid.part.proposals.drawn_plate import DrawnPlate, cut_into
from lathed_solid.part.proposals.outline_sketch import Outline, outline_sketch
from lathed_solid.part.steps import ChamferStep, EdgePick, FilletStep
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.sheets.plate_outline import Pocket

#: a leader ends no farther from its pocket, mm on the page
AT = 1.6
WORDS = re.compile(r"\b(?:POCKET|CUT-?[ ]?OUT|WINDOW|RECESS)", re.I)
DEEP = re.compile(r"(\d*[.,]?\d+)\s*(?:DEEP|DP)\b|(?:↧|DEPTH)\s*(\d*[.,]?\d+)", re.I)
THROUGH = re.compile(r"\bTHR", re.I)


def pockets_of(document: Document, sheet: DrawnPlate, top: str) -> Document:
    """The document with a sketch on the face ``top`` and a cut for each pocket; what is not told is asked."""
    for loop in sheet.face.pockets:
        low, high = _box(loop)
        at = sheet.says((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, document.unit)
        note = _note(sheet, loop)
        deep = None if note is None else _depth(note)
        if note is None or (deep is None and not THROUGH.search(note.offer.text)):
            sheet.rows.append(Placed("a pocket", "", f"a pocket at {at}: how deep it is"))
            continue
        note.used = True
        _with_sizes(sheet, note, deep, low, high)
        outline = outline_sketch(sheet, loop.corners)
        document, cut = cut_into(document, top, outline.sketch, deep)
        asked = [f"a pocket at {at}: {'; '.join(outline.asked)}"] if outline.asked else []
        inside = [c for c in sheet.face.circles if low[0] < c.x < high[0] and low[1] < c.y < high[1]]
        asked += [f"a pocket at {at}: whether the holes in it count from its floor"] if inside else []
        deepness = "through" if deep is None else f"{deep.name} deep"
        sheet.rows.append(Placed("pocket", f"{', '.join(outline.cells)}, {deepness}", "; ".join(asked)))
        document = broken(document, sheet, outline, cut)
    return document


def _with_sizes(
    sheet: DrawnPlate, note: DrawnNote, deep: Callout | None, low: tuple[float, float], high: tuple[float, float]
) -> None:
    """``POCKET 40 x 20``: what the note says of the pocket's own length and width."""
    free = [c for c in note.callouts if c.kind == "length" and c is not deep]
    for k in (0, 1):
        said = next((c for c in free if abs(c.nominal * sheet.scale - (high[k] - low[k])) <= DRAWN), None)
        if said is None:
            continue
        free.remove(said)
        ends = low[k] / sheet.scale, high[k] / sheet.scale
        if k == 0:
            sheet.x = sheet.x.with_size(*ends, said, note)
        else:
            sheet.y = sheet.y.with_size(*ends, said, note)


def _box(loop: Pocket) -> tuple[tuple[float, float], tuple[float, float]]:
    xs, ys = [c.x for c in loop.corners], [c.y for c in loop.corners]
    return (min(xs), min(ys)), (max(xs), max(ys))


def _note(sheet: DrawnPlate, loop: Pocket) -> DrawnNote | None:
    (left, low), (right, high) = _box(loop)

    def inside(u: float, v: float) -> bool:
        return left - AT < u < right + AT and low - AT < v < high + AT

    free = [n for n in sheet.notes if not n.used and (WORDS.search(n.offer.text) or DEEP.search(n.offer.text))]
    pointing = [n for n in free if n.tip is not None and inside(*sheet.on_page(n)) and not _of_a_hole(n)]
    speaking = [n for n in free if WORDS.search(n.offer.text)] if len(sheet.face.pockets) == 1 else []
    found = pointing or speaking
    return found[0] if len(found) == 1 else None


def _of_a_hole(note: DrawnNote) -> bool:
    return any("hole" in c.role or "counterbore" in c.role or c.role == "major diameter" for c in note.callouts)


def _depth(note: DrawnNote) -> Callout | None:
    """The callout that DEEP stands with."""
    found = DEEP.search(note.words)
    if found is None:
        return None
    said = decimal(found[1] or found[2])
    unit = MM_PER_INCH if note.callouts and note.callouts[0].unit == "in" else 1.0
    return next(
        (c for c in note.callouts if abs(c.nominal - said * unit) < LINEAR and c.kind in ("length", "depth")), None
    )


def broken(document: Document, sheet: DrawnPlate, outline: Outline, body: int) -> Document:
    """Corners that are rounded or bevelled, each size in a step."""
    wanted = [(c, n) for n in sheet.notes for c in n.callouts if c.role in ("radius", "fillet", "chamfer")]
    groups: dict[tuple[str, float], list[str]] = {}
    for edge in outline.edges:
        groups.setdefault((edge.kind, round(edge.size / sheet.scale, 1)), []).append(
            f"{body}/{edge.one}|{body}/{edge.two}"
        )
    for (kind, size), edges in sorted(groups.items()):
        said = [(c, n) for c, n in wanted if (c.role == "chamfer") == (kind == "chamfer")
                and abs(c.nominal - size) * sheet.scale <= DRAWN and c.count in (1, len(edges))]  # fmt: skip
        cell = drawn(size, document.unit) if not said else said[0][0].name
        asked = "" if said else f"{len(edges)} corners: the {kind}, drawn {cell}"
        use([n for _, n in said[:1]])
        pick = EdgePick(edges=tuple(edges))
        number = next_number(document)
        step = (ChamferStep(number=number, leg=cell, pick=pick) if kind == "chamfer"
                else FilletStep(number=number, radius=cell, pick=pick))  # fmt: skip
        document = put_step(document, step)
        sheet.rows.append(Placed(f"{len(edges)} corners", f"{kind} {cell}", asked))
    return document
