"""The strip under the drawing: sizes to type while drawing, relations for what is picked, a dimension's value."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QSizePolicy

from lathed_solid.desk import theme
from lathed_solid.desk.fields import ExpressionField
from lathed_solid.desk.language import spoken
from lathed_solid.desk.sketch.beside import Beside
from lathed_solid.errors import LathedError
from lathed_solid.part import Scope
from lathed_solid.sketch.constraints import KINDS
from lathed_solid.sketch.edits import has_other_side
from lathed_solid.sketch.model import Constraint
from lathed_solid.workbench.sketch.dimensioning import meaning_words
from lathed_solid.workbench.sketch.keys import DIGITS
from lathed_solid.workbench.sketch.ordinates import is_place
from lathed_solid.workbench.sketch.relations import OfferedRelation
from lathed_solid.workbench.sketch.tools import Tool

ScopeOf = Callable[[], Scope]
OTHER_SIDE = "Measured on the other side, or touching there (I)"

#: what is built on picked regions, by its key: the kind of step, and the words
BUILDS = {"E": ("extrude", "extrude"), "X": ("cut", "cut"), "R": ("revolve", "revolve"),
          "T": ("revolve-cut", "turn away")}  # fmt: skip
#: whatever is in hand, pixels: the drawing above it stays where it is
HEIGHT = 40


class Strip(Beside):
    """One line of what is in hand; it changes with the mode and the pick."""

    sizes_changed = pyqtSignal(dict, dict)
    entered = pyqtSignal()
    relation_wanted = pyqtSignal(object)
    meaning_wanted = pyqtSignal(object)
    centreline_toggled = pyqtSignal()
    removed = pyqtSignal()
    construction_toggled = pyqtSignal()
    value_given = pyqtSignal(str)
    reference_toggled = pyqtSignal(bool)
    build_wanted = pyqtSignal(str)
    other_side_wanted = pyqtSignal()
    footing_wanted = pyqtSignal(str, str)
    place_given = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(HEIGHT)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(12, 4, 12, 4)
        outer.setSpacing(10)
        # what does not fit is cut off: the window is never made wider by it
        outer.setSizeConstraint(QHBoxLayout.SizeConstraint.SetNoConstraint)
        self.row = QHBoxLayout()
        self.row.setSpacing(4)
        outer.addLayout(self.row)
        self.second = QLabel("")
        self.second.setObjectName("quiet")
        self.second.setFont(theme.narrow(12))
        self.second.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.second.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        outer.addWidget(self.second, 1)
        self.fields: dict[str, ExpressionField] = {}
        self.value: ExpressionField | None = None
        self.place: QLineEdit | None = None
        self.hint = ""
        self._scope: ScopeOf | None = None
        self._key: object = None
        self._builds: dict[str, tuple[str, str]] = {}

    def _clear(self) -> None:
        while self.row.count():
            item = self.row.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.fields, self.value, self.place = {}, None, None

    def _label(self, text: str, about: str = "") -> None:
        label = QLabel(spoken(text, about))
        label.setFont(theme.narrow(13))
        self.row.addWidget(label)

    def _button(self, text: str, run: Callable[[], object], tip: str = "") -> QPushButton:
        button = QPushButton(spoken(text))
        button.setFont(theme.narrow(12))
        button.setFixedHeight(24)
        button.setStyleSheet("padding: 0 6px;")
        button.setToolTip(spoken(tip))
        # it goes with what is picked: the keyboard stays with the drawing
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        button.clicked.connect(lambda _=False: run())
        self.row.addWidget(button)
        return button

    def set_hint(self, words: str) -> None:
        """What the next click does."""
        self.hint = words
        if self.fields or words:
            self.second.setText(spoken(words + (" · N infers nothing" if self.fields else "")))

    # contents ------------------------------------------------------------------------------------
    def show_sizes(self, tool: Tool, scope: ScopeOf) -> None:
        """Fields for the sizes of a tool."""
        if self._key == tool.id and self.place is not None:
            for field in self.fields.values():
                field.set_text("")
            self.place.clear()
            return
        self._key = tool.id
        self._clear()
        self._scope = scope
        self._label(tool.title, "sketch")
        for label, kind in tool.fields:
            self._label(label)
            field = ExpressionField(kind, empty="free", name=label)  # type: ignore[arg-type]
            field.set_scope(scope)
            field.setMaximumWidth(170)
            field.line.textChanged.connect(lambda _t, f=field: self._typed_in(f))
            field.line.returnPressed.connect(self._enter)
            self.fields[label] = field
            self.row.addWidget(field)
        self._label("at")
        self.place = QLineEdit()
        self.place.setPlaceholderText(spoken("x ; y"))
        self.place.setAccessibleName(spoken("place by numbers"))
        self.place.setToolTip(
            spoken("Ordinates from the origin, 27;14.5: each becomes a dimension; 27; or ;14.5 gives one")
        )
        self.place.setMaxLength(400)
        self.place.setMaximumWidth(120)
        self.place.returnPressed.connect(self._enter_place)
        self.row.addWidget(self.place)
        self.set_hint(self.hint)

    def _enter_place(self) -> None:
        if self.place is not None:
            self.place_given.emit(self.place.text())

    def begin_place(self, text: str) -> None:
        """A character typed over the drawing goes into the place by numbers."""
        if self.place is not None:
            self.place.setFocus()
            self.place.setText(spoken(text))

    def _typed_in(self, field: ExpressionField) -> None:
        """A size, unless it turns out to be a place."""
        text = field.text()
        if is_place(text) and self.place is not None:
            field.set_text("")
            self.begin_place(text)
        self._sizes()

    def _sizes(self) -> None:
        texts: dict[str, str] = {}
        values: dict[str, float] = {}
        for label, field in self.fields.items():
            if field.text() and self._scope is not None:
                try:
                    values[label] = self._scope()(field.text(), field.kind)
                except LathedError:
                    continue
                texts[label] = field.text()
        self.sizes_changed.emit(texts, values)

    def _enter(self) -> None:
        self._sizes()
        self.entered.emit()
        self.left.emit()

    def clear_sizes(self) -> None:
        """No size is typed."""
        for field in self.fields.values():
            field.set_text("")
        if self.place is not None:
            self.place.clear()
        self._sizes()

    def begin_typing(self, label: str, text: str) -> None:
        """A character typed over the drawing goes into the field of a size."""
        field = self.fields.get(label)
        if field is not None:
            field.line.setFocus()
            field.line.setText(text)

    def show_chosen(
        self,
        names: tuple[str, ...],
        relations: list[OfferedRelation],
        on: list[tuple[str, str]],
        *,
        turns: bool = False,
    ) -> None:
        """Relations that can be put on the pick, the n-th by the digit n, and those it has; ``turns``: what is picked
        is a relation with another side.
        """
        self._key = None
        self._clear()
        self._label(", ".join(names[:4]) + (f" and {len(names) - 4} more" if len(names) > 4 else ""))
        for n, offer in enumerate(relations, 1):
            tip = f"Key {n}" if n <= DIGITS else ""
            self._button(offer.words, lambda o=offer: self.relation_wanted.emit(o), tip)  # type: ignore[misc]
        if turns:
            self._button("other side", self.other_side_wanted.emit, OTHER_SIDE)
        self._button("construction", self.construction_toggled.emit, "Drawn to measure by, bounds nothing")
        self._button("centreline", self.centreline_toggled.emit, "Turned about: diameters go across it")
        self._button("remove", self.removed.emit, "Delete")
        self.second.setText(spoken("  ·  ".join(text for _, text in on)))
        self.second.setToolTip(spoken("\n".join(text for _, text in on)))

    def show_dimension(
        self,
        c: Constraint,
        text: str,
        scope: ScopeOf,
        *,
        new: bool = False,
        meanings: Sequence[Constraint] = (),
        footings: Sequence[tuple[str, str]] = (),
    ) -> None:
        """A dimension's expression; of a new one, what else it could mean; of another, where else it could stand."""
        self._key = None
        self._clear()
        self._label(KINDS[c.kind].words)
        if not KINDS[c.kind].dimension:
            self._button("remove", self.removed.emit, "Delete")
            return
        field = ExpressionField(KINDS[c.kind].dimension, name="value")  # type: ignore[arg-type]
        field.set_scope(scope)
        field.set_text(c.value)
        field.line.returnPressed.connect(lambda: self.value_given.emit(field.text()))
        self.value = field
        self.row.addWidget(field, 1)
        for other in meanings:
            self._button(meaning_words(other, c), lambda o=other: self.meaning_wanted.emit(o))  # type: ignore[misc]
        for old, at in footings:
            self._button(f"from {at}, not {old}", lambda o=old, n=at: self.footing_wanted.emit(o, n))  # type: ignore[misc]
        if not new and has_other_side(c):
            self._button("other side", self.other_side_wanted.emit, OTHER_SIDE)
        if not new:
            box = QCheckBox(spoken("reference"))
            box.setChecked(c.reference)
            box.toggled.connect(self.reference_toggled)
            self.row.addWidget(box)
            self._button("remove", self.removed.emit, "Delete")
        self.second.setText(spoken(f"{text} · a number, a sum, or #7 for callout 7; Enter takes it"))
        if new:
            self.focus_value()

    def focus_value(self) -> None:
        """The keyboard for the dimension's value."""
        if self.value is not None:
            self.value.line.setFocus()
            self.value.line.selectAll()

    def type_value(self, text: str) -> None:
        """A character typed over the drawing begins the dimension's value anew."""
        if self.value is not None:
            self.value.line.setFocus()
            self.value.line.setText(text)

    def show_regions(self, picked: int, all_: int) -> None:
        """What to build on the picked regions."""
        self._key = None
        self._clear()
        self._label(f"{picked or 'all'} of {all_} regions" if all_ else "nothing is enclosed yet")
        self._builds = BUILDS if all_ else {}
        for key, (kind, words) in self._builds.items():
            self._button(f"{words} ({key})", lambda k=kind: self.build_wanted.emit(k))  # type: ignore[misc]
        self.second.setText(spoken(self.hint))

    def build(self, key: str) -> bool:
        """What a key makes of the picked regions; False when it makes nothing of them."""
        kind, _ = self._builds.get(key, ("", ""))
        if kind:
            self.build_wanted.emit(kind)
        return bool(kind)

    def show_nothing(self, entities: int, constraints: int) -> None:
        """Nothing is chosen: how much there is."""
        self._key = None
        self._clear()
        self._label(f"{entities} entities, {constraints} constraints" if entities else "")
        self.second.setText(
            spoken("click picks, Shift adds, a double click takes a chain; Home fits" if entities else "")
        )
