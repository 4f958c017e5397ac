"""The campaign on the drawing as witness: ``python bench/witness.py [N] [SEED] [--scans]``.

N plates of another hand from SEED on (``tests/drawn_plates.py``), each laid over its own sheet, and with each of six
slips; with ``--scans`` the sheet is printed at 200 dpi and scanned, turned by up to 1.5 degrees. Printed are false
alarms, with what was told, and slips that were not pointed at. Exit code 1 for either.
"""

from __future__ import annotations

import argparse
import random
import sys
import tempfile
from pathlib import Path

from pictures import picture_of

from lathed_solid import scripting as ls
from lathed_solid.kernel.sides import sides
from lathed_solid.sheets.client import read_linework
from lathed_solid.sheets.strokes import Linework
from lathed_solid.sheets.witness import Witness, sides_of, witness


def main() -> int:
    """The exit code."""
    import drawn_plates

    parser = argparse.ArgumentParser()
    parser.add_argument("count", nargs="?", type=int, default=10)
    parser.add_argument("seed", nargs="?", type=int, default=1)
    parser.add_argument("--scans", action="store_true")
    args = parser.parse_args()

    def laid(plate: drawn_plates.Plate, lines: Linework) -> Witness:
        body = ls.build(drawn_plates.part(plate)).built.body
        return witness(lines, sides_of(sides(body)))

    alarms = missed = told = 0
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(args.seed, args.seed + args.count):
            plate, rnd = drawn_plates.drawn(seed), random.Random(seed)
            path = Path(folder) / f"{seed}.pdf"
            drawn_plates.sheet(plate, path, seed)
            picture = picture_of(path, seed, path.with_suffix(".jpg"), photograph=False) if args.scans else path
            lines = read_linework(picture)
            right = laid(plate, lines)
            if not right.agrees:
                alarms += 1
                views = [(v.side, round(v.explained, 4), [p.box for p in v.drawn]) for v in right.views]
                print(f"{seed}: a false alarm: {views}", flush=True)
            for lie in drawn_plates.LIES:
                told += 1
                if laid(drawn_plates.lied(plate, lie, rnd), lines).agrees:
                    missed += 1
                    print(f"{seed}: not pointed at: {lie}", flush=True)
    print(f"{args.count} sheets: {alarms} false alarms; {told - missed} of {told} slips pointed at")
    return int(alarms > 0 or missed > 0)


if __name__ == "__main__":
    sys.exit(main())
