"""Pictorial sheets: axes from the directions of the strokes, sizes along them, and no flat sheet taken for one."""

from __future__ import annotations

import math
from collections import Counter
from pathlib import Path

import numpy as np
import pytest
from effort import some
from hypothesis import assume, given
from hypothesis import strategies as st

pytest.importorskip("OCP")

from click.testing import CliRunner
from drawn_pictorial import drawn_pictorial
from pictorial_sheet import Hand
from practice.pictorially import PICTORIAL
from practice.stop_bracket import stop_bracket

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.sheets.client import read_page
from lathed_solid.sheets.pictorial import Axes, axes_along, axes_of, lettered, planes


@pytest.mark.parametrize("seed", some(range(701, 721), 3))
@pytest.mark.parametrize("ending", ["pdf", "dxf"])
def test_every_number_is_found_with_its_axis(tmp_path: Path, seed: int, ending: str) -> None:
    drawn = drawn_pictorial(seed)
    path = tmp_path / f"block.{ending}"
    path.write_bytes(getattr(drawn, ending))
    found = read_page(path)
    assert found.kind == "pictorial" and found.axes == pytest.approx((-30, 30, 90), abs=0.01)
    along = Counter((o.text, "xyz".index(o.span.along[0])) for o in found.offers if o.span is not None)
    assert along == Counter(drawn.lengths)
    assert all(o.sure == "sure" for o in found.offers)
    assert {o.text for o in found.offers} >= set(drawn.notes)
    assert found.scale == pytest.approx(drawn.scale, rel=1e-3)


@pytest.mark.parametrize("name", PICTORIAL)
def test_practice_parts_are_read_from_their_pictorial_sheets(tmp_path: Path, name: str) -> None:
    unit, draw = PICTORIAL[name]
    sheet = draw(Hand(in_gap=name == "vice base"))
    path = tmp_path / "part.pdf"
    path.write_bytes(sheet.pdf())
    found = read_page(path, 1, unit)  # type: ignore[arg-type]
    along = Counter((o.text, "xyz".index(o.span.along[0])) for o in found.offers if o.span is not None)
    assert found.kind == "pictorial" and along == Counter(sheet.lengths)
    assert {o.text for o in found.offers} >= set(sheet.notes)
    assert found.scale == pytest.approx(sheet.scale, rel=1e-3)


@pytest.mark.parametrize(("seed", "eye"), some([(741, (45.0, 20.0)), (742, (30.0, 30.0)), (743, (55.0, 25.0))], 2))
def test_dimetric_and_trimetric_views_are_shortened_as_they_are_seen(
    tmp_path: Path, seed: int, eye: tuple[float, float]
) -> None:
    drawn = drawn_pictorial(seed, eye)
    path = tmp_path / "block.pdf"
    path.write_bytes(drawn.pdf)
    found = read_page(path)
    along = Counter((o.text, "xyz".index(o.span.along[0])) for o in found.offers if o.span is not None)
    assert along == Counter(drawn.lengths) and found.scale == pytest.approx(drawn.scale, rel=2e-3)
    axes = axes_along(found.axes or ())
    assert axes is not None
    towards = np.array(axes.eye) / np.linalg.norm(axes.eye)
    a, h = (math.radians(v) for v in eye)
    assert towards == pytest.approx((math.sin(a) * math.cos(h), -math.cos(a) * math.cos(h), math.sin(h)), abs=2e-3)


@pytest.mark.parametrize("name", ["pedestal.pdf", "gland-nut.dxf", "winch-spindle.pdf"])
def test_flat_sheets_are_none(name: str) -> None:
    assert read_page(SHEETS / name, 1, "in" if name == "pedestal.pdf" else "mm").kind == "orthographic"


def test_the_command_tells_the_kind(tmp_path: Path) -> None:
    path = tmp_path / "block.pdf"
    path.write_bytes(drawn_pictorial(731).pdf)
    result = CliRunner().invoke(cli, ["read", str(path), "--json"])
    assert '"kind": "pictorial"' in result.output


def projected(azimuth: float, height: float) -> np.ndarray:
    """(2, 3): the axes as an eye square to the paper sees them, from its azimuth and height in degrees."""
    a, h = math.radians(azimuth), math.radians(height)
    right = np.array([math.cos(a), math.sin(a), 0.0])
    eye = np.array([math.sin(a) * math.cos(h), -math.cos(a) * math.cos(h), math.sin(h)])
    return np.array([right, np.cross(eye, right)])


@given(st.floats(12, 78), st.floats(12, 70))
def test_directions_alone_tell_how_much_each_axis_is_shortened(azimuth: float, height: float) -> None:
    """Against the projection itself: lengths of the axes, and the way to the eye."""
    seen = projected(azimuth, height)
    lengths = np.linalg.norm(seen, axis=0)
    degrees = [math.degrees(math.atan2(y, x)) for x, y in seen.T]
    axes = axes_along(degrees)
    assert axes is not None
    assert axes.shortened == pytest.approx(tuple(lengths / lengths.max()), rel=1e-6)
    way = np.array(axes.eye) / np.linalg.norm(axes.eye)
    assert way @ np.cross(seen[0], seen[1]) == pytest.approx(1.0, abs=1e-9)


@pytest.mark.parametrize("degrees", [(0.0, 0.0, 90.0), (-30.0, 150.0, 90.0), (math.nan, 30.0, 90.0), (1.0, 2.0)])
def test_directions_that_nobody_sees_are_none(degrees: tuple[float, ...]) -> None:
    assert axes_along(degrees) is None


@given(st.floats(5, 60), st.floats(2, 5), st.integers(0, 359), st.floats(-50, 50), st.floats(-50, 50))
def test_slanted_lettering_is_told_from_its_level_box(long: float, high: float, turn: int, x: float, y: float) -> None:
    assume(abs(turn % 90 - 45) > 10 and long > 2 * high)
    t = math.radians(turn)
    along, across = np.array([math.cos(t), math.sin(t)]), np.array([-math.sin(t), math.cos(t)])
    corners = [np.array([x, y]) + i * long / 2 * along + k * high / 2 * across for i in (-1, 1) for k in (-1, 1)]
    (left, low), (right, top) = np.min(corners, axis=0), np.max(corners, axis=0)
    found = lettered((left, low, right, top), turn)
    assert all(min(np.linalg.norm(c - f) for f in found) < 1e-6 for c in corners)


def test_a_place_in_a_plane_and_back() -> None:
    axes = Axes((-30.0, 30.0, 90.0), (1.0, 0.9, 0.8))
    points = np.array([[1.0, 2.0], [-3.0, 7.0]])
    for plane in planes(axes):
        assert plane.page(plane.flat(points)) == pytest.approx(points)
        assert plane.flat(axes.vector(plane.level)[None]) == pytest.approx(np.array([[1.0, 0.0]]))


@given(st.lists(st.tuples(*(st.floats(-500, 500) for _ in range(4))), max_size=60))
def test_any_strokes_are_judged(ends: list[tuple[float, float, float, float]]) -> None:
    strokes = [([(a, b), (c, d)], 0.3, False) for a, b, c, d in ends]
    found = axes_of(strokes, 420, 297)
    assert found is None or len(found.degrees) == 3


def test_hatching_and_hexagons_make_no_pictorial_view() -> None:
    """Slanted lines beside as many level ones are those of a flat view."""
    level = [([(20.0, 20.0 + 3 * k), (80.0, 20.0 + 3 * k)], 0.3, False) for k in range(20)]
    slanted = [
        ([(100 + 5.0 * k, 50.0), (120 + 5.0 * k, 50 + s * 11.547)], 0.3, False) for k in range(15) for s in (1, -1)
    ]
    upright = [([(90.0, 40.0 + 5 * k), (90.0, 44.0 + 5 * k)], 0.3, False) for k in range(15)]
    assert axes_of([*slanted, *upright], 420, 297) is not None
    assert axes_of([*level, *slanted, *upright], 420, 297) is None


def test_a_pictorial_sheet_bears_its_part_out_and_points_at_a_slip(tmp_path: Path) -> None:
    """The stop bracket; then with a size of its other callouts off, and the demo's own sheet."""
    part = stop_bracket()
    path = tmp_path / "bracket.pdf"
    sheet = PICTORIAL["stop bracket"][1](Hand())
    path.write_bytes(sheet.pdf())
    found = ls.witness(part, path)
    assert found.agrees and [v.side for v in found.views] == ["pictorial"]
    assert found.views[0].scale == pytest.approx(sheet.scale, rel=1e-3) and found.views[0].explained > 0.999
    for callout in some([c for c in part.callouts if c.role in ("diameter", "length") and c.nominal], 1):
        slip = ls.change_callout(part, callout.balloon, nominal=callout.nominal * 1.12, low=None, high=None)
        if ls.build(slip).ok:
            assert not ls.witness(slip, path).agrees, callout.note
    assert ls.witness(DEMOS["pedestal"](), SHEETS / "pedestal-pictorial.pdf").agrees


def test_whichever_way_a_part_lies_it_is_looked_at_so_once() -> None:
    axes = axes_along((-30.0, 30.0, 90.0))
    assert axes is not None
    eyes, rights = (np.array([way[k] for way in axes.views]) for k in (0, 1))
    assert len(eyes) == len({tuple(both) for both in np.round(np.hstack([eyes, rights]), 9).tolist()}) == 24
    assert np.allclose((eyes * rights).sum(axis=1), 0) and np.allclose(np.linalg.norm(rights, axis=1), 1)
    assert axes.views[0][0] == pytest.approx(np.array(axes.eye) / np.linalg.norm(axes.eye))


def test_lettering_keeps_a_height_in_a_box_that_is_not_exact() -> None:
    """``36`` along 330 degrees in 600 pixels: by its box alone it would have none, and stand near no line."""
    corners = lettered((0.0, 0.0, 21.0, 12.0), 330, 4.0)
    assert np.linalg.norm(corners[0] - corners[3]) == pytest.approx(4.0)
    assert np.linalg.norm(lettered((0.0, 0.0, 21.0, 12.0), 330)[0] - lettered((0.0, 0.0, 21.0, 12.0), 330)[3]) < 0.2
