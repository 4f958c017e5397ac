"""Faces and sections as closed loops: their areas against closed forms, their files against an independent reader."""

from __future__ import annotations

import math
from pathlib import Path
from xml.etree import ElementTree

import ezdxf
import pytest
from click.testing import CliRunner
from ezdxf.math import bulge_to_arc

pytest.importorskip("OCP")

from drilled_plates import drilled_plate

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.errors import LathedError
from lathed_solid.files import write_document
from lathed_solid.kernel.loop_figures import Loop
from lathed_solid.kernel.loops import face_loops, section_loops
from lathed_solid.part import Document


def body_of(part: Document):  # type: ignore[no-untyped-def]
    built = ls.build(part)
    assert built.ok and built.built.body is not None, built.messages
    return built.built.body


def entity_area(points: list[tuple[float, float, float]]) -> float:
    """The area of a closed polyline with bulges, its arcs by the reader's own account of them."""
    total = 0.0
    for a, b in zip(points, points[1:] + points[:1], strict=True):
        total += (a[0] * b[1] - b[0] * a[1]) / 2
        if a[2]:
            _, start, end, r = bulge_to_arc(a[:2], b[:2], a[2])
            t = (end - start) % (2 * math.pi)
            total += math.copysign(r * r * (t - math.sin(t)) / 2, a[2])
    return total


@pytest.mark.parametrize("seed", [5, 6, 7])
def test_a_drilled_face_has_the_area_of_its_plate_less_its_holes(tmp_path: Path, seed: int) -> None:
    plate = drilled_plate(seed, 7, placed=False)
    body = body_of(plate.document)
    loops = face_loops(body, "20/end", 0.01)
    long, wide, _ = plate.size
    # the face around its holes: the outer bound runs to the left, holes to the right
    exact = long * wide - sum(math.pi / 4 * h.diameter**2 for h in plate.holes)
    assert len(loops) == 8 and sum(loop.area for loop in loops) == pytest.approx(exact, rel=1e-12)
    write_document(tmp_path / "p.lathed", plate.document)
    run = CliRunner().invoke(cli, ["export", str(tmp_path / "p.lathed"), str(tmp_path / "p.dxf"), "--face", "20/end"],
                             standalone_mode=False)  # fmt: skip
    assert run.return_value == 0
    doc = ezdxf.readfile(tmp_path / "p.dxf")
    assert not doc.audit().errors and not doc.audit().fixes and doc.header["$INSUNITS"] == 4
    lines = list(doc.modelspace().query("LWPOLYLINE"))
    assert all(line.closed for line in lines)
    found = sum(entity_area([tuple(p) for p in line.get_points("xyb")]) for line in lines)
    assert found == pytest.approx(exact, abs=1e-9 * exact)


def test_sections_of_a_turned_part_are_circles(tmp_path: Path) -> None:
    part = ls.turned(ls.new_part("tube"), [ls.Station(key="A", diameter="40", length="30")],
                     bores=[ls.Bore(end="right", steps=(ls.BoreStep(diameter="16", depth=None),))])  # fmt: skip
    loops = section_loops(body_of(part), "x", 12.5, 0.01)
    assert sorted(round(loop.area / math.pi, 9) for loop in loops) == [-64.0, 400.0]
    along = section_loops(body_of(part), "z", 0.0, 0.01)
    assert sum(loop.area for loop in along) == pytest.approx(30 * (40 - 16), rel=1e-12) and len(along) == 2
    with pytest.raises(LathedError, match="misses"):
        section_loops(body_of(part), "x", 99.0, 0.01)
    write_document(tmp_path / "t.lathed", part)
    args = ["export", str(tmp_path / "t.lathed"), str(tmp_path / "t.svg"), "--section", "x=12.5"]
    assert CliRunner().invoke(cli, args, standalone_mode=False).return_value == 0
    root = ElementTree.parse(tmp_path / "t.svg").getroot()
    path = root.find("{*}path")
    assert path is not None and path.get("d", "").count("A20.000000 20.000000") == 2
    for bad in (["--section", "x=nan"], ["--section", "w=3"], [], ["--face", "10/sA", "--section", "x=1"]):
        with pytest.raises(LathedError):
            CliRunner().invoke(cli, [*args[:3], *bad], standalone_mode=False, catch_exceptions=False)
    with pytest.raises(LathedError, match="flat"):
        face_loops(body_of(part), "10/sA", 0.01)
    with pytest.raises(LathedError, match="no face"):
        face_loops(body_of(part), "10/nothing", 0.01)


def test_an_ellipse_is_followed_by_chords() -> None:
    """A bore met aslant: the cut of a leaning cylinder, pi r r / cos(lean)."""
    d = ls.Draft()
    centre = d.point(0, 0)
    d.add("fixed", centre)
    d.add("diameter", d.circle(centre, 10.0), value="20")
    part = ls.extrude(ls.sketch(ls.new_part("rod"), d, "XY"), 10, "60")
    exact = math.pi * 10 * 10
    assert section_loops(body_of(part), "z", 20.0, 0.001)[0].area == pytest.approx(exact, rel=1e-12)
    loops = section_loops(body_of(part), "x", 4.0, 0.001)
    assert sum(loop.area for loop in loops) == pytest.approx(2 * math.sqrt(100 - 16) * 60, rel=1e-12)


def test_the_area_of_a_loop_by_hand() -> None:
    half = Loop(((-1.0, 0.0, 1.0), (1.0, 0.0, 0.0)))  # half a turn to the left from -1 to 1, and straight back
    assert half.area == pytest.approx(math.pi / 2) and half.turned.area == pytest.approx(-math.pi / 2)
    assert half.turned.turned == half
    assert Loop(((0, 0, 0.0), (3, 0, 0.0), (3, 2, 0.0), (0, 2, 0.0))).area == 6


@pytest.mark.parametrize(("chord", "bound"), [(0.005, 0.005), (0.1, 0.1), (0.5, 0.5)])
def test_triangles_are_as_fine_as_asked(tmp_path: Path, chord: float, bound: float) -> None:
    trimesh = pytest.importorskip("trimesh")
    part = ls.turned(ls.new_part("pin"), [ls.Station(key="A", diameter="60", length="20")])
    write_document(tmp_path / "pin.lathed", part)
    out = tmp_path / "pin.stl"
    args = ["export", str(tmp_path / "pin.lathed"), str(out), "--chord", f"{chord:g}"]
    assert CliRunner().invoke(cli, args, standalone_mode=False).return_value == 0
    found = trimesh.load_mesh(out)
    exact = math.pi * 900 * 20
    assert found.is_watertight and exact - found.volume <= found.area * bound and found.volume < exact
