"""Products with names and colours in the kernel's document framework, written as STEP (AP242)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from OCP.collections import Sequence_TDF_Label
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.StepBasic import StepBasic_DerivedUnitElement, StepBasic_SiUnitAndMassUnit
from OCP.STEPCAFControl import STEPCAFControl_Controller, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.TCollection import TCollection_ExtendedString, TCollection_HAsciiString
from OCP.TDataStd import TDataStd_Name
from OCP.TDocStd import TDocStd_Document
from OCP.XCAFDimTolObjects import XCAFDimTolObjects_DimensionObject, XCAFDimTolObjects_DimensionType
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_Dimension, XCAFDoc_DocumentTool

from lathed_solid.kernel.noted_sizes import NotedSize


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


def name_faces(document: Any, label: Any, names: Sequence[str], found: Sequence[Any]) -> list[Any]:
    """The labels of a product's faces, each with its name where it has one."""
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    labels = [shapes.AddSubShape(label, face) for face in found]
    for one, name in zip(labels, names, strict=True):
        if name:
            put_name(one, name)
    return labels


def put_sizes(document: Any, sizes: Sequence[NotedSize], labels: Sequence[Any]) -> None:
    """Sizes with their limits, on the labels of the faces that have them (ISO 10303-242, dimension and tolerance)."""
    kinds = XCAFDimTolObjects_DimensionType
    types = {
        "diameter": kinds.XCAFDimTolObjects_DimensionType_Size_Diameter,
        "radius": kinds.XCAFDimTolObjects_DimensionType_Size_Radius,
        "length": kinds.XCAFDimTolObjects_DimensionType_Location_LinearDistance,
    }
    tool = XCAFDoc_DocumentTool.DimTolTool_s(document.Main())
    for size in sizes:
        told = XCAFDimTolObjects_DimensionObject()
        told.SetType(types[size.kind])
        told.SetValue(size.nominal)
        told.SetUpperTolValue(size.high - size.nominal)
        told.SetLowerTolValue(size.nominal - size.low)  # it is written with its sign turned
        told.SetSemanticName(TCollection_HAsciiString(f"#{size.balloon} {size.note}"))
        label = tool.AddDimension()
        XCAFDoc_Dimension.Set_s(label).SetObject(told)
        first, second = (_sequence(labels[n] for n in places) for places in (size.first, size.second))
        tool.SetDimension(first, second, label)


def put_material(document: Any, label: Any, name: str, density: float) -> None:
    """What a product is made of; ``density`` in g/mm3."""
    text = TCollection_HAsciiString
    tool = XCAFDoc_DocumentTool.MaterialTool_s(document.Main())
    # g/cm3 in the file
    tool.SetMaterial(label, text(name), text(name), density * 1000, text("density"), text("POSITIVE_RATIO_MEASURE"))


def _sequence(labels: Iterable[Any]) -> Any:
    out = Sequence_TDF_Label()
    for label in labels:
        out.Append(label)
    return out


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
    Interface_Static.SetIVal_s("write.stepcaf.subshapes.name", 1)
    writer = STEPCAFControl_Writer()
    writer.SetColorMode(True)
    writer.SetNameMode(True)
    writer.SetDimTolMode(True)
    writer.SetMaterialMode(True)
    if not writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs):
        return False
    _mend_density(writer.ChangeWriter().Model(False))
    return bool(writer.Write(path) == IFSelect_ReturnStatus.IFSelect_RetDone)


def _mend_density(model: Any) -> None:
    """The kernel writes the unit of densities with exponents of its own; g/cm3 is g^1 cm^-3."""
    for n in range(1, model.NbEntities() + 1):
        entity = model.Value(n)
        if isinstance(entity, StepBasic_DerivedUnitElement):
            entity.SetExponent(1.0 if isinstance(entity.Unit(), StepBasic_SiUnitAndMassUnit) else -3.0)
