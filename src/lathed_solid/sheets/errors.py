"""What goes wrong with sheets."""

from __future__ import annotations

from lathed_solid.errors import LathedError


class SheetError(LathedError, ValueError):
    """A sheet that cannot be read."""
