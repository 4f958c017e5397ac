"""Random stepped blocks with a slot and a hole, drawn pictorially by hands of many habits; what each number measures.

The truth is what was drawn: each length with the axis that it runs along.
"""

from __future__ import annotations

import random
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

sys.path.insert(0, str(Path(__file__).parents[1] / "tools"))

from pictorial_sheet import ISOMETRIC, Hand, PictorialSheet


@dataclass(frozen=True)
class DrawnPictorial:
    """A sheet as PDF and DXF, the lengths (text, axis: 0 to 2) and the notes on it, its scale along the axes."""

    pdf: bytes
    dxf: bytes
    lengths: tuple[tuple[str, int], ...]
    notes: tuple[str, ...]
    scale: float


def _box(low: tuple[float, float, float], high: tuple[float, float, float]) -> Any:
    return BRepPrimAPI_MakeBox(gp_Pnt(*low), gp_Pnt(*high)).Shape()


def _less(shape: Any, tool: Any) -> Any:
    return BRepAlgoAPI_Cut(shape, tool).Shape()


def hand(rnd: random.Random) -> Hand:
    """The habits of somebody."""
    return Hand(
        lettering=rnd.choice(("plane", "plane", "along", "level")), in_gap=rnd.random() < 0.5,
        arrows=rnd.choice(("full", "full", "open", "tick")), size=rnd.choice((3.0, 3.5, 4.0)),
        gap=rnd.choice((0.6, 1.0, 1.5)),
    )  # fmt: skip


def drawn_pictorial(seed: int, eye: tuple[float, float] = ISOMETRIC) -> DrawnPictorial:
    """A block, stepped at its left or its front, with a slot in its high part and a hole in its low one."""
    rnd = random.Random(seed)
    places = rnd.choice((0, 0, 1))

    def number(low: float, high: float) -> float:
        return round(rnd.uniform(low, high), places)

    wide, deep, high = number(70, 110), number(45, 70), number(40, 60)
    low = number(0.35 * high, 0.6 * high)
    step = number(0.4 * wide, 0.6 * wide)
    shape = _less(_box((0, 0, 0), (wide, deep, high)), _box((-1, -1, low), (step, deep + 1, high + 1)))
    bore = rnd.choice((6.0, 8.0, 10.0))
    x, y = number(0.4 * step, 0.5 * step), number(0.4 * deep, 0.6 * deep)
    tool = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, y, -1), gp_Dir(0, 0, 1)), bore / 2, high + 2).Shape()
    shape = _less(shape, tool)
    slot, floor = number(0.25 * deep, 0.4 * deep), number(0.2 * high, 0.3 * high)
    front = number(0.25 * deep, 0.35 * deep)
    shape = _less(shape, _box((step - 1, front, high - floor), (wide + 1, front + slot, high + 1)))
    # a number has room between its arrows, as a draughtsman sees to
    scale = rnd.choice((1.0, 1.0, 0.5, 2.0) if min(front, slot, x, y, low) > 22 else (1.0, 2.0))
    size = {0.5: (297.0, 210.0), 1.0: (420.0, 297.0), 2.0: (594.0, 420.0)}[scale]
    centre = (size[0] / 2 - 0.87 * scale * (wide + deep) / 2, size[1] / 2 - 10)
    title = (f"Stop block {seed}", "MATERIAL C45", f"SCALE {scale:g}:1" if scale >= 1 else f"SCALE 1:{1 / scale:g}")
    sheet = PictorialSheet(shape, title, scale, 1.0, hand(rnd), size, centre, eye)
    one, two = 9 / scale, 18 / scale
    f = f".{places}f"
    sheet.length((0, 0, 0), 0, step, (0, -one, 0), f"{step:{f}}")
    sheet.length((0, 0, 0), 0, wide, (0, -two, 0), f"{wide:{f}}")
    sheet.length((wide, 0, 0), 1, front, (one, 0, 0), f"{front:{f}}")
    sheet.length((wide, front, 0), 1, slot, (one, 0, 0), f"{slot:{f}}")
    sheet.length((wide, 0, 0), 1, deep, (two, 0, 0), f"{deep:{f}}")
    sheet.length((0, 0, 0), 2, low, (-one, 0, 0), f"{low:{f}}")
    sheet.length((wide, deep, 0), 2, high, (0, one, 0), f"{high:{f}}")
    sheet.length((wide, deep, high - floor), 2, floor, (0, two, 0), f"{floor:{f}}")
    sheet.length((0, deep, low), 0, x, (0, one, 0), f"{x:{f}}")
    sheet.length((0, 0, low), 1, y, (-one, 0, 0), f"{y:{f}}")
    sheet.note((x - bore / 2, y, low), (-30.0, 45.0), f"⌀{bore:g} THRU")
    return DrawnPictorial(sheet.pdf(), sheet.dxf(), tuple(sheet.lengths), tuple(sheet.notes), scale)


def as_screen_picture(pdf: bytes, across: int) -> Any:
    """The view alone, cut out of its sheet, so many pixels across, a little blurred."""
    import numpy as np
    import pypdfium2 as pdfium
    from PIL import Image, ImageFilter

    dpi = 300
    image = pdfium.PdfDocument(pdf)[0].render(scale=dpi / 72).to_pil().convert("L")
    dark = np.asarray(image) < 128
    edge, title = round(12 / 25.4 * dpi), round(28 / 25.4 * dpi)
    inner = dark[edge : -edge - title, edge:-edge]
    rows, columns = np.flatnonzero(inner.any(axis=1)), np.flatnonzero(inner.any(axis=0))
    left, top = edge + int(columns[0]) - 40, edge + int(rows[0]) - 40
    view = image.crop((left, top, edge + int(columns[-1]) + 40, edge + int(rows[-1]) + 40))
    small = view.resize((across, round(across * view.height / view.width)), Image.Resampling.LANCZOS)
    return small.filter(ImageFilter.GaussianBlur(0.4))
