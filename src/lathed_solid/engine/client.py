"""The window's side of the kernel: a worker process, a warm spare, and what came back.

Nothing here blocks but ``wait``: a caller watches ``fileno()`` and takes messages with ``poll()``. A worker
that dies or is cancelled is replaced by the spare at once; the request it was on is answered by ``Lost``.
This module does not import OCP, so the window's process can talk to a worker before it has loaded it.
"""

from __future__ import annotations

import contextlib
import logging
import os
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from lathed_solid.engine import protocol
from lathed_solid.kernel.errors import WorkerLost
from lathed_solid.part import Document
from lathed_solid.proof import Report

log = logging.getLogger(__name__)


@dataclass(frozen=True)
class Progress:
    """Step ``number`` is being built, row ``row`` of ``total``."""

    request: int
    number: int
    row: int
    total: int


@dataclass(frozen=True)
class BuildReply:
    """A finished build: step results, summary (see engine.summary), report, and the solid as bytes."""

    request: int
    steps: list[dict[str, Any]]
    summary: dict[str, Any]
    report: Report
    labels: list[str]
    #: names of the edges in edge order, empty for seams
    edge_labels: list[str] = field(repr=False)
    shape: bytes = field(repr=False)
    #: threads drawn as symbols; see kernel.parts.Mark
    marks: list[dict[str, Any]] = field(repr=False, default_factory=list)
    #: the body beneath each sketch, by step number; see kernel.outline
    outlines: dict[str, list[dict[str, Any]]] = field(repr=False, default_factory=dict)


@dataclass(frozen=True)
class Exported:
    request: int
    path: str


@dataclass(frozen=True)
class Compared:
    """Two builds side by side: ``added``, ``removed`` and ``changed`` face names; masses in g, None where not known."""

    request: int
    faces: dict[str, list[str]]
    masses: tuple[float | None, float | None]


@dataclass(frozen=True)
class Volumes:
    """The volumes (mm3) of the documents asked for; None for one that cannot be built."""

    request: int
    values: tuple[float | None, ...]


@dataclass(frozen=True)
class Viewed:
    """The proof, the figures, and views of the solid as ``kernel.views.View`` tells them."""

    request: int
    report: Report
    summary: dict[str, Any]
    views: list[dict[str, Any]]


@dataclass(frozen=True)
class ByHand:
    """Sizes of what was picked (``kernel.by_hand.Hand``), the figures of the section, and the volume by a mesh."""

    request: int
    sizes: list[dict[str, Any]]
    section: dict[str, Any] | None
    mesh: list[float] | None


@dataclass(frozen=True)
class Failed:
    """The worker answered that it could not do the request."""

    request: int
    message: str


@dataclass(frozen=True)
class Lost:
    """The worker died on the request (None: it was idle). Work goes on with the spare."""

    request: int | None
    message: str


Message = Progress | BuildReply | Exported | Compared | Volumes | Viewed | ByHand | Failed | Lost


class _Worker:
    """One process and the pipe to it. Ready once its first message has come."""

    def __init__(self, error_log: Path | None) -> None:
        ours, theirs = socket.socketpair()
        with theirs, _stderr(error_log) as errors:
            try:
                self.process = subprocess.Popen(
                    [sys.executable, "-m", "lathed_solid.engine.worker", str(theirs.fileno())],
                    pass_fds=[theirs.fileno()],
                    stdin=subprocess.DEVNULL,
                    stdout=errors,
                    stderr=errors,
                    env={**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)},
                )
            except OSError as exc:
                ours.close()
                raise WorkerLost(
                    "the geometry worker cannot start",
                    rule=exc.strerror or "",
                    hint="free some memory and try again",
                ) from None
        self.connection = Connection(ours.detach())
        self.ready = False

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()
        self.connection.close()


def _stderr(error_log: Path | None) -> Any:
    return open(error_log or os.devnull, "ab")  # noqa: PTH123 - handed to the process


class KernelClient:
    """The kernel as seen from outside: submit, poll, cancel, close."""

    def __init__(self, *, spare: bool = True, error_log: Path | None = None) -> None:
        self._spare_wanted = spare
        self._error_log = error_log
        self._worker = _Worker(error_log)
        self._spare: _Worker | None = None
        self._request = 0
        self._open: int | None = None

    # state -------------------------------------------------------------------------------------
    def fileno(self) -> int:
        """Readable when ``poll`` has something. Changes when the worker is replaced."""
        return self._worker.connection.fileno()

    @property
    def connection(self) -> Connection:
        """What becomes readable when ``poll`` has something."""
        return self._worker.connection

    @property
    def pid(self) -> int:
        return self._worker.process.pid

    @property
    def busy(self) -> bool:
        return self._open is not None

    def warm_spare(self) -> None:
        """Start the spare; call it once the window is up, so that start-up is not slowed."""
        if self._spare_wanted and self._spare is None:
            try:
                self._spare = _Worker(self._error_log)
            except WorkerLost as exc:
                log.warning("no spare worker: %s", exc)

    # requests ----------------------------------------------------------------------------------
    def build(self, document: Document, *, shape: bool = True) -> int:
        """Ask for a build with proof (and the solid when ``shape``); the request's number."""
        return self._submit({"op": "build", "document": document.model_dump(mode="json"), "shape": shape})

    def export(self, document: Document, path: Path) -> int:
        """Ask for a STEP or STL file."""
        return self._submit(
            {"op": "export", "document": document.model_dump(mode="json"), "path": str(path.absolute())}
        )

    def compare(self, old: Document, new: Document) -> int:
        """Ask which faces and masses differ between two documents; the request's number."""
        texts = [d.model_dump(mode="json") for d in (old, new)]
        return self._submit({"op": "compare", "document": texts[1], "old": texts[0]})

    def by_hand(
        self,
        document: Document,
        things: Sequence[dict[str, Any]],
        *,
        section: tuple[float, str] | None = None,
        mesh: bool = False,
    ) -> int:
        """Ask for all sizes of one or two picked things (kind, name, point), a section's figures, the mesh's volume."""
        header = {"op": "by_hand", "document": document.model_dump(mode="json"), "things": list(things)}
        return self._submit({**header, "section": section, "mesh": mesh})

    def views(self, document: Document) -> int:
        """Ask for the proof with views of the solid; the request's number."""
        return self._submit({"op": "views", "document": document.model_dump(mode="json")})

    def volumes(self, documents: Sequence[Document]) -> int:
        """Ask for the volumes of documents that differ little; the request's number."""
        return self._submit({"op": "volumes", "documents": [d.model_dump(mode="json") for d in documents]})

    def _submit(self, header: dict[str, Any]) -> int:
        self._request += 1
        header["id"] = self._request
        self._open = self._request
        try:
            protocol.send(self._worker.connection, header)
        except OSError:
            self._replace()
            # one that dies at once too is told by poll, as lost
            with contextlib.suppress(OSError):
                protocol.send(self._worker.connection, header)
        return self._request

    def cancel(self) -> None:
        """Give up the open request: the worker ends, the spare takes over."""
        if self._open is not None:
            self._open = None
            self._replace()

    # answers -----------------------------------------------------------------------------------
    def poll(self, timeout: float = 0.0) -> Message | None:
        """The next message, or None. A lost worker is replaced before ``Lost`` is returned."""
        try:
            while self._worker.connection.poll(timeout):
                header, blob = protocol.receive(self._worker.connection)
                if header["kind"] == "ready":
                    self._worker.ready = True
                    continue
                if header.get("id") == self._open:
                    return self._message(header, blob)
        except (EOFError, OSError, ValueError):
            return self._lost()
        return None

    def _message(self, header: dict[str, Any], blob: bytes) -> Message:
        request = int(header["id"])
        kind = header["kind"]
        if kind == "progress":
            return Progress(request, header["number"], header["row"], header["total"])
        self._open = None
        if kind == "built":
            report = Report.model_validate(header["report"])
            return BuildReply(
                request,
                header["steps"],
                header["summary"],
                report,
                header["labels"],
                header["edge_labels"],
                blob,
                header["marks"],
                header["outlines"],
            )
        if kind == "exported":
            return Exported(request, header["path"])
        if kind == "volumes":
            return Volumes(request, tuple(header["values"]))
        if kind == "measured":
            return ByHand(request, header["sizes"], header["section"], header["mesh"])
        if kind == "viewed":
            return Viewed(request, Report.model_validate(header["report"]), header["summary"], header["views"])
        if kind == "compared":
            return Compared(request, header["faces"], tuple(header["masses"]))
        return Failed(request, header.get("message", "the worker failed"))

    def _lost(self) -> Lost:
        request, self._open = self._open, None
        code = self._worker.process.poll()
        was_ready = self._worker.ready
        self._replace()
        log.error("worker lost on request %s, exit code %s", request, code)
        if not was_ready:
            return Lost(request, "the geometry worker stopped before it was ready; a new one was started")
        return Lost(request, "the geometry worker stopped; nothing is lost, a new one has taken over")

    def _replace(self) -> None:
        self._worker.kill()
        if self._spare is not None and self._spare.process.poll() is None:
            self._worker, self._spare = self._spare, None
        else:
            self._worker = _Worker(self._error_log)
        self.warm_spare()

    def wait(
        self, request: int, *, timeout: float = 600.0, on_progress: Callable[[Progress], None] | None = None
    ) -> Message:
        """Block until ``request`` is answered. Raises WorkerLost when it is lost or ``timeout`` (s) passes."""
        end = time.monotonic() + timeout
        while (left := end - time.monotonic()) > 0:
            message = self.poll(min(left, 0.5))
            if isinstance(message, Progress):
                if on_progress is not None:
                    on_progress(message)
            elif isinstance(message, Lost):
                raise WorkerLost(message.message)
            elif message is not None and message.request == request:
                return message
        self.cancel()
        raise WorkerLost(f"no answer within {timeout:g} s", hint="a simpler part, or more time")

    def close(self) -> None:
        """End both processes."""
        for worker in (self._worker, self._spare):
            if worker is not None:
                worker.kill()
        self._spare = None

    def __enter__(self) -> KernelClient:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()
