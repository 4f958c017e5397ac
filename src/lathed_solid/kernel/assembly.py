"""Fits as STEP assemblies (AP242) and GLB: one shape a part, placed once for each member, with names and colours.

Reading gives the same back: every component of whatever depth with its name, its shape's own frame and its place.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from OCP.BRepBuilderAPI import BRepBuilderAPI_Copy
from OCP.collections import Sequence_TDF_Label
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Quantity import Quantity_Color
from OCP.STEPCAFControl import STEPCAFControl_Reader
from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer
from OCP.TDataStd import TDataStd_Name
from OCP.TDF import TDF_Label
from OCP.TopLoc import TopLoc_Location
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool

from lathed_solid.kernel.contact import placed
from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.exchange import PLAIN, atomic
from lathed_solid.kernel.limited_reading import ROOM, within_memory
from lathed_solid.kernel.mesh_files import Product, write_glb
from lathed_solid.kernel.product_files import add_product, new_products, put_name, write_step
from lathed_solid.kernel.triangles import mesh

FORMATS = (".step", ".stp", ".glb")
#: chord error of a GLB's triangles, mm, and rad
DEVIATION, ANGLE = 0.05, 0.3
MOST = 2000


@dataclass(frozen=True)
class Placed:
    """One member: its name, its part's, the part's shape, where it stands (4, 4), and its colour #RRGGBB."""

    name: str
    part: str
    shape: Any
    matrix: Any
    colour: str = ""


def write_assembly(members: Sequence[Placed], path: Path, name: str) -> None:
    """Write all members by the ending of ``path``. Raises ExchangeError."""
    ending = path.suffix.lower()
    if ending not in FORMATS:
        raise ExchangeError(f"the ending {path.suffix!r} is not known", hint="a file name ending in .step or .glb")
    if not members:
        raise ExchangeError("there is nothing in the fit")
    if ending == ".glb":
        atomic(path, lambda temporary: write_glb(_meshed(members), temporary, name))
    else:
        atomic(path, lambda temporary: write_step(_document(members, name), temporary))


def _meshed(members: Sequence[Placed]) -> list[Product]:
    """Each part in each of its finishes once, meshed, with the places of its members."""
    places: dict[tuple[str, str], list[Placed]] = {}
    for m in members:
        places.setdefault((m.part, m.colour), []).append(m)
    for first, *_ in places.values():
        mesh(first.shape, DEVIATION, ANGLE)
    return [Product(part, at[0].shape, finish or PLAIN, tuple((m.name, m.matrix) for m in at))
            for (part, finish), at in places.items()]  # fmt: skip


def _document(members: Sequence[Placed], name: str) -> Any:
    document = new_products()
    tool = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    whole = tool.NewShape()
    put_name(whole, name)
    parts: dict[tuple[str, str], Any] = {}
    for m in members:
        key = (m.part, m.colour)
        label = parts.get(key)
        if label is None:
            # one part in two finishes is two products: a finish goes with the shape
            again = any(part == m.part for part, _ in parts)
            shape = BRepBuilderAPI_Copy(m.shape, False).Shape() if again else m.shape
            label = parts[key] = add_product(document, shape, m.part, m.colour)
        component = tool.AddComponent(whole, label, placed(m.shape, m.matrix).Location())
        put_name(component, m.name)
    tool.UpdateAssemblies()
    return document


def read_assembly(path: Path) -> list[Placed]:
    """All components of a STEP assembly, each with its shape in its own frame. Raises ExchangeError."""
    document = new_products()
    reader = STEPCAFControl_Reader()
    reader.SetNameMode(True)
    reader.SetColorMode(True)
    try:
        with within_memory():
            done = reader.ReadFile(str(path)) == IFSelect_ReturnStatus.IFSelect_RetDone and reader.Transfer(document)
    except MemoryError:
        rule = f"at most {ROOM >> 20} MiB"
        raise ExchangeError("this STEP file needs too much memory", where=path.name, rule=rule) from None
    if not done:
        raise ExchangeError("this is no STEP file that can be read", where=path.name)
    tool = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    roots = Sequence_TDF_Label()
    tool.GetFreeShapes(roots)
    found: list[Placed] = []
    for i in range(1, roots.Length() + 1):
        found += _leaves(document, tool, roots.Value(i), TopLoc_Location(), "")
        if len(found) > MOST:
            raise ExchangeError("too many components", rule=f"at most {MOST}", received=len(found))
    return found


def step_of(shape: Any) -> bytes:
    """One body as a STEP file. Raises ExchangeError."""
    writer = STEPControl_Writer()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "body.step"
        done = writer.Transfer(shape, STEPControl_StepModelType.STEPControl_AsIs)
        if done != IFSelect_ReturnStatus.IFSelect_RetDone or not writer.Write(str(path)):
            raise ExchangeError("a body of the assembly cannot be kept")
        return path.read_bytes()


def _leaves(document: Any, tool: Any, label: Any, at: Any, name: str) -> Iterator[Placed]:
    target, own = label, at
    if tool.IsReference_s(label):
        target = TDF_Label()
        tool.GetReferredShape_s(label, target)
        own = at.Multiplied(tool.GetLocation_s(label))
    called = name or _named(label) or _named(target)
    if tool.IsAssembly_s(target):
        parts = Sequence_TDF_Label()
        tool.GetComponents_s(target, parts)
        for i in range(1, parts.Length() + 1):
            yield from _leaves(document, tool, parts.Value(i), own, _named(parts.Value(i)))
        return
    shape = tool.GetShape_s(target)
    yield Placed(called, _named(target) or called, shape, _matrix(own), _colour_of(document, target))


def _named(label: Any) -> str:
    found = TDataStd_Name()
    return found.Get().ToExtString() if label.FindAttribute(TDataStd_Name.GetID_s(), found) else ""


def _colour_of(document: Any, label: Any) -> str:
    found = Quantity_Color()
    tool = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
    for kind in (XCAFDoc_ColorType.XCAFDoc_ColorSurf, XCAFDoc_ColorType.XCAFDoc_ColorGen):
        if tool.GetColor_s(label, kind, found):
            return f"#{Quantity_Color.ColorToHex_s(found).ToCString().lstrip('#')[:6].upper()}"
    return ""


def _matrix(location: Any) -> Any:
    motion, out = location.Transformation(), np.eye(4)
    for i in range(3):
        for j in range(4):
            out[i, j] = motion.Value(i + 1, j + 1)
    return out
