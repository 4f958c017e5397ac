"""The witness of operations: what went wrong by purpose is seen; coils; rays; figures by faces."""

from __future__ import annotations

import math
import random

import pytest
from effort import LONG, some
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakeSphere
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

from lathed_solid import scripting as ls
from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel.builders.boolean import common, cut, join
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.look import unwrapped
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.properties import properties
from lathed_solid.kernel.rays import Rays
from lathed_solid.kernel.witness import witness
from steps import coils

BLOCK = Body(BRepPrimAPI_MakeBox(gp_Pnt(0, 0, 0), 40, 30, 20).Shape(), {})
PIN = Body(BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(15, 15, -5), gp_Dir(0, 0, 1)), 6, 30).Shape(), {})
BALL = Body(BRepPrimAPI_MakeSphere(gp_Pnt(40, 15, 10), 8).Shape(), {})


@pytest.mark.parametrize("tool", [PIN, BALL], ids=["pin", "ball"])
def test_what_an_operation_left_undone_or_overdid_is_seen(tool: Body) -> None:
    done = cut(BLOCK, [tool])
    witness("cut", BLOCK, [tool], done)
    for mode, wrong in (("cut", BLOCK), ("cut", common(BLOCK, [tool])), ("common", BLOCK), ("common", done)):
        with pytest.raises(BuildError, match="is wrong"):
            witness(mode, BLOCK, [tool], wrong)  # type: ignore[arg-type]
    with pytest.raises(BuildError, match="missing where the parts have it"):
        witness("add", BLOCK, [tool], BLOCK)
    witness("add", BLOCK, [tool], join([BLOCK, tool]))


def test_one_of_many_tools_left_out_is_seen() -> None:
    tools = [Body(BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(5 + 7 * k, 15, -5), gp_Dir(0, 0, 1)), 2, 30).Shape(), {})
             for k in range(5)]  # fmt: skip
    for k in range(5):
        with pytest.raises(BuildError, match="material is left"):
            witness("cut", BLOCK, tools, cut(BLOCK, tools[:k] + tools[k + 1 :]))


@settings(max_examples=60, deadline=None)
@given(st.tuples(st.floats(-5, 45), st.floats(-5, 35), st.floats(-5, 25)))
def test_rays_tell_inside_as_the_construction_does(p: tuple[float, float, float]) -> None:
    shape = BRepAlgoAPI_Cut(BLOCK.shape, PIN.shape).Shape()
    x, y, z = p
    to_pin = math.hypot(x - 15, y - 15) - 6
    edges = [x, 40 - x, y, 30 - y, z, 20 - z, to_pin]
    if min(map(abs, edges)) < 1e-3:
        return
    assert Rays(shape).inside(p) == (min(edges) > 0)


def test_figures_by_faces_are_those_of_the_whole_and_are_kept() -> None:
    known: dict = {}
    first = properties(BLOCK.shape, known)
    assert first.volume == pytest.approx(24000, rel=1e-12) and first.area == pytest.approx(5200, rel=1e-12)
    assert first.centre == pytest.approx((20, 15, 10), abs=1e-9)
    assert first.inertia[0][0] == pytest.approx(24000 * (30**2 + 20**2) / 12, rel=1e-12)
    assert len(known) == 6 and properties(BLOCK.shape, known) == first
    drilled = cut(BLOCK, [PIN])
    again = properties(drilled.shape, known)
    assert again.volume == pytest.approx(24000 - math.pi * 36 * 20, rel=1e-10) and len(known) == 7


def test_copies_of_copies_are_unwrapped_and_blends_are_not() -> None:
    assert unwrapped("90/m(70/2(60/h0.wall))") == [
        ((), "90/m(70/2(60/h0.wall))"), (("90/m",), "70/2(60/h0.wall)"), (("90/m", "70/2"), "60/h0.wall"),
    ]  # fmt: skip
    assert unwrapped("40/(20/end|20/l1)") == [((), "40/(20/end|20/l1)")]
    assert unwrapped("60/1(40/(20/end|20/l1))")[-1] == (("60/1",), "40/(20/end|20/l1)")


@pytest.mark.parametrize("left", some([True, False], 1))
def test_a_coil_over_a_step_and_a_cone_is_its_integral(left: bool) -> None:
    c = coils.Coil(4.0, 3.0, 3.0, 3.2, 3.5, 2.8, 0.8, 0.2, left)
    words, off = coils.tried(c)
    assert words == "built" and abs(off) < 1e-5
    # its hand: half a turn on, the groove has gone on by half a pitch to the one side or the other
    solid = ls.build(coils.cut(c))
    assert solid.built.body is not None
    inside = Rays(solid.built.body.shape).inside
    r = random.Random(3)
    for _ in range(40):
        turns = r.uniform(2.5, 3.4)
        x = c.z0 + c.pitch * turns
        angle = (-1 if left else 1) * 2 * math.pi * turns
        y, z = 3.6 * math.cos(angle), 3.6 * math.sin(angle)
        assert inside((x, y, z)) is False and inside((x + c.pitch / 2, y, z)) is True


@pytest.mark.skipif(not LONG, reason="forty seconds: with LONG=1")
def test_a_missing_turn_would_be_seen(monkeypatch: pytest.MonkeyPatch) -> None:
    from lathed_solid.kernel.builders import helix

    whole = helix._coiled
    monkeypatch.setattr(helix, "_coiled", lambda *a: whole(*a)[:-1])
    c = coils.Coil(4.0, 3.0, 3.0, 3.2, 3.5, 2.8, 0.8, 0.2, False)
    built = Engine().build(coils.cut(c))
    assert not built.ok and "its screw motion" in built.steps[-1].message
    # where the shank is not turned, the way of the coil is followed
    monkeypatch.setattr(helix, "removed", lambda *a: None)
    built = Engine().build(coils.cut(c))
    assert not built.ok and "is wrong" in built.steps[-1].message


@pytest.mark.parametrize("name", ["winch-spindle", "pedestal", "ratchet-wheel", "crank-hub"])
def test_flat_faces_in_closed_form_are_the_kernels_integrals(name: str) -> None:
    """Left-handed planes, arcs, holes: volume, area, centre and inertia against the kernel's own rule for the whole."""
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps

    from lathed_solid.demo import DEMOS

    body = Engine().build(DEMOS[name]()).body
    assert body is not None
    g = GProp_GProps()
    BRepGProp.VolumeProperties_s(body.shape, g, 1e-13, False, False)
    found, c, m = properties(body.shape), g.CentreOfMass(), g.MatrixOfInertia()
    assert found.volume == pytest.approx(g.Mass(), rel=1e-10)
    assert found.centre == pytest.approx((c.X(), c.Y(), c.Z()), abs=1e-8)
    assert [found.inertia[k][k] for k in range(3)] == pytest.approx([m.Value(k, k) for k in (1, 2, 3)], rel=1e-9)
    assert found.inertia[0][1] == pytest.approx(m.Value(1, 2), abs=1e-9 * found.inertia[0][0])
