"""The worker process: does what it is asked, one request at a time.

Born by ``nursery``. It ends when its pipe closes, and is told by the system to end when its parent dies. It holds the
cache of bodies.
"""

from __future__ import annotations

import os
from collections import deque
from multiprocessing.connection import Connection

from lathed_solid.engine import protocol
from lathed_solid.engine.handlers import HANDLERS, Engine
from lathed_solid.engine.protocol import Request
from lathed_solid.engine.telling import GivenUp, PipeTelling
from lathed_solid.errors import LathedError


def main(pipe: int) -> int:
    """Serve requests on an inherited file descriptor until it closes."""
    connection = Connection(pipe)
    engine = Engine()
    waiting: deque[Request] = deque()
    protocol.send(connection, protocol.Ready(pid=os.getpid()))
    while True:
        try:
            request = waiting.popleft() if waiting else protocol.receive_request(connection)
        except protocol.Malformed as exc:
            protocol.send(connection, protocol.Failed(request=exc.request, message=exc.message))
            continue
        except (EOFError, OSError):
            return 0
        try:
            serve(connection, engine, request, waiting)
        except (BrokenPipeError, ConnectionResetError):
            return 0


def serve(connection: Connection, engine: Engine, request: Request, others: deque[Request]) -> None:
    """Do what is asked and answer; a failure is an answer too. ``others`` takes requests that come meanwhile. Raises
    OSError when nobody is there to answer.
    """
    telling = PipeTelling(connection, request.request, others)
    try:
        answer = HANDLERS[type(request)](engine, request, telling)
    except GivenUp:
        answer = protocol.Dropped()
    except EOFError:
        raise ConnectionResetError from None
    except LathedError as exc:
        answer = protocol.Failed(message=exc.message)
    except (BrokenPipeError, ConnectionResetError):
        raise
    except Exception as exc:  # noqa: BLE001 - a request must never end the worker
        answer = protocol.Failed(message=f"the kernel failed: {type(exc).__name__}: {exc}")
    protocol.send(connection, answer.model_copy(update={"request": request.request}))
