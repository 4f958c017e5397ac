"""Work on the sheet that is shown: bringing it to scale, a view of it beneath a sketch, its revisions, its notes."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QBuffer, QIODevice, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QFileDialog, QWidget

from lathed_solid.desk.ask import ask_sizes
from lathed_solid.desk.read.revision_pane import RevisionPane
from lathed_solid.desk.read.sheet_view import SheetView
from lathed_solid.errors import LathedError
from lathed_solid.files import FileError
from lathed_solid.files.attachments import keep_sheet, read_for
from lathed_solid.part import Document, Sheet, scope
from lathed_solid.part.edits import changed
from lathed_solid.part.revision import Change, compare_sheet, moved, take_change
from lathed_solid.quantity.formatting import length
from lathed_solid.sheets import SheetPage
from lathed_solid.workbench.asked_sizes import AskedSize

SHEET_FILES = "Sheets (*.pdf *.dxf *.png *.jpg *.jpeg)"


class SheetWork(QWidget):
    """Knows the page that is shown and what was found on it; the page of sheets lays it out."""

    edited = pyqtSignal(str, object)
    noted = pyqtSignal(str, object, object)  # text, SheetPlace, Span or None
    cropped = pyqtSignal(bytes, float, bool)  # a PNG, its width in mm, whether that is to scale
    chosen = pyqtSignal(int)
    told = pyqtSignal(str, bool)
    read = pyqtSignal(object)  # SheetPage

    document: Document
    number: int
    page: int
    found: SheetPage | None
    view: SheetView
    revision: RevisionPane
    #: whether the callouts on the page are compared with what is found on it
    asking: bool
    _shown: tuple[str, int] | None

    def _sheet(self) -> Sheet | None:
        k = self.number - 1
        return self.document.sheets[k] if k < len(self.document.sheets) else None

    def _put(self, label: str, **values: Any) -> None:
        """An edit of the sheet that is shown."""
        k = self.number - 1

        def change(d: Document) -> Document:
            return changed(d, sheets=(*d.sheets[:k], changed(d.sheets[k], **values), *d.sheets[k + 1 :]))

        self.edited.emit(label, change)

    def start_measuring(self) -> None:
        """Two clicks tell a distance, or bring the sheet to scale."""
        self.view.set_mode("points")
        self.told.emit("click two points of the sheet whose distance the paper tells (Esc gives up)", False)

    def start_cropping(self) -> None:
        """The next drag takes a view out for a sketch."""
        self.view.set_mode("crop")
        self.told.emit("drag a box about a view: it goes beneath a sketch (Esc gives up)", False)

    def _measured(self, apart: float) -> None:
        """``apart``: the distance clicked, as a share of the page's width."""
        sheet = self._sheet()
        if sheet is None or apart <= 0:
            return
        known = apart * sheet.across if sheet.across else apart * (self.found.width if self.found else 100.0)
        shown = length(known, self.document.unit)
        words = "distance on the paper" if sheet.across else "their distance (the sheet is not to scale yet)"
        evaluate = scope(self.document)
        given = ask_sizes(
            self, f"Two points, {shown} {self.document.unit} apart", [AskedSize(words, shown)], lambda: evaluate
        )
        if given is not None:
            across = given.values[words] / apart
            if not 0.01 < across < 1e6:
                self.told.emit("this distance would scale the sheet absurdly", True)
                return
            self._put("sheet to scale", across=across)
            self.told.emit(f"the sheet is to scale: {length(across, self.document.unit)} across", False)

    def _cropped(self, picture: QPixmap, share: float) -> None:
        """A part of the page, ``share`` of its width wide."""
        data = QBuffer()
        data.open(QIODevice.OpenModeFlag.WriteOnly)
        picture.save(data, "PNG")
        sheet = self._sheet()
        paper = self.found.width if self.found is not None else 200.0
        across = sheet.across if sheet is not None and sheet.across else paper
        self.cropped.emit(bytes(data.data().data()), share * across, bool(sheet and sheet.across))

    def new_revision(self) -> None:
        """Ask for the sheet's new revision and compare."""
        name, _ = QFileDialog.getOpenFileName(self, "The sheet's new revision", "", SHEET_FILES)
        if name:
            self.take_revision(Path(name))

    def take_revision(self, path: Path) -> bool:
        """Lay a new revision in the place of the sheet that is shown, and ask what changed."""
        sheet = self._sheet()
        try:
            name = keep_sheet(read_for(path), path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False
        if sheet is None or name == sheet.file:
            self.told.emit("this is the revision that is laid already", True)
            return False
        self.revision.kept.clear()
        self.asking = True
        self._put(f"revision {path.name}", name=path.name[:200], file=name, earlier=(*sheet.earlier, sheet.file))
        return True

    def ask_changes(self) -> None:
        """Compare the callouts on this page with the notes found on it."""
        self.revision.kept.clear()
        self.asking = True
        self._compare()

    def _compare(self) -> None:
        self.revision.setVisible(self.asking and self.found is not None)
        if self.asking and self.found is not None and self._shown is not None:
            self.revision.show_changes(compare_sheet(self.document, self.number, self.page, self.found.offers))

    def _take_change(self, change: Change) -> None:
        number, page = self.number, self.page
        label = f"callout {change.balloon} by the revision" if change.balloon else f"{change.now} from the revision"
        self.edited.emit(label, lambda d: take_change(d, change, number, page))

    def _end_asking(self) -> None:
        """Balloons of what is the same move to where their notes stand now."""
        self.asking = False
        self.revision.hide()
        if self.found is not None:
            number, page = self.number, self.page
            changes = compare_sheet(self.document, number, page, self.found.offers)
            if moved(self.document, changes, number, page) != self.document:
                self.edited.emit("balloons follow the sheet", lambda d: moved(d, changes, number, page))
        self.view.show_offer(None)

    def _look_at(self, change: Change | None) -> None:
        if change is not None:
            self.view.show_offer(change.offer)
            if change.balloon is not None:
                self.chosen.emit(change.balloon)

    def take_all(self) -> None:
        """Every note found on the page that is not taken yet, as callouts, in one edit."""
        offers = [o for o in self.view.offers if o not in self.view.taken]
        number, page, said = self.number, self.page, [0, 0]

        def change(document: Document) -> Document:
            for offer in offers:
                try:
                    new = take_change(document, Change("new", None, "", offer.text, offer), number, page)
                except LathedError:
                    said[1] += 1
                    continue
                said[0] += len(new.callouts) - len(document.callouts)
                document = new
            return document

        if offers:
            self.edited.emit(f"{len(offers)} notes of the sheet", change)
            left = f"; {said[1]} notes state no size" if said[1] else ""
            self.told.emit(f"{said[0]} callouts taken{left}", False)
