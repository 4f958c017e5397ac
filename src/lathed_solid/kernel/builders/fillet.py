"""Rounding edges with one radius, or with one that changes evenly along each edge."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from OCP.BRepFilletAPI import BRepFilletAPI_MakeFillet

from lathed_solid.kernel.builders.blend import Maker, blended, too_large, too_narrow, tried
from lathed_solid.kernel.builders.pick import PickedEdge, picked_edges
from lathed_solid.kernel.builders.rolling import corner_of, rolled, runs_on, tapers
from lathed_solid.kernel.builders.targets import change_bodies
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.topology import Key
from lathed_solid.part.steps.fillet import ResolvedFillet
from lathed_solid.quantity.message_units import said

#: how many edges a refusal names
SHOWN = 3


def build_fillet(parts: Parts, step: ResolvedFillet, number: int) -> Parts:
    """The part with the edges rounded. Raises BuildError."""

    def rounded(body: Body) -> Body:
        picked = picked_edges(body, step.edges)
        prefix = f"{number}/"
        make = _maker(body, picked, None if step.end is None else step.end / step.radius)
        if step.end is None:
            return _rounded(body, picked, step.radius, make, prefix)
        _wide_enough(picked, max(step.radius, step.end))
        return blended(body, picked, step.radius, make, prefix, "R")

    return change_bodies(parts, step.edges, rounded)


def _wide_enough(picked: Sequence[PickedEdge], largest: float) -> None:
    """Refuse a radius that grows beyond its land: the kernel does not survive it. Raises BuildError."""
    land = too_narrow(picked, largest)
    if land is not None:
        raise BuildError(f"R{said(largest)} does not fit", rule=f"the land beside it is {said(round(land, 3))} wide",
                         hint="a smaller end radius")  # fmt: skip


def _maker(body: Body, picked: Sequence[PickedEdge], ratio: float | None = None) -> Maker:
    def make(radius: float) -> Any:
        maker = BRepFilletAPI_MakeFillet(body.shape)
        for p in picked:
            if ratio is None:
                maker.Add(radius, p.edge)
            else:
                maker.Add(radius, radius * ratio, p.edge)
        return maker

    return make


def _rounded(body: Body, picked: Sequence[PickedEdge], radius: float, make: Maker, prefix: str) -> Body:
    """All edges by the kernel; else all by hand, or by hand what it refuses alone, where that is of a plain kind.

    Where a land tapers to nothing or ends in another round it is done by hand from the first. Raises BuildError,
    saying what would fit.
    """
    corners = {Key(p.edge): c for p in picked if (c := corner_of(body, p, radius)) is not None}

    def by_hand(hard: Sequence[PickedEdge]) -> Body | None:
        easy = [p for p in picked if p not in hard]
        if not hard or any(Key(p.edge) not in corners for p in hard):
            return None
        base = tried(body, easy, radius, _maker(body, easy), prefix) if easy else body
        return base and rolled(body, [corners[Key(p.edge)] for p in hard], radius, prefix, base)

    tapering = [p for p in picked if Key(p.edge) in corners and tapers(corners[Key(p.edge)])]
    ending = [p for p in picked if Key(p.edge) in corners and runs_on(body, corners[Key(p.edge)])]
    for some in (tapering, ending):
        found = by_hand(some)
        if found is not None:
            return found
    found = by_hand(picked) if tapering else tried(body, picked, radius, make, prefix) or by_hand(picked)
    if found is not None:
        return found
    if tapering:
        raise BuildError(f"R{said(radius)} does not fit", rule="the land beside it tapers to nothing",
                         hint="another radius, or the other rounds first")  # fmt: skip
    alone = [tried(body, [p], radius, _maker(body, [p]), prefix) is not None for p in picked]
    found = by_hand([p for p, fits in zip(picked, alone, strict=True) if not fits])
    found = found or by_hand([p for p in picked if Key(p.edge) in corners])
    if found is None:
        raise too_large(body, picked, radius, make, "R", _refused(picked, alone))
    return found


def _refused(picked: Sequence[PickedEdge], alone: Sequence[bool]) -> str:
    """Which edges cannot be rounded, where others can; or that they cannot be rounded together."""
    if len(picked) < 2 or not any(alone):
        return ""
    bad = list(dict.fromkeys(p.name for p, fits in zip(picked, alone, strict=True) if not fits))
    if not bad:
        return "each of them fits alone: where they meet they do not"
    return f"refused at {', '.join(bad[:SHOWN])}{' …' if len(bad) > SHOWN else ''}"
