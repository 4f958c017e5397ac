"""Sheets read in their own process: what is found on made-up drawings, pages as they are seen, and hostile files."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from reportlab.lib.pagesizes import A4, landscape
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from sheets_read_here import page_with_picture

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.files import read_document, write_document
from lathed_solid.ledger import SheetPlace, callouts_from_note
from lathed_solid.part import Document
from lathed_solid.part.revision import compare_sheet, take_change
from lathed_solid.sheets import SheetError, command, page_of
from lathed_solid.sheets.client import NoteCandidate
from lathed_solid.sheets.texts import Char, notes_of
from lathed_solid.sheets.title_block import zone, zone_marks

FONT = next((Path(__file__).parent.parent / "src/lathed_solid/assets/fonts").glob("osifont*.ttf"))
W, H = landscape(A4)


def drawn(path: Path, texts: list[tuple[float, float, float, str]], pages: int = 1, turn: int = 0) -> Path:
    """A PDF with (x, y, angle, text) in the drawing font on each page; and the page's own turn."""
    pdfmetrics.registerFont(TTFont("drawing", str(FONT)))
    c = Canvas(str(path), pagesize=(W, H))
    for page in range(1, pages + 1):
        c.setPageRotation(turn)
        c.rect(20, 20, W - 40, H - 40)
        for x, y, angle, text in [*texts, (60, 60, 0, f"{page}.25")]:
            c.saveState()
            c.translate(x, y)
            c.rotate(angle)
            c.setFont("drawing", 10)
            c.drawString(0, 0, text)
            c.restoreState()
        c.showPage()
    c.save()
    return path


def test_every_dimension_of_the_demo_sheet_is_found_where_it_stands(tmp_path: Path) -> None:
    """The truth is what the drawing script wrote, text by text with its place; none of the title block is offered."""
    found = page_with_picture(SHEETS / "pedestal.pdf", tmp_path, unit="in")
    truth = json.loads((SHEETS / "pedestal.json").read_text("utf-8"))["places"]
    texts = {o.text for o in found.offers}
    assert {"6.00", "4.00", ".75", "4X R.50", "4.75", "2.75", "1.50", "2.25", "R1.00", "⌀1.250 +.001/-.000", ".375",
            "1.25", "(3.00)", ".25", "1.56",
            "4X ⌀.531 THRU\n⌴ ⌀.812 ↧.31", "2X 1/4-20 UNC-2B ↧.50\nDRILL ↧.62", "3.80", "R.12",
            ".03 X 45°", "BREAK SHARP EDGES .01 MAX", "FILLETS & ROUNDS R.06 UNLESS STATED"} == texts  # fmt: skip
    spots = [(o.box[0] - 0.018, (o.box[1] + o.box[3]) / 2) for o in found.offers]
    for x, y in truth.values():
        assert min(abs(a - x) + abs(b - y) for a, b in spots) < 0.03
    assert (round(found.width), round(found.height), found.pages) == (420, 297, 1)


NOTES = [(100, 400, 0, "25"), (160, 300, 90, "4X ⌀6.6 THRU"), (300, 200, 0, "R2.5"), (420, 320, 30, "12.5"),
         (500, 400, 0, "M8x1.25-6H ↧16")]  # fmt: skip


@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_pages_are_read_as_they_are_seen(tmp_path: Path, turn: int) -> None:
    found = page_with_picture(drawn(tmp_path / "a.pdf", NOTES, turn=turn), tmp_path)
    assert {o.text for o in found.offers} == {n[3] for n in NOTES} | {"1.25"}
    assert found.width > found.height  # a turned page is drawn on upright paper, and seen lying
    corner = next(o for o in found.offers if o.text == "1.25")
    x, y = (corner.box[0] + corner.box[2]) / 2, (corner.box[1] + corner.box[3]) / 2
    left, low = x < 0.3, y > 0.7
    assert (left, low) == {0: (True, True), 90: (True, False), 180: (False, False), 270: (False, True)}[turn]


def test_stacked_tolerances_join_their_size(tmp_path: Path) -> None:
    texts = [
        (100, 300, 0, "⌀25"),
        (118, 304, 0, "+0.2"),
        (118, 295, 0, "-0.1"),
        (300, 300, 0, "40"),
        (400, 300, 0, "41"),
    ]
    found = page_with_picture(drawn(tmp_path / "a.pdf", texts), tmp_path)
    joined = next(o for o in found.offers if o.text.startswith("⌀25"))
    assert joined.text == "⌀25 +0.2/-0.1" and "from 24.9 to 25.2" in joined.plain
    assert {o.text for o in found.offers} == {"⌀25 +0.2/-0.1", "40", "41", "1.25"}


def test_one_page_of_forty_is_read(tmp_path: Path) -> None:
    path = drawn(tmp_path / "many.pdf", NOTES, pages=40)
    found = page_with_picture(path, tmp_path, page=37)
    assert found.pages == 40 and "37.25" in {o.text for o in found.offers}


def test_tables_are_left_out(tmp_path: Path) -> None:
    pdfmetrics.registerFont(TTFont("drawing", str(FONT)))
    c = Canvas(str(tmp_path / "t.pdf"), pagesize=(W, H))
    c.setFont("drawing", 10)
    for i in range(5):
        for j in range(3):
            c.rect(400 + 60 * j, 60 + 20 * i, 60, 20)
            c.drawString(404 + 60 * j, 66 + 20 * i, f"{10 * i + j}.5")
    c.drawString(100, 300, "99.5")
    c.save()
    assert [o.text for o in page_with_picture(tmp_path / "t.pdf", tmp_path).offers] == ["99.5"]


BAD = [b"", b"%PDF-1.4 nothing of a document", b"\x89PNG\r\n\x1a\nbroken", b"hello", b"%PDF-1.7\n" + b"\x00" * 5000]


@pytest.mark.parametrize("data", BAD, ids=["empty", "short", "broken picture", "text", "zeros"])
def test_a_damaged_sheet_is_one_line_of_words(data: bytes, tmp_path: Path) -> None:
    (tmp_path / "bad.pdf").write_bytes(data)
    run = subprocess.run(
        command(tmp_path / "bad.pdf", 1, tmp_path / "p.png"), capture_output=True, text=True, timeout=60
    )  # fmt: skip
    assert run.returncode == 1 and len(run.stderr.strip().splitlines()) == 1 and not run.stdout


def test_a_truncated_sheet_and_a_page_that_is_not_there(tmp_path: Path) -> None:
    whole = drawn(tmp_path / "a.pdf", NOTES).read_bytes()
    (tmp_path / "half.pdf").write_bytes(whole[: len(whole) // 2])
    for path, page in ((tmp_path / "half.pdf", 1), (tmp_path / "a.pdf", 9)):
        run = subprocess.run(command(path, page, tmp_path / "p.png"), capture_output=True, text=True, timeout=60)
        assert run.returncode in (0, 1) and (run.returncode == 0 or run.stderr.strip())
    assert run.returncode == 1


@pytest.mark.parametrize(
    "text", ["", "[]", "{}", '{"pages": "x"}', '{"pages": 1, "width_mm": 1, "height_mm": 1, "notes": [1]}']
)
def test_an_answer_that_is_none_is_refused(text: str) -> None:
    with pytest.raises(SheetError):
        page_of(text)


CHARS = st.lists(
    # off the edges, where numbers in a row are marks of zones
    st.builds(Char, st.sampled_from("0123.Rx⌀+-°"), st.floats(50, 450), st.floats(50, 450),
              st.sampled_from([0, 90, 30]), st.floats(4, 20), st.floats(1, 12)), max_size=40,
)  # fmt: skip


@given(CHARS)
def test_any_characters_are_grouped_and_none_is_lost(chars: list[Char]) -> None:
    notes = notes_of(chars, [], 500, 500)
    kept = "".join(sorted("".join(n.text for n in notes).replace(" ", "").replace("\n", "").replace("/", "")))
    assert kept == "".join(sorted(c.char for c in chars))


def test_a_document_carries_its_sheet(tmp_path: Path) -> None:
    from lathed_solid.demo import DEMOS
    from lathed_solid.store import place_of

    part = DEMOS["pedestal"]()
    write_document(tmp_path / "p.lathed", part)
    place_of(part.sheets[0].file).unlink()
    back: Document = read_document(tmp_path / "p.lathed")
    assert back == part and place_of(part.sheets[0].file).read_bytes().startswith(b"%PDF")
    assert sum(c.place is not None for c in back.callouts) == 21
    (callout,) = callouts_from_note("Ø12", 1)
    assert callout.place is None and SheetPlace(x=0.5, y=0.5).page == 1


@settings(max_examples=60, deadline=None)
@given(st.lists(st.sampled_from(["same", "changed", "gone"]), min_size=1, max_size=14), st.integers(0, 4),
       st.floats(-0.03, 0.03), st.randoms(use_true_random=False))  # fmt: skip
def test_a_revision_is_told_callout_by_callout(fates: list[str], fresh: int, shift: float, random: Any) -> None:
    """Sizes at known places; some keep, some change, some go, some come, and all move a little."""
    part, offers, spots = ls.new_part("plate"), [], [(0.1 + 0.2 * (k % 5), 0.1 + 0.2 * (k // 5)) for k in range(20)]
    random.shuffle(spots)

    def offer(text: str, x: float, y: float) -> NoteCandidate:
        return NoteCandidate(text, (x + shift, y + shift - 0.01, x + shift + 0.05, y + shift + 0.01), 0, text)

    for k, fate in enumerate(fates):
        x, y = spots[k]
        part = ls.note(part, f"{10 + 7 * k} ±0.1", k + 1)
        part = ls.change_callout(part, k + 1, place=SheetPlace(x=x, y=y))
        if fate != "gone":
            size = 10 + 7 * k + (1 if fate == "changed" else 0)
            offers.append(offer(f"{size} ±0.1", x, y))
    for k in range(fresh):
        offers.append(offer(f"R{300 + k}", *spots[15 + k]))
    random.shuffle(offers)
    changes = compare_sheet(part, 1, 1, offers)
    told = {c.balloon: c.kind for c in changes if c.balloon is not None}
    assert told == dict(enumerate(fates, 1)) and sum(c.kind == "new" for c in changes) == fresh
    for change in changes:
        part = take_change(part, change, 1, 1)
    after = compare_sheet(part, 1, 1, offers)
    assert all(c.kind == "same" for c in after) and len(after) == len(offers)
    assert sorted(c.nominal for c in part.callouts) == sorted(
        [10 + 7 * k + (f == "changed") for k, f in enumerate(fates) if f != "gone"] + [300 + k for k in range(fresh)]
    )


def test_zones_count_from_the_middle_of_the_sheet() -> None:
    """ISO 5457: A3 lies in 8 x 6 fields of 50 mm, A4 upright in 4 x 6; A1 at the top left, no letter I."""
    assert [zone(x, y, 420, 297) for x, y in ((0.02, 0.02), (0.49, 0.49), (0.51, 0.51), (0.99, 0.99))] == [
        "A1", "C4", "D5", "F8"]  # fmt: skip
    assert zone(0.99, 0.01, 210, 297) == "A4" and zone(0.0, 0.56, 1189, 841) == "K1"
    row = [(str(n + 1), (n + 0.5) / 8, 0.02) for n in range(8)]
    assert zone_marks([*row, ("5", 0.5, 0.5), ("25", 0.4, 0.03)]) == set()  # a size among them: no border
    assert zone_marks([*row, ("5", 0.5, 0.5)]) == set(range(8))


@pytest.mark.parametrize("name", ["winch-spindle", "pedestal-a", "crank-hub"])
def test_a_drawing_reads_the_same_from_pdf_and_dxf(name: str, tmp_path: Path) -> None:
    """Two writers and two readers; what is written beside its measured value (revision A) is read as it stands."""
    unit = "in" if name.startswith("pedestal") else "mm"
    texts = [
        sorted(o.text for o in page_with_picture(SHEETS / f"{name}.{kind}", tmp_path, unit=unit).offers)
        for kind in ("pdf", "dxf")
    ]
    assert texts[0] == texts[1] and len(texts[0]) >= 10
    if unit == "in":
        assert "3.02" in texts[1] and "4.70" in texts[1]
