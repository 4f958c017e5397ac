"""Picked things by pairs and the relations that they allow: each shown while it is pointed at, taken by a click or
Enter.
"""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.flow import Flow
from lathed_solid.desk.language import spoken
from lathed_solid.workbench.fit.joining import Joint, Offer, PickedFeature

#: so many pairs are told by name
TOLD = 4


class JoiningBox(QFrame):
    """Emits the offer that is pointed at (None: none any more), and the one that is taken."""

    considered = pyqtSignal(object)
    taken = pyqtSignal(object)
    dropped = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("massbox")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 8, 12, 8)
        layout.setSpacing(6)
        top = QHBoxLayout()
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setFont(theme.font(13))
        top.addWidget(self.words, 1)
        self.drop = QPushButton("✕")
        self.drop.setFixedSize(24, 22)
        self.drop.setStyleSheet("padding: 0;")
        self.drop.setToolTip(spoken("Let the picks go (Esc)"))
        self.drop.setAccessibleName(spoken("let the picks go"))
        self.drop.clicked.connect(self.dropped)
        top.addWidget(self.drop, 0, Qt.AlignmentFlag.AlignTop)
        layout.addLayout(top)
        self.flow = QWidget()
        self._flow = Flow(6)
        self.flow.setLayout(self._flow)
        layout.addWidget(self.flow)
        row = QHBoxLayout()
        row.setSpacing(6)
        self.size_label = QLabel(spoken("size"))
        self.size_label.setObjectName("quiet")
        self.size_label.setFont(theme.narrow(12))
        self.size_field = QLineEdit()
        self.size_field.setFixedWidth(110)
        self.size_field.setAccessibleName(spoken("size of the relation"))
        self.size_field.setToolTip(spoken("A size or an expression; wheel#7 is callout 7 of the part wheel"))
        self.size_field.textEdited.connect(self._retry)
        self.size_field.returnPressed.connect(self._take)
        self.flipped = QPushButton(spoken("other side"))
        self.flipped.setCheckable(True)
        self.flipped.setFont(theme.narrow(12))
        self.flipped.setToolTip(spoken("The directions of the two against each other, or the same way"))
        self.flipped.toggled.connect(self._retry)
        self.take = QPushButton(spoken("take it"))
        self.take.setToolTip(spoken("Enter"))
        self.take.clicked.connect(self._take)
        for widget in (self.size_label, self.size_field, self.flipped, self.take):
            row.addWidget(widget)
        row.addStretch(1)
        self._row = QWidget()
        self._row.setLayout(row)
        row.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self._row)
        self._buttons: list[tuple[QPushButton, Offer]] = []
        self._offer: Offer | None = None
        self.show_picks((), None, ())

    def show_picks(self, joints: tuple[Joint, ...], waiting: PickedFeature | None, offers: tuple[Offer, ...]) -> None:
        """The picked pairs, what waits for its other, and what the pairs allow."""
        self._offer = None
        for button, _ in self._buttons:
            self._flow.removeWidget(button)
            button.hide()
            button.deleteLater()
        self._buttons = []
        self.words.setText(spoken(_words(joints, waiting, bool(offers))))
        for i, offer in enumerate(offers, 1):
            button = QPushButton(spoken(f"{i}  {offer.kind}"))
            button.setFont(theme.narrow(13))
            button.setCheckable(True)
            button.setToolTip(spoken(f"Show it; again, or Enter, takes it (key {i})"))
            button.clicked.connect(lambda _=False, k=i - 1: self.choose(k))
            button.installEventFilter(self)
            self._flow.addWidget(button)
            self._buttons.append((button, offer))
        self.drop.setVisible(bool(joints) or waiting is not None)
        self.flow.setVisible(bool(offers))
        self._row.hide()

    def choose(self, index: int) -> None:
        """Turn to an offer and show it; the one that is turned to already is taken."""
        if index >= len(self._buttons):
            return
        button, offer = self._buttons[index]
        if self._offer is not None and self._offer.kind == offer.kind:
            self._take()
            return
        self._offer = offer
        for other, _ in self._buttons:
            other.setChecked(other is button)
        self._row.show()
        for widget in (self.size_label, self.size_field):
            widget.setVisible(offer.asks)
        self.flipped.blockSignals(True)
        self.flipped.setChecked(False)
        self.flipped.blockSignals(False)
        if offer.asks:
            self.size_field.setText(offer.size)
            self.size_field.setFocus()
            self.size_field.selectAll()
        self.considered.emit(self._now())

    def _now(self) -> Offer | None:
        if self._offer is None:
            return None
        flip = self._offer.flip != self.flipped.isChecked()
        size = self.size_field.text().strip() if self._offer.asks else ""
        return Offer(self._offer.kind, flip, size)

    def _retry(self) -> None:
        self.considered.emit(self._now())

    def _take(self) -> None:
        offer = self._now()
        if offer is not None:
            self.taken.emit(offer)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Pointing at an offer shows it for as long as none is chosen."""
        if event is not None and self._offer is None:
            offer = next((o for b, o in self._buttons if b is watched), None)
            if offer is not None and event.type() == QEvent.Type.Enter:
                self.considered.emit(offer)
            elif offer is not None and event.type() == QEvent.Type.Leave:
                self.considered.emit(None)
        return False

    def keyPressEvent(self, event: Any) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.dropped.emit()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._take()
        elif event.text().isdigit() and event.text() != "0":
            self.choose(int(event.text()) - 1)
        else:
            super().keyPressEvent(event)


def _words(joints: tuple[Joint, ...], waiting: PickedFeature | None, allowed: bool) -> str:
    more = f"{waiting.words} — and of another member?" if waiting is not None else ""
    if not joints:
        return f"① {more}" if more else "Pick a face, edge or axis of one member, then one of another."
    if len(joints) == 1:
        a, b = joints[0]
        said = [f"① {a.words}   ② {b.words}" + ("" if allowed else ": no relation joins these two.")]
        hint = "Shift and click: one more pair for the same relation."
    else:
        said = [f"{a.words}  —  {b.words}" for a, b in joints[:TOLD]]
        rest = f", {len(joints) - TOLD} more besides" if len(joints) > TOLD else ""
        said[-1] += rest + ("" if allowed else ": no relation joins all of them.")
        hint = f"{len(joints)} pairs, one relation each"
    return "\n".join([*said, more or hint])
