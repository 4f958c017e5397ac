"""The menus: each fits a small screen, all actions and kinds of steps are in them, keys work on after them."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QPoint, QTimer
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QMenu

from lathed_solid.workbench.actions import ACTIONS
from lathed_solid.workbench.step_forms.new import NEW

from .conftest import Bench

SCREEN = 720, 640


def opened(menu: QMenu) -> Iterator[QMenu]:
    yield menu
    for action in menu.actions():
        if (side := action.menu()) is not None:
            yield from opened(side)


def entries(menu: QMenu) -> list[QAction]:
    return [a for m in opened(menu) for a in m.actions() if a.menu() is None and not a.isSeparator()]


def test_every_menu_fits_and_nothing_is_left_out(bench: Bench) -> None:
    menus = bench.window.menus
    for menu in (menus.part(), menus.new_steps(), menus.of("Route")):
        for m in opened(menu):
            assert m.sizeHint().height() <= SCREEN[0] and m.sizeHint().width() <= SCREEN[1], m.title()
    in_part = {a.text().split("\t")[0] for a in entries(menus.part())}
    in_steps = {a.text().split("\t")[0] for a in entries(menus.new_steps())}
    assert {n.entry.title for n in NEW} <= in_steps
    assert {a.title for a in ACTIONS} <= in_part | in_steps


def test_what_is_not_possible_is_grey_while_the_menu_stands_only(bench: Bench) -> None:
    menus = bench.window.menus
    redo = menus.by_id["redo"]
    seen: list[bool] = []
    menu = menus.part()
    QTimer.singleShot(50, lambda: (seen.append(redo.isEnabled()), menu.close()))
    menus.show(menu, QPoint(40, 40))
    assert seen == [False] and redo.isEnabled()
