"""The builds behind one document: what is wanted, what the kernel is at, and what came back.

One request is open at a time. A document that is wanted while the kernel is at work waits, and only the last one that
was wanted is built: what came between is of no use to anyone, and the kernel is asked to give it up. Replies are kept
by document value, so that undo shows its solid at once. The kernel is never waited for: whoever owns the event loop
watches ``fileno()``, which may change (``kernel_changed``), and calls ``poll``.
"""

from __future__ import annotations

import logging
import time
from collections import OrderedDict
from pathlib import Path
from typing import Protocol

from lathed_solid.engine import protocol
from lathed_solid.engine.client import Lost, Message
from lathed_solid.kernel.errors import WorkerLost
from lathed_solid.kernel.figures import Thing
from lathed_solid.kernel.vectors import Ways
from lathed_solid.part import Document
from lathed_solid.workbench.signal import Signal

log = logging.getLogger(__name__)

KEPT_REPLIES = 16
#: how long the kernel has to give up what it is at, s
PATIENCE = 2.0
MAX_LOSSES = 3


class Kernel(Protocol):
    """What the queue needs of ``engine.client.KernelClient``."""

    def ask(self, request: protocol.Request) -> int: ...
    def poll(self, timeout: float = 0.0) -> Message | None: ...
    def drop(self) -> None: ...
    def cancel(self) -> None: ...
    def close(self) -> None: ...
    def fileno(self) -> int: ...


class BuildQueue:
    """Builds, previews, exports and measures for one window; without a kernel it takes wishes and does nothing."""

    def __init__(self, kernel: Kernel | None) -> None:
        self.kernel = kernel
        #: of the document that is shown; None before its first build
        self.reply: protocol.BuildReply | None = None
        self.built: Signal[protocol.BuildReply] = Signal()
        self.previewed: Signal[protocol.BuildReply] = Signal()
        #: the solid ahead of its proof; whether it is only tried out
        self.pictured: Signal[protocol.Pictured, bool] = Signal()
        self.measured: Signal[protocol.Measured] = Signal()
        self.compared: Signal[protocol.Compared] = Signal()
        self.viewed: Signal[protocol.Viewed] = Signal()
        self.sided: Signal[protocol.Sides] = Signal()
        self.busy_changed: Signal[bool] = Signal()
        self.progressed: Signal[protocol.Progress] = Signal()
        self.told: Signal[str, bool] = Signal()
        self.kernel_changed: Signal[()] = Signal()
        self._replies: OrderedDict[Document, protocol.BuildReply] = OrderedDict()
        #: what is shown and what the reply is of, what is tried out instead, and which of them is still to be built
        self._shown = self._answered = Document()
        self._preview: Document | None = None
        self._wanted: Document | None = None
        self._doing: protocol.Request | None = None
        #: since when the kernel is to give up what it is at (monotonic s); None while it is wanted
        self._dropped: float | None = None
        #: what is to be measured by hand once the kernel is free
        self._hand: protocol.MeasureByHand | None = None
        self._losses = 0

    # wishes ------------------------------------------------------------------------------------
    @property
    def busy(self) -> bool:
        """Whether the kernel is at something."""
        return self._doing is not None

    @property
    def idle(self) -> bool:
        """Whether nothing is under way, and there is a reply."""
        return self._doing is None and self._wanted is None and self.reply is not None

    @property
    def settled(self) -> bool:
        """Whether the reply is that of what is shown, and nothing is under way."""
        return self.idle and self._answered == self._shown

    @property
    def stale(self) -> bool:
        """Whether the reply is that of an earlier document, and nothing is under way: the work was stopped or lost."""
        return self.idle and self._answered != self._shown

    def forget(self) -> None:
        """Another document is opened: there is no reply to it yet."""
        self.reply = None

    def keeps(self, document: Document) -> bool:
        """Whether its reply is there already."""
        return document in self._replies

    def show(self, document: Document) -> None:
        """Bring the solid up to a document: from kept replies, else by the kernel. A preview ends."""
        self._shown, self._preview = document, None
        kept = self._replies.get(document)
        if kept is not None:
            self._wanted = None
            self._drop_pointless()
            self._take(document, kept)
            return
        self._wanted = document
        self._drop_pointless()
        self._next()

    def preview(self, document: Document) -> None:
        """Build what a document would look like, without showing it as the present one."""
        if document == self._shown:
            self.end_preview()
            return
        self._preview = document
        kept = self._replies.get(document)
        if kept is not None:
            self.previewed.emit(kept)
            return
        self._wanted = document
        self._drop_pointless()
        self._next()

    def end_preview(self) -> None:
        """Back to what is shown; nothing happens when nothing was tried out."""
        if self._preview is not None:
            self.show(self._shown)

    def rebuild(self) -> None:
        """Build what is shown anew, past the kept replies."""
        self._replies.pop(self._shown, None)
        self._losses = 0
        self.show(self._shown)

    def export(self, document: Document, path: Path) -> None:
        """Write STEP or STL, by the ending."""
        self._ask_now(protocol.Export(document=document, path=str(path.absolute())), "export")

    def draw_views(self, document: Document) -> None:
        """Prove, with views for the inspection sheet; ``viewed`` brings them."""
        self._ask_now(protocol.DrawViews(document=document), "write the sheet")

    def draw_sides(self, document: Document, ways: Ways = ()) -> None:
        """The six sides of the solid as lines, or how it is seen from ``ways``; ``sided`` brings them."""
        self._ask_now(protocol.DrawSides(document=document, ways=ways), "lay the drawing over")

    def compare(self, old: Document, document: Document) -> None:
        """Which faces and masses differ; ``compared`` brings it."""
        self._ask_now(protocol.Compare(old=old, document=document), "compare")

    def measure(self, things: tuple[Thing, ...], section: tuple[float, str] | None, *, mesh: bool) -> None:
        """Measure what is picked, the section and the mesh; ``measured`` brings it. The last wish waits."""
        self._hand = protocol.MeasureByHand(document=self._shown, things=things, section=section, mesh=mesh)
        self._next()

    def _drop_pointless(self) -> None:
        """Have the kernel give up a build that an edit has made pointless; one that is wanted after all goes on."""
        if self.kernel is None or not isinstance(self._doing, protocol.Build) or self._dropped is not None:
            return
        if self._doing.document == self._wanted:
            self._wanted = None
        elif self._doing.document not in (self._shown, self._preview) or self._wanted is not None:
            self._dropped = time.monotonic()
            self.kernel.drop()

    def hurry(self) -> None:
        """Replace a kernel that goes on with what is not wanted any more; called now and then."""
        if self._dropped is None or time.monotonic() - self._dropped < PATIENCE or self.kernel is None:
            return
        log.warning("a build that was given up went on; the worker is replaced")
        self._replace(self.kernel)
        self._next()

    def cancel(self) -> None:
        """Give up the running work; the document stays as it is."""
        if self.kernel is None or not self.busy:
            return
        self._wanted = None
        self._replace(self.kernel)
        self.told.emit("stopped; the last solid stays in view (F5 builds again)", False)

    def _replace(self, kernel: Kernel) -> None:
        """End the work at hand by another worker."""
        self._doing = self._dropped = None
        try:
            kernel.cancel()
        except WorkerLost as exc:
            self.told.emit(exc.message, True)
        self.kernel_changed.emit()
        self.busy_changed.emit(False)

    def close(self) -> None:
        """The kernel ends."""
        if self.kernel is not None:
            self.kernel.close()
            self.kernel = None
        self.kernel_changed.emit()

    # the kernel --------------------------------------------------------------------------------
    def _next(self) -> None:
        """What waits, when the kernel is free: the wanted document first, then the hand's sizes."""
        if self.busy or self.kernel is None:
            return
        if self._wanted is not None:
            wanted, self._wanted = self._wanted, None
            self._ask(protocol.Build(document=wanted))
        elif self._hand is not None and self.reply is not None:
            hand, self._hand = self._hand, None
            self._ask(hand.model_copy(update={"document": self._shown}))

    def _ask_now(self, request: protocol.Request, what: str) -> None:
        if self.kernel is None or self.busy:
            self.told.emit(f"the kernel is at work; {what} when it is done", True)
        else:
            self._ask(request)

    def _ask(self, request: protocol.Request) -> None:
        assert self.kernel is not None
        try:
            self.kernel.ask(request)
        except (WorkerLost, OSError) as exc:
            self.told.emit(str(exc), True)
            return
        self._doing = request
        self.kernel_changed.emit()
        self.busy_changed.emit(True)

    def poll(self) -> None:
        """Take what has come. Called when ``fileno()`` is readable. How far the work is gone is told only where nothing
        came after it: telling costs a frame, which the picture that is there already need not wait for.
        """
        if self.kernel is None:
            return
        progress: protocol.Progress | None = None
        try:
            while isinstance(message := self.kernel.poll(), protocol.Progress):
                progress = message
        except WorkerLost as exc:
            self._doing = self._dropped = None
            self.kernel_changed.emit()
            self.busy_changed.emit(False)
            self.told.emit(exc.message, True)
            return
        if message is None and progress is not None:
            self.progressed.emit(progress)
        elif isinstance(message, protocol.Pictured):
            self._picture(message)
        elif isinstance(message, Lost):
            self._lost(message)
        elif message is not None:
            self._done(message)

    def _done(self, answer: protocol.Answer) -> None:
        request, self._doing, self._dropped = self._doing, None, None
        self.busy_changed.emit(False)
        if isinstance(answer, protocol.BuildReply) and isinstance(request, protocol.Build):
            self._built(request.document, answer)
        elif isinstance(answer, protocol.Measured):
            self.measured.emit(answer)
        elif isinstance(answer, protocol.Exported):
            self.told.emit(f"exported to {Path(answer.path).name}", False)
        elif isinstance(answer, protocol.Viewed):
            self.viewed.emit(answer)
        elif isinstance(answer, protocol.Sides):
            self.sided.emit(answer)
        elif isinstance(answer, protocol.Compared):
            self.told.emit("compared", False)
            self.compared.emit(answer)
        elif isinstance(answer, protocol.Failed):
            self.told.emit(answer.message, True)
        self._next()

    def _picture(self, pictured: protocol.Pictured) -> None:
        if isinstance(self._doing, protocol.Build) and self._dropped is None:
            if self._doing.document == self._preview:
                self.pictured.emit(pictured, True)
            elif self._doing.document == self._shown and self._preview is None:
                self.pictured.emit(pictured, False)

    def _built(self, document: Document, reply: protocol.BuildReply) -> None:
        self._losses = 0
        self._replies[document] = reply
        if document == self._wanted:  # it was given up, wanted again, and came all the same
            self._wanted = None
        while len(self._replies) > KEPT_REPLIES:
            self._replies.popitem(last=False)
        if document == self._preview:
            self.previewed.emit(reply)
        elif document == self._shown:
            self._take(document, reply)

    def _take(self, document: Document, reply: protocol.BuildReply) -> None:
        self.reply, self._answered = reply, document
        self.built.emit(reply)

    def _lost(self, message: Lost) -> None:
        again = isinstance(self._doing, protocol.Build)
        self._doing = self._dropped = None
        self.kernel_changed.emit()
        self.busy_changed.emit(False)
        self._losses += 1
        if self._losses >= MAX_LOSSES:
            self.told.emit(
                "the geometry worker stopped several times; the document is safe. "
                "Change the last step, or press F5 to try again",
                True,
            )
            return
        self.told.emit(message.message, True)
        if again and self._wanted is None:
            self._wanted = self._shown
        self._next()

    def fileno(self) -> int | None:
        """What becomes readable when ``poll`` has something; None without a kernel."""
        return self.kernel.fileno() if self.kernel is not None else None
