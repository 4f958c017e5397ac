"""The window's side of reading a sheet: the command that reads a page, and what came of it."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, Literal, NamedTuple, get_args

from lathed_solid.ledger import Span
from lathed_solid.ledger.sheet_corners import Corners, checked_corners
from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets.errors import SheetError
from lathed_solid.sheets.strokes import Linework, linework_of
from lathed_solid.sheets.title import Title, title

DPI = 150.0
UNTITLED = Title()
#: where nobody looks at the picture
COARSE = 20.0
Box = tuple[float, float, float, float]
Sure = Literal["sure", "doubtful", "contradicted"]
Lettering = Literal["", "unread", "read", "absent"]
#: reading the lettering of a picture takes no longer
LETTERING_S = 240.0


@dataclass(frozen=True, slots=True)
class NoteCandidate:
    """A text that reads as a note: ``box`` (left, top, right, bottom) in fractions of the page; its plain meaning.

    ``span``: for a dimension that tells by its line or its definition points between which places it runs. ``sure``:
    what its drawn length says of it; ``why`` not; ``drawn``: the part's size as drawn, mm.
    """

    text: str
    box: Box
    angle: int
    plain: str
    span: Span | None = None
    sure: Sure = "sure"
    why: str = ""
    drawn: float | None = None


class LeftText(NamedTuple):
    """A text that is no note, why not, and where it stands, as that of a note."""

    text: str
    why: str
    box: Box


@dataclass(frozen=True)
class SheetPage:
    """A page as read: how many there are, its size in mm, and the notes that are offered as callouts.

    ``scale``: page per part, where its dimension lines agree on one. ``left``: texts that are no notes, with why.
    ``lettering`` of a picture: ``unread`` until it is, ``read`` then, ``absent`` where its reader is not installed;
    empty for a page with texts of its own. ``sized``: the page's size in mm is known. ``corners``: where a
    photographed sheet lay in its picture.
    """

    pages: int
    width: float
    height: float
    offers: tuple[NoteCandidate, ...]
    texts: int
    scale: float | None = None
    left: tuple[LeftText, ...] = ()
    title: Title = UNTITLED
    lettering: Lettering = ""
    sized: bool = True
    corners: Corners | None = None
    #: directions of the axes of a pictorial view, degrees (x, y, z); None for flat views
    axes: tuple[float, float, float] | None = None
    #: the lines of a picture, traced when its lettering was read
    lines: Linework | None = field(default=None, repr=False, compare=False)

    @property
    def kind(self) -> Literal["orthographic", "pictorial"]:
        """How the part is drawn on it."""
        return "orthographic" if self.axes is None else "pictorial"


def command(
    path: Path, page: int, out: Path, dpi: float = DPI, unit: LengthUnit = "mm", *, flat: bool = True,
    corners: Corners | None = None,
) -> list[str]:  # fmt: skip
    """What reads page ``page`` (from 1) of a file, with notes in ``unit``.

    It writes the page's picture to ``out``, a BMP, and beside it the halves of its size (``levels``). ``flat``: a
    picture is one of a sheet, and is straightened, by its ``corners`` where they are told.
    """
    args = [str(path), str(page), f"{dpi:g}", str(out), unit, "sheet" if flat else "photograph"]
    args += [f"{v:.6f}" for corner in corners or () for v in corner]
    return [sys.executable, "-m", "lathed_solid.sheets.worker", *args]


def read_page(path: Path, page: int = 1, unit: LengthUnit = "mm", *, corners: Corners | None = None) -> SheetPage:
    """A page read by a process with limits, without its picture; ``corners`` of a photographed sheet as they were put
    right. Raises SheetError.
    """
    with tempfile.TemporaryDirectory() as folder:
        picture = Path(folder) / "page.bmp"
        found = page_of(answer(command(path, page, picture, COARSE, unit, corners=corners), path))
        if found.lettering == "unread":
            found = lettered(found, answer(lettering_command(picture, found, unit), path, LETTERING_S))
        return found


def read_linework(path: Path, page: int = 1, *, corners: Corners | None = None) -> Linework:
    """The linework of a page, read by a process with limits; a picture is read whole, for its lettering is no line.
    Raises SheetError.
    """
    found = _object(answer([sys.executable, "-m", "lathed_solid.sheets.line_worker", str(path), str(page)], path))
    if not found.get("picture"):
        return linework_of(found)
    read = read_page(path, page, corners=corners)
    if read.lines is None:
        absent = read.lettering == "absent"
        raise SheetError("the lines of a picture cannot be traced", received=path.name, hint=(
            "./run, which installs what reads lettering" if absent else "a larger scan"))  # fmt: skip
    return read.lines


def lettering_command(picture: Path, found: SheetPage, unit: LengthUnit) -> list[str]:
    """What reads the lettering of the picture that ``command`` wrote."""
    width = f"{found.width:.6g}" if found.sized else "0"
    return [sys.executable, "-m", "lathed_solid.sheets.pictures.worker", str(picture), width, unit]


def lettered(page: SheetPage, text: str) -> SheetPage:
    """The page with what the reader of its lettering answered. Raises SheetError."""
    told = _object(text)
    return replace(page_of(json.dumps(told | {"pages": page.pages})), lettering="read", corners=page.corners)


def answer(command: list[str], path: Path, seconds: float = 60.0) -> str:
    """What a reading process says of a file. Raises SheetError when it fails, or takes too long."""
    try:
        done = subprocess.run(command, capture_output=True, text=True, timeout=seconds, check=False)
    except subprocess.TimeoutExpired:
        raise SheetError(f"the sheet took more than {seconds:g} s to read", received=path.name) from None
    if done.returncode != 0:
        words = (done.stderr.strip().splitlines() or ["the reader ended"])[-1]
        raise SheetError("the sheet could not be read", rule=words[:200], received=path.name)
    return done.stdout


def levels(out: Path) -> list[Path]:
    """The pictures that were written for ``out``: full size, half, quarter ..."""
    found = [out]
    while (smaller := out.with_suffix(f".{len(found)}{out.suffix}")).exists():
        found.append(smaller)
    return found


def page_of(text: str) -> SheetPage:
    """The page in the worker's answer. Raises SheetError when it is none."""
    try:
        found = _object(text)
        offers = tuple(
            NoteCandidate(
                str(n["text"]), _box(n["box"]), int(n["angle"]), str(n["plain"]), _span(n.get("span")),
                _sure(n.get("sure")), str(n.get("why", "")), None if n.get("drawn") is None else float(n["drawn"]),
            )
            for n in found["offers"]
        )  # fmt: skip
        lay, turned = found.get("corners"), found.get("axes")
        scale = None if found.get("scale") is None else float(found["scale"])
        left = tuple(LeftText(str(t["text"]), str(t["why"]), _box(t["box"])) for t in found.get("left", ()))
        pages, width, height = int(found["pages"]), float(found["width_mm"]), float(found["height_mm"])
        lettering: Lettering = next((k for k in get_args(Lettering) if k == found.get("lettering")), "")
        return SheetPage(
            pages, width, height, offers, int(found["texts"]), scale, left, title(found.get("title")), lettering,
            bool(found.get("sized", True)), None if lay is None else checked_corners([(x, y) for x, y in lay]),
            None if turned is None else (float(turned[0]), float(turned[1]), float(turned[2])),
            linework_of(found["lines"]) if "lines" in found else None,
        )  # fmt: skip
    except (ValueError, KeyError, TypeError) as exc:
        raise SheetError("the sheet could not be read", rule=str(exc)) from None


def _object(text: str) -> dict[str, Any]:
    try:
        found = json.loads(text)
    except ValueError as exc:
        raise SheetError("the sheet could not be read", rule=str(exc)) from None
    if not isinstance(found, dict):
        raise SheetError("the sheet could not be read", rule="no answer")
    return found


def ratio(scale: float) -> str:
    """A scale, page per part, as a drawing says it: ``1:2``."""
    return f"{scale:.4g}:1" if scale >= 1 else f"1:{1 / scale:.4g}"


def on_page(box: Box, width: float, height: float) -> Box:
    """A place in shares of a page of ``width`` x ``height`` mm, as (left, low, right, high) in mm, y up."""
    left, top, right, bottom = box
    return left * width, (1 - bottom) * height, right * width, (1 - top) * height


def _box(told: Any) -> Box:
    left, top, right, bottom = (float(v) for v in told)
    return left, top, right, bottom


def _sure(told: Any) -> Sure:
    return "contradicted" if told == "contradicted" else "doubtful" if told == "doubtful" else "sure"


def _span(told: Any) -> Span | None:
    """``["x", 12.5, 40]`` as a span; its places are named after where they are drawn."""
    if told is None:
        return None
    along, start, end = told
    if float(start) == float(end):
        return None
    return Span(along=str(along), start=f"{along} {float(start):g}", end=f"{along} {float(end):g}")
