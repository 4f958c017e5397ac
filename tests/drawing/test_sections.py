"""Sections, half sections and details, against the part's own construction: where they are cut, what they lay open, to
which scale, and that they are read back.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path

import pytest
import shapely

from lathed_solid import scripting as ls
from lathed_solid.engine.prove import look_of
from lathed_solid.kernel.drawing.figures import Arc, Run
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.drawing.tips import Edges
from lathed_solid.kernel.surfaces import one_surface
from lathed_solid.kernel.vectors import dot
from lathed_solid.part.drawing_style import DrawingStyle
from lathed_solid.reports.drawing.files import write_drawing
from lathed_solid.reports.drawing.meeting import lines_over_texts, texts_over_texts
from lathed_solid.reports.drawing.model import DrawnSheet
from lathed_solid.sheets.detail_titles import detail_titles

from .reading_back import read_back

#: the lock block, mm: its sides and height; the pocket's sides, depth and middle; the bore from the left, 13 before the
#: middle and on the lower edge
BLOCK, POCKET, DEEP, MIDDLE = (80.0, 50.0, 25.0), (44.0, 24.0), 10.0, (8.0, -4.0)


def lock_block() -> ls.Document:
    part = ls.new_part("Lock block")
    for text in ("80", "50", "25", "44", "24", "10"):
        part = ls.note(part, text)
    d = ls.Draft()
    centre = d.point(0, 0)
    d.add("fixed", centre)
    sides = ls.shapes.centre_rectangle(d, centre, (40, 25))
    d.add("distance", sides[0], value="#1")
    d.add("distance", sides[1], value="#2")
    part = ls.extrude(ls.sketch(part, d, "XY"), 10, "#3")
    d = ls.Draft()
    centre = d.point(*MIDDLE)
    d.add("fixed", centre)
    sides = ls.shapes.centre_rectangle(d, centre, (MIDDLE[0] + 22, MIDDLE[1] + 12))
    d.add("distance", sides[0], value="#4")
    d.add("distance", sides[1], value="#5")
    return ls.extrude(ls.sketch(part, d, "20/end"), 30, "#6", mode="cut", side="back")


def bush(depth: str | None = None) -> ls.Document:
    """50 by 60, bored 30; with a blind cross hole of 6 that is seen from in front only, 20 from the left."""
    part = ls.new_part("Bush", material="CuSn8")
    for text in ("⌀50", "⌀30 H7", "60", *(("⌀6", "20") if depth else ())):
        part = ls.note(part, text)
    bore = ls.Bore(end="right", steps=(ls.BoreStep(diameter="#2"),))
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#3")], bores=[bore])
    if depth is None:
        return part
    return ls.hole(part, "10/sA", "#4", depth=depth, point=None, places=ls.Radial(at="#5", datum="10/face.left"))


def grooved() -> ls.Document:
    """A pin of 20 by 160 with a groove 1.3 wide and 19 across, 150 from its left end."""
    part = ls.new_part("Pin")
    for text in ("⌀20 h6", "160", "150", "1.3 H13", "⌀19"):
        part = ls.note(part, text)
    groove = ls.Groove(key="g1", at="#3", width="#4", diameter="#5")
    return ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2")], grooves=[groove])


def hatched_area(sheet: DrawnSheet) -> float:
    area = shapely.Polygon()
    for run in sheet.hatched:
        area = area.symmetric_difference(shapely.Polygon(run))
    return float(area.area) / sheet.scale**2


def comes_back(sheet: DrawnSheet, folder: Path) -> None:
    for ending in (".pdf", ".dxf"):
        path = folder / f"it{ending}"
        write_drawing(path, (sheet,))
        found = read_back(sheet, path)
        assert found.bad == [] and found.counts["found"] == found.counts["notes"] and found.counts["more"] == 0
    assert texts_over_texts(sheet) == 0 and lines_over_texts(sheet) == 0


def test_a_pocket_s_floor_is_laid_open_by_a_cut_through_it(tmp_path: Path) -> None:
    (sheet,) = ls.drawing(lock_block())
    cut = next(v for v in sheet.views if v.cut)
    parent = next(v for v in sheet.views if not v.cut)
    assert (cut.name, cut.title) == ("front", "A-A")
    # the cut goes through the pocket: a rectangle without the pocket's
    assert hatched_area(sheet) == pytest.approx(BLOCK[0] * BLOCK[2] - POCKET[0] * DEEP, abs=1e-6)
    # its line stands where it cuts, in a view that looks along it, and points away from who looks at the section
    (first, _), (second, _) = (tip for tip, _ in sheet.pointers), (back for _, back in sheet.pointers)
    k = 0 if parent.name in ("left", "right") else 1
    sense = {"left": -1.0, "right": 1.0, "top": 1.0, "bottom": -1.0}[parent.name]
    y = sense * (first[k] - parent.origin[k]) / sheet.scale
    assert abs(y - MIDDLE[1]) < POCKET[1] / 2
    assert all(sense * (tip[k] - back[k]) > 0 for tip, back in sheet.pointers)  # towards +y: away from the front
    assert [w.text for w in sheet.words].count("A") == 2 and second
    comes_back(sheet, tmp_path)


def test_without_a_section_the_same_part_is_drawn_whole() -> None:
    (sheet,) = ls.drawing(lock_block(), DrawingStyle(section="none"))
    assert not any(v.cut or v.title for v in sheet.views) and sheet.hatched == () and sheet.pointers == ()
    (sheet,) = ls.drawing(bush(), DrawingStyle(section="none"))
    assert not any(v.cut for v in sheet.views)


def test_a_half_section_is_cut_below_the_axis_alone(tmp_path: Path) -> None:
    (full,) = ls.drawing(bush())
    (half,) = ls.drawing(bush(), DrawingStyle(section="half"))
    wall = (50.0 - 30.0) / 2 * 60.0
    assert hatched_area(full) == pytest.approx(2 * wall, abs=1e-6)
    assert hatched_area(half) == pytest.approx(wall, abs=1e-6)
    (view,) = (v for v in half.views if v.cut)
    axis = (view.box[1] + view.box[3]) / 2
    assert all(y < axis for run in half.hatched for _, y in run)
    along = [
        s for s in half.strokes if isinstance(s.curve, Run) and all(abs(y - axis) < 0.01 for _, y in s.curve.points)
    ]
    assert {s.pen for s in along if view.box[0] - 10 < s.curve.points[0][0] < view.box[2]} == {"axis"}  # type: ignore[union-attr]
    assert not any(s.pen == "hidden" for s in half.strokes)
    (half,) = ls.drawing(bush("10"), DrawingStyle(section="half"))
    comes_back(half, tmp_path)


def test_what_a_full_section_would_cut_away_is_shown_elsewhere(tmp_path: Path) -> None:
    (sheet,) = ls.drawing(bush("10"))
    assert not sheet.left_out
    drawn = {w.text: n.view for n in sheet.leaders for w in n.words}
    assert "⌀6" in drawn
    comes_back(sheet, tmp_path)


def test_a_small_groove_is_drawn_again_enlarged(tmp_path: Path) -> None:
    (sheet,) = ls.drawing(grooved())
    detail = next(v for v in sheet.views if v.name == "detail A")
    width = next(d for d in sheet.dimensions if d.words.text == "1.3 H13")
    scale = sheet.scale * width.larger
    assert detail.title == f"A ({scale:g}:1)" and width.larger >= 2
    assert width.span[1] - width.span[0] == pytest.approx(1.3 * scale)
    rings = [s.curve for s in sheet.strokes if isinstance(s.curve, Arc) and s.curve.whole and s.pen == "thin"]
    above = [r for r in rings if r.centre[1] > 50]  # the title block has circles too
    small, large = sorted(above, key=lambda r: r.radius)
    assert large.radius == pytest.approx(small.radius * width.larger)
    front = next(v for v in sheet.views if v.name == "front")
    middle = tuple(c - o for c, o in zip(small.centre, front.origin, strict=True))
    assert middle[0] / sheet.scale == pytest.approx(150.65)
    assert 9.5 < middle[1] / sheet.scale < 10.0
    # nothing of the part goes beyond the circle
    points = [p for s in sheet.strokes if s.pen == "seen" and isinstance(s.curve, Run) for p in s.curve.points]
    near = [math.dist(p, large.centre) for p in points]
    assert not [d for d in near if large.radius + 1e-6 < d < 1.3 * large.radius]
    floor = next(n for n in sheet.leaders if n.words[0].text == "⌀19")
    assert math.dist(floor.tip, large.centre) < large.radius
    comes_back(sheet, tmp_path)


def test_a_detail_can_be_moved_and_its_dimensions_go_with_it() -> None:
    (before,) = ls.drawing(grooved())
    (after,) = ls.drawing(grooved(), DrawingStyle().with_move(0, "detail A", 7.0, -5.0))
    places = [next(d for d in s.dimensions if d.words.text == "1.3 H13") for s in (before, after)]
    assert places[1].start == pytest.approx((places[0].start[0] + 7, places[0].start[1] - 5))
    with pytest.raises(ValueError, match="view"):
        DrawingStyle().with_move(0, "detail ä", 1.0, 1.0)


@pytest.mark.parametrize(
    ("text", "scale"),
    [("B (5:1)", 5.0), ("DETAIL B SCALE 2:1", 2.0), ("Detail C 1:2", 0.5), ("Z (SCALE 10:1)", 10.0), ("B 5:1", None),
     ("TAPER 1:10", None), ("SCALE 2:1", None), ("A-A", None), ("B (0:1)", None), ("M (5:1) x 20", None)],
)  # fmt: skip
def test_a_detail_s_title_tells_its_scale(text: str, scale: float | None) -> None:
    found = detail_titles([{"text": text, "box": [0.1, 0.1, 0.2, 0.12]}], 420.0, 297.0)
    assert [t.scale for t in found] == ([] if scale is None else [scale])


@pytest.mark.parametrize("part", [lock_block, grooved, bush])
@pytest.mark.parametrize("ending", ["pdf", "dxf"])
def test_what_was_drawn_bears_its_part_out(part: Callable[[], ls.Document], ending: str, tmp_path: Path) -> None:
    path = tmp_path / f"it.{ending}"
    ls.write_drawing(part(), path)
    found = ls.witness(part(), path)
    assert found.agrees, [(v.side, v.explained) for v in found.views]
    assert min(v.explained for v in found.views) > 0.99


def test_a_shoulder_is_seen_from_aside_and_a_pocket_s_floor_is_not() -> None:
    shaft = ls.turned(ls.new_part("shaft"), [
        ls.Station(key="A", diameter="30", length="20"), ls.Station(key="B", diameter="50", length="20"),
        ls.Station(key="C", diameter="20", length="20"),
    ])  # fmt: skip
    floor = BLOCK[2] - DEEP
    for part, levels in ((shaft, set()), (lock_block(), {floor})):
        built = ls.build(part).built
        look = look_of(part, built)
        assert look is not None and built.body is not None
        flats = [s for f in built.body.by_atom.values() if (s := one_surface(f)).kind == "plane"]
        for side in ("front", "back", "left"):
            edge_on = [s for s in flats if abs(dot(s.direction, FLATS[side].eye)) < 1e-9]
            unseen = [s for s in edge_on if not Edges(look).seen(s, FLATS[side])]
            assert {round(s.origin[2], 9) for s in unseen if abs(s.direction[2]) > 0.5} == levels, side
