"""What the drawing's own lengths say of the notes found on it: sure, doubtful or contradicted, with why. Worker only.

A note that is one length or one diameter is measured against its dimension line (``dimension_lines``), or against what
a DXF dimension measures itself. A size whose line was found gets its span: places of the drawing in the part's unit,
so that stops of several dimensions on one edge bear one name. What lies apart on the sheet is another view's and runs
along a direction of its own: ``y``, then ``y2``; each counts from its lowest stop.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, callouts_from_note
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.sheets.client import on_page, ratio
from lathed_solid.sheets.detail_titles import DetailTitle, told_scale
from lathed_solid.sheets.dimension_lines import EXACT as EXACTLY
from lathed_solid.sheets.dimension_lines import Followed, Number, Slack, Stroke, follow
from lathed_solid.sheets.pictorial import NAMES, Axes, follow_pictorial

#: notes of one size that a dimension line may stand for; those that have one for certain
LINEAR, CERTAIN = ("length", "diameter", "hole diameter", "square"), ("length", "square")
#: stops on one edge are no farther apart, mm on the page
SAME = 0.35
#: definition points of a DXF that are one, in its unit
SLACK = 1e-3
#: a DXF dimension's number is what it measures within this, mm, beside its rounding
EXACT = 1e-3


def judged(
    offers: Sequence[dict[str, Any]],
    strokes: Sequence[Stroke],
    width: float,
    height: float,
    unit: LengthUnit,
    slack: Slack = EXACTLY,
    titles: Sequence[DetailTitle] = (),
    axes: Axes | None = None,
) -> tuple[list[dict[str, Any]], float | None]:
    """The offers of a page of ``width`` x ``height`` mm with ``sure``, ``why``, ``drawn`` (mm) and ``span``; and the
    scale of the sheet, page per part. ``titles``: of details, drawn to scales of their own; ``axes`` of a pictorial
    sheet, along which its sizes lie.
    """
    sizes = [_size(o["text"], unit) for o in offers]
    asked = [i for i, s in enumerate(sizes) if s is not None and "measured_mm" not in offers[i]]
    numbers = [_number(offers[i], sizes[i], width, height, titles) for i in asked]  # type: ignore[arg-type]
    lines: list[Followed | None] = [None] * len(numbers)
    scale = None
    if strokes and axes is not None:
        lines, scale = follow_pictorial(strokes, numbers, axes, slack)
    elif strokes:
        lines, scale = follow(strokes, numbers, slack)
    found = dict(zip(asked, lines, strict=True))
    one = MM_PER_INCH if unit == "in" else 1.0
    out = []
    for i, offer in enumerate(offers):
        told = {k: v for k, v in offer.items() if k != "measured_mm"}
        size = sizes[i]
        if size is None:
            out.append({**told, "sure": "sure", "why": ""})
        elif "measured_mm" in offer:
            out.append({**told, **_measured(size, float(offer["measured_mm"]), unit)})
        else:
            out.append({**told, **_followed(size, found[i], scale, one, unit)})
    same = max(SAME, slack.close) / one / (scale or 1.0)
    return _by_view(out, same if strokes else SLACK), scale


def _size(text: str, unit: LengthUnit) -> Callout | None:
    try:
        callouts = callouts_from_note(text, 1, unit)
    except LathedError:
        return None
    return callouts[0] if len(callouts) == 1 and callouts[0].role in LINEAR else None


def is_length(text: str, unit: LengthUnit) -> bool:
    """Whether a note is a size that has a dimension line."""
    size = _size(text, unit)
    return size is not None and size.role in CERTAIN


def _rounding(size: Callout) -> float:
    """Half of the last place that the number is written to, mm; a fraction is exact."""
    if size.decimals is None:
        return 0.0
    return 0.5 * 10.0**-size.decimals * (MM_PER_INCH if size.unit == "in" else 1.0)


def _number(offer: dict[str, Any], size: Callout, width: float, height: float, titles: Sequence[DetailTitle]) -> Number:
    box = on_page(offer["box"], width, height)
    return Number(box, int(offer["angle"]), size.nominal, _rounding(size), told_scale(box, titles))


def _measured(size: Callout, measured: float, unit: LengthUnit) -> dict[str, Any]:
    if abs(size.nominal - measured) <= _rounding(size) + EXACT:
        return {"sure": "sure", "why": "", "drawn": measured}
    return {"sure": "contradicted", "why": f"its dimension measures {_said(measured, unit)}", "drawn": measured}


def _followed(
    size: Callout, line: Followed | None, scale: float | None, one: float, unit: LengthUnit
) -> dict[str, Any]:
    if line is None:
        unsure = scale is not None and size.role in CERTAIN
        why = "no dimension line was found for it" if unsure else ""
        return {"sure": "doubtful" if unsure else "sure", "why": why}
    told: dict[str, Any] = {"sure": "sure", "why": "", "drawn": line.drawn, "cost": line.cost}
    if not line.fits:
        why = f"its line is drawn {_said(line.drawn, unit)} long at {ratio(scale or 1.0)}"
        told |= {"sure": "contradicted", "why": why}
    one *= line.scale
    return told | {"span": [line.along, line.start / one, line.end / one, line.scale]}


def _by_view(offers: list[dict[str, Any]], same: float) -> list[dict[str, Any]]:
    """Spans along a direction for each group that overlaps, from its lowest stop; stops within ``same`` as one. What is
    drawn to another scale is another group; those of most numbers first.
    """
    spans = {(o["span"][0], _scale_of(o), o["span"][1], o["span"][2]) for o in offers if o.get("span")}
    many = Counter(_scale_of(o) for o in offers if o.get("span"))
    renamed: dict[tuple[str, float, float, float], list[Any]] = {}
    for along in NAMES:
        groups: list[list[tuple[str, float, float, float]]] = []
        for span in sorted((s for s in spans if s[0] == along), key=lambda s: (-many[s[1]], *s[1:])):
            if groups and span[1] == groups[-1][0][1] and span[2] <= max(s[3] for s in groups[-1]) + same:
                groups[-1].append(span)
            else:
                groups.append([span])
        for n, group in enumerate(groups, 1):
            places = _places(sorted(u for s in group for u in s[2:]), same)
            for s in group:
                renamed[s] = [along if n == 1 else f"{along}{n}", places[s[2]], places[s[3]]]
    return [
        {**o, "span": renamed[o["span"][0], _scale_of(o), o["span"][1], o["span"][2]]} if o.get("span") else o
        for o in offers
    ]


def _scale_of(offer: dict[str, Any]) -> float:
    """To which a span is drawn; a DXF's lies at full size where nothing else is said."""
    return float(offer["span"][3]) if len(offer["span"]) > 3 else 1.0


def _places(stops: Sequence[float], same: float) -> dict[float, float]:
    """Every stop as a place from the lowest one; those no farther apart than ``same`` as one."""
    out: dict[float, float] = {}
    before = stops[0]
    for u in stops:
        out[u] = out[before] if u - before <= same and before in out else round(u - stops[0], 3)
        before = u
    return out


def _said(mm: float, unit: LengthUnit) -> str:
    return f"{mm / MM_PER_INCH:.3f} in" if unit == "in" else f"{mm:.2f} mm"
