"""The worker process: builds, proves and exports on request, one at a time.

Started as ``python -m lathed_solid.engine.worker FD``. It ends when its pipe closes, and is told by the
system to end when its parent dies. It holds the cache of bodies.
"""

from __future__ import annotations

import ctypes
import dataclasses
import os
import signal
import sys
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

PR_SET_PDEATHSIG = 1

#: below the window, so that parallel booleans on all cores do not starve it
NICENESS = 19


def main(argv: list[str]) -> int:
    """Serve requests on the inherited file descriptor ``argv[1]`` until it closes."""
    parent = os.getppid()
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
    if os.getppid() != parent:  # it died before we asked
        return 1
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(NICENESS)
    connection = Connection(int(argv[1]))
    from lathed_solid.engine import protocol
    from lathed_solid.engine.rebuild import Engine

    server = Server(connection, Engine())
    protocol.send(connection, {"kind": "ready", "pid": os.getpid()})
    while True:
        try:
            header, _ = protocol.receive(connection)
        except (EOFError, OSError):
            return 0
        try:
            server.serve(header)
        except (BrokenPipeError, ConnectionResetError):
            return 0


class Server:
    """Answers requests: ``build`` (with proof and mesh) and ``export``."""

    def __init__(self, connection: Connection, engine: Any) -> None:
        self.connection, self.engine = connection, engine

    def serve(self, header: dict[str, Any]) -> None:
        from lathed_solid.engine import protocol
        from lathed_solid.errors import LathedError

        try:
            reply, blob = getattr(self, "op_" + header["op"])(header)
        except LathedError as exc:
            reply, blob = {"kind": "failed", "message": exc.message}, b""
        except Exception as exc:  # noqa: BLE001 - a request must never end the worker
            reply, blob = (
                {"kind": "failed", "message": f"the kernel failed: {type(exc).__name__}: {exc}"},
                b"",
            )
        protocol.send(self.connection, {"id": header.get("id"), **reply}, blob)

    def document(self, records: Any) -> Any:
        from lathed_solid.part import Document
        from lathed_solid.record import READING

        return Document.model_validate(records, context=READING)

    def progress(self, header: dict[str, Any]) -> Any:
        from lathed_solid.engine import protocol

        def report(number: int, row: int, total: int) -> None:
            protocol.send(
                self.connection,
                {"id": header.get("id"), "kind": "progress", "number": number, "row": row, "total": total},
            )

        return report

    def op_build(self, header: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        from lathed_solid.engine.prove import prove
        from lathed_solid.engine.summary import summary
        from lathed_solid.kernel.edges import edge_labels
        from lathed_solid.kernel.exchange import mesh
        from lathed_solid.kernel.topology import to_bytes

        document = self.document(header["document"])
        built = self.engine.build(document, self.progress(header))
        report = prove(self.engine, document, built)
        reply: dict[str, Any] = {
            "kind": "built",
            "steps": [dataclasses.asdict(s) for s in built.steps],
            "report": report.model_dump(),
            "summary": summary(self.engine, document, built),
            "labels": [],
            "edge_labels": [],
            "marks": [],
            "outlines": {},
        }
        if built.body is None or not header.get("shape"):
            return reply, b""
        mesh(built.body.shape)
        reply["labels"] = built.body.labels
        reply["edge_labels"] = edge_labels(built.body)
        reply["marks"] = [dataclasses.asdict(m) for f, m in built.parts.marks.items() if built.body.find(f)]
        reply["outlines"] = self.outlines(document, built)
        return reply, to_bytes(built.body.shape)

    def outlines(self, document: Any, built: Any) -> dict[str, Any]:
        """For each sketch, the body beneath it laid into its plane; a sketch whose face is gone has none."""
        from lathed_solid.errors import LathedError
        from lathed_solid.kernel.builders.planar import frame_of
        from lathed_solid.kernel.outline import outline
        from lathed_solid.part import scope
        from lathed_solid.part.steps.planes import resolve_plane

        out: dict[str, Any] = {}
        for number, parts in built.before.items():
            if parts.whole is None:
                continue
            try:
                plane = resolve_plane(document.step(number).plane, scope(document))
                out[str(number)] = outline(parts.whole, frame_of(plane, parts), cut=plane.frame is not None)
            except LathedError:
                continue
        return out

    def op_compare(self, header: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        """Changed faces by name, and both masses."""
        from lathed_solid.engine.summary import summary
        from lathed_solid.kernel.compare import changed_faces

        new, old = self.document(header["document"]), self.document(header["old"])
        after, before = self.engine.build(new, self.progress(header)), self.engine.build(old)
        masses = [summary(self.engine, d, b).get("mass_g") for d, b in ((old, before), (new, after))]
        found = dataclasses.asdict(changed_faces(before.body, after.body))
        return {"kind": "compared", "faces": found, "masses": masses}, b""

    def op_volumes(self, header: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        """Volumes of documents that differ little; the cache serves what they have in common."""
        from lathed_solid.engine.volumes import volumes

        documents = [self.document(d) for d in header["documents"]]
        return {"kind": "volumes", "values": volumes(self.engine, documents)}, b""

    def op_by_hand(self, header: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        """Sizes of what is picked, the figures of a section, and the volume by a mesh, as asked."""
        from lathed_solid.kernel.by_hand import Thing, by_hand
        from lathed_solid.kernel.errors import MeasureError
        from lathed_solid.kernel.section import mesh_volume, section_figures

        document = self.document(header["document"])
        built = self.engine.build(document)
        if built.body is None:
            raise MeasureError("there is no solid to measure")
        things = [Thing(t["kind"], t["name"], tuple(t["point"])) for t in header["things"]]
        section = header.get("section")
        figures = section_figures(built.body.shape, section[1], section[0]) if section else None
        return {
            "kind": "measured",
            "sizes": [dataclasses.asdict(h) for h in by_hand(built.body, things)]
            + self.inertia(document, built, things),
            "section": None if figures is None else dataclasses.asdict(figures),
            "mesh": list(mesh_volume(built.body.shape)) if header.get("mesh") else None,
        }, b""

    def inertia(self, document: Any, built: Any, things: list[Any]) -> list[dict[str, Any]]:
        """The moment of inertia about the axis of one picked thing; nothing for others, or an unknown material."""
        from lathed_solid.engine.masses import inertia_about, mass_figures
        from lathed_solid.kernel.by_hand import Hand, axis_of
        from lathed_solid.standards import StandardError

        axis = axis_of(built.body, things[0]) if len(things) == 1 else None
        if axis is None:
            return []
        try:
            figures = mass_figures(document, self.engine.body_properties(built))
        except StandardError:
            return []
        return [dataclasses.asdict(Hand("inertia about its axis", inertia_about(figures, *axis), "g mm2"))]

    def op_views(self, header: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        """The proof with the views of the solid, for the inspection sheet."""
        from lathed_solid.engine.prove import prove
        from lathed_solid.engine.summary import summary
        from lathed_solid.kernel.views import views

        document = self.document(header["document"])
        built = self.engine.build(document, self.progress(header))
        report = prove(self.engine, document, built)
        found = [] if built.body is None else [dataclasses.asdict(v) for v in views(built.body, report.rows)]
        reply = {"kind": "viewed", "report": report.model_dump(), "views": found}
        return {**reply, "summary": summary(self.engine, document, built)}, b""

    def op_export(self, header: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        from lathed_solid.kernel.errors import ExchangeError
        from lathed_solid.kernel.exchange import export, in_part_datum

        document = self.document(header["document"])
        built = self.engine.build(document, self.progress(header))
        if built.body is None or not built.ok:
            failed = next((s for s in built.steps if not s.ok), None)
            why = f"step {failed.number}: {failed.message}" if failed else "the part has no steps"
            raise ExchangeError("the part is not complete, so it is not exported", rule=why)
        export(in_part_datum(built.parts), Path(header["path"]), document.name)
        return {"kind": "exported", "path": header["path"]}, b""


if __name__ == "__main__":
    sys.exit(main(sys.argv))
