"""Notes on the faces of a product: sizes with their limits, tolerances of form and place, datums (ISO 10303-242)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from OCP.collections import Sequence_TDF_Label
from OCP.TCollection import TCollection_HAsciiString
from OCP.XCAFDimTolObjects import (
    XCAFDimTolObjects_DatumObject,
    XCAFDimTolObjects_DimensionObject,
    XCAFDimTolObjects_DimensionType,
    XCAFDimTolObjects_GeomToleranceObject,
    XCAFDimTolObjects_GeomToleranceType,
    XCAFDimTolObjects_GeomToleranceTypeValue,
)
from OCP.XCAFDoc import XCAFDoc_Datum, XCAFDoc_Dimension, XCAFDoc_DocumentTool, XCAFDoc_GeomTolerance

from lathed_solid.kernel.noted_sizes import NotedSize
from lathed_solid.kernel.noted_tolerances import NotedFrames, NotedTolerance

_KINDS = XCAFDimTolObjects_DimensionType
_TYPES = {
    "diameter": _KINDS.XCAFDimTolObjects_DimensionType_Size_Diameter,
    "radius": _KINDS.XCAFDimTolObjects_DimensionType_Size_Radius,
    "length": _KINDS.XCAFDimTolObjects_DimensionType_Location_LinearDistance,
    "chamfer": _KINDS.XCAFDimTolObjects_DimensionType_Location_LinearDistance,
    "angle": _KINDS.XCAFDimTolObjects_DimensionType_Location_Angular,
    "cone": _KINDS.XCAFDimTolObjects_DimensionType_Size_Angular,
}
_FORMS = XCAFDimTolObjects_GeomToleranceType
_CHARACTERISTICS = {
    "position": _FORMS.XCAFDimTolObjects_GeomToleranceType_Position,
    "perpendicularity": _FORMS.XCAFDimTolObjects_GeomToleranceType_Perpendicularity,
    "parallelism": _FORMS.XCAFDimTolObjects_GeomToleranceType_Parallelism,
    "concentricity": _FORMS.XCAFDimTolObjects_GeomToleranceType_Concentricity,
    "total runout": _FORMS.XCAFDimTolObjects_GeomToleranceType_TotalRunout,
    "runout": _FORMS.XCAFDimTolObjects_GeomToleranceType_CircularRunout,
    "flatness": _FORMS.XCAFDimTolObjects_GeomToleranceType_Flatness,
    "straightness": _FORMS.XCAFDimTolObjects_GeomToleranceType_Straightness,
    "circularity": _FORMS.XCAFDimTolObjects_GeomToleranceType_CircularityOrRoundness,
    "cylindricity": _FORMS.XCAFDimTolObjects_GeomToleranceType_Cylindricity,
    "angularity": _FORMS.XCAFDimTolObjects_GeomToleranceType_Angularity,
    "symmetry": _FORMS.XCAFDimTolObjects_GeomToleranceType_Symmetry,
    "profile": _FORMS.XCAFDimTolObjects_GeomToleranceType_ProfileOfSurface,
}


def put_sizes(document: Any, sizes: Sequence[NotedSize], faces: Sequence[Any], edges: Mapping[int, Any]) -> None:
    """Sizes with their limits, on the labels of the faces that have them; a chamfer's leg ends at one of ``edges``."""
    tool = XCAFDoc_DocumentTool.DimTolTool_s(document.Main())
    for size in sizes:
        told = XCAFDimTolObjects_DimensionObject()
        told.SetType(_TYPES[size.kind])
        told.SetValue(size.nominal)  # angles in rad, as the file's unit is
        told.SetUpperTolValue(size.high - size.nominal)
        told.SetLowerTolValue(size.nominal - size.low)  # it is written with its sign turned
        told.SetSemanticName(_said(size.balloon, size.note))
        label = tool.AddDimension()
        XCAFDoc_Dimension.Set_s(label).SetObject(told)
        second = [edges[n] for n in size.edges] if size.edges else [faces[n] for n in size.second]
        tool.SetDimension(_sequence(faces[n] for n in size.first), _sequence(second), label)


def put_frames(document: Any, frames: NotedFrames, faces: Sequence[Any]) -> None:
    """Tolerances of form, direction and place, and the datums that they are told from."""
    tool = XCAFDoc_DocumentTool.DimTolTool_s(document.Main())
    found = {d.letter: d for d in frames.datums}
    for told in frames.tolerances:
        label = tool.AddGeomTolerance()
        XCAFDoc_GeomTolerance.Set_s(label).SetObject(_tolerance(told))
        tool.SetGeomTolerance(_sequence(faces[n] for n in told.faces), label)
        for place, name in enumerate(told.datums, 1):
            for letter in name.split("-"):
                datum = XCAFDimTolObjects_DatumObject()
                datum.SetName(TCollection_HAsciiString(letter))
                datum.SetPosition(place)
                own = tool.AddDatum()
                XCAFDoc_Datum.Set_s(own).SetObject(datum)
                tool.SetDatum(_sequence(faces[n] for n in found[letter].faces), own)
                tool.SetDatumToGeomTol(own, label)


def _tolerance(told: NotedTolerance) -> Any:
    out = XCAFDimTolObjects_GeomToleranceObject()
    out.SetType(_CHARACTERISTICS[told.characteristic])
    out.SetValue(told.value)
    if told.diametral:
        out.SetTypeOfValue(XCAFDimTolObjects_GeomToleranceTypeValue.XCAFDimTolObjects_GeomToleranceTypeValue_Diameter)
    out.SetSemanticName(_said(told.balloon, told.note))
    return out


def _said(balloon: int, note: str) -> Any:
    return TCollection_HAsciiString(f"#{balloon} {note}")


def _sequence(labels: Iterable[Any]) -> Any:
    out = Sequence_TDF_Label()
    for label in labels:
        out.Append(label)
    return out
