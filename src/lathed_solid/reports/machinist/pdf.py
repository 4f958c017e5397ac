"""The machinist's sheet on paper: a head with part zero and stock, a view of it, then the tables."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from textwrap import wrap

from lathed_solid.quantity.formatting import Spoken, as_it_is, plural
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.reports.machinist.model import HoleRow, MachinistSheet
from lathed_solid.reports.pen import BODY, DRAWING, INK, LINE, MM, OUT_TINT, QUIET, TINT, Pen, register_fonts

WIDTH, HEIGHT, EDGE = 210.0, 297.0, 14.0
ROW = 5.6
CAUTIONS = (
    "Chuck key out before the spindle starts; guards closed; stock clamped, long bars supported. No gloves at a "
    "turning spindle. Measure with it stopped.",
    "A model is no release: who cuts answers for speeds, feeds, clamping and the sizes that matter.",
)


def machinist_pdf(sheet: MachinistSheet, spoken: Spoken = as_it_is) -> bytes:
    """Portrait A4, as many pages as it needs; ``spoken``: its words."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    c = Canvas(out, pagesize=(WIDTH * MM, HEIGHT * MM), invariant=1)
    c.setTitle(spoken(f"Machinist's sheet: {sheet.name}"))
    page = _Page(c, sheet, spoken)
    page.begin()
    page.head()
    page.settings()
    page.holes()
    page.stations()
    page.tools()
    page.cannot()
    page.instructions()
    page.cautions()
    c.showPage()
    c.save()
    return out.getvalue()


class _Page(Pen):
    """Draws from the top down, in mm; a page that is full is followed by another."""

    def __init__(self, canvas: object, sheet: MachinistSheet, spoken: Spoken) -> None:
        from lathed_solid.reports.machinist.saying import sayer

        super().__init__(canvas, spoken)
        self.sheet, self.y, self.number = sheet, 0.0, 0
        self.say = sayer("in" if sheet.unit == "in" else "mm")

    def begin(self) -> None:
        self.number += 1
        top = HEIGHT - EDGE
        self.text(EDGE, top - 3, "MACHINIST'S SHEET", 8, colour=QUIET)
        self.fitted(EDGE, top - 10, self.sheet.name, 110, 16, BODY, raw=True)
        facts = f"{self.sheet.material}  ·  unit {self.sheet.unit}"
        self.text(WIDTH - EDGE, top - 10, facts, 9, colour=QUIET, right=True)
        self.text(WIDTH - EDGE, top - 3, f"page {self.number}", 8, colour=QUIET, right=True)
        self.rule(EDGE, top - 13.5, WIDTH - EDGE, top - 13.5, 0.8, INK)
        self.y = top - 18
        if self.sheet.status:
            self._band(self.sheet.status, OUT_TINT)

    def _room(self, height: float) -> None:
        if self.y - height < EDGE:
            self.c.showPage()
            self.begin()

    def _band(self, words: str, tint: str) -> None:
        self.c.setFillColor(tint)
        self.c.rect(EDGE * MM, (self.y - 4) * MM, (WIDTH - 2 * EDGE) * MM, 6.4 * MM, stroke=0, fill=1)
        self.text(EDGE + 2, self.y - 2, words, 9.5)
        self.y -= 9

    def _title(self, words: str) -> None:
        self._room(3 * ROW)
        self.y -= 3
        self.text(EDGE, self.y, words, 11)
        self.y -= 2
        self.rule(EDGE, self.y, WIDTH - EDGE, self.y, 0.6, INK)
        self.y -= 4.2

    def head(self) -> None:
        """Part zero shown, and the stock."""
        sheet, stock = self.sheet, self.sheet.stock
        self._picture(WIDTH - EDGE - 46, self.y - 38)
        room = WIDTH - 2 * EDGE - 52
        told, tell = self.spoken, self._number
        size = " x ".join(map(tell, stock.size))
        mark = "⌀" if stock.kind == "round bar" else ""
        grams = "mass not known" if stock.grams is None else f"{stock.grams / 1000:.3f} kg"
        lines = [("part zero", told(sheet.zero.words)),
                 ("finished size", " x ".join(map(tell, sheet.figures.size)) + f" {sheet.unit}"),
                 ("stock", f"{told(stock.kind)} {mark}{size} {sheet.unit}"),
                 ("stock's mass", f"{told(grams)}; {told(f'{stock.cut_away:.0%} of it is cut away')}"),
                 ("work", ", ".join(f"{len(rows)} {told(plural(len(rows), what), 'counted')}" for rows, what in (
                     (sheet.settings, "setting"), (sheet.holes, "hole"), (sheet.stations, "station"),
                     (sheet.tools, "tool")) if rows))]  # fmt: skip
        for label, words in lines:
            self.text(EDGE, self.y, label, 8, colour=QUIET)
            self.fitted(EDGE + 24, self.y, words, room - 24, 10, DRAWING, raw=True)
            self.y -= 7
        self.y -= 8

    def _number(self, mm: float) -> str:
        return self.spoken(self.say(mm))

    def _picture(self, x: float, y: float) -> None:
        """The finished box aslant, with zero and its three ways."""
        a, b, c = self.sheet.figures.size
        unit = 26 / max(a, b, c)

        def at(px: float, py: float, pz: float) -> tuple[float, float]:
            return x + 8 + unit * (0.8 * px + 0.42 * py), y + unit * (0.24 * py + 0.85 * pz) + 2

        corners = {(i, j, k): at(i * a, j * b, k * c) for i in (0, 1) for j in (0, 1) for k in (0, 1)}
        for p in corners:
            for axis in range(3):
                q = tuple(1 if n == axis else v for n, v in enumerate(p))
                if q != p:
                    self.rule(*corners[p], *corners[q], 0.5, QUIET)  # type: ignore[index]
        low = self.sheet.figures.low
        zero = (-low[0], -low[1], -low[2])
        zx, zy = at(*zero)
        for way, name in (((12 / unit, 0, 0), "X"), ((0, 12 / unit, 0), "Y"), ((0, 0, 10 / unit), "Z")):
            ex, ey = at(*(z + w for z, w in zip(zero, way, strict=True)))
            self.rule(zx, zy, ex, ey, 1.2, INK)
            self.text(ex + 0.8, ey + 0.4, name, 8, DRAWING)
        self.c.setFillColor(INK)
        self.c.circle(zx * MM, zy * MM, 1.1 * MM, fill=1)

    def settings(self) -> None:
        """Numbered, with how it is held and why in this order."""
        self._title("settings, in order")
        for n, s in enumerate(self.sheet.settings, 1):
            lines = wrap("; ".join(map(self.spoken, s.does)), 92)
            self._room(ROW * (len(lines) + 1) + 1)
            self.text(EDGE, self.y, f"{n}", 10)
            self.text(EDGE + 7, self.y, s.side, 10)
            for k, line in enumerate(lines):
                self.text(EDGE + 38, self.y - k * 4.4, line, 9, raw=True)
            self.y -= 4.4 * len(lines)
            held = f"{self.spoken('held', 'setting')} {self.spoken(s.held)}: {self.spoken(s.why)}"
            for line in wrap(_plain(held), 110):
                self.text(EDGE + 38, self.y, line, 8, colour=QUIET, raw=True)
                self.y -= 4.4
            self.y -= 1.2

    def holes(self) -> None:
        """The table, from zero."""
        if not self.sheet.holes:
            return
        heads = ("hole", "X", "Y", "Z", "side", "⌀", "deep", "thread", "entry, fit")
        stops = (0, 22, 42, 62, 66, 92, 107, 111, 138)
        self._table(f"holes, from part zero, {self.sheet.unit}", heads, stops, {1, 2, 3, 5, 6},
                    [self._hole(h) for h in self.sheet.holes])  # fmt: skip

    def _hole(self, h: HoleRow) -> tuple[str, ...]:
        deep = "through" if h.depth is None else self.say(h.depth)
        thread = h.thread + ("" if h.thread_depth is None else f" x {self.say(h.thread_depth)}")
        return (h.id, *map(self.say, h.at), h.side, self.say(h.diameter), deep, thread,
                ", ".join(filter(None, (h.entry, h.fit))))  # fmt: skip

    def stations(self) -> None:
        """In turning order."""
        if not self.sheet.stations:
            return
        rows = []
        for s in self.sheet.stations:
            alike = math.isclose(s.first, s.last, abs_tol=ROUNDING)
            wide = self.say(s.first) if alike else self.span(self.say(s.first), self.say(s.last))
            rows.append((s.id, s.end, "inside" if s.inner else "outside", self.say(s.start), self.say(s.stop),
                         self.say(s.stop - s.start), wide, s.thread))  # fmt: skip
        heads = ("station", "from the", "", "from", "to", "length", "⌀", "thread")
        self._table(f"stations in turning order, lengths from part zero, {self.sheet.unit}", heads,
                    (0, 16, 36, 68, 86, 104, 110, 146), {3, 4, 5}, rows)  # fmt: skip

    def tools(self) -> None:
        """What has to be at hand."""
        rows = [(t.name, t.use, t.remark) for t in self.sheet.tools]
        self._table("tools", ("tool", "for", "remark"), (0, 66, 130), set(), rows)

    def cannot(self) -> None:
        """What cannot be made as drawn, and what needs care."""
        bad = [t for t in self.sheet.cannot if not t.hard]
        self._title("cannot be made as drawn" if bad else "nothing was found that cannot be made as drawn")
        for t in self.sheet.cannot:
            lines = wrap(f"{self.spoken(t.where)}: {self.spoken(t.why)}", 105)
            self._room(4.4 * len(lines) + 2)
            mark = "■" if not t.hard else "△"
            self._sign(EDGE + 1.6, self.y + 1.1, mark)
            self.fitted(EDGE + 5, self.y, t.what, 38, 9, BODY)
            for k, line in enumerate(lines):
                self.text(EDGE + 45, self.y - 4.4 * k, _plain(line), 8.5, raw=True)
            self.y -= 4.4 * len(lines) + 1.4

    def instructions(self) -> None:
        """What the drawing asks beside its sizes."""
        if not self.sheet.instructions:
            return
        self._title("beside the sizes")
        for words in self.sheet.instructions:
            for line in wrap(words, 115):
                self._room(ROW)
                self.text(EDGE, self.y, _plain(line), 9, raw=True)
                self.y -= 4.8

    def _sign(self, x: float, y: float, mark: str) -> None:
        self.c.setFillColor(INK)
        self.c.setStrokeColor(INK)
        r = 1.1 * MM
        if mark == "■":
            self.c.rect(x * MM - r, y * MM - r, 2 * r, 2 * r, fill=1)
            return
        path = self.c.beginPath()
        path.moveTo(x * MM, y * MM + r)
        path.lineTo(x * MM + r, y * MM - r)
        path.lineTo(x * MM - r, y * MM - r)
        path.close()
        self.c.drawPath(path, fill=0)

    def cautions(self) -> None:
        """At the end of every sheet."""
        self._room(12)
        self.y -= 4
        for words in CAUTIONS:
            for line in wrap(self.spoken(words), 150):
                self.text(EDGE, self.y, line, 7.5, colour=QUIET, raw=True)
                self.y -= 3.8

    def _table(self, title: str, heads: Sequence[str], stops: Sequence[float], right: set[int],
               rows: Sequence[Sequence[str]]) -> None:  # fmt: skip
        self._title(title)
        self._heads(heads, stops, right)
        for n, row in enumerate(rows):
            if self.y - ROW < EDGE:
                self.c.showPage()
                self.begin()
                self._heads(heads, stops, right)
            if n % 2:
                self.c.setFillColor(TINT)
                self.c.rect(EDGE * MM, (self.y - 1.6) * MM, (WIDTH - 2 * EDGE) * MM, ROW * MM, stroke=0, fill=1)
            for k, words in enumerate(row):
                end = stops[k + 1] if k + 1 < len(stops) else WIDTH - 2 * EDGE
                if k in right:
                    self.text(EDGE + stops[k], self.y, words, 8.5, DRAWING, right=True)
                else:
                    self.fitted(EDGE + stops[k], self.y, _plain(words), end - stops[k] - 1.5, 8.5, BODY)
            self.y -= ROW
        self.rule(EDGE, self.y + ROW - 2.2, WIDTH - EDGE, self.y + ROW - 2.2, 0.3, LINE)

    def _heads(self, heads: Sequence[str], stops: Sequence[float], right: set[int]) -> None:
        for k, words in enumerate(heads):
            font, told = DRAWING if words == "⌀" else BODY, self.spoken(words, "table")
            self.text(EDGE + stops[k], self.y, told, 7.5, font, QUIET, right=k in right, raw=True)
        self.y -= 4.6


def _plain(words: str) -> str:
    """With the diameter's sign that the body letters have."""
    return words.replace("⌀", "Ø")
