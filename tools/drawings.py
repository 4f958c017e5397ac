"""Draw the demo sheets: ``python tools/drawings.py`` writes the PDFs beside the demo parts.

The pedestal's drawing: front and top view with its dimensions in the shipped drawing font, and a title block. Made
up throughout, like the part.
"""

from __future__ import annotations

import json
from pathlib import Path

from reportlab.lib.pagesizes import A3, landscape
from reportlab.lib.units import inch, mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

ROOT = Path(__file__).parent.parent
FONTS = ROOT / "src" / "lathed_solid" / "assets" / "fonts"
OUT = ROOT / "src" / "lathed_solid" / "demo" / "sheets"
WIDTH, HEIGHT = landscape(A3)
LETTERS, SIZE = "drawing", 11


#: which text of the pedestal's sheet each of its callouts stands at
BALLOONS = {
    1: "6.00", 2: "4.00", 3: ".75", 4: "4X R.50", 5: "4X ⌀.531 THRU", 6: "4.75", 7: "2.75", 8: "1.50", 9: "2.25",
    10: "R1.00", 11: "⌀1.250 +.001/-.000", 12: ".375", 13: ".25", 14: "1.56", 15: "⌴ ⌀.812 ↧.31", 17: "DRILL ↧.62",
    18: "3.80", 19: "R.12", 20: ".03 X 45°",
}  # fmt: skip


class Drawing:
    """A sheet with views in inches at a place on the paper."""

    def __init__(self, path: Path, title: str, number: str) -> None:
        pdfmetrics.registerFont(TTFont(LETTERS, str(next(FONTS.glob("osifont*.ttf")))))
        self.canvas = Canvas(str(path), pagesize=(WIDTH, HEIGHT), invariant=1)
        self.canvas.setTitle(title)
        self.ox = self.oy = 0.0
        self.scale = inch
        #: text -> where its balloon stands, shares of the page from the top left
        self.places: dict[str, tuple[float, float]] = {}
        self._frame(title, number)

    def _frame(self, title: str, number: str) -> None:
        c = self.canvas
        c.setLineWidth(1.4)
        c.rect(10 * mm, 10 * mm, WIDTH - 20 * mm, HEIGHT - 20 * mm)
        x, y = WIDTH - 190 * mm, 10 * mm
        c.setLineWidth(0.5)
        rows = (("Sluice winch", title), ("material", "EN-GJL-250"), ("general tolerance", ".XX ±.01  .XXX ±.005"),
                ("scale 1:1", "inch"), ("drawing", number))  # fmt: skip
        for k, (left, right) in enumerate(rows):
            c.rect(x, y + k * 9 * mm, 60 * mm, 9 * mm)
            c.rect(x + 60 * mm, y + k * 9 * mm, 120 * mm, 9 * mm)
            self.text(x + 2 * mm, y + k * 9 * mm + 3 * mm, left, 9)
            self.text(x + 62 * mm, y + k * 9 * mm + 3 * mm, right, 9)

    def at(self, x: float, y: float) -> None:
        """Where a view's origin stands on the paper, in points."""
        self.ox, self.oy = x, y

    def p(self, x: float, y: float) -> tuple[float, float]:
        return self.ox + x * self.scale, self.oy + y * self.scale

    def text(self, x: float, y: float, words: str, size: float = SIZE, turn: float = 0) -> None:
        c = self.canvas
        left = x if not turn else x - 0.8 * size
        middle = y + 0.28 * size if not turn else y + 0.28 * size * len(words)
        self.places[words] = (round(left / WIDTH - 0.018, 4), round(1 - middle / HEIGHT, 4))
        c.saveState()
        c.translate(x, y)
        c.rotate(turn)
        c.setFont(LETTERS, size)
        c.drawString(0, 0, words)
        c.restoreState()

    def line(self, *places: tuple[float, float], width: float = 1.0, dash: tuple[float, ...] = ()) -> None:
        c = self.canvas
        c.setLineWidth(width)
        c.setDash(*([list(dash)] if dash else []))
        path = c.beginPath()
        path.moveTo(*self.p(*places[0]))
        for place in places[1:]:
            path.lineTo(*self.p(*place))
        c.drawPath(path)
        c.setDash()

    def circle(self, x: float, y: float, r: float, width: float = 1.0) -> None:
        self.canvas.setLineWidth(width)
        self.canvas.circle(*self.p(x, y), r * self.scale)

    def level(self, x0: float, x1: float, y: float, words: str) -> None:
        """A dimension along the paper, with its arrows and its text above the line."""
        self.line((x0, y), (x1, y), width=0.5)
        for x, way in ((x0, 1), (x1, -1)):
            self._arrow(x, y, way, 0)
        tx, ty = self.p((x0 + x1) / 2, y)
        self.text(tx - 2.8 * len(words), ty + 3, words)

    def upright(self, y0: float, y1: float, x: float, words: str) -> None:
        """A dimension up the paper, its text turned along it."""
        self.line((x, y0), (x, y1), width=0.5)
        for y, way in ((y0, 1), (y1, -1)):
            self._arrow(x, y, 0, way)
        tx, ty = self.p(x, (y0 + y1) / 2)
        self.text(tx - 3, ty - 2.8 * len(words), words, turn=90)

    def _arrow(self, x: float, y: float, dx: int, dy: int) -> None:
        px, py = self.p(x, y)
        path = self.canvas.beginPath()
        path.moveTo(px, py)
        path.lineTo(px + 8 * dx + 1.6 * dy, py + 8 * dy + 1.6 * dx)
        path.lineTo(px + 8 * dx - 1.6 * dy, py + 8 * dy - 1.6 * dx)
        path.close()
        self.canvas.drawPath(path, fill=1)

    def note(self, x: float, y: float, tx: float, ty: float, *lines: str) -> None:
        """A leader from a place to a note of some lines."""
        self.line((x, y), (tx, ty), (tx + 0.15, ty), width=0.5)
        px, py = self.p(tx + 0.2, ty)
        for k, words in enumerate(lines):
            self.text(px, py - 4 - k * 1.25 * SIZE, words)


def pedestal() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    d = Drawing(OUT / "pedestal.pdf", "Pedestal", "P-02")
    # top view
    d.at(70 * mm, 35 * mm)
    r = 0.5
    d.line((r, 0), (6 - r, 0), width=1.2)
    d.line((r, 4), (6 - r, 4), width=1.2)
    d.line((0, r), (0, 4 - r), width=1.2)
    d.line((6, r), (6, 4 - r), width=1.2)
    for x, y, start in ((r, r, 180), (6 - r, r, 270), (6 - r, 4 - r, 0), (r, 4 - r, 90)):
        cx, cy = d.p(x, y)
        d.canvas.arc(cx - r * inch, cy - r * inch, cx + r * inch, cy + r * inch, start, 90)
    for x in (0.625, 5.375):
        for y in (0.625, 3.375):
            d.circle(x, y, 0.2655)
            d.circle(x, y, 0.406)
    d.line((2.0, 1.25), (4.0, 1.25), (4.0, 2.75), (2.0, 2.75), (2.0, 1.25), width=1.2)
    for x in (1.1, 4.9):
        d.circle(x, 2, 0.1)
    d.level(0, 6, -0.55, "6.00")
    d.level(0.625, 5.375, -0.25, "4.75")
    d.level(1.1, 4.9, 4.45, "3.80")
    d.upright(0, 4, -0.75, "4.00")
    d.upright(0.625, 3.375, -0.35, "2.75")
    d.upright(1.25, 2.75, 4.35, "1.50")
    d.note(5.66, 3.66, 6.5, 3.9, "4X ⌀.531 THRU", "⌴ ⌀.812 ↧.31")
    d.note(5.85, 3.85, 6.5, 4.45, "4X R.50")
    d.note(4.97, 2.07, 6.5, 2.4, "2X 1/4-20 UNC-2B ↧.50", "DRILL ↧.62")
    # front view
    d.at(70 * mm, 185 * mm)
    d.line((0, 0), (6, 0), (6, 0.75), (0, 0.75), (0, 0), width=1.2)
    d.line((2.0, 0.75), (2.0, 2.25), width=1.2)
    d.line((4.0, 0.75), (4.0, 2.25), width=1.2)
    cx, cy = d.p(3, 2.25)
    d.canvas.arc(cx - inch, cy - inch, cx + inch, cy + inch, 0, 180)
    d.circle(3, 2.25, 0.625)
    d.line((1.56, 0.0), (1.56, 0.25), (1.935, 0.25), (1.935, 0.0), width=1.0)
    d.line((3, 1.4), (3, 3.5), width=0.4, dash=(9, 3, 2, 3))
    d.upright(0, 0.75, -0.4, ".75")
    d.upright(0.75, 2.25, 1.35, "2.25")
    d.level(1.56, 1.935, -0.6, ".375")
    d.level(0, 1.56, -0.35, "1.56")
    d.upright(0, 0.25, 2.35, ".25")
    d.note(3.44, 2.69, 4.9, 3.2, "⌀1.250 +.001/-.000")
    d.note(3.87, 2.75, 4.9, 2.7, "R1.00")
    d.note(4.05, 0.8, 4.9, 1.4, "R.12")
    d.note(5.9, 0.75, 6.6, 1.1, ".03 X 45°")
    x, y = WIDTH - 130 * mm, HEIGHT - 40 * mm
    d.text(x, y, "BREAK SHARP EDGES .01 MAX")
    d.text(x, y + 8 * mm, "FILLETS & ROUNDS R.06 UNLESS STATED")
    d.canvas.showPage()
    d.canvas.save()
    places = {str(k): d.places[text] for k, text in BALLOONS.items()}
    (OUT / "pedestal.json").write_text(json.dumps(places, indent=1) + "\n", "utf-8")


if __name__ == "__main__":
    pedestal()
