"""The Prove desk: the mass box, and beneath it verdicts (worst first), suspects, what matters, coverage, and checks.

Hovering a row lights its faces.
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QModelIndex, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.ledger_drawer import LedgerRow
from lathed_solid.desk.prove.coverage_pane import CoveragePane
from lathed_solid.desk.prove.exercise_pane import ExercisePane
from lathed_solid.desk.prove.hand_pane import HandPane
from lathed_solid.desk.prove.matters_pane import MattersPane
from lathed_solid.desk.prove.suspects_pane import SuspectsPane
from lathed_solid.desk.prove.witness_pane import WitnessPane
from lathed_solid.desk.row_table import RowModel, RowView
from lathed_solid.desk.tab_row import tab_row
from lathed_solid.engine.protocol import BuildReply
from lathed_solid.part import Document
from lathed_solid.part.names import split
from lathed_solid.proof import MassVerdict
from lathed_solid.proof.expected import FINEST
from lathed_solid.quantity.formatting import area, fixed, volume
from lathed_solid.workbench.describe import grams
from lathed_solid.workbench.tables.verdict_rows import Line, alarming, columns, duties_of, unfolded

ORDER = {"out": 0, "not found": 1, "no limit": 2, "near": 3, "in": 4}
#: so many thin walls are told, the thinnest first
SHOWN_WALLS = 4
FILTERS = ("all", "in", "near", "out", "no limit", "not found")
TABS = (
    ("verdicts", "every callout, measured on the solid"),
    ("suspects", "which slip explains that mass or volume is not as stated"),
    ("what matters", "how much of the mass hangs on each size, and on its tolerance"),
    ("coverage", "callouts that prove nothing, faces that no callout speaks of, and the volume as a sum"),
    ("drawing", "the sheet laid over the part: lines that one has and the other has not"),
    ("by hand", "pick one or two things: distances, angles, walls, areas, sections"),
    ("exercise", "what is right, and what is left to mend"),
)


class ProvePage(QWidget):
    """Emits rows hovered and chosen."""

    hovered = pyqtSignal(object)
    chosen = pyqtSignal(object)
    mass_asked = pyqtSignal()
    #: a body's number, and whether it is meant to stand in several pieces
    pieces_answered = pyqtSignal(int, bool)

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._rows: tuple[LedgerRow, ...] = ()
        self._filter = "all"
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        title = QLabel(spoken("PROOF — measured on the finished solid, through its named faces"))
        title.setObjectName("caption")
        title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        title.setContentsMargins(12, 10, 12, 8)
        layout.addWidget(title)
        layout.addWidget(self._mass_box())
        self.standing = QVBoxLayout()
        self.standing.setContentsMargins(12, 0, 12, 0)
        self.standing.setSpacing(2)
        layout.addLayout(self.standing)
        tabs, self.tabs = tab_row(self, TABS, self.show_tab)
        layout.addLayout(tabs)
        #: balloons whose duties are shown
        self._unfolded: set[int] = set()
        self.model = RowModel(columns(self._unfolded), alarm=alarming)
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Verdicts"))
        self.view.row_hovered.connect(self.hovered)
        self.view.row_chosen.connect(self.chosen)
        self.view.clicked.connect(self._clicked)
        self.view.installEventFilter(self)
        self.empty = QLabel("")
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty.setWordWrap(True)
        verdicts = QWidget()
        inner = QVBoxLayout(verdicts)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(0)
        inner.addLayout(self._filter_bar())
        inner.addWidget(self.view, 1)
        inner.addWidget(self.empty, 1)
        self.suspects, self.matters = SuspectsPane(background), MattersPane(background)
        self.coverage, self.hand = CoveragePane(), HandPane()
        self.witness = WitnessPane(background)
        self.witness.judged.connect(lambda words: self.figures["drawing"].setText(spoken(words or "–")))
        self.exercise = ExercisePane()
        self.exercise.suspects_wanted.connect(lambda: self._turn_and_start(1, self.suspects.start))
        self.exercise.drawing_wanted.connect(lambda: self._turn_and_start(4, self.witness.start))
        self.tabs[6].hide()
        self.stack = QStackedWidget()
        for pane in (verdicts, self.suspects, self.matters, self.coverage, self.witness, self.hand, self.exercise):
            self.stack.addWidget(pane)
        layout.addWidget(self.stack, 1)

    def _mass_box(self) -> QFrame:
        box = QFrame()
        box.setObjectName("massbox")
        outer = QHBoxLayout(box)
        outer.setContentsMargins(12, 8, 12, 8)
        grid = QGridLayout()
        grid.setHorizontalSpacing(16)
        grid.setVerticalSpacing(2)
        self.figures: dict[str, QLabel] = {}
        names = ("volume", "area", "model mass", "stated mass", "difference", "centre", "drawing")
        for i, name in enumerate(names):
            label, value = QLabel(spoken(name)), QLabel("–")
            label.setObjectName("quiet")
            label.setFont(theme.narrow(12))
            value.setFont(theme.font(13, theme.QFont.Weight.Medium))
            value.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
            row, column = (i % 3, (i // 3) * 2) if i < 6 else (3, 0)
            grid.addWidget(label, row, column)
            grid.addWidget(value, row, column + 1)
            self.figures[name] = value
        outer.addLayout(grid, 1)
        self.state = QPushButton(spoken("state mass…"))
        self.state.setFont(theme.narrow(12))
        self.state.setToolTip(spoken("Enter the mass on the drawing or on the scale"))
        self.state.clicked.connect(self.mass_asked)
        outer.addWidget(self.state, 0, Qt.AlignmentFlag.AlignTop)
        holder = QFrame()
        inner = QVBoxLayout(holder)
        inner.setContentsMargins(12, 0, 12, 8)
        inner.addWidget(box)
        return holder

    def show_tab(self, index: int) -> None:
        """Turn to verdicts, suspects, what matters, coverage, or measuring by hand."""
        if self.stack.currentIndex() == 1 and index != 1:
            self.suspects.leave()
        self.tabs[index].setChecked(True)
        self.stack.setCurrentIndex(index)

    def _turn_and_start(self, tab: int, start: Callable[[], None]) -> None:
        self.show_tab(tab)
        start()

    def choose_face(self, label: str) -> bool:
        """The next verdict (after the chosen one) that was measured on a picked face; False when none was."""
        atoms = set(split(label, "+"))
        rows = [i for i, r in enumerate(self.model.rows) if r.verdict is not None and atoms & set(r.verdict.faces)]
        if not rows or self.stack.currentIndex() != 0:
            return False
        now = self.view.currentIndex().row()
        self.view.selectRow(next((i for i in rows if i > now), rows[0]))
        return True

    @property
    def tab(self) -> str:
        """Which pane is shown, by its name."""
        return TABS[self.stack.currentIndex()][0]

    @property
    def by_hand(self) -> bool:
        """Whether picks are to be measured."""
        return self.stack.currentWidget() is self.hand

    def set_part(self, document: Document, reply: BuildReply | None) -> None:
        """The part as it is and as it was built last."""
        self.suspects.show_part(document, reply)
        self.matters.show_part(document)
        self.hand.set_document(document)
        self.coverage.show_part(document, reply)
        self.witness.show_part(document)
        self.exercise.show_part(document, reply)
        self.tabs[6].setVisible(bool(document.exercise))
        if not document.exercise and self.stack.currentWidget() is self.exercise:
            self.show_tab(0)
        if document.stated_volume is not None and reply is not None and reply.summary["solids"]:
            off = reply.summary["volume_mm3"] - document.stated_volume.mm3
            band = max(document.stated_volume.tolerance, FINEST * document.stated_volume.mm3)
            sign, word = ("○", "in") if abs(off) <= band else ("■", "out")
            stated, differs = (volume(v, document.unit, 1) for v in (document.stated_volume.mm3, off))
            plus = "+" if off > 0 else ""
            self.figures["stated mass"].setText(spoken(f"volume {stated}"))
            self.figures["difference"].setText(
                spoken(f"{plus}{differs}   {sign} {word} ± {volume(band, document.unit, 1)}")
            )
        bare = self.coverage.found.count if self.coverage.found is not None else 0
        self.tabs[3].setText(spoken(f"coverage {bare}" if bare else "coverage"))

    def stop_asking(self) -> None:
        """Give up what is asked of the crew."""
        self.suspects.asking.stop()
        self.matters.asking.stop()

    def _filter_bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 0, 12, 6)
        bar.setSpacing(4)
        self.group = QButtonGroup(self)
        for i, word in enumerate(FILTERS):
            button = QPushButton(spoken(word))
            button.setFont(theme.narrow(12))
            button.setFixedHeight(24)
            button.setCheckable(True)
            button.setChecked(i == 0)
            self.group.addButton(button, i)
            bar.addWidget(button)
        self.group.idClicked.connect(self._set_filter)
        bar.addStretch(1)
        self.all_duties = QPushButton(spoken("duties"))
        self.all_duties.setFont(theme.narrow(12))
        self.all_duties.setFixedHeight(24)
        self.all_duties.setCheckable(True)
        self.all_duties.setToolTip(
            spoken("Unfold every row to what its note asks; of one row → and ← (or a click on +)")
        )
        self.all_duties.toggled.connect(self._unfold_all)
        bar.addWidget(self.all_duties)
        return bar

    def unfold(self, line: Line | None, way: bool | None = None) -> None:
        """Show (True) or fold away (False) the duties of a row; None turns it round."""
        if line is None or not duties_of(line):
            return
        balloon = line.balloon
        if balloon in self._unfolded and way is not True:
            self._unfolded.discard(balloon)
        elif way is not False:
            self._unfolded.add(balloon)
        self._refill()
        row = next((i for i, r in enumerate(self.model.rows) if r.balloon == balloon), None)
        if row is not None:
            self.view.selectRow(row)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The keys of the verdict table: → unfolds a row, ← folds it, Space turns it round."""
        if watched is self.view and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            ways = {Qt.Key.Key_Right: True, Qt.Key.Key_Left: False, Qt.Key.Key_Space: None}
            if event.key() in ways and not event.modifiers():
                self.unfold(self.view.current_row(), ways[Qt.Key(event.key())])
                return True
        return super().eventFilter(watched, event)

    def _clicked(self, index: QModelIndex) -> None:
        if index.column() == 1:
            self.unfold(self.model.rows[index.row()])

    def _unfold_all(self, shown: bool) -> None:
        self._unfolded.clear()
        if shown:
            self._unfolded.update(r.balloon for r in self._rows if duties_of(r))
        self._refill()

    def _set_filter(self, index: int) -> None:
        self._filter = FILTERS[index]
        self._refill()

    def show_proof(self, rows: tuple[LedgerRow, ...], reply: BuildReply | None) -> None:
        """Show verdicts (those of the last build) and the mass."""
        self._rows = tuple(sorted(rows, key=lambda r: (ORDER[r.verdict.verdict] if r.verdict else 5, r.balloon)))
        counts = {w: sum(1 for r in rows if r.verdict and r.verdict.verdict == w) for w in FILTERS[1:]}
        for i, word in enumerate(FILTERS):
            button = self.group.button(i)
            if button is not None:
                button.setText(spoken(f"{word} {len(rows) if i == 0 else counts[word]}"))
        self._refill()
        self._show_mass(reply)
        self._show_standing(reply)

    def _show_standing(self, reply: BuildReply | None) -> None:
        """A line for each body in several pieces, with the answer that can be given; and for the thinnest walls."""
        while (item := self.standing.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        for s in reply.report.standing if reply is not None else ():
            line, words = QFrame(), QLabel(spoken(f"{'○' if s.meant else '■'} {s.words}"))
            words.setFont(theme.font(13))
            answer = QPushButton(spoken("it must be one" if s.meant else "it is meant so"))
            answer.setFont(theme.narrow(12))
            answer.setToolTip(
                spoken("Until then the part is not proven" if s.meant else "The part may be proven as it stands")
            )
            answer.clicked.connect(lambda _=False, s=s: self.pieces_answered.emit(s.body, not s.meant))
            row = QHBoxLayout(line)
            row.setContentsMargins(0, 0, 0, 8)
            row.addWidget(words, 1)
            row.addWidget(answer)
            self.standing.addWidget(line)
        if reply is None:
            return
        for wall in reply.report.thin[:SHOWN_WALLS]:
            words = QLabel(spoken("△ " + wall.words(reply.summary["unit"])))
            words.setFont(theme.font(13))
            words.setWordWrap(True)
            self.standing.addWidget(words)

    def _refill(self) -> None:
        rows = [r for r in self._rows if self._filter == "all" or (r.verdict and r.verdict.verdict == self._filter)]
        self.model.set_rows(unfolded(rows, self._unfolded))
        self.view.setVisible(bool(rows))
        self.empty.setVisible(not rows)
        none = "No callouts to prove yet: notes become callouts at the note line ( / ), or at the Read desk."
        self.empty.setText(spoken(f"None is {self._filter}." if self._rows else none))

    def _show_mass(self, reply: BuildReply | None) -> None:
        if reply is None or not reply.summary["solids"]:
            for value in self.figures.values():
                value.setText("–")
            return
        s = reply.summary
        unit = s["unit"]
        self.figures["volume"].setText(spoken(volume(s["volume_mm3"], unit)))
        self.figures["area"].setText(spoken(area(s["area_mm2"], unit)))
        self.figures["centre"].setText(spoken(" / ".join(fixed(x, unit) for x in s["centre_mm"]) + f" {unit}"))
        principal = " / ".join(f"{v:.4g}" for v in s.get("principal_g_mm2", ()))
        self.figures["centre"].setToolTip(spoken(f"principal moments about it: {principal} g mm²" if principal else ""))
        self._show_verdict(reply.report.mass)

    def _show_verdict(self, mass: MassVerdict | None) -> None:
        if mass is None:
            self.figures["model mass"].setText(spoken("– (material not in the table)"))
            return
        self.figures["model mass"].setText(spoken(f"{grams(mass.model)}"))
        self.figures["model mass"].setToolTip(
            spoken(
                f"{mass.material}, {mass.density_g_mm3 * 1000:g} g/cm³ ({mass.density_source}); "
                f"from {grams(mass.low)} to {grams(mass.high)} by its spread"
            )
        )
        if mass.stated is None or mass.deviation is None:
            self.figures["stated mass"].setText(spoken("not stated"))
            self.figures["difference"].setText("–")
            return
        sign = "○" if mass.verdict == "in" else "■"
        self.figures["stated mass"].setText(f"{spoken(grams(mass.stated))} ({spoken(mass.source, 'mass')})")
        self.figures["difference"].setText(
            spoken(f"{mass.deviation:+.1f} g   {sign} {mass.verdict} ± {mass.band or 0:.1f} g")
        )
