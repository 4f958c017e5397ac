"""Angles between arrows, against the part's own construction: where they open, and that they are read back."""

from __future__ import annotations

import math
from pathlib import Path

import ezdxf
import pytest
from practice import PARTS

from lathed_solid import scripting as ls
from lathed_solid.part.drawing_style import DrawingStyle, Moved
from lathed_solid.reports.drawing.files import write_drawing
from lathed_solid.reports.drawing.meeting import texts_over_texts
from lathed_solid.reports.drawing.model import DrawnSheet, Leader

from .reading_back import read_back


def cone(note: str, half: str) -> ls.Document:
    """A rod of 30 that runs out in a cone over 20, which begins 40 from its left end."""
    part = ls.note(ls.new_part("point"), note)
    taper = ls.Taper(kind="angle", value=half)
    stations = [ls.Station(key="A", diameter="30", length="40"),
                ls.Station(key="B", diameter="30", length="20", taper=taper)]  # fmt: skip
    return ls.turned(part, stations)


def opened(sheet: DrawnSheet) -> list[Leader]:
    return [n for n in sheet.leaders if n.opening is not None]


def of_part(sheet: DrawnSheet, n: Leader) -> tuple[float, float, float]:
    """The apex as a place of the part in its view, mm, and the angle, degrees."""
    assert n.opening is not None
    arc = n.opening.arc
    origin = next(v.origin for v in sheet.views if v.name == n.view)
    x, y = ((a - o) / sheet.scale for a, o in zip(arc.centre, origin, strict=True))
    return x, y, math.degrees(arc.end - arc.start)


@pytest.mark.parametrize(("note", "half", "apex"), [("60° INCLUDED", "#1 / 2", 15 * math.sqrt(3)), ("30°", "#1", 0.0)])
def test_a_cones_angle_opens_at_its_tip_and_half_of_it_at_its_rim(note: str, half: str, apex: float) -> None:
    part = cone(note, half)
    (sheet,) = ls.drawing(part)
    (n,) = opened(sheet)
    x, y, angle = of_part(sheet, n)
    assert angle == pytest.approx(60 if apex else 30, abs=1e-9)
    assert abs(x - 40) == pytest.approx(apex, abs=1e-9) and abs(y) == pytest.approx(0 if apex else 15, abs=1e-9)


def test_two_flats_open_where_their_lines_meet_and_the_arc_ends_on_them() -> None:
    """Of the stop bracket: its floor, and the flange that leans 30° from it, 36 high at its foot."""
    sheet = ls.drawing(PARTS["stop bracket"]())[0]
    (n,) = opened(sheet)
    assert n.opening is not None and n.words[0].text == "30°"
    x, y, angle = of_part(sheet, n)
    assert angle == pytest.approx(30, abs=1e-9) and y == pytest.approx(0, abs=1e-9)
    assert abs(x) == pytest.approx(36 / math.tan(math.radians(30)), abs=1e-9)
    ends = [n.opening.arc.at(t) for t in (n.opening.arc.start, n.opening.arc.end)]
    # each witness line goes through its end of the arc
    for end, (a, b) in zip(ends, n.opening.witnesses, strict=True):
        area = (b[0] - a[0]) * (end[1] - a[1]) - (b[1] - a[1]) * (end[0] - a[0])
        assert abs(area) / math.dist(a, b) < 1e-9
    assert texts_over_texts(sheet) == 0


def test_an_angle_is_written_read_back_and_moved(tmp_path: Path) -> None:
    part = cone("60° INCLUDED", "#1 / 2")
    sheets = ls.drawing(part)
    for ending in ("pdf", "dxf"):
        write_drawing(tmp_path / f"part.{ending}", sheets)
        found = read_back(sheets[0], tmp_path / f"part.{ending}")
        assert not found.bad and found.counts["found"] == 1
    arcs = ezdxf.readfile(tmp_path / "part.dxf").modelspace().query("ARC")
    assert any(e.dxf.end_angle - e.dxf.start_angle == pytest.approx(60, abs=1e-6) for e in arcs)
    (before,) = opened(sheets[0])
    style = DrawingStyle(moved=(Moved(balloon=1, x=7.0, y=-3.0),))
    (after,) = opened(ls.drawing(part, style)[0])
    assert after.opening == before.opening and after.tip == before.tip and not before.runs
    assert after.words[0].at == pytest.approx((before.words[0].at[0] + 7, before.words[0].at[1] - 3))
    assert after.runs[1] == pytest.approx((before.tip[0] + 7, before.tip[1] - 3))
