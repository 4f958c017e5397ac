"""What is judged: overlaps, fits across parts with stacks, and the parts list with the mass of all."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import pane_head, pane_layout
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.fit.judged import Mass, Row
from lathed_solid.fit.ledger_fits import LedgerFit, Side
from lathed_solid.fit.stacks import Bar, FitStack
from lathed_solid.proof.verdicts import SIGNS
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import counted, fixed, volume
from lathed_solid.workbench.describe import grams
from lathed_solid.workbench.fit.rows import OverlapRow, play


class OverlapsPane(QWidget):
    """Emits the overlap that is pointed at or chosen (None: none)."""

    pointed = pyqtSignal(object)
    judge_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.unit: LengthUnit = "mm"
        self.head = pane_head()
        self.judge = QPushButton(spoken("look again"))
        self.judge.setToolTip(spoken("Look at every pair whose boxes meet (F5)"))
        self.judge.clicked.connect(self.judge_asked)
        self.model = RowModel([
            Column("verdict", lambda r: r.sign, width=92, tip=lambda r: r.why),
            Column("of", lambda r: r.overlap.a, width=92),
            Column("and", lambda r: r.overlap.b, width=124),
            Column("common volume", self._volume, look="number", width=100,
                   tip=lambda r: "estimated by rays and points" if r.overlap.about else "exact"),
        ], alarm=lambda r: not r.why)  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Overlaps"))
        self.view.row_hovered.connect(lambda r: self.pointed.emit(r or self.view.current_row()))
        self.view.row_chosen.connect(self.pointed)
        top = QHBoxLayout()
        top.addWidget(self.head, 1)
        top.addWidget(self.judge, 0, Qt.AlignmentFlag.AlignTop)
        layout = pane_layout(self)
        layout.addLayout(top)
        layout.addWidget(self.view, 1)
        self.rest = QWidget()
        layout.addWidget(self.rest, 1)

    def _volume(self, r: OverlapRow) -> str:
        return ("~ " if r.overlap.about else "") + volume(r.overlap.volume_mm3, self.unit, 2)

    def show_rows(self, rows: list[OverlapRow], words: str, unit: LengthUnit) -> None:
        """These overlaps; ``words`` say how it stands."""
        self.unit = unit
        self.head.setText(spoken(words))
        self.model.set_rows(rows)
        self.view.setVisible(bool(rows))
        self.rest.setVisible(not rows)


class FitsPane(QWidget):
    """Emits the fit that is pointed at; asks for the stack between the two picked faces."""

    pointed = pyqtSignal(object)
    stack_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.unit: LengthUnit = "mm"
        self.head = pane_head()
        self.model = RowModel([
            Column("verdict", lambda f: f"{SIGNS[f.verdict]} {f.verdict}", width=64, tip=lambda f: f.reason),
            Column("hole or slot", lambda f: self._side(f.hole), width=96, tip=lambda f: self._side(f.hole)),
            Column("shaft or tongue", lambda f: self._side(f.shaft), width=96, tip=lambda f: self._side(f.shaft)),
            Column("play", lambda f: play(f, self.unit), look="number", width=110, tip=lambda f: f.kind),
            Column("kind", lambda f: f.kind + (" · moves" if f.moves else ""), width=110),
        ], alarm=lambda f: f.verdict == "out")  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Fits across parts"))
        self.view.row_hovered.connect(lambda f: self.pointed.emit(f or self.view.current_row()))
        self.view.row_chosen.connect(self.pointed)
        self.ask = QPushButton(spoken("stack between the picked faces"))
        self.ask.setFont(theme.narrow(12))
        self.ask.setToolTip(spoken("Sum the sizes along the chain of contacts from one picked flat face to another"))
        self.ask.clicked.connect(self.stack_asked)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.bars = RowModel([
            Column("member", lambda b: b.member, look="own", width=110),
            Column("size", lambda b: b.note or "contact", width=110, tip=lambda b: b.note),
            Column("along the way", lambda b: fixed(b.nominal, self.unit), look="number", width=100),
            Column("limits", lambda b: f"{fixed(b.low, self.unit)} … {fixed(b.high, self.unit)}", look="number",
                   width=130),
        ], alarm=lambda b: not b.limited)  # fmt: skip
        self.stack_view = RowView(self.bars)
        self.stack_view.setAccessibleName(spoken("Sizes of the stack"))
        layout = pane_layout(self)
        layout.addWidget(self.head)
        layout.addWidget(self.view, 3)
        layout.addWidget(self.ask, 0, Qt.AlignmentFlag.AlignLeft)
        layout.addWidget(self.words)
        layout.addWidget(self.stack_view, 2)
        self.show_stack(None, "mm")

    @staticmethod
    def _side(s: Side) -> str:
        return f"{s.member} · {s.note or f'{s.high:.4g} as modelled'}"

    def show_fits(self, fits: tuple[LedgerFit, ...], unit: LengthUnit) -> None:
        """Fits, the worst first."""
        self.unit = unit
        order = {"out": 0, "near": 1, "no limit": 2, "in": 3, "not found": 4}
        self.model.set_rows(sorted(fits, key=lambda f: order[f.verdict]))
        bad = sum(1 for f in fits if f.verdict in ("out", "near"))
        words = f"{len(fits)} fits across parts" + (f", {bad} to look at" if bad else "") if fits else (
            "No fits yet: a bore and a round face, or a slot and a tongue, that a relation joins.")  # fmt: skip
        self.head.setText(spoken(words))

    def show_stack(self, stack: FitStack | None, unit: LengthUnit) -> None:
        """A stack across parts; None for none."""
        self.unit = unit
        shown: tuple[Bar, ...] = stack.bars if stack is not None else ()
        self.bars.set_rows(shown)
        self.stack_view.setVisible(stack is not None)
        if stack is None:
            self.words.setText("")
            return
        worst = f"{fixed(stack.low, unit)} … {fixed(stack.high, unit)}"
        root = f"{fixed(stack.middle, unit)} ± {fixed(stack.root, unit)}"
        open_ = f"; {len(stack.open)} without limits" if stack.open else ""
        self.words.setText(
            spoken(
                f"{stack.start.words} → {stack.end.words}: {fixed(stack.nominal, unit)}; worst case {worst}; "
                f"root of squares {root}{open_}"
            )
        )


class PartsPane(QWidget):
    """The parts list; emits the row that is pointed at, and asks for the reports."""

    pointed = pyqtSignal(object)
    write_asked = pyqtSignal()
    weigh_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.head = pane_head()
        self.weighed = QLabel()
        self.weighed.setWordWrap(True)
        self.model = RowModel([
            Column("no.", lambda r: str(r.number), look="balloon", width=44),
            Column("count", lambda r: str(r.count), look="number", width=46),
            Column("part", lambda r: r.part, look="own", width=112, tip=lambda r: ", ".join(r.members)),
            Column("material", lambda r: r.material, width=76),
            Column("each", lambda r: "–" if r.grams is None else grams(r.grams), look="number", width=72),
            Column("all", lambda r: "–" if r.grams is None else grams(r.grams * r.count), look="number", width=80),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Parts list"))
        self.view.row_hovered.connect(lambda r: self.pointed.emit(r or self.view.current_row()))
        self.view.row_chosen.connect(self.pointed)
        row = QHBoxLayout()
        for words, tip, signal in (
            ("write the list…", "As PDF, CSV or JSON", self.write_asked),
            ("state the weight…", "What the scale shows for the whole, to be compared", self.weigh_asked),
        ):
            button = QPushButton(spoken(words))
            button.setFont(theme.narrow(12))
            button.setToolTip(spoken(tip))
            button.clicked.connect(signal)
            row.addWidget(button)
        row.addStretch(1)
        layout = pane_layout(self)
        layout.addWidget(self.head)
        layout.addWidget(self.weighed)
        layout.addWidget(self.view, 1)
        layout.addLayout(row)

    def show_list(self, rows: tuple[Row, ...], mass: Mass | None, weighed: str) -> None:
        """The list, the mass of all, and how it compares with a weighing."""
        self.model.set_rows(rows)
        if mass is None or not rows:
            self.head.setText(spoken("Nothing to list yet."))
        else:
            at = ", ".join(f"{c:.1f}" for c in mass.centre)
            without = f" · without {', '.join(mass.without)}" if mass.without else ""
            count = sum(r.count for r in rows)
            self.head.setText(
                spoken(
                    f"{counted(count, 'member')} of {len(rows)} kinds · {grams(mass.grams)} · centre {at} mm{without}"
                )
            )
        self.weighed.setText(spoken(weighed))
        self.weighed.setVisible(bool(weighed))
