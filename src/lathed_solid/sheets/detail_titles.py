"""Titles of details: a letter with a scale of its own, ``B (5:1)``, ``DETAIL B SCALE 5:1``. Numbers near one may stand
for lengths that are drawn to that scale.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from lathed_solid.sheets.client import on_page

TITLE = re.compile(
    r"^(?P<word>detail\s+)?[A-Z]{1,2}\s*[,:]?\s*(?P<open>\()?\s*(?P<scale>scale\s*:?\s*)?"
    r"(?P<up>\d+(?:\.\d+)?)\s*:\s*(?P<down>\d+(?:\.\d+)?)\s*\)?$",
    re.I,
)
#: numbers no farther from a title than this are its detail's, mm of the page
NEAR = 80.0


@dataclass(frozen=True)
class DetailTitle:
    """Where a title stands on the page, mm; its scale, page per part."""

    at: tuple[float, float]
    scale: float


def detail_titles(notes: Iterable[dict[str, Any]], width: float, height: float) -> list[DetailTitle]:
    """Those among the texts of a page of ``width`` x ``height`` mm."""
    out = []
    for note in notes:
        found = TITLE.match(note["text"].strip())
        if found is None or not (found["word"] or found["open"] or found["scale"]):
            continue
        up, down = float(found["up"]), float(found["down"])
        if up > 0 < down and 1e-3 < up / down < 1e3:
            left, low, right, high = on_page(note["box"], width, height)
            out.append(DetailTitle(((left + right) / 2, (low + high) / 2), up / down))
    return out


def told_scale(box: Sequence[float], titles: Iterable[DetailTitle]) -> float | None:
    """What the nearest title within ``NEAR`` of a number's box says; None where there is none."""
    at = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)
    near = [(math.dist(at, t.at), t.scale) for t in titles]
    away, scale = min(near, default=(math.inf, 0.0))
    return scale if away <= NEAR else None
