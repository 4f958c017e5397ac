"""Starts processes from one thread that lives as long as this process does.

A process that has asked to end with its parent ends with the *thread* that started it (prctl(2), PR_SET_PDEATHSIG),
and the threads that do a window's work beside it come and go.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import TypeVar

T = TypeVar("T")


@cache
def _thread() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(1, "starter")


def started(start: Callable[[], T]) -> T:
    """What ``start`` returns, called in that thread. Raises what it raises; OSError when this process is ending."""
    try:
        begun = _thread().submit(start)
    except RuntimeError as exc:
        raise OSError(0, str(exc)) from None
    return begun.result()
