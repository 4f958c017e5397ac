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
#: words that say what the number before (or behind) them is
ROLES = {"depth": "depth", "wide": "wide", "long": "long", "thick": "thick", "apart": "apart",
         "from": "apart"}  # fmt: skip
MARKS = ("max", "min", "ref", "basic", "typ", "nominal")
#: what may stand in brackets by itself
BRACKETED = (*MARKS, "through_all", "hand", "side", "equally", "purpose", "outside", "clearance", "texture", "fit")
#: what has no class of ISO 286
UNCLASSED = ("radius", "angle", "chamfer_c")
#: what may stand behind the words of a hole and still is of its size: 12 REAM H7, 12 REAM +0.018/0
LATE = ("fit", "fit_pair", "plus", "plus_minus")
