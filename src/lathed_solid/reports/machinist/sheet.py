"""From what was found on the solid to the machinist's sheet."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence

from lathed_solid.engine.protocol import FindForShop, ShopFound
from lathed_solid.kernel.shop.figures import FoundHole, Segment, ShopFigures, Station
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.reports.machinist.cannot import troubles
from lathed_solid.reports.machinist.model import HoleRow, MachinistSheet, StationRow, side_of
from lathed_solid.reports.machinist.saying import Say, sayer
from lathed_solid.reports.machinist.settings import settings_for
from lathed_solid.reports.machinist.stock_choice import stock_for
from lathed_solid.reports.machinist.tools import tools_for
from lathed_solid.reports.status import status_of
from lathed_solid.standards import StandardError, material

#: lengths and diameters that differ by less are one, mm
BARELY = 1e-6

Ask = Callable[[FindForShop], ShopFound]


def machinist_sheet(document: Document, ask: Ask) -> MachinistSheet:
    """The sheet of a part. Raises MeasureError where there is no solid."""
    found = ask(FindForShop(document=document))
    figures, say = found.figures, sayer(document.unit)
    holes = tuple(_rows(document, figures, found.report, say))
    stations = tuple(_stations(document, figures))
    stock = stock_for(figures, document.unit, _density(document))
    return MachinistSheet(
        document.name, document.material, document.unit, status_of(found.report), figures.zero, figures,
        stock, settings_for(figures, stock, holes, stations, say),
        holes, stations, tools_for(figures, holes, stations, say),
        troubles(figures, found.report, holes, stations, document.unit, say), document.instructions,
    )  # fmt: skip


def _density(document: Document) -> float | None:
    try:
        return material(document.material).density
    except StandardError:
        return None


def _rows(document: Document, figures: ShopFigures, report: Report, say: Say) -> Iterable[HoleRow]:
    states: dict[str, set[int]] = {}
    for r in report.rows:
        for face in r.faces:
            states.setdefault(face, set()).add(r.balloon)
    turned = figures.kind == "turned"
    for n, h in enumerate(figures.holes, 1):
        balloons = tuple(sorted({b for f in h.faces for b in states.get(f, ())}))
        fit = next((c.fit for b in balloons if (c := document.callout(b)) is not None
                    and c.role == "hole diameter" and c.fit), "")  # fmt: skip
        thread = h.thread
        yield HoleRow(
            f"H{n}", h.mouth, h.out, side_of(h.out, turned), h.diameter, h.depth,
            None if h.tip_angle is None else math.degrees(h.tip_angle),
            "" if thread is None else thread.designation, None if thread is None else thread.depth,
            0.0 if thread is None else thread.pitch, None if thread is None else h.diameter, _entry(h, say), fit or "",
            balloons,
        )  # fmt: skip


def _entry(h: FoundHole, say: Say) -> str:
    """What widens its mouth, from outside inwards; and what widens its far end."""
    near: list[str] = []
    far: list[str] = []
    for s in h.segments:
        words = _widening(s, h.diameter, say)
        if words:
            before = all(
                not (o.straight and abs(o.first - h.diameter) < 1e-9) for o in h.segments if o.end <= s.start + 1e-6
            )
            (near if before else far).append(words)
    return " + ".join([*near, *(f"{w}, from the other side" for w in far)])


def _widening(s: Segment, diameter: float, say: Say) -> str:
    if s.straight:
        return "" if s.first < diameter + 1e-9 else f"counterbore ⌀{say(s.first)} x {say(s.end - s.start)}"
    wide = max(s.first, s.last)
    if wide < diameter + 1e-9:
        return ""
    angle = math.degrees(2 * math.atan(abs(s.first - s.last) / 2 / (s.end - s.start)))
    return f"countersink ⌀{say(wide)} x {angle:.0f}°"


def _stations(document: Document, figures: ShopFigures) -> Iterable[StationRow]:
    """In turning order: from each end to the widest; bores from the end that they open to."""
    outer = [s for s in figures.stations if not s.inner]
    if not outer:
        return
    widest = max(range(len(outer)), key=lambda k: (max(outer[k].first, outer[k].last), outer[k].end - outer[k].start))
    right = [(s, "right end") for s in outer[: widest + 1]]
    left = [(s, "left end") for s in reversed(outer[widest + 1 :])]
    inner = [s for s in figures.stations if s.inner]
    bored = [(s, bored_from(s, inner, figures.size[2])) for s in inner]
    inwards = [*(b for b in bored if b[1] == "right end"), *(b for b in bored[::-1] if b[1] == "left end")]
    for n, (s, end) in enumerate([*right, *left, *inwards], 1):
        start = 0.0 if abs(s.start) < 1e-9 else s.start
        thread = s.thread or getattr(document.step(s.cut_by), "designation", "") if s.cut_by else s.thread
        yield StationRow(f"S{n}", end, s.inner, start, s.end, s.first, s.last, thread)


def bored_from(s: Station, inner: Sequence[Station], length: float) -> str:
    """The end from which a bore is reached: the one that it is open to; of both the one towards which nothing is
    narrower than itself; of both of these the nearer one. Of a bore that is open to neither the nearer one.
    """
    waste = min(s.first, s.last) - BARELY
    right = _way_in(0.0, s.start, inner)
    left = _way_in(s.end, length, inner)
    open_to = [(name, width) for name, width in (("right end", right), ("left end", left)) if width is not None]
    wide = [name for name, width in open_to if width >= waste]
    names = wide or [name for name, _ in open_to]
    if len(names) == 1:
        return names[0]
    return "right end" if s.start + s.end <= length + BARELY else "left end"


def _way_in(start: float, end: float, inner: Sequence[Station]) -> float | None:
    """The least diameter of the hollow from one place along the axis to another; None where it does not reach."""
    at, least = start, math.inf
    for s in sorted(inner, key=lambda s: (s.start, s.end)):
        if s.end <= at + BARELY or at >= end - BARELY:
            continue
        if s.start > at + BARELY:
            return None
        at, least = s.end, min(least, s.first, s.last)
    return least if at >= end - BARELY else None
