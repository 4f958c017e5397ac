"""The kinds of constraint: what each takes, whether it is a dimension, and its name in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

ConstraintKind = Literal[
    "coincident", "on", "midpoint", "horizontal", "vertical", "parallel", "perpendicular", "collinear", "tangent",
    "concentric", "equal", "symmetric", "fixed", "offset",
    "distance", "across_x", "across_y", "near", "far", "radius", "diameter", "across_axis", "angle", "arc_length",
]  # fmt: skip

P, L = ("point",), ("line",)
ROUND = ("circle", "arc")
CURVE = ("line", "circle", "arc", "ellipse")


@dataclass(frozen=True, slots=True)
class KindInfo:
    """``takes``: each alternative is one tuple of accepted entity kinds per operand."""

    words: str
    takes: tuple[tuple[tuple[str, ...], ...], ...]
    dimension: str = ""  # "length" or "angle" when it carries a value


KINDS: dict[str, KindInfo] = {
    "coincident": KindInfo("coincident", ((P, P),)),
    "on": KindInfo("on the curve", ((P, CURVE),)),
    "midpoint": KindInfo("midpoint", ((P, (*L, "arc")), (P, P, P))),
    "horizontal": KindInfo("horizontal", ((L,), (P, P))),
    "vertical": KindInfo("vertical", ((L,), (P, P))),
    "parallel": KindInfo("parallel", ((L, L),)),
    "perpendicular": KindInfo("perpendicular", ((L, L),)),
    "collinear": KindInfo("collinear", ((L, L),)),
    "tangent": KindInfo("tangent", ((L, (*ROUND, "ellipse")), (ROUND, ROUND))),
    "concentric": KindInfo("concentric", (((*ROUND, "ellipse"), (*ROUND, "ellipse")), (P, ROUND))),
    "equal": KindInfo("equal", ((L, L), (ROUND, ROUND))),
    "symmetric": KindInfo("symmetric", ((P, P, L), (L, L, L), (ROUND, ROUND, L))),
    "fixed": KindInfo("fixed", ((P,),)),
    "offset": KindInfo("offset", ((L, L), (ROUND, ROUND)), "length"),
    "distance": KindInfo("distance", ((P, P), (L,), (L, P), (L, L)), "length"),
    "across_x": KindInfo("distance in x", ((P, P), (L,)), "length"),
    "across_y": KindInfo("distance in y", ((P, P), (L,)), "length"),
    "near": KindInfo("distance to the near side", ((P, ROUND), (L, ROUND), (ROUND, ROUND)), "length"),
    "far": KindInfo("distance to the far side", ((P, ROUND), (L, ROUND), (ROUND, ROUND)), "length"),
    "radius": KindInfo("radius", ((ROUND,),), "length"),
    "diameter": KindInfo("diameter", ((ROUND,),), "length"),
    "across_axis": KindInfo("diameter across the centreline", ((L, P), (L, L)), "length"),
    "angle": KindInfo("angle", ((L, L),), "angle"),
    "arc_length": KindInfo("arc length", ((("arc",),),), "length"),
}
assert set(KINDS) == set(get_args(ConstraintKind))

DIMENSIONS = frozenset(k for k, info in KINDS.items() if info.dimension)


def accepts(kind: str, kinds: tuple[str, ...]) -> bool:
    """Whether a constraint of ``kind`` can be put on entities of ``kinds``, in this order."""
    return any(
        len(takes) == len(kinds) and all(k in accepted for k, accepted in zip(kinds, takes, strict=True))
        for takes in KINDS[kind].takes
    )


def check_operands(kind: str, kinds: tuple[str, ...], name: str = "") -> None:
    """Raise ValueError unless a constraint of ``kind`` can be put on entities of ``kinds``, in this order."""
    if accepts(kind, kinds):
        return
    ways = " or ".join(", ".join("/".join(a) for a in takes) for takes in KINDS[kind].takes)
    where = f"{name}: " if name else ""
    raise ValueError(f"{where}{KINDS[kind].words} takes {ways}, not {', '.join(kinds)}")
