"""Settings in order: how often the part is held anew, what is cut each time, and why in that order.

A milled part is squared up, then every side that has holes or recesses is one setting, the side with most of them
first, so that its bores and the outside stand true to one another. A turned part is turned from the end whose finished
stretch gives the better hold afterwards, then turned round; what is not about its axis comes last.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from lathed_solid.kernel.shop.figures import ShopFigures
from lathed_solid.reports.machinist.model import HoleRow, Setting, StationRow, Stock, side_of
from lathed_solid.reports.machinist.saying import Say
from lathed_solid.reports.machinist.stock_choice import END
from lathed_solid.reports.machinist.work_order import drilling, turning

#: a recess of no more area than a hole's own floor is the hole's, mm2
SMALL = 1.0


def settings_for(
    figures: ShopFigures, stock: Stock, holes: Sequence[HoleRow], stations: Sequence[StationRow], say: Say
) -> tuple[Setting, ...]:
    """In the order in which they are done."""
    if figures.kind == "turned":
        hexagon = () if figures.hexagon is None else (_hexagon(figures.hexagon, say),)
        return (*_turned(stations, say), *hexagon, *_across(holes))
    return _milled(figures, stock, holes, say)


def _turned(stations: Sequence[StationRow], say: Say) -> list[Setting]:
    ends = [e for e in ("right end", "left end") if any(s.end == e for s in stations)]
    if not ends:
        return []
    outer = {e: [s for s in stations if s.end == e and not s.inner] for e in ends}

    def hold(end: str) -> float:
        """How good a hold the finished stretch of an end gives: the longest straight stretch by its diameter."""
        straight = [s for s in outer[end] if abs(s.first - s.last) < 1e-9 and not s.thread]
        return max(((s.stop - s.start) * s.first for s in straight), default=0.0)

    first = max(ends, key=hold)
    order = [first, *(e for e in ends if e != first)]
    out = []
    for n, end in enumerate(order):
        does = turning(end, [s for s in stations if s.end == end], stations)
        held = "in the chuck, on the stock" if n == 0 else _held_on(outer[first], say)
        if n == 0:
            why = "nothing else to turn: parted off after it" if len(order) == 1 else (
                "its finished stretch gives the longer hold for the other end")  # fmt: skip
        else:
            why = "turned round once the first end is finished"
        out.append(Setting(end, tuple(does), held, why))
    return out


def _held_on(stations: Sequence[StationRow], say: Say) -> str:
    straight = [s for s in stations if abs(s.first - s.last) < 1e-9 and not s.thread]
    best = max(straight, key=lambda s: (s.stop - s.start) * s.first, default=None)
    return "in soft jaws" if best is None else f"in soft jaws or a collet on {best.id}, ⌀{say(best.first)}"


def _hexagon(flats: float, say: Say) -> Setting:
    return Setting("around", (f"mill the hexagon, {say(flats)} across flats",), "indexed by sixths",
                   "from the turned diameter; not wanted where it is cut from hexagon bar of that size")  # fmt: skip


def _across(holes: Sequence[HoleRow]) -> list[Setting]:
    by_side: dict[str, list[HoleRow]] = defaultdict(list)
    for h in holes:
        by_side[h.side].append(h)
    out = []
    for side, found in by_side.items():
        held = "upright, indexed" if side in ("right end", "left end") else "level in vees, turned to each"
        out.append(Setting(side, tuple(drilling(found)), held, "after turning: the round outside locates it"))
    return out


def _milled(figures: ShopFigures, stock: Stock, holes: Sequence[HoleRow], say: Say) -> tuple[Setting, ...]:
    by_side: dict[str, list[HoleRow]] = defaultdict(list)
    for h in holes:
        by_side[h.side].append(h)
    size = " x ".join(map(say, figures.size))
    first = f"face to length, {say(stock.size[-1] - 2 * END)}" if stock.kind == "round bar" else f"square up to {size}"
    held = "in the chuck" if stock.kind == "round bar" else "in the vice, on parallels"
    where = "both ends" if stock.kind == "round bar" else "all six"
    out = [Setting(where, (first,), held, "every later setting locates on these faces")]
    left = _recesses(figures)
    recesses: dict[str, int] = {}
    sides = sorted(by_side, key=lambda s: (-len(by_side[s]), s))
    while True:  # recesses go to sides that are held anyway; the rest to as few more as will do
        for side in sides:
            done = [k for k, ways in left.items() if side in ways]
            recesses[side] = recesses.get(side, 0) + len(done)
            left = {k: ways for k, ways in left.items() if k not in done}
        more = [s for ways in left.values() for s in ways if s not in sides]
        if not more:
            break
        sides.append(max(sorted(set(more)), key=more.count))
    sides.sort(key=lambda s: (-len(by_side[s]), -recesses.get(s, 0), s))
    for n, side in enumerate(sides):
        many = recesses.get(side, 0)
        does = [f"mill {many} recessed flats" if many > 1 else "mill the recessed flat"] if many else []
        does += drilling(by_side[side])
        why = "most of the holes and recesses in one setting, true to one another" if n == 0 else (
            "what is not reached from the sides before")  # fmt: skip
        out.append(Setting(side, tuple(does), f"in the vice, {side} up", why))
    return tuple(out)


def _recesses(figures: ShopFigures) -> dict[int, frozenset[str]]:
    """Recessed flats that are no hole's floor: the sides from which a cutter can leave each."""
    heads = {name.partition(".")[0] for h in figures.holes for name in h.faces}
    own = (f for f in figures.floors if f.area > SMALL and f.face.partition(".")[0] not in heads)
    return {k: frozenset(side_of(w, turned=False) for w in f.ways) for k, f in enumerate(own) if f.ways}
