"""The process that reads one page of a sheet: ``python -m lathed_solid.sheets.worker FILE PAGE DPI OUT UNIT AS``.

A hostile file can hang or swell any reader, so this one has limits on time and memory, and can be killed. It writes
the page's picture to OUT (a BMP: quick to take in) with its halves beside it, and prints one JSON object: pages, size
in mm, the scale that its dimensions agree on, and the texts that read as notes in UNIT with their places (fractions of
the page from the top left) and what their drawn lengths say of them. A picture of a sheet (AS ``sheet``, no photograph
of a part) is straightened, and its lettering left to ``pictures.worker``. An error is one line on stderr, exit code 1.
"""

from __future__ import annotations

import json
import re
import resource
import sys
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from importlib.util import find_spec
from pathlib import Path
from typing import Any

import numpy as np

from lathed_solid.ledger.sheet_corners import Corners, checked_corners
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.quantity.units import MM_PER_POINT as MM
from lathed_solid.sheets.client import levels
from lathed_solid.sheets.detail_titles import detail_titles
from lathed_solid.sheets.dimension_lines import EXACT
from lathed_solid.sheets.judged_offers import judged
from lathed_solid.sheets.note_candidates import offers
from lathed_solid.sheets.pictorial import axes_of
from lathed_solid.sheets.title_words import page_title

CPU_S, MEMORY = 30, 2 << 30
#: no smaller picture is kept than this many pixels across
LEAST = 500
MOST_NOTES = 3000
#: lettering of a DXF in the gap of its line leaves no more at its sides, mm
LOOSELY = 4.0
MOST_PIXELS = 60_000_000
#: lettering is read from so many dots an inch
LETTERS_DPI = 200.0
#: what a scanner says of its dots; these are a screen's, and say nothing
TOLD_DPI, SCREENS = (90.0, 1300.0), (96,)
#: a picture that is smaller has no lettering
LEAST_SIDE = 100
#: mm to a dot where nobody says it
UNTOLD_DOTS = MM_PER_INCH / 150
#: packages that reading lettering takes; without them a picture is shown and said to be unread
LETTERING = ("cv2", "rapidocr", "skimage")
PDF_HEAD = b"%PDF-"
DXF_HEAD = re.compile(rb"\s*(?:999\s[^\n]*\n\s*)*0\s*\r?\n\s*SECTION\b")


def main(args: list[str]) -> int:
    """Read a page with limits on time and memory; the exit code. What was found goes to standard output as JSON."""
    path, number, dpi, out = Path(args[0]), int(args[1]), float(args[2]), Path(args[3])
    unit: LengthUnit = "in" if args[4] == "in" else "mm"
    flat = len(args) < 6 or args[5] == "sheet"
    places = [float(v) for v in args[6:14]]

    def read() -> dict[str, Any]:
        corners = checked_corners(list(zip(places[::2], places[1::2], strict=True))) if places else None
        found, picture = read_file(path, number, dpi, unit, flat=flat, corners=corners)
        _save(picture, out)
        return found

    return answered(read)


def answered(read: Callable[[], dict[str, Any]], seconds: int = CPU_S, memory: int = MEMORY) -> int:
    """What was read, with limits on time and memory, as JSON on standard output; else one line on stderr. The exit
    code.
    """
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    try:
        found = read()
    except MemoryError:
        print("the sheet needs more memory than it may have", file=sys.stderr)
        return 1
    except Exception as exc:  # noqa: BLE001 - whatever a reader raises on a damaged file
        print(str(exc).splitlines()[0] if str(exc) else type(exc).__name__, file=sys.stderr)
        return 1
    json.dump(found, sys.stdout)
    return 0


Read = tuple[dict[str, Any], Any]


def read_file(
    path: Path, number: int, dpi: float, unit: LengthUnit, *, flat: bool = True, corners: Corners | None = None
) -> Read:
    """What is found on a page, and its picture; one of a sheet is made ``flat``, by its ``corners`` if told."""
    found, picture = _found(path, number, dpi, flat=flat, corners=corners)
    notes, strokes = found.pop("notes"), found.pop("strokes", ())
    numbered = _balloons(notes, strokes, found)
    notes = [n for n in notes if n not in numbered]
    found["title"] = page_title(found.pop("furniture", ()), [n["text"] for n in notes], unit)
    told, left = offers(notes, unit, found.get("unit", unit))
    left += [{"text": n["text"], "box": n["box"], "why": "a balloon"} for n in numbered]
    size = found["width_mm"], found["height_mm"]
    axes = axes_of(strokes, *size)
    # how wide a DXF's lettering is depends on a font that it only names
    slack = replace(EXACT, beside=LOOSELY) if "unit" in found else EXACT
    told, scale = judged(told, strokes, *size, unit, slack, detail_titles(notes, *size), axes)
    found["axes"] = None if axes is None else list(axes.degrees)
    return found | {"offers": told, "left": left, "texts": len(notes) + len(numbered), "scale": scale}, picture


def _balloons(notes: list[dict[str, Any]], strokes: Any, found: dict[str, Any]) -> list[dict[str, Any]]:
    """Bare numbers in rings."""
    from lathed_solid.sheets.balloons import Ring, in_ring, rings
    from lathed_solid.sheets.client import on_page

    round_ones = [Ring((x, y), r) for x, y, r in found.pop("circles", ())] or rings(run for run, _, _ in strokes)
    wide, tall = found["width_mm"], found["height_mm"]
    return [n for n in notes if round_ones and in_ring(n["text"], on_page(n["box"], wide, tall), round_ones)]


def _save(picture: Any, out: Path) -> None:
    """The picture and its halves: thin lines last where all of a page is seen."""
    picture = picture.convert("RGB")
    for old in levels(out)[1:]:
        old.unlink()
    n = 0
    while True:
        picture.convert("RGBA").save(out if n == 0 else out.with_suffix(f".{n}{out.suffix}"), "BMP")
        if picture.width <= LEAST:
            return
        picture, n = picture.reduce(2), n + 1


def _found(path: Path, number: int, dpi: float, *, flat: bool, corners: Corners | None) -> Read:
    head = path.read_bytes()[:1024]
    if PDF_HEAD in head:
        return _pdf(path, number, dpi, corners)
    if DXF_HEAD.match(head):
        return _dxf(path)
    return _picture(path, flat=flat, corners=corners)


def _pdf(path: Path, number: int, dpi: float, corners: Corners | None) -> Read:
    from lathed_solid.sheets.pdf import Page
    from lathed_solid.sheets.texts import lines_of, sorted_lines

    page = Page(path, number)
    w, h = page.width, page.height
    chars = page.chars()
    if not chars:
        picture = page.picture(max(dpi, LETTERS_DPI))
        return _as_picture(picture.convert("L"), w * MM, page.count, flat=True, corners=corners)
    texts, furniture = sorted_lines(lines_of(chars), page.rules(), w, h)
    notes = [
        {"text": t.text, "angle": t.angle,
         "box": [t.box[0] / w, 1 - t.box[3] / h, t.box[2] / w, 1 - t.box[1] / h]}
        for t in texts[:MOST_NOTES]
    ]  # fmt: skip
    strokes = [([(x * MM, y * MM) for x, y in run], wide * MM, dashed) for run, wide, dashed in page.strokes()]
    found = {"pages": page.count, "width_mm": w * MM, "height_mm": h * MM, "notes": notes, "strokes": strokes,
             "furniture": furniture}  # fmt: skip
    return found, page.picture(dpi)


def _dxf(path: Path) -> Read:
    """A drawing whose dimensions say what they measure; where none does, they are lines and texts, to be followed."""
    from lathed_solid.sheets.dxf import opened, read
    from lathed_solid.sheets.dxf_lines import strokes

    drawing = opened(path)
    page, picture = read(drawing)
    if not any("measured_mm" in note for note in page["notes"]):
        with suppress(ValueError):  # nothing but texts
            drawn, beside = strokes(drawing)
            page["strokes"] = [*drawn, *beside]
    return page, picture


def _picture(path: Path, *, flat: bool, corners: Corners | None) -> Read:
    """A scan or a photograph."""
    from PIL import Image, ImageOps

    Image.MAX_IMAGE_PIXELS = MOST_PIXELS
    with Image.open(path, formats=("PNG", "JPEG")) as image:
        dpi = float(image.info.get("dpi", (0, 0))[0] or 0)
        turned = ImageOps.exif_transpose(image)
        told = TOLD_DPI[0] <= dpi <= TOLD_DPI[1] and round(dpi) not in SCREENS
        width = turned.width / dpi * MM_PER_INCH if told else 0.0
        if flat:
            return _as_picture(turned.convert("L"), width, 1, flat=True, corners=corners)
        return _as_picture(turned.convert("RGB"), width, 1, flat=False)


def _as_picture(image: Any, width: float, pages: int, *, flat: bool, corners: Corners | None = None) -> Read:
    """A picture as a page ``width`` mm wide (0: not known), straight where it is ``flat`` and OpenCV is there."""
    lettering, lay = "", None
    if flat and min(image.size) >= LEAST_SIDE:
        lettering = "absent" if any(find_spec(p) is None for p in LETTERING) else "unread"
    if lettering == "unread":
        from PIL import Image

        from lathed_solid.sheets.pictures.straighten import straighten

        straight = straighten(np.asarray(image), None if corners is None else np.array(corners))
        if straight.corners is not None:
            width = 0.0  # a photograph's dots are not the paper's
            lay = np.asarray(straight.corners).tolist()
        image = Image.fromarray(straight.grey)
    across = width or UNTOLD_DOTS * image.width
    size = {"width_mm": across, "height_mm": across * image.height / image.width, "sized": width > 0}
    return {"pages": pages, **size, "notes": [], "lettering": lettering, "corners": lay}, image


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
