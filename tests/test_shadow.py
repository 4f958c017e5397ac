"""The outline of a side as closed loops: against closed forms, and against the shadow by another way."""

from __future__ import annotations

import math
from pathlib import Path

import ezdxf
import numpy as np
import pytest
import shapely
from click.testing import CliRunner

pytest.importorskip("OCP")

from drilled_plates import drilled_plate

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.files import write_document
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.loop_figures import Loop
from lathed_solid.kernel.shadow import side_loops
from lathed_solid.kernel.triangles import finely, triangles


def area(loops: tuple[Loop, ...]) -> float:
    return sum(loop.area for loop in loops)


def body_of(part: ls.Document):  # type: ignore[no-untyped-def]
    built = ls.build(part)
    assert built.ok and built.built.body is not None, built.messages
    return built.built.body


@pytest.mark.parametrize("seed", [21, 22])
def test_a_drilled_plate_from_above_is_its_rectangle_less_the_holes_that_go_through(seed: int) -> None:
    plate = drilled_plate(seed, 9, placed=False)
    long, wide, thick = plate.size
    through = [h for h in plate.holes if h.depth is None]
    body = body_of(plate.document)
    loops = side_loops(body, "top")
    exact = long * wide - sum(math.pi / 4 * h.diameter**2 for h in through)
    assert len(loops) == 1 + len(through)
    assert area(loops) == pytest.approx(exact, abs=1e-9 * exact)
    assert all(len(loop.corners) == 2 for loop in loops if loop.area < 0)  # circles stay circles
    (front,) = side_loops(body, "front")
    assert front.area == pytest.approx(long * thick, rel=1e-9) and len(front.corners) == 4


def test_steps_cones_and_rounds_of_a_turned_part() -> None:
    """A rod of 40 by 30, a cone down to 20 over 15, a rod of 20 by 25 whose end is rounded by 4."""
    cone = ls.Taper(kind="diameter", value="20")
    part = ls.turned(ls.new_part("rod"), [
        ls.Station(key="A", diameter="40", length="30"), ls.Station(key="B", diameter="40", length="15", taper=cone),
        ls.Station(key="C", diameter="20", length="25", right=ls.edge("R4")),
    ])  # fmt: skip
    (loop,) = side_loops(body_of(part), "front")
    exact = 40 * 30 + (40 + 20) / 2 * 15 + 20 * 25 - 2 * (4**2 - math.pi * 4**2 / 4)
    assert loop.area == pytest.approx(exact, rel=1e-9)
    assert sum(bulge != 0 for *_, bulge in loop.corners) == 2
    (end,) = side_loops(body_of(part), "right")
    assert end.area == pytest.approx(math.pi * 20**2, rel=1e-12)


@pytest.mark.parametrize(
    ("demo", "side"), [("pedestal", "front"), ("pedestal", "top"), ("crank-hub", "left"), ("ratchet-wheel", "front")]
)
def test_the_outline_covers_what_the_triangles_cover(demo: str, side: str) -> None:
    body = body_of(DEMOS[demo]())
    loops = side_loops(body, side)
    flat = FLATS[side]
    axes = np.array([flat.right, flat.up])
    faces = [(t.points @ axes.T)[t.corners] for t in triangles(finely(body.shape, 1 / 2000, 0.2))]
    shadow = shapely.union_all(shapely.buffer(shapely.polygons(np.vstack(faces)), 0), grid_size=1e-6)
    assert area(loops) == pytest.approx(shadow.area, rel=2e-3)
    low, high = np.array(shadow.bounds[:2]), np.array(shadow.bounds[2:])
    corners = np.array([c[:2] for loop in loops for c in loop.corners])
    assert np.all(corners > low - 0.05) and np.all(corners < high + 0.05)


def test_the_command_writes_an_outline(tmp_path: Path) -> None:
    plate = drilled_plate(23, 4, placed=False)
    write_document(tmp_path / "p.lathed", plate.document)
    args = ["export", str(tmp_path / "p.lathed"), str(tmp_path / "p.dxf")]
    assert CliRunner().invoke(cli, [*args, "--side", "top"], standalone_mode=False).return_value == 0
    doc = ezdxf.readfile(tmp_path / "p.dxf")
    assert not doc.audit().errors
    assert len(doc.modelspace()) == 1 + sum(h.depth is None for h in plate.holes)
    assert CliRunner().invoke(cli, [*args, "--side", "top", "--face", "20/end"]).exit_code != 0
