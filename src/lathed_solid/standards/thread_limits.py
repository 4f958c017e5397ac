"""Limits of threads: metric (ISO 965-1), unified (ASME B1.1, UNJ B1.15), pipe (ISO 228-1); others in ``power_threads``.

Metric. External: es of the letter, major d + es, d + es - Td; pitch diameter d2 + es, less Td2; minor at most d1 + es
(the root may not reach into the basic profile; its lower side has no limit). Internal: EI of the letter, pitch
diameter D2 + EI, plus TD2; minor D1 + EI, plus TD1; major at least D + EI. The tolerances are the standard's rounded
ones; its formulas are the cross-check in the tests: es(g) = -(15 + 11 P), Td(6) = 180 P^(2/3) - 3.15 P^(-1/2),
Td2(6) = 90 P^0.4 dm^0.1, TD2 = 1.32 Td2, TD1(6) = 230 P^0.7 (P >= 1), in um.

Unified, in inches, P = 1 / threads an inch, LE the length of engagement (D for UNC and UNF, 9 P for all others):

    Td2(2A) = 0.0015 D^(1/3) + 0.0015 LE^(1/2) + 0.015 P^(2/3), 1A 1.5 of it, 3A 0.75; 1B 1.95, 2B 1.3, 3B 0.975
    allowance of 1A and 2A 0.3 Td2(2A); Td(2A, 3A) = 0.060 P^(2/3), Td(1A) = 0.090 P^(2/3)
    TD1(1B, 2B) = 0.25 P - 0.4 P^2 from 1/4 inch on, below it 0.05 P^(2/3) + 0.03 P / D - 0.002 within
    0.25 P - 0.4 P^2 and 0.394 P; 3B the latter for all sizes, within 0.12 P (0.23 P - 1.5 P^2 from 13 an inch) and
    0.394 P.

UNJ as 3A and 3B: the screw's root is at most D - 1.154701 P, the nut's minor diameter at least D - 0.974279 P.

Sizes are rounded as the standard's tables are: four places, a half up, minor diameters of nuts to three from #6 on.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from decimal import ROUND_HALF_UP, Decimal

from lathed_solid.errors import of_length
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import StandardError, rows
from lathed_solid.standards.drills import Drill, nearest, tap_drill
from lathed_solid.standards.gauges import gauge_limits
from lathed_solid.standards.power_threads import acme, trapezoidal
from lathed_solid.standards.threads import MAX_DESIGNATION, ThreadForm, thread_form

Side = tuple[float | None, float | None]
H = math.sqrt(3) / 2
#: up to this nominal diameter, mm, the usual classes are finer (ISO 965-2: tolerances of grade 6 begin above)
SMALL_METRIC = 1.4
#: allowances that the standard tabulates a step off its own formula (ASME B1.1 table 2A), inches
TABULATED_ALLOWANCE = {(0.625, 11): 0.0016}
DEFAULT = {"metric": ("6g", "6H"), "unified": ("2A", "2B"), "unj": ("3A", "3B"), "pipe": ("A", ""),
           "trapezoidal": ("7e", "7H"), "acme": ("2Ge", "2Gi")}  # fmt: skip
_METRIC_CLASS = re.compile(r"^(\d)([A-Za-z])(?:(\d)([A-Za-z]))?$")


#: where the tap drills of a system stand
TAP_DRILLS = {"metric": ("metric_coarse", "tap_drills_fine"), "pipe": ("pipe_parallel",)}


@dataclass(frozen=True, slots=True)
class ThreadLimits:
    """(low, high) in mm of one thread in one class; None where a side has no limit."""

    form: ThreadForm
    thread_class: str
    internal: bool
    major: Side
    pitch_diameter: Side
    minor: Side
    source: str

    @property
    def name(self) -> str:
        """Designation with class."""
        return f"{self.form.designation}-{self.thread_class}" if self.thread_class else self.form.designation

    @property
    def tap_drill(self) -> Drill:
        """For the thread's form."""
        return drill_for(self.form)

    @property
    def go(self) -> float:
        """Pitch diameter of the go gauge before the gauge's own tolerances, mm."""
        return float(self.pitch_diameter[0 if self.internal else 1] or 0.0)

    @property
    def gauges(self) -> tuple[tuple[float, float], tuple[float, float], str] | None:
        """Limits (mm) of the pitch diameters of the go and the no-go gauge, and the source; None where not shipped."""
        low, high = self.pitch_diameter
        if self.form.system != "metric" or low is None or high is None:
            return None
        try:
            return gauge_limits(low, high, internal=self.internal)
        except StandardError:
            return None

    @property
    def no_go(self) -> float:
        """Pitch diameter at which the no-go gauge must not pass, mm."""
        return float(self.pitch_diameter[1 if self.internal else 0] or 0.0)


def drill_for(form: ThreadForm) -> Drill:
    """The tap drill: the tabulated one (ISO 2306), else by the share of thread; of others near the least minor
    diameter.
    """
    for table in TAP_DRILLS.get(form.system, ()):
        for row in rows(table):
            pitch = float(row["pitch_mm"]) if "pitch_mm" in row else MM_PER_INCH / float(row["tpi"])
            if row["tap_drill_mm"] and float(row["major_mm"]) == form.major and abs(pitch - form.pitch) < ROUNDING:
                source = row["source"] if table == "tap_drills_fine" else "ISO 2306"
                return Drill(f"{float(row['tap_drill_mm']):g}", float(row["tap_drill_mm"]), source)
    if form.system == "unj":  # its nut is wider, and narrow in tolerance
        low, high = _rounded_root(form, "3B").minor
        assert low is not None and high is not None
        middle = (low + high) / 2
        return min((nearest(middle, "inch"), nearest(middle, "metric")), key=lambda d: abs(d.diameter - middle))
    if form.system in ("metric", "unified"):
        return tap_drill(form.major, form.pitch, "metric" if form.system == "metric" else "inch")
    return nearest(form.tap_drill, "metric")


def thread_limits(designation: str) -> tuple[ThreadLimits, ...]:
    """The limits that a designation asks for: one class, two of a pairing ``6H/6g``, or both usual ones for none.

    External threads come first. Raises StandardError when the thread or class is not in the tables.
    """
    bare, classes = split_class(designation)
    form = thread_form(bare)
    if not classed(form):
        raise StandardError("no classes of this thread are in the tables", received=designation,
                            hint="its size and pitch are known: limits by hand")  # fmt: skip
    way = _WAYS[form.system]
    found = [way(form, c) for c in classes or usual_classes(form)]
    return tuple(sorted(found, key=lambda t: t.internal))


def classed(form: ThreadForm) -> bool:
    """Whether classes of a thread are in the tables; its basic sizes are known in any case."""
    return form.system in _WAYS


def usual_classes(form: ThreadForm) -> tuple[str, str]:
    """The classes that are meant where none is written (ISO 965-1, ASME B1.1): screw and nut."""
    if form.system == "metric" and form.major <= SMALL_METRIC:
        return "6h", "5H"
    return DEFAULT[form.system]


def split_class(designation: str) -> tuple[str, tuple[str, ...]]:
    """``M8x1-6H/6g LH`` -> (``M8x1 LH``, (``6H``, ``6g``)); no class is an empty tuple."""
    text = " ".join(of_length(designation, MAX_DESIGNATION, "the thread", StandardError).split())
    hand = re.search(r"[\s-]+(LH|RH)$", text, re.I)
    tail = f" {hand[1].upper()}" if hand else ""
    text = text[: hand.start()] if hand else text
    pattern = r"(?:\d[A-Za-z](?:\d[A-Za-z])?)(?:/\d[A-Za-z](?:\d[A-Za-z])?)?$"
    if re.search(r"ACME", text, re.I):
        found = re.search(r"\s*-?\s*([234]G)$", text, re.I)
        if not found:
            return text + tail, ()
        return text[: found.start()] + tail, (f"{found[1].upper()}e", f"{found[1].upper()}i")
    if re.match(r"(?:M|Tr)\s*\d", text, re.I):
        found = re.search(rf"\s*-\s*({pattern[:-1]})$", text) or re.search(rf"\s+({pattern[:-1]})$", text)
    elif re.match(r"G\s*\d", text, re.I):
        found = re.search(r"\s*-?\s*([AB])$", text, re.I)
        return (text[: found.start()] + tail, (found[1].upper(),)) if found else (text + tail, ())
    else:
        found = re.search(r"\s*-?\s*([123][AB](?:/[123][AB])?)$", text, re.I)
    if not found:
        return text + tail, ()
    parts = tuple(found[1].split("/"))
    return text[: found.start()] + tail, parts if text[:1] in "MmTt" else tuple(p.upper() for p in parts)


# metric ----------------------------------------------------------------------------------------
def _metric(form: ThreadForm, thread_class: str) -> ThreadLimits:
    match = _METRIC_CLASS.match(thread_class)
    if not match or (match[4] and match[4] != match[2] and match[4].isupper() != match[2].isupper()):
        raise StandardError("a metric class reads 6g, 6H or 5g6g", received=thread_class)
    grade, letter = int(match[1]), match[2]
    second = int(match[3]) if match[3] else grade
    p, d = form.pitch, form.major
    d2, d1 = d - 0.75 * H * p, d - 1.25 * H * p
    shift = _deviation(letter, p)
    if letter.isupper():
        t2, t1 = _tolerance("TD2", grade, p, d), _tolerance("TD1", second, p, d)
        major: Side = (d + shift, None)
        pitch_diameter: Side = (d2 + shift, d2 + shift + t2)
        minor: Side = (d1 + shift, d1 + shift + t1)
    else:
        outer = _deviation(match[4], p) if match[4] else shift
        t2, t = _tolerance("Td2", grade, p, d), _tolerance("Td", second, p, d)
        major = (d + outer - t, d + outer)
        pitch_diameter = (d2 + shift - t2, d2 + shift)
        minor = (None, d1 + shift)
    return _made(form, thread_class, letter.isupper(), (major, pitch_diameter, minor), 3, "ISO 965-1:2013")


def _deviation(letter: str, pitch: float) -> float:
    for row in rows("metric_deviations"):
        if row["letter"] == letter and abs(float(row["pitch_mm"]) - pitch) < ROUNDING:
            return float(row["deviation_um"]) / 1000
    raise StandardError(
        f"the letter {letter} has no deviation at a pitch of {pitch:g}",
        rule="ISO 965-1: G and H for nuts, e f g h for screws, standard pitches",
    )


def _tolerance(what: str, grade: int, pitch: float, major: float) -> float:
    for row in rows("metric_tolerances"):
        if row["what"] == what and row["grade"] == str(grade) and abs(float(row["pitch_mm"]) - pitch) < ROUNDING:  # noqa: SIM102
            if float(row["over_mm"]) < major <= float(row["up_to_mm"]):
                return float(row["tolerance_um"]) / 1000
    raise StandardError(
        f"ISO 965-1 has no {what} of grade {grade} for ⌀{major:g} with a pitch of {pitch:g}",
        hint="class 6g or 6H, a pitch of the standard series",
    )


# unified ---------------------------------------------------------------------------------------
def _unified(form: ThreadForm, thread_class: str) -> ThreadLimits:
    d, p = form.major / MM_PER_INCH, form.pitch / MM_PER_INCH
    engaged = d if _of_a_main_series(d, p) else 9 * p
    t2 = _rounded(0.0015 * d ** (1 / 3) + 0.0015 * math.sqrt(engaged) + 0.015 * p ** (2 / 3), 6)
    d2, d1 = d - 0.75 * H * p, d - 1.25 * H * p
    number, side = int(thread_class[0]), thread_class[1]
    if side == "A":
        tabulated = TABULATED_ALLOWANCE.get((round(d, 6), round(1 / p)))
        allowance = 0.0 if number == 3 else _rounded(0.3 * t2, 4) if tabulated is None else tabulated
        t = (0.09 if number == 1 else 0.06) * p ** (2 / 3)
        top, middle = d - allowance, _rounded(d2, 4) - allowance
        major: Side = (top - _rounded(t, 4), top)
        pitch_diameter: Side = (middle - _rounded(t2 * {1: 1.5, 2: 1.0, 3: 0.75}[number], 4), middle)
        minor: Side = (None, _rounded(d1, 4) - allowance)
    else:
        middle = _rounded(d2, 4)
        major = (d, None)
        pitch_diameter = (middle, middle + _rounded(t2 * {1: 1.95, 2: 1.3, 3: 0.975}[number], 4))
        places = 3 if d >= 0.138 else 4
        top = _rounded(d1, 4) + _rounded(_minor_tolerance(d, p, number), 4)
        minor = (_rounded(_rounded(d1, 4), places), _rounded(top, 4 if number == 3 else places))
    sides = tuple((_mm(low), _mm(high)) for low, high in (major, pitch_diameter, minor))
    return _made(form, thread_class, side == "B", sides, 5, "ASME B1.1")


def _rounded_root(form: ThreadForm, thread_class: str) -> ThreadLimits:
    """UNJ: as the unified thread of class 3, but for the minor diameters."""
    if thread_class[0] != "3":
        raise StandardError("UNJ threads are of class 3A and 3B", rule="ASME B1.15", received=thread_class)
    plain = _unified(form, thread_class)
    d, p = form.major / MM_PER_INCH, form.pitch / MM_PER_INCH
    if plain.internal:
        minor: Side = (round(_rounded(d - 0.974279 * p, 4) * MM_PER_INCH, 5), plain.minor[1])
    else:
        minor = (None, round(_rounded(d - 1.154701 * p, 4) * MM_PER_INCH, 5))
    return replace(plain, minor=minor, source="ASME B1.15")


def _of_a_main_series(d: float, p: float) -> bool:
    """Whether a pitch is the UNC or the UNF one of its size (inches)."""
    row = next((r for r in rows("unified") if abs(float(r["major_in"]) - d) < ROUNDING), None)
    return row is not None and any(row[s] and abs(float(row[s]) * p - 1) < ROUNDING for s in ("unc", "unf"))


def _rounded(value: float, places: int) -> float:
    """Decimal, a half up: binary floats would round 0.00165 down."""
    return float(Decimal(f"{value:.10f}").quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP))


def _mm(inches: float | None) -> float | None:
    return None if inches is None else inches * MM_PER_INCH


def _minor_tolerance(d: float, p: float, number: int) -> float:
    """Tolerance of a nut's minor diameter, inches."""
    by_size = 0.05 * p ** (2 / 3) + 0.03 * p / d - 0.002
    if number == 3:
        least = 0.12 * p if round(1 / p) < 13 else 0.23 * p - 1.5 * p * p
        return min(max(by_size, least), 0.394 * p)
    coarse = 0.25 * p - 0.4 * p * p
    if d >= 0.25:
        return coarse if 1 / p >= 4 else 0.15 * p
    return min(max(by_size, coarse), 0.394 * p)


# pipe ------------------------------------------------------------------------------------------
def _pipe(form: ThreadForm, thread_class: str) -> ThreadLimits:
    row = next(r for r in rows("pipe_parallel") if abs(float(r["major_mm"]) - form.major) < ROUNDING)
    d, d2, d1 = (float(row[n]) for n in ("major_mm", "pitch_diameter_mm", "minor_mm"))
    if thread_class == "":
        sides: tuple[Side, Side, Side] = (
            (d, None),
            (d2, d2 + float(row["pitch_tolerance_mm"])),
            (d1, d1 + float(row["minor_tolerance_mm"])),
        )
    else:
        t2 = float(row["pitch_tolerance_b_mm" if thread_class == "B" else "pitch_tolerance_mm"])
        sides = ((d - float(row["major_tolerance_mm"]), d), (d2 - t2, d2), (None, d1))
    return _made(form, thread_class, thread_class == "", sides, 3, row["source"])


def _trapezoidal(form: ThreadForm, thread_class: str) -> ThreadLimits:
    sides, source = trapezoidal(form, thread_class)
    return _made(form, thread_class, thread_class.endswith("H"), sides, 3, source)


def _acme(form: ThreadForm, thread_class: str) -> ThreadLimits:
    """ACME classes are named alike for screw and nut."""
    sides, source = acme(form, thread_class)
    return _made(form, thread_class[:2].upper(), thread_class.endswith("i"), sides, 5, source)


_WAYS: dict[str, Callable[[ThreadForm, str], ThreadLimits]] = {
    "metric": _metric,
    "unified": _unified,
    "unj": _rounded_root,
    "pipe": _pipe,
    "trapezoidal": _trapezoidal,
    "acme": _acme,
}


def _made(
    form: ThreadForm, thread_class: str, internal: bool, sides: tuple[Side, ...], places: int, source: str
) -> ThreadLimits:
    """The limits of major, pitch and minor diameter, rounded."""
    major, pitch_diameter, minor = (
        (None if low is None else round(low, places), None if high is None else round(high, places))
        for low, high in sides
    )
    return ThreadLimits(form, thread_class, internal, major, pitch_diameter, minor, source)


# strength --------------------------------------------------------------------------------------
def stress_area(form: ThreadForm) -> float:
    """Tensile stress area in mm2 of a 60 degree thread: pi/4 ((d2 + d3) / 2)^2 (ISO 898-1); of a unified one
    pi/4 (D - 0.9743 / n)^2 in inches (ASME B1.1, appendix B).
    """
    if form.system == "unified":
        return math.pi / 4 * (form.major - 0.9743 * form.pitch) ** 2
    d2, d3 = form.major - 0.75 * H * form.pitch, form.major - 1.226869 * form.pitch
    return math.pi / 4 * ((d2 + d3) / 2) ** 2


def engagement_areas(screw: ThreadLimits, nut: ThreadLimits) -> tuple[float, float]:
    """Least shear areas in mm2 for each mm of engagement, of the screw's and of the nut's thread.

    Screw: pi D1max (1/2 + (d2min - D1max) / (P sqrt 3)); nut: pi dmin (1/2 + (dmin - D2max) / (P sqrt 3))
    (the usual strip areas of 60 degree threads, ASME B1.1 appendix).
    """
    p = screw.form.pitch
    d1_max, d2_min = nut.minor[1], screw.pitch_diameter[0]
    d_min, d2_max = screw.major[0], nut.pitch_diameter[1]
    if d1_max is None or d2_min is None or d_min is None or d2_max is None:
        raise StandardError("these threads lack the limits for an area of engagement", received=screw.name)
    return (
        math.pi * d1_max * (0.5 + (d2_min - d1_max) / (p * math.sqrt(3))),
        math.pi * d_min * (0.5 + (d_min - d2_max) / (p * math.sqrt(3))),
    )
