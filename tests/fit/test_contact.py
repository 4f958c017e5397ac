"""Overlaps and clearances against closed forms, threads in their nuts, and masses of placed members."""

from __future__ import annotations

import math

import numpy as np
import pytest
import trimesh

pytest.importorskip("OCP")

from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakeSphere
from OCP.gp import gp_Pnt

from lathed_solid import scripting as ls
from lathed_solid.engine.fits import FitEngine
from lathed_solid.fit.judged import PartMass, mass, parts_list
from lathed_solid.fit.placement import placed, turn_about
from lathed_solid.kernel import contact
from lathed_solid.kernel.assembly import Placed, read_assembly, write_assembly
from lathed_solid.kernel.errors import ExchangeError
from lathed_solid.kernel.properties import volume
from lathed_solid.part import Document


def at(x: float = 0.0, y: float = 0.0, z: float = 0.0, *, axis: tuple[float, ...] = (0, 0, 1), turn: float = 0.0
       ) -> np.ndarray:  # fmt: skip
    out = np.eye(4)
    out[:3, :3], out[:3, 3] = turn_about(axis, turn), (x, y, z)
    return out


@pytest.mark.parametrize("apart", [1.0, 12.0, 19.9])
def test_two_cylinders_side_by_side_share_a_lens(apart: float) -> None:
    rod = BRepPrimAPI_MakeCylinder(10, 20).Solid()
    found = contact.common(rod, contact.placed(rod, at(apart)))
    lens = 2 * 100 * math.acos(apart / 20) - apart / 2 * math.sqrt(400 - apart**2)
    assert found is not None and found.volume == pytest.approx(20 * lens, rel=1e-6)
    assert found.middle == pytest.approx((apart / 2, 0, 10), abs=1e-6)


@pytest.mark.parametrize("cap", [0.5, 3.0, 9.0])
def test_a_ball_that_looks_through_a_wall_shares_a_cap(cap: float) -> None:
    ball = BRepPrimAPI_MakeSphere(10).Solid()
    wall = BRepPrimAPI_MakeBox(gp_Pnt(10 - cap, -20, -20), 40, 40, 40).Solid()
    found = contact.common(ball, wall)
    assert found is not None and found.volume == pytest.approx(math.pi * cap**2 * (30 - cap) / 3, rel=1e-6)


def test_boxes_that_cross_share_a_box_and_those_that_touch_nothing() -> None:
    box = BRepPrimAPI_MakeBox(30, 20, 10).Solid()
    found = contact.common(box, contact.placed(box, at(25, 4, 3)))
    assert found is not None and found.volume == pytest.approx(5 * 16 * 7, rel=1e-9)
    for beside in (at(30), at(0, 20), at(0, 0, 10), at(30, 20, 10)):
        assert contact.common(box, contact.placed(box, beside)) is None
        assert contact.clearance(box, contact.placed(box, beside))[0] == pytest.approx(0, abs=1e-9)


@pytest.mark.parametrize("turn", [0.0, 0.4, 2.0])
def test_a_pin_in_a_hole_of_its_size_is_contact(turn: float) -> None:
    pin = BRepPrimAPI_MakeCylinder(5, 40).Solid()
    block = contact.placed(BRepPrimAPI_MakeBox(gp_Pnt(-20, -20, 5), 40, 40, 20).Solid(), at())
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut

    bored = BRepAlgoAPI_Cut(block, pin).Shape()
    assert contact.common(contact.placed(pin, at(0, 0, 3, turn=turn)), bored) is None
    thick = BRepPrimAPI_MakeCylinder(5.01, 40).Solid()
    found = contact.common(contact.placed(thick, at(turn=turn)), bored)
    assert found is not None and found.volume == pytest.approx(math.pi * (5.01**2 - 25) * 20, rel=1e-6)


def test_clearances_are_those_of_geometry() -> None:
    ball = BRepPrimAPI_MakeSphere(10).Solid()
    rod = BRepPrimAPI_MakeCylinder(4, 60).Solid()
    found, on_ball, on_rod = contact.clearance(ball, contact.placed(rod, at(21, 0, -30)))
    assert found == pytest.approx(21 - 10 - 4, abs=1e-7)
    assert on_ball == pytest.approx((10, 0, 0), abs=1e-6) and on_rod == pytest.approx((17, 0, 0), abs=1e-6)
    skew = contact.placed(rod, at(0, 33, 0, axis=(0, 1, 0), turn=math.pi / 2))
    assert contact.clearance(contact.placed(rod, at(0, 0, -30)), skew)[0] == pytest.approx(33 - 8, abs=1e-7)


def test_boxes_are_looked_at_before_anything_else() -> None:
    draw = np.random.default_rng(4)
    rooms = {}
    for i in range(60):
        low = draw.uniform(0, 100, 3)
        rooms[f"m{i}"] = np.array([low, low + draw.uniform(1, 20, 3)])
    met = {frozenset(p) for p in contact.meeting(rooms)}
    names = list(rooms)
    for i, a in enumerate(names):
        for b in names[i + 1 :]:
            touching = bool((rooms[a][1] > rooms[b][0]).all() and (rooms[b][1] > rooms[a][0]).all())
            assert (frozenset((a, b)) in met) == touching


# threads -------------------------------------------------------------------------------------------
def bolt_and_nut(bolt: str, nut: str, depth: str = "") -> ls.Solid:
    fit = ls.member(ls.new_fit("bolt and nut"), bolt, "bolt", held=True)
    fit = ls.member(fit, nut, "nut", placement=(14.0, 0.0, 0.0))
    thread = "30/ring.helix.crest" if "real" in bolt else "10/sB"
    inner = "30/ring.helix.crest" if "real" in nut else "10/bore.right.1"
    return ls.solve(ls.relate(fit, "screwed", ("nut", inner), ("bolt", thread), size=depth))


def names(fit: object, member: str) -> list[str]:
    return [n for n in ls.features(fit, member) if n.endswith(".crest")]


@pytest.fixture(scope="module")
def meshed() -> object:
    fit = ls.member(ls.new_fit("meshed"), "hexagon screw M8x30 real", "screw", held=True)
    fit = ls.member(fit, "hexagon nut M8 real", "nut", placement=(18.0, 0.0, 0.0))
    (outer,), (inner,) = names(fit, "screw"), names(fit, "nut")
    return ls.relate(fit, "screwed", ("nut", inner), ("screw", outer))


def test_real_flanks_that_mesh_are_contact(meshed: object) -> None:
    found = ls.solve(meshed)  # type: ignore[arg-type]
    assert [f.kind for f in found.freedoms] == ["screw"]
    assert ls.overlaps(found) == []


@pytest.mark.parametrize("off", ["0.3", "-0.4", "0.625"])
def test_a_nut_out_of_mesh_cuts_into_its_screw(meshed: object, off: str) -> None:
    from lathed_solid.fit.edits import put_relation

    found = ls.solve(put_relation(meshed, 1, size=off))  # type: ignore[arg-type]
    (over,) = ls.overlaps(found)
    assert over.about and over.volume_mm3 > 1.0
    # half a pitch off, crest stands on crest: the most that there can be
    assert over.volume_mm3 < math.pi * 8 * 0.7 * 6.8


def test_a_drawn_thread_in_its_hole_is_no_overlap_but_a_screw_too_long_is() -> None:
    for length, hit in (("10", False), ("25", True)):
        block = ls.turned(ls.new_part("block"), [ls.Station(key="A", diameter="40", length="30")])
        block = ls.hole(block, "10/face.left", "", thread="M8", depth="20", point=None, thread_depth="15",
                        places=ls.Grid())  # fmt: skip
        fit = ls.member(ls.new_fit("f"), block, "block", held=True)
        fit = ls.member(fit, f"hexagon screw M8x{length}", "screw", placement=(-8.0, 0.0, 0.0))
        fit = ls.relate(fit, "screwed", ("screw", "10/sB"), ("block", "20/h0.wall"), flip=False)
        fit = ls.relate(fit, "touch", ("screw", "10/shoulder.A"), ("block", "10/face.left"))
        found = ls.solve(fit)
        assert found.state == "held"
        over = ls.overlaps(found)
        assert bool(over) == hit
        if hit:  # the screw's end stands 5 mm in the ground, of which the chamfer takes a little
            assert 0.9 * math.pi * 16 * 5 < over[0].volume_mm3 < math.pi * 16 * 5


# masses and exchange ---------------------------------------------------------------------------------
def rod(name: str, length: str, diameter: str = "20") -> Document:
    return ls.turned(ls.new_part(name), [ls.Station(key="A", diameter=diameter, length=length)])


def test_the_mass_of_all_is_that_of_one_solid() -> None:
    """A rod in three pieces, end to end, has the figures of the rod in one."""
    fit = ls.new_fit("rod")
    for k, (x, turn) in enumerate(((0.0, 0.0), (30.0, 1.0), (60.0, 2.5))):
        fit = ls.member(fit, rod("third", "30"), f"piece {k}", placement=at(x, axis=(1, 0, 0), turn=turn))
    whole = ls.build(rod("whole", "90")).summary
    found = ls.fit_mass(ls.solve(fit))
    assert found.grams == pytest.approx(whole["mass_g"], rel=1e-9)
    assert found.centre == pytest.approx(tuple(whole["centre_mm"]), abs=1e-9)
    assert np.allclose(found.inertia, whole["inertia_g_mm2"], rtol=1e-9, atol=1e-6)
    (row,) = ls.fit_parts(ls.solve(fit))
    assert (row.count, row.part, row.members) == (3, "third", ("piece 0", "piece 1", "piece 2"))


def test_members_of_unknown_material_are_told() -> None:
    odd = rod("odd", "10").model_copy(update={"material": "moon rock"})
    fit = ls.member(ls.member(ls.new_fit("f"), odd, "stone"), rod("rod", "10"), "rod")
    found = ls.solve(fit)
    assert ls.fit_mass(found).without == ("stone",)
    assert [r.grams is None for r in ls.fit_parts(found)] == [True, False]
    assert mass(found.whole, {}).grams == 0.0
    assert parts_list(found.whole, {"rod": PartMass(2.0, (0, 0, 0), ((0, 0, 0),) * 3)})[1].grams == 2.0  # type: ignore[arg-type]


def test_an_assembly_comes_back_as_it_went_out(tmp_path: object) -> None:
    from pathlib import Path

    folder = Path(str(tmp_path))
    one, two = BRepPrimAPI_MakeBox(10, 20, 30).Solid(), BRepPrimAPI_MakeCylinder(5, 40).Solid()
    sent = [
        Placed("Träger ①", "Träger", one, at(1, 2, 3, axis=(1, 1, 0), turn=0.7), "#B07F4A"),
        Placed("rod", "rod", two, at(), "#A7ADB0"), Placed("rod 2", "rod", two, at(50, 0, 0), "#A7ADB0"),
        Placed("painted rod", "rod", two, at(0, 50, 0), "#225588"),
    ]  # fmt: skip
    write_assembly(sent, folder / "all.step", "all")
    text = (folder / "all.step").read_text("utf-8", errors="replace")
    assert "AP242" in text[:2000]
    back = read_assembly(folder / "all.step")
    assert [b.name for b in back] == [s.name for s in sent]
    for b, s in zip(back, sent, strict=True):
        assert np.allclose(b.matrix, s.matrix, atol=1e-9)
        assert volume(b.shape) == pytest.approx(volume(s.shape), rel=1e-9)
        assert b.colour == s.colour and b.part == s.part
    assert back[1].shape.IsSame(back[2].shape) and not back[1].shape.IsSame(back[3].shape)
    write_assembly(sent, folder / "all.glb", "all")
    scene = trimesh.load_scene(folder / "all.glb", process=False)
    assert len(scene.geometry) == 3  # the rod once in each finish, wherever it stands
    up = np.array([[1, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])
    for s in sent:
        place, geometry = scene.graph[s.name]
        shape = scene.geometry[geometry]
        assert shape.is_watertight and shape.volume * 1e9 == pytest.approx(volume(s.shape), rel=0.02)
        expected = up @ np.array(s.matrix)
        assert np.allclose(place[:3, :3], expected[:3, :3], atol=1e-6)
        assert np.allclose(place[:3, 3] * 1000, expected[:3, 3], atol=1e-6)
    with pytest.raises(ExchangeError, match="ending"):
        write_assembly(sent, folder / "all.obj", "all")
    with pytest.raises(ExchangeError, match="nothing in the fit"):
        write_assembly([], folder / "a.step", "a")
    with pytest.raises(ExchangeError, match="no STEP file"):
        read_assembly(folder / "all.glb")


def test_a_part_that_fails_is_told_and_the_rest_goes_on() -> None:
    broken = ls.hole(rod("broken", "10"), "10/nowhere", "3", depth="2")
    fit = ls.member(ls.member(ls.new_fit("f"), broken, "broken"), rod("rod", "10"), "rod")
    shop = FitEngine()
    parts = shop.parts(fit)
    assert "nowhere" in parts["broken"].message and not parts["rod"].message
    assert shop.solve(fit).whole.members[1].name == "rod"
    empty = ls.member(fit, ls.new_part("nothing yet"), "nothing")
    assert FitEngine().parts(empty)["nothing yet"].message == "it has no solid yet"
    assert shop.overlaps(shop.solve(empty).whole) != []  # the broken rod and the other lie in one place
    assert placed(np.eye(3), np.zeros(3)).turn == (1.0, 0.0, 0.0, 0.0)
