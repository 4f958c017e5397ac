"""The main window: rail, note line, source and solid, route card, ledger drawer, status line."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.actions import ACTIONS, Action
from lathed_solid.desk.describe import flag_text
from lathed_solid.desk.flags import Flag
from lathed_solid.desk.ledger_drawer import LedgerDrawer, LedgerRow, ledger_rows
from lathed_solid.desk.note_line import NoteLine
from lathed_solid.desk.prove.commands import ProveCommands
from lathed_solid.desk.prove.page import ProvePage
from lathed_solid.desk.rail import Rail
from lathed_solid.desk.read.page import ReadPage
from lathed_solid.desk.route_card import RouteCard, route_rows
from lathed_solid.desk.session import Session
from lathed_solid.desk.shape.page import ShapePage
from lathed_solid.desk.solid_view import SolidView
from lathed_solid.desk.status_line import StatusLine
from lathed_solid.desk.view_bar import ViewBar
from lathed_solid.desk.view_net import ViewNet
from lathed_solid.engine.protocol import BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.part import Document, edits
from lathed_solid.part.names import split

#: as many holes can be placed by clicks
MAX_PICKS = 100


def picks_of(picked: Any) -> dict[str, str]:
    """What a pick in the solid can serve as: face, plane, axis, edge, point -> name."""
    if picked is None or not picked.names:
        return {}
    name = picked.names[0]
    if picked.kind == "edge":
        return {"edge": name, "axis": name, "point": name}
    face = split(name, "+")[0]
    served = "plane" if picked.facts.startswith("flat") else "axis"
    return {"face": face, served: face}


class MainWindow(ProveCommands):
    """Shows one session. Methods are what the action table calls."""

    session: Session
    note_line: NoteLine
    route: RouteCard
    drawer: LedgerDrawer
    solid: SolidView
    view_bar: ViewBar

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.picks: list[Any] = []
        self.desk = "shape"
        self._hovered_faces: tuple[str, ...] = ()
        self.resize(1280, 800)
        self._build()
        self._connect()
        self.actions_by_id = {a.id: self._shortcut(a) for a in ACTIONS}
        self.note_line.set_completions([a.title for a in ACTIONS])
        self.show_desk("shape")
        self._show_document(session.document)

    # layout ------------------------------------------------------------------------------------
    def _build(self) -> None:
        central = QWidget()
        central.setObjectName("page")
        self.setCentralWidget(central)
        outer = QVBoxLayout(central)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.note_line = NoteLine(self.understand, central)
        outer.addWidget(self._top())
        middle = QHBoxLayout()
        middle.setSpacing(0)
        self.rail = Rail()
        middle.addWidget(self.rail)
        self.solid = SolidView()
        self.view_net = ViewNet(self.solid)
        self.view_net.set_projection(self.session.settings.projection)
        self.view_bar = ViewBar(self.solid)
        self.read_page, self.shape_page, self.prove_page = ReadPage(), ShapePage(), ProvePage()
        self.log_page, self.sheets_page = self.read_page.log, self.read_page.sheets
        self.pages = QStackedWidget()
        for page in (self.read_page, self.shape_page, self.prove_page):
            self.pages.addWidget(page)
        panes = QSplitter(Qt.Orientation.Horizontal)
        panes.setHandleWidth(1)
        panes.addWidget(self.pages)
        panes.addWidget(self.solid)
        panes.setSizes([572, 388])
        panes.setChildrenCollapsible(False)
        self.drawer = LedgerDrawer(self._edit_note)
        column = QSplitter(Qt.Orientation.Vertical)
        column.setHandleWidth(1)
        column.addWidget(panes)
        column.addWidget(self.drawer)
        column.setSizes([545, 175])
        column.setStretchFactor(0, 1)
        column.setChildrenCollapsible(False)
        self.column, self._drawer_height = column, 175
        self.drawer.toggled.connect(self._fit_drawer)
        middle.addWidget(column, 1)
        self.route = RouteCard()
        middle.addWidget(self.route)
        outer.addLayout(middle, 1)
        self.status = StatusLine()
        outer.addWidget(self.status)

    def _top(self) -> QWidget:
        top = QWidget()
        top.setObjectName("top")
        top.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        top.setFixedHeight(52)
        row = QHBoxLayout(top)
        row.setContentsMargins(12, 0, 0, 1)
        row.setSpacing(8)
        names = QVBoxLayout()
        names.setSpacing(0)
        self.name = QLabel("")
        self.name.setFont(theme.font(15, theme.QFont.Weight.DemiBold))
        self.facts = QLabel("")
        self.facts.setObjectName("quiet")
        self.facts.setFont(theme.narrow(12))
        names.addStretch(1)
        names.addWidget(self.name)
        names.addWidget(self.facts)
        names.addStretch(1)
        holder = QWidget()
        holder.setLayout(names)
        holder.setFixedWidth(168)
        names.setContentsMargins(0, 0, 0, 0)
        self.menu_button = QPushButton("part ▾")
        self.menu_button.setToolTip("New, open, save, export, properties (Alt+P)")
        self.menu_button.setShortcut("Alt+P")
        self.menu_button.setFont(theme.narrow(13))
        self.menu_button.clicked.connect(self._show_menu)
        row.addWidget(holder)
        row.addWidget(self.menu_button)
        row.addWidget(self.note_line, 1)
        return top

    def _connect(self) -> None:
        s = self.session
        s.document_changed.connect(self._show_document)
        s.built.connect(self._show_build)
        s.told.connect(self.tell)
        s.state_changed.connect(self._show_state)
        s.busy_changed.connect(self.status.show_busy)
        s.progressed.connect(self.status.show_progress)
        self.status.stop_asked.connect(s.cancel)
        self.rail.chosen.connect(self.show_desk)
        self.note_line.entered.connect(self.take_note)
        self.note_line.considered.connect(self.preview_note)
        self.note_line.history_changed.connect(
            lambda h: s.set_settings(s.settings.model_copy(update={"note_history": h}))
        )
        self.note_line.set_history(s.settings.note_history)
        self.route.chosen.connect(self._choose_step)
        self.route.chosen.connect(lambda _number: s.end_preview())
        self.route.edit_asked.connect(self._edit_step)
        self.route.moved.connect(self._move_to)
        self.route.menu_asked.connect(lambda p: self._menu("Route").exec(p))
        for source in (self.drawer, self.prove_page, self.log_page, self.read_page.chains):
            source.hovered.connect(self._hover_row)
            source.chosen.connect(self._choose_row)
        self.log_page.reading_edited.connect(s.edit)
        self.log_page.told.connect(self.tell)
        self.read_page.chains.edited.connect(s.edit)
        self.sheets_page.edited.connect(s.edit)
        self.sheets_page.told.connect(self.tell)
        self.sheets_page.noted.connect(self._note_on_sheet)
        self.sheets_page.chosen.connect(self._choose_balloon)
        self.sheets_page.cropped.connect(self.lay_beneath)
        self.log_page.drive_asked.connect(lambda: self.toggle_drive())
        self.prove_page.mass_asked.connect(self.part_properties)
        self.prove_page.matters.chosen.connect(self._choose_balloon)
        self.prove_page.coverage.faces_hovered.connect(self._light)
        self.connect_proof()
        self.shape_page.step_wanted.connect(self.add_on_regions)
        self.shape_page.step_changed.connect(lambda label, step: s.edit(label, lambda d: edits.put_step(d, step)))
        self.shape_page.considered.connect(self._consider)
        self.shape_page.given_up.connect(s.end_preview)
        s.previewed.connect(self._show_preview)
        self.route.add_asked.connect(lambda p: self.add_menu().exec(p))
        self.shape_page.told.connect(self.tell)
        self.shape_page.faces_hovered.connect(self._light)
        self.drawer.toggled.connect(lambda on: s.set_settings(s.settings.model_copy(update={"drawer_open": on})))
        self.drawer.set_open(s.settings.drawer_open)
        self.view_net.chosen.connect(self.solid.look)
        self.view_bar.balloons.toggled.connect(lambda _on: self._hover_row(None))
        self.solid.picked.connect(self._picked)
        self.solid.resized.connect(self._place_overlays)
        self.solid.hovered.connect(self._pointed)
        self.solid.failed.connect(lambda words: self.tell(f"no 3D view: {words}", True))

    def _shortcut(self, action: Action) -> QAction:
        q = QAction(action.title, self)
        q.setToolTip(action.tip or action.title)
        q.triggered.connect(lambda _=False, a=action: self.run(a))
        if action.keys and (len(action.keys) > 1 or action.keys == "/"):
            q.setShortcut(QKeySequence(action.keys))
        elif action.keys:
            # single letters and digits act in the solid only, so that they can be typed elsewhere
            shortcut = QShortcut(QKeySequence(action.keys), self.solid)
            shortcut.setContext(Qt.ShortcutContext.WidgetShortcut)
            shortcut.activated.connect(lambda a=action: self.run(a))
        self.addAction(q)
        return q

    def run(self, action: Action) -> None:
        """Do an action if it is possible now; else say so."""
        if not action.enabled(self):
            self.tell(f"{action.title}: not possible now", True)
            return
        action.run(self)

    def _menu(self, *groups: str) -> QMenu:
        menu = QMenu(self)
        for i, group in enumerate(groups):
            if i:
                menu.addSeparator()
            for action in (a for a in ACTIONS if a.group == group):
                q = self.actions_by_id[action.id]
                q.setEnabled(action.enabled(self))
                q.setCheckable(action.checked is not None)
                if action.checked is not None:
                    q.setChecked(action.checked(self))
                menu.addAction(q)
        # a disabled QAction would also lose its shortcut and so its words
        menu.aboutToHide.connect(self._enable_all)
        return menu

    def _enable_all(self) -> None:
        for q in self.actions_by_id.values():
            q.setEnabled(True)

    def _show_menu(self) -> None:
        menu = self._menu("Part", "Edit", "Ledger", "View", "Kernel", "Help")
        recent = QMenu("Recent parts", menu)
        for name in self.session.settings.recent:
            entry = recent.addAction(Path(name).name)
            if entry is not None:
                entry.setToolTip(name)
                entry.triggered.connect(lambda _=False, n=name: self.open_path(Path(n)))
        recent.setEnabled(bool(self.session.settings.recent))
        menu.insertMenu(self.actions_by_id["save"], recent)
        menu.exec(self.menu_button.mapToGlobal(self.menu_button.rect().bottomLeft()))

    # showing -----------------------------------------------------------------------------------
    def _place_overlays(self) -> None:
        self.view_net.move(self.solid.width() - self.view_net.width() - 8, 12)
        self.view_bar.move(12, self.solid.height() - 38)

    def _fit_drawer(self, is_open: bool) -> None:
        """A closed ledger gives its room to the panes, an open one takes it back."""
        above, below = self.column.sizes()
        if not is_open:
            self._drawer_height = max(below, 120)
        height = self._drawer_height if is_open else self.drawer.maximumHeight()
        self.column.setSizes([above + below - height, height])

    def _show_document(self, document: Document) -> None:
        results = self.session.reply.steps if self.session.reply else None
        self.route.set_rows(route_rows(document, results, self.session.stand))
        self.read_page.set_document(document)
        self._show_ledger(document, self.session.reply)
        self._choose_step(self.route.current())
        self._show_state()

    def _show_ledger(self, document: Document, reply: BuildReply | None) -> None:
        rows = ledger_rows(document, reply.report if reply else None)
        self.drawer.set_rows(rows)
        self.prove_page.show_proof(rows, reply)
        self.prove_page.set_part(document, reply)
        used = document.used_balloons()
        unused = sum(1 for c in document.callouts if c.balloon not in used)
        self._show_balloons(self.sheets_page.view.current)
        self.rail.set_count("read", unused)
        if reply is not None:
            self.rail.set_count("shape", sum(1 for s in reply.steps if not s.ok))
            counts = reply.report.counts
            self.rail.set_count("prove", counts["out"] + counts["no limit"] + counts["not found"])

    def _show_build(self, reply: BuildReply) -> None:
        document = self.session.document
        self.route.set_rows(route_rows(document, reply.steps, self.session.stand))
        if reply.shape or not document.steps:
            self.solid.show_solid(reply.shape, reply.labels, reply.edge_labels, reply.marks)
        self.shape_page.set_outlines(reply.outlines)
        self.shape_page.set_results(reply.steps)
        self._show_ledger(document, reply)
        self.status.show_build(document, reply)
        self._show_flags(None)
        if (step := reply.failed) is not None:
            self.tell(f"step {step.number}: {step.message}", True)

    def _consider(self, step: Any) -> None:
        """What a half-typed value would make, shown while it is typed."""
        try:
            document = edits.put_step(self.session.standing, step)
        except LathedError:
            return
        self.session.preview(document)

    def _show_preview(self, reply: BuildReply) -> None:
        failed = reply.failed
        if failed is None and reply.shape:
            self.solid.show_solid(reply.shape, reply.labels, reply.edge_labels, reply.marks)
            self.tell("a preview: Enter takes it, Esc gives it up", False)
        elif failed is not None:
            self.tell(f"preview: step {failed.number}: {failed.message}", True)

    def _show_state(self) -> None:
        d, s = self.session.document, self.session
        saved = "saved" if s.history.clean else "not saved"
        self.name.setText(self.name.fontMetrics().elidedText(d.name, Qt.TextElideMode.ElideRight, 164))
        self.name.setToolTip(str(s.path or "no file yet"))
        self.facts.setText(f"{d.unit} · {d.material} · {saved}")
        self.setWindowTitle(f"{d.name}{'' if s.history.clean else ' *'} — Lathed Solid")

    def tell(self, words: str, bad: bool) -> None:
        """Words for the user, in the status line."""
        self.status.say(words, bad)

    # pointing ----------------------------------------------------------------------------------
    def _hover_row(self, row: LedgerRow | None) -> None:
        if row is None:
            row = self._chosen_row()
        verdict = getattr(row, "verdict", None)
        if row is not None and verdict is None and self.session.reply:
            verdict = self.session.reply.report.row(row.balloon)
        self._light(verdict.faces if verdict else ())
        self._show_flags(verdict)

    def _choose_row(self, row: Any) -> None:
        self._hover_row(row)
        place = row.callout.place if row is not None and hasattr(row, "callout") else None
        if place is not None and (place.sheet, place.page) != (self.sheets_page.number, self.sheets_page.page):
            self.sheets_page.show_sheet(place.sheet, place.page)
        self._show_balloons(row.balloon if row is not None else None)

    def _choose_balloon(self, balloon: int) -> None:
        """A balloon on the sheet: its row in the ledger, its faces in the solid."""
        self.drawer.choose(balloon)
        row = next((r for r in self.drawer.model.rows if r.balloon == balloon), None)
        self._hover_row(row)
        self._show_balloons(balloon)
        if row is not None:
            self.tell(f"balloon {balloon}: {row.callout.note.strip()}", False)

    def _show_balloons(self, current: int | None) -> None:
        self.read_page.set_rows(self.drawer.model.rows, self.session.document.used_balloons(), current)

    def _note_on_sheet(self, text: str, place: Any, span: Any) -> None:
        if self.take_note(text, place, span):
            self.sheets_page.taken()

    def _chosen_row(self) -> Any:
        view = {"read": self.log_page.view, "prove": self.prove_page.view}.get(self.desk)
        row = view.current_row() if view is not None else None
        return row or self.drawer.view.current_row()

    def chosen_balloon(self) -> int | None:
        row = self._chosen_row()
        return row.balloon if row is not None else None

    def _light(self, faces: tuple[str, ...]) -> None:
        self.solid.light(tuple(faces))

    def _show_flags(self, hovered: Any) -> None:
        reply, unit = self.session.reply, self.session.document.unit
        flags: list[Flag] = []
        rows = [r for r in reply.report.rows if r.verdict == "out" and r.faces] if reply else []
        if hovered is not None and hovered.faces and hovered not in rows:
            rows.insert(0, hovered)
        for row in rows:
            flags.append(Flag(row.faces[0], str(row.balloon), flag_text(row, unit), row.verdict == "out"))
        if self.desk == "prove" and self.view_bar.balloons.isChecked() and reply is not None:
            told = {f.head for f in flags}
            flags += [
                Flag(r.faces[0], str(r.balloon), "")
                for r in reply.report.rows
                if r.faces and str(r.balloon) not in told
            ]
        self.solid.set_flags(flags)

    def _picked(self, picked: Any) -> None:
        self.picks = [] if picked is None else [*self.picks, picked][-MAX_PICKS:]
        self.shape_page.set_picked(picks_of(picked))
        if self.desk == "prove" and self.prove_page.by_hand and self.picks:
            self.measure_by_hand()
        if picked is not None and self.desk == "prove" and picked.kind == "face" and picked.names:
            self.prove_page.choose_face(picked.names[0])
        if picked is not None:
            self.tell(f"picked {picked.kind}: {' and '.join(picked.names) or 'no name'}", False)
            if picked.kind == "face" and picked.names:
                head = picked.names[0].partition("/")[0]
                if head.isdigit():
                    self.route.choose(int(head))

    def _pointed(self, picked: Any) -> None:
        if picked is None:
            self.status.show_pointer("")
            return
        facts = f" · {picked.facts}" if picked.facts else ""
        self.status.show_pointer(f"{' | '.join(picked.names)}{facts}")

    # desks and steps ---------------------------------------------------------------------------
    def show_desk(self, desk: str) -> None:
        """Turn to a desk."""
        self.desk = desk
        self.rail.show_desk(desk)
        self.pages.setCurrentIndex(("read", "shape", "prove").index(desk))
        shown = self.pages.currentWidget()
        # as narrow as this page may be: one that is not seen must not hold the pane open
        self.pages.setMinimumWidth(shown.minimumSizeHint().width() if shown is not None and desk != "shape" else 0)
        self.drawer.setVisible(desk == "shape")
        self.view_bar.balloons.setVisible(desk == "prove")
        self.view_bar.adjustSize()
        self._hover_row(None)

    def look(self, name: str) -> None:
        self.view_net.set_current(name)
        self.solid.look(name)

    def _show_route(self) -> None:
        results = self.session.reply.steps if self.session.reply else None
        self.route.set_rows(route_rows(self.session.document, results, self.session.stand))

    def _choose_step(self, number: int | None) -> None:
        step = self.session.document.step(number) if number is not None else None
        self.shape_page.show_step(self.session.document, step)

    def _edit_step(self, number: int) -> None:
        self._choose_step(number)
        self.edit_step()

    # switches --------------------------------------------------------------------------------------
    def toggle_projection(self) -> None:
        s = self.session.settings
        other = "third" if s.projection == "first" else "first"
        self.session.set_settings(s.model_copy(update={"projection": other}))
        self.view_net.set_projection(other)

    def toggle_dark(self) -> None:
        s = self.session.settings
        self.session.set_settings(s.model_copy(update={"dark": not s.dark}))
        app = QApplication.instance()
        if isinstance(app, QApplication):
            theme.apply(app, dark=not s.dark)
        self.solid.refresh_colours()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        if not self._may_leave():
            event.ignore()
            return
        self.log_page.listener.stop()
        self.prove_page.stop_asking()
        self.sheets_page.close_all()
        self.session.close()
        self.solid.shut_down()
        event.accept()
