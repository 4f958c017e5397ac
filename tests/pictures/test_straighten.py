"""Pictures of sheets made straight, against how they were turned, seen aslant and lit."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

pytest.importorskip("cv2")

import scans
from PIL import Image, ImageDraw

from lathed_solid.sheets import SheetError
from lathed_solid.sheets.pictures.ruled import ink, ruled
from lathed_solid.sheets.pictures.straighten import sheet_corners, straighten

WIDTH, HEIGHT = 1680, 1188
MM = 420 / WIDTH
#: level and upright lines on the paper: from, to, width in pixels
LINES = [
    ((200, 300), (1300, 300), 3),
    ((200, 500), (700, 500), 2),
    ((400, 250), (400, 900), 3),
    ((1400, 200), (1400, 800), 2),
]


def paper() -> Image.Image:
    sheet = Image.new("L", (WIDTH, HEIGHT), 255)
    draw = ImageDraw.Draw(sheet)
    draw.rectangle((60, 60, WIDTH - 60, HEIGHT - 60), outline=0, width=4)
    for a, b, wide in LINES:
        draw.line((*a, *b), fill=0, width=wide)
    draw.ellipse((900, 600, 1100, 800), outline=0, width=3)
    return sheet


def found(grey: Any, across: float = 420.0) -> list[tuple[float, float, float, float]]:
    mm = across / grey.shape[1]
    return [(*a, *b) for a, b, _, _ in ruled(ink(grey), mm)]


def has(lines: Any, a: tuple[int, int], b: tuple[int, int], within: float) -> bool:
    """Whether a drawn line was found, its ends within so many mm."""
    want = [a[0] * MM, (HEIGHT - a[1]) * MM, b[0] * MM, (HEIGHT - b[1]) * MM]
    if want[1] > want[3]:
        want = [want[0], want[3], want[2], want[1]]
    return any(np.abs(np.array(line) - want).max() < within for line in lines)


@pytest.mark.parametrize("degrees", [-1.5, -0.4, 0.0, 1.0, 2.5])
def test_a_turned_scan_is_turned_back(degrees: float) -> None:
    straight = straighten(np.asarray(scans.scan(paper(), degrees, seed=3)))
    assert straight.corners is None
    assert straight.turned == pytest.approx(degrees, abs=0.05)
    lines = found(straight.grey)
    assert all(has(lines, a, b, 1.0) for a, b, _ in LINES)


@pytest.mark.parametrize("seed", [5, 6, 7])
def test_a_photographed_sheet_is_seen_flat(seed: int) -> None:
    picture = np.asarray(scans.photograph(paper(), aslant=0.05, seed=seed))
    corners = sheet_corners(picture)
    assert corners is not None
    there = np.array([[0.05357, 0.05357], [0.94643, 0.05357], [0.94643, 0.94643], [0.05357, 0.94643]])
    moved = np.array([[1.0, 0.7], [-0.3, 1.0], [-1.0, -0.5], [0.5, -0.9]]) * 0.05 * HEIGHT
    meant = there + moved / (WIDTH * 1.12, HEIGHT * 1.12)
    assert np.abs(corners - meant).max() < 0.004
    straight = straighten(picture)
    assert straight.grey.shape[1] / straight.grey.shape[0] == pytest.approx(2**0.5, rel=0.002)
    lines = found(straight.grey)
    assert all(has(lines, a, b, 2.0) for a, b, _ in LINES)


def test_ruled_lines_are_none_of_a_circle_s_or_of_grain() -> None:
    grey = np.asarray(scans.scan(paper(), 0.0, noise=0.04, seed=9))
    lines = found(straighten(grey).grey)
    assert len(lines) <= len(LINES) + 4 + 8  # the frame's four sides, the circle's flattest places


@pytest.mark.parametrize("light", [np.zeros((40, 40), np.uint8), np.full((300, 200), 255, np.uint8)])
def test_a_picture_of_nothing_has_nothing(light: Any) -> None:
    straight = straighten(light)
    assert straight.corners is None and straight.turned == 0.0
    assert ruled(ink(straight.grey), 0.1) == []


def test_corners_put_by_hand_straighten_as_those_found_do(tmp_path: Path) -> None:
    from lathed_solid.demo.sheets import SHEETS
    from lathed_solid.sheets.client import answer, command, page_of

    photo = SHEETS / "winch-spindle-photo.jpg"
    grey = np.asarray(Image.open(photo).convert("L"))
    own = straighten(grey)
    assert own.corners is not None
    corners = tuple((float(x), float(y)) for x, y in own.corners)
    pages = []
    for k, given in enumerate((None, corners)):
        out = tmp_path / f"{k}.bmp"
        page_of(answer(command(photo, 1, out, corners=given), photo))  # type: ignore[arg-type]
        pages.append(np.asarray(Image.open(out).convert("L"), float))
    assert pages[0].shape == pages[1].shape
    assert np.abs(pages[0] - pages[1]).mean() < 0.5
    # a sheet whose corners were put elsewhere is another one; what is no sheet is refused in words
    other = tuple((0.2 + 0.6 * x, 0.2 + 0.6 * y) for x, y in ((0, 0), (1, 0), (1, 1), (0, 1)))
    out = tmp_path / "o.bmp"
    answer(command(photo, 1, out, corners=other), photo)  # type: ignore[arg-type]
    assert np.asarray(Image.open(out)).shape[:2] != pages[0].shape
    crossed = (corners[1], corners[0], corners[2], corners[3])
    with pytest.raises(SheetError, match="corners"):
        answer(command(photo, 1, out, corners=crossed), photo)
