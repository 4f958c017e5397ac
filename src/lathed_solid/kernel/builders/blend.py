"""What rounding and bevelling share: names, checks, and the largest size that fits where one does not.

A blend face is named by its edge, ``40/(A|B)``; the patch at a corner by the faces that met there, ``40/~(A,B,C)``.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepExtrema import BRepExtrema_DistShapeShape

from lathed_solid.kernel.builders.pick import PickedEdge
from lathed_solid.kernel.checks import check_solid
from lathed_solid.kernel.edges import edges_of
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, carried
from lathed_solid.kernel.properties import quick_volume
from lathed_solid.kernel.topology import SOLID, VERTEX, Key, drained, edges, faces, sub_shapes
from lathed_solid.quantity.message_units import advised, said
from lathed_solid.quantity.tolerances import RELATIVE_READ

#: makes the kernel's maker for a size, with the edges added
Maker = Callable[[float], Any]
ROUNDS = 12
#: a smaller blend is not offered, mm
LEAST = 0.05


def blended(body: Body, picked: Sequence[PickedEdge], size: float, make: Maker, prefix: str, what: str) -> Body:
    """The body with its edges broken by ``make(size)``. Raises BuildError, saying what would fit."""
    out = tried(body, picked, size, make, prefix)
    if out is None:
        raise too_large(body, picked, size, make, what)
    return out


def tried(body: Body, picked: Sequence[PickedEdge], size: float, make: Maker, prefix: str) -> Body | None:
    """The same; None where the kernel refuses."""
    maker = _try(body, make, size, picked)
    if maker is None:
        return None
    shape = maker.Shape()
    solid = check_solid(shape, body.names)
    names: Names = carried(body.names, maker.Modified, maker.IsDeleted, solid)
    for key, atoms in _made(body, picked, maker, prefix).items():
        names[key] = names.get(key, frozenset()) | atoms
    return Body(solid, names, dict(body.shares))


def _made(body: Body, picked: Sequence[PickedEdge], maker: Any, prefix: str) -> Names:
    names: Names = {}
    corners: dict[Key, set[str]] = {}
    for face, label in zip(faces(body.shape), body.labels, strict=True):
        for vertex in sub_shapes(face, VERTEX):
            corners.setdefault(Key(vertex), set()).add(label)
    touched = {Key(v) for p in picked for v in sub_shapes(p.edge, VERTEX)}
    for key in touched:
        for face in drained(maker.Generated(key.shape)):
            names[Key(face)] = frozenset([f"{prefix}~({','.join(sorted(corners[key]))})"])
    # edges that run smoothly on are broken along with those that were picked
    known = {Key(p.edge): p.name for p in picked}
    for e in edges_of(body):
        for piece in e.pieces:
            name = known.get(Key(piece), e.name)
            for face in drained(maker.Generated(piece)):
                names[Key(face)] = frozenset([f"{prefix}({name})"])
    return names


def _try(body: Body, make: Maker, size: float, picked: Sequence[PickedEdge]) -> Any | None:
    """The finished maker; None when the kernel refuses, or gives what cannot be."""
    try:
        maker = make(size)
        maker.Build()
        if not maker.IsDone():
            return None
        shape = maker.Shape()
    except Exception:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
        return None
    if shape is None or shape.IsNull() or not sub_shapes(shape, SOLID):
        return None
    # a blend that failed may report success with a boundary that is none, or a volume that grew
    length = sum(maker.Length(i) for i in range(1, maker.NbContours() + 1))  # with the edges that run smoothly on
    most = 2.0 * size * size * (length + 8 * size * len(picked)) + body.size * RELATIVE_READ
    if abs(quick_volume(shape) - body.size) > most or not BRepCheck_Analyzer(shape).IsValid():
        return None
    return maker


def too_large(
    body: Body, picked: Sequence[PickedEdge], size: float, make: Maker, what: str, refused: str = ""
) -> BuildError:
    """The error that says what would fit, how wide the land is where it is too narrow, and what was ``refused``."""
    if not advised():
        return BuildError(f"{what}{said(size)} does not fit")
    low, high = 0.0, size
    for _ in range(ROUNDS):
        if high < LEAST:
            break  # nobody is helped by less, and the kernel may never come back from it
        middle = (low + high) / 2
        if _try(body, make, middle, picked) is None:
            high = middle
        else:
            low = middle
    land = too_narrow(picked, size)
    beside = "" if land is None else f"the land beside it is {said(round(land, 3))} wide"
    # shown a little below what was found to fit
    fits = int(low * 100) / 100 if low > LEAST else 0.0
    found = f"the largest that fits is {said(fits)}" if fits else ""
    rule = "; ".join(x for x in (beside, found, refused or "") if x)
    return BuildError(f"{what}{said(size)} does not fit{'' if fits else ', and no smaller one does'}", rule=rule)


def too_narrow(picked: Sequence[PickedEdge], size: float) -> float | None:
    """The narrowest land beside a picked edge, mm, where it has no room for the size, or for two when both of its
    edges are broken; None when there is room everywhere.
    """
    broken = {Key(p.edge) for p in picked}
    narrow = []
    for p in picked[:20]:
        ends = {Key(v) for v in sub_shapes(p.edge, VERTEX)}
        for face in p.sides:
            for other in edges(face):
                if not other.IsSame(p.edge) and not ends & {Key(v) for v in sub_shapes(other, VERTEX)}:
                    land = BRepExtrema_DistShapeShape(p.edge, other).Value()
                    if land < size * (2 if Key(other) in broken else 1) * (1 - RELATIVE_READ):
                        narrow.append(land)
    return min(narrow, default=None)
