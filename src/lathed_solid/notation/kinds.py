"""Kinds of tokens and items that belong together."""

from __future__ import annotations

SIGNS = {"diameter": "dia", "spherical": "dia", "radius": "radius", "spherical_radius": "radius", "square": "square",
         "hexagon": "hexagon", "flats": "hexagon"}  # fmt: skip
THREADS = ("metric", "unified", "pipe", "trapezoidal", "whitworth")
OPERATIONS = ("drill", "ream", "bore", "tap", "turn")
#: items that are a size
SIZED = ("dia", "radius", "square", "hexagon", "plain", "depth", "wide", "long", "thick", "apart", "angle",
         "chamfer_c")  # fmt: skip
