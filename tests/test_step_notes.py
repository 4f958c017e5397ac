"""Notes in STEP: read back from the text of the file by its own grammar, and by the kernel's reader."""

from __future__ import annotations

import math
import re
from pathlib import Path

import pytest

pytest.importorskip("OCP")

from OCP.gp import gp_Pnt
from OCP.STEPControl import STEPControl_Reader

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.engine.at_hand import engine
from lathed_solid.engine.prove import prove
from lathed_solid.kernel.noted_sizes import apart, noted_sizes
from lathed_solid.kernel.noted_tolerances import noted_frames
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import edges, faces

_RECORD = re.compile(r"#(\d+)\s*=\s*(.*?);\s*(?=#|ENDSEC)", re.S)


def records(path: Path) -> dict[int, str]:
    """Entities of the data section by number, on one line each."""
    data = path.read_text("utf-8", "replace").partition("DATA;")[2]
    return {int(n): " ".join(text.split()) for n, text in _RECORD.findall(data)}


def numbers(text: str) -> list[int]:
    return [int(n) for n in re.findall(r"#(\d+)", text)]


def sizes(found: dict[int, str]) -> list[tuple[str, float, float, float]]:
    """(kind, nominal, lower, upper deviation) of each dimension."""
    out = []
    for number, text in found.items():
        size = re.match(r"DIMENSIONAL_(SIZE|LOCATION)\((.*)\)$", text)
        if size is None:
            continue
        kind = re.findall(r"'([^']*)'", size[2])[0] if size[1] == "SIZE" else "length"
        (held,) = (t for t in found.values() if t.startswith("DIMENSIONAL_CHARACTERISTIC_") and numbers(t)[0] == number)
        value = found[numbers(found[numbers(held)[1]])[0]]
        nominal = float(re.search(r"LENGTH_MEASURE\(([-+.\dE]+)\)", value)[1])  # type: ignore[index]
        (limit,) = (t for t in found.values() if t.startswith("PLUS_MINUS_TOLERANCE") and numbers(t)[1] == number)
        low, high = (float(re.search(r"\(([-+.\dE]+),", found[n])[1]) for n in numbers(found[numbers(limit)[0]]))  # type: ignore[index]
        out.append((kind, nominal, low, high))
    return out


def test_the_notes_of_the_spindle_stand_in_its_file(tmp_path: Path) -> None:
    part = DEMOS["winch-spindle"]()
    out = tmp_path / "spindle.step"
    ls.export(ls.build(part), out)
    found = records(out)
    told = sizes(found)
    # by hand, from the drawing: h6 at 25 is 0/-13 um, H9 at 6 is +30/0 um, 52 and 14 carry their own tolerance
    for kind, nominal, low, high in (("diameter", 25, -0.013, 0), ("diameter", 6, 0, 0.030), ("length", 52, -0.1, 0.1),
                                     ("length", 14, -0.05, 0.05), ("diameter", 72, -0.3, 0.3)):  # fmt: skip
        assert any(t == (kind, pytest.approx(nominal), pytest.approx(low, abs=1e-9), pytest.approx(high, abs=1e-9))
                   for t in told), (kind, nominal)  # fmt: skip
    assert not any(t[1] == pytest.approx(198) for t in told)  # in brackets: no tolerance
    assert not any(t[:2] == ("diameter", pytest.approx(52)) for t in told)  # of the bolt circle no face has it
    names = {m[1] for t in found.values() if (m := re.match(r"ADVANCED_FACE\('([^']+)'", t))}
    assert names >= {"10/sA", "10/face.left", "20/h0.wall", "10/g1.bottom"}
    (density,) = (t for t in found.values() if t.startswith("MEASURE_REPRESENTATION_ITEM('density'"))
    assert "POSITIVE_RATIO_MEASURE( 7.85)" in density  # g/cm3, of steel; so the unit is g^1 cm^-3:
    elements = [found[n] for n in numbers(found[numbers(density)[0]])]
    powers = {found[numbers(t)[0]].split()[1]: float(t.rpartition(",")[2].rstrip(")")) for t in elements}
    assert powers == {"MASS_UNIT()": 1.0, "LENGTH_UNIT()": -3.0}


@pytest.mark.parametrize("demo", ["crank-hub", "pedestal"])
def test_each_face_named_by_a_size_has_it(demo: str) -> None:
    part = DEMOS[demo]()
    built = engine().build(part)
    assert built.body is not None
    found = noted_sizes(built.body, prove(engine(), part, built).rows)
    assert len(found) >= 6
    kernel = faces(built.body.shape)
    from OCP.BRepAdaptor import BRepAdaptor_Surface
    from OCP.BRepExtrema import BRepExtrema_DistShapeShape
    from OCP.GeomAbs import GeomAbs_SurfaceType

    flat = 0
    for size in found:
        for place in size.first if size.kind == "diameter" else ():
            assert 2 * BRepAdaptor_Surface(kernel[place]).Cylinder().Radius() == pytest.approx(size.nominal)
        if size.kind == "length":
            a, b = (BRepAdaptor_Surface(kernel[p[0]]) for p in (size.first, size.second))
            if {a.GetType(), b.GetType()} == {GeomAbs_SurfaceType.GeomAbs_Plane}:
                point: gp_Pnt = a.Value(0.0, 0.0)
                assert b.Plane().Distance(point) == pytest.approx(size.nominal, abs=1e-9)
                near = BRepExtrema_DistShapeShape(kernel[size.first[0]], kernel[size.second[0]]).Value()
                assert near >= size.nominal - 1e-9
                flat += 1
    assert flat >= 2


def test_distances_of_flats_and_axes_by_closed_forms() -> None:
    def at(kind: str, origin: tuple[float, float, float], way: tuple[float, float, float]) -> Surface:
        return Surface(kind, origin, way, 3.0 if kind == "cylinder" else 0.0, 0.0, ())

    floor, wall = at("plane", (5, 6, 0), (0, 0, 1)), at("plane", (0, 0, 0), (1, 0, 0))
    assert apart(floor, at("plane", (0, 0, 7), (0, 0, -1))) == pytest.approx(7)
    assert apart(floor, wall) is None
    assert apart(at("cylinder", (0, 0, 9), (0, 0, 1)), at("cylinder", (3, 4, -2), (0, 0, -1))) == pytest.approx(5)
    assert apart(at("cylinder", (0, 0, 9), (0, 0, 1)), at("cylinder", (3, 4, -2), (1, 0, 0))) is None
    assert apart(wall, at("cylinder", (8, 1, 1), (0, 1, 0))) == pytest.approx(8)
    assert apart(wall, at("cylinder", (8, 1, 1), (1, 0, 0))) is None
    assert apart(wall, at("cone", (8, 1, 1), (0, 1, 0))) is None


def test_a_file_with_notes_comes_in_as_the_same_solid(tmp_path: Path) -> None:
    from lathed_solid.kernel.properties import volume

    solid = ls.build(DEMOS["pedestal"]())
    ls.export(solid, tmp_path / "p.step")
    reader = STEPControl_Reader()
    reader.ReadFile(str(tmp_path / "p.step"))
    reader.TransferRoots()
    assert volume(reader.OneShape()) == pytest.approx(solid.volume, rel=1e-9)


def bush_with_frames() -> ls.Document:
    """50 by 60, bored 30 and bevelled, with a cross hole; its bore concentric with the outside, its ends flat."""
    part = ls.new_part("Bush", material="CuSn8")
    for text in ("⌀50 h6 DATUM A", "⌀30 H7 ◎ ⌀0.05 A", "60 ⏥ 0.02", "1.5 x 45°", "⌀8 THRU ⌖ ⌀0.2 B", "20"):
        part = ls.note(part, text)
    bore = ls.Bore(end="right", steps=(ls.BoreStep(diameter="#2"),))
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#3", left=ls.edge("#4 x 45°"))], bores=[bore])
    radial = ls.Radial(at="#6", datum="10/face.left")
    return ls.hole(part, "10/sA", "#5", depth=None, places=radial)


def wedge() -> ls.Document:
    """A block 60 by 40 whose right end leans by 60 degrees to its floor, 20 thick."""
    part = ls.new_part("Wedge")
    for text in ("60", "40", "60°", "20"):
        part = ls.note(part, text)
    d = ls.Draft()
    points = [d.point(0, 0), d.point(60, 0), d.point(37, 40), d.point(0, 40)]
    lines = [d.line(a, b) for a, b in zip(points, points[1:] + points[:1], strict=True)]
    d.add("fixed", points[0])
    for kind, of in (("horizontal", (lines[0],)), ("horizontal", (lines[2],)), ("vertical", (lines[3],))):
        d.add(kind, *of)
    d.add("distance", lines[0], value="#1")
    d.add("distance", lines[3], value="#2")
    d.add("angle", lines[0], lines[1], value="180° - #3")
    return ls.extrude(ls.sketch(part, d, "XY"), 10, "#4")


def test_a_bevel_s_leg_goes_from_a_flat_to_the_edge_it_ends_in(tmp_path: Path) -> None:
    part = bush_with_frames()
    built = engine().build(part)
    assert built.body is not None
    (leg,) = (s for s in noted_sizes(built.body, prove(engine(), part, built).rows) if s.kind == "chamfer")
    from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface

    flat = BRepAdaptor_Surface(faces(built.body.shape)[leg.first[0]]).Plane()
    circle = BRepAdaptor_Curve(edges(built.body.shape)[leg.edges[0]]).Circle()
    assert flat.Distance(circle.Location()) == pytest.approx(1.5, abs=1e-9)
    assert circle.Radius() == pytest.approx(25.0, abs=1e-9)  # where the bevel meets the outside
    ls.export(ls.build(part), tmp_path / "b.step")
    told = [t for t in sizes(records(tmp_path / "b.step")) if t[0] == "length"]
    assert ("length", pytest.approx(1.5), pytest.approx(-0.2), pytest.approx(0.2)) in told  # ISO 2768-1 m, table 2


def test_an_angle_goes_out_in_the_unit_that_the_file_says(tmp_path: Path) -> None:
    part = wedge()
    assert ls.prove(part).row(3).verdict == "in"
    ls.export(ls.build(part), tmp_path / "w.step")
    found = records(tmp_path / "w.step")
    (number,) = (n for n, t in found.items() if t.startswith("ANGULAR_LOCATION"))
    assert found[number].endswith(".SMALL.)")
    (held,) = (t for t in found.values() if t.startswith("DIMENSIONAL_CHARACTERISTIC_") and numbers(t)[0] == number)
    value = found[numbers(found[numbers(held)[1]])[0]]
    measure, unit = re.search(r"PLANE_ANGLE_MEASURE\(([-+.\dE]+)\),\s*#(\d+)", value).groups()  # type: ignore[union-attr]
    base = found[int(unit)]
    one = 1.0
    if "CONVERSION_BASED_UNIT" in base:
        factor = next(found[n] for n in numbers(base) if "PLANE_ANGLE_MEASURE" in found[n])
        one = float(re.search(r"PLANE_ANGLE_MEASURE\(([-+.\dE]+)\)", factor)[1])  # type: ignore[index]
    assert float(measure) * one == pytest.approx(math.radians(60), abs=1e-6)


def test_tolerances_of_form_and_place_go_out_with_their_datums(tmp_path: Path) -> None:
    part = bush_with_frames()
    ls.export(ls.build(part), tmp_path / "b.step")
    found = records(tmp_path / "b.step")
    text = " ".join(found.values())
    (place,) = (t for t in found.values() if "CONCENTRICITY_TOLERANCE" in t)
    assert "GEOMETRIC_TOLERANCE_WITH_DATUM_REFERENCE" in place
    values = [float(v) for n in numbers(place) for v in re.findall(r"LENGTH_MEASURE\(([-+.\dE]+)\)", found[n])]
    assert values == [pytest.approx(0.05)]
    (datum,) = (t for t in found.values() if re.match(r"DATUM\(", t))
    assert datum.endswith("'A')")
    assert "cylindrical or circular" in text  # the zone of a diameter
    assert sum(t.startswith("FLATNESS_TOLERANCE") for t in found.values()) == 1
    assert "POSITION_TOLERANCE" not in text  # from a datum that the part does not name
    # flatness is asked of the ends, not of the round between them
    frames = noted_frames(ls.build(part).built.body, ls.prove(part).rows, part.callouts)
    flat = next(t for t in frames.tolerances if t.characteristic == "flatness")
    from OCP.BRepAdaptor import BRepAdaptor_Surface
    from OCP.GeomAbs import GeomAbs_SurfaceType

    kernel = faces(ls.build(part).built.body.shape)
    assert {BRepAdaptor_Surface(kernel[n]).GetType() for n in flat.faces} == {GeomAbs_SurfaceType.GeomAbs_Plane}


def test_what_goes_out_comes_in_with_its_names_and_notes(tmp_path: Path) -> None:
    from OCP.collections import Sequence_TDF_Label
    from OCP.STEPCAFControl import STEPCAFControl_Reader
    from OCP.TCollection import TCollection_ExtendedString
    from OCP.TDataStd import TDataStd_Name
    from OCP.TDocStd import TDocStd_Document
    from OCP.XCAFDoc import XCAFDoc_Dimension, XCAFDoc_DocumentTool

    part = bush_with_frames()
    solid = ls.build(part)
    ls.export(solid, tmp_path / "b.step")
    reader = STEPCAFControl_Reader()
    reader.SetNameMode(True)
    reader.SetGDTMode(True)
    reader.ReadFile(str(tmp_path / "b.step"))
    document = TDocStd_Document(TCollection_ExtendedString("back", True))
    reader.Transfer(document)
    tool = XCAFDoc_DocumentTool.DimTolTool_s(document.Main())
    labels = Sequence_TDF_Label()
    tool.GetDimensionLabels(labels)
    values = []
    for k in range(1, labels.Length() + 1):
        values.append(round(XCAFDoc_Dimension.Set_s(labels.Value(k)).GetObject().GetValue(), 6))
    assert {50.0, 30.0, 60.0, 1.5, 8.0, 20.0} <= set(values)
    frames = Sequence_TDF_Label()
    tool.GetGeomToleranceLabels(frames)
    assert frames.Length() == 2
    shapes = Sequence_TDF_Label()
    XCAFDoc_DocumentTool.ShapeTool_s(document.Main()).GetFreeShapes(shapes)
    name = TDataStd_Name()
    assert shapes.Value(1).FindAttribute(TDataStd_Name.GetID_s(), name)
    assert name.Get().ToExtString() == "Bush"


def test_every_face_keeps_its_name(tmp_path: Path) -> None:
    """Mirrored faces too, whose left-handed surfaces are turned on the way out; told by their areas."""
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps
    from OCP.STEPControl import STEPControl_Reader
    from OCP.XSControl import XSControl_TransferReader

    def area(face: object) -> float:
        g = GProp_GProps()
        BRepGProp.SurfaceProperties_s(face, g)
        return round(float(g.Mass()), 4)

    body = ls.build(DEMOS["pedestal"]()).built.body
    assert body is not None
    own = {label: area(face) for label, face in zip(body.labels, faces(body.shape), strict=True)}
    ls.export(ls.build(DEMOS["pedestal"]()), tmp_path / "p.step")
    reader = STEPControl_Reader()
    reader.ReadFile(str(tmp_path / "p.step"))
    reader.TransferRoots()
    told: XSControl_TransferReader = reader.WS().TransferReader()
    back = {}
    for face in faces(reader.OneShape()):
        entity = told.EntityFromShapeResult(face, 1)
        back[entity.Name().ToCString()] = area(face)
    assert back == pytest.approx(own, rel=1e-6)
