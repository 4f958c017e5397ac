"""What leaves the bench, made beside the window of the part in hand: its drawing, the machinist's sheet, files.

One kernel of its own, so that a drawing waits for no build; it starts with the first wish. Works wait for one another;
of a wish that another has overtaken nothing is told. Hidden lines are kept by the part as it is modelled, so that
another sheet or scale asks the geometry for nothing.
"""

from __future__ import annotations

import subprocess
import threading
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Protocol, TypeVar

from pydantic import BaseModel

from lathed_solid.engine import protocol
from lathed_solid.engine.protocol import DrawFigures, Figured, FindForShop, FindLoops, LoopsFound, ShopFound
from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.part.drawing_style import DrawingStyle
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.workbench.hand_over.pictures import PictureOrder
from lathed_solid.workbench.prompts import Background
from lathed_solid.workbench.signal import Signal

if TYPE_CHECKING:  # what writes is imported when it is first wanted
    from lathed_solid.reports.drawing.choosing import Chosen
    from lathed_solid.reports.drawing.model import DrawnSheet
    from lathed_solid.reports.machinist.model import MachinistSheet

A = TypeVar("A", bound=BaseModel)
T = TypeVar("T")


class Kernel(Protocol):
    """What is needed of ``engine.client.KernelClient``."""

    def answer(self, request: protocol.Request, of: type[A]) -> A: ...
    def kill(self) -> None: ...
    def close(self) -> None: ...


class Maker:
    """Signals: the drawing, or the machinist's sheet, is another; busy or not; words for the user."""

    def __init__(self, start: Callable[[], Kernel], background: Background, spoken: Spoken = as_it_is) -> None:
        """``spoken``: the words of printed sheets."""
        self._start, self._background, self._spoken = start, background, spoken
        self._kernel: Kernel | None = None
        self._lock = threading.Lock()
        self._closed = False
        self._figures: tuple[Document, Chosen, Figured] | None = None
        #: what was made last, and of which part
        self.sheets: tuple[DrawnSheet, ...] = ()
        self.machinist: MachinistSheet | None = None
        self.picture = b""
        #: pictures of the turn at work that are done; counted beside the window
        self.frames_done = 0
        self._pictured_of: PictureOrder | None = None
        self._renderer: subprocess.Popen[bytes] | None = None
        self._drawn_of: Document | None = None
        self._found_of: Document | None = None
        self._latest: dict[str, int] = {}
        self._open = 0
        self.drawn: Signal[()] = Signal()
        self.found: Signal[()] = Signal()
        self.pictured: Signal[()] = Signal()
        self.failed: Signal[str, str] = Signal()
        self.told: Signal[str, bool] = Signal()
        self.busy_changed: Signal[bool] = Signal()

    @property
    def rendering(self) -> bool:
        """Whether a picture is at work."""
        return self._renderer is not None

    @property
    def busy(self) -> bool:
        """Whether anything is being made."""
        return self._open > 0

    # wishes ------------------------------------------------------------------------------------
    def want_drawing(self, document: Document) -> None:
        """See that the drawing is that of a part; ``drawn`` brings it."""
        if document != self._drawn_of:
            self._drawn_of = document
            self._make("drawing", lambda: self._draw(document), self._take_drawing)

    def want_machinist(self, document: Document) -> None:
        """See that the machinist's sheet is that of a part; ``found`` brings it."""
        if document != self._found_of:
            self._found_of = document
            self._make("machinist", lambda: self._find(document), self._take_found)

    def want_picture(self, order: PictureOrder) -> None:
        """See that the picture is the one that is asked for; ``pictured`` brings it."""
        if order != self._pictured_of:
            self._pictured_of = order
            self._make("picture", lambda: self._take(order), self._take_picture)

    def forget(self) -> None:
        """What failed is tried again at the next wish."""
        self._drawn_of = self._found_of = self._pictured_of = None

    def write_drawing(self, document: Document, path: Path) -> None:
        """As PDF, DXF or SVG, by the ending."""

        def write() -> str:
            from lathed_solid.reports.drawing.files import write_drawing

            return ", ".join(p.name for p in write_drawing(path, self._draw(document)))

        self._write(path, write)

    def write_machinist(self, document: Document, path: Path) -> None:
        """As PDF, CSV or JSON, by the ending."""

        def write() -> None:
            from lathed_solid.reports.machinist.files import write_machinist

            write_machinist(path, self._find(document), self._spoken)

        self._write(path, write)

    def write_picture(self, order: PictureOrder, path: Path) -> None:
        """As PNG, or GIF where it turns."""

        def write() -> None:
            from lathed_solid.files.atomic import write_atomic

            write_atomic(path, self._take(order))

        self._write(path, write)

    def write_package(self, document: Document, path: Path) -> None:
        """Everything in one zip."""

        def write() -> None:
            from lathed_solid.reports.package import write_package

            write_package(path, document, self._at_hand(), self._spoken)

        self._write(path, write)

    def write_solid(self, document: Document, path: Path, chord: float) -> None:
        """As STEP, STL, 3MF or GLB, by the ending; ``chord``: how far triangles may be off, mm."""
        request = protocol.Export(document=document, path=str(path.absolute()), chord=chord)
        self._write(path, lambda: self._at_hand().answer(request, protocol.Exported) and None)

    def write_loops(self, document: Document, path: Path, request: FindLoops) -> None:
        """A face or a section, as DXF or SVG."""

        def write() -> None:
            from lathed_solid.reports.flat_files import write_loops

            write_loops(path, self._at_hand().answer(request, LoopsFound).loops, document.unit, document.name)

        self._write(path, write)

    def stop_picture(self) -> None:
        """The picture at work is given up."""
        if (renderer := self._renderer) is not None:
            renderer.kill()

    def build(self, document: Document, done: Callable[[protocol.BuildReply], object]) -> None:
        """Another part built, to be looked at beside the one in hand."""
        request = protocol.Build(document=document, shape=False)
        self._make("build", lambda: self._at_hand().answer(request, protocol.BuildReply), done)

    # at work -----------------------------------------------------------------------------------
    def _draw(self, document: Document) -> tuple[DrawnSheet, ...]:
        from lathed_solid.reports.drawing.draw import drawn, figures_of

        section = document.drawing.section
        model = document.model_copy(update={"drawing": DrawingStyle(section=section), "coats": (), "pictures": ()})
        if self._figures is None or self._figures[0] != model:
            kernel = self._at_hand()

            def ask(request: DrawFigures) -> Figured:
                return kernel.answer(request, Figured)

            self._figures = (model, *figures_of(model, ask, section))
        _, found, figured = self._figures
        return drawn(document, figured, found, document.drawing, self._spoken)

    def _find(self, document: Document) -> MachinistSheet:
        from lathed_solid.reports.machinist.sheet import machinist_sheet

        kernel = self._at_hand()

        def ask(request: FindForShop) -> ShopFound:
            return kernel.answer(request, ShopFound)

        return machinist_sheet(document, ask)

    def _take(self, order: PictureOrder) -> bytes:
        from lathed_solid.viewer.picture_process import taken

        def hold(process: subprocess.Popen[bytes]) -> None:
            self._renderer = process
            if self._closed:
                process.kill()

        def tell(done: int) -> None:
            self.frames_done = done

        self.frames_done = 0
        try:
            return taken(order.data, order.finish, order.shot, hold, tell, order.coats)
        finally:
            self._renderer = None

    def _at_hand(self) -> Kernel:
        if self._closed:
            raise LathedError("the window is closed")
        if self._kernel is None:
            self._kernel = self._start()
        return self._kernel

    def _take_drawing(self, sheets: tuple[DrawnSheet, ...]) -> None:
        self.sheets = sheets
        self.drawn.emit()

    def _take_found(self, sheet: MachinistSheet) -> None:
        self.machinist = sheet
        self.found.emit()

    def _take_picture(self, picture: bytes) -> None:
        self.picture = picture
        self.pictured.emit()

    def _write(self, path: Path, write: Callable[[], object]) -> None:
        self.told.emit(f"writing {path.name} …", False)
        self._make("write", write, lambda names: self.told.emit(f"written: {names or path.name}", False))

    def _make(self, what: str, work: Callable[[], T], done: Callable[[T], object]) -> None:
        """Do a work when those before it are done; only the last wish of its kind is told (writing is always)."""
        number = self._latest[what] = self._latest.get(what, 0) + 1

        def overtaken() -> bool:
            return what != "write" and number != self._latest[what]

        def run() -> T | None:
            with self._lock:
                return None if overtaken() else work()

        def over(told: Callable[[], object]) -> None:
            self._open -= 1
            if self._open == 0:
                self.busy_changed.emit(False)
            if not overtaken() and not self._closed:
                told()

        def fail(why: str) -> None:
            over(lambda: self._fail(what, why))

        self._open += 1
        if self._open == 1:
            self.busy_changed.emit(True)
        self._background.run(run, lambda found: over(lambda: done(found)), fail)  # type: ignore[arg-type]

    def _fail(self, what: str, why: str) -> None:
        if what == "drawing":
            self.sheets = ()
        elif what == "machinist":
            self.machinist = None
        elif what == "picture":
            self.picture = b""
        self.failed.emit(what, why)
        self.told.emit(why, True)

    def stop(self) -> None:
        """What the kernel is at ends; nothing more is told."""
        self._closed = True
        self.stop_picture()
        if self._kernel is not None and self.busy:
            self._kernel.kill()

    def close(self) -> None:
        """The kernel ends; once nothing runs any more."""
        self._closed = True
        if self._kernel is not None:
            self._kernel.close()
            self._kernel = None
