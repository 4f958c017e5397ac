"""Measuring by hand: pick one or two things in the solid, and all that can sensibly be said of them stands here.

What can be found again after an edit is kept as a check: a callout of its own, proven like any other.
"""

from __future__ import annotations

import math

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QInputDialog, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.engine.protocol import Measured
from lathed_solid.kernel.figures import Hand
from lathed_solid.ledger import Callout, CalloutKind, Probe
from lathed_solid.part import Document
from lathed_solid.part.edits import next_balloon, put_callout
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle, area, fixed, length, volume
from lathed_solid.quantity.units import unit_factor

#: callout kinds of what is kept, by the probe
KINDS: dict[str, CalloutKind] = {
    "diameter": "diameter", "diameter_at": "diameter", "radius": "radius", "depth": "depth",
    "angle": "angle", "included": "angle", "cone_angle": "angle",
}  # fmt: skip


def kept_as_check(document: Document, size: Hand) -> Document:
    """The document with a callout that holds the size as it is measured now, on the same faces."""
    kind: CalloutKind = KINDS.get(size.kind, "length")
    sign = {"diameter": "⌀", "radius": "R"}.get(kind, "")
    shown = angle(size.value) if kind == "angle" else sign + length(size.value, document.unit)
    places = 3 if document.unit == "mm" else 4
    callout = Callout(
        balloon=next_balloon(document), note=shown, kind=kind, nominal=size.value,
        meaning=f"{size.label}, by hand", unit=document.unit, source="by hand", decimals=places,
        measure=Probe(kind=size.kind, faces=size.faces),
    )  # fmt: skip
    return put_callout(document, callout)


class HandPane(QWidget):
    """Emits an edit (a size kept as a check), and that it wants to be measured (with the mesh or without)."""

    edited = pyqtSignal(str, object)
    proved = pyqtSignal(int, object)  # balloon, Probe
    wanted = pyqtSignal(bool)

    def __init__(self) -> None:
        super().__init__()
        self.unit: LengthUnit = "mm"
        self.document = Document()
        self.head = QLabel(spoken("Pick a face or an edge in the solid; then another, for what lies between them."))
        self.head.setWordWrap(True)
        self.head.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.keep = QPushButton(spoken("keep as a check"))
        self.keep.setToolTip(spoken("A callout of its own: measured on the same faces after every edit"))
        self.keep.clicked.connect(self._keep)
        self.prove = QPushButton(spoken("prove a callout by it…"))
        self.prove.setToolTip(spoken("Measure a callout of the ledger this way, on these faces"))
        self.prove.clicked.connect(self._prove)
        self.mesh = QPushButton(spoken("volume by a mesh"))
        self.mesh.setToolTip(spoken("A second way to the volume, by triangles, with its estimated error"))
        self.mesh.clicked.connect(lambda: self.wanted.emit(True))
        row = QHBoxLayout()
        for button in (self.keep, self.prove, self.mesh):
            row.addWidget(button)
        row.addStretch(1)
        self.model = RowModel([
            Column("what", lambda h: h.label, width=200),
            Column("size", self._shown, look="number", width=110),
            Column("", lambda h: "can be kept" if h.kind else "", width=110,
                   tip=lambda h: " and ".join(h.faces)),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Sizes by hand"))
        self.view.row_chosen.connect(self._choose)
        self.more = QLabel()
        self.more.setWordWrap(True)
        self.more.setFont(theme.font(13))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.head)
        layout.addLayout(row)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.more)
        layout.addStretch(0)
        self._choose(None)
        self.view.hide()

    def _choose(self, size: Hand | None) -> None:
        for button in (self.keep, self.prove):
            button.setEnabled(bool(size and size.kind))

    def _shown(self, h: Hand) -> str:
        if h.unit == "rad":
            return angle(h.value, 3)
        if h.unit == "g mm2":
            return f"{h.value:.5g} g mm²"
        return area(h.value, self.unit) if h.unit == "mm2" else f"{fixed(h.value, self.unit)} {self.unit}"

    def set_document(self, document: Document) -> None:
        """The document whose callouts can be proven, and its unit."""
        self.unit, self.document = document.unit, document

    def show_measured(self, names: list[str], found: Measured, exact: float) -> None:
        """What was measured on the things of these names; ``exact``: the volume by the boundary."""
        if names:
            self.head.setText(spoken(" and ".join(names)))
        self.model.set_rows(found.sizes)
        self.view.setVisible(bool(found.sizes))
        if found.sizes:
            self.view.selectRow(0)
        words = []
        if found.section is not None:
            s = found.section
            centre = " / ".join(fixed(x, self.unit) for x in s.centre)
            least, most = (m / unit_factor(self.unit) ** 4 for m in s.principal)
            words.append(
                f"section: {area(s.area, self.unit)}, centroid {centre} {self.unit}, "
                f"second moments {least:.4g} and {most:.4g} {self.unit}⁴"
            )
        if found.mesh is not None:
            by_mesh, error = (volume(v, self.unit, 1) for v in found.mesh)
            words.append(f"volume by a mesh {by_mesh} ± {error}; by the exact boundary {volume(exact, self.unit)}")
        self.more.setText(spoken("\n".join(words)))

    def _keep(self) -> None:
        size = self.view.current_row()
        if size is not None and size.kind and math.isfinite(size.value) and size.value > 0:
            self.edited.emit(f"check {size.label}", lambda d: kept_as_check(d, size))

    def _prove(self) -> None:
        """Choose the callout; those nearest to the size come first."""
        size = self.view.current_row()
        if size is None or not size.kind:
            return
        turning = size.unit == "rad"
        fitting = [c for c in self.document.callouts if (c.kind == "angle") == turning]
        fitting.sort(key=lambda c: abs(c.nominal - size.value))
        names = [f"{c.balloon}   {c.show()}   {c.meaning}" for c in fitting]
        if not names:
            return
        name, ok = QInputDialog.getItem(
            self, "Prove a callout by it", "The callout that this size proves:", names, 0, False
        )
        if ok:
            self.prove_by(fitting[names.index(name)].balloon, size)

    def prove_by(self, balloon: int, size: Hand) -> None:
        """The callout is measured this way from now on."""
        self.proved.emit(balloon, Probe.model_validate({"kind": size.kind, "faces": size.faces}))
