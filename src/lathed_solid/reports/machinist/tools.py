"""The tools that the holes, stations and inner corners of a part ask for."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence

from lathed_solid.kernel.shop.figures import ShopFigures
from lathed_solid.reports.machinist.model import HoleRow, StationRow, Tool
from lathed_solid.reports.machinist.saying import Say
from lathed_solid.reports.machinist.work_order import grooves


def tools_for(
    figures: ShopFigures, holes: Sequence[HoleRow], stations: Sequence[StationRow], say: Say
) -> tuple[Tool, ...]:
    """Drills first, then what follows them, then turning and milling."""
    return (*_drills(holes, say), *_after(holes), *_turning(stations), *_milling(figures, say))


def _listed(holes: Sequence[HoleRow]) -> str:
    return ", ".join(h.id for h in holes)


def _drills(holes: Sequence[HoleRow], say: Say) -> Iterator[Tool]:
    by_size: dict[tuple[str, str], list[HoleRow]] = defaultdict(list)
    for h in holes:
        point = f", {h.tip_angle:.0f}° point" if h.tip_angle is not None else ""
        flat = ", flat bottom" if h.tip_angle is None and h.depth is not None else ""
        by_size[say(h.diameter), f"{point}{flat}"].append(h)
    for (size, form), found in sorted(by_size.items(), key=lambda it: it[1][0].diameter):
        reamed = [h for h in found if h.fit]
        if reamed:
            yield Tool(f"reamer ⌀{size} {reamed[0].fit}", _listed(reamed), "drilled smaller first")
        plain = [h for h in found if not h.fit]
        if plain:
            deepest = max((h.depth or 0.0) / h.diameter for h in plain)
            yield Tool(f"drill ⌀{size}{form}", _listed(plain), f"{deepest:.1f} diameters deep" if deepest > 5 else "")


def _after(holes: Sequence[HoleRow]) -> Iterator[Tool]:
    taps: dict[str, list[HoleRow]] = defaultdict(list)
    entries: dict[str, list[HoleRow]] = defaultdict(list)
    for h in holes:
        if h.thread:
            taps[h.thread].append(h)
        for entry in filter(None, h.entry.split(" + ")):
            entries[entry.partition(" x ")[0] if entry.startswith("counterbore") else entry].append(h)
    yield from (Tool(f"tap {name}", _listed(found)) for name, found in sorted(taps.items()))
    yield from (Tool(name, _listed(found)) for name, found in sorted(entries.items()))


def _turning(stations: Sequence[StationRow]) -> Iterator[Tool]:
    outer = [s for s in stations if not s.inner]
    if outer:
        yield Tool("turning tool", ", ".join(s.id for s in outer))
    threads = [s for s in stations if s.thread]
    for s in threads:
        yield Tool(f"threading tool or die {s.thread}", s.id)
    inner = [s for s in stations if s.inner and abs(s.first - s.last) < 1e-9]
    if inner:
        yield Tool(f"boring bar below ⌀{min(s.first for s in inner):.4g} mm, or drills", ", ".join(s.id for s in inner))
    for s in grooves(stations):
        yield Tool(f"grooving tool no wider than {s.stop - s.start:.4g} mm", s.id)


def _milling(figures: ShopFigures, say: Say) -> Iterator[Tool]:
    reached = [c for c in figures.corners if c.reached]
    if reached:
        least = min(reached, key=lambda c: c.radius)
        deep = max(c.depth for c in reached if c.radius < least.radius + 1e-6)
        ratio = deep / (2 * least.radius)
        remark = f"{say(deep)} deep, {ratio:.1f} diameters" + (": difficult" if ratio > 4 else "")
        yield Tool(f"end mill up to ⌀{say(2 * least.radius)}", "inside corners", remark)
    rounded = sorted({round(c.radius, 6) for c in figures.corners if not c.reached})
    if rounded and figures.kind == "milled":
        yield Tool(f"ball or corner radius {', '.join(map(say, rounded))}", "hollow roundings")
    elif rounded:
        yield Tool(f"tool nose radius up to {say(rounded[0])}", "hollow roundings")
    elif figures.kind == "milled" and figures.floors and not reached:
        yield Tool("end mill, as large as the recesses allow", "recesses")
