"""Pictorial sheets, measured: ``python bench/pictorial.py [N] [SEED] [--across PIXELS | --dpi DOTS] [--turned]``.

N stepped blocks from SEED on, drawn pictorially by hands of many habits (``tests/drawn_pictorial.py``): as PDF, as
pictures of the view alone so many pixels across, or as whole sheets at so many dots an inch. Printed is how many of the
lengths are found, how many with the axis that they run along, and what is taken as sure and is not on the sheet; the
exit code is 1 when there is any.
"""

from __future__ import annotations

import argparse
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

import pypdfium2 as pdfium
from drawn_pictorial import ISOMETRIC, DrawnPictorial, as_screen_picture, drawn_pictorial

from lathed_solid.notation import read_note
from lathed_solid.sheets.client import read_page

#: azimuth and height of eyes that are not isometric, degrees
EYES = ((45.0, 20.0), (45.0, 28.0), (30.0, 30.0), (55.0, 25.0), (35.0, 40.0))


def laid(drawn: DrawnPictorial, folder: Path, across: int, dpi: float) -> Path:
    """The sheet as a file."""
    path = folder / ("sheet.pdf" if not across and not dpi else "sheet.png")
    if across:
        as_screen_picture(drawn.pdf, across).save(path)
    elif dpi:
        page = pdfium.PdfDocument(drawn.pdf)[0].render(scale=dpi / 72).to_pil().convert("L")
        page.save(path, dpi=(dpi, dpi))
    else:
        path.write_bytes(drawn.pdf)
    return path


def _meant(text: str, notes: tuple[str, ...]) -> bool:
    """Whether it means what a note of the sheet means: 6 THRU is ⌀6 THRU."""
    clauses = read_note(text).clauses
    return any(clauses == read_note(note).clauses for note in notes)


def main() -> int:
    """The exit code."""
    asked = argparse.ArgumentParser(description=(__doc__ or "").partition("\n")[0])
    asked.add_argument("n", nargs="?", type=int, default=20)
    asked.add_argument("seed", nargs="?", type=int, default=1)
    asked.add_argument("--across", type=int, default=0)
    asked.add_argument("--dpi", type=float, default=0.0)
    asked.add_argument("--turned", action="store_true", help="dimetric and trimetric views")
    args = asked.parse_args()
    counts: Counter[str] = Counter()
    began = time.perf_counter()
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(args.seed, args.seed + args.n):
            drawn = drawn_pictorial(seed, EYES[seed % len(EYES)] if args.turned else ISOMETRIC)
            found = read_page(laid(drawn, Path(folder), args.across, args.dpi))
            texts = Counter(text for text, _ in drawn.lengths)
            meant = Counter((text, "xyz"[axis]) for text, axis in drawn.lengths)
            along = Counter((o.text, o.span.along[0]) for o in found.offers if o.span is not None)
            sure = Counter(o.text for o in found.offers if o.sure == "sure")
            wrong = Counter({text: n for text, n in (sure - texts).items() if not _meant(text, drawn.notes)})
            counts.update(
                lengths=len(drawn.lengths), found=(Counter(o.text for o in found.offers) & texts).total(),
                along=(along & meant).total(), wrong_and_sure=wrong.total(), pictorial=found.kind == "pictorial",
            )  # fmt: skip
            if wrong:
                print(f"{seed}: {dict(wrong)} taken as sure")
    each = (time.perf_counter() - began) / max(1, args.n)
    print(f"{args.n} sheets from {args.seed}: {dict(counts)}; {each:.1f} s each")
    return 1 if counts["wrong_and_sure"] else 0


if __name__ == "__main__":
    sys.exit(main())
