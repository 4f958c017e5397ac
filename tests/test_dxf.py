"""DXF sheets: dimensions with their exact values, in their own process, and hostile blocks."""

from __future__ import annotations

import subprocess
from pathlib import Path
from typing import Any

import ezdxf
import pytest
from sheets_read_here import page_with_picture

from lathed_solid.sheets import command


def drawing(unit: int = 4) -> Any:
    d = ezdxf.new(setup=True)
    d.header["$INSUNITS"] = unit
    space = d.modelspace()
    space.add_lwpolyline([(0, 0), (80, 0), (80, 60), (0, 60)], close=True)
    space.add_circle((30, 30), 12.5)
    return d


def test_dimensions_come_with_their_values_and_tolerances(tmp_path: Path) -> None:
    d = drawing()
    space = d.modelspace()
    space.add_linear_dim(dimstyle="Standard", base=(0, -10), p1=(0, 0), p2=(80, 0)).render()
    space.add_linear_dim(dimstyle="Standard", base=(-10, 0), p1=(0, 0), p2=(0, 60), angle=90, override={
        "dimtol": 1, "dimtp": 0.2, "dimtm": 0.1}).render()  # fmt: skip
    space.add_linear_dim(dimstyle="Standard", base=(0, 75), p1=(0, 60), p2=(40, 60), override={
        "dimtol": 1, "dimtp": 0.05, "dimtm": 0.05}).render()  # fmt: skip
    space.add_linear_dim(dimstyle="Standard", base=(0, 90), p1=(0, 60), p2=(50, 60), override={
        "dimlim": 1, "dimtp": 0.1, "dimtm": 0.2}).render()  # fmt: skip
    space.add_linear_dim(dimstyle="Standard", base=(0, -20), p1=(0, 0), p2=(20, 0), text="4X %%c6.6 THRU").render()
    space.add_linear_dim(dimstyle="Standard", base=(0, -30), p1=(0, 0), p2=(30, 0), text="<> TYP").render()
    space.add_linear_dim(dimstyle="Standard", base=(0, -40), p1=(0, 0), p2=(35, 0), override={"dimlfac": 2.0}).render()
    space.add_diameter_dim(dimstyle="Standard", center=(30, 30), radius=12.5, angle=30).render()
    space.add_radius_dim(dimstyle="Standard", center=(60, 30), radius=7.5, angle=60).render()
    space.add_angular_dim_2l(
        dimstyle="Standard", base=(5, 5), line1=((0, 0), (10, 0)), line2=((0, 0), (10, 10))
    ).render()
    space.add_text("R2.5", height=3).set_placement((60, 50))
    space.add_mtext("M8x1.25-6H \\P%%c9", dxfattribs={"insert": (60, 20), "char_height": 3})
    d.saveas(tmp_path / "a.dxf")
    found = page_with_picture(tmp_path / "a.dxf", tmp_path)
    texts = {o.text for o in found.offers}
    assert {"80", "60 +0.2/-0.1", "40 ±0.05", "50.1/49.8", "4X ⌀6.6 THRU", "30 TYP", "70", "⌀25", "R7.5", "45°",
            "R2.5"} <= texts, texts  # fmt: skip
    assert found.pages == 1 and 80 < found.width < 200
    limits = next(o for o in found.offers if o.text == "50.1/49.8")
    assert "from 49.8 to 50.1" in limits.plain
    wide = next(o for o in found.offers if o.text == "80")
    middle = (wide.box[0] + wide.box[2]) / 2 * found.width
    assert wide.box[1] > 0.5 and 20 < middle < found.width


def test_a_drawing_in_the_other_unit_says_so(tmp_path: Path) -> None:
    d = drawing(unit=1)
    d.modelspace().add_linear_dim(dimstyle="Standard", base=(0, -10), p1=(0, 0), p2=(2.5, 0)).render()
    d.saveas(tmp_path / "a.dxf")
    (offer,) = page_with_picture(tmp_path / "a.dxf", tmp_path, "mm").offers
    assert offer.text == "2.5 in" and "63.5 mm" in offer.plain
    (offer,) = page_with_picture(tmp_path / "a.dxf", tmp_path, "in").offers
    assert offer.text == "2.5"


def _bomb(path: Path) -> Path:
    """Blocks of ten inserts each, eight deep: a hundred million entities in a few kilobytes."""
    d = ezdxf.new()
    d.blocks.new("B0").add_line((0, 0), (1, 1))
    for k in range(1, 9):
        block = d.blocks.new(f"B{k}")
        for i in range(10):
            block.add_blockref(f"B{k - 1}", (i, k))
    d.modelspace().add_blockref("B8", (0, 0))
    d.saveas(path)
    return path


@pytest.mark.parametrize("kind", ["bomb", "loop", "truncated", "empty"])
def test_hostile_drawings_are_one_line_of_words(kind: str, tmp_path: Path) -> None:
    path = tmp_path / "bad.dxf"
    if kind == "bomb":
        _bomb(path)
    elif kind == "loop":
        d = ezdxf.new()
        a, b = d.blocks.new("A"), d.blocks.new("B")
        a.add_blockref("B", (0, 0))
        b.add_blockref("A", (0, 0))
        d.modelspace().add_blockref("A", (0, 0))
        d.saveas(path)
    elif kind == "truncated":
        drawing().saveas(path)
        path.write_bytes(path.read_bytes()[:3000])
    else:
        ezdxf.new().saveas(path)
    run = subprocess.run(command(path, 1, tmp_path / "p.png"), capture_output=True, text=True, timeout=60)
    assert run.returncode == 1 and len(run.stderr.strip().splitlines()) == 1 and not run.stdout
    assert {"bomb": "unfold", "loop": "nested", "truncated": "", "empty": "empty"}[kind] in run.stderr
