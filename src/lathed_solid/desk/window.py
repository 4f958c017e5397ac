"""The main window: one workbench, its commands, and the panes that show it, wired together."""

from __future__ import annotations

from typing import Any

from PyQt6.QtGui import QCloseEvent, QKeyEvent
from PyQt6.QtWidgets import QMainWindow

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.fit.showing import FitShowing
from lathed_solid.desk.hand_over.showing import HandOverShowing
from lathed_solid.desk.kernel_watch import KernelWatch
from lathed_solid.desk.language import spoken
from lathed_solid.desk.menus import Menus
from lathed_solid.desk.panes import Panes
from lathed_solid.desk.qt_prompts import QtPrompts
from lathed_solid.desk.recording_watch import RecordingWatch
from lathed_solid.desk.showing import Showing
from lathed_solid.desk.tip_card import Tips
from lathed_solid.desk.window_view import WindowView
from lathed_solid.engine.client import KernelClient
from lathed_solid.files.user_settings import start_logging, state_folder
from lathed_solid.quantity.formatting import counted
from lathed_solid.workbench.actions import ACTIONS
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.fit.moving import Moving
from lathed_solid.workbench.fit.session import FitSession
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.note_entry import NoteEntry
from lathed_solid.workbench.session import Session


def _own_kernel() -> KernelClient:
    """A worker beside that of the part: it starts with the first wish."""
    return KernelClient(error_log=start_logging())


class MainWindow(QMainWindow):
    """Shows one session."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.bench = session, Workbench(session, spoken)
        self.background = Background(self)
        self.panes = Panes(self.background)
        self.setCentralWidget(self.panes)
        theme.dress(self)
        self.resize(1280, 800)
        self.view = WindowView(self, self.bench, self.panes)
        self.fit = FitBench(FitSession(_own_kernel, state_folder() / "journal"))
        self.maker = Maker(_own_kernel, self.background, spoken)
        self.commands = Commands.of(self.bench, QtPrompts(self), self.view, self.background, self.fit, self.maker)
        self.notes = NoteEntry(self.commands, spoken)
        self.menus = Menus(self, self.panes.solid, self.commands)
        self.showing = Showing(self.bench, self.panes)
        self.moving = Moving(self.fit.session, self.background)
        self.fitting = FitShowing(self.bench, self.fit, self.panes, self.commands.fit, self.moving)
        self.handing_over = HandOverShowing(self.bench, self.maker, self.panes, self.commands)
        self.tips = Tips(self.panes.tip, session, self.view.place, self)
        learning = self.commands.learning
        self.view.begin_exercise, self.view.write_guide = learning.begin, learning.write_guide
        self._watch = KernelWatch(session.builds, self)
        self._watch_fit = KernelWatch(self.fit.session.queue, self)
        self._watch_recording = RecordingWatch(self, self.panes.status, session.recording, self.fit.session.recording)
        self._connect_window()
        self._connect_pages()
        self._connect_fit()
        self._connect_tips()
        self.panes.note_line.set_completions([spoken(a.title) for a in ACTIONS])
        self.panes.note_line.set_history(session.settings.note_history)
        self.panes.view_net.set_projection(session.settings.projection)
        self.panes.drawer.set_open(session.settings.drawer_open)
        self.bench.show_desk("shape")
        self.showing.show_document(session.document)
        self._show_state()

    def _connect_window(self) -> None:
        """What frames the desks: note line, rail, route card, menus, solid."""
        panes, commands, session = self.panes, self.commands, self.session
        session.state_changed.connect(self._show_state)
        panes.menu_button.clicked.connect(lambda: self.menus.show(
            self.menus.part(), panes.menu_button.mapToGlobal(panes.menu_button.rect().bottomLeft())
        ))  # fmt: skip
        panes.status.stop_asked.connect(self.commands.view.cancel)
        panes.rail.chosen.connect(self.bench.show_desk)
        panes.note_line.understand = self.notes.understand
        panes.note_line.entered.connect(self.notes.enter)
        self.notes.accepted.connect(panes.note_line.accept)
        panes.note_line.considered.connect(self.notes.consider)
        panes.note_line.history_changed.connect(lambda h: self._remember(note_history=h))
        panes.route.chosen.connect(self.bench.choose_step)
        panes.route.edit_asked.connect(self._edit_step)
        panes.route.moved.connect(commands.route.move_to)
        panes.route.menu_asked.connect(lambda p: self.menus.show(self.menus.of("Route"), p))
        panes.route.add_asked.connect(lambda p: self.menus.show(self.menus.new_steps(), p))
        panes.drawer.toggled.connect(lambda on: self._remember(drawer_open=on))
        panes.drawer.note_edited.connect(commands.ledger.edit_note)
        panes.view_net.chosen.connect(panes.solid.look)
        panes.solid.picked.connect(self._pick)
        panes.solid.opened.connect(lambda p: self.bench.open_maker(p) if not self.fitting.on else None)
        panes.route.removal_asked.connect(commands.route.drop)
        panes.solid.failed.connect(lambda words: self.bench.tell(f"no 3D view: {words}", True))

    def _connect_tips(self) -> None:
        """A tip for what comes into view."""
        self.panes.tip.more_wanted.connect(lambda: self.view.show_panel("guide"))
        for signal in (self.bench.desk_changed, self.bench.step_chosen):
            signal.connect(self.tips.refresh)
        for button in (*self.panes.read_page.buttons, *self.panes.prove_page.tabs):
            button.clicked.connect(self.tips.refresh)

    def _connect_pages(self) -> None:
        """What leads from the desks' pages back into the part."""
        panes, commands, session = self.panes, self.commands, self.session
        log, chains, sheets = panes.read_page.log, panes.read_page.chains, panes.read_page.sheets
        log.commands.edited.connect(session.edit)
        log.drive_asked.connect(commands.ledger.toggle_drive)
        chains.edited.connect(session.edit)
        sheets.commands.edited.connect(session.edit)
        sheets.commands.told.connect(self.bench.tell)
        sheets.noted.connect(self._note_on_sheet)
        sheets.chosen.connect(self._choose_balloon)
        sheets.commands.cropped.connect(commands.route.lay_beneath)
        shape, prove = panes.shape_page, panes.prove_page
        shape.step_wanted.connect(commands.route.add_on_regions)
        shape.step_changed.connect(commands.route.change)
        shape.considered.connect(commands.route.consider)
        shape.given_up.connect(session.end_preview)
        shape.escaped.connect(panes.solid.setFocus)
        panes.note_line.escaped.connect(self._back_to_work)
        prove.mass_asked.connect(commands.files.properties)
        prove.pieces_answered.connect(commands.prove.answer_pieces)
        prove.matters.chosen.connect(self._choose_balloon)
        prove.exercise.chosen.connect(self._choose_balloon)
        prove.suspects.shown.connect(commands.prove.show_suspect)
        prove.suspects.taken.connect(commands.prove.take_suspect)
        prove.hand.edited.connect(session.edit)
        prove.hand.proved.connect(commands.ledger.prove_by)
        prove.hand.wanted.connect(lambda mesh: commands.prove.measure(mesh=mesh))
        for page in (log, shape):
            page.told.connect(self.bench.tell)

    def _connect_fit(self) -> None:
        """The members' card and its menus; the fit's name while its desk is in view."""
        card, menus = self.panes.members, self.menus
        card.add_asked.connect(lambda p: menus.show(menus.of("Add to the fit"), p))
        card.menu_asked.connect(lambda p: menus.show(menus.of("Member", "Add to the fit"), p))
        self.fit.session.state_changed.connect(self._show_state)
        self.bench.desk_changed.connect(lambda _desk: self._show_state())

    def _pick(self, picked: Any, more: bool) -> None:
        if self.fitting.on:
            self.fitting.show_picked(picked, more)
        else:
            self.bench.pick(picked)

    # what the panes tell -----------------------------------------------------------------------
    def _note_on_sheet(self, text: str, place: Any, span: Any) -> None:
        if self.notes.enter(text, place, span):
            self.panes.read_page.sheets.taken()

    def _choose_balloon(self, balloon: int) -> None:
        """A balloon on the sheet, or a row that means one."""
        self.bench.choose_balloon(balloon)
        callout = self.session.document.callout(balloon)
        if callout is not None:
            self.bench.tell(f"balloon {balloon}: {callout.note.strip()}")

    def _edit_step(self, number: int) -> None:
        self.bench.choose_step(number)
        self.commands.route.edit()

    def _remember(self, **values: object) -> None:
        self.session.set_settings(self.session.settings.model_copy(update=values))

    def _show_state(self) -> None:
        if self.fitting.on:
            f = self.fit.session
            saved = "saved" if f.history.clean else "not saved"
            count = len(f.whole.members)
            self.panes.show_name(f.fit.name, f"fit · {f.fit.unit} · {counted(count, 'member')} · {saved}",
                                 str(f.path or "no file yet"))  # fmt: skip
            self.setWindowTitle(spoken(f"{f.fit.name}{'' if f.history.clean else ' *'} — Lathed Solid"))
            self.panes.menu_button.setText(spoken("fit ▾"))
            return
        self.panes.menu_button.setText(spoken("part ▾"))
        d, s = self.session.document, self.session
        saved = "saved" if s.history.clean else "not saved"
        self.panes.show_name(d.name, f"{d.unit} · {d.material} · {saved}", str(s.path or "no file yet"))
        self.setWindowTitle(spoken(f"{d.name}{'' if s.history.clean else ' *'} — Lathed Solid"))

    def _back_to_work(self) -> None:
        """The keyboard to the canvas while a sketch is open, else to the solid."""
        page = self.panes.shape_page
        if self.bench.desk == "shape" and page.sketching:
            page.take_focus()
        else:
            self.panes.solid.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """A key that nothing else took acts on the view while the pointer is over the solid."""
        plain = event is not None and not event.modifiers()
        if not (plain and event is not None and self.menus.press(event.text())):
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Unsaved work is asked about; then everything that runs ends."""
        assert event is not None
        if not (self.commands.files.may_leave() and self.commands.fit.may_leave()):
            event.ignore()
            return
        self.panes.close_all()
        self.session.close()
        self.fit.session.close()
        self.maker.stop()
        self.background.close()
        self.maker.close()
        event.accept()
