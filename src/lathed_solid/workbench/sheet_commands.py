"""Work on the sheets beside the solid: laying them, scale, views for sketches, revisions, their notes. No widgets.

One page of one sheet is shown; what was read off it is ``found``. Places on a page are shares of its width and height.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal, Protocol

from lathed_solid.errors import LathedError
from lathed_solid.files import FileError
from lathed_solid.files.attachments import keep_sheet, read_for
from lathed_solid.ledger import Callout
from lathed_solid.ledger.sheet_corners import Corners
from lathed_solid.part import Document, Scope, Sheet, scope
from lathed_solid.part.document import UNNAMED
from lathed_solid.part.edits import changed
from lathed_solid.part.revision import Change, beside, compare_sheet, moved, take_change
from lathed_solid.quantity.formatting import length
from lathed_solid.sheets import SheetPage
from lathed_solid.sheets.client import NoteCandidate
from lathed_solid.sheets.strokes import Linework
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes
from lathed_solid.workbench.signal import Signal

if TYPE_CHECKING:
    from lathed_solid.part.proposals import Proposal

#: what clicks on the sheet mean
Mode = Literal["notes", "points", "crop"]
SHEET_FILES = "Sheets (*.pdf *.dxf *.png *.jpg *.jpeg)"
#: a callout stands at a note when it is so near beside it, shares of the page
SAME = 0.004
#: the paper is so wide where nothing is known of it, mm
PAPER = 200.0


class SheetPrompts(Protocol):
    """What work on sheets asks of a person; None when given up."""

    def sheet(self, title: str) -> Path | None:
        """A sheet's file."""

    def sizes(self, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
        """Sizes, asked until they are understood."""


class SheetCommands:
    """Signals: an edit of the document; another page wanted; a picture for a sketch; answers to a revision (None: no
    more are asked); a mode of the view; words.
    """

    def __init__(self, ask: SheetPrompts) -> None:
        self.ask = ask
        self.document = Document()
        self.number, self.page, self.pages = 1, 1, 1
        #: the document that a first model was proposed for, and what was proposed
        self._proposed: tuple[Document, Proposal] | None = None
        self.found: SheetPage | None = None
        #: whether the callouts on the page are compared with what is found on it
        self.asking = False
        self.edited: Signal[str, Callable[[Document], Document]] = Signal()
        self.page_wanted: Signal[()] = Signal()
        self.cropped: Signal[bytes, float, bool] = Signal()
        self.compared: Signal[Sequence[Change] | None, bool] = Signal()
        self.mode_wanted: Signal[Mode] = Signal()
        self.told: Signal[str, bool] = Signal()

    # what is shown -----------------------------------------------------------------------------
    @property
    def sheet(self) -> Sheet | None:
        """The sheet that is shown; None where none is laid."""
        k = self.number - 1
        return self.document.sheets[k] if k < len(self.document.sheets) else None

    def show_document(self, document: Document) -> None:
        """Another value of the document: the page that was shown stays, where it is there."""
        self.document = document
        self.number = min(self.number, len(document.sheets)) or 1
        if not document.sheets:
            self.asking, self.found = False, None

    def show_page(self, found: SheetPage) -> None:
        """A page was read."""
        self.found, self.pages = found, found.pages
        self.compare()

    def turn_to(self, number: int, page: int = 1) -> None:
        """A page of a sheet, both from 1; one that is not there is ignored."""
        if 1 <= number <= len(self.document.sheets):
            self.number, self.page = number, page
            self.page_wanted.emit()

    def turn_page(self, by: int) -> None:
        """Some pages on, or back."""
        if 1 <= self.page + by <= self.pages:
            self.turn_to(self.number, self.page + by)

    @property
    def here(self) -> list[Callout]:
        """Callouts that stand on this page."""
        at = (self.number, self.page)
        return [c for c in self.document.callouts if c.place is not None and (c.place.sheet, c.place.page) == at]

    def taken(self, offers: Sequence[NoteCandidate]) -> frozenset[NoteCandidate]:
        """Found notes that callouts on the page were taken from."""
        return frozenset(o for o in offers if any(_stands_at(c, o) for c in self.here))

    # laying ------------------------------------------------------------------------------------
    def open(self) -> None:
        """Ask for a sheet and lay it."""
        path = self.ask.sheet("Open a sheet")
        if path is not None:
            self.lay(path)

    def lay(self, path: Path) -> bool:
        """Lay a file beside the model; False (and words) when it cannot be."""
        name = self._kept(path)
        if name is None:
            return False
        sheet = Sheet(name=path.name[:200], file=name)
        self.number, self.page = len(self.document.sheets) + 1, 1
        self.edited.emit(f"sheet {path.name}", lambda d: changed(d, sheets=(*d.sheets, sheet)))
        return True

    def _kept(self, path: Path) -> str | None:
        try:
            return keep_sheet(read_for(path), path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return None

    def turn(self) -> None:
        """A quarter turn, kept with the sheet."""
        if self.sheet is not None:
            self._put("turn the sheet", turn=(self.sheet.turn + 90) % 360)

    def put_corners(self, corners: Corners | None) -> None:
        """The corners of the photographed sheet, kept with it; None: they are found."""
        if self.sheet is not None and self.sheet.corners != corners:
            self._put("the sheet's corners", corners=corners)

    def _put(self, label: str, **values: Any) -> None:
        """An edit of the sheet that is shown."""
        k = self.number - 1

        def change(d: Document) -> Document:
            return changed(d, sheets=(*d.sheets[:k], changed(d.sheets[k], **values), *d.sheets[k + 1 :]))

        self.edited.emit(label, change)

    # scale and views ---------------------------------------------------------------------------
    def start_measuring(self) -> None:
        """Two clicks tell a distance, or bring the sheet to scale."""
        self.mode_wanted.emit("points")
        self.told.emit("click two points of the sheet whose distance the paper tells (Esc gives up)", False)

    def start_cropping(self) -> None:
        """The next drag takes a view out for a sketch."""
        self.mode_wanted.emit("crop")
        self.told.emit("drag a box about a view: it goes beneath a sketch (Esc gives up)", False)

    def measured(self, apart: float) -> None:
        """Two points were clicked, ``apart`` as a share of the page's width: what the paper says of them is asked."""
        sheet, unit = self.sheet, self.document.unit
        if sheet is None or apart <= 0:
            return
        shown = length(apart * (self.across or (self.found.width if self.found else 100.0)), unit)
        words = "distance on the paper" if self.across else "their distance (the sheet is not to scale yet)"
        evaluate = scope(self.document)
        given = self.ask.sizes(f"Two points, {shown} {unit} apart", [AskedSize(words, shown)], lambda: evaluate)
        if given is None:
            return
        across = given.values[words] / apart
        if not 0.01 < across < 1e6:
            self.told.emit("this distance would scale the sheet absurdly", True)
            return
        self._put("sheet to scale", across=across)
        self.told.emit(f"the sheet is to scale: {length(across, unit)} across", False)

    def crop(self, picture: bytes, share: float) -> None:
        """A part of the page as a PNG, ``share`` of its width wide."""
        across = self.across
        paper = self.found.width if self.found is not None else PAPER
        self.cropped.emit(picture, share * (across or paper), across is not None)

    @property
    def across(self) -> float | None:
        """How much of the part the page's width is, mm: by two points clicked, else by what its dimension lines agree
        on; None where neither says it.
        """
        if self.sheet is not None and self.sheet.across:
            return self.sheet.across
        return self.found.width / self.found.scale if self.found is not None and self.found.scale else None

    # revisions ---------------------------------------------------------------------------------
    def new_revision(self) -> None:
        """Ask for the sheet's new revision and compare."""
        path = self.ask.sheet("The sheet's new revision")
        if path is not None:
            self.take_revision(path)

    def take_revision(self, path: Path) -> bool:
        """Lay a new revision in the place of the sheet that is shown, and ask what changed."""
        sheet, name = self.sheet, self._kept(path)
        if name is None:
            return False
        if sheet is None or name == sheet.file:
            self.told.emit("this is the revision that is laid already", True)
            return False
        self.asking, self.found = True, None
        self._put(f"revision {path.name}", name=path.name[:200], file=name, earlier=(*sheet.earlier, sheet.file))
        return True

    def ask_changes(self) -> None:
        """Compare the callouts on this page with the notes found on it, anew."""
        self.asking = True
        self.compare(anew=True)

    def compare(self, *, anew: bool = False) -> None:
        """What the callouts here and the notes found here say of one another, while that is asked."""
        if self.asking and self.found is not None:
            self.compared.emit(compare_sheet(self.document, self.number, self.page, self.found.offers), anew)
        else:
            self.compared.emit(None, anew)

    def mend(self, offer: NoteCandidate, text: str) -> NoteCandidate | None:
        """A note that was read wrongly, as a person reads it; None (and words) when it says nothing."""
        from lathed_solid.notation import NoteError, read_note

        assert self.found is not None
        try:
            meaning = read_note(text, self.document.unit)
        except NoteError as exc:
            self.told.emit(exc.message, True)
            return None
        if not meaning.clauses:
            self.told.emit(f"nothing in this note could be read: {' '.join(meaning.unread)}", True)
            return None
        mended = replace(offer, text=text, plain=meaning.plain, sure="sure", why="")
        self.found = replace(self.found, offers=tuple(mended if o is offer else o for o in self.found.offers))
        return mended

    def take_change(self, change: Change) -> None:
        """What the sheet says now."""
        number, page = self.number, self.page
        label = f"callout {change.balloon} by the revision" if change.balloon else f"{change.now} from the revision"
        self.edited.emit(label, lambda d: take_change(d, change, number, page))

    def end_asking(self) -> None:
        """Balloons of what is the same move to where their notes stand now."""
        self.asking = False
        if self.found is not None:
            number, page = self.number, self.page
            changes = compare_sheet(self.document, number, page, self.found.offers)
            if moved(self.document, changes, number, page) != self.document:
                self.edited.emit("balloons follow the sheet", lambda d: moved(d, changes, number, page))
        self.compared.emit(None, False)

    @property
    def untaken_title(self) -> dict[str, Any]:
        """What the page says beside sizes and the document does not, by the document's fields. The unit only while
        nothing is written in another.
        """
        if self.found is None:
            return {}
        said, d = self.found.title, self.document
        started = bool(d.callouts or d.steps)
        words = tuple(dict.fromkeys((*d.instructions, *said.instructions)))
        told = {"material": said.material, "general": said.general, "unit": None if started else said.unit,
                "instructions": words, "name": said.name if d.name == UNNAMED and said.name else None}  # fmt: skip
        return {k: v for k, v in told.items() if v is not None and v != getattr(d, k)}

    def take_title(self) -> None:
        """Material, general tolerance, unit and words for the shop as the sheet says them, in one edit."""
        new = self.untaken_title
        if new:
            self.edited.emit("the title block", lambda d: d.model_copy(update=new))
            taken = (", ".join(v) if isinstance(v, tuple) else str(v) for v in new.values())
            self.told.emit(f"taken from the sheet: {', '.join(taken)}", False)
        elif self.found is not None:
            words = self.found.title.words
            said = f"the sheet says what the part says: {words}" if words else "no title block was read here"
            self.told.emit(said, not words)

    # a first model -----------------------------------------------------------------------------
    def _may_propose(self) -> bool:
        """Whether a first model can be asked for; words when not."""
        why = ""
        if self.found is None or self.found.lettering == "unread":
            why = "the page is still being read"
        elif self.document.steps:
            why = "the part has steps already: a first model is proposed for a part without any"
        if why:
            self.told.emit(why, True)
        return not why

    def proposer(self) -> Callable[[Linework], Proposal] | None:
        """What makes the first model of the part on this page of its linework, beside the window; None (and
        words) where none can be asked for. It raises ProposalError.
        """
        if not self._may_propose():
            return None
        document, found, number, page = self.document, self.found, self.number, self.page
        assert found is not None

        def propose(linework: Linework) -> Proposal:
            from lathed_solid.part.proposals import propose as proposed

            proposal = proposed(document, found, linework, number, page)
            self._proposed = document, proposal
            return proposal

        return propose

    def build_proposal(self) -> bool:
        """Every note of the page as callouts, and the steps, in one edit; False when the part has changed since."""
        if self._proposed is None or self._proposed[0] is not self.document:
            self.told.emit("the part has changed since: ask for the first model anew", True)
            return False
        made = self._proposed[1].document
        self.edited.emit("first model from the sheet", lambda _: made)
        self._proposed = None
        return True

    def take_all(self) -> None:
        """Every note found on the page that is not taken yet, as callouts, in one edit; those that their own dimension
        lines contradict are left to be looked at, and of a picture those whose lettering is doubtful too.
        """
        if self.found is None:
            return
        taken = self.taken(self.found.offers)
        left = ("contradicted", "doubtful") if self.found.lettering else ("contradicted",)
        offers = [o for o in self.found.offers if o not in taken and o.sure not in left]
        unsure = [o for o in self.found.offers if o not in taken and o.sure in left]
        against = sum(o.sure == "contradicted" for o in unsure)
        doubtful = len(unsure) - against
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
            no_size = f"; {said[1]} notes state no size" if said[1] else ""
            lines = f"; {against} left, which their lines contradict: point at them" if against else ""
            read = f"; {doubtful} left, whose lettering is doubtful: go through them one by one" if doubtful else ""
            self.told.emit(f"{said[0]} callouts taken{no_size}{lines}{read}", bool(unsure))
        elif unsure:
            why = "their lines contradict" if against else "are doubtful"
            self.told.emit(f"{len(unsure)} left, which {why}: click one to take it all the same", True)


def _stands_at(callout: Callout, offer: NoteCandidate) -> bool:
    """Whether a callout was taken from this very note."""
    x, _y = beside(offer)
    place = callout.place
    return place is not None and abs(place.x - x) < SAME and offer.box[1] - SAME < place.y < offer.box[3] + SAME
