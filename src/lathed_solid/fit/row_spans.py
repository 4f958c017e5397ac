"""Between which flat faces of a part a callout's length runs, from the faces that proved it."""

from __future__ import annotations

import itertools

import numpy as np

from lathed_solid.fit.features import Features
from lathed_solid.proof.verdicts import VerdictRow

#: parallel to within, and as far apart as was measured, mm
PARALLEL, AS_MEASURED = 1e-6, 1e-3


def span_of(row: VerdictRow, features: Features) -> tuple[str, str] | None:
    """The two parallel flats that lie as far apart as the row was measured; None where no two or several do."""
    if row.kind != "length" or row.measured is None:
        return None
    flats = [(n, f) for n in dict.fromkeys(row.faces) if (f := features.get(n)) is not None and f.kind == "flat"]
    found = []
    for (a, fa), (b, fb) in itertools.combinations(flats, 2):
        n = np.array(fa.direction)
        if abs(abs(float(n @ np.array(fb.direction))) - 1) > PARALLEL:
            continue
        far = abs(float((np.array(fb.origin) - np.array(fa.origin)) @ n))
        if abs(far - row.measured) < AS_MEASURED:
            found.append((a, b))
    return found[0] if len(found) == 1 else None
