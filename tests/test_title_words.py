"""Title blocks read: what is beyond doubt and nothing else."""

from __future__ import annotations

from pathlib import Path

import pytest
from effort import some
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.demo import DEMOS
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.ledger.limits import InchBlock, Iso2768
from lathed_solid.sheets.client import read_page
from lathed_solid.sheets.texts import TextLine
from lathed_solid.sheets.title import Title, title
from lathed_solid.sheets.title_labels import labelled
from lathed_solid.sheets.title_words import title_of


@pytest.mark.parametrize("kind", ["pdf", "dxf"])
@pytest.mark.parametrize("name", some(["pedestal", "winch-spindle", "ratchet-wheel", "gland-nut", "crank-hub"], 3))
def test_the_demo_sheets_say_what_their_parts_say(name: str, kind: str) -> None:
    part, found = DEMOS[name](), read_page(SHEETS / f"{name}.{kind}", 1, "in" if name == "pedestal" else "mm")
    assert (found.title.material, found.title.unit) == (part.material, part.unit)
    assert str(found.title.general) == str(part.general)
    assert found.scale is None or found.scale == pytest.approx(found.title.scale, rel=1e-3)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("X ±0.5  X.X ±0.2 mm", {"general": {"kind": "metric block", "zero": 0.5, "one": 0.2}}),
        ("S235JR", {"material": "S235 steel"}),
        ("42CrMo4+QT", {"material": "42CrMo4 steel"}),
        ("EN AW 6082", {"material": "EN AW-6082"}),
        ("CuSn 8", {"material": "CuSn8"}),
        ("General tolerances ISO 2768-mK", {"general": {"kind": "iso2768", "letter": "m"}}),
        ("ISO 2768 - f", {"general": {"kind": "iso2768", "letter": "f"}}),
        ("All dimensions in inches", {"unit": "in"}),
        ("Units: mm", {"unit": "mm"}),
        ("SCALE 1:2", {"scale": 0.5}),
        ("Scale: 2/1", {"scale": 2.0}),
        (".XX ±.01  .XXX ±.005", {"general": InchBlock().model_dump(exclude_none=True)}),
        ("steel", {}),
        ("ISO 2768-x", {}),
        ("in the shop", {}),
        ("1:2", {}),
        ("scale 1:0", {}),
        (".XX ±7", {}),
        ("", {}),
    ],
)
def test_a_text_says_what_is_beyond_doubt(text: str, said: dict[str, object]) -> None:
    assert title_of([text]) == said


def test_what_two_texts_say_differently_is_left_out() -> None:
    assert title_of(["scale 1:1", "scale 1:2", "mm", "units: mm"]) == {"unit": "mm"}
    assert title({"material": "unobtainium", "general": {"kind": "iso2768", "letter": "q"}, "scale": -1}) == Title()
    assert title("nothing") == Title()
    whole = title({"material": "CuSn8", "general": {"kind": "iso2768", "letter": "c"}, "unit": "in", "scale": 2})
    assert whole == Title("CuSn8", Iso2768(letter="c"), "in", 2.0) and whole.words == "CuSn8 · ISO 2768-c · in"


@given(st.lists(st.text(max_size=60), max_size=6))
def test_no_text_breaks_it(texts: list[str]) -> None:
    assert set(title_of(texts)) <= {"material", "general", "unit", "scale"}
    assert isinstance(title(title_of(texts)), Title)


def test_a_sheet_that_is_none_is_told(tmp_path: Path) -> None:
    from lathed_solid.sheets import SheetError

    (tmp_path / "a.pdf").write_text("%PDF-nothing")
    with pytest.raises(SheetError, match="could not be read"):
        read_page(tmp_path / "a.pdf")


def line(text: str, u: float, v: float, size: float = 8.0) -> TextLine:
    return TextLine(text, 0, size, u, v, u + 0.5 * size * len(text))


def test_labels_say_name_number_and_revision_wherever_their_values_stand() -> None:
    beneath = [
        line("part", 10, 60, 6),
        line("material", 200, 60, 6),
        line("Gland nut", 10, 44, 14),
        line("CuSn8", 200, 44),
    ]
    beside = [line("Drg. No:", 10, 20), line("L-104", 80, 20), line("REV", 150, 20), line("C", 180, 20)]
    assert labelled([*beneath, *beside]) == {"name": "Gland nut", "number": "L-104", "revision": "C"}
    # a dash is no revision, a label is no value, a value far off is another's
    assert (
        labelled([line("revision", 10, 40, 6), line("–", 10, 24), line("title", 10, 90), line("scale", 60, 90)]) == {}
    )
    assert labelled([line("title", 10, 90), line("Bracket", 700, 90)]) == {}
    assert labelled([line("drg no", 10, 20), line("P-⌀1", 80, 20)]) == {"number": "P-01"}
    german = [("Benennung", "Lager"), ("Zeichnungs-Nr.", "L-7"), ("Änderung", "B"), ("Maßstab", "1:2")]
    lines = [
        it
        for k, (label, value) in enumerate(german)
        for it in (line(label, 10, 90 - 20 * k), line(value, 90, 90 - 20 * k))
    ]
    assert labelled(lines) == {"name": "Lager", "number": "L-7", "revision": "B", "scale": "1:2"}
    # of two that differ none
    assert labelled([line("rev", 10, 40), line("A", 40, 40), line("rev", 10, 10), line("B", 40, 10)]) == {}


@pytest.mark.parametrize("ending", ["pdf", "dxf"])
def test_the_pedestal_s_sheet_says_its_number_and_revision(ending: str) -> None:
    said = read_page(SHEETS / f"pedestal.{ending}", 1, "in").title
    assert (said.number, said.revision) == ("P-02", "B") and "P-02 B" in said.words
