"""Lines of a journal: each carries the length and the CRC-32 of its record, and ends in one line feed.

``cccccccc n {json}``: the record is JSON in ASCII alone, so that no character of a name can be taken for the end of a
line, and a name that is not UTF-8 comes back as it was. A line that was cut short, or of which a bit was turned, is
known as such and costs no other.
"""

from __future__ import annotations

import json
import re
import zlib
from collections.abc import Iterator
from typing import Any

_HEAD = re.compile(rb"([0-9a-f]{8}) ([0-9]{1,10}) (?=\{)")
_LINE = re.compile(rb"([0-9a-f]{8}) ([0-9]{1,10}) (\{.*\})", re.DOTALL)


def line_of(record: dict[str, Any]) -> bytes:
    """A record as a line."""
    text = json.dumps(record, ensure_ascii=True, separators=(",", ":"), allow_nan=False).encode("ascii")
    return b"%08x %d %b\n" % (zlib.crc32(text), len(text), text)


def records_in(data: bytes) -> Iterator[tuple[dict[str, Any] | None, int]]:
    """The records of a journal's bytes in order, with their lengths; None for each line that is damaged."""
    for line in data.split(b"\n"):
        if not line:
            continue
        record = _record(line)
        if record is None:  # it may be two whose line feed was turned into something else
            yield from _within(line)
        yield record, len(line)


def _within(line: bytes) -> Iterator[tuple[dict[str, Any], int]]:
    """Whole records within a damaged line, found by their heads and lengths."""
    at = 0
    while (head := _HEAD.search(line, at)) is not None:
        end = head.end() + int(head[2])
        record = _record(line[head.start() : end])
        if record is not None:
            yield record, end - head.start()
        at = head.end() if record is None else end


def _record(line: bytes) -> dict[str, Any] | None:
    found = _LINE.fullmatch(line)
    if found is None or len(found[3]) != int(found[2]) or zlib.crc32(found[3]) != int(found[1], 16):
        return None
    try:
        record = json.loads(found[3])
    except (ValueError, RecursionError):
        return None
    return record if isinstance(record, dict) else None
