"""The window's side of reading a sheet: the command that reads a page, and what came of it."""

from __future__ import annotations

import json
import re
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Span
from lathed_solid.quantity import LengthUnit

DPI = 150.0
#: longer texts are no dimensions
LONGEST = 160
#: what may be followed by a unit of its own
BARE = re.compile(r"[⌀R□]?\s*\d*[.,]?\d+|\d*[.,]?\d+°")

Box = tuple[float, float, float, float]


class SheetError(LathedError, ValueError):
    """A sheet that cannot be read."""


@dataclass(frozen=True, slots=True)
class Offer:
    """A text that reads as a note: ``box`` (left, top, right, bottom) in fractions of the page; its plain meaning.

    ``span``: for a dimension that tells by its definition points between which places it runs.
    """

    text: str
    box: Box
    angle: int
    plain: str
    span: Span | None = None


@dataclass(frozen=True)
class SheetPage:
    """A page as read: how many there are, its size in mm, and the notes that are offered as callouts."""

    pages: int
    width: float
    height: float
    offers: tuple[Offer, ...]
    texts: int


def command(path: Path, page: int, out: Path, dpi: float = DPI) -> list[str]:
    """What reads page ``page`` (from 1) of a file and writes its picture to ``out``."""
    return [sys.executable, "-m", "lathed_solid.sheets.worker", str(path), str(page), f"{dpi:g}", str(out)]


def page_of(text: str, unit: LengthUnit) -> SheetPage:
    """The page in the worker's answer. Raises SheetError when it is none."""
    try:
        found = json.loads(text)
        notes = [
            (str(n["text"]), tuple(float(v) for v in n["box"]), int(n["angle"]), _span(n.get("span")))
            for n in found["notes"]
        ]
        drawn = str(found.get("unit", unit))
        pages, width, height = int(found["pages"]), float(found["width_mm"]), float(found["height_mm"])
    except (ValueError, KeyError, TypeError) as exc:
        raise SheetError("the sheet could not be read", rule=str(exc)) from None
    # a drawing in the other unit: a bare size says its own
    named = "" if drawn == unit else f" {drawn}"
    read = (_offer(text, box, angle, span, unit, named) for text, box, angle, span in notes if len(box) == 4)
    offers = tuple(o for o in read if o is not None)
    return SheetPage(pages, width, height, offers, len(notes))


def _span(told: Any) -> Span | None:
    """``["x", 12.5, 40]`` as a span; its places are named after where they are drawn."""
    if told is None:
        return None
    along, start, end = told
    if float(start) == float(end):
        return None
    return Span(along=str(along), start=f"{along} {float(start):g}", end=f"{along} {float(end):g}")


def _offer(
    text: str, box: tuple[float, ...], angle: int, span: Span | None, unit: LengthUnit, named: str = ""
) -> Offer | None:
    """A text as a callout, when all of it reads as a note."""
    from lathed_solid.notation import NoteError, read_note

    if named and not BARE.fullmatch(text):
        return None
    text += named if not text.endswith("°") else ""
    if len(text) > LONGEST or not any(c.isdigit() for c in text):
        return None
    try:
        meaning = read_note(text, unit)
    except NoteError:
        return None
    if meaning.unread or not meaning.clauses:
        return None
    return Offer(text, (box[0], box[1], box[2], box[3]), angle, meaning.plain, span)
