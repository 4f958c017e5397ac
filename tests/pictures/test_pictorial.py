"""Pictures of pictorial views, as small as a screen's: what is read with its axis, and what is asked."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

import numpy as np
import pytest

pytest.importorskip("cv2")
pytest.importorskip("rapidocr")

from drawn_pictorial import as_screen_picture, drawn_pictorial

from lathed_solid.sheets.client import read_page
from lathed_solid.sheets.pictorial import Axes, planes
from lathed_solid.sheets.pictures.planes import agreed, laid


@pytest.mark.timeout(600)
def test_a_screen_s_picture_is_read_along_its_axes(tmp_path: Path) -> None:
    drawn = drawn_pictorial(7)
    path = tmp_path / "block.png"
    as_screen_picture(drawn.pdf, 700).save(path)
    found = read_page(path)
    assert found.kind == "pictorial" and found.axes == pytest.approx((-30, 30, 90), abs=0.3)
    meant = Counter((text, "xyz"[axis]) for text, axis in drawn.lengths)
    told = Counter((o.text, o.span.along[0]) for o in found.offers if o.span is not None and o.sure == "sure")
    assert not told - meant and (told & meant).total() >= 7
    sure = Counter(o.text for o in found.offers if o.sure == "sure")
    assert not sure - Counter(text for text, _ in drawn.lengths), "nothing that no line bears out is sure"


def test_a_picture_laid_in_a_plane_and_back() -> None:
    light = np.full((200, 300), 255, np.uint8)
    axes = Axes((-30.0, 30.0, 90.0), (1.0, 1.0, 1.0))
    along = np.array([[50.0, 150.0, 250.0, 40.0]])
    points = np.array([[60.0, 100.0], [200.0, 70.0]])
    for flat in laid(light, along, 1.5, planes(axes)):
        there = points @ flat.matrix[:, :2].T + flat.matrix[:, 2]
        assert flat.back(there) == pytest.approx(points)
        # 20 pixels along the level axis are 30 of the plane, level
        way = flat.plane.axes.vector(flat.plane.level) * 20
        step = flat.matrix[:, :2] @ (way * np.array([1.0, -1.0]))
        assert step == pytest.approx([30.0, 0.0], abs=1e-9)


def offer(text: str, x: float, seen: float, *, span: bool = False) -> dict[str, object]:
    told = {"text": text, "seen": seen, "put": [], "sure": "sure", "box": [x, 0.4, x + 0.1, 0.45]}
    return told | ({"span": ["x.0", 0.0, 1.0]} if span else {})


def test_what_a_line_bears_out_is_taken_and_what_planes_read_differently_is_said() -> None:
    size = (400, 400)
    borne, other = offer("24", 0.2, 0.8, span=True), offer("21", 0.2, 0.99)
    assert [o["text"] for o in agreed([other, borne], size)] == ["24"]
    one, two = offer("88", 0.5, 0.95), offer("83", 0.5, 0.94)
    (found,) = agreed([two, one], size)
    assert found["text"] == "88" and found["put"] == ["read as 88 and as 83"]
    assert agreed([one, offer("S8", 0.5, 0.6)], size)[0]["put"] == []
    spans = agreed([borne, {**offer("30", 0.7, 0.9, span=True), "span": ["x.1", 0.0, 1.0]}], size)
    assert [o["span"][0] for o in spans] == ["x", "x2"]
