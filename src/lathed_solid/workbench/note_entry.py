"""The note line without its line: one text is a command or a drawing note; what it means, shows and does."""

from __future__ import annotations

from lathed_solid.ledger import SheetPlace, Span
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.workbench.actions import find_action, run_action
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.note_plan import Understanding
from lathed_solid.workbench.signal import Signal


class NoteEntry:
    """Takes what is typed at the note line, or at a place of the sheet."""

    def __init__(self, commands: Commands, spoken: Spoken = as_it_is) -> None:
        """``spoken``: the titles of actions in the interface's language."""
        self.commands, self._spoken = commands, spoken
        #: a text was taken: the line may be emptied, before what it does opens a dialog
        self.accepted: Signal[str] = Signal()

    def understand(self, text: str) -> Understanding:
        """The words under the line."""
        action = find_action(text, self._spoken)
        if action is not None:
            return Understanding(f"command: {action.title}   {action.keys}")
        return self.commands.ledger.plan(text).understanding

    def consider(self, text: str) -> None:
        """Typing rests: show what the note would make."""
        self.commands.ledger.preview("" if find_action(text, self._spoken) is not None else text)

    def enter(self, text: str, place: SheetPlace | None = None, span: Span | None = None) -> bool:
        """Enter: run the command or take the note; False for a refused note."""
        action = find_action(text, self._spoken)
        if action is None:
            taken = self.commands.ledger.take(text, place, span)
            if taken:
                self.accepted.emit(text)
            return taken
        self.accepted.emit(text)
        run_action(action, self.commands)
        return True
