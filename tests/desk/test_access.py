"""For screen readers and the keyboard: everything that can be worked has a name in words and is reached by Tab."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QSlider,
    QTextBrowser,
    QWidget,
)

from lathed_solid.demo import DEMOS
from lathed_solid.workbench.beginning import Beginning

from .conftest import Bench

WORKED = (QAbstractButton, QLineEdit, QComboBox, QAbstractItemView, QAbstractSpinBox, QSlider, QPlainTextEdit,
          QTextBrowser)  # fmt: skip


def worked(root: QWidget) -> Iterator[QWidget]:
    """What can be worked and is in view; not the insides of composed widgets."""
    for w in root.findChildren(QWidget):
        inside = isinstance(w.parent(), (QComboBox, QAbstractSpinBox, QAbstractItemView, QLineEdit))
        inside = inside or w.window() is not root or w.objectName().startswith("qt_")
        takes = isinstance(w, WORKED) or w.focusPolicy() & Qt.FocusPolicy.TabFocus
        if takes and w.isVisibleTo(root) and not inside and not isinstance(w, QHeaderView):
            yield w


def name_of(w: QWidget) -> str:
    """What a screen reader says of it: its own name, what stands on it, or the label whose buddy it is."""
    if w.accessibleName():
        return w.accessibleName()
    if isinstance(w, QAbstractButton):
        return w.text().replace("&", "")
    window = w.window()
    labels = window.findChildren(QLabel) if window is not None else []
    return next((k.text() for k in labels if k.buddy() is w), "")


def nameless(root: QWidget) -> list[str]:
    return [
        f"{type(w).__name__} {w.objectName()} {name_of(w)!r} in {type(w.parent()).__name__}"
        for w in worked(root)
        if sum(c.isalpha() for c in name_of(w)) < 2
    ]


def everywhere(bench: Bench) -> Iterator[tuple[str, QWidget]]:
    """Each desk with each of its panes in view."""
    w = bench.window
    for desk, tabs in (("read", w.panes.read_page.buttons), ("shape", ()), ("prove", w.panes.prove_page.tabs),
                       ("fit", w.panes.fit_page.tabs), ("hand over", w.panes.hand_over_page.tabs)):  # fmt: skip
        w.bench.show_desk(desk)
        for tab in tabs or (None,):
            if tab is not None and tab.isVisible():
                tab.click()
            QApplication.processEvents()
            yield f"{desk}: {tab.text() if tab is not None else ''}", w
    w.bench.show_desk("shape")


def test_all_that_is_worked_has_a_name(bench: Bench) -> None:
    missing = {(where, m) for where, w in everywhere(bench) for m in nameless(w)}
    for demo, steps in (("pedestal", (10, 20, 70, 90)), ("gland-nut", (20, 30))):
        bench.show(DEMOS[demo]())
        for step in steps:
            bench.window.bench.choose_step(step)
            QApplication.processEvents()
            missing |= {(f"{demo} {step}", m) for m in nameless(bench.window)}
    assert not missing, "\n".join(f"{where}: {what}" for where, what in sorted(missing))


def test_dialogs_have_names_too(bench: Bench) -> None:
    from lathed_solid.desk.begin_dialog import BeginDialog
    from lathed_solid.desk.dialogs import ParametersDialog, PropertiesDialog
    from lathed_solid.desk.guide_window import GuideWindow
    from lathed_solid.desk.look_up import LookUpDialog

    document = bench.session.document
    for dialog in (BeginDialog(bench.window, Beginning()), PropertiesDialog(bench.window, document), ParametersDialog(
        bench.window, document), LookUpDialog(bench.window, "mm"), GuideWindow(bench.window, "start")):  # fmt: skip
        dialog.show()
        QApplication.processEvents()
        assert not nameless(dialog), nameless(dialog)
        dialog.close()


def test_tab_reaches_all_of_it(bench: Bench) -> None:
    """Round the window by Tab from the note line: what is worked by keys is met, or belongs to a group that is."""
    for where, w in everywhere(bench):
        wanted = {x for x in worked(w) if x.isEnabled() and x.focusPolicy() & Qt.FocusPolicy.TabFocus}
        met: set[QWidget] = set()
        at: QWidget | None = w.panes.note_line.field
        for _ in range(3000):
            at = at.nextInFocusChain() if at is not None else None
            if at is None or at is w.panes.note_line.field:
                break
            met.add(at)
        left = [f"{type(x).__name__} {name_of(x)}" for x in wanted - met if x is not w.panes.note_line.field]
        assert not left, (where, left)


@pytest.mark.parametrize("dark", [False, True])
def test_words_stand_out_from_what_is_behind_them(dark: bool) -> None:
    from lathed_solid.desk import theme

    from .test_window import _contrast

    r = theme.DARK if dark else theme.LIGHT
    pairs = [(r.ink, r.paper), (r.ink, r.card), (r.ink, r.tint), (r.ink, r.out), (r.quiet, r.paper), (r.quiet, r.card),
             (r.brass_ink, r.paper), (r.brass_ink, r.card), (r.status_ink, r.status)]  # fmt: skip
    assert all(_contrast(a, b) >= 4.5 for a, b in pairs)
