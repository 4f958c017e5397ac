"""Triangles of bodies, and the STL files made of them, judged by an independent library of meshes."""

from __future__ import annotations

import math
import re
from pathlib import Path

import numpy as np
import pytest
import trimesh

pytest.importorskip("OCP")

from mesh_reading import CORE, model_of_3mf, objects_of_3mf
from practice.block_pulley_ring import cover_block, hand_pulley, roller_ring
from practice.pawl_link import pawl_link
from practice.stop_bracket import stop_bracket
from practice.together import pin, yoke

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.engine.at_hand import engine
from lathed_solid.engine.part_export import export_part
from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.exchange import CHORD, Described, export
from lathed_solid.kernel.triangles import joined, mesh, triangles
from lathed_solid.part import Document
from lathed_solid.part.document import BodyMaterial
from lathed_solid.standards import material

PARTS = {**{n: f for n, f in DEMOS.items() if f().steps}, **{f.__name__: f for f in (
    cover_block, hand_pulley, pawl_link, stop_bracket, pin, yoke,
)}}  # fmt: skip


def drilled() -> Document:
    """A rod with a drill's point in it: the tip is one place, in which many corners of the cone's side meet."""
    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="20", length="30")])
    return ls.hole(rod, "10/face.right", "8", depth="12")


@pytest.mark.parametrize("name", PARTS)
def test_stl_files_are_closed_and_wound_outward(name: str, tmp_path: Path) -> None:
    solid = ls.build(PARTS[name]())
    ls.export(solid, tmp_path / "part.stl")
    found = trimesh.load_mesh(tmp_path / "part.stl")
    assert found.is_watertight and found.is_winding_consistent
    assert len(trimesh.load_mesh(tmp_path / "part.stl", process=False).faces) == len(found.faces)
    # no corner is further off the surface than the deviation, so no more than a skin of that thickness is missing
    assert abs(found.volume - solid.volume) <= found.area * CHORD
    assert found.volume > 0


def test_a_drills_point_leaves_no_triangle_without_area(tmp_path: Path) -> None:
    solid = ls.build(drilled())
    ls.export(solid, tmp_path / "rod.stl")
    found = trimesh.load_mesh(tmp_path / "rod.stl")
    assert found.is_watertight and found.area_faces.min() > 0
    # by closed form: the rod less the drilled cylinder and its cone of 118 degrees
    exact = math.pi * 100 * 30 - math.pi * 16 * 12 - math.pi * 16 * (4 / math.tan(math.radians(59))) / 3
    assert solid.volume == pytest.approx(exact, rel=1e-9)
    assert found.volume == pytest.approx(exact, abs=found.area * CHORD)
    tip = 30 - 12 - 4 / math.tan(math.radians(59))
    assert abs(found.vertices - [tip, 0, 0]).sum(axis=1).min() == pytest.approx(0, abs=1e-6)


def test_bodies_that_touch_along_a_line_are_each_closed() -> None:
    """Eighteen rollers in a ring, each touching the bottom of its groove."""
    body = ls.build(roller_ring()).built.body
    assert body is not None
    mesh(body.shape, CHORD, 0.2)
    found = triangles(body.shape)
    assert len(found) == 19
    for t in found:
        plain = trimesh.Trimesh(t.points, t.corners, process=False)
        assert plain.is_watertight and plain.is_winding_consistent


def test_a_mirrored_and_turned_body_is_wound_outward_too() -> None:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf

    body = ls.build(drilled()).built.body
    assert body is not None
    mirror = gp_Trsf()
    mirror.SetMirror(gp_Ax2(gp_Pnt(1, 2, 3), gp_Dir(1, 2, 2)))
    for copied in (True, False):
        shape = BRepBuilderAPI_Transform(body.shape, mirror, copied).Shape()
        mesh(shape, 0.01, 0.2)
        (found,) = triangles(shape)
        plain = trimesh.Trimesh(found.points, found.corners, process=False)
        assert plain.is_watertight and plain.is_winding_consistent
        assert found.volume == pytest.approx(plain.volume) and found.volume > 0


def test_what_single_precision_cannot_tell_apart_is_one_corner() -> None:
    points = np.array([[0, 0, 0], [1, 0, 0], [1, 1e-9, 0], [0, 1, 0]], float)
    found = joined(points, np.array([[0, 1, 3], [1, 2, 3]]))
    assert len(found.points) == 3 and found.corners.tolist() == [[0, 1, 2]]
    assert len(joined(points[:0], np.zeros((0, 3), np.intp)).corners) == 0


def test_a_name_in_any_script_makes_a_file(tmp_path: Path) -> None:
    body = ls.build(drilled()).built.body
    assert body is not None
    export(body, tmp_path / "ж.stl", Described("Winde ⌀20 " * 20))
    data = (tmp_path / "ж.stl").read_bytes()
    assert data[:13] == b"binary STL in" and len(data) == 84 + 50 * int.from_bytes(data[80:84], "little")
    with pytest.raises(ExchangeError):
        export(body, tmp_path / "none" / "x.3mf", Described("x"))


@pytest.mark.parametrize("name", ["winch-spindle", "gland-nut", "stop_bracket", "roller_ring"])
def test_3mf_files_hold_each_solid_closed_with_its_name_and_material(name: str, tmp_path: Path) -> None:
    solid = ls.build({**PARTS, "roller_ring": roller_ring}[name]())
    ls.export(solid, tmp_path / "part.3mf")
    root = model_of_3mf(tmp_path / "part.3mf")
    assert root.get("unit") == "millimeter"
    base = root.find(".//m:base", CORE)
    assert base is not None and base.get("name") == material(solid.document.material).name
    assert str(base.get("displaycolor")).upper().startswith(material(solid.document.material).finish_colour.upper())
    objects = objects_of_3mf(tmp_path / "part.3mf")
    assert all(found.is_watertight and found.is_winding_consistent for found in objects.values())
    area = sum(found.area for found in objects.values())
    assert abs(sum(found.volume for found in objects.values()) - solid.volume) <= area * CHORD
    assert next(iter(objects)).startswith(solid.document.name)
    assert len(objects) == len(root.findall(".//m:item", CORE)) == (19 if name == "roller_ring" else 1)


def test_glb_files_hold_the_part_in_metres_with_its_finish(tmp_path: Path) -> None:
    solid = ls.build(drilled())
    ls.export(solid, tmp_path / "rod.glb")
    scene = trimesh.load_scene(tmp_path / "rod.glb", process=False)
    found = scene.to_mesh()
    assert found.is_watertight and found.is_winding_consistent
    assert found.volume * 1e9 == pytest.approx(solid.volume, abs=found.area * 1e6 * CHORD)
    assert found.extents * 1e3 == pytest.approx([30, 20, 20], abs=2 * CHORD)
    (look,) = [g.visual.material for g in scene.geometry.values()]
    assert look.name == material(solid.document.material).finish_colour


def test_step_files_say_name_colour_and_schema(tmp_path: Path) -> None:
    solid = ls.build(drilled())
    ls.export(solid, tmp_path / "rod.step")
    text = (tmp_path / "rod.step").read_text()
    assert "AP242_MANAGED_MODEL_BASED_3D_ENGINEERING" in text and "PRODUCT('rod'" in text
    r, g, b = (int(material(solid.document.material).finish_colour[i : i + 2], 16) / 255 for i in (1, 3, 5))
    colours = [
        [float(x) for x in m.groups()]
        for m in re.finditer(r"COLOUR_RGB\('',([\d.E+-]+),([\d.E+-]+),([\d.E+-]+)\)", text)
    ]
    assert any(c == pytest.approx([r, g, b], abs=2e-3) for c in colours)


def two_bodies() -> ls.Document:
    """A plate of steel with a pad of bronze on it, as two bodies."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (0.0, 0.0), (40.0, 30.0))
    part = ls.extrude(ls.sketch(ls.new_part("shoe"), d, "XY"), 10, "6")
    d = ls.Draft()
    ls.shapes.rectangle(d, (5.0, 5.0), (20.0, 15.0))
    part = ls.extrude(ls.sketch(part, d, ls.DatumPlane(plane="XY", offset="6")), 30, "4", mode="new")
    return part.model_copy(update={"body_materials": (BodyMaterial(step=40, material="CuSn8"),)})


@pytest.mark.parametrize("chord", [CHORD, 0.5])
def test_each_body_goes_out_in_its_own_finish(tmp_path: Path, chord: float) -> None:
    part = two_bodies()
    built = engine().build(part)
    assert built.ok and built.body is not None
    for ending in ("glb", "3mf", "step"):
        export_part(engine(), part, built, tmp_path / f"shoe.{ending}", chord)
    scene = trimesh.load_scene(tmp_path / "shoe.glb", process=False)
    volumes = {name: mesh.volume * 1e9 for name, mesh in scene.geometry.items()}
    assert volumes == {"shoe, body 20": pytest.approx(7200, rel=1e-5), "shoe, body 40": pytest.approx(600, rel=1e-5)}
    colours = {n: tuple(m.visual.material.baseColorFactor) for n, m in scene.geometry.items()}
    assert len(set(colours.values())) == 2
    model = model_of_3mf(tmp_path / "shoe.3mf")
    kinds = model.findall(".//m:basematerials/m:base", CORE)
    assert [k.get("name") for k in kinds] == [material(n).name for n in ("C45 steel", "CuSn8")]
    solids = model.findall(".//m:object", CORE)
    assert [(s.get("name"), s.get("pindex")) for s in solids] == [("shoe, body 20", "0"), ("shoe, body 40", "1")]
    text = (tmp_path / "shoe.step").read_text("utf-8", "replace")
    assert len(set(re.findall(r"COLOUR_RGB\('',([^)]*)\)", text))) == 2
