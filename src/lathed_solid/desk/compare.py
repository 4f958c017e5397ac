"""Two moments of a part, or two files, side by side: callouts, steps, mass, and the changed faces lit up."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.engine.protocol import Compared
from lathed_solid.files import FileError, read_document
from lathed_solid.part import Document
from lathed_solid.part.compare import Difference, compare
from lathed_solid.workbench.describe import grams
from lathed_solid.workbench.session import Session

COLUMNS = ("", "what", "before", "now")
SIGNS = {"added": "+", "removed": "−", "changed": "≠"}


class CompareDialog(QDialog):
    """Stays open beside the window; pointing at a row of faces lights them up."""

    faces_hovered = pyqtSignal(object)

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken("Compare"))
        self.resize(680, 460)
        self.session = session
        self.old: Document | None = None
        self.rows: list[tuple[str, ...]] = []
        top = QHBoxLayout()
        self.moments = QComboBox()
        self.moments.setAccessibleName(spoken("compare with"))
        self.moments.addItem("an earlier moment…")
        self._entries = session.history.entries[: session.history.index]
        for entry in reversed(self._entries):
            self.moments.addItem(f"before “{entry.label}”" if entry.label != "Start" else "the start")
        self.moments.activated.connect(self._moment)
        file = QPushButton(spoken("a file…"))
        file.clicked.connect(self._file)
        top.addWidget(QLabel(spoken("what is now, against")))
        top.addWidget(self.moments, 1)
        top.addWidget(file)
        self.table = QTableWidget(0, len(COLUMNS))
        self.table.setHorizontalHeaderLabels(COLUMNS)
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
        header, side = self.table.horizontalHeader(), self.table.verticalHeader()
        if header is not None and side is not None:
            side.hide()
            header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
            header.setStretchLastSection(True)
        for column, width in enumerate((28, 200, 200)):
            self.table.setColumnWidth(column, width)
        self.table.currentCellChanged.connect(lambda row, *_: self._light(row))
        self.summary = QLabel(spoken("Choose what to compare with."))
        self.summary.setWordWrap(True)
        self.summary.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        box = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        theme.by_words(box)
        box.rejected.connect(self.reject)
        layout = QVBoxLayout(self)
        layout.addLayout(top)
        layout.addWidget(self.summary)
        layout.addWidget(self.table, 1)
        layout.addWidget(box)
        session.builds.compared.connect(self._take)

    def _moment(self, index: int) -> None:
        if index > 0:
            self.against(self._entries[len(self._entries) - index].document)

    def _file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Compare with a part", "", "Parts (*.lathed *.json)")
        if name:
            self.against_file(Path(name))

    def against_file(self, path: Path) -> None:
        """Show what differs from what a file holds."""
        try:
            self.against(read_document(path))
        except FileError as exc:
            self.summary.setText(spoken(exc.message))

    def against(self, old: Document) -> None:
        """Show what differs from ``old``; the faces follow from the worker."""
        self.old = old
        found = compare(old, self.session.document)
        self.summary.setText(
            spoken("Nothing differs." if not found else f"{len(found)} differences; the solids are compared …")
        )
        self.rows = [_row(d) for d in found]
        self._fill()
        if found:
            self.session.builds.compare(old, self.session.document)

    def _take(self, message: Compared) -> None:
        if self.old is None:
            return
        faces = asdict(message.faces)
        masses = " → ".join(grams(m) or "not known" for m in message.masses)
        counts = {k: len(v) for k, v in faces.items()}
        self.summary.setText(
            spoken(
                f"{len(self.rows)} differences · mass {masses} · faces: {counts['added']} new, "
                f"{counts['removed']} gone, "
                f"{counts['changed']} changed"
            )
        )
        for kind in ("added", "changed", "removed"):
            names = faces[kind]
            if names:
                self.rows.append((SIGNS[kind], f"{len(names)} faces", "; ".join(names[:6]), "", *names))
        self._fill()
        self.faces_hovered.emit((*message.faces.added, *message.faces.changed))

    def _fill(self) -> None:
        self.table.setRowCount(len(self.rows))
        for i, row in enumerate(self.rows):
            for j in range(len(COLUMNS)):
                item = QTableWidgetItem(row[j])
                item.setToolTip(spoken(row[j]))
                item.setTextAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(i, j, item)

    def _light(self, row: int) -> None:
        if 0 <= row < len(self.rows):
            self.faces_hovered.emit(self.rows[row][len(COLUMNS) :])

    def done(self, result: int) -> None:
        self.session.builds.compared.disconnect(self._take)
        self.faces_hovered.emit(())
        super().done(result)


def _row(d: Difference) -> tuple[str, ...]:
    return (SIGNS[d.kind], d.what, d.before, d.after)
