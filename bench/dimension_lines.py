"""The campaign on dimension lines: ``python bench/dimension_lines.py [N] [SEED]``.

N sheets of another hand from SEED on (``tests/drawn_dimensions.py``), each as drawn and with one number slipped, read
as the window reads them. Printed are how many spans are right, left unsure or wrong, how many slips are contradicted,
left unsure or taken; and the time of reading a page against its bare rendering in the same run. Exit code 1 when
anything is wrong or taken.
"""

from __future__ import annotations

import argparse
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))


def main() -> int:
    """The exit code."""
    from drawn_dimensions import sheet
    from test_dimension_lines import judged

    from lathed_solid.sheets import worker
    from lathed_solid.sheets.pdf import Page

    parser = argparse.ArgumentParser()
    parser.add_argument("count", nargs="?", type=int, default=50)
    parser.add_argument("seed", nargs="?", type=int, default=1)
    args = parser.parse_args()
    plain: Counter[str] = Counter()
    slipped: Counter[str] = Counter()
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder)
        for seed in range(args.seed, args.seed + args.count):
            plain.update(judged(seed, out, 0))
            slipped.update(judged(seed, out, 1))
        sheet(args.seed, out / "timed.pdf")
        whole, bare = [], []
        for _ in range(5):
            start = time.perf_counter()
            found, picture = worker.read_file(out / "timed.pdf", 1, 150, "mm")
            picture.save(out / "read.bmp", "BMP")
            assert found["offers"]
            whole.append(time.perf_counter() - start)
            start = time.perf_counter()
            Page(out / "timed.pdf", 1).picture(150).save(out / "bare.bmp", "BMP")
            bare.append(time.perf_counter() - start)
    print(f"as drawn: {dict(plain)}")
    print(f"one slip: {dict(slipped)}")
    ratio = min(whole) / min(bare)
    print(f"a page read in {1e3 * min(whole):.0f} ms, {ratio:.1f} times its bare rendering ({1e3 * min(bare):.0f} ms)")
    return int(any(c[k] for c in (plain, slipped) for k in ("wrong", "blamed", "taken")))


if __name__ == "__main__":
    sys.exit(main())
