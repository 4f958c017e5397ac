"""Whether repeats belong to one size, and what was read to: the caliper's resolution, or a rule's denominator.

Repeats of one size scatter by what the instrument cannot tell, so one that is further from their median than ``WIDE``
times the expanded uncertainty of a single reading, and further than ``LEAST``, is asked about. Sixteenths are read to a
sixteenth: the resolution of what is typed as fractions is 1 over their largest denominator.
"""

from __future__ import annotations

import re
import statistics
from collections.abc import Sequence

from lathed_solid.ledger.readings import Instrument, Reading
from lathed_solid.quantity.units import MM_PER_INCH

#: scatter of worn and out-of-round surfaces, mm
LEAST = 0.1
WIDE = 1.5
DENOMINATORS = (8, 16, 32, 64, 128)
_FRACTION = re.compile(r"(?:\d+\s+)?\d+\s*/\s*(\d+)\s*(?:in|\")?")


def reads_to(fraction: int) -> Instrument:
    """A rule or dial that is read to 1/``fraction`` inch."""
    resolution = MM_PER_INCH / fraction
    return Instrument(name=f"read to 1/{fraction} in", resolution=resolution, permissible_error=0.02)


def instrument_for(text: str, otherwise: Instrument) -> Instrument:
    """What the repeats were read with, by how they are written: all as fractions, by their largest denominator."""
    found = [_FRACTION.fullmatch(p.strip()) for p in text.replace("\n", ";").split(";") if p.strip()]
    if not found or any(m is None or int(m[1]) < 2 for m in found):
        return otherwise
    largest = max(int(m[1]) for m in found if m is not None)
    return reads_to(next((d for d in DENOMINATORS if d >= largest), DENOMINATORS[-1]))


def room(instrument: Instrument) -> float:
    """How far a repeat may be from the others, mm."""
    alone = Reading(balloon=1, way="outside", repeats=(1.0,), instrument=instrument)
    return max(WIDE * alone.uncertainty, LEAST)


def strays(repeats: Sequence[float], instrument: Instrument) -> list[float]:
    """The repeats that do not belong to the others, mm."""
    middle, wide = statistics.median_low(repeats), room(instrument)
    return [x for x in repeats if abs(x - middle) > wide]


def sizes_of(repeats: Sequence[float], instrument: Instrument) -> list[tuple[float, ...]]:
    """The repeats by the sizes that they seem to be of, in order: parted where two neighbours are too far apart."""
    wide, out = room(instrument), list[list[float]]()
    for x in sorted(repeats):
        if out and x - out[-1][-1] <= wide:
            out[-1].append(x)
        else:
            out.append([x])
    return [tuple(group) for group in out]
