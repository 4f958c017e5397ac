"""Suspects: which single slip explains that mass or volume is not as stated.

Each row is a slip undone. Pointing at one shows the part without it, and so does choosing it; taking it is one edit,
undone like any other.
"""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QModelIndex, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.prove.asking import Asking
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.engine.protocol import BuildReply
from lathed_solid.part import Document
from lathed_solid.proof.expected import Expected, expected
from lathed_solid.proof.suspects import Suspect, hunt
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import volume as shown_volume
from lathed_solid.quantity.formatting import volume_change

#: how long the pointer rests on a row before its part is built
REST_MS = 350


class SuspectsPane(QWidget):
    """Emits the suspect whose part is to be shown (None: the part as it is), and the one that is taken."""

    shown = pyqtSignal(object)
    taken = pyqtSignal(object)
    told = pyqtSignal(str, bool)

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.document = Document()
        self._reply: BuildReply | None = None
        self._asked: Document | None = None
        self.asking = Asking(background, self)
        self.asking.progressed.connect(self._progress)
        self.asking.answered.connect(self._found)
        self.asking.failed.connect(self._failed)
        self.head = QLabel()
        self.head.setWordWrap(True)
        self.head.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.search = QPushButton(spoken("find suspects"))
        self.search.setToolTip(
            spoken("Undo the usual slips one by one, build the part anew, and keep what explains the difference")
        )
        self.search.clicked.connect(self.start)
        self.pairs = QCheckBox(spoken("two slips together"))
        self.pairs.setFont(theme.narrow(12))
        self.take = QPushButton(spoken("take it"))
        self.take.setToolTip(spoken("Undo this slip in the part: one edit (Ctrl+Z brings it back)"))
        self.take.clicked.connect(self._take)
        self.take.setEnabled(False)
        self.state = QLabel()
        self.state.setObjectName("quiet")
        self.state.setWordWrap(True)
        row = QHBoxLayout()
        row.setSpacing(6)
        for widget in (self.search, self.pairs, self.take):
            row.addWidget(widget)
        row.addStretch(1)
        self.model = RowModel([
            Column("share", lambda s: f"{s.share:.0%}", look="number", width=50),
            Column("where", lambda s: s.target, width=116, tip=lambda s: s.target),
            Column("in the model", lambda s: " and ".join(k.was for k in s.slips), width=82, tip=self._tip),
            Column("as drawn", lambda s: " and ".join(k.now for k in s.slips), width=82, tip=self._tip),
            Column("left over", lambda s: volume_change(s.residual, self.document.unit), look="number", width=92,
                   tip=lambda _s: "what is left of the difference once this slip is undone"),
            Column("why", lambda s: "; ".join(k.why for k in s.slips), width=140, tip=self._tip),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Suspects"))
        self.view.row_chosen.connect(self._choose)
        self.view.row_hovered.connect(self._hover)
        self._hovered: Suspect | None = None
        # a pointer that only passes builds nothing
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(lambda: self.shown.emit(self._hovered or self.view.current_row()))
        self.view.doubleClicked.connect(lambda _i: self._take())
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.head)
        layout.addLayout(row)
        layout.addWidget(self.state)
        layout.addWidget(self.view, 1)
        layout.addStretch(0)
        self._fill(())

    @staticmethod
    def _tip(s: Suspect) -> str:
        return "; ".join(f"{k.kind}: {k.why}" for k in s.slips)

    def show_part(self, document: Document, reply: BuildReply | None) -> None:
        """The part as it is now; suspects of another one are dropped."""
        if document != self._asked and (self.model.rows or self.asking.busy):
            self.asking.stop()
            self._fill(())
            self.state.setText("")
        self.document, self._reply = document, reply
        wanted, volume = expected(document), self._volume()
        self.search.setEnabled(wanted is not None and volume is not None and not wanted.fits(volume))
        self.head.setText(spoken(self._words(wanted, volume, document.unit)))

    def _volume(self) -> float | None:
        s = self._reply.summary if self._reply is not None else None
        return s["volume_mm3"] if s is not None and s["solids"] and s["ok"] else None

    @staticmethod
    def _words(wanted: Expected | None, volume: float | None, unit: LengthUnit) -> str:
        if wanted is None:
            return "State the mass or the volume of the part (state mass…): then a difference can be explained."
        if volume is None:
            return "The part is not complete: mend its failed step first."
        off, band = volume - wanted.volume, shown_volume(wanted.band, unit, 1)
        if wanted.fits(volume):
            return f"○ The volume fits {wanted.source}: {volume_change(off, unit)} of ± {band}. Nothing to explain."
        more = "too much" if off > 0 else "too little"
        return f"■ {shown_volume(abs(off), unit, 1)} {more} against {wanted.source} (± {band}): which slip explains it?"

    # asking ------------------------------------------------------------------------------------
    def start(self) -> None:
        """Begin, or give up what was begun."""
        if self.asking.busy:
            self.asking.stop()
            return
        wanted, volume = expected(self.document), self._volume()
        if wanted is None or volume is None:
            return
        document, pairs = self.document, self.pairs.isChecked()
        self._asked = document
        self._fill(())
        self.search.setText(spoken("stop"))
        self.state.setText(spoken("starting …"))
        self.asking.ask(lambda: hunt(document, volume, wanted, pairs=pairs))

    def _progress(self, done: int, of: int) -> None:
        self.state.setText(spoken(f"{done} of {of} parts built"))

    def _found(self, found: tuple[Suspect, ...]) -> None:
        self.search.setText(spoken("find suspects"))
        self._fill(found)
        if found:
            self.state.setText(spoken(f"{len(found)} slips explain it; choose one to see the part without it"))
            self.view.selectRow(0)
        else:
            self.state.setText(spoken("no single slip explains it: try two together, or state what else you know"))

    def _failed(self, why: str) -> None:
        self.search.setText(spoken("find suspects"))
        self.state.setText(spoken(why))

    def _fill(self, found: tuple[Suspect, ...]) -> None:
        self.model.set_rows(found)
        self.view.setVisible(bool(found))
        self.take.setEnabled(False)

    def _hover(self, suspect: Suspect | None) -> None:
        """What the pointer rests on is shown; away from the rows, the chosen one again."""
        if suspect is not self._hovered:
            self._hovered = suspect
            self._rest.start()

    def _choose(self, suspect: Suspect | None) -> None:
        self.take.setEnabled(suspect is not None and all(k.apply is not None for k in suspect.slips))
        self.shown.emit(suspect)

    def _take(self) -> None:
        suspect = self.view.current_row()
        if suspect is not None and self.take.isEnabled():
            self.taken.emit(suspect)

    def leave(self) -> None:
        """Nobody looks any more: the part as it is."""
        self._rest.stop()
        self.view.clearSelection()
        self.view.setCurrentIndex(QModelIndex())
        self.shown.emit(None)

    def keyPressEvent(self, event: Any) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.asking.stop() if self.asking.busy else self.leave()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._take()
        else:
            super().keyPressEvent(event)
