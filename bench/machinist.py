"""Hole tables, measured: plates with holes at random places, found on their solids, against their construction.

python bench/machinist.py 200 9300001     # what is missing, twice, or elsewhere by more than 1e-9 mm
"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from drilled_plates import drilled_plate
from test_machinist import holes_are

from lathed_solid import scripting as ls


def main() -> int:
    """The exit code."""
    count, seed = (int(v) for v in [*sys.argv[1:], "20", "1"][:2])
    bad: list[str] = []
    holes = 0
    for k in range(seed, seed + count):
        plate = drilled_plate(k, 2 + k % 29, placed=False)
        holes += len(plate.holes)
        bad += [f"{k}: {words}" for words in holes_are(ls.machinist(plate.document), plate)]
    print("\n".join(bad))
    print(f"{count} plates, {holes} holes: {len(bad)} not as drilled")
    return int(bool(bad))


if __name__ == "__main__":
    sys.exit(main())
