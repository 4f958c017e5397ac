"""A kernel that answers when it is told to, prompts that answer what they are given, a view that remembers."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from lathed_solid.engine import protocol
from lathed_solid.engine.client import Lost, Message
from lathed_solid.errors import LathedError
from lathed_solid.files.journal import Waiting
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.fit.session import FitSession
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.note_entry import NoteEntry
from lathed_solid.workbench.session import Session

SUMMARY: Any = {
    "ok": True, "unit": "mm", "steps": [], "volume_mm3": 1000.0, "solids": 1, "faces": 6, "edges": 12,
}  # fmt: skip


def reply_to(request: protocol.Request, volume: float = 1000.0) -> protocol.Answer:
    """What a kernel could say to a request."""
    number = request.request
    if isinstance(request, protocol.Build):
        summary = {**SUMMARY, "volume_mm3": volume}
        return protocol.BuildReply(
            request=number, steps=(), summary=summary, report=Report(rows=(), mass=None, complete=True), shape=b"solid"
        )
    if isinstance(request, protocol.Export):
        return protocol.Exported(request=number, path=request.path)
    if isinstance(request, protocol.MeasureByHand):
        return protocol.Measured(request=number, sizes=(), section=None, mesh=None)
    if isinstance(request, protocol.DrawViews):
        return protocol.Viewed(
            request=number, report=Report(rows=(), mass=None, complete=True), summary=SUMMARY, views=()
        )
    return protocol.Failed(request=number, message="not in this fake")


class FakeKernel:
    """Keeps what it is asked; ``answer`` and ``lose`` put messages where ``poll`` finds them."""

    def __init__(self) -> None:
        self.asked: list[protocol.Request] = []
        self.messages: deque[Message] = deque()
        self.refusal: LathedError | None = None
        self.cancelled = self.closed = self.drops = 0

    def ask(self, request: protocol.Request) -> int:
        if self.refusal is not None:
            raise self.refusal
        self.asked.append(request.model_copy(update={"request": len(self.asked) + 1}))
        return len(self.asked)

    def poll(self, timeout: float = 0.0) -> Message | None:
        return self.messages.popleft() if self.messages else None

    def answer(self, volume: float = 1000.0) -> None:
        self.messages.append(reply_to(self.asked[-1], volume))

    def lose(self) -> None:
        self.messages.append(Lost(len(self.asked), "the worker stopped"))

    def drop(self) -> None:
        self.drops += 1

    def cancel(self) -> None:
        self.cancelled += 1

    def close(self) -> None:
        self.closed += 1

    def fileno(self) -> int:
        return 100 + self.cancelled


class FakePrompts:
    """Answers by what is set; ``asked`` keeps the titles."""

    def __init__(self) -> None:
        self.asked: list[str] = []
        self.path: Path | None = None
        self.leave: Any = "stay"
        self.yes = True
        self.line: str | None = None
        self.answers: list[str | None] = []
        self.takes: int | None = None
        self.begins: Callable[[Any], Any] = lambda last: None
        self.change: Callable[[Document], Document | None] = lambda d: None

    def open_path(self, title: str, folder: Path, kinds: str) -> Path | None:
        self.asked.append(title)
        return self.path

    def save_path(self, title: str, start: Path, kinds: str) -> Path | None:
        self.asked.append(f"{title}: {start.name}")
        return self.path

    def unsaved(self, name: str) -> Any:
        self.asked.append(f"unsaved {name}")
        return self.leave

    def confirm(self, title: str, words: str) -> bool:
        self.asked.append(words)
        return self.yes

    def choose(self, title: str, words: str, answers: Sequence[str]) -> str | None:
        self.asked.append(f"{title}: {', '.join(answers)}")
        return self.answers.pop(0)

    def take_up(self, found: Sequence[Waiting], asked: str) -> Waiting | None:
        self.asked.append(f"take up {', '.join(w.name for w in found)}, or {asked}")
        return found[self.takes] if self.takes is not None else None

    def beginning(self, last: Any) -> Any:
        self.asked.append(f"begin {last.unit} {last.material}")
        return self.begins(last)

    def redress(self, document: Document, balloon: int) -> Document | None:
        self.asked.append(f"redress {balloon}")
        return self.change(document)

    def text(self, title: str, label: str, text: str) -> str | None:
        self.asked.append(f"{title}: {text}")
        return self.line

    def properties(self, document: Document) -> Document | None:
        return self.change(document)

    def parameters(self, document: Document) -> Document | None:
        return self.change(document)


class FakeView:
    """Remembers what it was told to do."""

    def __init__(self) -> None:
        self.done: list[Any] = []
        self.on: set[str] = set()
        self.cut: tuple[float, str] | None = None
        self.by_hand = False

    def fit(self) -> None:
        self.done.append("fit")

    def look(self, name: str) -> None:
        self.done.append(name)

    def toggle(self, switch: str) -> None:
        self.on ^= {switch}

    def is_on(self, switch: str) -> bool:
        return switch in self.on

    def focus(self, place: str) -> None:
        self.done.append(place)

    def show_panel(self, panel: str) -> None:
        self.done.append(panel)

    def thumbnail(self) -> bytes | None:
        return None

    def picture(self) -> bytes | None:
        return None

    def section(self) -> tuple[float, str] | None:
        return self.cut

    def eye(self) -> tuple[float, float, float] | None:
        return (0.0, -1.0, 0.0)

    def measures_by_hand(self) -> bool:
        return self.by_hand

    def restyle(self, *, dark: bool, projection: str) -> None:
        self.done.append((dark, projection))

    def close(self) -> object:
        self.done.append("close")
        return None


class Immediate:
    """Work beside the window, done at once."""

    def run(self, work: Callable[[], Any], done: Callable[[Any], object], failed: Callable[[str], object]) -> int:
        try:
            found = work()
        except LathedError as exc:
            failed(exc.message)
        else:
            done(found)
        return 1


class Rig:
    """A workbench with everything about it faked."""

    def __init__(self, folder: Path, document: Document | None = None) -> None:
        self.kernel, self.ask, self.view = FakeKernel(), FakePrompts(), FakeView()
        self.answers: object = None
        self.session = Session(self.kernel, journal_folder=folder / "journal")
        self.bench = Workbench(self.session)
        fit = FitBench(FitSession(lambda: None, folder / "journal"))
        self.maker = Maker(lambda: self.answers, Immediate())  # type: ignore[arg-type, return-value]
        self.commands = Commands.of(self.bench, self.ask, self.view, Immediate(), fit, self.maker)  # type: ignore[arg-type]
        self.notes = NoteEntry(self.commands)
        self.said: list[tuple[str, bool]] = []
        self.bench.told.connect(lambda words, bad: self.said.append((words, bad)))
        if document is not None:
            self.session.open_value(document)

    @property
    def document(self) -> Document:
        return self.session.document

    def answer(self, volume: float = 1000.0) -> None:
        """The kernel answers what it was asked last."""
        self.kernel.answer(volume)
        self.session.builds.poll()

    def settle(self) -> None:
        """The kernel answers until nothing is open."""
        while self.session.builds.busy:
            self.answer()

    @property
    def words(self) -> str:
        return self.said[-1][0] if self.said else ""

    @property
    def bad(self) -> bool:
        return bool(self.said) and self.said[-1][1]
