"""Lines traced in pictures: what was drawn is found again, where it was, by its pen; the witness takes them."""

from __future__ import annotations

import math
import random
from pathlib import Path

import numpy as np
import pytest

pytest.importorskip("cv2")
pytest.importorskip("skimage")

import cv2

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.part.proposals import ProposalError, propose
from lathed_solid.sheets.client import SheetPage
from lathed_solid.sheets.drawn_views import places
from lathed_solid.sheets.pictures.linework import lines_in
from lathed_solid.sheets.pictures.thinned import thinned
from lathed_solid.sheets.pictures.traced import Line
from lathed_solid.sheets.witness import sides_of, witness

MM = 25.4 / 200
THIN, THICK = 0.25, 0.5
#: drawn so many times as large, then made small: smooth lines
FINER = 8


class Paper:
    """A sheet to draw on, in mm from the bottom left, as a scanner sees it."""

    def __init__(self, width: float = 160.0, height: float = 110.0) -> None:
        self.columns, self.rows = round(width / MM), round(height / MM)
        self.large = np.full((self.rows * FINER, self.columns * FINER), 255, np.uint8)

    def place(self, x: float, y: float) -> tuple[int, int]:
        return round(x / MM * FINER), round((self.rows - y / MM) * FINER)

    def line(self, *places: tuple[float, float], wide: float = THICK, closed: bool = False) -> None:
        run = np.array([self.place(*p) for p in places], np.int32)
        cv2.polylines(self.large, [run], closed, 0, round(wide / MM * FINER))

    def arc(self, x: float, y: float, radius: float, start: float = 0, end: float = 360, wide: float = THICK) -> None:
        run = [(x + radius * math.cos(t), y + radius * math.sin(t))
               for t in np.radians(np.linspace(start, end, 181))]  # fmt: skip
        self.line(*run, wide=wide)

    def arrow(self, x: float, y: float, way: float) -> None:
        """Filled, 3 mm long, its tip at a place."""
        c, s = math.cos(math.radians(way)), math.sin(math.radians(way))
        corners = [(x, y), *((x - 3 * c - k * 0.5 * s, y - 3 * s + k * 0.5 * c) for k in (1, -1))]
        cv2.fillPoly(self.large, [np.array([self.place(*p) for p in corners], np.int32)], 0)

    def scanned(self, seed: int = 1) -> np.ndarray:
        small = cv2.resize(self.large, (self.columns, self.rows), interpolation=cv2.INTER_AREA)
        grain = 6 * np.random.default_rng(seed).standard_normal(small.shape)
        return np.clip(cv2.GaussianBlur(small, (0, 0), 0.6) + grain, 0, 255).astype(np.uint8)


def circles(lines: list[Line]) -> list[tuple[float, float, float]]:
    bits = [k.bits[0] for k in lines if k.closed and len(k.bits) == 1]
    return sorted((*b.centre, b.radius) for b in bits if b.centre is not None)


def test_a_plate_with_its_dimension_is_found_by_its_pens() -> None:
    paper = Paper()
    paper.line((30, 30), (120, 30), (120, 80), (42, 80), (30, 68), closed=True)
    paper.arc(60, 50, 6)
    paper.arc(95, 55, 2.2)
    for x in (30, 120):
        paper.line((x, 28), (x, 14), wide=THIN)
    paper.line((30, 17), (120, 17), wide=THIN)
    paper.arrow(30, 17, 180)
    paper.arrow(120, 17, 0)
    found = lines_in(paper.scanned(), MM)
    thin, thick = (sorted({k.wide for k in found})[i] for i in (0, -1))
    assert thin == pytest.approx(THIN, abs=0.07) and thick == pytest.approx(THICK, abs=0.1)
    assert circles(found) == [pytest.approx((60, 50, 6), abs=0.06), pytest.approx((95, 55, 2.2), abs=0.06)]
    (outline,) = [k for k in found if k.closed and len(k.bits) == 5]
    corners = sorted(b.a for b in outline.bits)
    meant = sorted([(30, 30), (120, 30), (120, 80), (42, 80), (30, 68)])
    assert np.abs(np.array(corners) - meant).max() < 0.12 and outline.wide == thick
    dimension = [k for k in found if not k.closed]
    assert dimension and all(k.wide == thin for k in dimension), "an arrowhead is no outline"


@pytest.mark.parametrize("seed", range(6))
def test_random_lines_and_arcs_are_where_they_were_drawn(seed: int) -> None:
    """Every place of what is traced lies on what was drawn, and the other way, within half a pen."""
    rnd = random.Random(seed)
    paper = Paper()
    drawn = []
    for k in range(4):
        x, y = 20 + 38 * k, rnd.uniform(30, 80)
        radius, start = rnd.uniform(7, 15), rnd.uniform(0, 360)
        end = start + rnd.uniform(120, 360)
        paper.arc(x, y, radius, start, end)
        turns = np.radians(np.linspace(start, end, 1000))
        drawn.append(np.column_stack([x + radius * np.cos(turns), y + radius * np.sin(turns)]))
    a, b = (rnd.uniform(5, 60), 8.0), (rnd.uniform(90, 150), rnd.uniform(2, 14))
    paper.line(a, b)
    drawn.append(np.array(a) + np.linspace(0, 1, 1000)[:, None] * (np.array(b) - a))
    found = lines_in(paper.scanned(seed), MM)
    along = places([np.array(k.run()) for k in found])
    meant = np.vstack(drawn)
    apart = np.linalg.norm(along[:, None] - meant[None], axis=2)
    # ends of thick lines are shortened by thinning
    assert np.quantile(apart.min(axis=1), 0.98) < THICK / 2 and np.quantile(apart.min(axis=0), 0.97) < THICK / 2


def test_lettering_is_no_line_and_a_broken_line_is_one() -> None:
    paper = Paper()
    for k, letter in enumerate("THRU"):
        at = paper.place(40 + 3 * k, 90)
        cv2.putText(paper.large, letter, at, cv2.FONT_HERSHEY_SIMPLEX, 6.0, 0, 14)
    for k in range(9):
        paper.line((20 + 6 * k, 40), (24 + 6 * k, 40), wide=THIN)
    paper.line((20, 20), (100, 20))
    found = lines_in(paper.scanned(), MM)
    assert sorted(k.dashed for k in found) == [False, True]
    (broken,) = [k for k in found if k.dashed]
    assert np.ptp([p[0] for p in broken.run()]) == pytest.approx(52, abs=1.0)


def test_a_line_stays_one_where_others_cross_it_and_end_on_it() -> None:
    paper = Paper()
    paper.line((20, 50), (140, 50))
    paper.line((60, 20), (60, 90))
    paper.line((100, 50), (100, 90))
    found = lines_in(paper.scanned(), MM)
    assert len(found) == 3
    (stub,) = [k for k in found if abs(np.mean([p[0] for p in k.run()]) - 100) < 1 and len(k.run()) == 2]
    assert min(p[1] for p in stub.run()) == pytest.approx(50, abs=0.15), "it ends on the other"


def test_nothing_and_grain_have_no_lines_and_too_much_is_refused() -> None:
    empty = np.full((400, 600), 250, np.uint8)
    assert lines_in(empty, MM) == [] and lines_in(np.zeros((3, 3), np.uint8), MM) == []
    grain = np.random.default_rng(1).integers(0, 256, (3000, 3000)).astype(np.uint8)
    with pytest.raises(ValueError, match="more lines than a drawing has"):
        thinned(np.where(grain < 90, 255, 0).astype(np.uint8), grain)


def test_what_cannot_be_traced_is_read_all_the_same(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    """Grain has more lines than a drawing; its lettering is none the worse for it."""
    from lathed_solid.sheets.pictures import thinned as thinning
    from lathed_solid.sheets.pictures import worker

    pytest.importorskip("rapidocr")
    paper = Paper()
    cv2.putText(paper.large, "42", paper.place(60, 60), cv2.FONT_HERSHEY_SIMPLEX, 8.0, 0, 22)
    cv2.imwrite(str(tmp_path / "page.bmp"), paper.scanned())
    assert "lines" in worker.read_picture(tmp_path / "page.bmp", 160.0, "mm")
    monkeypatch.setattr(thinning, "MOST_CHAINS", 0)
    found = worker.read_picture(tmp_path / "page.bmp", 160.0, "mm")
    assert "lines" not in found and [o["text"] for o in found["offers"]] == ["42"]


def test_a_scan_bears_its_part_out_and_points_at_a_slip(scan: SheetPage) -> None:
    from lathed_solid.kernel.sides import sides

    part = DEMOS["pedestal"]()
    assert scan.lines is not None and scan.lines.traced
    found = witness(scan.lines, sides_of(sides(ls.build(part).built.body)))
    assert found.agrees and {v.side for v in found.views} == {"top", "front"} and found.by_width
    moved = ls.change_callout(part, 6, nominal=4.55 * 25.4, low=None, high=None)
    slip = witness(scan.lines, sides_of(sides(ls.build(moved).built.body)))
    (top,) = [v for v in slip.views if v.side == "top"]
    assert not slip.agrees and len(top.drawn) >= 4, "the four holes"


def test_a_photograph_gives_the_first_model_of_its_turned_part(photograph: SheetPage) -> None:
    """All stations, edges, the groove and the flange's holes; what stands nowhere on the axis is left to be placed."""
    assert photograph.lines is not None
    found = propose(ls.new_part("spindle"), photograph, photograph.lines, page_number=1)
    assert found.asked == () and found.kind == "turned"
    unsure = {o.text for o in photograph.offers if o.sure == "doubtful"}
    rests = {c.note for c in found.document.callouts if any(f"#{c.balloon}:" in words for words in found.doubted)}
    assert rests and rests <= unsure, "what is not sure is told"
    stations = [r.cells for r in found.rows if r.what.startswith("station") and "," not in r.what]
    assert len(stations) == 6 and all("⌀" in cells for cells in stations)
    assert [r.cells for r in found.rows if r.what == "holes"] == ["4X ⌀6.6 THRU on 10/shoulder.C"]
    solid, meant = ls.build(found.document), ls.build(DEMOS["winch-spindle"]())
    assert solid.ok and solid.volume == pytest.approx(meant.volume, rel=0.02), "but for holes that are not placed"


def test_a_first_model_of_what_is_none_of_its_kinds_is_refused(scan: SheetPage) -> None:
    assert scan.lines is not None
    with pytest.raises(ProposalError, match="no view of a"):
        propose(ls.new_part("pedestal", unit="in"), scan, scan.lines, page_number=1)
