"""Kinds of tokens and items that belong together."""

from __future__ import annotations

SIGNS = {"diameter": "dia", "spherical": "dia", "radius": "radius", "spherical_radius": "radius", "square": "square",
         "hexagon": "hexagon", "flats": "hexagon"}  # fmt: skip
THREADS = ("metric", "unified", "pipe", "trapezoidal")
OPERATIONS = ("drill", "ream", "bore", "tap", "turn")
