"""The parts list of a fit: PDF with a picture and balloons, CSV or JSON."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Mapping, Sequence
from pathlib import Path

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.fit.document import Fit
from lathed_solid.fit.judged import PartMass, Row, mass
from lathed_solid.fit.words import mass_json, rows_json
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.reports.pen import BODY, INK, LINE, MM, QUIET, Pen, register_fonts

WIDTH, HEIGHT, EDGE = 210.0, 297.0, 15.0
COLUMNS = ("no", "count", "part", "material", "standard", "g each", "g all")
#: where the columns begin, and where those of numbers end, mm from the left edge
STARTS = (0.0, 12.0, 28.0, 96.0, 124.0, 162.0, 180.0)
NUMBERS = {1: 24.0, 5: 162.0, 6: 180.0}
ROW, PICTURE = 6.2, 118.0


def write_parts_list(
    path: Path, whole: Fit, rows: Sequence[Row], masses: Mapping[str, PartMass], picture: bytes | None = None,
    spoken: Spoken = as_it_is,
) -> None:  # fmt: skip
    """Write by the ending of ``path``: .pdf, .csv or .json. ``picture``: a PNG for the PDF, ``spoken``: its words.
    Raises FileError.
    """
    ending = path.suffix.lower()
    if ending == ".pdf":
        data = parts_pdf(whole, rows, masses, picture, spoken)
    elif ending == ".csv":
        data = parts_csv(rows).encode("utf-8")
    elif ending == ".json":
        told = {"name": whole.name, "parts": rows_json(rows), "whole": mass_json(mass(whole, masses))}
        data = (json.dumps(told, ensure_ascii=False, indent=1) + "\n").encode("utf-8")
    else:
        raise FileError("the ending is not known", path, hint="a file name ending in .pdf, .csv or .json")
    write_atomic(path, data)


def cells(r: Row) -> tuple[str, ...]:
    """A row's cells, in the order of ``COLUMNS``."""
    each, total = ("", "") if r.grams is None else (f"{r.grams:.1f}", f"{r.grams * r.count:.1f}")
    return str(r.number), str(r.count), r.part, r.material, r.standard, each, total


def parts_csv(rows: Sequence[Row]) -> str:
    """One line for each part, comma separated (RFC 4180)."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for r in rows:
        # a leading = + - @ would be run as a formula by spreadsheet programs
        writer.writerow(["'" + c if c[:1] in ("=", "+", "-", "@") else c for c in cells(r)])
    return out.getvalue()


def parts_pdf(
    whole: Fit, rows: Sequence[Row], masses: Mapping[str, PartMass], picture: bytes | None = None,
    spoken: Spoken = as_it_is,
) -> bytes:  # fmt: skip
    """A picture with balloons at the head, then the list, then the mass of all."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    c = Canvas(out, pagesize=(WIDTH * MM, HEIGHT * MM), invariant=1)
    c.setTitle(spoken(f"Parts list: {whole.name}"))
    pen = Pen(c, spoken)
    y = _head(pen, whole, 1)
    if picture:
        y = _picture(pen, picture, y)
    y = _titles(pen, y)
    page = 1
    for r in rows:
        if y < EDGE + 2 * ROW:
            c.showPage()
            page += 1
            y = _titles(pen, _head(pen, whole, page))
        y = _row(pen, r, y)
    total = mass(whole, masses)
    at = ", ".join(f"{x:.1f}" for x in total.centre)
    words = f"{sum(r.count for r in rows)} members, {total.grams / 1000:.3f} kg, centre of mass at {at} mm"
    if total.without:
        words += f"; without {', '.join(total.without)}"
    pen.text(EDGE, y - 4, words, 9)
    pen.text(EDGE, y - 10, "A model is no release for pressure, lifting or life-safety use; local codes and licensed "
             "practice decide.", 7.5, colour=QUIET)  # fmt: skip
    c.showPage()
    c.save()
    return out.getvalue()


def _head(pen: Pen, whole: Fit, page: int) -> float:
    top = HEIGHT - EDGE
    pen.text(EDGE, top - 3, "PARTS LIST", 8, colour=QUIET)
    pen.text(EDGE, top - 10, whole.name, 17, raw=True)
    pen.text(WIDTH - EDGE, top - 3, f"page {page}", 8, colour=QUIET, right=True)
    pen.rule(EDGE, top - 14, WIDTH - EDGE, top - 14, 0.8, INK)
    return top - 18


def _picture(pen: Pen, picture: bytes, y: float) -> float:
    from reportlab.lib.utils import ImageReader

    image = ImageReader(io.BytesIO(picture))
    wide, high = image.getSize()
    room = WIDTH - 2 * EDGE
    scale = min(room / wide, PICTURE / high)
    pen.c.drawImage(image, (EDGE + (room - wide * scale) / 2) * MM, (y - high * scale) * MM, wide * scale * MM,
                    high * scale * MM)  # fmt: skip
    return y - high * scale - 5


def _titles(pen: Pen, y: float) -> float:
    for i, title in enumerate(COLUMNS):
        right = i in NUMBERS
        x, told = EDGE + (NUMBERS[i] if right else STARTS[i]), pen.spoken(title, "parts list")
        pen.text(x, y - 3, told, 8, colour=QUIET, right=right, raw=True)
    pen.rule(EDGE, y - 5, WIDTH - EDGE, y - 5, 0.6, INK)
    return y - 5


def _row(pen: Pen, r: Row, y: float) -> float:
    for i, words in enumerate(cells(r)):
        if i in NUMBERS:
            pen.text(EDGE + NUMBERS[i], y - 4.3, words, 9, right=True)
        else:
            room = (STARTS[i + 1] if i + 1 < len(STARTS) else WIDTH - 2 * EDGE) - STARTS[i] - 2
            pen.fitted(EDGE + STARTS[i], y - 4.3, words, room, 9, BODY, raw=True)
    pen.rule(EDGE, y - ROW, WIDTH - EDGE, y - ROW, 0.3, LINE)
    return y - ROW
