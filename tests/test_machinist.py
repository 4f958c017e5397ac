"""The machinist's sheet: hole tables against construction, stations, stock, settings, tools, what cannot be made."""

from __future__ import annotations

import csv
import io
import json
import math
from pathlib import Path

import pytest
from click.testing import CliRunner
from effort import some

pytest.importorskip("OCP")

from drilled_plates import DrilledPlate, drilled_plate

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.errors import LathedError
from lathed_solid.files import write_document
from lathed_solid.kernel.shop.figures import Station
from lathed_solid.part import Document
from lathed_solid.reports.machinist.files import machinist_csv, write_machinist
from lathed_solid.reports.machinist.model import MachinistSheet
from lathed_solid.reports.machinist.sheet import bored_from
from lathed_solid.standards.stock import next_usual, usual


def holes_are(sheet: MachinistSheet, plate: DrilledPlate) -> list[str]:
    """What the table has otherwise than the plate was made; places from the left front corner of the top."""
    bad = []
    left = list(sheet.holes)
    for h in plate.holes:
        own = [r for r in left if math.dist(r.at, (h.x, h.y, 0.0)) < 1e-9]
        if len(own) != 1:
            bad.append(f"{len(own)} rows for the hole at {h.x}, {h.y}")
            continue
        (row,) = own
        left.remove(row)
        right = (
            abs(row.diameter - h.diameter) < 1e-9 and row.side == "top"
            and ((row.depth is None and h.depth is None) or abs((row.depth or 0) - (h.depth or 0)) < 1e-9)
            and row.thread == h.thread and (row.tap_drill is None) == (not h.thread)
        )  # fmt: skip
        if not right:
            bad.append(f"{row} for {h}")
    return bad + [f"twice or too much: {r}" for r in left]


@pytest.mark.parametrize("seed", some(range(400, 410), 4))
def test_hole_tables_say_what_was_drilled(seed: int) -> None:
    plate = drilled_plate(seed, 3 + seed % 17, placed=False)
    sheet = ls.machinist(plate.document)
    assert holes_are(sheet, plate) == []
    assert sheet.figures.size == pytest.approx(plate.size, abs=1e-9)
    assert [s.side for s in sheet.settings] == ["all six", "top"]


def test_holes_of_an_imported_body_are_found_too(tmp_path: Path) -> None:
    plate = drilled_plate(77, 9, placed=False)
    ls.export(ls.build(plate.document), tmp_path / "p.step")
    part = ls.import_body(ls.new_part("bare"), tmp_path / "p.step")
    sheet = ls.machinist(part)
    places = sorted(tuple(round(v, 6) for v in h.at) for h in sheet.holes)
    assert places == sorted((h.x, h.y, 0.0) for h in plate.holes)
    assert all(not h.balloons and not h.thread for h in sheet.holes)  # no step says what a thread was


def test_stations_in_turning_order_with_their_lengths() -> None:
    sheet = ls.machinist(DEMOS["winch-spindle"]())
    assert sheet.zero.words.startswith("the middle of the right end") and sheet.figures.kind == "turned"
    right = [s for s in sheet.stations if s.end == "right end" and not s.inner]
    left = [s for s in sheet.stations if s.end == "left end" and not s.inner]
    # by the drawing's own sizes: 198 long, the flange from 114 to 128 from the left
    assert [(round(s.start, 6), round(s.first, 6)) for s in right if abs(s.first - s.last) < 1e-9][-1] == (71.0, 72.0)
    assert left[1].thread == "M20x1.5" and left[1].stop == pytest.approx(198 - 1.5)
    assert {round(h.at[2], 6) for h in sheet.holes if h.side == "right end"} == {128.0 - 198.0}
    assert {round(math.hypot(*h.at[:2]), 6) for h in sheet.holes if h.side == "right end"} == {26.0}
    assert all(h.entry == "counterbore ⌀11 x 6.8" for h in sheet.holes if h.side == "right end")
    (cross,) = [h for h in sheet.holes if h.side == "around"]
    assert cross.fit == "H9" and cross.depth is None and cross.at[2] == pytest.approx(-12)
    assert sheet.stock.kind == "round bar" and sheet.stock.size == (75.0, 202.0)
    assert sheet.stock.grams == pytest.approx(math.pi / 4 * 75**2 * 202 * 7.85e-3)
    assert {t.name for t in sheet.tools} >= {"reamer ⌀6 H9", "drill ⌀6.6", "counterbore ⌀11"}
    assert [(t.what, t.hard) for t in sheet.cannot] == [("M20x1.5 up to a shoulder", False)]


def bored(*stations: tuple[float, float, float]) -> list[str]:
    """The ends from which bores of a part 100 long are reached: each from, to, diameter."""
    inner = [Station(a, b, d, d, True, "", "") for a, b, d in stations]
    return [bored_from(s, inner, 100.0) for s in inner]


def test_a_bore_is_reached_from_the_end_it_opens_to() -> None:
    right, left = "right end", "left end"
    assert bored((0, 80, 20)) == [right]  # blind and deep: its own floor is nearer to the other end
    assert bored((20, 100, 20)) == [left]
    assert bored((0, 10, 40), (10, 85, 20)) == [right, right]
    assert bored((0, 60, 30), (60, 100, 20)) == [right, left]  # open to both: each from where nothing is narrower
    assert bored((0, 60, 20), (60, 100, 30)) == [right, left]
    assert bored((0, 70, 20), (70, 90, 30), (90, 100, 20)) == [right, left, left]  # undercut: the nearer end
    assert bored((0, 30, 20), (60, 100, 20)) == [right, left]  # solid between
    assert bored((40, 60, 20)) == [right]  # open to none


def test_what_is_done_in_a_setting_stands_in_its_order() -> None:
    sheet = ls.machinist(DEMOS["winch-spindle"]())
    first, *rest = (s for s in sheet.settings if s.side in ("right end", "left end"))
    verbs = [does.split()[0] for does in first.does]
    assert verbs == sorted(verbs, key=["face", "turn", "groove", "thread", "bore"].index)
    every = [does for s in (first, *rest) for does in s.does]
    (groove,) = (d for d in every if d.startswith("groove"))
    number = groove.split()[1]
    assert next(s for s in sheet.stations if s.id == number).first == pytest.approx(23.9, abs=0.2)
    (thread,) = (d for d in every if d.startswith("thread"))
    assert next(s for s in sheet.stations if s.id == thread.split()[1]).thread == "M20x1.5"
    across = next(s for s in sheet.settings if any(d.startswith("ream") for d in s.does))
    assert [d.split()[0] for d in across.does] == ["drill", "ream"]


def block(*steps: tuple[str, dict[str, object]]) -> Document:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0.0, 0.0), (60.0, 40.0))
    d.add("fixed", d.entities[sides[0]].points[0])
    part = ls.extrude(ls.sketch(ls.new_part("block"), d, "XY"), 10, "20")
    for kind, values in steps:
        part = ls.step(part, kind, **values)
    return part


def pocket(radius: float = 0.0) -> Document:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (10.0, 10.0), (40.0, 30.0))
    d.add("fixed", d.entities[sides[0]].points[0])
    part = ls.sketch(block(), d, ls.DatumPlane(plane="XY", offset="20"))
    part = ls.extrude(part, part.steps[-1].number, "12", mode="cut", side="back")
    if radius:
        n = part.steps[-1].number
        names = [f"{n}/l{a}|{n}/l{b}" for a, b in ((1, 2), (2, 3), (3, 4), (1, 4))]
        part = ls.step(part, "fillet", radius=f"{radius:g}", pick=ls.EdgePick(edges=tuple(names)))
    return part


def test_a_pockets_sharp_corners_cannot_be_milled_and_rounded_ones_can() -> None:
    sheet = ls.machinist(pocket())
    sharp = [t for t in sheet.cannot if t.what == "sharp inside corner"]
    # its four upright edges; the floor's edges are left by the end of the cutter
    assert len(sharp) == 4 and all("Z -6" in t.where for t in sharp)
    built = ls.build(pocket(2.0))
    assert built.ok, built.messages
    rounded = ls.machinist(pocket(2.0))
    assert not [t for t in rounded.cannot if t.what == "sharp inside corner"]
    (mill,) = [t for t in rounded.tools if t.name.startswith("end mill")]
    assert mill.name == "end mill up to ⌀4" and mill.remark.startswith("12 deep, 3.0 diameters")
    deep = ls.machinist(pocket(1.0))
    assert any(t.what == "deep inside corner" and t.hard for t in deep.cannot)


def test_threads_to_the_bottom_and_deep_holes_are_told() -> None:
    def tapped(below: float) -> MachinistSheet:
        at = ls.Table(rows=(("20", "20"),))
        return ls.machinist(ls.hole(block(), "20/end", "", depth=f"{10 + below:g}", thread="M6", thread_depth="10",
                                    places=at))  # fmt: skip

    assert [(t.what, t.hard) for t in tapped(1.0).cannot] == [("M6 to the bottom", False)]
    assert [(t.what, t.hard) for t in tapped(3.0).cannot] == [("M6 near the bottom", True)]
    assert not tapped(4.5).cannot
    deep = ls.machinist(ls.hole(block(), "20/end", "2", depth="18", places=ls.Table(rows=(("20", "20"),))))
    assert [(t.what, t.hard) for t in deep.cannot] == [("deep hole", True)]
    edge = ls.machinist(ls.hole(block(), "20/end", "8", depth=None, places=ls.Table(rows=(("20", "4.2"),))))
    assert any(t.what == "thin wall" for t in edge.cannot)


def test_sides_that_a_cutter_reaches_from_the_first_need_no_setting() -> None:
    """A step along one edge is left from the top; a groove under the block only from below."""
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (-1.0, -1.0), (12.0, 41.0))
    d.add("fixed", d.entities[sides[0]].points[0])
    part = ls.sketch(block(), d, ls.DatumPlane(plane="XY", offset="20"))
    part = ls.extrude(part, part.steps[-1].number, "8", mode="cut", side="back")
    part = ls.hole(part, "20/end", "6", depth="10", places=ls.Table(rows=(("40", "20"),)))
    assert [s.side for s in ls.machinist(part).settings] == ["all six", "top"]
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (30.0, 10.0), (50.0, 30.0))
    d.add("fixed", d.entities[sides[0]].points[0])
    below = ls.extrude(ls.sketch(part, d, "XY"), part.steps[-1].number + 10, "3", mode="cut")
    assert ls.build(below).ok
    assert [s.side for s in ls.machinist(below).settings] == ["all six", "top", "underside"]


def test_the_routes_own_zero_is_taken() -> None:
    part = ls.hole(block(), "20/end", "6", depth=None, places=ls.Table(rows=(("20", "15"),)))
    part = ls.step(part, "zero", origin="20/end|20/l2|20/l3")
    if not ls.build(part).ok:
        part = ls.step(ls.hole(block(), "20/end", "6", depth=None, places=ls.Table(rows=(("20", "15"),))), "zero")
    sheet = ls.machinist(part)
    assert sheet.zero.told and sheet.zero.words == "the part datum of the route"


def test_usual_stock_and_its_end() -> None:
    assert next_usual("round", 74.0, "mm") == 75 and next_usual("round", 75.0, "mm") == 75
    assert next_usual("round", 26.0, "in") == pytest.approx(25.4 * (1 + 1 / 16))
    for shape in ("round", "hexagon", "thickness", "width"):
        for unit in ("mm", "in"):
            sizes = usual(shape, unit)  # type: ignore[arg-type]
            assert list(sizes) == sorted(set(sizes)) and len(sizes) > 15
    with pytest.raises(LathedError, match="that large"):
        next_usual("round", 900, "mm")
    huge = ls.turned(ls.new_part("huge"), [ls.Station(key="A", diameter="900", length="50")])
    assert ls.machinist(huge).stock.kind == "a blank made for it"


def test_files_and_the_command_line(tmp_path: Path) -> None:
    part = DEMOS["crank-hub"]()
    sheet = ls.machinist(part)
    for ending in ("pdf", "csv", "json"):
        write_machinist(tmp_path / f"m.{ending}", sheet)
        assert (tmp_path / f"m.{ending}").stat().st_size > 300
    with pytest.raises(LathedError, match="ending"):
        write_machinist(tmp_path / "m.doc", sheet)
    rows = list(csv.reader(io.StringIO(machinist_csv(sheet))))
    assert rows[0][0] == "id" and rows[1][0] == "H1" and float(rows[1][3]) == pytest.approx(15 - 48)
    write_document(tmp_path / "hub.lathed", part)
    run = CliRunner().invoke(cli, ["machinist", str(tmp_path / "hub.lathed"), "--json"], standalone_mode=False)
    told = json.loads(run.output)
    assert run.return_value == 0 and told["holes"][0]["thread"] == "M6" and told["holes"][0]["tap_drill_mm"] == 5.0
    assert set(told) >= {"zero", "stock", "settings", "holes", "stations", "tools", "cannot"}
    plain = CliRunner().invoke(cli, ["machinist", str(tmp_path / "hub.lathed")], standalone_mode=False)
    assert "tool: tap M6 for H1" in plain.output
    with pytest.raises(LathedError, match="no solid"):
        ls.machinist(ls.new_part("nothing"))
