"""The drawing tools as data: how many clicks, what is said, which sizes can be typed, and what comes of it.

``build`` draws into a draft from the clicked places and the typed sizes; the preview is the same build into a
scratch draft, so what is shown is what will come. It returns the points that stand at the clicks (None where a
click makes no point), so that ties found by snapping can be put on them.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable
from dataclasses import dataclass, field

from lathed_solid.quantity.tolerances import LINEAR, ROUNDING
from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.infer import level
from lathed_solid.sketch.model import Point
from lathed_solid.sketch.plane import xy


@dataclass
class Drawing:
    """What a tool builds from: places in mm, typed expressions and their values by label, inference on or off."""

    places: list[complex]
    texts: dict[str, str] = field(default_factory=dict)
    values: dict[str, float] = field(default_factory=dict)
    infer: bool = True
    sides: int = 6
    text: str = ""
    #: a line that lettering runs along, and whether the place is its middle
    along: str = ""
    centred: bool = False


Points = list[str | None]
Build = Callable[[SketchBuilder, Drawing], Points]


@dataclass(frozen=True)
class Tool:
    """``fields``: (label, kind) of the sizes that can be typed. ``chain``: goes on from its last point."""

    id: str
    title: str
    key: str
    hints: tuple[str, ...]
    build: Build
    fields: tuple[tuple[str, str], ...] = ()
    chain: bool = False

    @property
    def clicks(self) -> int:
        """How many places it takes."""
        return len(self.hints)

    def next_size(self, placed: int) -> str:
        """The size that is open after so many places: those before it are given by the places already."""
        return self.fields[min(max(placed, 1), len(self.fields)) - 1][0] if self.fields else ""


def _dimension(draft: SketchBuilder, drawing: Drawing, label: str, kind: str, *of: str) -> None:
    """A dimension for a typed size."""
    if drawing.texts.get(label):
        draft.add(kind, *of, value=drawing.texts[label])  # type: ignore[arg-type]


def _point(draft: SketchBuilder, drawing: Drawing) -> Points:
    return [draft.point(*xy(drawing.places[0]))]


def _line(draft: SketchBuilder, drawing: Drawing) -> Points:
    start, end = drawing.places
    way = ""
    if drawing.infer and "angle" not in drawing.values:
        end, way = level(start, end)
    length = drawing.values.get("length", abs(end - start))
    angle = drawing.values.get("angle", cmath.phase(end - start))
    end = start + cmath.rect(length, angle)
    if abs(end - start) < ROUNDING:
        raise SketchError("a line needs a length")
    line = draft.segment(xy(start), xy(end))
    if way:
        draft.add(way, line, inferred=True)  # type: ignore[arg-type]
    _dimension(draft, drawing, "length", "distance", line)
    e = draft.entities[line]
    if drawing.texts.get("angle"):
        base = draft.segment(xy(start), xy(start + length), construction=True)
        draft.add("coincident", draft.entities[base].points[0], e.points[0])
        draft.add("horizontal", base)
        draft.add("equal", base, line)
        draft.add("angle", base, line, value=drawing.texts["angle"])
    return list(e.points)


def _rectangle(draft: SketchBuilder, drawing: Drawing) -> Points:
    a, b = drawing.places
    d = b - a
    width = math.copysign(drawing.values.get("width", abs(d.real)), d.real)
    height = math.copysign(drawing.values.get("height", abs(d.imag)), d.imag)
    if min(abs(width), abs(height)) < ROUNDING:
        raise SketchError("the rectangle has no width or height yet")
    sides = shapes.rectangle(draft, xy(a), xy(a + complex(width, height)))
    _dimension(draft, drawing, "width", "distance", sides[0])
    _dimension(draft, drawing, "height", "distance", sides[1])
    return [draft.entities[sides[0]].points[0], draft.entities[sides[1]].points[1]]


def _corner(draft: SketchBuilder, drawing: Drawing, sides: list[str]) -> str | None:
    """The corner across, to be tied to what it was put on; None where a size was typed."""
    return None if drawing.texts else draft.entities[sides[1]].points[1]


def _centre_rectangle(draft: SketchBuilder, drawing: Drawing) -> Points:
    a, b = drawing.places
    d = complex(
        drawing.values.get("width", 2 * abs((b - a).real)) / 2, drawing.values.get("height", 2 * abs((b - a).imag)) / 2
    )
    if min(d.real, d.imag) < ROUNDING:
        raise SketchError("the rectangle has no width or height yet")
    middle = draft.point(*xy(a))
    sides = shapes.centre_rectangle(draft, middle, xy(a + d))
    _dimension(draft, drawing, "width", "distance", sides[0])
    _dimension(draft, drawing, "height", "distance", sides[1])
    return [middle, _corner(draft, drawing, sides)]


def _based_rectangle(draft: SketchBuilder, drawing: Drawing) -> Points:
    a, b = drawing.places
    d = b - a
    half = math.copysign(drawing.values.get("width", 2 * abs(d.real)) / 2, d.real)
    height = math.copysign(drawing.values.get("height", abs(d.imag)), d.imag)
    if min(abs(half), abs(height)) < ROUNDING:
        raise SketchError("the rectangle has no width or height yet")
    *sides, middle = shapes.based_rectangle(draft, xy(a), xy(a + complex(half, height)))
    _dimension(draft, drawing, "width", "distance", sides[0])
    _dimension(draft, drawing, "height", "distance", sides[1])
    return [middle, _corner(draft, drawing, sides)]


def _circle(draft: SketchBuilder, drawing: Drawing) -> Points:
    centre, rim = drawing.places
    radius = drawing.values.get("⌀", 2 * abs(rim - centre)) / 2
    if radius < ROUNDING:
        raise SketchError("the circle has no size yet")
    middle = draft.point(*xy(centre))
    circle = draft.circle(middle, radius)
    _dimension(draft, drawing, "⌀", "diameter", circle)
    return [middle, None]


def _arc(draft: SketchBuilder, drawing: Drawing) -> Points:
    a, b, through = drawing.places
    if abs(b - a) < ROUNDING:
        raise SketchError("both ends of the arc are one place")
    if "radius" in drawing.values:
        through = _bulge(a, b, through, drawing.values["radius"])
    arc = shapes.three_point_arc(draft, xy(a), xy(through), xy(b))
    _dimension(draft, drawing, "radius", "radius", arc)
    ends = draft.entities[arc].points[1:]
    first = min(ends, key=lambda p: abs(complex(draft.entities[p].x, draft.entities[p].y) - a))  # type: ignore[union-attr]
    return [first, next(p for p in ends if p != first), None]


def _bulge(a: complex, b: complex, toward: complex, radius: float) -> complex:
    """The middle of the arc of this radius from a to b, on the side of a place; the long way round where that lies
    beyond the half circle.
    """
    half = abs(b - a) / 2
    if half < ROUNDING or radius < half:
        return toward
    n, middle = 1j * (b - a) / abs(b - a), (a + b) / 2
    height = (n.conjugate() * (toward - middle)).real
    rise = math.sqrt(max(radius**2 - half**2, 0.0))
    sagitta = radius + rise if abs(height) > radius else radius - rise
    return middle + n * math.copysign(max(sagitta, ROUNDING), height)


def _centre_arc(draft: SketchBuilder, drawing: Drawing) -> Points:
    centre, start, toward = drawing.places
    ways = ["", ""]
    if drawing.infer:
        (start, ways[0]), (toward, ways[1]) = level(centre, start), level(centre, toward)
    radius = drawing.values.get("radius", abs(start - centre))
    if radius < ROUNDING or abs(toward - centre) < ROUNDING or abs(start - centre) < ROUNDING:
        raise SketchError("the arc has no size yet")
    first = centre + (start - centre) / abs(start - centre) * radius
    last = centre + (toward - centre) / abs(toward - centre) * radius
    ends = [draft.point(*xy(first)), draft.point(*xy(last))]
    middle = draft.point(*xy(centre))
    arc = draft.arc(middle, *ends)
    for end, way in zip(ends, ways, strict=True):
        if way:
            draft.add(way, middle, end, inferred=True)  # type: ignore[arg-type]
    _dimension(draft, drawing, "radius", "radius", arc)
    return [middle, ends[0], ends[1]]


def _slot(draft: SketchBuilder, drawing: Drawing) -> Points:
    a, b, edge = drawing.places
    if abs(b - a) < ROUNDING:
        raise SketchError("the slot has no length yet")
    b, way = level(a, b) if drawing.infer else (b, "")
    b = a + (b - a) / abs(b - a) * drawing.values.get("centres", abs(b - a))
    off = abs(((b - a).conjugate() * (edge - a)).imag) / abs(b - a)
    radius = drawing.values.get("width", 2 * off) / 2
    if radius < ROUNDING:
        raise SketchError("the slot has no width yet")
    made = shapes.slot(draft, xy(a), xy(b), radius)
    if way:
        draft.add(way, made[-1], inferred=True)  # type: ignore[arg-type]
    _dimension(draft, drawing, "centres", "distance", made[-1])
    if drawing.texts.get("width"):
        draft.add("radius", made[1], value=f"({drawing.texts['width']}) / 2")
    first, second = draft.entities[made[-1]].points
    return [first, second, None]


def _polygon(draft: SketchBuilder, drawing: Drawing) -> Points:
    centre, corner = drawing.places
    corner, way = level(centre, corner) if drawing.infer else (corner, "")
    d = corner - centre
    if abs(d) < ROUNDING:
        raise SketchError("the polygon has no size yet")
    size = drawing.values.get("across flats", 2 * abs(d)) / 2
    made = shapes.polygon(draft, xy(centre), xy(centre + d / abs(d) * size), drawing.sides, across_flats=True)
    if way:
        # the flat that the pointer was over lies across
        draft.add("vertical" if way == "horizontal" else "horizontal", made[0], inferred=True)
    _dimension(draft, drawing, "across flats", "diameter", made[-1])
    return [draft.entities[made[-1]].points[0], None]


def _ellipse(draft: SketchBuilder, drawing: Drawing) -> Points:
    centre, end, edge = drawing.places
    if abs(end - centre) < ROUNDING:
        raise SketchError("the ellipse has no size yet")
    minor = abs(((end - centre).conjugate() * (edge - centre)).imag) / abs(end - centre)
    if minor < ROUNDING:
        raise SketchError("the ellipse has no width yet")
    middle, major = draft.point(*xy(centre)), draft.point(*xy(end))
    draft.ellipse(middle, major, minor)
    return [middle, major, None]


def _spline(draft: SketchBuilder, drawing: Drawing) -> Points:
    points = [draft.point(*xy(z)) for z in drawing.places]
    draft.spline(points)
    return list(points)


def _tilted_rectangle(draft: SketchBuilder, drawing: Drawing) -> Points:
    a, b, through = drawing.places
    if abs(b - a) < ROUNDING:
        raise SketchError("the side has no length yet")
    way = (b - a) / abs(b - a)
    b = a + way * drawing.values.get("width", abs(b - a))
    off = (way.conjugate() * (through - a)).imag
    through = a + 1j * way * math.copysign(drawing.values.get("height", abs(off)), off)
    sides = shapes.tilted_rectangle(draft, xy(a), xy(b), xy(through))
    _dimension(draft, drawing, "width", "distance", sides[0])
    _dimension(draft, drawing, "height", "distance", sides[1])
    return [*draft.entities[sides[0]].points, None]


def _arc_slot(draft: SketchBuilder, drawing: Drawing) -> Points:
    centre, start, toward, edge = drawing.places
    if min(abs(start - centre), abs(toward - centre)) < ROUNDING:
        raise SketchError("the slot has no length yet")
    turn = cmath.phase((toward - centre) / (start - centre)) % (2 * math.pi)
    radius = drawing.values.get("width", 2 * abs(abs(edge - centre) - abs(start - centre))) / 2
    if radius < ROUNDING:
        raise SketchError("the slot has no width yet")
    made = shapes.arc_slot(draft, xy(centre), xy(start), turn, radius)
    if drawing.texts.get("width"):
        draft.add("radius", made[1], value=f"({drawing.texts['width']}) / 2")
    middle, first, last = (draft.entities[made[k]].points[0] for k in (0, 3, 1))
    return [middle, first, last, None]


def _tangent_arc(draft: SketchBuilder, drawing: Drawing) -> Points:
    """From the end of a line or arc that the first click stands on."""
    at, to = drawing.places
    ends = [
        (abs(complex(p.x, p.y) - at), name, e.id)
        for e in draft.entities.values()
        if e.kind in ("line", "arc") and not e.construction
        for name in (e.points if e.kind == "line" else e.points[1:])
        if isinstance(p := draft.entities[name], Point)
    ]
    if not ends or min(ends)[0] > LINEAR:
        raise SketchError("the arc starts at the end of a line or an arc", hint="click on such an end first")
    _, name, curve = min(ends)
    arc = shapes.tangent_arc(draft, name, curve, xy(to))
    _dimension(draft, drawing, "radius", "radius", arc)
    last = min(draft.entities[arc].points[1:], key=lambda p: abs(complex(*_place(draft, p)) - to))
    return [None, last]


def _place(draft: SketchBuilder, name: str) -> tuple[float, float]:
    p = draft.entities[name]
    assert isinstance(p, Point)
    return p.x, p.y


def _text(draft: SketchBuilder, drawing: Drawing) -> Points:
    from lathed_solid.sketch.lettering import check_text

    at = draft.point(*xy(drawing.places[0]))
    height, along = drawing.values.get("height", 5.0), drawing.along or None
    draft.text(at, check_text(drawing.text), height, along=along, centred=drawing.centred)
    return [at]


TOOLS: tuple[Tool, ...] = (
    Tool("line", "line", "L", ("start of the line", "end of the line"), _line,
         (("length", "length"), ("angle", "angle")), chain=True),
    Tool("rectangle", "rectangle", "R", ("one corner", "the opposite corner"), _rectangle,
         (("width", "length"), ("height", "length"))),
    Tool("centre-rectangle", "centred rectangle", "Shift+R", ("the centre", "a corner"), _centre_rectangle,
         (("width", "length"), ("height", "length"))),
    Tool("based-rectangle", "rectangle on its middle", "H", ("the middle of a level side", "a corner across"),
         _based_rectangle, (("width", "length"), ("height", "length"))),
    Tool("circle", "circle", "C", ("the centre", "a place on the rim"), _circle, (("⌀", "length"),)),
    Tool("arc", "arc", "A", ("one end", "the other end", "a place it passes"), _arc, (("radius", "length"),)),
    Tool("centre-arc", "arc about", "Shift+A", ("the centre", "the start", "where it ends, counter-clockwise"),
         _centre_arc, (("radius", "length"),)),
    Tool("slot", "slot", "O", ("one centre", "the other centre", "its edge"), _slot,
         (("centres", "length"), ("width", "length"))),
    Tool("polygon", "polygon", "G", ("the centre", "the middle of a flat"), _polygon, (("across flats", "length"),)),
    Tool("ellipse", "ellipse", "E", ("the centre", "an end of the long axis", "its edge"), _ellipse),
    Tool("spline", "spline", "S", ("first point", "next point; Enter ends it"), _spline),
    Tool("point", "point", "P", ("where",), _point),
    Tool("tilted-rectangle", "rectangle on a side", "Shift+L", ("one end of the side", "its other end", "how high"),
         _tilted_rectangle, (("width", "length"), ("height", "length"))),
    Tool("arc-slot", "slot along an arc", "Shift+O", ("the centre of the arc", "where the slot starts",
         "where it ends, counter-clockwise", "its edge"), _arc_slot, (("width", "length"),)),
    Tool("tangent-arc", "smooth arc", "T", ("an end of a line or an arc", "where the arc ends"), _tangent_arc,
         (("radius", "length"),)),
    Tool("text", "text…", "Shift+T", ("where the baseline begins",), _text, (("height", "length"),)),
)  # fmt: skip

BY_ID = {t.id: t for t in TOOLS}
