"""The kernel against closed forms: volumes, area, centre, inertia, names, measuring, cache, exchange."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel.errors import ExchangeError, MeasureError
from lathed_solid.kernel.exchange import Described, export
from lathed_solid.kernel.measure import circle_radius, measure
from lathed_solid.kernel.topology import from_bytes, sub_shapes, to_bytes
from lathed_solid.ledger import Probe
from lathed_solid.part import Document, edits
from lathed_solid.part.scope import scope
from lathed_solid.turned import revolved

ROD = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="40", length="50")])


def good(part: Document) -> ls.Solid:
    solid = ls.build(part)
    assert solid.ok, solid.messages
    return solid


def test_revolved_figures_agree_with_the_half_section(spindle: Document) -> None:
    """The kernel's exact integration against Green's theorem on the contour: two ways, nothing shared."""
    part = spindle.model_copy(update={"steps": spindle.steps[:1]})
    expected = revolved(spindle.steps[0].resolve(scope(part)))  # type: ignore[union-attr]
    s = good(part).summary
    rho = s["mass_g"] / s["volume_mm3"]
    assert s["volume_mm3"] == pytest.approx(expected.volume, rel=1e-9)
    assert s["area_mm2"] == pytest.approx(expected.area, rel=1e-9)
    assert s["centre_mm"] == pytest.approx([expected.centre, 0, 0], abs=1e-8)
    inertia = np.array(s["inertia_g_mm2"]) / rho
    assert np.allclose(
        inertia, np.diag([expected.axial, expected.transverse, expected.transverse]), rtol=1e-9, atol=1e-3
    )
    assert (s["solids"], s["box_mm"][1][0]) == (1, pytest.approx(198))


DIAMETERS, LENGTHS = st.floats(6, 90).map(lambda x: round(x, 2)), st.floats(3, 60).map(lambda x: round(x, 2))


@settings(max_examples=25)
@given(st.lists(st.tuples(DIAMETERS, LENGTHS), min_size=1, max_size=6, unique_by=lambda t: t[0]))
def test_random_shafts_are_exact_and_measure_as_built(rows: list[tuple[float, float]]) -> None:
    stations = [ls.Station(key=f"S{i}", diameter=str(d), length=str(n)) for i, (d, n) in enumerate(rows)]
    solid = good(ls.turned(ls.new_part("shaft"), stations))
    assert solid.volume == pytest.approx(sum(math.pi * d * d / 4 * n for d, n in rows), rel=1e-9)
    for i, (d, n) in enumerate(rows):
        near = f"10/shoulder.S{i - 1}" if i else "10/face.left"
        far = f"10/shoulder.S{i}" if i + 1 < len(rows) else "10/face.right"
        assert solid.measure("diameter", f"10/sS{i}") == pytest.approx(d, abs=1e-9)
        assert solid.measure("distance", near, far) == pytest.approx(n, abs=1e-9)


def drilled(depth: str | None, **values: Any) -> Document:
    return ls.hole(ROD, "10/face.right", "6", depth=depth, **values)


@pytest.mark.parametrize(
    ("values", "removed"),
    [
        ({"depth": None}, 9 * 50),
        ({"depth": "20", "point": None}, 9 * 20),
        ({"depth": "20"}, 9 * 20 + 9 * 3 / math.tan(math.radians(59)) / 3),
        ({"depth": "20", "depth_to": "tip"}, 9 * 20 - 9 * 3 / math.tan(math.radians(59)) * 2 / 3),
        ({"depth": None, "cbore_diameter": "11", "cbore_depth": "6.8"}, 9 * 50 + (30.25 - 9) * 6.8),
        ({"depth": None, "places": ls.OnCircle(bolt_circle="26", count=5)}, 5 * 9 * 50),
    ],
)
def test_holes_in_a_face_remove_their_closed_form(values: dict[str, Any], removed: float) -> None:
    assert good(drilled(**values)).volume == pytest.approx(math.pi * (400 * 50 - removed), rel=1e-9)


def test_radial_hole_removes_what_two_crossed_cylinders_share() -> None:
    """Oracle: the integral of 2 sqrt(R^2 - y^2) * 2 sqrt(r^2 - y^2) over y, by Gauss-Legendre in the angle."""
    big, small = 20.0, 3.0
    x, w = np.polynomial.legendre.leggauss(60)
    a = x * math.pi / 2
    shared = np.sum(w * math.pi / 2 * 4 * np.sqrt(big**2 - (small * np.sin(a)) ** 2) * (small * np.cos(a)) ** 2)
    solid = good(ls.hole(ROD, "10/sA", "6", places=ls.Radial(at="25")))
    assert solid.volume == pytest.approx(math.pi * 400 * 50 - shared, rel=1e-9)
    assert solid.measure("position", "10/face.left", "20/h0.wall") == pytest.approx(25, abs=1e-9)


def test_measuring_the_spindle_from_its_faces(spindle: Document) -> None:
    solid = good(spindle)
    for kind, faces, expected in (
        ("diameter", ("10/sE",), 24.94), ("diameter", ("20/h*.cbore",), 11), ("bolt_circle", ("20/h*.wall",), 52),
        ("depth", ("10/shoulder.D", "20/h*.cbore"), 6.8), ("depth", ("10/face.left", "10/bore.left.1"), 22),
        ("included", ("10/bore.left.tip",), math.radians(118)), ("leg", ("10/sA.left",), 1.5),
        ("cone_angle", ("10/sA.left",), math.radians(45)), ("radius", ("10/sB.right",), 1),
        ("distance", ("10/g1.near", "10/g1.far"), 1.3), ("position", ("10/face.right", "30/h0.wall"), 12),
        ("distance", ("10/face.left", "10/face.right"), 198),
    ):  # fmt: skip
        assert solid.measure(kind, *faces, nominal=expected) == pytest.approx(expected, abs=1e-9), faces


def test_what_cannot_be_measured_says_so() -> None:
    body = good(ROD).built.body
    assert body is not None
    for probe, words in (
        (Probe(kind="diameter", faces=("10/sZ",)), "not on the solid"),
        (Probe(kind="radius", faces=("10/face.left",)), "cannot be measured"),
        (Probe(kind="distance", faces=("10/face.left",)), "two faces"),
        (Probe(kind="distance", faces=("10/face.left", "10/sA")), "cannot be measured"),
    ):
        with pytest.raises(MeasureError, match=words):
            measure(body, probe, 1.0)


@given(st.floats(1, 200), st.integers(2, 12), st.floats(0, 6))
def test_circle_through_points(radius: float, count: int, turn: float) -> None:
    a = turn + 2 * math.pi * np.arange(count) / count
    points = radius * np.column_stack([np.cos(a), np.sin(a)]) + [3.0, -7.0]
    assert circle_radius(points) == pytest.approx(radius, rel=1e-9)


@pytest.mark.parametrize(
    ("part", "words"),
    [
        (ls.hole(ROD, "10/nowhere", "6"), "is gone"),
        (ls.hole(ROD, "10/sA", "6"), "a plane is needed"),
        (ls.hole(ROD, "10/sA", "6", places=ls.Radial(at="90")), "does not lie on"),
        (ls.hole(ROD, "10/face.right", "45"), "nothing is left"),
        (ls.hole(ROD, "10/face.right", "6", places=ls.OnCircle(bolt_circle="90", count=3)), "removes nothing"),
        (ls.hole(ROD, "10/face.right", "9", places=ls.OnCircle(bolt_circle="14", count=8)), "run into each other"),
        (ls.hole(ROD, "10/face.right", "0"), "above zero"),
        (ls.hole(ROD, "10/face.right", "#99"), "no callout #99"),
        (ls.hole(ROD, "10/face.right", "6", cbore_diameter="5", cbore_depth="2"), "not wider"),
    ],
)
def test_a_failed_step_keeps_the_last_good_body(part: Document, words: str) -> None:
    solid = ls.build(part)
    assert [s.ok for s in solid.built.steps] == [True, False]
    assert solid.volume == pytest.approx(math.pi * 400 * 50, rel=1e-9)
    import re

    assert re.search(words, solid.messages[0]), solid.messages


def test_editing_the_last_step_builds_only_that_step(spindle: Document) -> None:
    engine = Engine()
    engine.build(spindle)
    changed = edits.put_step(spindle, edits.changed(spindle.steps[-1], diameter="7"))
    assert [s.cached for s in engine.build(changed).steps] == [True, True, False]
    assert all(s.cached for s in engine.build(spindle).steps)
    renamed = edits.changed(spindle, name="another name", material="CuSn8")
    assert all(s.cached for s in engine.build(renamed).steps)
    suspended = engine.build(edits.suspend_step(spindle, 20, True))
    assert [s.suspended for s in suspended.steps] == [False, True, False]


def test_names_survive_an_inserted_station(spindle: Document) -> None:
    """The hole and the verdicts stay on their faces when a row is put before them."""
    from lathed_solid.turned import edits as table_edits

    turned = edits.turned_step(spindle)
    assert turned is not None
    table = table_edits.add_station(turned.table, 2, "40", "5")
    part = edits.put_step(spindle, edits.changed(turned, table=table))
    report = ls.prove(part)
    assert ls.build(part).ok
    by_balloon = {r.balloon: r.verdict for r in report.rows}
    # flange and overall grew by the new station; all that hangs on names still measures
    assert by_balloon[24] == by_balloon[25] == by_balloon[26] == by_balloon[3] == "in"
    assert by_balloon[13] == "near"  # a reference is shown, not judged


def test_the_demo_proves_as_told(spindle: Document) -> None:
    report = ls.prove(spindle)
    assert report.counts == {"in": 29, "near": 0, "out": 1, "no limit": 0, "not found": 0}
    worn = report.row(9)
    assert worn is not None and worn.verdict == "out" and worn.beyond == pytest.approx(0.047)
    assert report.mass is not None and report.mass.verdict == "in" and not report.ok
    assert 28 <= len(spindle.callouts) <= 34


def test_verdicts_follow_the_solid_and_not_the_parameter(spindle: Document) -> None:
    """A later step that takes a face away, or a wrong count, shows in the verdict."""
    engine = Engine()
    with pytest.raises(edits.DocumentError, match="no field 'grooves'"):
        edits.changed(edits.turned_step(spindle), grooves=())  # type: ignore[type-var]
    fewer = edits.put_step(spindle, edits.changed(spindle.steps[1], places=ls.OnCircle(bolt_circle="#24", count=3)))
    row = prove(engine, fewer, engine.build(fewer)).row(21)
    assert row is not None and row.verdict == "out" and "3 places found" in row.reason
    bigger = ls.hole(spindle, "10/face.left", "9", depth="40")
    row = prove(engine, bigger, engine.build(bigger)).row(27)
    assert row is not None and row.verdict == "not found" and "not on the solid" in row.reason
    suspended = edits.suspend_step(spindle, 30, True)
    row = prove(engine, suspended, engine.build(suspended)).row(25)
    assert row is not None and row.verdict == "not found"


def test_near_is_within_the_readings_uncertainty() -> None:
    part = ls.note(ls.new_part("seat"), "Ø25 h6")
    part = ls.reading(part, 1, "outside", (24.98, 24.98, 24.98))
    part = ls.as_measured(ls.turned(part, [ls.Station(key="A", diameter="#1", length="30")]), 1)
    row = ls.prove(part).row(1)
    assert row is not None and (row.verdict, row.measured) == ("near", pytest.approx(24.98))


def test_shapes_travel_as_bytes(spindle: Document) -> None:
    body = good(spindle).built.body
    assert body is not None
    again = from_bytes(to_bytes(body.shape))
    from lathed_solid.kernel.properties import volume
    from lathed_solid.kernel.topology import FACE

    assert len(sub_shapes(again, FACE)) == len(body.labels)
    assert all(body.labels)
    assert volume(again) == pytest.approx(volume(body.shape), rel=1e-12)


def test_step_and_stl_come_back_with_the_same_volume(spindle: Document, tmp_path: Path) -> None:
    from OCP.STEPControl import STEPControl_Reader

    from lathed_solid.kernel.properties import volume

    solid = good(spindle)
    ls.export(solid, tmp_path / "Kurbelwelle ⌀25.step")
    reader = STEPControl_Reader()
    reader.ReadFile(str(tmp_path / "Kurbelwelle ⌀25.step"))
    reader.TransferRoots()
    assert volume(reader.OneShape()) == pytest.approx(solid.volume, rel=1e-7)
    ls.export(solid, tmp_path / "spindle.stl")
    data = (tmp_path / "spindle.stl").read_bytes()
    count = int.from_bytes(data[80:84], "little")
    record = np.dtype([("n", "<3f4"), ("v", "<9f4"), ("a", "<u2")])
    corners = np.frombuffer(data[84:], record, count)["v"].reshape(-1, 3, 3).astype(float)
    signed = np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum() / 6
    assert signed == pytest.approx(solid.volume, rel=5e-3)
    body = solid.built.body
    assert body is not None
    for bad in (tmp_path / "part.xyz", tmp_path / "no" / "part.step"):
        with pytest.raises(ExchangeError):
            export(body, bad, Described("x"))
    with pytest.raises(ExchangeError, match="not complete"):
        ls.export(ls.build(ls.hole(ROD, "10/nowhere", "6")), tmp_path / "x.step")
    assert sorted(p.name for p in tmp_path.glob("*.st*")) == ["Kurbelwelle ⌀25.step", "spindle.stl"]


TAPERED = {
    "no shoulder at the start": [
        ls.Station(key="A", diameter="30", length="20"),
        ls.Station(key="B", diameter="30", length="40", taper=ls.Taper(kind="ratio", value="10")),
        ls.Station(key="C", diameter="26", length="15"),
    ],
    "cone against cone, rising": [
        ls.Station(key="A", diameter="20", length="20", taper=ls.Taper(kind="angle", value="12°30'", rises=True)),
        ls.Station(key="B", diameter="20 + 40*tan(12.5 deg)", length="9", taper=ls.Taper(kind="diameter", value="24")),
    ],
    "between shoulders": [
        ls.Station(key="A", diameter="50", length="10"),
        ls.Station(key="B", diameter="40", length="30", taper=ls.Taper(kind="diameter", value="34")),
        ls.Station(key="C", diameter="44", length="8"),
    ],
}


@pytest.mark.parametrize("rows", TAPERED.values(), ids=TAPERED)
@pytest.mark.parametrize("end", ["left", "right"])
@pytest.mark.parametrize("steps", [(("14", "12", "10"), ("10", "18", "8.5")), (("12", None, "9"),)])
def test_every_probe_of_tapers_and_radial_holes_measures_its_own_field(
    rows: list[ls.Station], end: str, steps: tuple[tuple[str, str | None, str], ...]
) -> None:
    bore = ls.Bore(end=end, steps=tuple(ls.BoreStep(diameter=a, depth=d, end_diameter=b) for a, d, b in steps))  # type: ignore[arg-type]
    part = ls.turned(ls.new_part("taper"), rows, bores=[bore])
    cylinder = next((f"10/s{s.key}" for s in rows if s.taper is None), None)
    if cylinder:
        places = ls.Radial(at="5", angle="35°", count=3, datum="10/face.left")
        if cylinder == "10/sA":
            part = ls.hole(part, cylinder, "2", depth="3", places=places)
    engine = Engine()
    result = engine.build(part)
    assert result.ok, result
    body, read, measured = result.body, scope(part), set()
    assert body is not None
    for step in part.steps:
        for field in step.fields():
            if field.probe is not None:
                nominal = read(field.text, field.kind)
                assert measure(body, field.probe, nominal).value == pytest.approx(nominal, abs=1e-9), field.path
                measured.add(field.probe.kind)
    assert {"diameter_at", "stretch"} <= measured
    assert ("clock" in measured) == (cylinder == "10/sA")
