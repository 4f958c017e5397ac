"""What the panes show of the session: document, build, preview, verdicts, what is pointed at and chosen."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QTimer

from lathed_solid.desk.panes import Panes
from lathed_solid.engine.protocol import BuildReply, Measured, Pictured
from lathed_solid.kernel.figures import Picked
from lathed_solid.kernel.vectors import Ways
from lathed_solid.part import Document
from lathed_solid.proof import VerdictRow
from lathed_solid.quantity.formatting import fixed
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.describe import bodies_of
from lathed_solid.workbench.flags import across, flags_of
from lathed_solid.workbench.tables.ledger_rows import LedgerRow, ledger_rows
from lathed_solid.workbench.tables.route_rows import route_rows

#: the kernel is asked again after so long when it is at work, ms
AGAIN_MS = 200
PREVIEW = "a preview: Enter takes it, Esc gives it up"


class Showing:
    """One workbench in its panes: follows what the bench tells, and tells it what is chosen in the tables."""

    def __init__(self, bench: Workbench, panes: Panes) -> None:
        self.bench, self.session, self.panes = bench, bench.session, panes
        #: whether what stands in the status line is a step's failure, which ends with a good build
        self._told_failure = False
        #: thin walls of the last build, and the part they are of
        self._thin: frozenset[tuple[str, str, str]] = frozenset()
        self._thin_of: str | None = None
        session, builds = bench.session, bench.session.builds
        session.document_changed.connect(self.show_document)
        session.state_changed.connect(self.show_route)
        builds.built.connect(self.show_build)
        builds.previewed.connect(self.show_preview)
        builds.pictured.connect(self.show_pictured)
        builds.measured.connect(self.show_measured)
        builds.busy_changed.connect(lambda busy: panes.status.show_busy(busy, builds.stale))
        builds.progressed.connect(panes.status.show_progress)
        bench.told.connect(panes.status.say)
        bench.desk_changed.connect(self.show_desk)
        bench.step_chosen.connect(self.show_step)
        bench.balloon_chosen.connect(self.show_balloon)
        bench.picked.connect(self.show_picked)
        for source in (panes.drawer, panes.prove_page, panes.read_page.log, panes.read_page.chains):
            source.hovered.connect(self.point_at)
            source.chosen.connect(self.choose_row)
        panes.view_bar.balloons.toggled.connect(lambda _on: self.point_at(None))
        panes.prove_page.coverage.faces_hovered.connect(self.light)
        panes.prove_page.witness.sides_wanted.connect(self.lay_over)
        builds.sided.connect(lambda answer: panes.prove_page.witness.take_sides(answer.sides))
        panes.shape_page.faces_hovered.connect(self.light)
        panes.solid.hovered.connect(self.show_pointer)

    # document and build ------------------------------------------------------------------------
    def show_document(self, document: Document) -> None:
        """Another document, or another value of it."""
        self.show_route()
        self.panes.read_page.set_document(document)
        self._show_ledger(document, self.session.reply)
        self.show_step(self.bench.step)

    def show_route(self) -> None:
        """The route card, with the state of each step after the last build."""
        reply = self.session.reply
        rows = route_rows(self.session.document, reply.steps if reply else None, self.session.stand)
        self.panes.route.set_rows(rows, self.bench.step)

    def _show_ledger(self, document: Document, reply: BuildReply | None) -> None:
        panes, rows = self.panes, ledger_rows(document, reply.report if reply else None)
        panes.drawer.set_rows(rows)
        panes.prove_page.show_proof(rows, reply)
        panes.prove_page.set_part(document, reply)
        used = document.used_balloons()
        self._show_on_sheet(panes.read_page.sheets.view.current)
        panes.rail.set_count("read", sum(1 for c in document.callouts if c.balloon not in used))
        if reply is not None:
            panes.rail.set_count("shape", sum(1 for s in reply.steps if not s.ok))
            counts = reply.report.counts
            panes.rail.set_count(
                "prove", counts["out"] + counts["no limit"] + counts["not found"] + len(reply.report.asunder)
            )
        self.bench.balloon = self._balloon()

    def show_build(self, reply: BuildReply) -> None:
        """The document's build has come."""
        document = self.session.document
        self.show_route()
        if reply.shape or not document.steps:
            self._show_solid(reply)
        self.panes.show_emptiness(not reply.shape)
        self.panes.shape_page.set_outlines(reply.outlines)
        self.panes.shape_page.set_results(reply.steps)
        self._show_ledger(document, reply)
        if self.bench.desk != "fit":
            self.panes.status.show_build(document, reply)
            self._show_flags(None)
        if (step := reply.failed) is not None:
            self.bench.tell(f"step {step.number}: {step.message}", True)
        elif self._told_failure:
            self.panes.status.end_message()
        self._told_failure = step is not None
        self._tell_thin(document, reply)

    def _tell_thin(self, document: Document, reply: BuildReply) -> None:
        """Walls that an edit made thin; those that a part had when it was opened stand at the Prove desk."""
        now = {(document.name, w.first, w.second): w for w in reply.report.thin}
        new = [w for key, w in now.items() if key not in self._thin]
        if new and self._thin_of == document.name and reply.failed is None:
            self.bench.tell(new[0].words(document.unit) + (f", and {len(new) - 1} more" if len(new) > 1 else ""), True)
        self._thin, self._thin_of = frozenset(now), document.name

    def show_pictured(self, pictured: Pictured, tried: bool) -> None:
        """The solid, whose proof is still to come: no flag of the one before stands on it."""
        if pictured.failed is None and pictured.shape:
            self._show_body(pictured)
            self.panes.solid.set_flags([])
            self.panes.status.show_proving()
            if tried:
                self.bench.tell(PREVIEW)

    def show_preview(self, reply: BuildReply) -> None:
        """What is tried out."""
        failed = reply.failed
        if failed is None and reply.shape:
            self._show_solid(reply)
            self.bench.tell(PREVIEW)
        elif failed is not None:
            self._told_failure = True
            self.bench.tell(f"preview: step {failed.number}: {failed.message}", True)

    def _show_body(self, r: BuildReply | Pictured) -> None:
        self.panes.show_emptiness(not r.shape)
        self.panes.solid.show_solid(r.shape, r.labels, r.edge_labels, r.marks, r.datums, r.owners)

    def _show_solid(self, reply: BuildReply) -> None:
        self._show_body(reply)
        self.panes.view_bar.set_sketches(reply.sketches)
        self.panes.view_bar.set_bodies(bodies_of(self.session.document, reply.owners))

    def show_measured(self, found: Measured) -> None:
        """Sizes by hand, and the figures of the cut."""
        names = [p.names[0] for p in self.bench.picks[-2:] if p.names]
        exact = self.session.reply.summary["volume_mm3"] if self.session.reply else 0.0
        self.panes.prove_page.hand.show_measured(names, found, exact)
        unit, cut = self.session.document.unit, found.section
        self.panes.solid.set_measures([] if cut is None else across(cut.low, cut.high, lambda v: fixed(v, unit)))

    # what is chosen ----------------------------------------------------------------------------
    def lay_over(self, ways: Ways) -> None:
        """Ask for the sides of what is shown, or how it is seen from ``ways``, once the kernel is free."""
        builds = self.bench.session.builds
        if builds.busy:
            QTimer.singleShot(AGAIN_MS, lambda: self.lay_over(ways))
        else:
            builds.draw_sides(self.bench.session.standing, ways)

    def show_desk(self, desk: Any) -> None:
        """Another desk."""
        self.panes.show_desk(desk)
        if desk != "fit" and self.session.reply is not None:
            self.panes.status.show_build(self.session.document, self.session.reply)
        self.bench.balloon = self._balloon()
        self.point_at(None)

    def show_step(self, number: int | None) -> None:
        """The chosen step: its row, its editor."""
        if number is not None:
            self.panes.route.choose(number)
        self.panes.shape_page.show_step(self.session.document, self.bench.chosen_step)
        self.panes.give_room()

    def show_balloon(self, balloon: int | None) -> None:
        """The chosen callout: its row in the ledger, its faces in the solid, its balloon on the sheet."""
        if balloon is not None:
            self.panes.drawer.choose(balloon)
        self.point_at(next((r for r in self.panes.drawer.model.rows if r.balloon == balloon), None))
        self._show_on_sheet(balloon)

    def choose_row(self, row: Any) -> None:
        """A row was chosen in a table."""
        self.bench.balloon = self._balloon()
        self.point_at(row)
        place = row.callout.place if row is not None and hasattr(row, "callout") else None
        sheets = self.panes.read_page.sheets
        if place is not None and (place.sheet, place.page) != (sheets.commands.number, sheets.commands.page):
            sheets.commands.turn_to(place.sheet, place.page)
        self._show_on_sheet(row.balloon if row is not None else None)

    def _row(self) -> Any:
        """The chosen row of the desk's table, else the ledger's."""
        tables = {"read": self.panes.read_page.log.view, "prove": self.panes.prove_page.view}
        view = tables.get(self.bench.desk)
        row = view.current_row() if view is not None else None
        return row or self.panes.drawer.view.current_row()

    def _balloon(self) -> int | None:
        row = self._row()
        return row.balloon if row is not None else None

    def _show_on_sheet(self, current: int | None) -> None:
        used = self.session.document.used_balloons()
        self.panes.read_page.set_rows(self.panes.drawer.model.rows, used, current)

    # pointing ----------------------------------------------------------------------------------
    def point_at(self, row: LedgerRow | None) -> None:
        """A row is pointed at: its faces light up, its flag shows; none: the chosen row's."""
        if row is None:
            row = self._row()
        verdict = getattr(row, "verdict", None)
        if row is not None and verdict is None and self.session.reply:
            verdict = self.session.reply.report.row(row.balloon)
        self.light(verdict.faces if verdict else ())
        self._show_flags(verdict)

    def light(self, faces: tuple[str, ...]) -> None:
        """Light up faces."""
        self.panes.solid.light(tuple(faces))

    def _show_flags(self, hovered: VerdictRow | None) -> None:
        reply = self.session.reply
        balloons = self.bench.desk == "prove" and self.panes.view_bar.balloons.isChecked()
        unit = self.session.document.unit
        self.panes.solid.set_flags([] if reply is None else flags_of(reply.report, hovered, unit, balloons=balloons))

    def show_picked(self, picked: Picked | None) -> None:
        """Something was picked in the solid."""
        self.panes.shape_page.set_picked(self.bench.served)
        if picked is not None and self.bench.desk == "prove" and picked.kind == "face" and picked.names:
            self.panes.prove_page.choose_face(picked.names[0])

    def show_pointer(self, picked: Picked | None) -> None:
        """What lies under the pointer, in words."""
        if picked is None:
            self.panes.status.show_pointer("")
            return
        facts = f" · {picked.facts}" if picked.facts else ""
        self.panes.status.show_pointer(f"{' | '.join(picked.names)}{facts}")
