"""The worker process: does what it is asked, one request at a time.

Started as ``python -m lathed_solid.engine.worker FD``. It ends when its pipe closes, and is told by the
system to end when its parent dies. It holds the cache of bodies.
"""

from __future__ import annotations

import os
import signal
import sys
from collections import deque
from multiprocessing.connection import Connection
from typing import TYPE_CHECKING

from lathed_solid.engine.crew import end_with_parent
from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.engine.protocol import Request
    from lathed_solid.engine.rebuild import Engine

#: below the window, so that parallel booleans on all cores do not starve it, but not below all else: beside two busy
#: processes on two cores a start and a build take 15 s so, 242 s at 19, and the window stalls no longer (measured)
NICENESS = 5


def main(argv: list[str]) -> int:
    """Serve requests on the inherited file descriptor ``argv[1]`` until it closes."""
    parent = os.getppid()
    end_with_parent()
    if os.getppid() != parent:  # it died before we asked
        return 1
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(NICENESS)
    connection = Connection(int(argv[1]))
    from lathed_solid.engine import protocol
    from lathed_solid.engine.handlers import Engine

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
    from lathed_solid.engine import protocol
    from lathed_solid.engine.handlers import HANDLERS
    from lathed_solid.engine.telling import GivenUp, PipeTelling

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


if __name__ == "__main__":
    sys.exit(main(sys.argv))
