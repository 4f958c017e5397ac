"""A drawing as a value, and two writers for it: PDF (reportlab) and DXF (ezdxf), with real dimension entities.

A sheet is drawn in millimetres of paper, its views in the part's own unit at a scale. A dimension keeps its balloon
and, where it has one, its span (direction, from, to, alike), so that the demo parts can lay their callouts on it.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import ezdxf
from ezdxf.enums import TextEntityAlignment
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

ROOT = Path(__file__).parent.parent
FONTS = ROOT / "src" / "lathed_solid" / "assets" / "fonts"
LETTERS, SIZE = "drawing", 11 / mm
POINT = Any
#: what a dimension's own value and tolerance look like
SPREAD = re.compile(r"(?P<value>[\d.]+)(?: ±(?P<both>[\d.]+)| \+(?P<up>[\d.]+)/-(?P<down>[\d.]+))?$")


#: widths that a DXF can tell, 1/100 mm
WEIGHTS = (13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70)


@dataclass(frozen=True)
class Text:
    x: float
    y: float
    words: str
    size: float = SIZE
    turn: float = 0.0
    balloon: tuple[int, ...] = ()


@dataclass(frozen=True)
class Run:
    """Lines through points, or an arc (centre, radius, from, to in degrees)."""

    points: tuple[tuple[float, float], ...]
    width: float = 0.35
    dash: tuple[float, ...] = ()
    arc: tuple[float, float, float, float, float] | None = None


@dataclass(frozen=True)
class Dimension:
    """``ends``: the two places measured; ``line``: where its line lies (y of a level one, x of an upright one)."""

    ends: tuple[tuple[float, float], tuple[float, float]]
    line: float
    upright: bool
    text: Text
    span: tuple[str, str, str, bool] | None = None


@dataclass
class View:
    """Draws in the part's unit; ``k`` is mm of paper for one of it."""

    sheet: Sheet
    ox: float
    oy: float
    k: float

    def p(self, x: float, y: float) -> tuple[float, float]:
        return self.ox + x * self.k, self.oy + y * self.k

    def line(self, *points: tuple[float, float], width: float = 0.42, dash: tuple[float, ...] = ()) -> None:
        self.sheet.runs.append(Run(tuple(self.p(*q) for q in points), width, dash))

    def axis(self, *points: tuple[float, float]) -> None:
        self.line(*points, width=0.15, dash=(3.2, 1.0, 0.7, 1.0))

    def circle(self, x: float, y: float, r: float, width: float = 0.35) -> None:
        self.arc(x, y, r, 0, 360, width)

    def arc(self, x: float, y: float, r: float, start: float, end: float, width: float = 0.35) -> None:
        px, py = self.p(x, y)
        self.sheet.runs.append(Run((), width, (), (px, py, r * self.k, start, end)))

    def level(self, x0: float, x1: float, y: float, words: str, balloon: int = 0, span: Any = None,
              at: tuple[float, float] | None = None) -> None:  # fmt: skip
        """A dimension along the paper; ``at``: heights of the two places measured."""
        a, b = at or (y, y)
        tx, ty = self.p((x0 + x1) / 2, y)
        half = 0.09 * SIZE * 2.8 * len(words)
        if abs(x1 - x0) * self.k < 2 * half:  # no room between the ends: beside them
            tx = self.p(max(x0, x1), y)[0] + 4 + half
        text = Text(tx - half, ty + 1.06, words, balloon=(balloon,) if balloon else ())
        self.sheet.dimensions.append(Dimension((self.p(x0, a), self.p(x1, b)), ty, False, text, span))

    def upright(self, y0: float, y1: float, x: float, words: str, balloon: int = 0, span: Any = None,
                at: tuple[float, float] | None = None) -> None:  # fmt: skip
        """A dimension up the paper, its text turned along it."""
        a, b = at or (x, x)
        tx, ty = self.p(x, (y0 + y1) / 2)
        text = Text(
            tx - 1.06, ty - 0.09 * SIZE * 2.8 * len(words), words, turn=90, balloon=(balloon,) if balloon else ()
        )
        self.sheet.dimensions.append(Dimension((self.p(a, y0), self.p(b, y1)), tx, True, text, span))

    def note(self, x: float, y: float, tx: float, ty: float, *lines: str, balloons: tuple[int, ...] = ()) -> None:
        """A leader from a place to a note of some lines; ``balloons``: one for each line (0: none)."""
        shelf = 3.8 / self.k
        way = shelf if tx >= x else -shelf
        self.line((x, y), (tx, ty), (tx + way, ty), width=0.18)
        px, py = self.p(tx + shelf * 1.3, ty)
        if way < 0:
            px = self.p(tx - shelf * 1.3, ty)[0] - 0.62 * SIZE * max(map(len, lines))
        for n, words in enumerate(lines):
            balloon = balloons[n : n + 1]
            self.sheet.texts.append(Text(px, py - 1.4 - n * 1.25 * SIZE, words,
                                         balloon=balloon if balloon and balloon[0] else ()))  # fmt: skip


@dataclass
class Sheet:
    """One sheet, landscape; ``rows``: the title block from below, (left, right)."""

    title: str
    number: str
    rows: tuple[tuple[str, str], ...]
    unit: str = "mm"
    scale: float = 1.0
    width: float = 420.0
    height: float = 297.0
    runs: list[Run] = field(default_factory=list)
    texts: list[Text] = field(default_factory=list)
    dimensions: list[Dimension] = field(default_factory=list)

    def __post_init__(self) -> None:
        self._frame()

    def view(self, x: float, y: float) -> View:
        return View(self, x, y, self.scale * (25.4 if self.unit == "in" else 1.0))

    def text(self, x: float, y: float, words: str, size: float = SIZE, balloon: int = 0) -> None:
        self.texts.append(Text(x, y, words, size, balloon=(balloon,) if balloon else ()))

    def _box(self, x: float, y: float, w: float, h: float, width: float) -> None:
        self.runs.append(Run(((x, y), (x + w, y), (x + w, y + h), (x, y + h), (x, y)), width))

    def _frame(self) -> None:
        """Border with its zones (ISO 5457: fields of 50 mm from the middle, letters from the top), title block."""
        w, h = self.width, self.height
        self._box(10, 10, w - 20, h - 20, 0.5)
        across, down = (2 * max(1, round(s / 100)) for s in (w, h))
        for n in range(across):
            x = w / 2 + 50 * (n + 0.5 - across / 2)
            for y in (4.2, h - 7.6):
                self.text(x - 1, y, str(n + 1), 3.2)
        for n in range(down):
            y = h / 2 - 50 * (n + 0.5 - down / 2)
            for x in (4.2, w - 7.0):
                self.text(x, y - 1.2, "ABCDEFGHJKLMNPQRSTUVWXYZ"[n], 3.2)
        x, y = w - 190, 10.0
        for n, (left, right) in enumerate((("Sluice winch", self.title), *self.rows, ("drawing", self.number))):
            self._box(x, y + n * 9, 60, 9, 0.18)
            self._box(x + 60, y + n * 9, 120, 9, 0.18)
            self.text(x + 2, y + n * 9 + 3, left, 9 / mm)
            self.text(x + 62, y + n * 9 + 3, right, 9 / mm)

    # what the demo parts need ------------------------------------------------------------------
    def places(self) -> dict[str, Any]:
        """Balloon -> share of the page at which it stands; balloon -> its span."""
        at: dict[str, tuple[float, float]] = {}
        spans: dict[str, Any] = {}
        for text in [*self.texts, *(d.text for d in self.dimensions)]:
            for balloon in text.balloon:
                size = text.size
                left = text.x if not text.turn else text.x - 0.8 * size
                middle = text.y + 0.28 * size * (len(text.words) if text.turn else 1)
                at[str(balloon)] = (round(left / self.width - 0.018, 4), round(1 - middle / self.height, 4))
        for d in self.dimensions:
            if d.span is not None and d.text.balloon:
                spans[str(d.text.balloon[0])] = list(d.span)
        return {"places": at, "spans": spans}

    # PDF ---------------------------------------------------------------------------------------
    def pdf(self, path: Path) -> None:
        if LETTERS not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(LETTERS, str(next(FONTS.glob("osifont*.ttf")))))
        c = Canvas(str(path), pagesize=(self.width * mm, self.height * mm), invariant=1)
        c.setTitle(self.title)
        for run in self.runs:
            self._pdf_run(c, run)
        for d in self.dimensions:
            for run in d_lines(d):
                self._pdf_run(c, run)
            for tip in d_arrows(d):
                path_ = c.beginPath()
                path_.moveTo(*(v * mm for v in tip[0]))
                for q in tip[1:]:
                    path_.lineTo(*(v * mm for v in q))
                path_.close()
                c.drawPath(path_, fill=1)
        for t in [*self.texts, *(d.text for d in self.dimensions)]:
            c.saveState()
            c.translate(t.x * mm, t.y * mm)
            c.rotate(t.turn)
            c.setFont(LETTERS, t.size * mm)
            c.drawString(0, 0, t.words)
            c.restoreState()
        c.showPage()
        c.save()

    @staticmethod
    def _pdf_run(c: Any, run: Run) -> None:
        c.setLineWidth(run.width * mm)
        c.setDash(*([[v * mm for v in run.dash]] if run.dash else []))
        if run.arc is not None:
            x, y, r, start, end = (v for v in run.arc)
            if end - start >= 360:
                c.circle(x * mm, y * mm, r * mm)
            else:
                c.arc((x - r) * mm, (y - r) * mm, (x + r) * mm, (y + r) * mm, start, end - start)
        else:
            path = c.beginPath()
            path.moveTo(*(v * mm for v in run.points[0]))
            for q in run.points[1:]:
                path.lineTo(*(v * mm for v in q))
            c.drawPath(path)
        c.setDash()

    # DXF ---------------------------------------------------------------------------------------
    def dxf(self, path: Path) -> None:
        """At full size in the part's unit, so that dimensions measure themselves."""
        f = 1 / self.view(0, 0).k
        document = ezdxf.new(setup=True)
        document.header["$INSUNITS"] = 1 if self.unit == "in" else 4
        for tag in ("$TDCREATE", "$TDUPDATE"):
            document.header[tag] = 2460000.0
        space = document.modelspace()
        for run in self.runs:
            line: dict[str, Any] = {"lineweight": min(WEIGHTS, key=lambda w: abs(w - 100 * run.width))}
            if run.arc is not None:
                x, y, r, start, end = run.arc
                if end - start >= 360:
                    space.add_circle((x * f, y * f), r * f, dxfattribs=line)
                else:
                    space.add_arc((x * f, y * f), r * f, start, end, dxfattribs=line)
            else:
                line |= {"linetype": "CENTER"} if run.dash else {}
                space.add_lwpolyline([(x * f, y * f) for x, y in run.points], dxfattribs=line)
        for t in self.texts:
            words = t.words.replace("⌀", "%%c").replace("°", "%%d").replace("±", "%%p")
            text = space.add_text(words, height=t.size * f * 0.72, rotation=t.turn)
            text.set_placement((t.x * f, t.y * f), align=TextEntityAlignment.LEFT)
        for d in self.dimensions:
            self._dxf_dimension(space, d, f)
        document.saveas(path)

    def _dxf_dimension(self, space: Any, d: Dimension, f: float) -> None:
        words = d.text.words
        sign = "⌀" if words.startswith("⌀") else ""
        told = SPREAD.fullmatch(words.removeprefix("⌀"))
        style: dict[str, Any] = {"dimtxt": SIZE * f * 0.72, "dimasz": 2.8 * f, "dimexe": f, "dimexo": 0.6 * f,
                                 "dimgap": 0.7 * f, "dimzin": 4 if self.unit == "in" else 8, "dimtad": 1}  # fmt: skip
        text = words.replace("⌀", "%%c").replace("°", "%%d")
        (x0, y0), (x1, y1) = d.ends
        measured = abs(y1 - y0 if d.upright else x1 - x0) * f
        if told is not None and abs(float(told["value"]) - measured) < 1e-6:  # else it stands there by mistake
            places = len(told["value"].partition(".")[2])
            style["dimdec"] = places
            up, down = told["up"] or told["both"], told["down"] or told["both"]
            if up is not None:
                style |= {"dimtol": 1, "dimtp": float(up), "dimtm": float(down), "dimtdec": len(up.partition(".")[2])}
            text = "%%c<>" if sign else "<>"
        base = (d.line * f, y0 * f) if d.upright else (x0 * f, d.line * f)
        space.add_linear_dim(base=base, p1=(x0 * f, y0 * f), p2=(x1 * f, y1 * f), angle=90 if d.upright else 0,
                             dimstyle="Standard", override=style, text=text).render()  # fmt: skip


def d_lines(d: Dimension) -> list[Run]:
    """The dimension's line, and the two that lead to the places measured."""
    (x0, y0), (x1, y1) = d.ends
    if d.upright:
        runs = [((d.line, y0), (d.line, y1))]
        for x, y in d.ends:
            if abs(x - d.line) > 1:
                runs.append(((x + math.copysign(0.6, d.line - x), y), (d.line + math.copysign(1.0, d.line - x), y)))
    else:
        runs = [((x0, d.line), (x1, d.line))]
        for x, y in d.ends:
            if abs(y - d.line) > 1:
                runs.append(((x, y + math.copysign(0.6, d.line - y)), (x, d.line + math.copysign(1.0, d.line - y))))
    return [Run(points, 0.18) for points in runs]


def d_arrows(d: Dimension) -> list[list[tuple[float, float]]]:
    """Two filled arrowheads, outside where there is no room."""
    (x0, y0), (x1, y1) = d.ends
    a, b = (y0, y1) if d.upright else (x0, x1)
    way = 1 if b > a else -1
    if abs(b - a) < 7:
        way = -way
    out = []
    for at, s in ((a, way), (b, -way)):
        tips = [(at, 0.0), (at + 2.8 * s, 0.56), (at + 2.8 * s, -0.56)]
        out.append([(d.line + v, u) if d.upright else (u, d.line + v) for u, v in tips])
    return out
