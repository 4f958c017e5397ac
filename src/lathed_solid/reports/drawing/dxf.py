"""The drawing as DXF: views on layers by pen, lengths as dimension entities, notes as leaders with text.

It lies in model space at the part's full size, in the part's unit, so that a dimension measures what it says; lettering
is larger by as much as the sheet's scale makes it smaller.
"""

from __future__ import annotations

import io
import math
from dataclasses import replace
from typing import Any

from lathed_solid.kernel.drawing.figures import Arc, Place
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.reports.drawing.ink import Arrow, arrow, arrows_of, of_leader, strokes
from lathed_solid.reports.drawing.model import (
    ARROW,
    CAPITALS,
    OFF,
    PAST,
    PENS,
    Dimension,
    DrawnSheet,
    Leader,
    Stroke,
    Words,
)
from lathed_solid.reports.drawing.rows import LIFT

LETTERS, NOTES, FRAME = "DRAWING", "DIMENSIONS", "FRAME"
#: widths that a DXF can tell, 1/100 mm
WEIGHTS = (13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70)
#: the day that every file says it was made: the same part is the same file
JULIAN = 2460000.0


def drawing_dxf(sheet: DrawnSheet) -> bytes:
    """One sheet."""
    import ezdxf

    doc = ezdxf.new("R2010", units=1 if sheet.unit == "in" else 4)
    for tag in ("$TDCREATE", "$TDUPDATE"):
        doc.header[tag] = JULIAN
    doc.styles.add(LETTERS, font="osifont.ttf")
    full = 1 / (sheet.scale * (MM_PER_INCH if sheet.unit == "in" else 1.0))
    for pen, (width, dash) in PENS.items():
        line = "CONTINUOUS"
        if dash:
            line = pen.upper()
            doc.linetypes.add(line, [full * sum(dash), *(full * v * (-1) ** k for k, v in enumerate(dash))])
        doc.layers.add(pen.upper(), linetype=line, lineweight=min(WEIGHTS, key=lambda w: abs(w - 100 * width)))
    doc.layers.add(NOTES, lineweight=18)
    paper = _Paper(doc.modelspace(), full)
    for stroke in strokes(replace(sheet, dimensions=(), leaders=())):
        paper.curve(stroke)
    for tip, back in sheet.pointers:
        paper.arrow(arrow(tip, back))
    for d in sheet.dimensions:
        paper.dimension(d)
    for n in sheet.leaders:
        paper.leader(n)
    for b in sheet.balloons:
        paper.text(b.words, NOTES)
    for w in sheet.words:
        paper.text(w, FRAME)
    out = io.StringIO()
    doc.write(out)
    return out.getvalue().encode("utf-8")


class _Paper:
    """Draws what lies on paper at the part's size: ``full`` units of the part are a mm of paper."""

    def __init__(self, space: Any, full: float) -> None:
        self._space, self._full = space, full

    def _p(self, p: Place) -> Place:
        return p[0] * self._full, p[1] * self._full

    def curve(self, stroke: Stroke, layer: str = "") -> None:
        look = {"layer": layer or stroke.pen.upper()}
        curve = stroke.curve
        if isinstance(curve, Arc):
            centre, radius = self._p(curve.centre), curve.radius * self._full
            if curve.whole:
                self._space.add_circle(centre, radius, dxfattribs=look)
            else:
                ends = math.degrees(curve.start), math.degrees(curve.end)
                self._space.add_arc(centre, radius, *ends, dxfattribs=look)
        elif len(curve.points) == 2:
            self._space.add_line(*map(self._p, curve.points), dxfattribs=look)
        else:
            self._space.add_lwpolyline(list(map(self._p, curve.points)), dxfattribs=look)

    def dimension(self, d: Dimension) -> None:
        """A real one, its number where it stands on the sheet."""
        k = self._full
        left, low, right, high = d.words.box
        style = {
            "dimtxsty": LETTERS, "dimtxt": CAPITALS * k, "dimasz": ARROW * k, "dimexo": OFF * k, "dimexe": PAST * k,
            "dimgap": LIFT * k, "dimtad": 1, "dimtmove": 2, "dimdec": 4, "dimzin": 8, "dimtih": 0, "dimtoh": 0,
            "dimlfac": 1 / d.larger,
        }  # fmt: skip
        made = self._space.add_linear_dim(
            base=self._p(d.placed(d.span[0], d.row)), p1=self._p(d.start), p2=self._p(d.end),
            angle=90 if d.upright else 0, text=d.words.text, override=style, dxfattribs={"layer": NOTES},
        )  # fmt: skip
        made.set_location(self._p(((left + right) / 2, (low + high) / 2)))
        made.render()

    def leader(self, n: Leader) -> None:
        for stroke in of_leader(n):
            self.curve(stroke, NOTES)
        for a in arrows_of(n):
            self.arrow(a)
        for w in n.words:
            self.text(w, NOTES)

    def arrow(self, a: Arrow) -> None:
        self._space.add_solid([self._p(p) for p in (a.tip, a.left, a.right)], dxfattribs={"layer": NOTES})

    def text(self, w: Words, layer: str) -> None:
        look = {"layer": layer, "style": LETTERS, "insert": self._p(w.at)}
        turn = 90 if w.upright else 0
        self._space.add_text(w.text, height=w.capitals * self._full, rotation=turn, dxfattribs=look)
