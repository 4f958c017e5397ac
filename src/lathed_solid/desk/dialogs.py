"""Small dialogs: part properties, parameters, help, recovery."""

from __future__ import annotations

import math
from typing import Any

from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.choice import Choice
from lathed_solid.desk.language import spoken
from lathed_solid.errors import LathedError
from lathed_solid.ledger import HouseRule
from lathed_solid.part import BodyMaterial, Document, DocumentError, Parameter, StatedMass, StatedVolume, scope
from lathed_solid.part.edits import changed, redress
from lathed_solid.quantity import evaluate
from lathed_solid.quantity.volume import parse_volume
from lathed_solid.standards import material, materials
from lathed_solid.workbench.beginning import GENERAL, general_from, general_words


class _EditDialog(QDialog):
    """A dialog that gives a new document, or says why it cannot and stays open."""

    def __init__(self, parent: QWidget, title: str, document: Document) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken(title))
        self.setMinimumWidth(460)
        self.document = document
        self.result_document = document
        self.outer = QVBoxLayout(self)
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        self.problem.setWordWrap(True)
        self.problem.hide()
        kind = QDialogButtonBox.StandardButton
        self.buttons = QDialogButtonBox(kind.Ok | kind.Cancel)
        theme.by_words(self.buttons)
        self.buttons.accepted.connect(self._try)
        self.buttons.rejected.connect(self.reject)

    def finish_layout(self) -> None:
        self.outer.addWidget(self.problem)
        self.outer.addWidget(self.buttons)

    def _try(self) -> None:
        try:
            self.result_document = self.edited()
        except LathedError as exc:
            self.problem.setText(spoken(exc.message))
            self.problem.show()
            return
        self.accept()

    def edited(self) -> Document:
        return self.document


def _body_material(text: str) -> BodyMaterial:
    """``50: CuSn8``. Raises DocumentError or StandardError."""
    number, colon, name = text.partition(":")
    if not colon or not number.strip().isdigit():
        raise DocumentError("a body's material reads: step: material", received=text.strip(), hint="50: CuSn8")
    material(name.strip())
    return BodyMaterial(step=int(number), material=name.strip())


class PropertiesDialog(_EditDialog):
    """Name, unit, material, general tolerance, stated mass."""

    def __init__(self, parent: QWidget, document: Document) -> None:
        super().__init__(parent, "Part properties", document)
        form = QFormLayout()
        self.name = QLineEdit(document.name)
        self.unit = QComboBox()
        self.unit.addItems(["mm", "in"])
        self.unit.setCurrentText(document.unit)
        self.material = QComboBox()
        self.material.setEditable(True)
        self.material.setToolTip(spoken("From the table, or your own with its density: oak 0.70 g/cm3 ±8 %"))
        self.material.addItems(list(materials()))
        if document.material not in materials():
            self.material.addItem(document.material)
        self.material.setCurrentText(document.material)
        self.bodies = QLineEdit("; ".join(f"{b.step}: {b.material}" for b in document.body_materials))
        self.bodies.setPlaceholderText(spoken("all of that material; or e.g. 50: CuSn8; 70: oak 0.70 g/cm3"))
        self.bodies.setToolTip(spoken("Bodies of another material, by the step that begins them"))
        self.general = QComboBox()
        self.general.setEditable(True)
        self.general.setToolTip(
            spoken("A class of ISO 2768, or as it is written: ±0.1 mm, angles ±0.5°; .XX ±.01 .XXX ±.005")
        )
        self.general.addItems(list(GENERAL))
        self.general.setCurrentText(general_words(document.general))
        house = document.house
        self.house = QLineEdit("" if house is None else f"{house.length:g} mm; {house.angle_deg:g}°")
        self.house.setPlaceholderText(spoken("none: such sizes are without a limit; e.g. 0.1 mm; 1°"))
        self.house.setToolTip(
            spoken("Plus or minus on sizes that the general tolerance does not cover: a length, an angle")
        )
        mass = document.stated_mass
        self.mass = QLineEdit("" if mass is None else f"{mass.grams:g} g")
        self.mass.setPlaceholderText(spoken("not stated; e.g. 1182 g or 1.2 kg"))
        volume = document.stated_volume
        self.volume = QLineEdit("" if volume is None else f"{volume.mm3:.9g} mm3")
        self.volume.setPlaceholderText(spoken("not stated; e.g. 150.8 cm3 or 23.67 in3"))
        self.volume.setToolTip(
            spoken(
                "Believed to half of its last digit; goes before a mass. Weighed in air and under "
                "water: 1182 g - 1031.5 g"
            )
        )
        self.instructions = QPlainTextEdit("\n".join(document.instructions))
        self.instructions.setPlaceholderText(spoken("none; e.g. DEBURR, HARDEN TO 58-62 HRC"))
        self.instructions.setToolTip(spoken("One a line: printed on the drawing and on the machinist's sheet"))
        self.instructions.setTabChangesFocus(True)
        self.instructions.setFixedHeight(64)
        self.source = Choice("mass")
        self.source.addItems(["scale", "drawing"])
        self.resolution = QLineEdit("1" if mass is None else f"{mass.resolution:g}")
        self.tolerance = QLineEdit("0" if mass is None else f"{mass.tolerance:g}")
        if mass is not None:
            self.source.setCurrentText(mass.source)
        for label, widget in (
            ("name", self.name), ("unit of the sheet", self.unit), ("material", self.material),
            ("other bodies", self.bodies),
            ("general tolerance", self.general), ("rule for other sizes, ±", self.house), ("stated mass", self.mass),
            ("stated by", self.source), ("scale resolution, g", self.resolution), ("tolerance, g", self.tolerance),
            ("stated volume", self.volume), ("words for the shop", self.instructions),
        ):  # fmt: skip
            form.addRow(spoken(label), widget)
        self.outer.addLayout(form)
        self.finish_layout()

    def edited(self) -> Document:
        """The document with what stands in the fields. Raises LathedError for what is not understood."""
        mass = None
        if self.mass.text().strip():
            mass = changed(
                StatedMass(grams=1.0),
                grams=evaluate(self.mass.text(), "mass"),
                source=self.source.currentText(),
                resolution=evaluate(self.resolution.text(), "mass"),
                tolerance=evaluate(self.tolerance.text(), "mass"),
            )
        volume = self.document.stated_volume
        if self.volume.text().strip() != ("" if volume is None else f"{volume.mm3:.9g} mm3"):
            volume = None
            if self.volume.text().strip():
                mm3, half = parse_volume(self.volume.text(), self.document.unit)
                volume = StatedVolume(mm3=mm3, tolerance=half)
        if self.material.currentText() != self.document.material:
            material(self.material.currentText())
        others = tuple(_body_material(part) for part in self.bodies.text().split(";") if part.strip())
        general = self.document.general
        if self.general.currentText() != general_words(general):
            general = general_from(self.general.currentText(), self.document.unit)
        return changed(
            self.document, name=self.name.text().strip(), unit=self.unit.currentText(),
            material=self.material.currentText(), general=general, house=self._house_rule(), stated_mass=mass,
            stated_volume=volume, body_materials=others,
            instructions=tuple(w.strip() for w in self.instructions.toPlainText().splitlines() if w.strip()),
        )  # fmt: skip

    def _house_rule(self) -> HouseRule | None:
        """What is typed beside the general tolerance: a length, then an angle. Raises QuantityError."""
        parts = [p.strip() for p in self.house.text().split(";") if p.strip()]
        if not parts:
            return None
        values: dict[str, Any] = {"length": evaluate(parts[0], "length", self.document.unit)}
        if len(parts) > 1:
            values["angle_deg"] = math.degrees(evaluate(parts[1], "angle"))
        return changed(HouseRule(), **values)


class RedressDialog(_EditDialog):
    """What the drawing says, what is decided on instead, and why."""

    def __init__(self, parent: QWidget, document: Document, balloon: int) -> None:
        super().__init__(parent, f"A decision on callout {balloon}", document)
        self.balloon = balloon
        note = document.note_of(balloon)
        earlier = note.redress if note is not None else None
        written = note.text if note is not None else ""
        drawn = QLabel(spoken(earlier.drawn if earlier is not None else written))
        drawn.setFont(theme.drawing(16))
        drawn.setWordWrap(True)
        self.decided, self.reason = QLineEdit(written), QLineEdit(earlier.reason if earlier is not None else "")
        self.decided.setToolTip(spoken("The drawing's own text takes the decision back."))
        self.reason.setPlaceholderText(spoken("who decided, on what ground"))
        form = QFormLayout()
        rows = (("the drawing says", drawn), ("decided on", self.decided), ("because", self.reason))
        for label, widget in rows:
            widget.setAccessibleName(spoken(label))
            form.addRow(spoken(label), widget)
        self.outer.addLayout(form)
        self.finish_layout()
        self.decided.selectAll()

    def edited(self) -> Document:
        """The document with the decision. Raises LathedError."""
        return redress(self.document, self.balloon, self.decided.text(), self.reason.text())


class ParametersDialog(_EditDialog):
    """Parameters as lines ``name = expression``."""

    def __init__(self, parent: QWidget, document: Document) -> None:
        super().__init__(parent, "Parameters", document)
        self.outer.addWidget(
            QLabel(spoken("One on a line: name = expression. Callouts are #7; other parameters by name."))
        )
        self.text = QPlainTextEdit("\n".join(f"{p.name} = {p.expression}" for p in document.parameters))
        self.text.setAccessibleName(spoken("named sizes, one a line"))
        self.text.setPlaceholderText(spoken("wall = 4\nseat = #3 + 2*wall"))
        self.text.setFont(theme.font(14))
        self.text.setMinimumHeight(180)
        self.outer.addWidget(self.text)
        self.finish_layout()

    def edited(self) -> Document:
        """The document with the parameters as they are written. Raises DocumentError, naming the line."""
        from lathed_solid.part import DocumentError

        parameters = []
        for number, line in enumerate(self.text.toPlainText().splitlines(), 1):
            if not line.strip():
                continue
            name, equals, expression = line.partition("=")
            if not equals:
                raise DocumentError("an equals sign is missing", where=f"line {number}", hint="wall = 4")
            blank = Parameter(name="x", expression="0")
            try:
                parameters.append(changed(blank, name=name.strip(), expression=expression.strip()))
            except DocumentError as exc:
                raise exc.at(f"line {number}") from None
        result = changed(self.document, parameters=tuple(parameters))
        scope(result)  # refuses names that cannot be evaluated
        return result
