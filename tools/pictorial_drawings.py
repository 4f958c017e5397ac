"""Draw the demo parts pictorially: ``python tools/pictorial_drawings.py`` writes them beside the other sheets, as PDF
and as a picture of a screen's size, with larger lettering. Made up throughout, like the parts.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from pictorial_sheet import Hand, PictorialSheet
from PIL import ImageFilter
from scans import page

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.quantity.units import MM_PER_INCH

OUT = Path(__file__).parents[1] / "src" / "lathed_solid" / "demo" / "sheets"
#: pixels across a picture of a screen's size, and how far it is cut around the view, share of its width
ACROSS, CUT = 800, (0.13, 0.03, 0.83, 0.93)


def pedestal(hand: Hand = Hand()) -> PictorialSheet:
    """Base, column, bore; in inches from the middle of the underside."""
    body = ls.build(DEMOS["pedestal"]()).built.body
    assert body is not None
    title = ("Pedestal  P-02", "MATERIAL EN-GJL-250", "ALL DIMENSIONS IN INCHES", "SCALE 1:1")
    s = PictorialSheet(body.shape, title, 1.0, MM_PER_INCH, hand, at=(205.0, 118.0))
    s.length((-3, -2, 0), 0, 6, (0, -0.95, 0), "6.00")
    s.length((-2.375, -2, 0), 0, 4.75, (0, -0.5, 0), "4.75")
    s.length((3, -2, 0), 1, 4, (0.95, 0, 0), "4.00")
    s.length((3, -1.375, 0), 1, 2.75, (0.5, 0, 0), "2.75")
    s.length((-3, -2, 0), 2, 0.75, (-0.7, 0, 0), ".75")
    s.length((-1, -0.75, 0.75), 2, 2.25, (-1.1, 0, 0), "2.25")
    s.length((1, -0.75, 3), 1, 1.5, (0.6, 0, 0), "1.50")
    s.note((-2.375 + 0.406 * 0.3, -1.375 - 0.406 * 0.95, 0.75), (-38, 46), "4X ⌀.531 THRU", "⌴ ⌀.812 ↧.31")
    s.note((0.44, -0.75, 3.44), (52, 42), "⌀1.250 +.001/-.000")
    s.note((-0.75, -0.75, 3.66), (-30, 26), "R1.00")
    s.note((2.86, 1.86, 0.75), (20, 34), "4X R.50")
    return s


def main() -> None:
    """Write them."""
    path = OUT / "pedestal-pictorial.pdf"
    path.write_bytes(pedestal().pdf())
    path_of_picture = OUT / "pedestal-pictorial.png"
    with tempfile.TemporaryDirectory() as folder:
        larger = Path(folder) / "larger.pdf"
        larger.write_bytes(pedestal(Hand(size=5.5)).pdf())
        sheet = page(larger)
    wide, high = sheet.size
    left, top, right, low = CUT
    view = sheet.crop((round(left * wide), round(top * high), round(right * wide), round(low * high)))
    small = view.resize((ACROSS, round(ACROSS * view.height / view.width))).filter(ImageFilter.GaussianBlur(0.4))
    small.save(path_of_picture, optimize=True)
    print("pedestal-pictorial.pdf, pedestal-pictorial.png")


if __name__ == "__main__":
    main()
