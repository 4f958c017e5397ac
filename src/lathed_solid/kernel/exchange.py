"""Writing STEP (AP242) and binary STL, each to a temporary neighbour first, so that no half file is left."""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
from OCP.gp import gp_Ax3, gp_Dir, gp_Pnt, gp_Trsf
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.STEPCAFControl import STEPCAFControl_Controller, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDocStd import TDocStd_Document
from OCP.TopLoc import TopLoc_Location
from OCP.XCAFDoc import XCAFDoc_DocumentTool

from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.names import Body, moved
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.triangles import joined, mesh, triangles

FORMATS = (".step", ".stp", ".stl")
#: how far the triangles of STL files may be off, mm and rad
STL = (0.02, 0.2)


def in_part_datum(parts: Parts) -> Body:
    """All bodies, moved so that the part datum (where one is set) is the origin of the coordinates."""
    body = parts.whole
    if body is None:
        raise ExchangeError("there is no body")
    zero = parts.datums.get("zero")
    if zero is None:
        return body
    motion = gp_Trsf()
    motion.SetTransformation(gp_Ax3(gp_Pnt(*zero.origin), gp_Dir(*zero.direction), gp_Dir(*zero.x)))
    return moved(body, TopLoc_Location(motion), lambda a: a)


def export(body: Body, path: Path, name: str) -> None:
    """Write ``body`` by the ending of ``path``. Raises ExchangeError."""
    ending = path.suffix.lower()
    if ending not in FORMATS:
        raise ExchangeError(f"the ending {path.suffix!r} is not known", hint="a file name ending in .step or .stl")
    write = _write_stl if ending == ".stl" else _write_step
    atomic(path, lambda temporary: write(body, temporary, name))


def atomic(path: Path, write: Callable[[str], bool]) -> None:
    """Have a file written beside ``path`` and put in its place when it is whole. Raises ExchangeError."""
    try:
        handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=f".{path.stem}-", suffix=path.suffix)
        os.close(handle)
    except OSError as exc:
        raise ExchangeError("the file cannot be written", where=str(path), rule=exc.strerror or "") from None
    try:
        if not write(temporary) or Path(temporary).stat().st_size == 0:
            raise ExchangeError("the file cannot be written", where=str(path), hint="check the space on the disk")
        Path(temporary).chmod(0o644)
        Path(temporary).replace(path)
    except OSError as exc:
        raise ExchangeError("the file cannot be written", where=str(path), rule=exc.strerror or exc.args[0]) from None
    finally:
        with contextlib.suppress(OSError):
            Path(temporary).unlink()


def _write_step(body: Body, path: str, name: str) -> bool:
    STEPCAFControl_Controller.Init_s()  # else the schema that is set is not heeded by a process's first file
    Interface_Static.SetCVal_s("write.step.schema", "AP242DIS")
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    document = TDocStd_Document(TCollection_ExtendedString("lathed", True))
    tool = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    label = tool.AddShape(body.shape, False)
    TDataStd_Name.Set_s(label, TCollection_ExtendedString(name, True))
    writer = STEPCAFControl_Writer()
    if not writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs):
        return False
    return writer.Write(path) == IFSelect_ReturnStatus.IFSelect_RetDone


def _write_stl(body: Body, path: str, name: str) -> bool:
    mesh(body.shape, *STL)
    # corners that single precision does not tell apart are one before they are written, so that all stays closed
    single = (joined(t.points.astype("<f4").astype(float), t.corners, 0.0) for t in triangles(body.shape))
    three = np.concatenate([t.points[t.corners] for t in single])
    across = np.cross(three[:, 1] - three[:, 0], three[:, 2] - three[:, 0])
    length = np.linalg.norm(across, axis=1, keepdims=True)
    records = np.zeros(len(three), [("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("none", "<u2")])
    records["normal"], records["corners"] = across / np.where(length > 0, length, 1.0), three
    title = f"binary STL in mm, {name}".encode("ascii", "replace")[:80].ljust(80)
    Path(path).write_bytes(title + len(records).to_bytes(4, "little") + records.tobytes())
    return True
