"""Notes in STEP: read back from the text of the file by its own grammar, and by the kernel's reader."""

from __future__ import annotations

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
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import faces

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
