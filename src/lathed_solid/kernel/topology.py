"""Small, fast access to shapes: maps of sub-shapes, lists, keys, counts.

Iterating the kernel's lists in Python is slow (about 0.3 ms a time); draining a copy costs 5 us.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache
from io import BytesIO
from typing import Any

import OCP.collections as collections
from OCP.BinTools import BinTools
from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Builder
from OCP.BRepBndLib import BRepBndLib
from OCP.Message import Message, Message_Gravity
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp, TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Compound, TopoDS_Iterator, TopoDS_Shape

from lathed_solid.kernel.errors import KernelError

FACE = TopAbs_ShapeEnum.TopAbs_FACE
EDGE = TopAbs_ShapeEnum.TopAbs_EDGE
WIRE = TopAbs_ShapeEnum.TopAbs_WIRE
VERTEX = TopAbs_ShapeEnum.TopAbs_VERTEX
SHELL = TopAbs_ShapeEnum.TopAbs_SHELL
SOLID = TopAbs_ShapeEnum.TopAbs_SOLID

Corners = tuple[tuple[float, float, float], tuple[float, float, float]]
KEPT_BOXES = 2048
_MAP = collections.IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher


def quiet() -> None:
    """Let the kernel print failures only, and those to its own messenger, never progress to stdout."""
    messenger = Message.DefaultMessenger_s()
    for printer in list(messenger.Printers()):
        printer.SetTraceLevel(Message_Gravity.Message_Fail)


quiet()


class Key:
    """A dictionary key for a shape: equal when it is the same shape, whatever its orientation."""

    __slots__ = ("_hash", "shape")

    def __init__(self, shape: Any) -> None:
        self.shape = shape
        self._hash = hash(shape)

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Key) and self.shape.IsSame(other.shape)


def sub_shapes(shape: Any, kind: Any) -> list[Any]:
    """Distinct sub-shapes in the kernel's order (which survives writing and reading)."""
    found = _MAP()
    TopExp.MapShapes_s(shape, kind, found)
    return [found.FindKey(i) for i in range(1, found.Extent() + 1)]


def children(shape: Any) -> list[Any]:
    """What a compound is put together of, in its order."""
    found, out = TopoDS_Iterator(shape), []
    while found.More():
        out.append(found.Value())
        found.Next()
    return out


def faces(shape: Any) -> list[Any]:
    """All faces of a shape, each once."""
    return [TopoDS.Face(f) for f in sub_shapes(shape, FACE)]


def edges(shape: Any) -> list[Any]:
    """All edges of a shape, each once."""
    return [TopoDS.Edge(e) for e in sub_shapes(shape, EDGE)]


def shape_list(shapes: Iterable[Any]) -> Any:
    """The kernel's own list of shapes."""
    out = collections.List_TopoDS_Shape()
    for shape in shapes:
        out.Append(shape)
    return out


def together(shapes: Iterable[Any]) -> Any:
    """Shapes as one."""
    builder, compound = BRep_Builder(), TopoDS_Compound()
    builder.MakeCompound(compound)
    for shape in shapes:
        builder.Add(compound, shape)
    return compound


def drained(shapes: Any) -> list[Any]:
    """The kernel's list as a Python list."""
    copy = collections.List_TopoDS_Shape(shapes)
    out = []
    while copy.Size():
        out.append(copy.First())
        copy.RemoveFirst()
    return out


def box(shape: Any) -> Corners:
    """Least and greatest corner in mm, tight on the exact geometry: that of all faces, each looked at once."""
    own = faces(shape)
    if not own or TopExp_Explorer(shape, EDGE, FACE).More():
        return _tight(shape)
    found = [_face_box(Key(face)) for face in own]
    low, high = zip(*found, strict=True)
    return tuple(map(min, zip(*low, strict=True))), tuple(map(max, zip(*high, strict=True)))


def rough_box(shape: Any) -> Corners:
    """The same by the triangles, where it has them: for the eye, a hundredth too large or small."""
    bound = Bnd_Box()
    BRepBndLib.Add_s(shape, bound, True)
    return _corners(bound)


@lru_cache(maxsize=KEPT_BOXES)
def _face_box(face: Key) -> Corners:
    """An edit leaves most faces as they are, and a round one takes the kernel a millisecond or many."""
    return _tight(face.shape)


def _tight(shape: Any) -> Corners:
    bound = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, bound, False, False)
    return _corners(bound)


def _corners(bound: Bnd_Box) -> Corners:
    low, high = bound.CornerMin(), bound.CornerMax()
    return (low.X(), low.Y(), low.Z()), (high.X(), high.Y(), high.Z())


def to_bytes(shape: Any) -> bytes:
    """The shape with its mesh in the kernel's binary form."""
    stream = BytesIO()
    BinTools.Write_s(shape, stream)
    return stream.getvalue()


def from_bytes(data: bytes) -> Any:
    """The shape that ``to_bytes`` wrote. Raises KernelError when there is none."""
    shape = TopoDS_Shape()
    BinTools.Read_s(shape, BytesIO(data))
    if shape.IsNull():
        raise KernelError("the solid did not come back from the worker")
    return shape
