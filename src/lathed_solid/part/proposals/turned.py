"""From a turned part's drawing to its first model: a turned table whose sizes are the drawing's callouts.

The profile says how many stations there are and where (``sheets/turned_outline.py``); the notes say how large they are.
A station's diameter is the diameter that agrees with what is drawn, that of its leader first, no note twice where there
are as many (an assignment). A length is a dimension between both its ends, else one from the left face, else the
shortest sum of dimensions that leads from one end to the other. Edges, grooves and end bores are those that leaders
point at. What the sheet does not fix is drawn to scale and asked; what found no place is told. Nothing is built here.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, Probe
from lathed_solid.notation import NoteError, read_note
from lathed_solid.part.document import Document
from lathed_solid.part.edits import changed, next_number, put_callout, put_step
from lathed_solid.part.from_note import step_of_callouts
from lathed_solid.part.note_picks import Picks
from lathed_solid.part.proposals.bores import bores_of
from lathed_solid.part.proposals.drawn import (
    DRAWN,
    DrawnNote,
    DrawnPart,
    Placed,
    Proposal,
    ProposalError,
    drawn,
    lay_spans,
    path_of,
    proposal,
    scale_of,
    taken,
    terms_of,
    use,
)
from lathed_solid.part.steps.turned import TurnedStep
from lathed_solid.quantity.formatting import length
from lathed_solid.sheets.client import SheetPage
from lathed_solid.sheets.strokes import Linework
from lathed_solid.sheets.turned_outline import corner, turned_outline
from lathed_solid.turned.table import Edge, Groove, Station, ThreadStretch, TurnedTable

#: a leader points at a corner within this, mm on the page
CORNER = 1.6
#: what it costs that a note stands elsewhere, a width of the part away; what is no station's
ELSEWHERE, NEVER = 1.0, 1e3
KEYS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


def propose_turned(
    document: Document, page: SheetPage, linework: Linework, number: int = 1, page_number: int = 1
) -> Proposal:
    """A turned table for the part on page ``page_number`` of sheet ``number``. Raises ProposalError."""
    outline = turned_outline(linework)
    if outline is None:
        raise ProposalError(
            "no view of a turned part is on this page", rule="one that is alike on both sides of its centre line",
            hint="Ctrl+T adds a table",
        )  # fmt: skip
    scale = scale_of(page, document)
    document, notes = taken(document, page, linework, number, page_number)
    sheet = DrawnPart(outline, scale, notes)
    lay_spans(sheet, document)
    diameters = _diameters(sheet)
    rows: list[Placed] = []
    stations = []
    for n in range(len(outline.stretches)):
        station, row = _station(sheet, n, diameters[n], document)
        stations.append(station)
        rows.append(row)
    stations, edge_rows = _edges(sheet, stations)
    grooves, groove_rows = _grooves(sheet)
    bores, bore_rows = bores_of(sheet)
    step_number = next_number(document)
    table = TurnedTable(stations=tuple(stations), grooves=tuple(grooves), bores=tuple(bores))
    document = put_step(document, TurnedStep(number=step_number, table=table))
    document = _measured(document, sheet, step_number, stations)
    document, hole_rows = _holes(document, sheet, step_number, stations)
    rows = [*rows, *edge_rows, *groove_rows, *bore_rows, *hole_rows]
    return proposal(document, rows, notes)


# stations ----------------------------------------------------------------------------------------
def _diameters(sheet: DrawnPart) -> list[tuple[Callout, DrawnNote] | None]:
    """The diameter of every station."""
    from scipy.optimize import linear_sum_assignment

    wanted = [(c, n) for n in sheet.notes for c in n.callouts if c.role in ("diameter", "major diameter")]
    stretches = sheet.outline.stretches
    if not wanted:
        return [None] * len(stretches)
    costs = np.array([[_away(sheet, k, c, n) for c, n in wanted] for k in range(len(stretches))])
    out: list[tuple[Callout, DrawnNote] | None] = [None] * len(stretches)
    for k, j in zip(*linear_sum_assignment(costs), strict=True):
        if costs[k, j] < NEVER:
            out[k] = wanted[j]
    for k in range(len(stretches)):
        if out[k] is None and costs[k].min() < NEVER:
            out[k] = wanted[int(costs[k].argmin())]  # one note for several stations
    return out


def _away(sheet: DrawnPart, k: int, callout: Callout, note: DrawnNote) -> float:
    """What it costs that a note says the diameter of a station."""
    s = sheet.outline.stretches[k]
    if not s.level or abs(callout.nominal * sheet.scale - 2 * s.left) > DRAWN:
        return NEVER
    u, v = note.tip or note.at
    u, v = u - sheet.outline.origin[0], abs(v - sheet.outline.origin[1])
    beside = max(s.start - u, u - s.end, 0.0) / max(1.0, sheet.outline.stops[-1])
    return ELSEWHERE * beside + (0.1 * min(1.0, abs(v - s.left) / s.left) if note.tip else 0.1)


def _station(
    sheet: DrawnPart, k: int, said: tuple[Callout, DrawnNote] | None, document: Document
) -> tuple[Station, Placed]:
    s, unit = sheet.outline.stretches[k], document.unit
    asked = []
    wide = 2 * s.left / sheet.scale
    values: dict[str, Any] = {"key": KEYS[k] if k < len(KEYS) else f"S{k + 1}"}
    if said is None:
        values["diameter"] = drawn(wide, unit)
        asked.append(f"its diameter, drawn {length(wide, unit)}")
    else:
        said[1].used = True
        values["diameter"] = said[0].name
        thread = _thread(said[1], document)
        if thread is not None:
            values["thread"] = thread
    if not s.level:
        asked.append("a cone: its taper")
    cells = _length(sheet, k)
    if cells is None and "thread" in values and values["thread"].length is not None:
        cells = {"length": values["thread"].length}
    if cells is None:
        long = (s.end - s.start) / sheet.scale
        cells = {"length": drawn(long, unit)}
        asked.append(f"its length, drawn {length(long, unit)}")
    values |= cells
    station = Station(**values)
    where = f"to {station.to}" if station.to is not None else f"{station.length} long"
    threaded = f", {station.thread.designation}" if station.thread is not None else ""
    words = f"station {station.key}: {'; '.join(asked)}" if asked else ""
    return station, Placed(f"station {station.key}", f"{station.diameter}, {where}{threaded}", words)


def _thread(note: DrawnNote, document: Document) -> ThreadStretch | None:
    try:
        clauses = read_note(note.offer.text, document.unit).clauses
    except NoteError:
        return None
    thread = next((c.thread for c in clauses if c.thread is not None and not c.thread.internal), None)
    if thread is None:
        return None
    long = next((c.name for c in note.callouts if c.role == "thread length"), None)
    return ThreadStretch(designation=thread.designation, length=long)


def _length(sheet: DrawnPart, k: int) -> dict[str, str] | None:
    """How long a station is, by the dimensions; None where they do not say it."""
    ends = (k, k + 1)
    driving = [(a, b, c, n) for a, b, c, n in sheet.spans if not c.reference]
    for a, b, callout, note in driving:
        if (a, b) == ends:
            note.used = True
            return {"length": callout.name}
    for a, b, callout, note in driving:
        if (a, b) == (0, k + 1):
            note.used = True
            return {"to": callout.name}
    path = path_of(driving, *ends)
    if path is None:
        return None
    use(note for _, _, note in path)
    return {"length": terms_of(path)}


def _face(number: int, stations: Sequence[Station], stop: int) -> str:
    """The face across the axis at a stop."""
    name = "face.left" if stop == 0 else f"shoulder.{stations[stop - 1].key}"
    return f"{number}/{'face.right' if stop == len(stations) else name}"


def _holes(
    document: Document, sheet: DrawnPart, number: int, stations: Sequence[Station]
) -> tuple[Document, list[Placed]]:
    """Holes on a circle whose leaders point at a face across the axis: as the note line makes them."""
    rows = []
    for note in sheet.notes:
        if note.used or note.tip is None or not any(c.role == "bolt circle" for c in note.callouts):
            continue
        u = note.tip[0] - sheet.outline.origin[0]
        stops = sheet.outline.stops
        near = min(range(len(stops)), key=lambda i: abs(stops[i] - u))
        if abs(stops[near] - u) > CORNER:
            continue
        face = _face(number, stations, near)
        try:
            meaning = read_note(note.offer.text, document.unit)
            document = step_of_callouts(document, meaning, note.callouts, Picks(face))
        except LathedError:
            continue
        note.used = True
        rows.append(Placed("holes", f"{note.offer.text.splitlines()[0]} on {face}"))
    return document, rows


def _measured(document: Document, sheet: DrawnPart, number: int, stations: Sequence[Station]) -> Document:
    """Dimensions that drive nothing, measured between the faces that they run between."""
    for a, b, callout, note in sheet.spans:
        if max(a, b) <= len(stations) and (callout.reference or not note.used):
            note.used = True
            current = document.callout(callout.balloon)
            assert current is not None
            measure = Probe(kind="distance", faces=(_face(number, stations, a), _face(number, stations, b)))
            document = put_callout(document, changed(current, measure=measure))
    return document


# edges, grooves, bores ---------------------------------------------------------------------------
def _edges(sheet: DrawnPart, stations: list[Station]) -> tuple[list[Station], list[Placed]]:
    """Chamfers and radii where leaders point, and where an edge is drawn of a size that one note alone states."""
    rows = []
    wanted = [(c, n) for n in sheet.notes for c in n.callouts if c.role in ("chamfer", "radius", "fillet")]
    drawn = {(e.stretch, e.end): e for e in sheet.outline.edges}
    found: dict[tuple[int, str], tuple[Callout, DrawnNote]] = {}
    for callout, note in wanted:
        end = None if note.tip is None else corner(sheet.outline, *note.tip, CORNER + callout.nominal * sheet.scale)
        if end is not None and end not in found:
            found[end] = (callout, note)
    for end, edge in drawn.items():
        alike = [(c, n) for c, n in wanted if abs(c.nominal * sheet.scale - edge.size) <= DRAWN
                 and (c.role == "chamfer") != edge.round]  # fmt: skip
        if end not in found and alike:
            found[end] = alike[0]
        elif end not in found:
            where = f"station {stations[end[0]].key}, {end[1]}"
            rows.append(Placed(where, "", f"{where}: the broken edge drawn there, {edge.size / sheet.scale:.1f} mm"))
    for (k, side), (callout, note) in sorted(found.items()):
        note.used = True
        angle = "45°" if callout.angle is None else f"{math.degrees(callout.angle):g}°"
        kind = "chamfer" if callout.role == "chamfer" else "radius"
        stations[k] = stations[k].model_copy(update={side: Edge(kind=kind, size=callout.name, angle=angle)})
        rows.append(Placed(f"station {stations[k].key}, {side}", f"{kind} {callout.name}"))
    return stations, rows


def _grooves(sheet: DrawnPart) -> tuple[list[Groove], list[Placed]]:
    """Grooves where their leaders point, at the dimension that ends there."""
    out: list[Groove] = []
    rows: list[Placed] = []
    for note in sheet.notes:
        by_role = {c.role: c for c in note.callouts}
        width, deep = by_role.get("groove width"), by_role.get("groove diameter")
        if width is None or deep is None:
            continue
        name = f"g{len(out) + 1}"
        u = None if note.tip is None else (note.tip[0] - sheet.outline.origin[0]) / sheet.scale
        at = [
            (abs(sheet.stops[b] - u), c, n) for a, b, c, n in sheet.spans
            if u is not None and a == 0 and b >= len(sheet.outline.stops)
            and abs(sheet.stops[b] - u) <= width.nominal + DRAWN / sheet.scale
        ]  # fmt: skip
        if not at:
            rows.append(Placed(f"groove {name}", "", f"groove {name}, {note.offer.text}: where it is"))
            continue
        _, callout, other = min(at, key=lambda t: t[0])
        note.used = other.used = True
        out.append(Groove(key=name, at=callout.name, width=width.name, diameter=deep.name))
        rows.append(Placed(f"groove {name}", f"at {callout.name}, {width.name} wide, to {deep.name}"))
    return out, rows
