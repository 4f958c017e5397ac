"""What relations hold on to: flats, axes, round and tapered faces, rims, points, each in its member's own frame.

Plain values: the kernel reads them from a part's faces, edges and datums; every member also has its own frame (its
origin, axes and planes by the names below).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from lathed_solid.fit.errors import GoneError

Triple = tuple[float, float, float]
FeatureKind = Literal["flat", "round", "cone", "ball", "line", "rim", "point"]
#: have an axis; have a place of their own
AXIAL = ("round", "cone", "line", "rim")
PLACED = ("point", "ball", "rim")


@dataclass(frozen=True, slots=True)
class Helix:
    """A thread on a round face: ``pitch`` and ``lead`` in mm, the lead negative for a left hand.

    ``phase``: where along the axis, from the feature's ``origin``, the middle of a crest crosses the direction ``x``,
    mm; None for a thread drawn as a symbol, whose flanks have no place.
    """

    pitch: float
    lead: float
    phase: float | None = None


@dataclass(frozen=True, slots=True)
class Feature:
    """``direction`` is a flat's outward normal, else the axis; ``radius`` a round one's, a cone's at its ``origin``.

    mm. ``hollow``: the material lies outside (a bore). ``half_angle`` of a cone, rad, positive where it widens along
    its direction. ``x`` is square to the direction. ``low`` and ``high``: how far it reaches along its axis, mm.
    """

    kind: FeatureKind
    origin: Triple
    direction: Triple = (0.0, 0.0, 1.0)
    x: Triple = (1.0, 0.0, 0.0)
    radius: float = 0.0
    half_angle: float = 0.0
    hollow: bool = False
    low: float = 0.0
    high: float = 0.0
    helix: Helix | None = None

    @property
    def axial(self) -> bool:
        """Whether it has an axis."""
        return self.kind in AXIAL

    @property
    def placed(self) -> bool:
        """Whether it has one place."""
        return self.kind in PLACED

    @property
    def words(self) -> str:
        """What it is, for a person."""
        if self.kind == "round":
            return f"{'bore' if self.hollow else 'round'} ⌀{2 * self.radius:.4g}"
        names = {"flat": "flat face", "cone": "taper", "ball": "sphere", "line": "axis", "rim": "round edge"}
        return names.get(self.kind, self.kind)


Features = Mapping[str, Feature]

#: every member's own frame
FRAME: dict[str, Feature] = {
    "origin": Feature("point", (0.0, 0.0, 0.0)),
    "X axis": Feature("line", (0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "Y axis": Feature("line", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    "Z axis": Feature("line", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
    "YZ plane": Feature("flat", (0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "ZX plane": Feature("flat", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    "XY plane": Feature("flat", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
}


def feature(found: Features, name: str, where: str) -> Feature:
    """The feature of a name, of a part's or of the frame. Raises GoneError with those that could be meant."""
    it = found.get(name) or FRAME.get(name)
    if it is None:
        raise GoneError("this is not on the part", where=where, missing=name, candidates=candidates(found, name))
    return it


def candidates(found: Features, name: str) -> tuple[str, ...]:
    """Names that could be meant by one that is gone: those of the same step first, then of the same ending."""
    step, _, rest = name.partition("/")
    ending = rest.rsplit(".", 1)[-1]

    def far(other: str) -> tuple[bool, bool, str]:
        return not other.startswith(f"{step}/"), not other.endswith(ending), other

    return tuple(sorted((n for n in found if "|" not in n), key=far))[:12]
