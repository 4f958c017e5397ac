"""The process that reads one page of a sheet: ``python -m lathed_solid.sheets.worker FILE PAGE DPI OUT UNIT``.

A hostile file can hang or swell any reader, so this one has limits on time and memory, and can be killed. It writes
the page's picture to OUT (a BMP: quick to take in) with its halves beside it, and prints one JSON object: pages, size
in mm, the scale that its dimensions agree on, and the texts that read as notes in UNIT with their places (fractions of
the page from the top left) and what their drawn lengths say of them. An error is one line on stderr, and exit code 1.
"""

from __future__ import annotations

import json
import re
import resource
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.sheets.client import levels
from lathed_solid.sheets.judged_offers import judged
from lathed_solid.sheets.note_candidates import offers
from lathed_solid.sheets.title_words import title_of

CPU_S, MEMORY = 30, 2 << 30
MM = MM_PER_INCH / 72
#: no smaller picture is kept than this many pixels across
LEAST = 500
MOST_NOTES = 3000
PDF_HEAD = b"%PDF-"
DXF_HEAD = re.compile(rb"\s*(?:999\s[^\n]*\n\s*)*0\s*\r?\n\s*SECTION\b")


def main(args: list[str]) -> int:
    """Read a page with limits on time and memory; the exit code. What was found goes to standard output as JSON."""
    path, number, dpi, out = Path(args[0]), int(args[1]), float(args[2]), Path(args[3])
    unit: LengthUnit = "in" if args[4] == "in" else "mm"

    def read() -> dict[str, Any]:
        found, picture = read_file(path, number, dpi, unit)
        _save(picture, out)
        return found

    return answered(read)


def answered(read: Callable[[], dict[str, Any]]) -> int:
    """What was read, with limits on time and memory, as JSON on standard output; else one line on stderr. The exit
    code.
    """
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_S, CPU_S))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
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


def read_file(path: Path, number: int, dpi: float, unit: LengthUnit) -> Read:
    """What is found on a page, and its picture."""
    found, picture = _found(path, number, dpi)
    notes, strokes = found.pop("notes"), found.pop("strokes", ())
    told, left = offers(notes, unit, found.get("unit", unit))
    told, scale = judged(told, strokes, found["width_mm"], found["height_mm"], unit)
    return found | {"offers": told, "left": left, "texts": len(notes), "scale": scale}, picture


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


def _found(path: Path, number: int, dpi: float) -> Read:
    head = path.read_bytes()[:1024]
    if PDF_HEAD in head:
        return _pdf(path, number, dpi)
    if DXF_HEAD.match(head):
        from lathed_solid.sheets.dxf import read

        return read(path)
    return _picture(path)


def _pdf(path: Path, number: int, dpi: float) -> Read:
    from lathed_solid.sheets.pdf import Page
    from lathed_solid.sheets.texts import lines_of, sorted_lines

    page = Page(path, number)
    w, h = page.width, page.height
    texts, furniture = sorted_lines(lines_of(page.chars()), page.rules(), w, h)
    notes = [
        {"text": t.text, "angle": t.angle,
         "box": [t.box[0] / w, 1 - t.box[3] / h, t.box[2] / w, 1 - t.box[1] / h]}
        for t in texts[:MOST_NOTES]
    ]  # fmt: skip
    strokes = [([(x * MM, y * MM) for x, y in run], wide * MM, dashed) for run, wide, dashed in page.strokes()]
    found = {"pages": page.count, "width_mm": w * MM, "height_mm": h * MM, "notes": notes, "strokes": strokes,
             "title": title_of(furniture)}  # fmt: skip
    return found, page.picture(dpi)


def _picture(path: Path) -> Read:
    """A scan: no notes are found, balloons are placed by hand."""
    from PIL import Image

    Image.MAX_IMAGE_PIXELS = 60_000_000
    with Image.open(path, formats=("PNG", "JPEG")) as image:
        dpi = image.info.get("dpi", (150, 150))[0] or 150
        size = {"width_mm": image.width / dpi * MM_PER_INCH, "height_mm": image.height / dpi * MM_PER_INCH}
        return {"pages": 1, **size, "notes": []}, image.convert("RGB")


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
