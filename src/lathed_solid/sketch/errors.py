"""Errors of sketches."""

from __future__ import annotations

from lathed_solid.errors import LathedError


class SketchError(LathedError, ValueError):
    """An edit, a constraint or a figure that a sketch cannot take; names the entity or the constraint."""
