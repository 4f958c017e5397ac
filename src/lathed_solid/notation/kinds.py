"""Kinds of tokens and items that belong together."""

from __future__ import annotations

SIGNS = {"diameter": "dia", "spherical": "dia", "radius": "radius", "spherical_radius": "radius", "square": "square",
         "hexagon": "hexagon", "flats": "hexagon"}  # fmt: skip
THREADS = ("metric", "unified", "pipe", "trapezoidal", "whitworth")
OPERATIONS = ("drill", "ream", "bore", "tap", "turn")
#: items that are a size
SIZED = ("dia", "radius", "square", "hexagon", "plain", "depth", "wide", "long", "thick", "apart", "angle",
         "chamfer_c")  # fmt: skip
#: the items that tokens of several spellings become
ITEM_KINDS = {
    "newline": "sep", "separator": "sep", "through_all": "through", "pitch_class": "class", "counted": "holes",
    **dict.fromkeys(
        ("plus", "plus_minus", "inch", "unit", "fit", "fit_pair", "open", "shut", "bracket", "unbracket", "minutes",
         "slip"),
        "unread",
    ),
}  # fmt: skip
