"""What cannot be made as drawn, and what needs care: from the solid's own faces, each with its place and reason."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from lathed_solid.kernel.shop.figures import ShopFigures
from lathed_solid.kernel.vectors import Triple
from lathed_solid.proof import Report
from lathed_solid.quantity import LengthUnit
from lathed_solid.reports.machinist.model import HoleRow, StationRow, Trouble
from lathed_solid.reports.machinist.saying import Say

#: pitches of incomplete thread that a bottoming tap, and a plug tap, leave at the end of a blind hole (DIN 2197: 2 to 3
#: and 3.5 to 5 threads of lead)
BOTTOMING, PLUG = 2.0, 4.0
#: pitches that a threading tool runs out in before a shoulder (DIN 76-1, short run-out)
RUN_OUT = 1.25
#: depth by diameter of a drill, and of an end mill, from which it gets difficult
DRILL, MILL = 8.0, 4.0


def troubles(
    figures: ShopFigures, report: Report, holes: Sequence[HoleRow], stations: Sequence[StationRow], unit: LengthUnit,
    say: Say,
) -> tuple[Trouble, ...]:  # fmt: skip
    """Everything that was found, what cannot be made first."""
    found = [*_sharp(figures, say), *_threads(holes, say), *_run_outs(stations, say), *_thin(report, unit),
             *_deep(holes, say), *_corners(figures, say)]  # fmt: skip
    return tuple(sorted(found, key=lambda t: t.hard))


def _place(p: Triple, say: Say) -> str:
    return "X {} Y {} Z {}".format(*map(say, p))


def _sharp(figures: ShopFigures, say: Say) -> Iterator[Trouble]:
    for c in figures.sharp:
        yield Trouble(
            "sharp inside corner", f"{_place(c.at, say)}, between {c.faces[0]} and {c.faces[1]}",
            "a turning cutter leaves its radius where neither wall can be cut square on: broached, eroded, or relieved",
        )  # fmt: skip


def _threads(holes: Sequence[HoleRow], say: Say) -> Iterator[Trouble]:
    for h in holes:
        if not h.thread or h.depth is None or h.pitch <= 0:
            continue
        deep = h.depth if h.thread_depth is None else h.thread_depth
        left = (h.depth - deep) / h.pitch
        where = f"hole {h.id}, {_place(h.at, say)}"
        if left < BOTTOMING - 1e-9:
            why = f"{left:.1f} pitches below the thread; a bottoming tap needs {BOTTOMING:g}"
            yield Trouble(f"{h.thread} to the bottom", where, why)
        elif left < PLUG - 1e-9:
            why = f"{left:.1f} pitches below the thread: a bottoming tap after the plug tap"
            yield Trouble(f"{h.thread} near the bottom", where, why, hard=True)


def _run_outs(stations: Sequence[StationRow], say: Say) -> Iterator[Trouble]:
    outer = [s for s in stations if not s.inner]
    for s in outer:
        pitch = _pitch(s.thread)
        if pitch is None:
            continue
        for other in outer:
            touching = min(abs(other.start - s.stop), abs(other.stop - s.start)) < RUN_OUT * pitch
            if other is not s and touching and min(other.first, other.last) > max(s.first, s.last) + 1e-6:
                where = f"station {s.id}, at {say(s.stop if other.start >= s.stop - 1e-9 else s.start)}"
                why = f"no run-out of {RUN_OUT:g} pitches or relief before the shoulder of {other.id}"
                yield Trouble(f"{s.thread} up to a shoulder", where, why)


def _pitch(designation: str) -> float | None:
    from lathed_solid.errors import LathedError
    from lathed_solid.standards.threads import thread_form

    try:
        return None if not designation else thread_form(designation).pitch
    except LathedError:
        return None


def _thin(report: Report, unit: LengthUnit) -> Iterator[Trouble]:
    for wall in report.thin:
        what = "hole that breaks out" if wall.thickness <= 0 else "thin wall"
        yield Trouble(what, f"{wall.first} and {wall.second}", wall.words(unit), hard=wall.thickness > 0)


def _deep(holes: Sequence[HoleRow], say: Say) -> Iterator[Trouble]:
    for h in holes:
        if h.depth is not None and h.depth > DRILL * h.diameter:
            why = f"{h.depth / h.diameter:.1f} diameters deep: pecked, or a deep-hole drill"
            yield Trouble("deep hole", f"hole {h.id}, {_place(h.at, say)}", why, hard=True)


def _corners(figures: ShopFigures, say: Say) -> Iterator[Trouble]:
    for c in figures.corners:
        if c.reached and c.depth > MILL * 2 * c.radius:
            why = f"{c.depth / (2 * c.radius):.1f} diameters deep for a cutter of R {say(c.radius)}"
            yield Trouble("deep inside corner", f"{_place(c.at, say)}, {c.face}", why, hard=True)
