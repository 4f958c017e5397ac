"""Drawings of the demo parts and of random ones: read back whole, nothing over anything, files that others read."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from xml.etree import ElementTree

import ezdxf
import pytest
from click.testing import CliRunner
from effort import some

pytest.importorskip("OCP")

from drilled_plates import drilled_plate
from truth_parts import truth

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.part.drawing_style import DrawingStyle
from lathed_solid.reports.drawing.draw import wanted_style
from lathed_solid.reports.drawing.files import write_drawing
from lathed_solid.reports.drawing.meeting import lines_crossed, lines_over_texts, overlap, texts_over_texts
from lathed_solid.reports.drawing.model import DrawnSheet
from lathed_solid.reports.drawing.sheets import frame_of

from .reading_back import read_back

PARTS = ("winch-spindle", "pedestal", "ratchet-wheel", "crank-hub")


def sheets_of(document: Document) -> DrawnSheet:
    (sheet,) = ls.drawing(document)
    return sheet


def nothing_over_anything(sheet: DrawnSheet) -> None:
    assert texts_over_texts(sheet) == lines_over_texts(sheet) == 0
    assert lines_crossed(sheet) <= 0.1 * len(sheet.dimensions)
    left, low, right, high = frame_of(sheet.size)
    for view in sheet.views:
        assert left < view.box[0] and low < view.box[1] and view.box[2] < right and view.box[3] < high
    boxes = [v.box for v in sheet.views]
    assert not any(overlap(a, b) for i, a in enumerate(boxes) for b in boxes[i + 1 :])


@pytest.mark.parametrize("ending", ["pdf", "dxf"])
@pytest.mark.parametrize("name", PARTS)
def test_a_demo_part_comes_back_whole(tmp_path: Path, name: str, ending: str) -> None:
    document = DEMOS[name]()
    sheet = sheets_of(document)
    nothing_over_anything(sheet)
    assert not sheet.left_out
    told = [b for it in (*sheet.dimensions, *sheet.leaders) for b in it.balloons]
    assert sorted(told) == [c.balloon for c in document.callouts]
    write_drawing(tmp_path / f"part.{ending}", [sheet])
    found = read_back(sheet, tmp_path / f"part.{ending}")
    assert not found.bad
    assert found.counts["found"] == found.counts["notes"] == len(document.notes)
    assert found.counts["spans"] == found.counts["lengths"] == len(sheet.dimensions)


@pytest.mark.parametrize("seed", some(range(301, 309), 3))
def test_random_parts_come_back(tmp_path: Path, seed: int) -> None:
    sheet = sheets_of(truth(seed).document)
    nothing_over_anything(sheet)
    write_drawing(tmp_path / "part.pdf", [sheet])
    found = read_back(sheet, tmp_path / "part.pdf")
    assert not found.bad and found.counts["found"] == found.counts["notes"] > 0


def test_lengths_are_drawn_as_long_as_they_say(tmp_path: Path) -> None:
    """By the ledger, not by the drawing's own numbers; halves and sums in the model's fields are drawn whole."""
    document = DEMOS["pedestal"]()
    sheet = sheets_of(document)
    seen = 0
    for d in sheet.dimensions:
        callout = document.callout(d.balloons[0])
        assert callout is not None
        low, high = d.span
        # ordinates of the demo: 3.00 is counted from the underside, 2.25 from the top of the plate, and so on
        assert (high - low) / sheet.scale == pytest.approx(callout.nominal, abs=1e-6), callout.note
        seen += 1
    assert seen == 14
    path = tmp_path / "p.dxf"
    write_drawing(path, [sheet])
    doc = ezdxf.readfile(path)
    assert not doc.audit().errors and not doc.audit().fixes
    entities = doc.modelspace().query("DIMENSION")
    measured = sorted(round(float(e.get_measurement()), 4) for e in entities)
    assert measured == sorted(round(document.callout(d.balloons[0]).nominal / 25.4, 4) for d in sheet.dimensions)  # type: ignore[union-attr]
    circles = {round(2 * c.dxf.radius, 4) for c in doc.modelspace().query("CIRCLE") if c.dxf.layer == "SEEN"}
    assert {0.531, 0.812} <= circles


def test_a_hollow_turned_part_is_cut_and_hatched() -> None:
    sheet = sheets_of(DEMOS["crank-hub"]())
    assert [(v.name, v.cut) for v in sheet.views] == [("front", True)] and sheet.hatched
    assert not any(s.pen == "hidden" for s in sheet.strokes)
    whole = sheets_of(DEMOS["winch-spindle"]())
    assert not whole.hatched and any(s.pen == "hidden" for s in whole.strokes)


def test_angle_of_projection_and_sheet_as_asked() -> None:
    document = DEMOS["winch-spindle"]()
    at = {}
    for angle in ("first", "third"):
        (sheet,) = ls.drawing(document, DrawingStyle(size="A2", angle=angle))  # type: ignore[arg-type]
        assert sheet.size == "A2" and sheet.width == 594
        at[angle] = {v.name: v.origin for v in sheet.views}
    # what is seen from the right stands left of the front in first angle, right of it in third
    assert at["first"]["right"][0] < at["first"]["front"][0] and at["third"]["right"][0] > at["third"]["front"][0]
    assert at["first"]["right"][1] == at["first"]["front"][1]
    (half,) = ls.drawing(document, DrawingStyle(scale=0.5))
    assert half.scale == 0.5


@pytest.mark.parametrize(("style", "words"), [
    (DrawingStyle(size="A9"), "no such sheet"), (DrawingStyle(size="A4", scale=10.0), "does not fit"),
])  # fmt: skip
def test_what_cannot_be_drawn_is_told(style: DrawingStyle, words: str) -> None:
    with pytest.raises(LathedError, match=words):
        ls.drawing(DEMOS["winch-spindle"](), style)
    for scale in (float("nan"), -1.0, 1e9):
        with pytest.raises(LathedError, match="no scale"):
            wanted_style(DrawingStyle(), "", None, scale)
    with pytest.raises(LathedError, match="no solid"):
        ls.drawing(ls.new_part("nothing"))


def test_a_part_without_callouts_and_names_with_any_characters(tmp_path: Path) -> None:
    part = ls.turned(ls.new_part("<&\"'> Wälzkörper ⌀ 数 %d \\ {0}"), [ls.Station(key="A", diameter="20", length="30")])
    (sheet,) = ls.drawing(part)
    assert not sheet.dimensions and sheet.views
    for ending in ("pdf", "dxf", "svg"):
        (path,) = write_drawing(tmp_path / f"a.{ending}", [sheet])
        assert path.stat().st_size > 500
    root = ElementTree.parse(tmp_path / "a.svg").getroot()
    assert root.find("{*}title").text == part.name  # type: ignore[union-attr]
    with pytest.raises(LathedError, match="ending"):
        write_drawing(tmp_path / "a.doc", [sheet])
    with pytest.raises(LathedError):
        write_drawing(tmp_path / "nowhere" / "a.pdf", [sheet])


def test_what_is_not_proven_says_so_on_the_sheet() -> None:
    document = DEMOS["winch-spindle"]()
    assert any(w.text == "NOT PROVEN: 1 out" for w in sheets_of(document).words)
    right = next(truth(s).document for s in range(330, 340) if ls.prove(truth(s).document).ok)
    assert not any("NOT PROVEN" in w.text for w in sheets_of(right).words)
    broken = ls.step(right, "fillet", radius="900", pick=ls.EdgePick(edges=("10/end|10/l1",)))
    assert any("not complete" in w.text for w in sheets_of(broken).words)


def test_many_callouts_go_on_several_sheets(tmp_path: Path) -> None:
    plate = drilled_plate(11, 34)  # 3 + 34 x (2 places and a note)
    sheets = ls.drawing(plate.document)
    assert len(sheets) == 1 or len({(s.size, s.scale) for s in sheets}) == 1
    small = ls.drawing(plate.document, DrawingStyle(size="A3"))
    assert len(small) > 1
    told = [d.words.text for s in small for d in s.dimensions] + [" ".join(w.text for w in n.words)
            for s in small for n in s.leaders]  # fmt: skip
    assert len(told) == 3 + 3 * 34
    assert all(any(f"of {len(small)}" in w.text for w in s.words) for s in small)
    paths = write_drawing(tmp_path / "plate.svg", small)
    assert [p.name for p in paths][:2] == ["plate.svg", "plate-2.svg"] and all(p.exists() for p in paths)


def test_a_plate_of_many_holes_has_each_place_once(tmp_path: Path) -> None:
    """Against construction: the tips of the notes stand on the circles of their own holes."""
    plate = drilled_plate(12, 9)
    (sheet,) = ls.drawing(plate.document)
    top = next(v for v in sheet.views if v.name == "top")
    tips = {tuple(round((t - o) / sheet.scale, 3) for t, o in zip(n.tip, top.origin, strict=True)): n for n in
            sheet.leaders}  # fmt: skip
    free = list(plate.holes)
    for (x, y), _ in tips.items():
        own = [h for h in free if abs(((x - h.x) ** 2 + (y - h.y) ** 2) ** 0.5 - h.diameter / 2) < 0.01]
        assert len(own) == 1
        free.remove(own[0])
    assert not free


def test_the_command_line(tmp_path: Path) -> None:
    from lathed_solid.files import write_document

    path = tmp_path / "hub.lathed"
    write_document(path, DEMOS["crank-hub"]())
    run = CliRunner().invoke(cli, ["drawing", str(path), str(tmp_path / "hub.pdf"), "--json"], standalone_mode=False)
    told = json.loads(run.output)
    assert run.return_value == 0 and told["ok"] and len(told["dimensions"]) == 9 and told["left_out"] == []
    assert told["views"][0]["name"] == "front" and (tmp_path / "hub.pdf").read_bytes().startswith(b"%PDF")
    for it in told["dimensions"]:
        left, low, right, high = it["box"]
        assert 0 < left < right < told["sheets"][0]["width_mm"] and 0 < low < high < told["sheets"][0]["height_mm"]


def test_the_same_part_is_the_same_file(tmp_path: Path) -> None:
    sheet = sheets_of(DEMOS["crank-hub"]())
    for ending in ("pdf", "svg"):
        a, b = (write_drawing(tmp_path / f"{n}.{ending}", [replace(sheet)])[0].read_bytes() for n in "ab")
        assert a == b


def test_what_is_moved_by_hand_stays_moved(tmp_path: Path) -> None:
    document = DEMOS["crank-hub"]()
    before = sheets_of(document)
    style = document.drawing.with_move(2, "", 3.0, -7.0).with_move(8, "", -2.0, 5.0).with_move(0, "front", 10.0, 0.0)
    style = style.with_move(2, "", 0.0, -1.0)
    moved = document.model_copy(update={"drawing": style})
    after = sheets_of(moved)
    d, e = (next(d for d in s.dimensions if d.balloons == (2,)) for s in (before, after))
    assert e.row - d.row == pytest.approx(-8) and e.start[0] - d.start[0] == pytest.approx(10)
    assert e.words.at[0] - d.words.at[0] == pytest.approx(13)
    n, m = (next(n for n in s.leaders if n.balloons == (8,)) for s in (before, after))
    assert m.tip[0] - n.tip[0] == pytest.approx(10) and m.tip[1] == pytest.approx(n.tip[1])
    assert m.words[0].at[1] - n.words[0].at[1] == pytest.approx(5)
    from lathed_solid.files import read_document, write_document

    write_document(tmp_path / "hub.lathed", moved)
    assert read_document(tmp_path / "hub.lathed").drawing == style


@pytest.mark.parametrize("ending", ["pdf", "dxf"])
@pytest.mark.parametrize("name", ["winch-spindle", "pedestal"])
def test_balloons_number_the_notes_and_are_none_themselves(tmp_path: Path, name: str, ending: str) -> None:
    document = DEMOS[name]()
    (sheet,) = ls.drawing(document, document.drawing.model_copy(update={"balloons": True}))
    nothing_over_anything(sheet)
    numbers = sorted(int(b.words.text) for b in sheet.balloons)
    assert numbers == sorted(n.callouts[0].balloon for n in document.notes)
    for b in sheet.balloons:  # the number stands within its ring
        left, low, right, high = b.words.box
        x, y = b.ring.centre
        assert max(abs(left - x), abs(right - x), abs(low - y), abs(high - y)) < b.ring.radius + 0.2
    write_drawing(tmp_path / f"b.{ending}", [sheet])
    found = read_back(sheet, tmp_path / f"b.{ending}")
    assert found.counts["found"] == len(document.notes) and found.counts["more"] == 0
    assert found.counts["spans"] >= found.counts["lengths"] - 1


def test_revisions_stand_above_the_title_and_are_no_notes(tmp_path: Path) -> None:
    document = DEMOS["pedestal"]()
    for k in range(8):
        document = ls.revised(document, "ABCDEFGH"[k], f"bore ⌀.{500 + k} was ⌀.375", "2026-11-30")
    document = ls.revised(document, "H", "4X R.38 added")  # the same mark again mends it
    assert [r.mark for r in document.drawing.revisions] == list("ABCDEFGH")
    sheet = sheets_of(document)
    nothing_over_anything(sheet)
    told = [w.text for w in sheet.words]
    assert told.count("H") == 2 and "4X R.38 added" in told and "bore ⌀.502 was ⌀.375" in told
    assert "bore ⌀.501 was ⌀.375" not in told  # the six latest
    write_drawing(tmp_path / "part.pdf", [sheet])
    found = read_back(sheet, tmp_path / "part.pdf")
    assert not found.bad and found.counts["found"] == found.counts["notes"] and not found.counts["more"]
    for mark, what in (("", "x"), ("A B", "x"), ("A", " "), ("A" * 9, "x")):
        with pytest.raises(ValueError, match="Revision"):
            ls.revised(document, mark, what)
