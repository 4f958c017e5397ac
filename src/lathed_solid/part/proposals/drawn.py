"""A drawing's notes as callouts of a document, with where they stand and point, and the dimensions along its axis.

Stops are places along an axis in mm of the part from one end: first those of the outline, then others that dimensions
end at.
"""

from __future__ import annotations

import re
from collections import deque
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, Span
from lathed_solid.notation import NoteError, read_note
from lathed_solid.part.document import Document
from lathed_solid.part.revision import Change, compare_sheet, take_change
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.sheets.client import NoteCandidate, SheetPage, on_page
from lathed_solid.sheets.drawn_views import outlines
from lathed_solid.sheets.leaders import Place, leader_tip
from lathed_solid.sheets.strokes import Linework
from lathed_solid.sheets.turned_outline import TurnedOutline

#: a size agrees with what is drawn within this on the page, mm
DRAWN = 0.4


#: at full size a dimension is as long as it says, within this share
FULL_SIZE = 0.01


class ProposalError(LathedError, ValueError):
    """A sheet from which no first model can be proposed."""


@dataclass(frozen=True)
class Placed:
    """A thing of the table as it is proposed: what it is, its cells, the notes that say so; ``asked``: not all do;
    ``doubted``: whose reading is not sure, and why.
    """

    what: str
    cells: str
    asked: str = ""
    doubted: str = ""


@dataclass
class DrawnNote:
    """A note on the sheet: its callouts, where it stands and where its leader points, mm on the page; ``doubted``: why
    its lettering was not surely read.
    """

    offer: NoteCandidate
    callouts: list[Callout]
    at: Place
    tip: Place | None
    doubted: str = ""
    used: bool = False

    @property
    def words(self) -> str:
        """What it says, on one line."""
        return " ".join(self.offer.text.split())

    @property
    def for_reference(self) -> bool:
        """Whether it only repeats what others say; a note that was not taken does not."""
        return bool(self.callouts) and all(c.reference for c in self.callouts)


#: from stop to stop, what says how far
Between = tuple[int, int, Callout, DrawnNote]


@dataclass
class DrawnPart:
    """The profile, page per part, the notes, and the dimensions along the axis."""

    outline: TurnedOutline
    scale: float
    notes: list[DrawnNote]
    spans: list[Between] = field(default_factory=list)
    #: the places of dimensions, mm of the part from the left end
    stops: list[float] = field(default_factory=list)


def taken(
    document: Document, page: SheetPage, linework: Linework, number: int, page_number: int
) -> tuple[Document, list[DrawnNote]]:
    """Every note as callouts of the document, those that stand in it already among them."""
    known: dict[int, list[Callout]] = {}
    for change in compare_sheet(document, number, page_number, page.offers):
        if change.offer is not None and change.balloon is not None:
            callout = document.callout(change.balloon)
            if callout is not None:
                known.setdefault(id(change.offer), []).append(callout)
    shown = {id(s) for s in outlines(linework)}
    thin = [s for s in linework.strokes if id(s) not in shown and not s.dashed] + list(linework.beside)
    notes = []
    # holes on a circle have the last balloons
    for offer in sorted(page.offers, key=lambda o: _on_circle(o.text, document)):
        own = known.get(id(offer), [])
        if not own and offer.sure != "contradicted":
            before = {c.balloon for c in document.callouts}
            try:
                document = take_change(document, Change("new", None, "", offer.text, offer), number, page_number)
            except LathedError:
                continue  # a general note: it states no size
            own = [c for c in document.callouts if c.balloon not in before]
        box = on_page(offer.box, page.width, page.height)
        tip = leader_tip(box, thin) if offer.span is None else None
        doubted = offer.why if page.lettering == "read" and offer.sure == "doubtful" else ""
        notes.append(DrawnNote(offer, own, ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), tip, doubted))
    return document, notes


def scale_of(page: SheetPage, document: Document) -> float:
    """Page per part: that of the dimension lines; 1 for a drawing at full size, as a DXF has its dimensions. Raises
    ProposalError.
    """
    if page.scale is not None:
        return page.scale
    one = MM_PER_INCH if document.unit == "in" else 1.0
    told = []
    for offer in page.offers:
        value = re.fullmatch(r"\d*[.,]?\d+", offer.text.strip())
        size = decimal(value[0]) if value is not None else 0.0
        if offer.span is not None and size:
            start, end = _ends(offer.span, one)
            told.append(abs(end - start) / (size * one))
    if len(told) < 2 or any(abs(t - 1) > FULL_SIZE for t in told):
        raise ProposalError("the sheet's scale is not known", hint="its dimension lines have to agree on one")
    return 1.0


def _on_circle(text: str, document: Document) -> bool:
    try:
        return any(c.bolt_circle_mm is not None for c in read_note(text, document.unit).clauses)
    except NoteError:
        return False


def lay_spans(sheet: DrawnPart, document: Document) -> None:
    """The dimensions along the axis, between stops that are counted from the left end."""
    stops = [s / sheet.scale for s in sheet.outline.stops]
    sheet.stops, sheet.spans = spans_along("x", stops, sheet.notes, document, DRAWN / sheet.scale)


def spans_along(
    axis: str, own: Sequence[float], notes: Sequence[DrawnNote], document: Document, slack: float
) -> tuple[list[float], list[Between]]:
    """The dimensions along ``axis`` (x, y) of the page between places ``own`` (mm of the part, within ``slack``), and
    others that they end at. Of dimensions in several rows of their own those are laid that agree best.
    """
    one = MM_PER_INCH if document.unit == "in" else 1.0
    told = [(n, s.along, *_ends(s, one)) for n in notes if (s := n.offer.span) is not None and n.callouts]
    best: tuple[int, str, float] = (0, "", 0.0)
    for along in {t[1] for t in told if t[1].startswith(axis)}:
        places = {p for _, its, *ends in told if its == along for p in ends}
        for offset in {s - p for s in own for p in places}:
            fit = sum(any(abs(p + offset - s) <= slack for s in own) for p in places)
            best = max(best, (fit, along, offset))
    _, along, offset = best
    stops, spans = list(own), list[Between]()
    for note, its, start, end in told:
        if its == along:
            ends = [_stop(stops, p + offset, slack) for p in (start, end)]
            spans.append((min(ends), max(ends), note.callouts[0], note))
    return stops, spans


def _ends(span: Span, one: float) -> tuple[float, float]:
    """Its places, mm of the part."""
    return float(span.start.split()[-1]) * one, float(span.end.split()[-1]) * one


def _stop(stops: list[float], place: float, slack: float) -> int:
    """The number of the stop at a place; a new one where there is none."""
    near = min(range(len(stops)), key=lambda i: abs(stops[i] - place))
    if abs(stops[near] - place) <= slack:
        return near
    stops.append(place)
    return len(stops) - 1


Step = tuple[int, Callout, DrawnNote]


def path_of(spans: Sequence[Between], start: int, end: int) -> list[Step] | None:
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


def terms_of(path: Sequence[Step]) -> str:
    """``#3 + #4 - #7``; what is added first."""
    terms = [("+ " if sign > 0 else "- ") + callout.name for sign, callout, _ in path]
    return " ".join(sorted(terms, key=lambda t: t[0] == "-")).removeprefix("+ ")


def use(notes: Iterable[DrawnNote]) -> None:
    """These say something of the part."""
    for note in notes:
        note.used = True


def drawn(mm: float, unit: str) -> str:
    """A size as it is drawn, for a cell: to a tenth of a millimetre, or a hundredth of an inch."""
    return f"{mm / MM_PER_INCH:.2f}" if unit == "in" else f"{mm:.1f}"


@dataclass(frozen=True)
class Proposal:
    """The document with every note taken and its first steps; the rows that say so; notes that found no place."""

    document: Document
    rows: tuple[Placed, ...]
    unplaced: tuple[str, ...]
    kind: Literal["turned", "plate"] = "turned"

    @property
    def asked(self) -> tuple[str, ...]:
        """What the sheet does not fix."""
        return tuple(r.asked for r in self.rows if r.asked)

    @property
    def doubted(self) -> tuple[str, ...]:
        """What rests on readings that are not sure."""
        return tuple(f"{r.what}: {r.doubted}" for r in self.rows if r.doubted)


def proposal(
    document: Document, rows: Sequence[Placed], notes: Sequence[DrawnNote], kind: Literal["turned", "plate"] = "turned"
) -> Proposal:
    """With what its rows' callouts say, which of them were not surely read, and which notes found no place."""
    unplaced = tuple(n.offer.text for n in notes if not n.used and not n.for_reference)
    unsure = {c.balloon: n.doubted for n in notes if n.doubted for c in n.callouts}
    told = tuple(replace(r, doubted=_doubted(r.cells, unsure)) for r in rows)
    return Proposal(document, _told_rows(told, document), unplaced, kind)


def _doubted(cells: str, unsure: Mapping[int, str]) -> str:
    found = {n: unsure[n] for n in map(int, re.findall(r"#(\d+)", cells)) if n in unsure}
    return "; ".join(f"#{n}: {why}" for n, why in found.items())


def _told_rows(rows: Sequence[Placed], document: Document) -> tuple[Placed, ...]:
    """With what their callouts say: ``#6 ⌀25, to #20 52``."""

    def said(match: re.Match[str]) -> str:
        callout = document.callout(int(match[1]))
        return match[0] if callout is None else f"{match[0]} {callout.show()}"

    return tuple(replace(r, cells=re.sub(r"#(\d+)", said, r.cells)) for r in rows)
