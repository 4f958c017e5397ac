"""Products with names and colours in the kernel's document framework, written as STEP (AP242)."""

from __future__ import annotations

from typing import Any

from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.STEPCAFControl import STEPCAFControl_Controller, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDocStd import TDocStd_Document
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool


def new_products() -> Any:
    """An empty document of products."""
    STEPCAFControl_Controller.Init_s()  # else the schema that is set is not heeded by a process's first file
    return TDocStd_Document(TCollection_ExtendedString("lathed", True))


def add_product(document: Any, shape: Any, name: str, colour: str = "") -> Any:
    """The label of a shape that is added with its name and colour (#RRGGBB, empty for none)."""
    label = XCAFDoc_DocumentTool.ShapeTool_s(document.Main()).AddShape(shape, False)
    put_name(label, name)
    if colour:
        colours = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
        colours.SetColor(label, _colour(colour), XCAFDoc_ColorType.XCAFDoc_ColorSurf)
    return label


def put_name(label: Any, name: str) -> None:
    """Name a product or a component."""
    TDataStd_Name.Set_s(label, TCollection_ExtendedString(name, True))


def _colour(text: str) -> Any:
    r, g, b = (int(text[i : i + 2], 16) / 255 for i in (1, 3, 5))
    return Quantity_Color(r, g, b, Quantity_TypeOfColor.Quantity_TOC_sRGB)


def write_step(document: Any, path: str) -> bool:
    """STEP AP242 in mm; whether it was written."""
    Interface_Static.SetCVal_s("write.step.schema", "AP242DIS")
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    writer = STEPCAFControl_Writer()
    writer.SetColorMode(True)
    writer.SetNameMode(True)
    if not writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs):
        return False
    return bool(writer.Write(path) == IFSelect_ReturnStatus.IFSelect_RetDone)
