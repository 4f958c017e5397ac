"""The process that reads a picture's lettering: ``python -m lathed_solid.sheets.pictures.worker PICTURE WIDTH UNIT``.

PICTURE is a straight sheet as the sheet's reader wrote it, WIDTH what it measures in mm (0: not known). It prints the
offers, texts left, title and scale as the sheet's reader does, with how sure each reading is, and the lines traced.
Limits are wider, for the networks take their time; errors are one line on stderr.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace
from pathlib import Path
from statistics import median
from typing import Any

import cv2
import numpy as np

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_POINT as MM
from lathed_solid.sheets.dimension_lines import Slack
from lathed_solid.sheets.judged_offers import is_length, judged
from lathed_solid.sheets.line_worker import told_lines
from lathed_solid.sheets.note_candidates import offers
from lathed_solid.sheets.pictorial import Axes
from lathed_solid.sheets.pictures.flat import USUAL, Flat, taken_apart
from lathed_solid.sheets.pictures.lettering import Seen
from lathed_solid.sheets.pictures.linework import lines_in
from lathed_solid.sheets.pictures.misread import line_put_right, note_put_right, says_nothing, with_points
from lathed_solid.sheets.pictures.planes import HIGH, agreed, axes_seen, in_planes
from lathed_solid.sheets.pictures.ruled import Segment
from lathed_solid.sheets.texts import Text, TextLine, sorted_lines
from lathed_solid.sheets.title_words import page_title
from lathed_solid.sheets.worker import answered

#: as much as a drawn length may be off on a scan, and on a photograph, mm, and share
SCAN = Slack(close=0.3, share=0.003, same=0.7, together=0.3, beside=3.2)
PHOTOGRAPH = replace(SCAN, close=0.45, share=0.004)
#: the box of lettering of 3.5 mm (ISO 3098) is so high, mm
USUAL_LETTER = 4.4
#: so many digits has a number that has lost its point
LONG = 3
#: slanted lettering is taken to be at least this share as high as the picture's usually is
LOW = 0.6
#: lettering so high, in pixels, is easily misread
SMALL = 18.0
#: what judging an offer says of it
JUDGED = ("sure", "why", "drawn", "span", "cost")
#: lettering is no smaller than this share of what is usual on its sheet
LEAST = 0.6
#: a reading is sure from here on
SURE = 0.93
#: a line that costs more is not clearly a number's own (a sign before it may be lost)
OWN = 0.75
#: and where its own line confirms it from here on
CONFIRMED = 0.8
#: the size of lettering in the height of its box
EM = 0.86
#: lines of lettering that differ by less than this share are of one size
ONE_SIZE = 0.18
#: marks of the zones stand no farther from the edge, share of the page
BORDER = 0.03
CPU_S, MEMORY = 240, 6 << 30
#: what a rule of a table may fall short of another, mm
SHORT = 1.0
#: a picture of more pixels is none of ours
MOST_PIXELS = 40_000_000


def main(args: list[str]) -> int:
    """The exit code; what was found goes to standard output."""
    path, width, unit = Path(args[0]), float(args[1]), args[2]
    return answered(lambda: read_picture(path, width, "in" if unit == "in" else "mm"), CPU_S, MEMORY)


def read_picture(path: Path, width: float, unit: LengthUnit) -> dict[str, Any]:
    """What is found on a straight sheet."""
    light = cv2.imdecode(np.frombuffer(path.read_bytes(), np.uint8), cv2.IMREAD_GRAYSCALE)
    if light is None or light.size > MOST_PIXELS:
        raise ValueError("the picture cannot be taken in")
    rows, columns = light.shape
    known = width > 0
    mm = (width / columns) if known else USUAL / max(rows, columns)
    slack = SCAN if known else PHOTOGRAPH
    flat = taken_apart(light, mm)
    found = _judged(flat, unit, slack)
    said = found["title"].get("scale")
    pictorial = axes_seen(light)
    if pictorial is not None:
        found |= _in_planes(light, *pictorial, found["offers"], mm, unit)
    elif not known and said and found["scale"]:
        # the title block's scale tells how large the sheet is
        flat = flat.enlarged(said / found["scale"])
        found, known = _judged(flat, unit, slack), True
    across, tall = flat.size
    found["offers"] = [_doubted(o) for o in found["offers"]]
    if pictorial is None:
        found["offers"] = _small_doubted(found["offers"], across, tall)
    found |= {"width_mm": across, "height_mm": tall, "sized": known}
    with suppress(ValueError):  # grain has too many lines to be traced; its lettering is told all the same
        words = [s.box for s in flat.seen if len(s.text.strip()) > 1]
        lines = told_lines(across, tall, [(k.run(), k.wide, k.dashed) for k in lines_in(light, flat.mm, words)])
        found["lines"] = lines | {"traced": True}
    return found


def _in_planes(
    light: Any, axes: Axes, along: Any, flat: list[dict[str, Any]], mm: float, unit: LengthUnit
) -> dict[str, Any]:
    """The offers of a pictorial view, those of its ``flat`` lettering among them, and its scale."""

    def reads(laid: Any) -> tuple[list[dict[str, Any]], Any]:
        apart = taken_apart(laid, USUAL_LETTER / HIGH)
        rows, mm = laid.shape[0], apart.mm
        ends = [([(x / mm, rows - y / mm) for x, y in pair], wide, dashed) for pair, wide, dashed in apart.strokes]
        return _judged(apart, unit, PHOTOGRAPH)["offers"], ends

    planes = in_planes(light, axes, along, reads)
    offers = agreed([*flat, *planes.offers], light.shape)
    # by their lettering, whatever size the sheet has: so lines are near a number, or far
    rows, columns = light.shape
    own = USUAL_LETTER / planes.high
    strokes = [([(x * own, (rows - y) * own) for x, y in pair], wide, dashed) for pair, wide, dashed in planes.strokes]
    bare = [{k: v for k, v in o.items() if k not in JUDGED} for o in offers]
    # what a plane alone said of a number is not kept: with several points lost it agrees on a tenth of the scale
    slack = replace(PHOTOGRAPH, letter=LOW * USUAL_LETTER)
    offers, scale = judged(bare, strokes, columns * own, rows * own, unit, slack, axes=axes)
    # a single figure that no line bears out is a piece of slanted lettering
    offers = [o for o in offers if o.get("span") or len(o["text"]) > 1]
    scale = None if scale is None else scale * mm / own
    small = planes.high < SMALL
    lost = small and _points_may_be_lost([o["text"] for o in offers if is_length(o["text"], unit)])
    offers = [_borne_out(o, unit, small=small, lost=lost) for o in offers]
    return {"offers": offers, "scale": scale, "axes": list(axes.degrees)}


def _points_may_be_lost(lengths: Sequence[str]) -> bool:
    """Whether whole numbers of a view may stand for others with a point, which small lettering loses: some have one, or
    most are as long as such numbers without it.
    """
    bare = [t for t in lengths if t.isdecimal()]
    return len(bare) < len(lengths) or 2 * sum(len(t) >= LONG for t in bare) >= len(bare)


def _borne_out(offer: dict[str, Any], unit: LengthUnit, *, small: bool, lost: bool = False) -> dict[str, Any]:
    """A length whose line was not found may have lost a point; where lettering is ``small``, whatever is read. Where
    points may be ``lost``, a whole number is asked though its line bears it out: when all of a view have lost theirs,
    they agree on a scale.
    """
    if offer["sure"] != "sure":
        return offer
    length = is_length(offer["text"], unit)
    if not offer.get("span") and (small or length):
        return {**offer, "put": [*offer["put"], "no dimension line bears it out"]}
    if lost and length and offer["text"].isdecimal():
        return {**offer, "put": [*offer["put"], "a point is easily lost in lettering so small"]}
    return offer


def _judged(flat: Flat, unit: LengthUnit, slack: Slack) -> dict[str, Any]:
    rows, mm, size, strokes = flat.marks.shape[0], flat.mm, flat.size, flat.strokes
    width, height = size
    put = [line_put_right(s.text) for s in flat.seen]
    lines = _lines([replace(s, text=t) for s, (t, _) in zip(flat.seen, put, strict=True)], rows, mm)
    said = {id(line): (s, words) for line, s, (_, words) in zip(lines, flat.seen, put, strict=True)}
    texts, furniture = sorted_lines(lines, _rules(flat.drawn), width / MM, height / MM)
    texts = [t for t in texts if not _in_border(t, width / MM, height / MM)]
    notes = [_note(t, lines, said, width, height, unit) for t in texts if not says_nothing(t.text)]
    title = page_title(furniture, [n["text"] for n in notes], unit)
    taken, left = offers(notes, unit, title.get("unit", unit))
    taken, scale = judged(taken, strokes, width, height, unit, slack)
    taken = _points_put_in(taken, strokes, size, unit, slack)
    taken, scale = judged(taken, strokes, width, height, unit, slack)
    return {"offers": taken, "left": left, "texts": len(notes), "title": title, "scale": scale}


def _across(box: Sequence[float], angle: float) -> float:
    """How high lettering is in its box, across its writing."""
    return box[2] - box[0] if angle else box[3] - box[1]


def _lines(seen: Sequence[Seen], rows: int, mm: float) -> list[TextLine]:
    """As lines of text, in points from the bottom left; sizes that are nearly one are one."""
    tall = [EM * _across(s.box, s.angle) * mm / MM for s in seen]
    out = []
    for s, size in zip(seen, tall, strict=True):
        left, top, right, bottom = (v * mm / MM for v in s.box)
        low, high = rows * mm / MM - bottom, rows * mm / MM - top
        em = median(t for t in tall if abs(t - size) < ONE_SIZE * size)
        if s.angle:
            middle = (left + right) / 2
            out.append(TextLine(s.text, 90, em, low, -middle - 0.275 * em, high))
        else:
            out.append(TextLine(s.text, 0, em, left, (low + high) / 2 - 0.275 * em, right))
    return out


def _rules(segments: Sequence[Segment]) -> list[tuple[float, float, float, float]]:
    """The strokes as rules in points; one that ends near another ends on it."""
    level = np.array([(a[1], a[0], b[0]) for a, b, _, _ in segments if b[0] - a[0] > b[1] - a[1]]).reshape(-1, 3) / MM
    upright = (
        np.array([(a[0], a[1], b[1]) for a, b, _, _ in segments if b[0] - a[0] <= b[1] - a[1]]).reshape(-1, 3) / MM
    )
    own = [(at, _snapped(a, at, upright), _snapped(b, at, upright)) for at, a, b in level]
    up = [(at, _snapped(a, at, level), _snapped(b, at, level)) for at, a, b in upright]
    return [(a, at, b, at) for at, a, b in own] + [(at, a, at, b) for at, a, b in up]


def _snapped(end: float, at: float, across: Any) -> float:
    """The end of a stroke at the level ``at``: on the nearest stroke across that it reaches or falls short of."""
    short = SHORT / MM
    near = across[(np.abs(across[:, 0] - end) < short) & (across[:, 1] - short <= at) & (at <= across[:, 2] + short)]
    return float(near[np.abs(near[:, 0] - end).argmin(), 0] if len(near) else end)


def _note(
    t: Text, lines: Sequence[TextLine], said: dict[int, tuple[Seen, tuple[str, ...]]], width: float, height: float,
    unit: LengthUnit,
) -> dict[str, Any]:  # fmt: skip
    """A note with its place in shares of the page, how sure the least sure of its lines is, and what was put right."""
    left, low, right, high = (v * MM for v in t.box)
    own = [said[id(k)] for k in lines if k.angle == t.angle and _within(k, t)]
    text, words = note_put_right(t.text, unit)
    return {
        "text": text, "angle": t.angle, "box": [left / width, 1 - high / height, right / width, 1 - low / height],
        "seen": min((s.sure for s, _ in own), default=0.0), "put": [*(w for _, ws in own for w in ws), *words],
    }  # fmt: skip


def _in_border(t: Text, width: float, height: float) -> bool:
    """One or two letters beside the edge are marks of the border's zones, though one of them is misread."""
    x, y = (t.box[0] + t.box[2]) / 2 / width, (t.box[1] + t.box[3]) / 2 / height
    return len(t.text.strip()) <= 2 and min(x, 1 - x, y, 1 - y) < BORDER


def _within(line: TextLine, t: Text) -> bool:
    along, across = (line.u + line.end) / 2, line.v + 0.275 * line.size
    x, y = (along, across) if line.angle == 0 else (-across, along)
    return t.box[0] <= x <= t.box[2] and t.box[1] <= y <= t.box[3]


def _points_put_in(
    taken: list[dict[str, Any]], strokes: Any, size: tuple[float, float], unit: LengthUnit, slack: Slack
) -> Any:
    """Numbers that their lines contradict, or that have no line, with the point that they may have lost."""
    for place in range(4):
        trial = list(taken)
        for i, o in enumerate(taken):
            with_point = with_points(o["text"])
            if o["sure"] != "sure" and place < len(with_point):
                trial[i] = {**{k: o[k] for k in ("angle", "box", "seen", "put")}, "text": with_point[place]}
        tried = [i for i, o in enumerate(trial) if o is not taken[i]]
        if not tried:
            break
        again, _ = judged(trial, strokes, *size, unit, slack)
        read, _ = offers([{**again[i]} for i in tried], unit, unit)
        for i, o in zip(tried, read, strict=True):
            if o["sure"] == "sure" and o.get("span"):
                was = taken[i]["text"]
                taken[i] = {**o, "put": [*o["put"], f"read as {was}, drawn {o['text']}: a point is lost"], "seen": 0.0}
    return taken


def _doubted(offer: dict[str, Any]) -> dict[str, Any]:
    """With how sure it is to say what stands there: its own line may confirm a number; what was put in is told."""
    seen, put, cost = offer.pop("seen"), offer.pop("put"), offer.pop("cost", 0.0)
    if offer["sure"] != "sure":
        return offer
    confirmed = offer.get("span") is not None and not put and seen >= CONFIRMED
    if put:
        return {**offer, "sure": "doubtful", "why": "; ".join(dict.fromkeys(put))}
    if cost > OWN:
        return {**offer, "sure": "doubtful", "why": "a line of its length is near, but not clearly its own"}
    if seen < SURE and not confirmed:
        return {**offer, "sure": "doubtful", "why": f"the lettering was read at {seen:.0%}"}
    return offer


def _small_doubted(found: list[dict[str, Any]], across: float, tall: float) -> list[dict[str, Any]]:
    """Marks are taken for digits, two arrowheads for 11: what is much smaller than the rest is not sure."""
    high = [_across(o["box"], o["angle"]) * (across if o["angle"] else tall) for o in found]
    least = LEAST * median(high) if high else 0.0
    return [
        {**o, "sure": "doubtful", "why": "much smaller than the rest of the lettering"}
        if o["sure"] == "sure" and h < least
        else o
        for o, h in zip(found, high, strict=True)
    ]


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
