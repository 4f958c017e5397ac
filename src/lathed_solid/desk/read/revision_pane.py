"""A sheet gone through note by note, a new revision or one not read yet: what the ledger says, what the sheet says now.

Callouts that are the same follow their notes without a question; each of the others is taken or kept by one key, and
every answer is an edit of its own. What stands on the sheet is shown large beside what was read, which may be mended
before it is taken; a note that its own dimension line contradicts, or that is hard to read, says so.
"""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.keyed_buttons import keyed_buttons
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.part.revision import Change

#: between the lines of a note in one field
NEW_LINE = " ; "
WORDS = {"changed": "≠ changed", "gone": "− gone", "new": "+ not in the ledger", "same": "= the same"}
TAKE = {"changed": "take the new size", "gone": "remove the callout", "new": "take it as a callout", "same": "take"}


def _sure(change: Change) -> str:
    return "sure" if change.offer is None else change.offer.sure


def _says(change: Change) -> str:
    """How the sheet and the ledger stand, and what the note's own line says."""
    return {"contradicted": "≠ its own line", "doubtful": "? doubtful"}.get(_sure(change), WORDS[change.kind])


def _why(change: Change) -> str:
    why = change.offer.why if change.offer is not None else ""
    return f"{WORDS[change.kind]}; {_sure(change)}: {why}" if why else WORDS[change.kind]


class RevisionPane(QWidget):
    """Emits the change that is taken with the note as it is to be, the change looked at (None: no more), and that it is
    done.
    """

    taken = pyqtSignal(object, str)
    looked_at = pyqtSignal(object)
    closed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.kept: set[tuple[str, int | None, str]] = set()
        self.title = QLabel()
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setObjectName("caption")
        self.model = RowModel([
            Column("balloon", lambda c: str(c.balloon or ""), look="balloon", width=58),
            Column("in the ledger", lambda c: c.was.replace("\n", " "), look="sheet", width=130, tip=lambda c: c.was),
            Column("on the sheet", lambda c: c.now.replace("\n", " "), look="sheet", width=170, tip=lambda c: c.now),
            Column("", _says, width=150, tip=_why),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("what the sheet changed"))
        self.view.row_chosen.connect(self._look)
        self.view.setFixedHeight(140)
        self.crop = QLabel()
        self.crop.setAccessibleName(spoken("as it stands on the sheet"))
        self.field = QLineEdit()
        self.field.setFont(theme.drawing(15))
        self.field.setAccessibleName(spoken("the note that was read"))
        self.field.setMinimumWidth(220)
        self.field.returnPressed.connect(self._take)
        self.why = QLabel()
        self.why.setObjectName("quiet")
        self.why.setFont(theme.narrow(12))
        self.why.setWordWrap(True)
        beside = QVBoxLayout()
        beside.setSpacing(2)
        beside.addWidget(self.field)
        beside.addWidget(self.why)
        seen = QHBoxLayout()
        seen.setSpacing(12)
        seen.addWidget(self.crop)
        seen.addLayout(beside, 1)
        self.take = QPushButton(spoken("take"))
        self.keep = QPushButton(spoken("keep as it is"))
        self.done_button = QPushButton(spoken("done"))
        row = keyed_buttons([
            (self.take, self._take, "Alt+T"),
            (self.keep, self._keep, "Alt+K"),
            (self.done_button, self.closed.emit, ""),
        ])  # fmt: skip
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.title)
        layout.addWidget(self.view)
        layout.addLayout(seen)
        layout.addLayout(row)

    def show_changes(self, changes: Sequence[Change]) -> None:
        """What needs an answer; those kept before are not asked again."""
        same = sum(1 for c in changes if c.kind == "same")
        asked = [c for c in changes if c.kind != "same" and self._key(c) not in self.kept]
        against = sum(_sure(c) == "contradicted" for c in asked)
        if asked and all(c.kind == "new" for c in asked):
            said = f"FOUND — {len(asked)} to answer, {same} in the ledger"
        else:
            said = f"REVISION — {len(asked)} to answer, {same} callouts are the same"
        self.title.setText(spoken(said + (f", {against} contradicted by their lines" if against else "")))
        row = self.view.currentIndex().row()
        self.model.set_rows(asked)
        for button in (self.take, self.keep):
            button.setEnabled(bool(asked))
        if asked:
            self.view.selectRow(min(max(row, 0), len(asked) - 1))
        self._look(self.view.current_row())

    @staticmethod
    def _key(change: Change) -> tuple[str, int | None, str]:
        return change.kind, change.balloon, change.now

    def _look(self, change: Change | None) -> None:
        self.take.setText(spoken(TAKE[change.kind] if change is not None else "take"))
        self.keep.setText(spoken("leave it" if change is not None and change.kind == "new" else "keep as it is"))
        offer = change.offer if change is not None else None
        self.field.setText("" if offer is None else offer.text.replace("\n", NEW_LINE))
        self.field.setEnabled(offer is not None)
        self.why.setText(spoken("" if offer is None else "; ".join(t for t in (offer.plain, offer.why) if t)))
        self.looked_at.emit(change)

    def show_crop(self, picture: QPixmap) -> None:
        """What stands on the sheet where the note was read; empty for nothing."""
        self.crop.setPixmap(picture)
        self.crop.setVisible(not picture.isNull())

    def _take(self) -> None:
        change = self.view.current_row()
        if change is not None:
            self.taken.emit(change, self.field.text().replace(NEW_LINE, "\n").strip())

    def _keep(self) -> None:
        change = self.view.current_row()
        if change is not None:
            self.kept.add(self._key(change))
            self.show_changes(self.model.rows)
