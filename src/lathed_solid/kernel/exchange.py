"""Writing STEP (AP242) and binary STL, each to a temporary neighbour first, so that no half file is left."""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from OCP.BRepMesh import BRepMesh_IncrementalMesh
from OCP.gp import gp_Ax3, gp_Dir, gp_Pnt, gp_Trsf
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.IMeshTools import IMeshTools_Parameters
from OCP.Interface import Interface_Static
from OCP.Message import Message_ProgressRange
from OCP.STEPCAFControl import STEPCAFControl_Controller, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.StlAPI import StlAPI_Writer
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDocStd import TDocStd_Document
from OCP.TopLoc import TopLoc_Location
from OCP.XCAFDoc import XCAFDoc_DocumentTool

from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.names import Body, moved
from lathed_solid.kernel.parts import Parts

FORMATS = (".step", ".stp", ".stl")


def mesh(shape: Any, deviation: float = 0.1, angle: float = 0.35) -> None:
    """Triangles on ``shape`` within ``deviation`` mm and ``angle`` rad, in place."""
    parameters = IMeshTools_Parameters()
    parameters.Deflection, parameters.Angle, parameters.InParallel = deviation, angle, True
    BRepMesh_IncrementalMesh(shape, parameters, Message_ProgressRange())


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
    mesh(body.shape, 0.02, 0.2)
    writer = StlAPI_Writer()
    writer.ASCIIMode = False
    return bool(writer.Write(body.shape, path))
