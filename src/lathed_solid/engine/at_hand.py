"""The engine of this process, for scripts: one, made when it is first wanted."""

from __future__ import annotations

from functools import cache

from lathed_solid.engine.rebuild import Engine


@cache
def engine() -> Engine:
    """Always the same."""
    return Engine()
