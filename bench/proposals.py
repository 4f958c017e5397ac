"""The campaign on first models: ``python bench/proposals.py [N] [SEED]``.

N turned parts drawn by another hand from SEED on (``tests/drawn_turned.py``), each proposed from its sheet alone.
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
    from test_proposals import outcome

    parser = argparse.ArgumentParser()
    parser.add_argument("count", nargs="?", type=int, default=50)
    parser.add_argument("seed", nargs="?", type=int, default=1)
    args = parser.parse_args()
    total: Counter[str] = Counter()
    with tempfile.TemporaryDirectory() as folder:
        for seed in range(args.seed, args.seed + args.count):
            found = outcome(seed, Path(folder))
            if found != "whole":
                print(seed, found, flush=True)
            total[found.split(":")[0]] += 1
    print(f"{args.count} turned parts: {dict(total)}")
    return 1 if total["wrong"] else 0


if __name__ == "__main__":
    sys.exit(main())
