"""The next usual bar or plate that a part can be cut from, the lightest of what there is.

Allowances: ``FACE`` mm on each milled face, ``SKIN`` on a turned diameter, ``END`` for facing or sawing at each end.
"""

from __future__ import annotations

import itertools
import math

from lathed_solid.kernel.shop.figures import ShopFigures
from lathed_solid.quantity import LengthUnit
from lathed_solid.reports.machinist.model import Stock
from lathed_solid.standards import StandardError
from lathed_solid.standards.stock import next_usual

FACE, SKIN, END = 1.0, 2.0, 2.0


def stock_for(figures: ShopFigures, unit: LengthUnit, density: float | None) -> Stock:
    """``density`` in g/mm3, None where the material is not known."""
    options = list(_turned(figures, unit) if figures.kind == "turned" else _milled(figures, unit))
    if not options:
        size = tuple(s + 2 * FACE for s in figures.size)
        options = [("a blank made for it", size, size[0] * size[1] * size[2])]
    kind, sizes, volume = min(options, key=lambda o: (round(o[2], 3), o[0]))
    grams = None if density is None else volume * density
    return Stock(kind, sizes, volume, grams, 1 - figures.volume / volume)


_Option = tuple[str, tuple[float, ...], float]


def _turned(figures: ShopFigures, unit: LengthUnit) -> list[_Option]:
    outer = [max(s.first, s.last) for s in figures.stations if not s.inner]
    long = figures.size[2] + 2 * END
    widest = max([*outer, *figures.size[:2]]) if figures.hexagon is None else max([*outer, 0.0])
    out: list[_Option] = []
    if figures.hexagon is not None:
        corners = 2 * figures.hexagon / math.sqrt(3)
        try:
            flats = next_usual("hexagon", figures.hexagon, unit)
            if abs(flats - figures.hexagon) < 1e-6 and max(outer, default=0.0) <= corners:
                out.append(("hexagon bar", (flats, long), math.sqrt(3) / 2 * flats * flats * long))
        except StandardError:
            pass
        widest = max(widest, corners)
    try:
        d = next_usual("round", widest + SKIN, unit)
        out.append(("round bar", (d, long), math.pi / 4 * d * d * long))
    except StandardError:
        pass
    return out


def _milled(figures: ShopFigures, unit: LengthUnit) -> list[_Option]:
    out: list[_Option] = []
    for thick, wide, long in itertools.permutations(figures.size):
        if long < wide - 1e-9:
            continue
        try:
            t, w = next_usual("thickness", thick + 2 * FACE, unit), next_usual("width", wide + 2 * FACE, unit)
        except StandardError:
            continue
        if t <= w:
            size = (w, t, long + 2 * END)
            out.append(("flat bar" if w > 1.5 * t else "block cut from flat bar", size, size[0] * size[1] * size[2]))
    for k in range(3):
        try:
            d = next_usual("round", figures.around[k] + SKIN, unit)
        except StandardError:
            continue
        long = figures.size[k] + 2 * END
        out.append(("round bar", (d, long), math.pi / 4 * d * d * long))
    return out
