"""Products with names and colours in the kernel's document framework, written as STEP (AP242)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.StepBasic import StepBasic_DerivedUnitElement, StepBasic_SiUnitAndMassUnit
from OCP.STEPCAFControl import STEPCAFControl_Controller, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.StepShape import StepShape_AngleRelator, StepShape_AngularLocation
from OCP.TCollection import TCollection_ExtendedString, TCollection_HAsciiString
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
    paint(document, label, colour)
    return label


def paint(document: Any, label: Any, colour: str) -> None:
    """Give a product, or a body of it, its colour (#RRGGBB, empty for none)."""
    if colour:
        colours = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
        colours.SetColor(label, _colour(colour), XCAFDoc_ColorType.XCAFDoc_ColorSurf)


def parts_of(document: Any, label: Any, found: Iterable[Any]) -> list[Any]:
    """The labels of a product's own faces or edges."""
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    return [shapes.AddSubShape(label, one) for one in found]


def name_faces(document: Any, label: Any, names: Sequence[str], found: Sequence[Any]) -> list[Any]:
    """The labels of a product's faces, each with its name where it has one."""
    labels = parts_of(document, label, found)
    for one, name in zip(labels, names, strict=True):
        if name:
            put_name(one, name)
    return labels


def put_material(document: Any, label: Any, name: str, density: float) -> None:
    """What a product is made of; ``density`` in g/mm3."""
    text = TCollection_HAsciiString
    tool = XCAFDoc_DocumentTool.MaterialTool_s(document.Main())
    # g/cm3 in the file
    tool.SetMaterial(label, text(name), text(name), density * 1000, text("density"), text("POSITIVE_RATIO_MEASURE"))


def put_name(label: Any, name: str) -> None:
    """Name a product or a component."""
    TDataStd_Name.Set_s(label, TCollection_ExtendedString(name, True))


def _colour(text: str) -> Any:
    r, g, b = (int(text[i : i + 2], 16) / 255 for i in (1, 3, 5))
    return Quantity_Color(r, g, b, Quantity_TypeOfColor.Quantity_TOC_sRGB)


def write_step(document: Any, path: str, angles: Sequence[float] = ()) -> bool:
    """STEP AP242 in mm, with ``angles`` between faces in rad as they were put; whether it was written."""
    Interface_Static.SetCVal_s("write.step.schema", "AP242DIS")
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    Interface_Static.SetIVal_s("write.stepcaf.subshapes.name", 1)
    writer = STEPCAFControl_Writer()
    writer.SetColorMode(True)
    writer.SetNameMode(True)
    writer.SetDimTolMode(True)
    writer.SetMaterialMode(True)
    if not writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs):
        return False
    _mend(writer.ChangeWriter().Model(False), iter(angles))
    return bool(writer.Write(path) == IFSelect_ReturnStatus.IFSelect_RetDone)


def _mend(model: Any, angles: Iterator[float]) -> None:
    """The kernel writes the unit of densities with exponents of its own, where g/cm3 is g^1 cm^-3; and it does not tell
    which of the two angles that faces make is meant.
    """
    for n in range(1, model.NbEntities() + 1):
        entity = model.Value(n)
        if isinstance(entity, StepBasic_DerivedUnitElement):
            entity.SetExponent(1.0 if isinstance(entity.Unit(), StepBasic_SiUnitAndMassUnit) else -3.0)
        elif isinstance(entity, StepShape_AngularLocation):
            small = next(angles, 0.0) <= math.pi / 2
            relators = StepShape_AngleRelator
            entity.SetAngleSelection(relators.StepShape_Small if small else relators.StepShape_Large)
