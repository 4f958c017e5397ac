"""What a handler tells while it is at work, and whether its work is still wanted.

The window asks one thing at a time: what comes through the pipe while a request is being worked at can only be that it
is to be given up. It is looked for between steps and between callouts, so that what was built up to there stays in the
engine's cache.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from multiprocessing.connection import Connection

from lathed_solid.engine import protocol


class GivenUp(Exception):
    """The work is not wanted any more."""


class Telling:
    """Of one request; this one tells nobody, and its work is always wanted. ``pictured`` keeps the picture."""

    def __init__(self) -> None:
        self.pictured: protocol.Pictured | None = None

    def __call__(self, number: int, row: int, total: int) -> None:
        """Step ``number`` is begun, row ``row`` of ``total``. Raises GivenUp."""

    def picture(self, pictured: protocol.Pictured) -> None:
        """The solid can be shown. Raises GivenUp."""
        self.pictured = pictured

    def check(self) -> None:
        """Raises GivenUp."""


class PipeTelling(Telling):
    """Through the worker's pipe; ``others`` takes requests that were not about this one."""

    def __init__(self, connection: Connection, request: int, others: deque[protocol.Request]) -> None:
        super().__init__()
        self._connection, self._request, self._others = connection, request, others

    def __call__(self, number: int, row: int, total: int) -> None:
        self.check()
        progress = protocol.Progress(request=self._request, number=number, row=row, total=total)
        protocol.send(self._connection, progress)

    def picture(self, pictured: protocol.Pictured) -> None:
        self.check()
        protocol.send(self._connection, pictured.model_copy(update={"request": self._request}))

    def check(self) -> None:
        while self._connection.poll(0):
            request = protocol.receive_request(self._connection)
            if not isinstance(request, protocol.Drop):
                self._others.append(request)
            elif request.request == self._request:
                raise GivenUp


#: what looks whether the work is still wanted, and raises GivenUp
Check = Callable[[], None]
