"""A drawing read back by the product's own Read desk: what of its notes comes back, with the same spans, in place."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path

from lathed_solid.ledger import callouts_from_note
from lathed_solid.quantity import LengthUnit
from lathed_solid.reports.drawing.meeting import overlap
from lathed_solid.reports.drawing.model import Box, Dimension, DrawnSheet
from lathed_solid.sheets.client import NoteCandidate, SheetPage, read_page

#: a span's end may be off by this, mm of paper
NEAR = 0.3


@dataclass
class ReadBack:
    """``counts``: notes, found, lengths, spans; ``bad``: what was not, in words."""

    counts: Counter[str] = field(default_factory=Counter)
    bad: list[str] = field(default_factory=list)


def read_back(sheet: DrawnSheet, path: Path) -> ReadBack:
    """What comes back of a sheet that was written to ``path``."""
    unit: LengthUnit = "in" if sheet.unit == "in" else "mm"
    page = read_page(path, 1, unit)
    out = ReadBack()
    used: set[int] = set()
    spans: list[tuple[Dimension, NoteCandidate]] = []
    texts = [(d.words.text, d.words.box, d) for d in sheet.dimensions]
    texts += [(" ".join(w.text for w in n.words), _around([w.box for w in n.words]), None) for n in sheet.leaders]
    for text, box, dimension in texts:
        out.counts["notes"] += 1
        place = None if path.suffix == ".dxf" else box  # a DXF has no page: its places are told by the spans
        k = _offer(text, place, page, sheet, unit, used)
        if k is None:
            out.bad.append(f"{sheet.name}: not found: {text}")
            continue
        used.add(k)
        offer = page.offers[k]
        if offer.sure == "contradicted":
            out.bad.append(f"{sheet.name}: contradicted: {text}: {offer.why}")
            continue
        out.counts["found"] += 1
        if dimension is not None:
            out.counts["lengths"] += 1
            spans.append((dimension, offer))
    _judge_spans(sheet, spans, out)
    beside = [_meaning(left.text, unit) for left in sheet.left_out]
    more = [o.text for k, o in enumerate(page.offers) if k not in used and _meaning(o.text, unit) not in beside]
    out.counts["more"] += len(more)
    out.bad += [f"{sheet.name}: read though not drawn: {t}" for t in more]
    return out


def _around(boxes: list[Box]) -> Box:
    return (min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes))


def _offer(
    text: str, box: Box | None, page: SheetPage, sheet: DrawnSheet, unit: LengthUnit, used: set[int]
) -> int | None:
    wanted = _meaning(text, unit)
    for k, o in enumerate(page.offers):
        left, top, right, low = o.box
        there = (left * sheet.width, (1 - low) * sheet.height, right * sheet.width, (1 - top) * sheet.height)
        if k not in used and (box is None or overlap(there, box)) and _meaning(o.text, unit) == wanted:
            return k
    return None


def _meaning(text: str, unit: LengthUnit) -> list[tuple[object, ...]]:
    try:
        found = callouts_from_note(text, 1, unit)
    except ValueError:
        return [(text,)]
    return [(c.role, round(c.nominal, 9), c.low, c.high, c.fit, c.count, c.reference, c.angle, c.duties) for c in found]


def _judge_spans(sheet: DrawnSheet, spans: list[tuple[Dimension, NoteCandidate]], out: ReadBack) -> None:
    full = sheet.scale * (25.4 if sheet.unit == "in" else 1.0)
    lowest: dict[str, float] = {}
    for d, o in spans:
        if o.span is not None:
            lowest.setdefault(o.span.along, d.span[0] / (full * d.larger) - float(o.span.start.split()[-1]))
    for d, o in spans:
        if o.span is None:
            out.bad.append(f"{sheet.name}: no span: {d.words.text} {o.sure} {o.why}")
            continue
        one = full * d.larger
        ends = [float(p.split()[-1]) + lowest[o.span.along] for p in (o.span.start, o.span.end)]
        off = max(abs(e - s / one) for e, s in zip(ends, d.span, strict=True))
        if o.span.along[0] == ("y" if d.upright else "x") and off < NEAR / one:
            out.counts["spans"] += 1
        else:
            out.bad.append(f"{sheet.name}: another span: {d.words.text} {o.span}")
