"""What a sheet says beside sizes: where it is put, printed and found again; sizes beside it are read as without it."""

from __future__ import annotations

import json
import random
from pathlib import Path

import pytest
from notes.hands import spelling
from notes.sweep import judged

from lathed_solid import scripting as ls
from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, InchBlock, Iso2768, MetricBlock, PlusMinus, limits
from lathed_solid.ledger.general_told import general_of
from lathed_solid.notation import read_note
from lathed_solid.notation.instructions import told_of
from lathed_solid.part import Document
from lathed_solid.sheets.title_words import title_of

SHOP = ("DEBURR", "HARDEN TO 58-62 HRC", "ZINC PLATE 8 MICRONS", "STRESS RELIEVE BEFORE FINISH MACHINING",
        "CASE HARDEN 0.5-0.7 DEEP", "PAINT RAL 7016", "STAMP PART NO.", "FINISH ALL OVER", "58 HRC MIN")  # fmt: skip
SHEET = ("SECTION A-A", "DETAIL B (2:1)", "THIRD ANGLE PROJECTION", "DO NOT SCALE", "SEE NOTE 3", "SCALE 1:2",
         "NOTE 3", "CLEARANCE FIT")  # fmt: skip
#: what looks like an instruction and says a size
SIZES = ("DEBURR 0.2 MAX", "BREAK EDGES, 0.2 MAX", "BREAK ALL EDGES\n0.2 MAX", "POLISH 0.2", "CLEAN UP ⌀20",
         "MATERIAL 5 THICK", "30 ±0.1 UNLESS STATED", "±0.1", "ISO 2768-x", "HARDEN ⌀20", "SCALE 2", "PLATE 10 THICK",
         "C45", "FINISH 0.8", "OIL HOLE ⌀4", "BLACK 3 LONG", "TOLERANCE ±50")  # fmt: skip


def test_words_of_the_shop_and_of_the_sheet_are_told_apart() -> None:
    assert {t: (told_of(t) or Nothing).what for t in (*SHOP, *SHEET)} == {
        **dict.fromkeys(SHOP, "work"), **dict.fromkeys(SHEET, "sheet")
    }  # fmt: skip
    assert [t for t in SIZES if told_of(t) is not None] == []


class Nothing:
    what = ""


def test_sizes_are_read_as_if_no_instruction_stood_beside_them() -> None:
    for seed in range(810_001, 810_301):
        rnd = random.Random(seed)
        text, unit, meant = spelling(rnd)
        if judged(text, unit, meant) != "right" or text.rstrip().endswith((".", ",", "-")):
            continue
        shop = rnd.choice(SHOP)
        meaning = read_note(f"{text}\n{shop}", unit)
        assert not meaning.unread and meaning.clauses[:-1] == read_note(text, unit).clauses, (text, shop)
        said = meaning.clauses[-1].instruction
        assert said is not None and said.text == shop


@pytest.mark.parametrize(
    ("text", "unit", "general"),
    [
        ("GENERAL TOLERANCES ISO 2768-mK", "mm", Iso2768(letter="m")),
        ("ISO 2768-c", "mm", Iso2768(letter="c")),
        ("UNLESS OTHERWISE STATED ±0.1, ANGLES ±0.5°", "mm", PlusMinus(length=0.1, angle_deg=0.5)),
        ("ALL DIMENSIONS ±0,2 MM", "mm", PlusMinus(length=0.2)),
        ("TOLERANCES ±.005", "in", PlusMinus(length=0.127, unit="in")),
        (".X ±.02 .XX ±.01 .XXX ±.003", "in", InchBlock(one=0.02, two=0.01, three=0.003)),
    ],
)
def test_general_tolerances_become_those_of_the_part(text: str, unit: str, general: object) -> None:
    blank = ls.new_part("Cover", unit=unit).model_copy(update={"general": Iso2768(letter="v")})
    part = ls.note(blank, text)
    assert part.general == general and not part.notes and not part.instructions


def test_one_plus_or_minus_limits_every_length_and_angles_where_told() -> None:
    length = Callout(balloon=1, note="25", kind="length", nominal=25.0)
    angle = Callout(balloon=2, note="30°", kind="angle", nominal=0.5236)
    both, one = PlusMinus(length=0.1, angle_deg=0.5), PlusMinus(length=0.005 * 25.4, unit="in")
    assert (limits(length, both).low, limits(length, both).high) == pytest.approx((24.9, 25.1))
    assert limits(angle, both).high == pytest.approx(0.5236 + 0.008726646)
    assert limits(angle, one).high is None and "nothing of angles" in limits(angle, one).source
    assert (str(both), str(one)) == ("±0.1 mm, angles ±0.5°", "±0.005 in")
    told = told_of(".XX ±7.5")
    with pytest.raises(LathedError, match="cannot be"):
        general_of(told, "mm")  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("texts", "unit", "general"),
    [
        (["TOLERANCES: X ±0.5, X.X ±0.2, X.XX ±0.05"], "mm", MetricBlock(zero=0.5, one=0.2, two=0.05)),
        ([".XX ±0.1 mm"], "in", InchBlock(two=round(0.1 / 25.4, 9))),
        (["±0.1 UNLESS STATED", "ANGLES ±30'"], "mm", PlusMinus(length=0.1, angle_deg=0.5)),
        (["ISO 2768-m, ANGLES ±1°"], "mm", Iso2768(letter="m", angle_deg=1.0)),
        (["2 PLACE DEC ±.02, 3 PLACE DEC ±.004", "FRACTIONS ±1/64"], "in",
         InchBlock(two=0.02, three=0.004, fraction=1 / 64)),
        (["DECIMALS ±.005, FRACTIONS ±1/64, ANGLES ±1/2°"], "in",
         InchBlock(one=0.005, two=0.005, three=0.005, four=0.005, fraction=1 / 64)),
    ],
)  # fmt: skip
def test_blocks_by_places_and_angles_alone(texts: list[str], unit: str, general: object) -> None:
    part = ls.new_part("Cover", unit=unit).model_copy(update={"general": Iso2768(letter="v")})
    for text in texts:
        part = ls.note(part, text)
    assert part.general == general and not part.notes


def test_a_metric_block_limits_by_the_places_written() -> None:
    block = MetricBlock(zero=0.5, one=0.2, angle_deg=1.0)
    coarse = Callout(balloon=1, note="25", kind="length", nominal=25.0, decimals=0)
    assert (limits(coarse, block).low, limits(coarse, block).high) == pytest.approx((24.5, 25.5))
    assert limits(coarse.model_copy(update={"decimals": 1}), block).high == pytest.approx(25.2)
    assert "no entry for 2 decimal places" in limits(coarse.model_copy(update={"decimals": 2}), block).source
    turned = Callout(balloon=2, note="30°", kind="angle", nominal=0.5236)
    assert limits(turned, block).high == pytest.approx(0.5236 + 0.01745329)
    assert str(block) == "block X ±0.5 .X ±0.2 mm, angles ±1°"
    ruled = Callout(balloon=3, note="1/2", kind="length", nominal=12.7, unit="in")
    assert limits(ruled, InchBlock(fraction=1 / 64)).high == pytest.approx(12.7 + 25.4 / 64)
    with pytest.raises(LathedError, match="nothing of lengths"):
        ls.note(ls.new_part("Cover").model_copy(update={"general": MetricBlock(one=0.2)}), "FRACTIONS ±1/64")


def test_material_unit_and_words_go_where_they_belong() -> None:
    part = ls.note(ls.new_part("Cover"), "1. DEBURR\n2. MATERIAL: CuSn 8\n3. HARDEN TO 58 HRC\n4. DEBURR")
    assert part.material == "CuSn8" and part.instructions == ("DEBURR", "HARDEN TO 58 HRC")
    # a name that the table has not is kept as it stands: its density is not known
    assert ls.note(part, "MATERIAL: UNOBTAINIUM").instructions[-1] == "MATERIAL: UNOBTAINIUM"
    mixed = ls.note(part, "⌀12 H7, NITRIDE")
    assert [c.note for c in mixed.callouts] == ["⌀12 H7, NITRIDE"] and mixed.instructions == part.instructions
    assert ls.note(ls.new_part("Cover"), "ALL DIMENSIONS IN INCHES").unit == "in"
    for text, why in (("DEBURR", "says so already"), ("SECTION A-A", "nothing is taken"),
                      ("DIMENSIONS IN INCHES", "in mm already")):  # fmt: skip
        with pytest.raises(LathedError, match=why):
            ls.note(mixed, text)


def test_a_page_tells_them_beside_its_tables() -> None:
    notes = ["NOTES:\n1. DEBURR\n2. MATERIAL: C45", "⌀12 H7, NITRIDE", "ALL DIMENSIONS IN MM", "25", "POLISH 0.2"]
    assert title_of([], notes) == {"material": "C45 steel", "unit": "mm", "instructions": ["DEBURR"]}
    assert title_of(["CuSn8"], notes)["instructions"] == ["DEBURR"] and "material" not in title_of(["CuSn8"], notes)


@pytest.fixture(scope="module")
def pedestal() -> Document:
    pytest.importorskip("OCP")
    from lathed_solid.demo import DEMOS

    return ls.note(DEMOS["pedestal"](), "DEBURR\nHARDEN TO 58-62 HRC")


@pytest.mark.parametrize("ending", ["pdf", "dxf"])
def test_the_drawing_says_them_and_they_are_found_on_it(tmp_path: Path, pedestal: Document, ending: str) -> None:
    from lathed_solid.reports.drawing.files import write_drawing

    (sheet,) = ls.drawing(pedestal)
    path = tmp_path / f"part.{ending}"
    write_drawing(path, [sheet])
    page = ls.read_sheet(path, unit=pedestal.unit)
    assert page.title.instructions == pedestal.instructions
    assert not any(o.text in pedestal.instructions for o in page.offers)
    assert [t.why for t in page.left if t.text == "\n".join(pedestal.instructions)] == ["words for the shop"]


def test_the_machinists_sheet_says_them(pedestal: Document) -> None:
    import io

    from pypdfium2 import PdfDocument

    from lathed_solid.reports.machinist.files import machinist_json
    from lathed_solid.reports.machinist.pdf import machinist_pdf

    sheet = ls.machinist(pedestal)
    assert json.loads(json.dumps(machinist_json(sheet)))["instructions"] == list(pedestal.instructions)
    pages = PdfDocument(io.BytesIO(machinist_pdf(sheet)))
    text = "".join(page.get_textpage().get_text_bounded() for page in pages)
    assert "beside the sizes" in text and "HARDEN TO 58-62 HRC" in text
