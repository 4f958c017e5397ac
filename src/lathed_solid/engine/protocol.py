"""Messages between the window's process and the worker: a JSON header, and shapes as bytes behind it.

No pickle: a frame is the header's length (8 hex digits), the header as JSON, then the blob.
"""

from __future__ import annotations

import json
from multiprocessing.connection import Connection
from typing import Any

MAX_FRAME = 1 << 30


def send(connection: Connection, header: dict[str, Any], blob: bytes = b"") -> None:
    """Write one frame. Raises OSError when the other side is gone."""
    text = json.dumps(header).encode()
    connection.send_bytes(b"%08x" % len(text) + text + blob)


def receive(connection: Connection) -> tuple[dict[str, Any], bytes]:
    """Read one frame. Raises EOFError when the other side is gone, ValueError for a malformed frame."""
    frame = connection.recv_bytes(MAX_FRAME)
    length = int(frame[:8], 16)
    header = json.loads(frame[8 : 8 + length])
    return header, frame[8 + length :]
