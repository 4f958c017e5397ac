"""What the Hand over desk shows of the part in hand, and what it tells it back."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QImage

from lathed_solid.desk.hand_over.page import ON_PAPER
from lathed_solid.desk.language import spoken
from lathed_solid.desk.panes import Panes
from lathed_solid.engine.protocol import BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.files import read_document
from lathed_solid.quantity.formatting import counted
from lathed_solid.reports.drawing.title import ratio
from lathed_solid.reports.machinist.model import MachinistSheet
from lathed_solid.reports.status import status_of
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.hand_over.pictures import PictureWish, coat_rows
from lathed_solid.workbench.hand_over.rows import Sums, note_rows, sums
from lathed_solid.workbench.prompts import PARTS

#: pages of a report are shown at so many dots a mm
DOTS = 6.0
#: where a renderer stands is shown so often, ms
TICK = 250
DRAWING, MACHINIST, PICTURE = 0, 1, 3


class HandOverShowing:
    """One maker in its panes."""

    def __init__(self, bench: Workbench, maker: Maker, panes: Panes, commands: Commands) -> None:
        self.bench, self.maker, self.panes, self.commands = bench, maker, panes, commands
        self.page, self.paper = panes.hand_over_page, panes.paper
        self._others: list[Sums] = []
        page, session = self.page, bench.session
        bench.desk_changed.connect(lambda _desk: self.show())
        session.document_changed.connect(lambda _document: self.show())
        session.builds.built.connect(lambda _reply: self.show())
        session.builds.busy_changed.connect(lambda busy: None if busy else self.show())
        maker.drawn.connect(self._show_drawing)
        maker.found.connect(self._show_machinist)
        maker.pictured.connect(self._show_picture)
        maker.failed.connect(self._show_failure)
        maker.busy_changed.connect(lambda busy: panes.status.show_busy(busy, False))
        page.turned.connect(lambda _tab: self.show())
        hand = commands.hand_over
        page.drawing.restyled.connect(lambda values: hand.restyle(**values))
        page.drawing.chosen.connect(self._choose)
        page.drawing.write_asked.connect(hand.write_drawing)
        page.drawing.back_asked.connect(hand.put_back)
        page.machinist.write_asked.connect(hand.write_machinist)
        self._clock = QTimer(page)
        self._clock.setInterval(TICK)
        self._clock.timeout.connect(self._show_rendering)
        maker.busy_changed.connect(self._watch)
        page.picture.stop_asked.connect(maker.stop_picture)
        page.picture.changed.connect(self._wish)
        page.picture.coated.connect(hand.coat)
        page.picture.remember_asked.connect(lambda name: hand.remember(name, commands.view.eye()))
        page.picture.forget_asked.connect(hand.forget)
        page.picture.again_asked.connect(self._again)
        page.picture.write_asked.connect(lambda: hand.write_picture(commands.view.eye()))
        page.picture.turn_asked.connect(lambda frames: hand.write_picture(commands.view.eye(), frames))
        page.files.asked.connect(self._write)
        page.ways.other_asked.connect(self._ask_other)
        for pane in (page.drawing, page.files):
            pane.told.connect(bench.tell)
        self.paper.moved.connect(hand.move)
        self.paper.chosen.connect(self._choose)
        bench.balloon_chosen.connect(lambda b: self.paper.choose(b or 0))

    @property
    def on(self) -> bool:
        """Whether the desk is in view."""
        return self.bench.desk == "hand over"

    def show(self) -> None:
        """The part in hand, another value of it, or another pane: what is not of it any more is made anew."""
        self.panes.show_paper(self.on and self.page.tab in ON_PAPER)
        if not self.on:
            return
        document, reply = self.bench.session.document, self.bench.session.reply
        self.page.drawing.show_style(document.drawing)
        self.page.state.setText(spoken(self._state(reply)))
        if reply is None or not self.bench.session.builds.settled:
            return
        if not reply.shape:
            self._nothing("There is no solid yet: what stands at the other desks makes one.")
        elif self.page.tab == DRAWING:
            if self.maker.sheets:
                self._show_drawing()
            self.maker.want_drawing(document)
        elif self.page.tab == MACHINIST:
            if self.maker.machinist is not None:
                self._show_machinist()
            self.maker.want_machinist(document)
        elif self.page.tab == PICTURE:
            self._show_coats(reply)
            self._want_picture()
        self._show_files(reply)
        self._show_ways(reply)

    def _state(self, reply: BuildReply | None) -> str:
        name = self.bench.session.document.name
        if reply is None:
            return f"{name}: building …"
        status = status_of(reply.report)
        return f"{name}: {status.lower() if status else 'proven'}"

    def _nothing(self, words: str) -> None:
        self.paper.show_words(words)
        self.page.drawing.show_notes([], words)
        self.page.machinist.show_sheet(None, words)
        self.page.picture.show_state(words, can=False)

    # drawing -----------------------------------------------------------------------------------
    def _show_drawing(self) -> None:
        sheets = self.maker.sheets
        rows = note_rows(sheets)
        left = sum(bool(r.why) for r in rows)
        self.panes.rail.set_count("hand over", left)
        if not self.on or not sheets:
            return
        first = sheets[0]
        said = [f"{first.size}, {ratio(first.scale)}"] if len(sheets) == 1 else [
            f"{len(sheets)} sheets {first.size}, {ratio(first.scale)}"]  # fmt: skip
        said += [counted(len(first.views), "view"), counted(len(rows) - left, "note")]
        if left:
            said.append(f"{left} at no feature of it")
        self.page.drawing.show_notes(rows, ", ".join(said))
        if self.page.tab == DRAWING:
            self.paper.show_sheets(sheets)

    def _choose(self, balloon: int) -> None:
        self.bench.choose_balloon(balloon)
        self.paper.choose(balloon)

    # machinist ---------------------------------------------------------------------------------
    def _show_machinist(self) -> None:
        sheet = self.maker.machinist
        if not self.on or sheet is None:
            return
        self.page.machinist.show_sheet(sheet)
        if self.page.tab == MACHINIST:
            self.paper.show_pages(pages_of(sheet))

    # picture -----------------------------------------------------------------------------------
    def _watch(self, busy: bool) -> None:
        """Where the renderer stands is looked up while it is at work."""
        if busy:
            self._clock.start()
        else:
            self._clock.stop()
            self.page.picture.show_work(busy=False)

    def _show_rendering(self) -> None:
        self.page.picture.show_work(busy=self.maker.rendering, done=self.maker.frames_done)

    def _wish(self) -> None:
        self.commands.hand_over.wish = self.page.picture.wish
        self.show()

    def _again(self, name: str) -> None:
        """A remembered picture back in the fields."""
        picture = next((p for p in self.bench.session.document.pictures if p.name == name), None)
        if picture is not None:
            self.page.picture.put(PictureWish.of(picture))
            self._wish()

    def _show_coats(self, reply: BuildReply) -> None:
        document, pane = self.bench.session.document, self.page.picture
        pane.show_part(coat_rows(document, reply), document.pictures)
        faces = [p.names[0] for p in self.bench.picks if p.kind == "face" and p.names]
        if faces:
            pane.choose_face(faces[-1])

    def _want_picture(self) -> None:
        try:
            wanted = self.commands.hand_over.picture_order(self.commands.view.eye())
        except LathedError as exc:
            self.page.picture.show_state(exc.message, can=False)
            self.paper.show_words(exc.message)
            return
        shot = wanted.shot
        self.page.picture.show_state(f"{shot.width} x {shot.height} dots.", can=True)
        self._show_picture()
        self.maker.want_picture(wanted.looked_at())

    def _show_picture(self) -> None:
        if self.on and self.page.tab == PICTURE and self.maker.picture:
            self.paper.show_pages([QImage.fromData(self.maker.picture)])

    def _show_failure(self, what: str, why: str) -> None:
        if self.on and what == "picture" and self.page.tab == PICTURE:
            self.page.picture.show_state(why, can=False)
            self.paper.show_words(why)
        if self.on and what in ("drawing", "machinist"):
            self._nothing(why)

    # files and ways ----------------------------------------------------------------------------
    def _show_files(self, reply: BuildReply) -> None:
        summary = reply.summary
        volume, grams = summary.get("volume_mm3", 0.0), summary.get("mass_g") or 0.0
        status = status_of(reply.report)
        words = "What is handed over is proven." if not status else (
            f"{status}: that is written on every sheet; a part that is not complete is not exported.")  # fmt: skip
        self.page.files.show_part(words, summary.get("area_mm2", 0.0), grams / volume if volume else 0.0,
                                  whole=reply.report.complete and bool(reply.shape))  # fmt: skip

    def _write(self, what: str, chord: float) -> None:
        hand = self.commands.hand_over
        if what == "face":
            hand.write_face(chord)
        elif what == "section":
            hand.write_section(self.commands.view.section(), chord)
        elif what == "outline":
            hand.write_outline(self.commands.view.eye(), chord)
        elif what == "package":
            hand.write_package()
        else:
            hand.write_solid(what, chord)

    def _show_ways(self, reply: BuildReply) -> None:
        document = self.bench.session.document
        self.page.ways.show_ways([sums(document, reply), *self._others], document.unit)

    def _ask_other(self) -> None:
        """Another part's file: built beside this one, and summed up."""
        path = self.commands.hand_over.ask.open_path("The same part made another way", self.folder(), PARTS)
        if path is None:
            return
        try:
            other = read_document(path)
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return

        def take(reply: Any) -> None:
            self._others = [*self._others, sums(other, reply)][-4:]
            self.bench.tell(f"{path.name} stands beside the part in hand")
            self.show()

        self.bench.tell(f"building {path.name} …")
        self.maker.build(other, take)

    def folder(self) -> Path:
        """Where the part in hand lies."""
        path = self.bench.session.path
        return path.parent if path is not None else Path.home()


def pages_of(sheet: MachinistSheet) -> list[QImage]:
    """The sheet's pages as they will print."""
    import pypdfium2  # type: ignore[import-untyped]

    from lathed_solid.reports.machinist.pdf import machinist_pdf

    document = pypdfium2.PdfDocument(machinist_pdf(sheet, spoken))
    out = []
    for page in document:
        picture = page.render(scale=DOTS * 25.4 / 72).to_pil().convert("RGBA")
        image = QImage(picture.tobytes("raw", "RGBA"), picture.width, picture.height, QImage.Format.Format_RGBA8888)
        out.append(image.copy())
    document.close()
    return out
