"""The window's panes and where they stand: rail, note line, pages beside the solid, ledger, route card, status line."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSplitter, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.fit.members_card import MembersCard
from lathed_solid.desk.fit.page import FitPage
from lathed_solid.desk.hand_over.page import HandOverPage
from lathed_solid.desk.hand_over.paper import Paper
from lathed_solid.desk.language import spoken
from lathed_solid.desk.ledger_drawer import LedgerDrawer
from lathed_solid.desk.note_line import NoteLine
from lathed_solid.desk.one_at_a_time import OneAtATime
from lathed_solid.desk.prove.page import ProvePage
from lathed_solid.desk.rail import Rail
from lathed_solid.desk.read.page import ReadPage
from lathed_solid.desk.route_card import RouteCard
from lathed_solid.desk.shape.page import ShapePage
from lathed_solid.desk.solid_view import SolidView
from lathed_solid.desk.status_line import StatusLine
from lathed_solid.desk.tip_card import TipCard
from lathed_solid.desk.view_bar import ViewBar
from lathed_solid.desk.view_net import ViewNet
from lathed_solid.workbench.bench import DESKS, Desk

if TYPE_CHECKING:
    from lathed_solid.desk.sketch.editor import SketchEditor


#: what stands beside a drawing is so wide, pixels
SIDE = 262
#: how wide the page begins, pixels: a form of fields at most so much, tables and sheets more
ROOMS = {"read": 572, "form": 380, "table": 572, "prove": 572, "fit": 480, "hand over": 480}


class Panes(QWidget):
    """The central widget. It knows where its panes stand and nothing of a session."""

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setObjectName("page")
        self.note_line = NoteLine(self)
        self.rail, self.route, self.status = Rail(), RouteCard(), StatusLine()
        self.tip = TipCard()
        self.solid = SolidView(background)
        self.view_net, self.view_bar = ViewNet(self.solid), ViewBar(self.solid)
        self.no_solid = QLabel(spoken("The solid stands here,\nonce a step makes it."), self.solid)
        self.no_solid.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.no_solid.setObjectName("quiet")
        self.no_solid.hide()
        self._empty = False
        self.solid.resized.connect(self._place_overlays)
        self.read_page, self.shape_page = ReadPage(background), ShapePage()
        self.prove_page = ProvePage(background)
        self.fit_page, self.members = FitPage(), MembersCard()
        self.hand_over_page, self.paper = HandOverPage(), Paper()
        self.drawer = LedgerDrawer()
        self.drawer.toggled.connect(self._fit_drawer)
        self._drawer_height = 175
        self._folded = self._sketching = False
        #: how wide the page is for each thing that is worked on, as it was last left
        self._rooms = dict(ROOMS)
        self._room = ""
        self.shape_page.sketch_made.connect(self._take_sketch)
        self.read_page.log.room_changed.connect(self.give_room)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(self._top())
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.rail)
        middle.addWidget(self._column(), 1)
        cards = QVBoxLayout()
        cards.setSpacing(0)
        for card in (self.route, self.members, self.tip):
            cards.addWidget(card)
        middle.addLayout(cards)
        self.members.hide()
        outer.addLayout(middle, 1)
        outer.addWidget(self.status)

    def _column(self) -> QSplitter:
        """Pages and solid side by side, the ledger beneath."""
        self.pages = OneAtATime()
        for page in (self.read_page, self.shape_page, self.prove_page, self.fit_page, self.hand_over_page):
            self.pages.addWidget(page)
        self.panes = panes = QSplitter(Qt.Orientation.Horizontal)
        panes.setHandleWidth(1)
        panes.addWidget(self.pages)
        self.beside = QSplitter(Qt.Orientation.Vertical)
        self.beside.setHandleWidth(1)
        self.beside.addWidget(self.solid)
        self.beside.addWidget(self.paper)
        self.paper.hide()
        self.beside.setStretchFactor(0, 1)
        self.beside.setChildrenCollapsible(False)
        panes.addWidget(self.beside)
        panes.setChildrenCollapsible(False)
        panes.splitterMoved.connect(self._remember)
        self.column = QSplitter(Qt.Orientation.Vertical)
        self.column.setHandleWidth(1)
        self.column.addWidget(panes)
        self.column.addWidget(self.drawer)
        self.column.setSizes([545, self._drawer_height])
        self.column.setStretchFactor(0, 1)
        self.column.setChildrenCollapsible(False)
        return self.column

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
        self.menu_button = QPushButton(spoken("part ▾"))
        self.menu_button.setToolTip(spoken("New, open, save, export, properties (Alt+P)"))
        self.menu_button.setShortcut("Alt+P")
        self.menu_button.setFont(theme.narrow(13))
        row.addWidget(holder)
        row.addWidget(self.menu_button)
        row.addWidget(self.note_line, 1)
        return top

    def show_desk(self, desk: Desk) -> None:
        """The page of a desk, and what belongs to it."""
        self.rail.show_desk(desk)
        self.pages.setCurrentIndex(DESKS.index(desk))
        shown = self.pages.currentWidget()
        # as narrow as this page may be: one that is not seen must not hold the pane open
        self.pages.setMinimumWidth(shown.minimumSizeHint().width() if shown is not None and desk != "shape" else 0)
        # at the Fit desk the members stand where the route does
        self.members.setVisible(desk == "fit")
        self.route.setVisible(desk not in ("fit", "hand over"))
        if desk in ("fit", "hand over"):
            QTimer.singleShot(0, self._room_again)  # once the cards have changed places
        self._show_drawer()
        self.show_emptiness(self._empty)
        self.view_bar.balloons.setVisible(desk == "prove")
        self.view_bar.adjustSize()
        self.give_room()

    def give_room(self) -> None:
        """The page gets the room due to what is worked on, or that it was given last; the solid has the rest."""
        desk = DESKS[self.pages.currentIndex()]
        room = self.shape_page.room if desk == "shape" else self.read_page.room if desk == "read" else desk
        if self._sketching or room == self._room:
            return
        self._room = room
        whole = sum(self.panes.sizes()) or self.width()
        page = self._rooms.setdefault(room, 2 * whole // 3)
        self.panes.setSizes([page, max(whole - page, 0)])

    def show_paper(self, on: bool) -> None:
        """Paper in the place of the solid, or the solid again."""
        if self.paper.isHidden() == on:
            self.paper.setVisible(on)
            self.solid.setVisible(not on)

    def _room_again(self) -> None:
        self._room = ""
        self.give_room()

    def _remember(self) -> None:
        if self._room and not self._sketching:
            self._rooms[self._room] = self.panes.sizes()[0]

    def show_name(self, name: str, facts: str, tip: str) -> None:
        """What part this is."""
        self.name.setText(self.name.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, 164))
        self.name.setToolTip(spoken(tip))
        self.facts.setText(spoken(facts))

    def show_emptiness(self, empty: bool) -> None:
        """Words in the place of a solid that is not there; at the Fit desk the members stand there."""
        self._empty = empty
        self.no_solid.setVisible(empty and DESKS[self.pages.currentIndex()] != "fit")
        self._place_overlays()

    def _place_overlays(self) -> None:
        self.no_solid.setGeometry(0, 140, self.solid.width(), max(self.solid.height() - 200, 40))
        self.view_net.move(self.solid.width() - self.view_net.width() - 8, 12)
        self.view_bar.move(12, self.solid.height() - 38)

    def _fit_drawer(self, is_open: bool) -> None:
        """A closed ledger gives its room to the panes, an open one takes it back."""
        self._show_drawer()
        above, below = self.column.sizes()
        if not is_open:
            self._drawer_height = max(below, 120)
        height = self._drawer_height if is_open else self.drawer.maximumHeight()
        self.column.setSizes([above + below - height, height])

    def _take_sketch(self, editor: SketchEditor) -> None:
        """What there is to say of a sketch stands beside the drawing: it never moves the paper under the pointer."""
        self.beside.addWidget(editor.side)
        self.beside.setStretchFactor(self.beside.indexOf(editor.side), 1)
        editor.in_view.connect(self._make_room)

    def _make_room(self, sketching: bool) -> None:
        """While a sketch is drawn it gets the room: the ledger folds itself away, the route to its numbers, the solid
        into the corner; all open again after it.
        """
        self._sketching = sketching
        self.route.fold(sketching)
        for overlay in (self.view_net, self.view_bar):
            overlay.setVisible(not sketching)
        if sketching:
            if self.drawer.is_open:
                self.drawer.set_open(False)
                self._folded = True
            self._show_drawer()
            self.panes.setSizes([sum(self.panes.sizes()), SIDE])
            stand = (self.beside.widget(k) for k in range(self.beside.count()))
            self.beside.setSizes([SIDE if w is self.solid else 3 * SIDE for w in stand])  # hidden ones take none
        else:
            self._show_drawer()
            if self._folded:
                self._folded = False
                self.drawer.set_open(True)
            self._room = ""
            self.give_room()

    def _show_drawer(self) -> None:
        """The ledger belongs to the Shape desk; while a sketch is drawn, only when it was opened."""
        shaping = self.pages.currentWidget() is self.shape_page
        self.drawer.setVisible(shaping and (self.drawer.is_open or not self._sketching))

    def close_all(self) -> None:
        """End what the panes have running."""
        self.read_page.log.close_all()
        self.prove_page.stop_asking()
        self.shape_page.close_all()
        self.read_page.sheets.close_all()
        self.solid.shut_down()
