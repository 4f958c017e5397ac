"""A drawing's sheet as painter paths in mm, y downwards from its upper left corner: one a pen, one for lettering."""

from __future__ import annotations

import math
from collections.abc import Iterable

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QFont, QPainterPath, QPolygonF, QTransform

from lathed_solid.desk import theme
from lathed_solid.kernel.drawing.figures import Arc, Place
from lathed_solid.reports.drawing.ink import arrows, lettering, strokes
from lathed_solid.reports.drawing.model import EM, DrawnSheet, Pen, Words

#: the size that letters are taken from, pixels: large, so that they are not fitted to a screen's dots
LETTERS = 200


def pens_of(sheet: DrawnSheet) -> dict[Pen, QPainterPath]:
    """All strokes by pen."""
    out: dict[Pen, QPainterPath] = {}
    for stroke in strokes(sheet):
        path = out.setdefault(stroke.pen, QPainterPath())
        curve = stroke.curve
        if isinstance(curve, Arc):
            (x, y), r = curve.centre, curve.radius
            box = QRectF(x - r, sheet.height - y - r, 2 * r, 2 * r)
            start, sweep = math.degrees(curve.start), math.degrees(curve.end - curve.start)
            path.arcMoveTo(box, start)
            path.arcTo(box, start, sweep)
        else:
            path.moveTo(_point(curve.points[0], sheet))
            for p in curve.points[1:]:
                path.lineTo(_point(p, sheet))
    return out


def ink_of(sheet: DrawnSheet) -> QPainterPath:
    """What is filled: arrows and lettering."""
    path = QPainterPath()
    path.setFillRule(path.fillRule().WindingFill)
    for a in arrows(sheet):
        path.addPolygon(QPolygonF([_point(p, sheet) for p in (a.tip, a.left, a.right, a.tip)]))
    path.addPath(letters_of(lettering(sheet), sheet))
    return path


def letters_of(words: Iterable[Words], sheet: DrawnSheet) -> QPainterPath:
    """Lettering as outlines."""
    font = QFont(theme.DRAWING)
    font.setPixelSize(LETTERS)
    out = QPainterPath()
    for w in words:
        own = QPainterPath()
        own.addText(QPointF(0, 0), font, w.text)
        k = w.capitals / EM / LETTERS
        at = QTransform().translate(w.at[0], sheet.height - w.at[1])
        if w.upright:
            at.rotate(-90)
        out.addPath(at.scale(k, k).map(own))
    return out


def _point(p: Place, sheet: DrawnSheet) -> QPointF:
    return QPointF(p[0], sheet.height - p[1])
