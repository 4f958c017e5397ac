"""What the window does with notes and callouts: the note line's meaning, edits of the ledger, where to measure."""

from __future__ import annotations

import itertools
from typing import TYPE_CHECKING, Any, Literal

from lathed_solid.desk.actions import ACTIONS, Action
from lathed_solid.desk.ledger_drawer import LedgerDrawer, LedgerRow
from lathed_solid.desk.note_line import NoteLine, Understanding
from lathed_solid.desk.route_commands import RouteCommands
from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe, SheetPlace, Span, plain_meaning
from lathed_solid.part import Document, driving_value, edits
from lathed_solid.part.names import split

if TYPE_CHECKING:
    from lathed_solid.part.from_note import Picks

#: balloons of one note stand beneath one another, shares of the page's height
BENEATH = 0.035


def placed(before: Document, after: Document, place: SheetPlace | None, span: Span | None = None) -> Document:
    """The callouts that an edit added, with their place on the sheet; the first with its span."""
    if place is None:
        return after
    old = {c.balloon for c in before.callouts}
    out, n = [], 0
    for callout in after.callouts:
        if callout.balloon not in old:
            at = place.model_copy(update={"y": min(place.y + n * BENEATH, 1.0)})
            told = span if n == 0 else None
            callout = callout.model_copy(update={"place": at, "source": "sheet", "span": told})
            n += 1
        out.append(callout)
    return edits.with_callouts(after, out)


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
        from lathed_solid.notation import read_note
        from lathed_solid.part.from_note import step_words

        try:
            meaning = read_note(text, self.session.document.unit)
        except LathedError as exc:
            return Understanding(exc.message, True)
        if meaning.unread:
            near = dict(meaning.nearest)
            words = (f"{w} ({near[w]}?)" if w in near else w for w in meaning.unread)
            return Understanding(f"{meaning.plain} — not understood: {', '.join(words)}", True)
        makes = step_words(meaning, self.note_picks())
        hole = any(c.kind == "hole" for c in meaning.clauses)
        where = f" — {makes} ⏎" if makes else " — pick a face for the step, or ⏎ for the callouts" if hole else " ⏎"
        return Understanding(plain_meaning(meaning) + where)

    def note_picks(self) -> Picks:
        """What is picked, as a note can use it: the last face with the places on it, or the last run of edges."""
        from lathed_solid.part.from_note import Picks

        if not self.picks or not self.picks[-1].names:
            return Picks()
        last = self.picks[-1]
        run = list(itertools.takewhile(lambda p: p.kind == last.kind and p.names, reversed(self.picks)))[::-1]
        if last.kind == "edge":
            return Picks(edges=tuple(dict.fromkeys(p.names[0] for p in run)))
        face = split(last.names[0], "+")[0]
        on_it = [p for p in run if split(p.names[0], "+")[0] == face]
        around = not last.facts.startswith("flat")
        at = round(last.point[0] - self._datum_x(), 1) if last.facts.startswith("cylinder") else None
        step = self.session.document.step(int(face.partition("/")[0])) if face.partition("/")[0].isdigit() else None
        turned = step is not None and step.kind == "turned"
        places = tuple(p.place for p in on_it if p.place is not None)
        # one hole in the end of a turned part is meant on its axis
        return Picks(face, around, () if turned and len(places) < 2 else places, at)

    def _command(self, text: str) -> Action | None:
        bare = text.strip().lower().rstrip("…")
        found = [a for a in ACTIONS if a.title.lower().rstrip("…") == bare or a.id == bare]
        if not found and len(bare) >= 3:
            found = [a for a in ACTIONS if a.title.lower().startswith(bare)]
        return found[0] if found else None

    def preview_note(self, text: str) -> None:
        """Show in the solid what the note would make with what is picked."""
        from lathed_solid.notation import read_note
        from lathed_solid.part.from_note import add_note_with_step, step_words

        try:
            document = self.session.standing
            makes = text and step_words(read_note(text, document.unit), self.note_picks())
            wanted = add_note_with_step(document, text, self.note_picks()) if makes else None
        except LathedError:
            wanted = None
        if wanted is not None:
            self.session.preview(wanted)
        else:
            self.session.end_preview()

    def take_note(self, text: str, place: SheetPlace | None = None, span: Span | None = None) -> bool:
        """Enter in the note line, or on the sheet at a place: a command, a step with what is picked, or callouts."""
        action = self._command(text)
        if action is not None:
            self.note_line.accept(text)
            self.run(action)
            return True
        from lathed_solid.notation import read_note
        from lathed_solid.part.from_note import add_note_with_step, step_words

        picks = self.note_picks()
        try:
            makes = step_words(read_note(text, self.session.document.unit), picks)
        except LathedError:
            makes = ""
        if makes:
            done = self.session.edit(text, lambda d: placed(d, add_note_with_step(d, text, picks), place, span))
            if done:
                self.route.choose(self.session.document.steps[-1].number)
        else:
            done = self.session.edit(text, lambda d: placed(d, edits.add_note(d, text), place, span))
        if done:
            self.note_line.accept(text)
            self.drawer.choose(self.session.document.callouts[-1].balloon)
        return done

    def _datum_x(self) -> float:
        return 0.0  # the left face of a turned part stands at X = 0

    def _edit_note(self, row: LedgerRow, text: str) -> None:
        """A note edited in the ledger: all callouts that it states follow."""
        self.session.edit(f"note of callout {row.balloon}", lambda d: edits.edit_note(d, row.balloon, text))

    def drop_callout(self) -> None:
        balloon = self.chosen_balloon()
        if balloon is not None:
            self.session.edit(f"remove callout {balloon}", lambda d: edits.drop_callout(d, balloon))

    def toggle_drive(self, by: Literal["measured", "middle"] = "measured") -> None:
        """The chosen callout as measured, or by the middle of its limits; by its nominal when it is so already."""
        balloon = self.chosen_balloon()
        if balloon is None:
            return

        def change(document: Document) -> Document:
            callout = document.callout(balloon)
            if callout is None:
                return document
            drive = "nominal" if callout.drive == by else by
            if drive == "measured" and document.reading(balloon) is None:
                raise edits.DocumentError(f"callout {balloon} has no reading yet", hint="log one at the Read desk")
            driven = edits.changed(callout, drive=drive)
            driving_value(document, driven)
            return edits.put_callout(document, driven)

        self.session.edit(f"what drives callout {balloon}", change)

    def measure_between_picks(self) -> None:
        balloon = self.chosen_balloon()
        names = [p.names[0].split("+")[0] for p in self.picks[-2:] if p.kind == "face" and p.names]
        if balloon is None or len(names) < 2:
            self.tell("pick two flat faces in the solid, one after the other", True)
            return
        probe = Probe(kind="distance", faces=tuple(names))

        def change(document: Document) -> Document:
            callout = document.callout(balloon)
            return document if callout is None else edits.put_callout(document, edits.changed(callout, measure=probe))

        self.session.edit(f"where callout {balloon} is measured", change)
