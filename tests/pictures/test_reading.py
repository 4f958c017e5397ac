"""The demo sheets as a scan and as a photograph: what is read of them is what their drawings say, or is asked."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from lathed_solid.demo.sheets import SHEETS
from lathed_solid.sheets import worker
from lathed_solid.sheets.client import SheetPage, read_page


def plain(text: str) -> str:
    return "".join(text.split()).lower()


def wrong(found: SheetPage, truth: SheetPage, within: float) -> tuple[list[str], list[str]]:
    """The drawing's notes that were not read, and what is said as sure where the drawing says something else."""
    there = {plain(o.text): o for o in truth.offers}
    missed = [o.text for o in truth.offers if plain(o.text) not in {plain(f.text) for f in found.offers}]
    bold = []
    for f in found.offers:
        meant = there.get(plain(f.text))
        far = meant is None or max(abs(a - b) for a, b in zip(f.box, meant.box, strict=True)) > within
        if far and f.sure == "sure":
            bold.append(f.text)
    return missed, bold


@pytest.mark.parametrize(
    ("picture", "drawing", "unit", "missed"),
    [("photograph", "winch-spindle.pdf", "mm", 1), ("scan", "pedestal.pdf", "in", 0)],
)
@pytest.mark.timeout(600)
def test_a_picture_says_what_its_drawing_says(
    request: pytest.FixtureRequest, picture: str, drawing: str, unit: str, missed: int
) -> None:
    found: SheetPage = request.getfixturevalue(picture)
    truth = read_page(SHEETS / drawing, 1, unit)  # type: ignore[arg-type]
    assert found.lettering == "read" and found.sized
    not_read, bold = wrong(found, truth, 0.02)
    assert bold == []
    assert len(not_read) <= missed
    assert found.scale == pytest.approx(truth.scale, rel=0.005)
    assert found.title == truth.title
    assert found.width == pytest.approx(truth.width, rel=0.01)
    spans = {plain(o.text): o.span for o in truth.offers if o.span is not None}
    told = {plain(o.text): o.span for o in found.offers if o.span is not None}
    assert len(told) >= 0.9 * len(spans)
    for text, span in told.items():
        if text in spans:
            long = [float(s.end.split()[1]) - float(s.start.split()[1]) for s in (span, spans[text])]
            assert span.along[0] == spans[text].along[0] and long[0] == pytest.approx(long[1], rel=0.02, abs=0.4)


def test_without_the_packages_a_picture_is_shown_and_said_unread(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(worker, "find_spec", lambda _name: None)
    found, picture = worker.read_file(SHEETS / "pedestal-scan.jpg", 1, 150, "in")
    assert found["lettering"] == "absent" and found["offers"] == []
    assert picture.size == Image.open(SHEETS / "pedestal-scan.jpg").size
    assert found["width_mm"] == pytest.approx(420, rel=0.01)


def test_a_photograph_of_a_part_stays_as_it_is() -> None:
    found, picture = worker.read_file(SHEETS / "winch-spindle-photo.jpg", 1, 150, "mm", flat=False)
    assert found["lettering"] == "" and picture.size == Image.open(SHEETS / "winch-spindle-photo.jpg").size


@pytest.mark.parametrize("size", [(1, 1), (9000, 20)])
def test_a_picture_too_small_for_a_sheet_is_shown_as_it_is(size: tuple[int, int], tmp_path: Path) -> None:
    Image.new("L", size, 200).save(tmp_path / "small.png")
    found = read_page(tmp_path / "small.png")
    assert found.offers == () and found.lettering == ""


@pytest.mark.timeout(600)
def test_a_picture_of_grain_has_no_lettering_and_takes_no_harm(tmp_path: Path) -> None:
    pytest.importorskip("rapidocr")
    grain = np.random.default_rng(4).integers(0, 256, (700, 900), dtype=np.uint8)
    Image.fromarray(grain).save(tmp_path / "grain.png")
    found = read_page(tmp_path / "grain.png")
    assert found.lettering == "read" and not [o for o in found.offers if o.sure == "sure"] and found.scale is None


def test_what_is_much_smaller_than_the_rest_is_not_sure() -> None:
    """Two arrowheads that meet were read as 11, and a line of that length was near."""
    pytest.importorskip("cv2")
    from lathed_solid.sheets.pictures.worker import _small_doubted

    def offer(box: tuple[float, float, float, float], angle: float = 0.0) -> dict[str, Any]:
        return {"sure": "sure", "why": "", "box": box, "angle": angle}

    found = [offer((0.1, 0.1, 0.12, 0.117)), offer((0.2, 0.1, 0.21, 0.117)), offer((0.3, 0.1, 0.312, 0.2), 90.0),
             offer((0.588, 0.535, 0.594, 0.542))]  # fmt: skip
    assert [o["sure"] for o in _small_doubted(found, 420.0, 297.0)] == ["sure", "sure", "sure", "doubtful"]
    assert _small_doubted([], 420.0, 297.0) == []


@pytest.mark.parametrize(
    ("text", "span", "small", "lost", "asked"),
    [
        ("628", True, True, True, True), ("62.8", True, True, True, False), ("628", True, True, False, False),
        ("62,8", False, True, False, True), ("628", False, False, False, True),
        ("4X ⌀6.6 THRU", False, False, False, False), ("4X ⌀6.6 THRU", False, True, False, True),
    ],
)  # fmt: skip
def test_what_small_lettering_may_have_lost_is_asked(
    text: str, span: bool, small: bool, lost: bool, asked: bool
) -> None:
    pytest.importorskip("cv2")
    from lathed_solid.sheets.pictures.worker import _borne_out

    offer = {"text": text, "sure": "sure", "put": [], "span": ["x", 0.0, 62.8] if span else None}
    assert bool(_borne_out(offer, "mm", small=small, lost=lost)["put"]) == asked


@pytest.mark.parametrize(
    ("lengths", "lost"),
    [
        (["628", "116", "429", "217"], True), (["36", "76", "17", "108"], False), (["62.8", "10"], True),
        (["460", "18", "7", "125"], True), ([], True),
    ],
)  # fmt: skip
def test_a_view_of_long_whole_numbers_may_have_lost_its_points(lengths: list[str], lost: bool) -> None:
    pytest.importorskip("cv2")
    from lathed_solid.sheets.pictures.worker import _points_may_be_lost

    assert _points_may_be_lost(lengths) == lost
