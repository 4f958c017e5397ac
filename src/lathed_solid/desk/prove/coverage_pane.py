"""Coverage both ways, and the volume as a sum of steps that a person can follow."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.engine.protocol import BuildReply
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.proof.coverage import Coverage, coverage
from lathed_solid.proof.itemised import VolumeLine, itemised, sum_words
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import volume, volume_change


def relation_words(report: Report) -> str:
    """What holds of the relations as modelled."""
    found = report.relations
    if not found:
        return ""
    broken = [r for r in found if not r.holds]
    if broken:
        told = "; ".join(f"{' and '.join(r.faces)} {r.kind}, off by {r.deviation:.3g} {r.unit}" for r in broken[:3])
        return f" ■ {len(broken)} of {len(found)} relations do not hold on the solid: {told}."
    return f" ○ All {len(found)} relations as modelled (parallel, square, concentric …) hold on the solid."


class CoveragePane(QWidget):
    """Emits the faces to light up."""

    faces_hovered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.found: Coverage | None = None
        self._unit: LengthUnit = "mm"
        self.head = QLabel()
        self.head.setWordWrap(True)
        self.head.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.model = RowModel([
            Column("step", lambda r: str(r[0]), width=58),
            Column("faces that no callout speaks of", lambda r: ", ".join(r[1]), width=300,
                   tip=lambda r: "\n".join(r[1])),
            Column("how many", lambda r: str(len(r[1])), look="number", width=70),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Faces without a callout"))
        self.view.row_hovered.connect(self._light)
        self.view.row_chosen.connect(self._light)
        self.sum = QLabel()
        self.sum.setWordWrap(True)
        self.sum.setFont(theme.font(13))
        self.lines = RowModel([
            Column("step", lambda k: str(k.step), width=58),
            Column("what", lambda k: k.what, width=200),
            Column("volume", lambda k: volume_change(k.volume, self._unit, 2), look="number", width=116),
            Column("so far", lambda k: volume(k.total, self._unit), look="number", width=116),
        ])  # fmt: skip
        self.items = RowView(self.lines)
        self.items.setAccessibleName(spoken("Volume by steps"))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.head)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.sum)
        layout.addWidget(self.items, 1)
        layout.addStretch(0)

    def show_part(self, document: Document, reply: BuildReply | None) -> None:
        """Faces that no callout measures, and the sum of the steps, of the last build."""
        self._unit = document.unit
        if reply is None or not reply.labels:
            self.found = None
            self.head.setText(spoken("There is no solid yet: a step at the Shape desk makes one."))
            for model, view in ((self.model, self.view), (self.lines, self.items)):
                model.set_rows(())
                view.hide()
            self.sum.setText("")
            return
        self.found = found = coverage(document, reply.report, reply.labels)
        unused = ", ".join(map(str, found.unused))
        left = f"Callouts that prove nothing yet: {unused}. " if unused else "Every callout is used. "
        bare = (f"{found.count} of {found.faces} faces are not covered by any dimension." if found.count
                else f"All {found.faces} faces are covered.")  # fmt: skip
        self.head.setText(spoken(left + bare + relation_words(reply.report)))
        self.model.set_rows(found.bare)
        self.view.setVisible(bool(found.bare))
        lines: tuple[VolumeLine, ...] = itemised(document, reply.steps)
        self.lines.set_rows(lines)
        self.items.setVisible(bool(lines))
        self.sum.setText(spoken(sum_words(document, lines)))

    def _light(self, row: Any) -> None:
        self.faces_hovered.emit(tuple(row[1]) if row is not None else ())
