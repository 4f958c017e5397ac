"""Menus and shortcuts, drawn from the table of actions."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, QPoint, Qt
from PyQt6.QtGui import QAction, QKeyEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QListView, QMainWindow, QMenu, QWidget

from lathed_solid.desk.language import spoken
from lathed_solid.workbench.action import Action
from lathed_solid.workbench.actions import ACTIONS, run_action
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.step_forms.new import GROUPS, NEW

BEGINNINGS = ("add-turned", "add-sketch", "add-hole")
#: a menu has to fit a screen of 720 lines: these groups open to the side
FOLDED_ACTIONS = (
    ("Edit",),
    ("Route",),
    ("Ledger",),
    ("Hand over",),
    ("Fit", "Add to the fit", "Member", "Relation"),
    ("View", "Desk", "Language"),
)
FOLDED_STEPS = ("Datums", "Bodies")
#: these have the keyboard without text being typed: letters and digits only leap in them
LEAPING = (QComboBox, QAbstractButton, QListView)


class Menus:
    """The actions of one window. Single letters and digits act in ``solid`` only: elsewhere they are typed."""

    def __init__(self, window: QMainWindow, solid: QWidget, commands: Commands) -> None:
        self.window, self.solid, self.commands = window, solid, commands
        self.by_id = {a.id: self._made(a) for a in ACTIONS}
        self._passed = _Passed(self)
        application = QApplication.instance()
        if isinstance(application, QApplication):
            application.focusChanged.connect(self._passed.watch)

    def _made(self, action: Action) -> QAction:
        single = len(action.keys) == 1 and action.keys != "/"
        # a single key is no shortcut of the window, since it is typed elsewhere; the menu shows it all the same
        q = QAction(spoken(f"{action.title}\t{action.keys}" if single else action.title), self.window)
        q.setToolTip(spoken(action.tip or action.title))
        q.triggered.connect(lambda _=False: run_action(action, self.commands))
        if action.keys and not single:
            q.setShortcut(QKeySequence(action.keys))
        elif single:
            shortcut = QShortcut(QKeySequence(action.keys), self.solid)
            shortcut.setContext(Qt.ShortcutContext.WidgetShortcut)
            shortcut.activated.connect(lambda: run_action(action, self.commands))
        self.window.addAction(q)
        return q

    def press(self, key: str) -> bool:
        """What a single letter or digit does that nothing else took, while the pointer is over the solid."""
        action = next((a for a in ACTIONS if a.keys == key.upper() and len(a.keys) == 1), None) if key else None
        if action is None or not self.solid.underMouse():
            return False
        run_action(action, self.commands)
        return True

    def of(self, *groups: str) -> QMenu:
        """A menu of some groups of actions."""
        menu = QMenu(self.window)
        for i, group in enumerate(groups):
            if i:
                menu.addSeparator()
            for action in (a for a in ACTIONS if a.group == group):
                q = self.by_id[action.id]
                q.setEnabled(action.enabled(self.commands))
                q.setCheckable(action.checked is not None)
                if action.checked is not None:
                    q.setChecked(action.checked(self.commands))
                menu.addAction(q)
        return menu

    def _enable_all(self) -> None:
        for q in self.by_id.values():
            q.setEnabled(True)

    def part(self) -> QMenu:
        """The window's menu, with the recent parts."""
        menu = self.of("Part", "Kernel", "Help")
        recent = QMenu(spoken("Recent parts"), menu)
        names = self.commands.bench.session.settings.recent
        for name in names:
            self._entry(recent, Path(name).name, lambda n=name: self.commands.files.open_path(Path(n)), name)  # type: ignore[misc]
        recent.setEnabled(bool(names))
        menu.insertMenu(self.by_id["save"], recent)
        after = next(a for a in menu.actions() if a.isSeparator())
        menu.insertSeparator(after)
        for groups in FOLDED_ACTIONS:
            folded = self.of(*groups)
            folded.setParent(menu, folded.windowFlags())
            folded.setTitle(spoken(groups[0]))
            menu.insertMenu(after, folded)
        return menu

    def new_steps(self) -> QMenu:
        """All kinds of steps, by group."""
        menu = QMenu(self.window)
        for action in (a for a in ACTIONS if a.id in BEGINNINGS):
            words = f"{action.title}\t{action.keys}"
            self._entry(menu, words, lambda a=action: run_action(a, self.commands))  # type: ignore[misc]
        for group in GROUPS:
            side = menu
            if group in FOLDED_STEPS:
                side = QMenu(spoken(group), menu)
                menu.addMenu(side)
            else:
                menu.addSection(spoken(group))
            for new in (n for n in NEW if n.entry.group == group):
                words = f"{new.entry.title}\t{new.entry.keys}" if new.entry.keys else new.entry.title
                self._entry(side, words, lambda n=new: self.commands.route.add_new(n))  # type: ignore[misc]
        return menu

    def _entry(self, menu: QMenu, words: str, run: Callable[[], object], tip: str = "") -> None:
        entry = menu.addAction(spoken(words))
        assert entry is not None
        entry.setToolTip(spoken(tip))
        entry.triggered.connect(lambda _=False: run())

    def show(self, menu: QMenu, at: QPoint) -> None:
        """Open a menu at a place of the screen, and wait for its end."""
        menu.exec(at)
        # a disabled QAction would also lose its shortcut and so its words
        self._enable_all()
        menu.deleteLater()


class _Passed(QObject):
    """Leads single keys past what only leaps by them to the view, while the pointer is over the solid."""

    def __init__(self, menus: Menus) -> None:
        super().__init__(menus.window)
        self._menus = menus

    def watch(self, _old: QWidget | None, new: QWidget | None) -> None:
        """Something else has the keyboard."""
        if isinstance(new, LEAPING) and new.window() is self._menus.window:
            new.installEventFilter(self)  # once more is the same as once

    def eventFilter(self, _watched: QObject | None, event: QEvent | None) -> bool:
        plain = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and not event.modifiers()
        return plain and self._menus.press(event.text())  # type: ignore[union-attr]
