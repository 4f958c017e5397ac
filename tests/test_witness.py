"""The drawing as witness: right parts are borne out, and a slip of place or form is pointed at, where it is."""

from __future__ import annotations

import json
import random
from pathlib import Path

import drawn_plates
import pytest
from command_line import run
from effort import LONG, some

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.engine.at_hand import engine
from lathed_solid.files import write_document
from lathed_solid.kernel.triangles import mesh
from lathed_solid.sheets.client import SheetError, read_linework
from lathed_solid.sheets.strokes import linework_of
from lathed_solid.sheets.witness import witness

NAMES = ("crank-hub", "gland-nut", "pedestal", "ratchet-wheel", "winch-spindle")


def test_what_a_sheet_bears_out_does_not_depend_on_how_finely_the_part_was_shown() -> None:
    part = DEMOS["gland-nut"]()
    body = engine().build(part).body
    assert body is not None
    mesh(body.shape, 0.005, 0.2)
    assert ls.witness(part, SHEETS / "gland-nut.pdf").agrees


@pytest.mark.parametrize("ending", ["pdf", "dxf"])
@pytest.mark.parametrize("name", NAMES if LONG else [n for n in NAMES if n != "gland-nut"])
def test_the_demo_sheets_bear_their_parts_out(name: str, ending: str) -> None:
    found = ls.witness(DEMOS[name](), SHEETS / f"{name}.{ending}")
    assert found.agrees and found.by_width and not found.others
    assert all(v.explained > 0.985 for v in found.views)


def test_a_slip_in_a_callout_is_pointed_at() -> None:
    """The holes of the pedestal 0.2 in off: their circles, drawn and modelled, and nothing else."""
    part = ls.change_callout(DEMOS["pedestal"](), 6, nominal=4.55 * 25.4, low=None, high=None)
    found = ls.witness(part, SHEETS / "pedestal.pdf")
    (top,) = [v for v in found.views if v.side == "top"]
    assert not found.agrees and 0.5 < top.explained < 0.8
    for x in (70 + 25.4 * 0.625, 70 + 25.4 * 5.375):
        for y in (35 + 25.4 * 0.625, 35 + 25.4 * 3.375):
            assert any(p.box[0] - 1 < x < p.box[2] + 1 and p.box[1] - 1 < y < p.box[3] + 1 for p in top.drawn)
    assert [v.agrees for v in found.views if v.side == "front"] == [True]


def _judged(plate: drawn_plates.Plate, path: Path) -> tuple[bool, bool]:
    """Whether the sheet agrees, and whether a view of the model was found."""
    part = drawn_plates.part(plate)
    assert ls.build(part).ok
    found = ls.witness(part, path)
    return found.agrees, bool(found.views)


@pytest.mark.parametrize("seed", some([501, 502, 503], 1))
def test_plates_by_another_hand_truths_and_lies(seed: int, tmp_path: Path) -> None:
    plate, rnd = drawn_plates.drawn(seed), random.Random(seed)
    path = tmp_path / "plate.pdf"
    drawn_plates.sheet(plate, path, seed)
    assert _judged(plate, path) == (True, True)
    for lie in drawn_plates.LIES:
        assert _judged(drawn_plates.lied(plate, lie, rnd), path) == (False, True), lie


def test_the_command_says_where(tmp_path: Path) -> None:
    file = tmp_path / "pedestal.lathed"
    write_document(file, DEMOS["pedestal"]())

    told = run("witness", file, SHEETS / "pedestal.pdf", "--json")
    assert told.returncode == 0, told.stderr
    data = json.loads(told.stdout)
    assert data["ok"] and {v["projection"] for v in data["views"]} == {"top", "front"}
    assert all(v["scale"] == 1 and len(v["box"]) == 4 for v in data["views"])
    other = run("witness", file, SHEETS / "crank-hub.pdf")
    assert other.returncode == 1 and "no view of the part" in other.stdout


def test_what_is_no_drawing_is_refused_in_words(tmp_path: Path) -> None:
    picture = tmp_path / "a.png"
    from PIL import Image

    Image.new("RGB", (40, 40), "white").save(picture)
    for path, words in ((picture, "lines of a picture cannot be traced"), (tmp_path / "none.pdf", "could not be read")):
        with pytest.raises(SheetError, match=words):
            read_linework(path)
    with pytest.raises(SheetError, match="could not be read"):
        linework_of({})
    empty = linework_of({"width_mm": 210, "height_mm": 297, "strokes": []})
    assert not witness(empty, []).agrees and witness(empty, []).as_json()["views"] == []
