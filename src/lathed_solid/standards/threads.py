"""Threads by designation: metric (ISO 261), unified (ASME B1.1; UNJ, B1.15), pipe (ISO 228-1), trapezoidal (ISO 2904),
ACME (ASME B1.5), Whitworth (BS 84), British Association (BS 93).

Basic profiles (ISO 68-1, ASME B1.1: 60 degrees; ISO 228-1: 55 degrees, rounded there and taken flat here at the
same depth; ISO 2904: 30 degrees), with P the pitch and H the height of the sharp triangle:

    60 degrees: H = sqrt(3)/2 P, thread depth of the nut 5/8 H = 0.541266 P, of the screw 17/24 H = 0.613435 P
    UNJ, rounded at the root by 0.15011 P to 0.18042 P: nut 9/16 H = 0.487139 P, screw 2/3 H = 0.577350 P
    55 degrees: depth 0.640327 P on both
    47.5 degrees (BS 93): depth 0.6 P on both; number n has P = 0.9^n mm and D = 6 P^1.2 mm, each to two figures
    30 degrees: depth of the nut P/2, of the screw P/2 + clearance
    29 degrees: alike, clearance 0.010 in on the radius, 0.005 in above 10 threads an inch
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from lathed_solid.errors import of_length
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards.csv_tables import StandardError, rows

MAX_DESIGNATION = 60
System = Literal["metric", "unified", "unj", "pipe", "trapezoidal", "acme", "whitworth", "ba"]

_METRIC = re.compile(
    r"M\s*(\d+(?:[.,]\d+)?)(?:\s*[x×]\s*(\d+(?:[.,]\d+)?))?(?:\s*-?\s*(\d[A-Za-z]\d?[A-Za-z]?))?", re.I
)
_UNIFIED = re.compile(
    r"(#\d+|\d+(?:\s+\d+/\d+)?|\d+/\d+)\s*(?:-\s*(\d+(?:\.5)?)(?:\s*(UNJ?C|UNJ?F|UNJ?EF|UNJ?S|UNJ?))?|\s(UNJ?C|UNJ?F|UNJ?EF))"
    r"(?:\s*-?\s*([123][AB]))?",
    re.I,
)
_ACME = re.compile(r"(\d+(?:\s+\d+/\d+)?|\d+/\d+)\s*-\s*(\d+)\s*ACME(?:\s*-?\s*[234]G)?", re.I)
_PIPE = re.compile(r"G\s*(\d+(?:\s+\d+/\d+)?|\d+/\d+)(?:\s*[AB])?", re.I)
_TRAPEZOIDAL = re.compile(
    r"TR\s*(\d+(?:[.,]\d+)?)\s*[x×]\s*(\d+(?:[.,]\d+)?)(?:\s*\(?P?\s*(\d+(?:[.,]\d+)?)\)?)?", re.I
)

_WHITWORTH = re.compile(r"(\d+(?:\s+\d+/\d+)?|\d+/\d+)\s*(?:-\s*(\d+(?:\.5)?)\s*)?(BSW|BSF)", re.I)
_BA = re.compile(r"(\d{1,2})\s*BA", re.I)
#: the smallest British Association thread
SMALLEST_BA = 16

#: clearance at the crest of a trapezoidal thread by pitch (ISO 2904)
_CREST = ((1.5, 0.15), (5.0, 0.25), (12.0, 0.5), (math.inf, 1.0))


#: depth of a nut's thread, in pitches
_NUT = {"metric": 0.541266, "unified": 0.541266, "unj": 0.487139, "pipe": 0.640327, "trapezoidal": 0.5, "acme": 0.5,
        "whitworth": 0.640327, "ba": 0.6}  # fmt: skip


@dataclass(frozen=True, slots=True)
class ThreadForm:
    """Sizes in mm; ``angle`` included, in rad; ``lead`` is pitch times starts."""

    designation: str
    system: System
    major: float
    pitch: float
    angle: float
    lead: float
    left: bool = False

    @property
    def starts(self) -> int:
        """Lead in pitches."""
        return round(self.lead / self.pitch)

    @property
    def nut_depth(self) -> float:
        """How deep the thread of a nut is cut, radially, mm."""
        return _NUT[self.system] * self.pitch

    @property
    def screw_depth(self) -> float:
        """How deep the thread of a screw is cut, radially, mm."""
        if self.system == "trapezoidal":
            return self.pitch / 2 + next(c for p, c in _CREST if self.pitch <= p)
        if self.system == "acme":
            return self.pitch / 2 + MM_PER_INCH * (0.010 if round(MM_PER_INCH / self.pitch) <= 10 else 0.005)
        return {"metric": 0.613435, "unified": 0.613435, "unj": 0.577350}.get(
            self.system, _NUT[self.system]
        ) * self.pitch

    @property
    def minor(self) -> float:
        """Basic minor diameter of the nut, mm."""
        return self.major - 2 * self.nut_depth

    @property
    def pitch_diameter(self) -> float:
        """Basic pitch diameter, mm."""
        drop = {"metric": 0.649519, "unified": 0.649519, "unj": 0.649519}.get(self.system, _NUT[self.system])
        return self.major - drop * self.pitch

    @property
    def tap_drill(self) -> float:
        """A drill for about 77 % of thread, mm (rule of the trade: major less pitch)."""
        return self.major - self.pitch if self.system != "pipe" else self.minor + 0.05 * self.pitch


def coarse_pitch(major_mm: float) -> float:
    """The coarse pitch in mm of a metric thread; StandardError when the size has none."""
    for row in rows("metric_coarse"):
        if float(row["major_mm"]) == major_mm:
            return float(row["pitch_mm"])
    raise StandardError(f"M{major_mm:g} has no coarse pitch in ISO 261", hint=f"write the pitch: M{major_mm:g}x1.5")


def thread_form(designation: str) -> ThreadForm:
    """The thread that a designation names. Raises StandardError for one that is not known."""
    text = of_length(designation, MAX_DESIGNATION, "the thread", StandardError).strip()
    left = bool(re.search(r"[\s-]+LH$", text, re.I))
    bare = re.sub(r"[\s-]+(LH|RH)$", "", text, flags=re.I).strip()
    for pattern, make in (
        (_TRAPEZOIDAL, _trapezoidal),
        (_ACME, _acme),
        (_METRIC, _metric),
        (_PIPE, _pipe),
        (_WHITWORTH, _whitworth),
        (_BA, _ba),
        (_UNIFIED, _unified),
    ):
        found = pattern.fullmatch(bare)
        if found:
            return make(text, found, left)
    raise StandardError("this thread is not known", received=designation, hint="M8, M14x1, 5/16-18 UNC, G1/8, Tr20x4")


def _metric(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    major = decimal(m[1])
    pitch = decimal(m[2]) if m[2] else coarse_pitch(major)
    if not 0.1 <= pitch <= major / 2:
        raise StandardError(f"a pitch of {pitch:g} does not fit M{major:g}", received=text)
    return ThreadForm(text, "metric", major, pitch, math.radians(60), pitch, left)


def _unified(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    size = " ".join(m[1].split())
    known = [r for name in (size, f"#{size}") for r in rows("unified") if r["designation"] == name]
    # 10-32 and 4-40 are numbers: no thread of 10 inches, and none of 4 with 40 an inch
    row = next((r for r in known if m[2] in (r["unc"], r["unf"], r["unef"])), known[0] if known else None)
    series = (m[3] or m[4] or "").upper()
    rounded = series.startswith("UNJ")
    series = series.replace("UNJ", "UN")
    told = m[2] or (row or {}).get(series.lower(), "")  # 3/8 UNC
    if row is None or not told or not 4 <= float(told) <= 80:
        raise StandardError("this unified thread is not in the table", received=text)
    tpi = float(told)
    if series in ("UNC", "UNF", "UNEF") and row[series.lower()] and float(row[series.lower()]) != tpi:
        raise StandardError(f"{size} {series} has {row[series.lower()]} threads an inch", received=text)
    pitch = MM_PER_INCH / tpi
    major = float(row["major_in"]) * MM_PER_INCH
    return ThreadForm(text, "unj" if rounded else "unified", major, pitch, math.radians(60), pitch, left)


def _pipe(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    row = next((r for r in rows("pipe_parallel") if r["designation"] == " ".join(m[1].split())), None)
    if row is None:
        raise StandardError("this pipe thread is not in ISO 228-1", received=text)
    pitch = MM_PER_INCH / int(row["tpi"])
    return ThreadForm(text, "pipe", float(row["major_mm"]), pitch, math.radians(55), pitch, left)


def _whitworth(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    size, series = " ".join(m[1].split()), m[3].lower()
    row = next((r for r in rows("whitworth") if r["designation"] == size), None)
    if row is None or not row[series]:
        raise StandardError(f"{size} {m[3].upper()} is not in the table", rule="BS 84", received=text)
    if m[2] and float(m[2]) != float(row[series]):
        raise StandardError(f"{size} {m[3].upper()} has {row[series]} threads an inch", received=text)
    pitch = MM_PER_INCH / float(row[series])
    major = float(sum(Fraction(part) for part in size.split())) * MM_PER_INCH
    return ThreadForm(text, "whitworth", major, pitch, math.radians(55), pitch, left)


def _ba(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    number = int(m[1])
    if number > SMALLEST_BA:
        raise StandardError(f"there is no {number} BA thread", rule="BS 93: 0 to 16 BA", received=text)
    pitch = round(0.9**number, 2)
    major = float(f"{6 * pitch**1.2:.2g}")
    return ThreadForm(text, "ba", major, pitch, math.radians(47.5), pitch, left)


def _acme(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    size = " ".join(m[1].split())
    row = next((r for r in rows("acme") if (r["designation"], r["tpi"]) == (size, m[2])), None)
    if row is None:
        raise StandardError(
            "this ACME thread is not of the standard series", received=text, hint="3/4-6 ACME, 1-5 ACME"
        )
    pitch = MM_PER_INCH / int(m[2])
    major = float(sum(Fraction(part) for part in size.split())) * MM_PER_INCH
    return ThreadForm(text, "acme", major, pitch, math.radians(29), pitch, left)


def _trapezoidal(text: str, m: re.Match[str], left: bool) -> ThreadForm:
    major, lead = decimal(m[1]), decimal(m[2])
    pitch = decimal(m[3]) if m[3] else lead
    if not 1 <= pitch <= major / 2 or abs(lead / pitch - round(lead / pitch)) > ROUNDING:
        raise StandardError("this trapezoidal thread is not possible", received=text, hint="Tr20x4, or Tr20x8(P4)")
    return ThreadForm(text, "trapezoidal", major, pitch, math.radians(30), lead, left)
