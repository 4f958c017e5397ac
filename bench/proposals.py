"""The campaign on first models: ``python bench/proposals.py [N] [SEED] [--plates]``.

N turned parts drawn by another hand from SEED on (``tests/drawn_turned.py``), or plates
(``tests/dimensioned_plates.py``), each proposed from its sheet alone.
Printed are how many came out whole and proven without an entry, with a question, refused, or wrong without one. Exit
code 1 when anything is wrong.
"""

from __future__ import annotations

import argparse
import sys
import tempfile
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))


def main() -> int:
    """The exit code."""
    import test_plate_proposals as plates
    import test_proposals as turned

    parser = argparse.ArgumentParser()
    parser.add_argument("count", nargs="?", type=int, default=50)
    parser.add_argument("seed", nargs="?", type=int, default=1)
    parser.add_argument("--plates", action="store_true")
    args = parser.parse_args()
    outcome = (plates if args.plates else turned).outcome
    total: Counter[str] = Counter()
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(args.seed, args.seed + args.count):
            found = outcome(seed, Path(folder))
            if found != "whole":
                print(seed, found, flush=True)
            total[found.split(":")[0]] += 1
    print(f"{args.count} {'plates' if args.plates else 'turned parts'}: {dict(total)}")
    return 1 if total["wrong"] else 0


if __name__ == "__main__":
    sys.exit(main())
