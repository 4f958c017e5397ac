"""The inspection sheet as PDF, CSV or JSON; also blank, for the shop to fill in."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Sequence
from pathlib import Path
from textwrap import wrap
from typing import Any

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.kernel.figures import View
from lathed_solid.part import Document
from lathed_solid.proof import DutyRow, Report
from lathed_solid.proof.inspection import (
    CAUTIONS,
    RULE,
    InspectionRow,
    document_hash,
    inspection_json,
    inspection_rows,
)
from lathed_solid.quantity import unit_factor
from lathed_solid.quantity.formatting import Spoken, angle, as_it_is, fixed
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.reports.pen import BODY, DRAWING, INK, MM, OUT_TINT, QUIET, Pen, register_fonts
from lathed_solid.reports.verdict_csv import COLUMNS, verdict_cells

WIDTH, HEIGHT, EDGE = 297.0, 210.0, 12.0
#: widths of the table's columns, mm
TABLE = (
    ("balloon", 14), ("note", 58), ("limits", 40), ("on the model", 26), ("", 22), ("on the part", 30), ("± U", 18),
    ("", 22), ("how, by whom", 43),
)  # fmt: skip
ROW = 6.4
#: height of the line of duties beneath a row, mm
DUTY_LINE = 4.2


def write_inspection(
    path: Path, document: Document, report: Report, views: Sequence[View] = (), *, blank: bool = False,
    spoken: Spoken = as_it_is,
) -> None:  # fmt: skip
    """Write the sheet by the ending of ``path``: .pdf, .csv or .json. ``blank``: without the readings of the log;
    ``spoken``: the words of the PDF. Raises FileError.
    """
    ending = path.suffix.lower()
    if ending == ".pdf":
        data = inspection_pdf(document, report, views, blank=blank, spoken=spoken)
    elif ending == ".csv":
        data = inspection_csv(document, report, blank=blank).encode("utf-8")
    elif ending == ".json":
        data = (json.dumps(inspection_json(document, report), ensure_ascii=False, indent=1) + "\n").encode("utf-8")
    else:
        raise FileError("the ending is not known", path, hint="a file name ending in .pdf, .csv or .json")
    write_atomic(path, data)


def inspection_csv(document: Document, report: Report, *, blank: bool = False) -> str:
    """The verdict table with the part's readings behind it."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([*COLUMNS, "part", "part_uncertainty", "part_verdict", "way"])
    for r in inspection_rows(document, report):
        k = unit_factor(document.unit)
        told = ["", "", "", ""] if blank or r.part is None or r.uncertainty is None else [
            f"{r.part / k:.5f}", f"{r.uncertainty / k:.5f}", r.verdict or "", r.way]  # fmt: skip
        writer.writerow([*verdict_cells(r.row, document.unit), *told])
    return out.getvalue()


def inspection_pdf(
    document: Document, report: Report, views: Sequence[View] = (), *, blank: bool = False, spoken: Spoken = as_it_is
) -> bytes:
    """The sheet: a first page with the views and their balloons, then the table, then mass, rule and cautions."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    c = Canvas(out, pagesize=(WIDTH * MM, HEIGHT * MM), invariant=1)
    c.setTitle(spoken(f"Inspection sheet: {document.name}"))
    page = _Page(c, document, spoken)
    page.begin()
    if views:
        page.views(views)
        page.end()
        page.begin()
    page.table(inspection_rows(document, report), blank)
    page.closing(report)
    page.end()
    c.save()
    return out.getvalue()


class _Page(Pen):
    """Draws from the top down, in mm; a page that is full is followed by another."""

    def __init__(self, canvas: Any, document: Document, spoken: Spoken) -> None:
        super().__init__(canvas, spoken)
        self.document = document
        self.y, self.number = 0.0, 0
        self.hash = document_hash(document)

    def begin(self) -> None:
        self.number += 1
        d, top = self.document, HEIGHT - EDGE
        self.text(EDGE, top - 4, "INSPECTION SHEET", 8, colour=QUIET)
        self.text(EDGE, top - 11, d.name, 17, raw=True)
        facts = f"{d.material}  ·  {d.general}  ·  unit {d.unit}"
        self.text(EDGE, top - 16.5, facts, 9, colour=QUIET)
        self.text(WIDTH - EDGE, top - 4, f"page {self.number}", 8, colour=QUIET, right=True)
        for k, words in enumerate(("part no. ______________", "inspected by ______________", "date ______________")):
            self.text(WIDTH - EDGE, top - 9.5 - 4.6 * k, words, 8.5, right=True)
        self.rule(EDGE, top - 20, WIDTH - EDGE, top - 20, 0.8, INK)
        self.text(EDGE, EDGE - 5, f"document {self.hash}", 6.5, colour=QUIET)
        self.y = top - 25

    def end(self) -> None:
        self.c.showPage()

    # views ---------------------------------------------------------------------------------------
    def views(self, found: Sequence[View]) -> None:
        """Up to four views, two by two, each with its balloons around it."""
        room_w, room_h = (WIDTH - 2 * EDGE) / 2, (self.y - EDGE) / 2
        for n, view in enumerate(found[:4]):
            x = EDGE + (n % 2) * room_w
            y = self.y - (n // 2 + 1) * room_h
            self._view(view, x, y, room_w, room_h)

    def _view(self, view: View, x: float, y: float, w: float, h: float) -> None:
        lines = view.lines
        self.text(x, y + h - 4, view.name, 8, colour=QUIET)
        if not lines:
            return
        xs = [v for k in lines for v in (k[0], k[2])]
        ys = [v for k in lines for v in (k[1], k[3])]
        cx, cy = (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2
        scale = min((w - 44) / max(max(xs) - min(xs), LINEAR), (h - 30) / max(max(ys) - min(ys), LINEAR))
        mx, my = x + w / 2, y + h / 2

        def at(px: float, py: float) -> tuple[float, float]:
            return mx + (px - cx) * scale, my + (py - cy) * scale

        self.c.setStrokeColor(INK)
        self.c.setLineWidth(0.6)
        path = self.c.beginPath()
        for x0, y0, x1, y1 in lines:
            path.moveTo(*(v * MM for v in at(x0, y0)))
            path.lineTo(*(v * MM for v in at(x1, y1)))
        self.c.drawPath(path)
        half_w, half_h = (max(xs) - min(xs)) / 2 * scale + 9, (max(ys) - min(ys)) / 2 * scale + 8
        for number, (px, py), (bx, by) in _around(view.balloons, at, (mx, my), half_w, half_h):
            self.rule(px, py, bx, by, 0.4, QUIET)
            self.c.setFillColor("#FFFFFF")
            self.c.setStrokeColor(INK)
            self.c.circle(bx * MM, by * MM, 2.9 * MM, fill=1)
            self.c.setFont(BODY, 7.5)
            self.c.setFillColor(INK)
            self.c.drawCentredString(bx * MM, (by - 0.95) * MM, str(number))

    # table ---------------------------------------------------------------------------------------
    def table(self, rows: Sequence[InspectionRow], blank: bool) -> None:
        self._head()
        for r in rows:
            duties = told(r.row.duties)
            if self.y < EDGE + ROW + 2 + (DUTY_LINE if duties else 0):
                self.end()
                self.begin()
                self._head()
            self._row(r, blank)
            if duties:
                self._duties(duties)

    def _duties(self, duties: Sequence[DutyRow]) -> None:
        """What the note asks beside the size, in one small line; a duty that is not in is in capitals."""
        briefs = [(" ".join(map(self.spoken, d.words)), d.verdict == "in") for d in duties]
        words = "  ·  ".join(brief if good else brief.upper() for brief, good in briefs).replace("⌀", "Ø")
        room = WIDTH - 2 * EDGE - TABLE[0][1] - 2
        self.fitted(EDGE + TABLE[0][1] + 1, self.y - DUTY_LINE + 1.4, words, room, 7.5, BODY, raw=True)
        self.y -= DUTY_LINE
        self.rule(EDGE, self.y, WIDTH - EDGE, self.y, 0.3)

    def _head(self) -> None:
        x = EDGE
        for title, width in TABLE:
            self.text(x + 1, self.y - 3.6, title, 7.5, colour=QUIET)
            x += width
        self.y -= ROW - 0.8
        self.rule(EDGE, self.y, WIDTH - EDGE, self.y, 0.6, INK)

    def _row(self, r: InspectionRow, blank: bool) -> None:
        row, base = r.row, self.y - ROW + 1.9
        if row.verdict in ("out", "no limit", "not found") or (not blank and r.verdict == "out"):
            self.c.setFillColor(OUT_TINT)
            self.c.rect(EDGE * MM, (self.y - ROW) * MM, (WIDTH - 2 * EDGE) * MM, ROW * MM, stroke=0, fill=1)
        cells = [str(row.balloon), row.note, self._limits(r), self._value(row.measured, row.kind), row.verdict]
        part = ["", "", ""]
        if not blank and r.part is not None and r.uncertainty is not None:
            part = [self._value(r.part, row.kind), f"± {fixed(r.uncertainty, self.document.unit)}", r.verdict or ""]
        cells += [*part, r.way if not blank else ""]
        x = EDGE
        for n, ((_, width), words) in enumerate(zip(TABLE, cells, strict=True)):
            if n in (4, 7) and words:
                self._sign(x + 2.2, base + 1.1, words)
                self.fitted(x + 5.4, base, words, width - 6, 8.5, BODY)
            else:
                self.fitted(x + 1, base, words, width - 2, 9 if n == 1 else 8.5, DRAWING if n in (1, 2) else BODY,
                            raw=n in (1, 2))  # fmt: skip
            if n in (5, 6, 8) and not words:
                self.rule(x + 1, base - 0.6, x + width - 2, base - 0.6, 0.3, QUIET)
            x += width
        self.y -= ROW
        if not told(row.duties):
            self.rule(EDGE, self.y, WIDTH - EDGE, self.y, 0.3)

    def _sign(self, x: float, y: float, verdict: str) -> None:
        """The verdict's shape, drawn."""
        self.c.setStrokeColor(INK)
        self.c.setFillColor(INK)
        self.c.setLineWidth(0.8)
        r = 1.3 * MM
        if verdict == "in":
            self.c.circle(x * MM, y * MM, r)
        elif verdict == "out":
            self.c.rect(x * MM - r, y * MM - r, 2 * r, 2 * r, fill=1)
        elif verdict == "near":
            path = self.c.beginPath()
            path.moveTo(x * MM, y * MM + r)
            path.lineTo(x * MM + r, y * MM - r)
            path.lineTo(x * MM - r, y * MM - r)
            path.close()
            self.c.drawPath(path)
        elif verdict == "no limit":
            path = self.c.beginPath()
            path.moveTo(x * MM, y * MM + r)
            for dx, dy in ((r, 0.0), (0.0, -r), (-r, 0.0)):
                path.lineTo(x * MM + dx, y * MM + dy)
            path.close()
            self.c.drawPath(path)
        else:
            self.c.setFont(BODY, 9)
            self.c.drawCentredString(x * MM, (y - 1) * MM, "?")

    def _value(self, value: float | None, kind: str) -> str:
        if value is None:
            return "–"
        if kind == "angle":
            return angle(value)
        return f"1:{value:.5g}" if kind == "taper" else fixed(value, self.document.unit)

    def _limits(self, r: InspectionRow) -> str:
        low, high = r.row.low, r.row.high
        if low is None and high is None:
            return "–"
        if low is None or high is None:
            most, least = (self._value(v, r.row.kind) for v in (high, low))
            return self.spoken(f"at most {most}" if low is None else f"at least {least}")
        return self.span(self._value(low, r.row.kind), self._value(high, r.row.kind))

    # closing -------------------------------------------------------------------------------------
    def closing(self, report: Report) -> None:
        """Counts, mass, the decision rule and the cautions."""
        say = self.spoken
        lines = [say(", ".join(f"{n} {say(word)}" for word, n in report.counts.items() if n) + " on the model")]
        mass = report.mass
        if mass is not None:
            lines.append(
                say(f"mass of the model {mass.model:.2f} g ({mass.material}, {mass.density_g_mm3 * 1000:.4g} g/cm³)")
            )
            if mass.stated is not None and mass.band is not None:
                lines[-1] += "; " + say(f"{mass.source} {mass.stated:g} g ± {mass.band:.2f}: {mass.verdict}")
        decided = [f"{r.balloon}  {r.note}: {say('decided')}; {r.redress}" for r in report.rows if r.redress]
        lines += [w for d in decided for w in wrap(d, 150)]
        words = [*lines, *wrap(say(RULE), 190), *wrap(say(CAUTIONS), 190)]
        if self.y < EDGE + 6 + 4.4 * len(words):
            self.end()
            self.begin()
        self.y -= 6
        for k, line in enumerate(words):
            size, colour = (9.0, INK) if k < len(lines) else (7.5, QUIET)
            self.text(EDGE, self.y, line, size, colour=colour, raw=True)
            self.y -= 4.4


def told(duties: Sequence[DutyRow]) -> list[DutyRow]:
    """Duties beside the size that the sheet lists: a form as it should be is not worth a line."""
    return [d for d in duties[1:] if d.what != "form" or d.verdict != "in"]


def _around(
    balloons: Sequence[Sequence[float]], at: Any, middle: tuple[float, float], half_w: float, half_h: float
) -> list[tuple[int, tuple[float, float], tuple[float, float]]]:
    """(number, place, balloon): balloons above and below the view in the order of their places, so that leaders do not
    cross; evenly spread where they would touch.
    """
    placed = sorted(((int(n), at(x, y)) for n, x, y in balloons), key=lambda p: (p[1][0], p[0]))
    step, out = 7.0, []
    sides = {above: [p for p in placed if (p[1][1] >= middle[1] - 0.1) == above] for above in (True, False)}
    if max(map(len, sides.values())) * step > 2 * half_w:  # too many for one side: every other one to the other
        sides = {True: placed[::2], False: placed[1::2]}
    for above, side in sides.items():
        if not side:
            continue
        xs = [p[1][0] for p in side]
        for k in range(1, len(xs)):
            xs[k] = max(xs[k], xs[k - 1] + step)
        over = (xs[-1] - side[-1][1][0]) / 2  # share the push to both sides
        over = max(over, xs[-1] - middle[0] - half_w - step)
        y = middle[1] + (half_h if above else -half_h)
        out += [(n, p, (x - over, y)) for (n, p), x in zip(side, xs, strict=True)]
    return out
