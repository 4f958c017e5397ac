"""The cross-section of a step as a drawing: outlines to scale, and dimensions that lead to the form's fields.

Figures in mm, x across and y down into the material; what is mirrored about the axis x = 0 is given once, at x > 0.
"""

from __future__ import annotations

import contextlib
import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from lathed_solid.errors import LathedError
from lathed_solid.part import Document, HoleStep, StepBase, TurnedStep, scope
from lathed_solid.part.steps.hole import ResolvedHole
from lathed_solid.quantity.formatting import angle, length
from lathed_solid.quantity.units import MM_PER_INCH

XY = tuple[float, float]
#: across: a size over the axis at a level; down: one along it at a distance; note: words beside a place
Way = Literal["across", "down", "note"]


@dataclass(frozen=True)
class SectionSize:
    """A size in the drawing: the form's ``path``, its text, from where to where, and where it stands (``at``)."""

    path: str
    text: str
    way: Way
    start: float = 0.0
    end: float = 0.0
    at: float = 0.0


@dataclass(frozen=True)
class StepSection:
    """``outline``: of the material right of the axis, closed; ``thin``: the lines of a drawn thread, (x, from, to), or
    (y, from, to) along the axis.
    """

    outline: tuple[XY, ...]
    thin: tuple[tuple[float, float, float], ...]
    sizes: tuple[SectionSize, ...]
    #: a round body that is cut along its axis (y = 0 is the axis), not one that is entered from above
    along: bool = False


def section_of(document: Document, step: StepBase) -> StepSection | None:
    """The drawing of a step; None for a kind without one, or while its sizes cannot be."""
    draw = SECTIONS.get(step.kind)
    if draw is None:
        return None
    try:
        return draw(document, step)
    except (LathedError, ZeroDivisionError):
        return None


def _hole(document: Document, step: Any) -> StepSection:
    """A hole from its mouth to its end, or through."""
    hole: ResolvedHole = step.resolve(scope(document))
    unit, r = document.unit, hole.radius
    wide = max([r, *(e[1] for e in hole.entry), hole.thread[1] if hole.thread else 0.0])
    deepest = max([0.0, *(e[2] for e in hole.entry)])
    bottom = hole.depth if hole.depth is not None else max(3.2 * wide, 2.2 * deepest, 4 * r)
    tip = r / math.tan(hole.point / 2) if hole.point is not None and hole.depth is not None else 0.0
    shoulder = bottom - tip if hole.to_tip else bottom
    end = shoulder + tip
    floor = end + 0.6 * wide if hole.depth is not None else bottom
    edge = 2.1 * wide
    inner: list[XY] = []
    sizes: list[SectionSize] = []
    for kind, size, deep, opening in hole.entry:
        inner.append((size, 0.0))
        if kind == "csk":
            foot = (size - r) / math.tan(opening / 2)
            sizes.append(SectionSize("csk_diameter", f"⌵ ⌀{_said(2 * size, unit)}", "across", -size, size, -1.0))
            sizes.append(SectionSize("csk_angle", angle(opening), "note", at=foot / 2))
            inner.append((r, foot))
            continue
        sign = "⌴" if kind == "cbore" else "counterdrill"
        sizes.append(SectionSize(f"{kind}_diameter", f"{sign} ⌀{_said(2 * size, unit)}", "across", -size, size, -1.0))
        sizes.append(SectionSize(f"{kind}_depth", _said(deep, unit), "down", 0.0, deep, -1.0))
        inner.append((size, deep))
        inner.append((r, deep + ((size - r) / math.tan(opening / 2) if kind == "cdrill" else 0.0)))
    if not inner:
        inner.append((r, 0.0))
    inner.append((r, shoulder))
    if hole.depth is not None:
        inner.append((0.0, end))
        outline = ((edge, 0.0), *inner, (0.0, floor), (edge, floor))
        sizes.append(SectionSize("depth", _said(hole.depth, unit), "down", 0.0, end if hole.to_tip else shoulder, 1.0))
    else:
        outline = ((edge, 0.0), *inner, (edge, floor))
        sizes.append(SectionSize("depth", "through" if not hole.until else f"to {hole.until}", "note", at=floor))
    if tip:
        sizes.append(SectionSize("point", angle(hole.point or 0.0), "note", at=end))
    level = inner[-2][1] if len(inner) > 2 and hole.depth is None else max(deepest, 0.0)
    middle = (level + shoulder) / 2
    thin: tuple[tuple[float, float, float], ...] = ()
    if hole.thread is not None:
        name, major, _pitch, deep_, _left = hole.thread
        reach = deep_ if deep_ is not None else shoulder
        thin = ((major, inner[0][1] if not hole.entry else level, reach),)
        sizes.append(SectionSize("thread", name, "across", -major, major, middle))
        if deep_ is not None:
            sizes.append(SectionSize("thread_depth", _said(deep_, unit), "down", 0.0, deep_, -2.0))
    else:
        sizes.append(SectionSize("diameter", f"⌀{_said(2 * r, unit)}", "across", -r, r, middle))
    return StepSection(tuple(outline), thin, tuple(sizes))


def _centre(document: Document, step: Any) -> StepSection:
    """A centre hole of form A, by its pilot."""
    from lathed_solid.standards.machine import centre_hole

    pilot = scope(document)(step.pilot, "length")
    table = centre_hole(pilot)
    wide, deep = table.countersink, table.least_depth or 0.0
    r, big = pilot / 2, wide / 2
    cone = (big - r) / math.tan(math.radians(30))
    end = cone + max(deep - cone, 0.3 * pilot) + r * 0.6
    outline = ((2.2 * big, 0.0), (big, 0.0), (r, cone), (r, end - r * 0.6), (0.0, end), (0.0, end + big),
               (2.2 * big, end + big))  # fmt: skip
    unit = document.unit
    sizes = (
        SectionSize("pilot", f"A ⌀{_said(pilot, unit)}", "across", -r, r, (cone + end) / 2),
        SectionSize("pilot", f"⌀{_said(wide, unit)}", "across", -big, big, -1.0),
        SectionSize("pilot", "60°", "note", at=cone / 2),
    )
    return StepSection(outline, (), sizes)


def _groove(document: Document, step: Any) -> StepSection | None:
    """A groove in the upper half of a turned stretch or bore, from the face that it is counted from."""
    from lathed_solid.standards.machine import ring_groove

    bore = _turned_bore(document, step.face)
    shaft = bore[0] if bore is not None else _turned_diameter(document, step.face)
    if shaft is None:
        return None
    found = step.resolve(scope(document))
    if bore is not None and (found.diameter is None or found.width is None):
        return None  # rings for bores stand in no table here
    diameter, width = found.diameter, found.width
    if diameter is None or width is None:
        usual = ring_groove(shaft)
        diameter, width = diameter or usual[0], width or usual[1]
    big, small, at = shaft / 2, diameter / 2, found.at
    end = at + width + max(width, 0.4 * big)
    # the material lies below a shaft's outside, and above a bore
    floor = -bore[1] / 2 if bore is not None else 0.0
    outline = ((0.0, floor), (0.0, -big), (at, -big), (at, -small), (at + width, -small), (at + width, -big),
               (end, -big), (end, floor))  # fmt: skip
    unit = document.unit
    by_table = "" if step.width and step.diameter else " DIN 471"
    sizes = (
        SectionSize("at", _said(at, unit), "across", 0.0, at, -1.0),
        SectionSize("width", f"{_said(width, unit)}{by_table}", "across", at, at + width, -2.0),
        SectionSize("diameter", f"⌀{_said(diameter, unit)}{by_table}", "note", at=(floor - small) / 2),
    )
    return StepSection(outline, (), sizes, along=True)


def _keyway(document: Document, step: Any) -> StepSection | None:
    """A key seat along a turned stretch: the shaft's upper half, cut along the seat's middle."""
    from lathed_solid.standards.machine import key_for

    shaft = _turned_stretch(document, step.face)
    if shaft is None:
        return None
    diameter, stretch = shaft
    found = step.resolve(scope(document))
    width, depth = found.width, found.depth
    if width is None or depth is None:
        usual = key_for(diameter)
        width, depth = width or usual.width, depth or usual.shaft_depth
    if depth >= diameter / 2:
        return None
    big, at = diameter / 2, found.at
    far = at + found.length if found.length is not None else max(stretch, at + width)
    end = far + 0.5 * width if found.length is not None else far
    mouth = ((0.0, 0.0), (0.0, -big), (at, -big)) if at else ((0.0, 0.0),)
    foot = ((far, -big), (end, -big)) if found.length is not None else ()
    outline = (*mouth, (at, depth - big), (far, depth - big), *foot, (end, 0.0))
    unit, middle = document.unit, depth - big
    deep = f"{_said(depth, unit)} deep" + " ISO 773" * (step.depth is None)
    wide = f"{_said(width, unit)} wide" + " ISO 773" * (step.width is None)
    long = "all along" if found.length is None else _said(found.length, unit)
    sizes = (
        *((SectionSize("at", _said(at, unit), "across", 0.0, at, -2.0),) if at else ()),
        SectionSize("length", long, "across", at, far, -1.0),
        SectionSize("depth", deep, "note", at=0.7 * middle),
        SectionSize("width", wide, "note", at=0.25 * middle),
    )  # fmt: skip
    return StepSection(outline, (), sizes, along=True)


def _thread(document: Document, step: Any) -> StepSection | None:
    """A thread on a turned stretch from its end: the major and the minor diameter, the length."""
    shaft = _turned_stretch(document, step.face)
    form = step.form()
    if shaft is None or form is None:
        return None
    found = step.resolve(scope(document))
    big, stretch = shaft[0] / 2, shaft[1]
    small = form.major / 2 - form.screw_depth
    reach = found.length if found.length is not None else stretch
    # of a long plain stretch behind the thread a little is enough
    drawn = min(stretch, reach + big)
    outline = ((0.0, 0.0), (0.0, -big), (drawn, -big), (drawn, 0.0))
    unit = document.unit
    long = _said(reach, unit) if found.length is not None else f"all, {_said(reach, unit)}"
    hand = " LH" if found.left and "LH" not in form.designation else ""
    sizes = (
        SectionSize("length", long, "across", 0.0, reach, -1.0),
        SectionSize("designation", f"{form.designation}{hand}", "note", at=-0.72 * small),
        SectionSize("designation", f"minor ⌀{_said(2 * small, unit)}  P{_said(form.pitch, unit)}", "note",
                    at=-0.3 * small),
    )  # fmt: skip
    return StepSection(outline, ((-small, 0.0, reach),), sizes, along=True)


def _turned_diameter(document: Document, face: str) -> float | None:
    """Of the stretch of a turned table that a face names, mm."""
    found = _turned_stretch(document, face)
    return None if found is None else found[0]


def _turned_stretch(document: Document, face: str) -> tuple[float, float] | None:
    """Diameter and length of the stretch of a turned table that a face names, mm."""
    number, _, atom = face.partition("/")
    step = document.step(int(number)) if number.isdigit() else None
    if not isinstance(step, TurnedStep):
        return None
    key = atom.partition(">")[0].removeprefix("s")
    found = next((s for s in step.resolve(scope(document)).stretches if s.key == key and s.r0 == s.r1), None)
    return None if found is None else (2 * found.r0, found.z1 - found.z0)


def _turned_bore(document: Document, face: str) -> tuple[float, float] | None:
    """Diameter of the step of a turned table's bore that a face names, and of the widest stretch about it, mm."""
    number, _, atom = face.partition("/")
    step = document.step(int(number)) if number.isdigit() else None
    named = atom.split(".")
    if not isinstance(step, TurnedStep) or named[0] != "bore" or len(named) != 3 or not named[2].isdigit():
        return None
    bore = next((b for b in step.table.bores if b.end == named[1]), None)
    if bore is None or int(named[2]) > len(bore.steps):
        return None
    inner = scope(document)(bore.steps[int(named[2]) - 1].diameter, "length")
    stretches = step.resolve(scope(document)).stretches
    return inner, 2 * max(max(s.r0, s.r1) for s in stretches)


def _said(mm: float, unit: Any) -> str:
    return length(mm, unit)


SECTIONS: dict[str, Callable[[Document, Any], StepSection | None]] = {
    "hole": _hole, "centre": _centre, "groove": _groove, "keyway": _keyway, "thread": _thread,
}  # fmt: skip


# usual sizes ---------------------------------------------------------------------------------------
def usual_sizes(document: Document, step: StepBase) -> dict[str, dict[str, Any]]:
    """By what they are for, the fields that a usual size fills: all of them at once."""
    from lathed_solid.standards.clearance import clearance_hole, head_room
    from lathed_solid.standards.csv_tables import StandardError, rows

    if isinstance(step, HoleStep):
        bare: dict[str, Any] = dict.fromkeys(
            ("cbore_diameter", "cbore_depth", "csk_diameter", "cdrill_diameter", "cdrill_depth")
        )
        bare |= {"thread": "", "thread_depth": None}
        out: dict[str, dict[str, Any]] = {}
        inch = [row["thread"] for row in rows("screws_inch")] if document.unit == "in" else []
        for name in (*inch, *(row["thread"] for row in rows("screws"))):
            unit, factor = ("in", MM_PER_INCH) if name in inch else ("mm", 1.0)
            clear = {"diameter": f"{clearance_hole(name) / factor:.5g} {unit}", "depth": None, "until": ""}
            with contextlib.suppress(StandardError):
                wide, deep = (size / factor for size in head_room(name)[:2])
                head = {"cbore_diameter": f"{wide:.5g} {unit}", "cbore_depth": f"{deep:.5g} {unit}"}
                out[f"cap screw {name}"] = bare | clear | head
            out[f"clearance {name}"] = bare | clear
            out[f"tapped {name}"] = bare | {"diameter": "", "thread": f"{name} UNC" if name in inch else name}
        return out
    if step.kind == "centre":
        return {
            f"A{row['pilot_mm']}": {"pilot": f"{row['pilot_mm']} mm"}
            for row in rows("centre_holes")
            if row["form"] == "A"
        }
    if step.kind == "groove":
        return {"ring by the diameter, DIN 471": {"width": None, "diameter": None}}
    if step.kind == "keyway":
        return {"key by the diameter, ISO 773": {"width": None, "depth": None}}
    return {}
