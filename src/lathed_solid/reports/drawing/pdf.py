"""The drawing as PDF, its lettering as text in the shipped drawing letters."""

from __future__ import annotations

import io
import math

from lathed_solid.kernel.drawing.figures import Arc
from lathed_solid.reports.drawing.ink import arrows, lettering, strokes
from lathed_solid.reports.drawing.model import EM, PENS, DrawnSheet, Stroke
from lathed_solid.reports.pen import DRAWING, INK, MM, register_fonts


def drawing_pdf(*sheets: DrawnSheet) -> bytes:
    """One page a sheet."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    c = Canvas(out, invariant=1)
    for sheet in sheets:
        c.setPageSize((sheet.width * MM, sheet.height * MM))
        c.setTitle(sheet.name)
        c.setStrokeColor(INK)
        c.setFillColor(INK)
        c.setLineCap(1)
        for stroke in strokes(sheet):
            _stroke(c, stroke)
        c.setDash()
        for a in arrows(sheet):
            path = c.beginPath()
            path.moveTo(a.tip[0] * MM, a.tip[1] * MM)
            path.lineTo(a.left[0] * MM, a.left[1] * MM)
            path.lineTo(a.right[0] * MM, a.right[1] * MM)
            path.close()
            c.drawPath(path, stroke=0, fill=1)
        for w in lettering(sheet):
            c.saveState()
            c.translate(w.at[0] * MM, w.at[1] * MM)
            if w.upright:
                c.rotate(90)
            c.setFont(DRAWING, w.capitals / EM * MM)
            c.drawString(0, 0, w.text)
            c.restoreState()
        c.showPage()
    c.save()
    return out.getvalue()


def _stroke(c: object, stroke: Stroke) -> None:
    width, dash = PENS[stroke.pen]
    c.setLineWidth(width * MM)  # type: ignore[attr-defined]
    c.setDash([v * MM for v in dash] if dash else [])  # type: ignore[attr-defined]
    path = c.beginPath()  # type: ignore[attr-defined]
    curve = stroke.curve
    if isinstance(curve, Arc):
        (x, y), r = curve.centre, curve.radius
        path.arc((x - r) * MM, (y - r) * MM, (x + r) * MM, (y + r) * MM, math.degrees(curve.start),
                 math.degrees(curve.end - curve.start))  # fmt: skip
    else:
        path.moveTo(curve.points[0][0] * MM, curve.points[0][1] * MM)
        for x, y in curve.points[1:]:
            path.lineTo(x * MM, y * MM)
    c.drawPath(path, stroke=1, fill=0)  # type: ignore[attr-defined]
