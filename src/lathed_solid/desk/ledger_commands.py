"""What the window does with notes and callouts: the note line's meaning, edits of the ledger, where to measure."""

from __future__ import annotations

from typing import Any

from lathed_solid.desk.actions import ACTIONS, Action
from lathed_solid.desk.ledger_drawer import LedgerDrawer, LedgerRow
from lathed_solid.desk.note_line import NoteLine, Understanding
from lathed_solid.desk.route_commands import RouteCommands
from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe, callouts_from_note, plain_meaning
from lathed_solid.notation import read_note
from lathed_solid.part import Document, edits
from lathed_solid.part.from_note import hole_from_note


class LedgerCommands(RouteCommands):
    """Knows the note line, the ledger drawer, and what is picked in the solid."""

    note_line: NoteLine
    drawer: LedgerDrawer
    picks: list[Any]

    def run(self, action: Action) -> None:
        """Run an action; the window does it."""

    def chosen_balloon(self) -> int | None:
        """The callout chosen in a table; the window knows."""
        return None

    def understand(self, text: str) -> Understanding:
        """The chip under the note line."""
        action = self._command(text)
        if action is not None:
            return Understanding(f"command: {action.title}   {action.keys}")
        try:
            meaning = read_note(text, self.session.document.unit)
        except LathedError as exc:
            return Understanding(exc.message, True)
        if meaning.unread:
            return Understanding(f"{meaning.plain} — not understood: {', '.join(meaning.unread)}", True)
        hole = any(c.kind == "hole" for c in meaning.clauses)
        face = self.shape_page.picked.get("face", "")
        where = (f" — on {face} ⏎" if face else " — pick a face for the step, or ⏎ for the callouts") if hole else " ⏎"
        return Understanding(plain_meaning(meaning) + where)

    def _command(self, text: str) -> Action | None:
        bare = text.strip().lower().rstrip("…")
        found = [a for a in ACTIONS if a.title.lower().rstrip("…") == bare or a.id == bare]
        if not found and len(bare) >= 3:
            found = [a for a in ACTIONS if a.title.lower().startswith(bare)]
        return found[0] if found else None

    def take_note(self, text: str) -> None:
        """Enter in the note line: a command, a hole on the picked face, or callouts."""
        action = self._command(text)
        if action is not None:
            self.note_line.accept(text)
            self.run(action)
            return
        face = self.shape_page.picked.get("face", "")
        try:
            meaning = read_note(text, self.session.document.unit)
            hole = face and not meaning.unread and [c.kind for c in meaning.clauses] == ["hole"]
        except LathedError:
            hole = False
        if hole:
            at = None
            pick = self.picks[-1]
            if pick.facts.startswith("cylinder"):
                at = round(pick.point[0] - self._datum_x(), 1)
            done = self.session.edit(text, lambda d: hole_from_note(d, text, face, radial_at=at))
            if done:
                self.route.choose(self.session.document.steps[-1].number)
        else:
            done = self.session.edit(text, lambda d: edits.add_note(d, text))
        if done:
            self.note_line.accept(text)
            self.drawer.choose(self.session.document.callouts[-1].balloon)

    def _datum_x(self) -> float:
        return 0.0  # the left face of a turned part stands at X = 0

    def _edit_note(self, row: LedgerRow, text: str) -> None:
        """A note edited in the ledger: the callout of that balloon takes the new size and limits."""

        def change(document: Document) -> Document:
            new = callouts_from_note(text, row.balloon, document.unit, row.callout.source)
            same = next((c for c in new if c.meaning == row.callout.meaning), new[0])
            kept = {"balloon": row.balloon, "drive": row.callout.drive, "measure": row.callout.measure}
            return edits.put_callout(document, edits.changed(same, **kept))

        self.session.edit(f"note of callout {row.balloon}", change)

    def drop_callout(self) -> None:
        balloon = self.chosen_balloon()
        if balloon is not None:
            self.session.edit(f"remove callout {balloon}", lambda d: edits.drop_callout(d, balloon))

    def toggle_drive(self) -> None:
        balloon = self.chosen_balloon()
        if balloon is None:
            return

        def change(document: Document) -> Document:
            callout = document.callout(balloon)
            if callout is None:
                return document
            if callout.drive == "nominal" and document.reading(balloon) is None:
                raise edits.DocumentError(f"callout {balloon} has no reading yet", hint="log one at the Read desk")
            drive = "nominal" if callout.drive == "measured" else "measured"
            return edits.put_callout(document, edits.changed(callout, drive=drive))

        self.session.edit(f"what drives callout {balloon}", change)

    def measure_between_picks(self) -> None:
        balloon = self.chosen_balloon()
        names = [p.names[0].split("+")[0] for p in self.picks if p.kind == "face" and p.names]
        if balloon is None or len(names) < 2:
            self.tell("pick two flat faces in the solid, one after the other", True)
            return
        probe = Probe(kind="distance", faces=tuple(names))

        def change(document: Document) -> Document:
            callout = document.callout(balloon)
            return document if callout is None else edits.put_callout(document, edits.changed(callout, measure=probe))

        self.session.edit(f"where callout {balloon} is measured", change)
