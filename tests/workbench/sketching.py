"""A drawing board under plain events: places in mm, no toolkit. Every edit goes into the document and comes back."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from lathed_solid import scripting as ls
from lathed_solid.part import Document, Scope, SketchStep, edits
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.model import Sketch
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.commands import SketchCommands
from lathed_solid.workbench.sketch.view_model import SketchState


class Answers:
    """Sizes by label (else what they start as), a count, words, a picture."""

    def __init__(self) -> None:
        self.given: dict[str, str] = {}
        self.number: int | None = 6
        self.words: str | None = "R 12"
        self.file: Path | None = None
        self.gives_up = False

    def sizes(self, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
        if self.gives_up:
            return None
        texts = {s.label: self.given.get(s.label, s.start) for s in sizes}
        return GivenSizes(texts, {s.label: scope()(texts[s.label], s.kind) for s in sizes})

    def count(self, title: str, label: str, start: int, low: int, high: int) -> int | None:
        return self.number

    def text(self, title: str, label: str, start: str) -> str | None:
        return self.words

    def picture(self) -> Path | None:
        return self.file


class Desk:
    """One sketch step of one part, edited through its board."""

    def __init__(self, sketch: Sketch | None = None, document: Document | None = None) -> None:
        self.state = SketchState()
        self.board, self.ask = DrawingBoard(self.state), Answers()
        self.commands = SketchCommands(self.board, self.ask)
        self.labels: list[str] = []
        self.said: list[tuple[str, bool]] = []
        self.rows: list[Any] = []
        self.wanted: list[tuple[str, Any]] = []
        self.commands.changed.connect(self._take)
        self.commands.told.connect(lambda words, bad: self.said.append((words, bad)))
        self.commands.remarks.said.connect(self._say)
        self.commands.step_wanted.connect(lambda kind, values: self.wanted.append((kind, values)))
        document = document or ls.new_part("sketch")
        step = SketchStep(number=10, sketch=sketch or Sketch())
        self._load(edits.put_step(document, step))
        self.board.resize(600, 400)
        self.commands.set_mode("pick")

    def _load(self, document: Document) -> None:
        step = document.step(10)
        assert isinstance(step, SketchStep)
        self.state.load(document, step)
        self.board.refresh()

    def _take(self, label: str, step: SketchStep) -> None:
        self.labels.append(label)
        self._load(edits.put_step(self.state.document, step))

    def _say(self, rows: list[Any]) -> None:
        self.rows = rows

    @property
    def sketch(self) -> Sketch:
        return self.state.sketch

    @property
    def words(self) -> str:
        return self.said[-1][0] if self.said else ""

    def draw(self, build: Callable[[SketchBuilder], object]) -> None:
        """Something into the sketch, without the hand."""
        draft = SketchBuilder(self.sketch)
        build(draft)
        self.commands.commit("given", draft.done())

    def click(self, x: float, y: float, *, add: bool = False) -> None:
        self.board.click(self.board.paper.pixel(complex(x, y)), add=add)

    def drag(self, a: tuple[float, float], b: tuple[float, float], *, drop: bool = True) -> None:
        start, end = (self.board.paper.pixel(complex(*p)) for p in (a, b))
        self.board.move(start)
        self.board.press(start)
        for k in range(1, 6):
            self.board.move(start + (end - start) * k / 5)
        if drop:
            self.board.release(end)

    def double(self, x: float, y: float) -> None:
        at = self.board.paper.pixel(complex(x, y))
        self.click(x, y)
        self.board.double(at)

    def curve(self, kind: str, nth: int = 0) -> Any:
        return [c for c in self.sketch.curves if c.kind == kind][nth]

    def at(self, name: str) -> complex:
        return complex(*self.sketch.at(name))
