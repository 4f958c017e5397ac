"""The campaign on scans and photographs: ``python bench/pictures.py [N] [SEED] [--photographs]``.

N sheets of another hand from SEED on (``tests/drawn_dimensions.py``), printed at 200 dpi, then scanned (turned by up to
1.5 degrees, grain, dust, a fold) or photographed (aslant, shaded) by ``tools/scans.py``, and read as the window reads
them. What stands on the sheet is told by the drawing's own texts, and spans by what was drawn. Printed are how many
notes were found, how many of them said as sure and wrong, how many spans are right; and the time a sheet took. Exit
code 1 when anything wrong is said to be sure.
"""

from __future__ import annotations

import argparse
import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent.parent
sys.path[:0] = [str(ROOT / "tests"), str(ROOT / "tools")]
#: a note is found where it stands within this, mm; another note there is what was read in its place
FAR, NEAR = 15.0, 6.0
DPI = 200


def picture_of(path: Path, seed: int, out: Path, *, photograph: bool) -> Path:
    """The sheet as a scan or a photograph."""
    import scans

    rnd = random.Random(seed)
    page = scans.page(path, DPI)
    if photograph:
        picture = scans.photograph(page, aslant=rnd.uniform(0.02, 0.07), seed=seed)
        picture.save(out, quality=80)
    else:
        picture = scans.scan(page, rnd.uniform(-1.5, 1.5), rnd.uniform(0.01, 0.04), seed)
        picture.save(out, quality=80, dpi=(DPI, DPI))
    return out


def plain(text: str) -> str:
    """A note without what spelling leaves open."""
    return "".join(text.split()).replace("-", "").lower()


def compared(truth: Any, found: Any) -> Counter[str]:
    """How the notes that were read from a picture stand to those of the drawing itself."""
    out: Counter[str] = Counter()
    rest = list(found.offers)

    def away(a: Any, b: Any) -> float:
        dx = ((a.box[0] + a.box[2]) - (b.box[0] + b.box[2])) / 2 * truth.width
        dy = ((a.box[1] + a.box[3]) - (b.box[1] + b.box[3])) / 2 * truth.height
        return float((dx * dx + dy * dy) ** 0.5)

    for o in truth.offers:
        near = sorted(
            (f for f in rest if away(o, f) < NEAR), key=lambda f: (plain(f.text) != plain(o.text), away(o, f))
        )
        out["there"] += 1
        if not near:
            out["missed"] += 1
            print(f"   missed: {o.text!r} at {[round(v, 3) for v in o.box]}")
            continue
        f = near[0]
        rest.remove(f)
        same = plain(f.text) == plain(o.text)
        out["found" if same else "wrong, " + f.sure] += 1
        out["sure"] += same and f.sure == "sure"
        if not same:
            print(f"   {o.text!r} read as {f.text!r}: {f.sure} {f.why}")
        if same and o.span is not None:
            out["spans"] += 1
            if f.span is None:
                out["spans not told"] += 1
            else:
                long = [abs(float(s.end.split()[1]) - float(s.start.split()[1])) for s in (o.span, f.span)]
                alike = o.span.along[0] == f.span.along[0] and abs(long[0] - long[1]) <= 0.02 * long[0] + 1.0 / (
                    truth.scale or 1
                )
                out["spans right" if alike else "spans wrong"] += 1
    for f in rest:
        out["extra, " + f.sure] += 1
        print(f"   nothing there: {f.text!r} {f.sure} {f.why}")
    return out


def main() -> int:
    """The exit code."""
    from drawn_dimensions import sheet

    from lathed_solid.sheets.client import read_page

    parser = argparse.ArgumentParser()
    parser.add_argument("count", nargs="?", type=int, default=10)
    parser.add_argument("seed", nargs="?", type=int, default=1)
    parser.add_argument("--photographs", action="store_true")
    args = parser.parse_args()
    total: Counter[str] = Counter()
    took = 0.0
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(args.seed, args.seed + args.count):
            path = Path(folder) / f"{seed}.pdf"
            sheet(seed, path)
            truth = read_page(path)
            picture = picture_of(path, seed, path.with_suffix(".jpg"), photograph=args.photographs)
            start = time.perf_counter()
            found = read_page(picture)
            took += time.perf_counter() - start
            counts = compared(truth, found)
            print(seed, dict(counts), f"scale {truth.scale} read {found.scale}", flush=True)
            total.update(counts)
    print(f"{args.count} sheets: {dict(total)}; {took / args.count:.1f} s a sheet")
    return 1 if total["wrong, sure"] or total["extra, sure"] else 0


if __name__ == "__main__":
    sys.exit(main())
