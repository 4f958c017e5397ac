"""Which thread a screw or nut has: from the diameter that the caliper shows and the pitch by gauge.

The major diameter of a screw measures a little under its nominal (by the limits of its usual class), the minor
diameter of a nut between its own limits. Threads that are easily taken for one another are told apart by how far the
pitch strays over the length of a gauge.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cache

from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards import StandardError
from lathed_solid.standards.csv_tables import rows
from lathed_solid.standards.thread_limits import thread_limits

#: standard deviations: of a pitch by gauge over a few threads, relative, and of how far a crest may be off, mm
PITCH_SPREAD, CREST_SPREAD = 0.008, 0.06
#: fine metric threads besides the coarse ones: those of ISO 261 in common use
FINE = {
    8: (1,), 10: (1, 1.25), 12: (1.25, 1.5), 14: (1.5, 1), 16: (1.5,), 18: (1.5,), 20: (1.5,), 22: (1.5,), 24: (2, 1.5),
    27: (2, 1.5), 30: (2, 1.5), 33: (2, 1.5), 36: (3, 1.5), 40: (1.5,), 42: (3, 1.5), 45: (1.5,), 48: (3, 1.5),
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class ThreadGuess:
    """A designation, how probable, and why; ``low`` and ``high`` the diameter it should show, mm."""

    designation: str
    share: float
    reason: str
    low: float
    high: float
    pitch: float


@cache
def known() -> tuple[tuple[str, float], ...]:
    """(designation, weight) of all threads that are looked for."""
    out: list[tuple[str, float]] = [
        (r["designation"], 3.0) for r in rows("metric_coarse") if float(r["major_mm"]) >= 1.6
    ]
    out += [(f"M{d}x{p:g}", 1.0) for d, pitches in FINE.items() for p in pitches]
    for r in rows("unified"):
        out += [(f"{r['designation']}-{r[s]} {s.upper()}", w) for s, w in (("unc", 1.5), ("unf", 1.0)) if r[s]]
    out += [(f"G{r['designation']}", 0.8) for r in rows("pipe_parallel")]
    return tuple(out)


def guess_thread(
    diameter: float, pitch: float, *, inside: bool = False, uncertainty: float = 0.02, keep: int = 4
) -> list[ThreadGuess]:
    """Threads that show ``diameter`` (mm; the minor one of a nut when ``inside``) and ``pitch`` (mm), best first."""
    scored = []
    for name, weight in known():
        try:
            limits = next(t for t in thread_limits(name) if t.internal == inside)
        except (StandardError, StopIteration):
            continue
        low, high = limits.minor if inside else limits.major
        if low is None or high is None:
            continue
        off = max(low - diameter, diameter - high, 0.0) / math.hypot(uncertainty, CREST_SPREAD)
        slip = (pitch / limits.form.pitch - 1) / PITCH_SPREAD
        if off > 6 or abs(slip) > 6:
            continue
        score = weight * math.exp(-0.5 * (off * off + slip * slip)) / (high - low + 2 * CREST_SPREAD)
        name = limits.form.designation
        guess = ThreadGuess(name, score, _reason(limits.form.pitch, pitch, diameter, low, high), low, high,
                            limits.form.pitch)  # fmt: skip
        scored.append(guess)
    total = sum(g.share for g in scored)
    best = sorted(scored, key=lambda g: -g.share)[:keep]
    return [replace(g, share=g.share / total) for g in best]


def _reason(of: float, pitch: float, diameter: float, low: float, high: float) -> str:
    words = []
    if diameter < low:
        words.append(f"{low - diameter:.2f} under its least")
    elif diameter > high:
        words.append(f"{diameter - high:.2f} over its greatest")
    else:
        words.append("within its limits")
    slip = abs(pitch - of) * 10
    words.append("pitch agrees" if slip < 0.05 else f"ten threads would differ by {slip:.2f} mm")
    return ", ".join(words)


def threads_an_inch(pitch_mm: float) -> float:
    """The same pitch as threads an inch."""
    return MM_PER_INCH / pitch_mm
