"""JSON from files: what could be dear to read is counted first, and what no document holds is refused.

A list of ten million empty objects is a small file once packed, and gigabytes once read; brackets and commas tell how
many values there are before any is made (RFC 8259, 2).
"""

from __future__ import annotations

import json
import math
from typing import Any

#: values in one document: some fifty times the largest that the desk was tried with
MAX_VALUES = 2_000_000
MAX_DEPTH = 60


def read_json(text: bytes) -> Any:
    """The value that ``text`` holds. Raises ValueError for what is not JSON in UTF-8, holds NaN or a number beyond
    range, half a surrogate pair, or is nested or filled beyond measure.
    """
    if text.count(b",") + text.count(b"{") + text.count(b"[") > MAX_VALUES:
        raise ValueError(f"it holds more than {MAX_VALUES} values")
    try:
        found = json.loads(text.decode("utf-8"), parse_constant=_refused, parse_float=_float, parse_int=_int)
    except RecursionError:
        raise ValueError(f"it is nested more than {MAX_DEPTH} deep") from None
    _check_depth(found)
    if b"\\u" in text:
        _check_surrogates(found)
    return found


def _refused(name: str) -> Any:
    raise ValueError(f"{name} is not a number")


def _float(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text[:20]} is beyond the range of numbers")
    return value


def _int(text: str) -> int:
    if len(text) > 18:
        raise ValueError(f"{text[:20]}… is beyond the range of whole numbers")
    return int(text)


def _check_depth(value: Any) -> None:
    """Level by level, so that depth costs no stack. Raises ValueError."""
    level, depth = [value], 0
    while level:
        depth += 1
        if depth > MAX_DEPTH:
            raise ValueError(f"it is nested more than {MAX_DEPTH} deep")
        below: list[Any] = []
        for item in level:
            if isinstance(item, dict):
                below.extend(v for v in item.values() if isinstance(v, (dict, list)))
            elif isinstance(item, list):
                below.extend(v for v in item if isinstance(v, (dict, list)))
        level = below


def _check_surrogates(value: Any) -> None:
    """Raises ValueError (UnicodeEncodeError) where a text holds half a pair."""
    stack = [value]
    while stack:
        item = stack.pop()
        if isinstance(item, str):
            item.encode("utf-8")
        elif isinstance(item, dict):
            stack.extend(item.keys())
            stack.extend(item.values())
        elif isinstance(item, list):
            stack.extend(item)
