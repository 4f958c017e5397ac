"""A DXF drawing: its picture, its dimensions with exact values, its texts. Only the worker imports this.

A dimension entity carries its own value: what is measured times the style's factor (``dimlfac``), the style's
tolerance (``dimtol``: +dimtp / -dimtm) or limits (``dimlim``), and an overriding text in which ``<>`` stands for the
value. Blocks are counted out before anything is drawn: a few nested ones can stand for millions of entities.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import ezdxf
from ezdxf.addons.drawing import Frontend, RenderContext
from ezdxf.addons.drawing.backend import BackendInterface
from ezdxf.addons.drawing.config import BackgroundPolicy, ColorPolicy, Configuration
from ezdxf.tools.text import fast_plain_mtext, plain_text
from PIL import Image, ImageChops, ImageDraw

from lathed_solid.quantity.tolerances import NOTHING, RELATIVE_READ
from lathed_solid.quantity.units import MM_PER_INCH, MM_PER_POINT
from lathed_solid.sheets.texts import TextLine, sorted_lines

MOST_ENTITIES = 200_000
#: pixels across; drawn at twice that and reduced, which smooths
ACROSS, FINE = 2400, 2
MARGIN = 0.02
UNITS = {1: ("in", MM_PER_INCH), 4: ("mm", 1.0), 5: ("mm", 10.0), 6: ("mm", 1000.0), 2: ("in", 12 * MM_PER_INCH)}
SIGNS = {"%%c": "⌀", "%%C": "⌀", "%%d": "°", "%%D": "°", "%%p": "±", "%%P": "±", "Ø": "⌀", "ø": "⌀"}
LINEAR, ALIGNED, ANGULAR, DIAMETER, RADIUS, ANGULAR3 = range(6)
#: a drawing of no width or height is this wide or high, in its own units
LEAST = 1e-6

Note = dict[str, Any]


class TooMuch(ValueError):
    """A drawing whose blocks stand for more than can be shown."""


@dataclass(frozen=True)
class Drawing:
    """A document with its model space and all that is drawn there; ``factor``: mm to its own unit, in which the page's
    low left corner, width and height are.
    """

    document: Any
    space: Any
    unit: str
    factor: float
    lines: _Lines
    low: tuple[float, float]
    width: float
    height: float


def opened(path: Path) -> Drawing:
    """A drawing, counted out before it is drawn. Raises TooMuch, and what a damaged file raises in its reader."""
    document = ezdxf.readfile(path)
    space = document.modelspace()
    _count_entities(document, space)
    unit, factor = UNITS.get(int(document.header.get("$INSUNITS", 4)), ("mm", 1.0))
    return Drawing(document, space, unit, factor, *_framed(document, space))


def read(drawing: Drawing) -> tuple[dict[str, Any], Any]:
    """The page: size in mm, unit, notes with their places; and its picture."""
    space, factor, lines = drawing.space, drawing.factor, drawing.lines
    low, width, height = drawing.low, drawing.width, drawing.height
    k = factor / MM_PER_POINT
    rules = [(a * k - low[0] * k, b * k - low[1] * k, c * k - low[0] * k, d * k - low[1] * k)
             for a, b, c, d in lines.rules()]  # fmt: skip
    texts, furniture = sorted_lines(_texts(space, low, k), rules, width * k, height * k)
    notes: list[Note] = [
        {"text": t.text, "angle": t.angle, "box": [t.box[0] / width / k, 1 - t.box[3] / height / k,
                                                   t.box[2] / width / k, 1 - t.box[1] / height / k]}
        for t in texts
    ]  # fmt: skip
    for text, x, y, size, angle, span, measured in [*_dimensions(space), *_paragraphs(space)]:
        reach, tall = 0.32 * size * max(len(k) for k in text.split("\n")), 0.6 * size
        a = math.radians(angle)
        dx, dy = (
            abs(reach * math.cos(a)) + abs(tall * math.sin(a)),
            abs(reach * math.sin(a)) + abs(tall * math.cos(a)),
        )
        left, top = (x - dx - low[0]) / width, 1 - (y + dy - low[1]) / height
        right, bottom = (x + dx - low[0]) / width, 1 - (y - dy - low[1]) / height
        note: Note = {"text": text, "angle": round(angle) % 360, "box": [left, top, right, bottom]}
        notes.append(note | ({"span": span} if span else {}) | ({"measured_mm": measured * factor} if measured else {}))
    circles = [((e.dxf.center.x - low[0]) * factor, (e.dxf.center.y - low[1]) * factor, e.dxf.radius * factor)
               for e in space.query("CIRCLE")]  # fmt: skip
    page = {"pages": 1, "width_mm": width * factor, "height_mm": height * factor, "notes": notes, "unit": drawing.unit,
            "furniture": furniture, "circles": circles}  # fmt: skip
    return page, lines.paint(low, width, height)


def _framed(document: Any, space: Any) -> tuple[_Lines, tuple[float, float], float, float]:
    """All that is drawn, and the page about it: its low left corner, width and height in the drawing's units."""
    lines = _Lines()
    config = Configuration(color_policy=ColorPolicy.BLACK, background_policy=BackgroundPolicy.WHITE)
    Frontend(RenderContext(document), lines, config=config).draw_layout(space)
    low, high = lines.bounds()
    width, height = (max(b - a, LEAST) for a, b in zip(low, high, strict=True))
    margin = MARGIN * max(width, height)
    return lines, (low[0] - margin, low[1] - margin), width + 2 * margin, height + 2 * margin


def _count_entities(document: Any, space: Any) -> None:
    """Raise TooMuch when the blocks unfold to too many entities."""
    known: dict[str, int] = {}

    def size(name: str, deep: int) -> int:
        if deep > 20:
            raise TooMuch("its blocks are nested too deeply")
        if name not in known:
            block = document.blocks.get(name)
            total = 0
            for e in block or ():
                total += size(e.dxf.name, deep + 1) * _copies(e) if e.dxftype() == "INSERT" else 1
                if total > MOST_ENTITIES:
                    raise TooMuch(f"its blocks unfold to more than {MOST_ENTITIES} entities")
            known[name] = total
        return known[name]

    total = 0
    for e in space:
        total += size(e.dxf.name, 1) * _copies(e) if e.dxftype() == "INSERT" else 1
        if total > MOST_ENTITIES:
            raise TooMuch(f"it has more than {MOST_ENTITIES} entities")


def _copies(insert: Any) -> int:
    return max(1, int(insert.dxf.get("row_count", 1))) * max(1, int(insert.dxf.get("column_count", 1)))


def _plain(text: str) -> str:
    for sign, shown in SIGNS.items():
        text = text.replace(sign, shown)
    return text.strip()


def _number(value: float, places: int, zeros: int = 8) -> str:
    """A number as the style writes it; ``zeros`` (dimzin): 4 leaves out the leading zero, 8 the trailing ones."""
    text = f"{value:.{max(0, min(places, 6))}f}"
    if zeros & 8 and "." in text:
        text = text.rstrip("0").rstrip(".") or "0"
    return text[1:] if zeros & 4 and text.startswith("0.") else text


Found = tuple[str, float, float, float, float, "list[Any] | None", float]


def _span(e: Any, kind: int, factor: float) -> list[Any] | None:
    """A level or upright dimension runs between the places of its definition points: ["x", 12.5, 40.0, 1.0], as large
    as the last number says.
    """
    if kind not in (LINEAR, ALIGNED):
        return None
    a, b = e.dxf.get("defpoint2"), e.dxf.get("defpoint3")
    if a is None or b is None:
        return None
    turn = math.radians(float(e.dxf.get("angle", 0.0))) if kind == LINEAR else math.atan2(b.y - a.y, b.x - a.x)
    if abs(math.sin(turn)) < RELATIVE_READ:
        return ["x", *sorted((round(float(a.x) * factor, 3), round(float(b.x) * factor, 3))), 1 / factor]
    if abs(math.cos(turn)) < RELATIVE_READ:
        return ["y", *sorted((round(float(a.y) * factor, 3), round(float(b.y) * factor, 3))), 1 / factor]
    return None


def _dimensions(space: Any) -> list[Found]:
    """(text, x, y, height, angle, span, what it measures or 0) of every dimension."""
    out = []
    for e in space.query("DIMENSION"):
        style = e.override()
        measured = e.get_measurement()
        if not isinstance(measured, (int, float)) or not math.isfinite(measured):
            continue
        kind = e.dimtype & 7
        angular = kind in (ANGULAR, ANGULAR3)
        value = float(measured) if angular else float(measured) * (style.get("dimlfac", 1.0) or 1.0)
        text = _dimension_text(value, kind, style, e.dxf.get("text", ""))
        at = e.dxf.get("text_midpoint") or e.dxf.get("defpoint")
        size = (style.get("dimtxt", 2.5) or 2.5) * (style.get("dimscale", 1.0) or 1.0)
        if at is not None and text:
            angle = float(e.dxf.get("angle", 0.0)) if kind in (LINEAR, ALIGNED) else 0.0
            own = value if kind in (LINEAR, ALIGNED, DIAMETER) else 0.0
            factor = style.get("dimlfac", 1.0) or 1.0
            out.append((text, at.x, at.y, size, angle, _span(e, kind, factor), own))
    return out


def _dimension_text(value: float, kind: int, style: Any, written: str) -> str:
    places = int(style.get("dimdec", 4) or 0)
    sign = {DIAMETER: "⌀", RADIUS: "R"}.get(kind, "")
    after = "°" if kind in (ANGULAR, ANGULAR3) else ""
    zeros = int(style.get("dimzin", 8) or 0)
    shown = f"{sign}{_number(value, places, zeros)}{after}"
    upper, lower = (float(style.get(k, 0.0) or 0.0) for k in ("dimtp", "dimtm"))
    if style.get("dimlim", 0):
        shown = f"{sign}{_number(value + upper, places, zeros)}/{_number(value - lower, places, zeros)}"
    elif style.get("dimtol", 0) and (upper or lower):
        if abs(upper - lower) < NOTHING:
            shown += f" ±{_number(upper, 6)}{after}"
        else:
            signs = "+" if upper >= 0 else "-", "-" if lower >= 0 else "+"
            shown += f" {signs[0]}{_number(abs(upper), 6)}/{signs[1]}{_number(abs(lower), 6)}"
    if not written.strip():
        return shown
    return _plain(str(fast_plain_mtext(written))).replace("<>", shown)


def _texts(space: Any, low: tuple[float, float], k: float) -> list[TextLine]:
    """Single lines of text, in points of the page; a letter's height is 0.72 of its size."""
    out = []
    for e in space.query("TEXT"):
        size, text = float(e.dxf.height) * k / 0.72, _plain(plain_text(e.dxf.text))
        angle = round(float(e.dxf.get("rotation", 0.0))) % 360
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        x, y = (e.dxf.insert.x - low[0]) * k, (e.dxf.insert.y - low[1]) * k
        if text and math.isfinite(x) and math.isfinite(y) and size > 0:
            u = x * c + y * s
            out.append(TextLine(text, angle, size, u, y * c - x * s, u + 0.46 * size * len(text)))
    return out


def _paragraphs(space: Any) -> list[Found]:
    out: list[Found] = []
    for e in space.query("MTEXT"):
        size, text = float(e.dxf.char_height), _plain(str(fast_plain_mtext(e.text)))
        rows = text.split("\n")
        at = e.dxf.insert
        out.append(
            (text, at.x + 0.32 * size * max(map(len, rows)), at.y - 0.8 * size * len(rows), size, 0.0, None, 0.0)
        )
    return [t for t in out if t[0]]


def _fill(image: Any, outlines: list[list[tuple[float, float]]]) -> None:
    """Outlines filled together, even and odd."""
    xs = [p[0] for run in outlines for p in run]
    ys = [p[1] for run in outlines for p in run]
    if not xs:
        return
    left, top = math.floor(min(xs)), math.floor(min(ys))
    size = (math.ceil(max(xs)) - left + 1, math.ceil(max(ys)) - top + 1)
    if size[0] > image.width * 2 or size[1] > image.height * 2:
        return
    mask = Image.new("1", size)
    for run in outlines:
        one = Image.new("1", size)
        ImageDraw.Draw(one).polygon([(x - left, y - top) for x, y in run], fill=1)
        mask = ImageChops.logical_xor(mask, one)
    image.paste(0, (left, top), mask)


class _Lines(BackendInterface):
    """Takes what the frontend draws as polylines and filled polygons."""

    def __init__(self) -> None:
        self.lines: list[list[tuple[float, float]]] = []
        #: outlines that are filled together, even and odd: a letter and its holes
        self.fills: list[list[list[tuple[float, float]]]] = []

    def bounds(self) -> tuple[tuple[float, float], tuple[float, float]]:
        runs = [*self.lines, *(outline for group in self.fills for outline in group)]
        points = [p for run in runs for p in run if math.isfinite(p[0]) and math.isfinite(p[1])]
        if not points:
            raise ValueError("the drawing is empty")
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return (min(xs), min(ys)), (max(xs), max(ys))

    def rules(self) -> list[tuple[float, float, float, float]]:
        """Level and upright strokes: (left, low, right, high)."""
        out = []
        for run in self.lines:
            for (x0, y0), (x1, y1) in itertools.pairwise(run):
                if (x0 == x1) != (y0 == y1):
                    out.append((min(x0, x1), min(y0, y1), max(x0, x1), max(y0, y1)))
        return out

    def paint(self, low: tuple[float, float], width: float, height: float) -> Any:
        scale = ACROSS * FINE / max(width, height)
        size = (max(8, round(width * scale)), max(8, round(height * scale)))
        image = Image.new("L", size, 255)
        pen = ImageDraw.Draw(image)

        def at(p: tuple[float, float]) -> tuple[float, float]:
            return (p[0] - low[0]) * scale, size[1] - (p[1] - low[1]) * scale

        for group in self.fills:
            _fill(image, [[at(p) for p in run] for run in group if len(run) > 2])
        for run in self.lines:
            if len(run) > 1:
                pen.line([at(p) for p in run], fill=0, width=2 * FINE)
        return image.resize((size[0] // FINE, size[1] // FINE), Image.Resampling.LANCZOS)

    def draw_point(self, pos: Any, properties: Any) -> None:
        self.lines.append([(pos.x, pos.y), (pos.x, pos.y)])

    def draw_line(self, start: Any, end: Any, properties: Any) -> None:
        self.lines.append([(start.x, start.y), (end.x, end.y)])

    def draw_solid_lines(self, lines: Any, properties: Any) -> None:
        self.lines += [[(a.x, a.y), (b.x, b.y)] for a, b in lines]

    def draw_path(self, path: Any, properties: Any) -> None:
        for part in path.to_path().sub_paths() if hasattr(path, "to_path") else [path]:
            self.lines.append([(v.x, v.y) for v in part.flattening(0.02, 8)])

    def draw_filled_paths(self, paths: Any, properties: Any) -> None:
        outlines = [
            [(v.x, v.y) for v in part.flattening(0.02, 8)]
            for path in paths
            for part in (path.to_path().sub_paths() if hasattr(path, "to_path") else [path])
        ]
        self.fills.append(outlines)

    def draw_filled_polygon(self, points: Any, properties: Any) -> None:
        self.fills.append([[(v.x, v.y) for v in points.vertices()]])

    def draw_image(self, image_data: Any, properties: Any) -> None:
        """Pictures within a drawing are left out."""

    def configure(self, config: Any) -> None:
        """Nothing to set."""

    def enter_entity(self, entity: Any, properties: Any) -> None:
        """Not needed."""

    def exit_entity(self, entity: Any) -> None:
        """Not needed."""

    def set_background(self, color: str) -> None:
        """Always paper."""

    def clear(self) -> None:
        self.lines, self.fills = [], []

    def finalize(self) -> None:
        """Nothing is left over."""
