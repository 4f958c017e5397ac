"""The drawing as SVG: its lettering as text, in the shipped drawing letters where they are at hand."""

from __future__ import annotations

import math
from xml.etree import ElementTree as xml

from lathed_solid.kernel.drawing.figures import Arc, Place
from lathed_solid.reports.drawing.ink import arrows, lettering, strokes
from lathed_solid.reports.drawing.model import EM, PENS, DrawnSheet, Stroke
from lathed_solid.reports.pen import INK

NAMESPACE = "http://www.w3.org/2000/svg"
#: decimals of places, mm
DIGITS = 4


def drawing_svg(sheet: DrawnSheet) -> bytes:
    """One sheet; its unit is the millimetre."""
    xml.register_namespace("", NAMESPACE)
    root = xml.Element(f"{{{NAMESPACE}}}svg", {
        "width": f"{sheet.width:g}mm", "height": f"{sheet.height:g}mm",
        "viewBox": f"0 0 {sheet.width:g} {sheet.height:g}", "fill": "none", "stroke": INK, "stroke-linecap": "round",
    })  # fmt: skip
    xml.SubElement(root, f"{{{NAMESPACE}}}title").text = sheet.name
    for stroke in strokes(sheet):
        _stroke(root, stroke, sheet.height)
    for a in arrows(sheet):
        d = f"M{_p(a.tip, sheet.height)}L{_p(a.left, sheet.height)}L{_p(a.right, sheet.height)}Z"
        xml.SubElement(root, f"{{{NAMESPACE}}}path", {"d": d, "fill": INK, "stroke": "none"})
    for w in lettering(sheet):
        x, y = w.at[0], sheet.height - w.at[1]
        turn = {"transform": f"rotate(-90 {x:.{DIGITS}f} {y:.{DIGITS}f})"} if w.upright else {}
        element = xml.SubElement(root, f"{{{NAMESPACE}}}text", {
            "x": f"{x:.{DIGITS}f}", "y": f"{y:.{DIGITS}f}", "fill": INK, "stroke": "none",
            "font-family": "osifont, sans-serif", "font-size": f"{w.capitals / EM:.3f}", **turn,
        })  # fmt: skip
        element.text = w.text
    return bytes(xml.tostring(root, encoding="utf-8", xml_declaration=True))


def path_of(stroke: Stroke, height: float) -> str:
    """A stroke's path, y downwards from ``height``."""
    curve = stroke.curve
    if isinstance(curve, Arc):
        r = f"{curve.radius:.{DIGITS}f}"
        if curve.whole:
            a, b = curve.at(0.0), curve.at(math.pi)
            return f"M{_p(a, height)}A{r} {r} 0 1 0 {_p(b, height)}A{r} {r} 0 1 0 {_p(a, height)}Z"
        large = int(curve.end - curve.start > math.pi)
        return f"M{_p(curve.at(curve.start), height)}A{r} {r} 0 {large} 0 {_p(curve.at(curve.end), height)}"
    return "M" + "L".join(_p(p, height) for p in curve.points)


def _stroke(root: xml.Element, stroke: Stroke, height: float) -> None:
    width, dash = PENS[stroke.pen]
    look = {"d": path_of(stroke, height), "stroke-width": f"{width:g}", "class": stroke.pen}
    if dash:
        look["stroke-dasharray"] = " ".join(f"{v:g}" for v in dash)
    xml.SubElement(root, f"{{{NAMESPACE}}}path", look)


def _p(p: Place, height: float) -> str:
    return f"{p[0]:.{DIGITS}f} {height - p[1]:.{DIGITS}f}"
