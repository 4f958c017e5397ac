"""The machinist's sheet as a value; mm, g, and degrees, places from part zero."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.kernel.shop.figures import ShopFigures, Zero
from lathed_solid.kernel.vectors import Triple

#: sides as they are seen from part zero: name, the way they face
SIDES: tuple[tuple[str, Triple], ...] = (
    ("top", (0, 0, 1)), ("front", (0, -1, 0)), ("right", (1, 0, 0)), ("left", (-1, 0, 0)), ("back", (0, 1, 0)),
    ("underside", (0, 0, -1)),
)  # fmt: skip
#: of a turned part, whose Z is its axis
ENDS = {"top": "right end", "underside": "left end"}


def side_of(out: Triple, turned: bool) -> str:
    """The side that faces a way; the nearest one, said to lean where it does."""
    name, way = max(SIDES, key=lambda s: sum(a * b for a, b in zip(s[1], out, strict=True)))
    straight = sum(a * b for a, b in zip(way, out, strict=True)) > 1 - 1e-9
    named = (ENDS.get(name) or "around") if turned else name
    return named if straight else f"{named}, leaning"


@dataclass(frozen=True)
class HoleRow:
    """A hole as it is drilled: where its mouth stands, what goes in."""

    id: str
    at: Triple
    out: Triple
    side: str
    diameter: float
    depth: float | None
    tip_angle: float | None
    thread: str
    thread_depth: float | None
    pitch: float
    tap_drill: float | None
    entry: str
    fit: str
    balloons: tuple[int, ...]


@dataclass(frozen=True)
class StationRow:
    """A stretch in turning order: from, to along the axis from the right end; its diameters."""

    id: str
    end: str
    inner: bool
    start: float
    stop: float
    first: float
    last: float
    thread: str


@dataclass(frozen=True)
class Stock:
    """What it is cut from: ``kind`` in words, its sizes, its mass (None: not known), the share that is cut away."""

    kind: str
    size: tuple[float, ...]
    volume: float
    grams: float | None
    cut_away: float


@dataclass(frozen=True)
class Setting:
    """One holding of the part: which side is worked on, what is done, how it is held, and why in this order."""

    side: str
    does: tuple[str, ...]
    held: str
    why: str


@dataclass(frozen=True)
class Tool:
    """A cutter, what for, and a remark where it gets difficult."""

    name: str
    use: str
    remark: str = ""


@dataclass(frozen=True)
class Trouble:
    """What cannot be made as drawn, or not without care (``hard``): what, where, why."""

    what: str
    where: str
    why: str
    hard: bool = False


@dataclass(frozen=True)
class MachinistSheet:
    """All of it."""

    name: str
    material: str
    unit: str
    status: str
    zero: Zero
    figures: ShopFigures
    stock: Stock
    settings: tuple[Setting, ...]
    holes: tuple[HoleRow, ...]
    stations: tuple[StationRow, ...]
    tools: tuple[Tool, ...]
    cannot: tuple[Trouble, ...]
    #: words of the drawing that no size is asked by
    instructions: tuple[str, ...] = ()
