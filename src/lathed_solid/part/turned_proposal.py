"""From a turned part's drawing to its first model: a turned table whose sizes are the drawing's callouts.

The profile says how many stations there are and where (``sheets/turned_outline.py``); the notes say how large they are.
A station's diameter is the diameter that agrees with what is drawn, that of its leader first, no note twice where there
are as many (an assignment). A length is a dimension between both its ends, else one from the left face, else the
shortest sum of dimensions that leads from one end to the other. Edges, grooves and end bores are those that leaders
point at. What the sheet does not fix is drawn to scale and asked; what found no place is told. Nothing is built here.
"""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout
from lathed_solid.notation import NoteError, read_note
from lathed_solid.part.document import Document
from lathed_solid.part.edits import next_number, put_step
from lathed_solid.part.revision import Change, compare_sheet, take_change
from lathed_solid.part.steps.turned import TurnedStep
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.sheets.client import NoteCandidate, SheetPage
from lathed_solid.sheets.drawn_views import outlines
from lathed_solid.sheets.leaders import Place, leader_tip
from lathed_solid.sheets.strokes import Linework
from lathed_solid.sheets.turned_outline import TurnedOutline, corner, turned_outline
from lathed_solid.turned.table import Bore, BoreStep, Edge, Groove, Station, ThreadStretch, TurnedTable

Array = Any
#: a size agrees with what is drawn within this on the page, mm
DRAWN = 0.4
#: a leader points at a corner, and at an end's middle, within this, mm on the page
CORNER, MIDDLE = 1.6, 3.0
#: what it costs that a note stands elsewhere, a width of the part away; what is no station's
ELSEWHERE, NEVER = 1.0, 1e3
KEYS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


class ProposalError(LathedError, ValueError):
    """A sheet from which no first model can be proposed."""


@dataclass(frozen=True)
class Placed:
    """A thing of the table as it is proposed: what it is, its cells, the notes that say so; ``asked``: not all do."""

    what: str
    cells: str
    asked: str = ""


@dataclass(frozen=True)
class Proposal:
    """The document with every note taken and the turned table; its rows; notes that found no place."""

    document: Document
    rows: tuple[Placed, ...]
    unplaced: tuple[str, ...]

    @property
    def asked(self) -> tuple[str, ...]:
        """What the sheet does not fix."""
        return tuple(r.asked for r in self.rows if r.asked)


@dataclass
class _Note:
    """A note on the sheet: its callouts, where it stands and where its leader points, mm on the page."""

    offer: NoteCandidate
    callouts: list[Callout]
    at: Place
    tip: Place | None
    used: bool = False


@dataclass
class _Sheet:
    outline: TurnedOutline
    scale: float
    notes: list[_Note]
    spans: list[tuple[int, int, Callout, _Note]] = field(default_factory=list)
    #: the places of dimensions, mm of the part from the left end
    stops: list[float] = field(default_factory=list)


def propose_turned(
    document: Document, page: SheetPage, linework: Linework, number: int = 1, page_number: int = 1
) -> Proposal:
    """A turned table for the part on page ``page_number`` of sheet ``number``. Raises ProposalError."""
    outline = turned_outline(linework)
    if outline is None:
        raise ProposalError("no view of a turned part is on this page",
                            rule="one that is alike on both sides of its centre line", hint="Ctrl+T adds a table")  # fmt: skip
    if page.scale is None:
        raise ProposalError("the sheet's scale is not known", hint="its dimension lines have to agree on one")
    document, notes = _taken(document, page, linework, number, page_number)
    sheet = _Sheet(outline, page.scale, notes)
    _lay_spans(sheet, document)
    diameters = _diameters(sheet)
    rows: list[Placed] = []
    stations = []
    for n in range(len(outline.stretches)):
        station, row = _station(sheet, n, diameters[n], document)
        stations.append(station)
        rows.append(row)
    stations, edge_rows = _edges(sheet, stations)
    grooves, groove_rows = _grooves(sheet)
    bores, bore_rows = _bores(sheet)
    table = TurnedTable(stations=tuple(stations), grooves=tuple(grooves), bores=tuple(bores))
    document = put_step(document, TurnedStep(number=next_number(document), table=table))
    unplaced = tuple(n.offer.text for n in notes if not n.used and not all(c.reference for c in n.callouts))
    return Proposal(document, (*rows, *edge_rows, *groove_rows, *bore_rows), unplaced)


# the notes ---------------------------------------------------------------------------------------
def _taken(
    document: Document, page: SheetPage, linework: Linework, number: int, page_number: int
) -> tuple[Document, list[_Note]]:
    """Every note as callouts of the document, those that stand in it already among them."""
    known: dict[int, list[Callout]] = {}
    for change in compare_sheet(document, number, page_number, page.offers):
        if change.offer is not None and change.balloon is not None:
            callout = document.callout(change.balloon)
            if callout is not None:
                known.setdefault(id(change.offer), []).append(callout)
    shown = {id(s) for s in outlines(linework)}
    thin = [s for s in linework.strokes if id(s) not in shown and not s.dashed]
    notes = []
    for offer in page.offers:
        own = known.get(id(offer), [])
        if not own and offer.sure != "contradicted":
            before = {c.balloon for c in document.callouts}
            try:
                document = take_change(document, Change("new", None, "", offer.text, offer), number, page_number)
            except LathedError:
                continue  # a general note: it states no size
            own = [c for c in document.callouts if c.balloon not in before]
        left, top, right, bottom = offer.box
        box = (left * page.width, (1 - bottom) * page.height, right * page.width, (1 - top) * page.height)
        tip = leader_tip(box, thin) if offer.span is None else None
        notes.append(_Note(offer, own, ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), tip))
    return document, notes


def _lay_spans(sheet: _Sheet, document: Document) -> None:
    """The dimensions along the axis, between stops that are counted from the left end."""
    one = MM_PER_INCH if document.unit == "in" else 1.0
    told = [
        (n, n.offer.span.along, *(float(p.split()[-1]) * one for p in (n.offer.span.start, n.offer.span.end)))
        for n in sheet.notes if n.offer.span is not None and n.callouts
    ]  # fmt: skip
    slack = DRAWN / sheet.scale
    stops = [s / sheet.scale for s in sheet.outline.stops]
    best: tuple[int, str, float] = (0, "", 0.0)
    for along in {t[1] for t in told if t[1].startswith("x")}:
        places = {p for t in told if t[1] == along for p in t[2:]}
        for offset in {s - p for s in stops for p in places}:
            fit = sum(any(abs(p + offset - s) <= slack for s in stops) for p in places)
            best = max(best, (fit, along, offset))
    _, along, offset = best
    sheet.stops = list(stops)
    for note, own, start, end in told:
        if own == along:
            ends = [_stop(sheet.stops, p + offset, slack) for p in (start, end)]
            sheet.spans.append((min(ends), max(ends), note.callouts[0], note))


def _stop(stops: list[float], place: float, slack: float) -> int:
    """The number of the stop at a place; a new one where there is none."""
    near = min(range(len(stops)), key=lambda i: abs(stops[i] - place))
    if abs(stops[near] - place) <= slack:
        return near
    stops.append(place)
    return len(stops) - 1


# stations ----------------------------------------------------------------------------------------
def _diameters(sheet: _Sheet) -> list[tuple[Callout, _Note] | None]:
    """The diameter of every station."""
    from scipy.optimize import linear_sum_assignment

    wanted = [(c, n) for n in sheet.notes for c in n.callouts if c.role in ("diameter", "major diameter")]
    stretches = sheet.outline.stretches
    if not wanted:
        return [None] * len(stretches)
    costs = np.array([[_away(sheet, k, c, n) for c, n in wanted] for k in range(len(stretches))])
    out: list[tuple[Callout, _Note] | None] = [None] * len(stretches)
    for k, j in zip(*linear_sum_assignment(costs), strict=True):
        if costs[k, j] < NEVER:
            out[k] = wanted[j]
    for k in range(len(stretches)):
        if out[k] is None and costs[k].min() < NEVER:
            out[k] = wanted[int(costs[k].argmin())]  # one note for several stations
    return out


def _away(sheet: _Sheet, k: int, callout: Callout, note: _Note) -> float:
    """What it costs that a note says the diameter of a station."""
    s = sheet.outline.stretches[k]
    if not s.level or abs(callout.nominal * sheet.scale - 2 * s.left) > DRAWN:
        return NEVER
    u, v = note.tip or note.at
    u, v = u - sheet.outline.origin[0], abs(v - sheet.outline.origin[1])
    beside = max(s.start - u, u - s.end, 0.0) / max(1.0, sheet.outline.stops[-1])
    return ELSEWHERE * beside + (0.1 * min(1.0, abs(v - s.left) / s.left) if note.tip else 0.1)


def _station(sheet: _Sheet, k: int, said: tuple[Callout, _Note] | None, document: Document) -> tuple[Station, Placed]:
    s, unit = sheet.outline.stretches[k], document.unit
    asked = []
    drawn = 2 * s.left / sheet.scale
    values: dict[str, Any] = {"key": KEYS[k] if k < len(KEYS) else f"S{k + 1}"}
    if said is None:
        values["diameter"] = _drawn(drawn, unit)
        asked.append(f"its diameter, drawn {length(drawn, unit)}")
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
        cells = {"length": _drawn(long, unit)}
        asked.append(f"its length, drawn {length(long, unit)}")
    values |= cells
    station = Station(**values)
    where = f"to {station.to}" if station.to is not None else f"{station.length} long"
    threaded = f", {station.thread.designation}" if station.thread is not None else ""
    words = f"station {station.key}: {'; '.join(asked)}" if asked else ""
    return station, Placed(f"station {station.key}", f"⌀ {station.diameter}, {where}{threaded}", words)


def _drawn(mm: float, unit: str) -> str:
    """A size as it is drawn, for a cell: to a tenth of a millimetre, or a hundredth of an inch."""
    return f"{mm / MM_PER_INCH:.2f}" if unit == "in" else f"{mm:.1f}"


def _thread(note: _Note, document: Document) -> ThreadStretch | None:
    try:
        clauses = read_note(note.offer.text, document.unit).clauses
    except NoteError:
        return None
    thread = next((c.thread for c in clauses if c.thread is not None and not c.thread.internal), None)
    if thread is None:
        return None
    long = next((c.name for c in note.callouts if c.role == "thread length"), None)
    return ThreadStretch(designation=thread.designation, length=long)


def _length(sheet: _Sheet, k: int) -> dict[str, str] | None:
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
    path = _path(driving, *ends)
    if path is None:
        return None
    terms = []
    for sign, callout, note in path:
        note.used = True
        terms.append(("+ " if sign > 0 else "- ") + callout.name)
    positive = sorted(terms, key=lambda t: t[0] == "-")
    return {"length": " ".join(positive).removeprefix("+ ")}


Step = tuple[int, Callout, _Note]


def _path(spans: Sequence[tuple[int, int, Callout, _Note]], start: int, end: int) -> list[Step] | None:
    """The fewest dimensions that lead from one stop to another."""
    came: dict[int, tuple[int, Step] | None] = {start: None}
    todo = deque([start])
    while todo:
        here = todo.popleft()
        for a, b, callout, note in spans:
            for one, two, sign in ((a, b, 1), (b, a, -1)):
                if one == here and two not in came:
                    came[two] = (here, (sign, callout, note))
                    todo.append(two)
    if end not in came:
        return None
    out: list[Step] = []
    at = end
    while (before := came[at]) is not None:
        at = before[0]
        out.append(before[1])
    return out[::-1]


# edges, grooves, bores ---------------------------------------------------------------------------
def _edges(sheet: _Sheet, stations: list[Station]) -> tuple[list[Station], list[Placed]]:
    """Chamfers and radii where leaders point, and where an edge is drawn of a size that one note alone states."""
    rows = []
    wanted = [(c, n) for n in sheet.notes for c in n.callouts if c.role in ("chamfer", "radius", "fillet")]
    drawn = {(e.stretch, e.end): e for e in sheet.outline.edges}
    ends = {(k, e): None for k in range(len(stations)) for e in ("left", "right")}
    found: dict[tuple[int, str], tuple[Callout, _Note]] = {}
    for callout, note in wanted:
        end = None if note.tip is None else corner(sheet.outline, *note.tip, CORNER + callout.nominal * sheet.scale)
        if end is not None and end in ends and end not in found:
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


def _grooves(sheet: _Sheet) -> tuple[list[Groove], list[Placed]]:
    """Grooves where their leaders point, at the dimension that ends there."""
    out, rows = [], []
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
        rows.append(Placed(f"groove {name}", f"at {callout.name}, {width.name} wide, ⌀ {deep.name}"))
    return out, rows


def _bores(sheet: _Sheet) -> tuple[list[Bore], list[Placed]]:
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
        out.append(Bore(end=end, steps=(BoreStep(diameter=wide.name, depth=deep.name),), point="118°"))  # type: ignore[arg-type]
        rows.append(Placed(f"bore, {end}", f"⌀ {wide.name}, {deep.name} deep"))
    return out, rows
