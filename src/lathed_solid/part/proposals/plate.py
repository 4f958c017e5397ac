"""From a plate's drawing to its first model: its outline as a sketch, extruded, its corners broken, its holes drilled.

The face is the view that the dimensions lie at (``sheets/plate_outline.py``); the thickness is that of the view beside
or above it that is as long, or of a note that says so. Every place of the outline and of a hole is a sum of dimensions
(``coordinates.py``). A circle's size is the note whose leader points at it, or the one that says what is drawn; as many
circles as it counts are its holes. What the sheet does not fix is drawn to scale and asked, and so is what a view shows
beside that. Nothing is built here.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from typing import Any

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe
from lathed_solid.notation import read_note
from lathed_solid.part.document import Document
from lathed_solid.part.edits import changed, next_number, put_callout, put_step
from lathed_solid.part.from_note import step_of_callouts
from lathed_solid.part.note_picks import Picks
from lathed_solid.part.proposals.coordinates import Axis, Told, axis_of
from lathed_solid.part.proposals.drawn import (
    DRAWN,
    DrawnNote,
    Placed,
    Proposal,
    ProposalError,
    drawn,
    proposal,
    scale_of,
    taken,
    use,
)
from lathed_solid.part.proposals.drawn_plate import DrawnPlate
from lathed_solid.part.proposals.outline_sketch import Outline, outline_sketch
from lathed_solid.part.proposals.plate_holes import holes_of
from lathed_solid.part.proposals.plate_pockets import broken, pockets_of
from lathed_solid.part.proposals.plate_slots import slots_of
from lathed_solid.part.steps import ExtrudeStep, SketchStep
from lathed_solid.sheets.client import SheetPage
from lathed_solid.sheets.drawn_views import drawn_views, told_by_width
from lathed_solid.sheets.plate_outline import PlateFace, circle_of, is_bare, plate_face
from lathed_solid.sheets.strokes import Linework

#: a centre line goes through its middle within this, mm on the page
ON_LINE = 0.5
#: a view that shows more beside it is no plate's face
MOST_ODD = 12
#: a note that says the thickness
THICK = re.compile(r"\b(?:THK|THICK|PLATE|PL)\b|\bt\s*=", re.I)


def propose_plate(
    document: Document, page: SheetPage, linework: Linework, number: int = 1, page_number: int = 1
) -> Proposal:
    """A route for the plate on page ``page_number`` of sheet ``number``. Raises ProposalError."""
    scale = scale_of(page, document)
    if not told_by_width(linework):
        raise ProposalError("the widths of the lines do not tell the part from its dimensions",
                            rule="outlines are drawn wider (ISO 128)")  # fmt: skip
    document, notes = taken(document, page, linework, number, page_number)
    faces = [face for view in drawn_views(linework) if (face := plate_face(view)) is not None]
    sheet = _sheet(faces, scale, notes, document)
    thick = _thickness(sheet, faces, document)
    document, number_of, outline = _body(document, sheet, thick)
    document = broken(document, sheet, outline, number_of)
    document = pockets_of(document, sheet, f"{number_of}/end")
    document = holes_of(document, sheet, f"{number_of}/end")
    document = slots_of(document, sheet, f"{number_of}/end")
    document = _general(document, sheet)
    document = _measured(document, sheet, outline, number_of)
    _unexplained(sheet, linework)
    return proposal(document, sheet.rows, notes, "plate")


# views -------------------------------------------------------------------------------------------
def _sheet(faces: Sequence[PlateFace], scale: float, notes: list[DrawnNote], document: Document) -> DrawnPlate:
    """The face with most dimensions at it, of those more is cut into. Raises ProposalError."""
    found: list[tuple[tuple[int, int, float], DrawnPlate]] = []
    for face in faces:
        if len(face.unexplained) > MOST_ODD:
            continue
        slack = DRAWN / scale
        corners = [*face.corners, *(c for p in face.pockets for c in p.corners)]
        places = [*((c.x, c.y) for c in corners), *face.middles]
        xs, ys = ([p[k] / scale for p in places] for k in (0, 1))
        sheet = DrawnPlate(
            face, scale, notes, axis_of("x", xs, face.width / scale, notes, document, slack),
            axis_of("y", ys, face.height / scale, notes, document, slack),
        )  # fmt: skip
        ends = sum(max(a, b) < len(_own(axis)) for axis in (sheet.x, sheet.y) for a, b, *_ in axis.spans)
        if ends:
            found.append(((len(face.circles) + len(face.slots), ends, face.width * face.height), sheet))
    if not found:
        raise ProposalError(
            "no view of a plate with dimensions is on this page",
            rule="an outline of straight lines and rounded corners", hint="draw its outline: Ctrl+K",
        )  # fmt: skip
    return max(found, key=lambda f: f[0])[1]


def _own(axis: Axis) -> list[float]:
    return [s for s in axis.stops if -axis.slack <= s <= axis.whole + axis.slack]


def _thickness(sheet: DrawnPlate, faces: Sequence[PlateFace], document: Document) -> Told:
    """Of the view beside the face that is as long, or of a note that says so."""
    scale = sheet.scale
    beside = [(f, thick) for f in faces if f is not sheet.face and (thick := _beside(sheet.face, f)) is not None]
    sizes = [(c, n) for n in sheet.notes for c in n.callouts if c.kind == "length" and not n.used]
    for face, thick in beside:
        if face.unexplained or not is_bare(face):
            sheet.rows.append(Placed("thickness", "", "the view beside the face shows more than a plate's edge"))
        for callout, note in sizes:
            span = note.offer.span
            if span is not None and abs(callout.nominal * scale - thick) <= DRAWN and _nearer(note, face, sheet.face):
                use([note])
                return Told(callout.name, (note,))
    for callout, note in sizes:
        if THICK.search(note.offer.text):
            use([note])
            return Told(callout.name, (note,))
    if not beside:
        raise ProposalError("no view shows the plate's thickness, and no note says it", hint="10 THK")
    return Told(drawn(beside[0][1] / scale, document.unit), (), True)


def _beside(face: PlateFace, other: PlateFace) -> float | None:
    """The thickness that a view shows which stands above, below or beside the face and is as long."""
    (ox, oy), (px, py) = face.origin, other.origin
    if abs(px - ox) < DRAWN and abs(other.width - face.width) < DRAWN:
        return other.height
    if abs(py - oy) < DRAWN and abs(other.height - face.height) < DRAWN:
        return other.width
    return None


def _nearer(note: DrawnNote, one: PlateFace, two: PlateFace) -> bool:
    """Whether a note stands nearer to one view than to the other."""

    def away(face: PlateFace) -> float:
        (left, low), (u, v) = face.origin, note.at
        dx = max(left - u, 0.0, u - left - face.width)
        dy = max(low - v, 0.0, v - low - face.height)
        return float(dx * dx + dy * dy)

    return away(one) < away(two)


# the body ----------------------------------------------------------------------------------------
def _body(document: Document, sheet: DrawnPlate, thick: Told) -> tuple[Document, int, Outline]:
    """The outline as a sketch, extruded by its thickness; the extrusion's number."""
    outline = outline_sketch(sheet, sheet.face.corners)
    number = next_number(document)
    document = put_step(document, SketchStep(number=number, sketch=outline.sketch))
    body = next_number(document)
    document = put_step(document, ExtrudeStep(number=body, sketch=number, distance=thick.cell))
    said = "; ".join(outline.asked)
    asked = f"the outline: {said}" if said else ""
    sheet.rows.append(Placed("outline", ", ".join(outline.cells), asked))
    words = f"its thickness, drawn {thick.cell}" if thick.asked else ""
    sheet.rows.append(Placed("thickness", thick.cell, words))
    return document, body, outline


def _general(document: Document, sheet: DrawnPlate) -> Document:
    """General notes, for the edges that nothing else breaks."""
    for note in sheet.notes:
        if note.used or not any(c.role in ("general radius", "general chamfer") for c in note.callouts):
            continue
        try:
            document = step_of_callouts(document, read_note(note.offer.text, document.unit), note.callouts, Picks())
        except LathedError:
            continue
        note.used = True
        sheet.rows.append(Placed("every other edge", note.words))
    return document


def _measured(document: Document, sheet: DrawnPlate, outline: Outline, body: int) -> Document:
    """Lengths between straight sides that drive nothing, measured between their faces."""
    for axis, sides in ((sheet.x, outline.upright), (sheet.y, outline.level)):
        for a, b, callout, note in axis.spans:
            ends = [_side(sides, axis.stops[k] * sheet.scale) for k in (a, b)]
            if (callout.reference or not note.used) and all(ends) and len(note.callouts) == 1:
                note.used = True
                current = document.callout(callout.balloon)
                assert current is not None
                probe = Probe(kind="distance", faces=(f"{body}/{ends[0]}", f"{body}/{ends[1]}"))
                document = put_callout(document, changed(current, measure=probe))
    return document


def _side(sides: dict[float, str], place: float) -> str:
    near = min(sides, key=lambda p: abs(p - place), default=None)
    return "" if near is None or abs(near - place) > DRAWN else sides[near]


def _unexplained(sheet: DrawnPlate, linework: Linework) -> None:
    odd = [*sheet.face.unexplained, *_hidden(sheet.face, linework)]
    places = [f"x {x / sheet.scale:.1f}, y {y / sheet.scale:.1f} mm" for x, y in odd]
    if places:
        more = f" and {len(places) - 3} more" if len(places) > 3 else ""
        sheet.rows.append(Placed("the face", "", f"what else it shows, at {'; '.join(places[:3])}{more}"))


def _hidden(face: PlateFace, linework: Linework) -> Iterator[tuple[float, float]]:
    """Where dashed lines within the face are no centre lines: edges that lie behind it."""
    middles = face.middles
    for stroke in linework.strokes:
        run = np.asarray(stroke.points, float) - face.origin
        low, high = run.min(axis=0), run.max(axis=0)
        if not stroke.dashed or min(low) < -DRAWN or high[0] > face.width + DRAWN or high[1] > face.height + DRAWN:
            continue
        circle = circle_of(run[:-1]) if len(run) > 8 else None
        if circle is not None:
            on = sum(abs(math.hypot(x - circle.x, y - circle.y) - circle.radius) < ON_LINE for x, y in middles)
            if on < 2:  # no circle of holes
                yield circle.x, circle.y
        elif len(run) > 4 or not _central(run, face, middles):
            yield float(run[:, 0].mean()), float(run[:, 1].mean())


def _central(run: Any, face: PlateFace, middles: Sequence[tuple[float, float]]) -> bool:
    """Whether a straight line goes through the middle of something, or of the face."""
    (ax, ay), (bx, by) = run[0], run[-1]
    long = math.hypot(bx - ax, by - ay)
    if long == 0:
        return True
    halves = abs(ax - bx) < ON_LINE and abs(ax - face.width / 2) < ON_LINE
    halves = halves or (abs(ay - by) < ON_LINE and abs(ay - face.height / 2) < ON_LINE)
    return halves or any(abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / long < ON_LINE for x, y in middles)
