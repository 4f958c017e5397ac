"""What a fit wants of its own kernel: parts built, overlaps judged, travels, clearances, files.

One request is open at a time; of each kind the last wish waits. Parts are kept by their hash, so that a member more of
a known part asks for nothing. The kernel starts with the first wish.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from lathed_solid.engine import fit_protocol, protocol
from lathed_solid.engine.client import Lost
from lathed_solid.engine.fit_protocol import BuiltPartNews
from lathed_solid.errors import LathedError
from lathed_solid.fit.document import Fit, PartSource
from lathed_solid.workbench.build_queue import MAX_LOSSES, Kernel
from lathed_solid.workbench.signal import Signal


class FitQueue:
    """``start`` makes the kernel; without one nothing is built, and that is told once."""

    def __init__(self, start: Callable[[], Kernel | None]) -> None:
        self._start = start
        self._started = False
        self.kernel: Kernel | None = None
        self.parts: dict[str, BuiltPartNews] = {}
        self.shapes: dict[str, bytes] = {}
        self.built: Signal[()] = Signal()
        #: answers with what was asked: the fit may be another one by then
        self.judged: Signal[fit_protocol.FitJudged, fit_protocol.JudgeFit] = Signal()
        self.travelled: Signal[fit_protocol.TravelJudged, fit_protocol.JudgeTravel] = Signal()
        self.assembled: Signal[fit_protocol.AssemblyRead] = Signal()
        self.busy_changed: Signal[bool] = Signal()
        self.progressed: Signal[protocol.Progress, str] = Signal()
        self.told: Signal[str, bool] = Signal()
        self.kernel_changed: Signal[()] = Signal()
        self._doing: protocol.Request | None = None
        #: by kind of request, in the order in which they are served
        self._waiting: dict[str, protocol.Request] = {}
        self._losses = 0

    @property
    def busy(self) -> bool:
        """Whether the kernel is at something."""
        return self._doing is not None

    @property
    def idle(self) -> bool:
        """Whether nothing is under way, and nothing waits."""
        return self._doing is None and not self._waiting

    # wishes ------------------------------------------------------------------------------------
    def lacking(self, fit: Fit) -> tuple[PartSource, ...]:
        """Parts of a fit that are not built yet."""
        return tuple(p for p in fit.parts if p.sha256 not in self.parts)

    def build(self, fit: Fit) -> bool:
        """See that all parts are built; False when some must be waited for."""
        lacking = self.lacking(fit)
        if lacking:
            self._wish(fit_protocol.BuildParts(parts=lacking))
        return not lacking

    def judge(self, whole: Fit) -> None:
        """Which members overlap; ``judged`` brings it."""
        self._wish(fit_protocol.JudgeFit(fit=whole))

    def judge_travel(self, request: fit_protocol.JudgeTravel) -> None:
        """What a travel meets; ``travelled`` brings it."""
        self._wish(request)

    def export(self, whole: Fit, path: Path) -> None:
        """Write a STEP assembly or GLB."""
        self._wish(fit_protocol.ExportFit(fit=whole, path=str(path.absolute())))

    def read_assembly(self, path: Path) -> None:
        """The components of a STEP assembly; ``assembled`` brings them."""
        self._wish(fit_protocol.ReadAssembly(path=str(path.absolute())))

    def cancel(self) -> None:
        """Give up what runs and what waits."""
        self._waiting.clear()
        if self.kernel is None or not self.busy:
            return
        self._doing = None
        try:
            self.kernel.cancel()
        except LathedError as exc:
            self.told.emit(exc.message, True)
        self.kernel_changed.emit()
        self.busy_changed.emit(False)
        self.told.emit("stopped", False)

    def close(self) -> None:
        """The kernel ends."""
        self._waiting.clear()
        if self.kernel is not None:
            self.kernel.close()
            self.kernel = None
        self._started = True
        self.kernel_changed.emit()

    # the kernel --------------------------------------------------------------------------------
    def _wish(self, request: protocol.Request) -> None:
        self._waiting[request.op] = request
        self._next()

    def _ready(self) -> bool:
        if not self._started:
            self._started = True
            try:
                self.kernel = self._start()
            except LathedError as exc:
                self.told.emit(exc.message, True)
            self.kernel_changed.emit()
        return self.kernel is not None

    def _next(self) -> None:
        if self.busy or not self._waiting or not self._ready() or self.kernel is None:
            return
        first = "build parts" if "build parts" in self._waiting else next(iter(self._waiting))
        request = self._waiting.pop(first)
        try:
            self.kernel.ask(request)
        except (LathedError, OSError) as exc:
            self.told.emit(str(exc), True)
            return
        self._doing = request
        self.kernel_changed.emit()
        self.busy_changed.emit(True)

    def poll(self) -> None:
        """Take what has come. Called when ``fileno()`` is readable."""
        if self.kernel is None:
            return
        try:
            message = self.kernel.poll()
        except LathedError as exc:
            self._over()
            self.told.emit(exc.message, True)
            return
        if isinstance(message, protocol.Progress):
            self.progressed.emit(message, self._doing.op if self._doing is not None else "")
        elif isinstance(message, Lost):
            self._lost(message)
        elif message is not None:
            asked = self._doing
            self._over()
            self._done(message, asked)
            self._next()

    def _over(self) -> None:
        self._doing = None
        self.busy_changed.emit(False)

    def _done(self, answer: protocol.Answer, asked: protocol.Request | None) -> None:
        self._losses = 0
        if isinstance(answer, fit_protocol.PartsBuilt):
            self.parts |= {p.sha256: p for p in answer.parts}
            self.shapes |= answer.shapes()
            self.built.emit()
        elif isinstance(answer, fit_protocol.FitJudged) and isinstance(asked, fit_protocol.JudgeFit):
            self.judged.emit(answer, asked)
        elif isinstance(answer, fit_protocol.TravelJudged) and isinstance(asked, fit_protocol.JudgeTravel):
            self.travelled.emit(answer, asked)
        elif isinstance(answer, fit_protocol.AssemblyRead):
            self.assembled.emit(answer)
        elif isinstance(answer, protocol.Exported):
            self.told.emit(f"exported to {Path(answer.path).name}", False)
        elif isinstance(answer, protocol.Failed):
            self.told.emit(answer.message, True)

    def _lost(self, message: Lost) -> None:
        again = self._doing
        self._doing = None
        self.kernel_changed.emit()
        self.busy_changed.emit(False)
        self._losses += 1
        if self._losses >= MAX_LOSSES:
            self._waiting.clear()
            self.told.emit("the geometry worker stopped several times; the fit is safe", True)
            return
        self.told.emit(message.message, True)
        if again is not None and again.op not in self._waiting:
            self._waiting[again.op] = again
        self._next()

    def fileno(self) -> int | None:
        """What becomes readable when ``poll`` has something; None without a kernel."""
        return self.kernel.fileno() if self.kernel is not None else None
