"""A hand at the whole bench at random: steps begun, fields typed into, chips left out, the route moved about, notes,
undo and redo, menus - with the true engine behind it, asked now and then.

What it promises: no exception; what the window would show is what a fresh engine makes of the document; every refusal
is in words. Run by the tests on some seeds, and on thousands of events by
``python -m workbench.route_sweep FIRST COUNT`` from ``tests/``, which prints the longest that one held the window up.
"""

from __future__ import annotations

import random
import tempfile
import time
from collections import deque
from collections.abc import Callable
from pathlib import Path
from typing import Any

from lathed_solid import scripting as ls
from lathed_solid.engine import protocol
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.results import StepResult
from lathed_solid.engine.summary import summary
from lathed_solid.errors import LathedError
from lathed_solid.kernel.figures import NearEdge, Picked
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.workbench.actions import ACTIONS, run_action
from lathed_solid.workbench.step_forms import FORMS, rows_of
from lathed_solid.workbench.step_forms.form_row import (
    EXPRESSIONS,
    FormRow,
    chosen,
    get,
    put,
    value_of,
    with_picked,
    without,
)
from lathed_solid.workbench.step_forms.section import section_of, usual_sizes

from .fakes import Rig
from .sweeping import Took, sweep

TEXTS = (
    "5",
    "12",
    "0",
    "-3",
    "1/4",
    "2 in",
    "#1",
    "#99",
    "nan",
    "",
    "8 +",
    "1e9",
    "30°",
    "10 mm",
    "(3",
    "0.5",
    "99999",
)
NAMES = ("20/end", "20/l1", "20/l2", "20/start", "gone", "20/end|20/l1", "20/l1|20/l2", "XY", "30/plane", "Z", "20")
NOTES = ("Ø5 THRU", "4X Ø6.6 THRU ⌴ Ø11 ↧6.8", "R2", "1 X 45°", "M6 ↧12", "12.5 ±0.1", "nonsense", "2X 20", "Ø")
#: actions that open what stands outside, or end the bench
LEFT_OUT = {"quit", "export", "open", "save", "save-as", "inspection", "inspection-blank", "import", "new", "compare"}


class EngineKernel:
    """Answers builds by the engine in this process, when polled; the answer waits its turn as the worker's does."""

    def __init__(self) -> None:
        self.engine, self.messages = Engine(), deque[Any]()
        self.asked = 0
        self.built = 0.0

    def ask(self, request: protocol.Request) -> int:
        self.asked += 1
        request = request.model_copy(update={"request": self.asked})
        if isinstance(request, protocol.Build):
            began = time.thread_time()
            built = self.engine.build(request.document)
            steps: tuple[StepResult, ...] = built.steps
            self.messages.append(protocol.BuildReply(
                request=self.asked, steps=steps, summary=summary(self.engine, request.document, built),
                report=Report(rows=(), mass=None, complete=built.ok), shape=b"solid",
            ))  # fmt: skip
            self.built += time.thread_time() - began
        else:
            self.messages.append(protocol.Failed(request=self.asked, message="not in this storm"))
        return self.asked

    def poll(self, timeout: float = 0.0) -> Any:
        return self.messages.popleft() if self.messages else None

    def drop(self) -> None:
        """Nothing is under way."""

    def cancel(self) -> None:
        self.messages.clear()

    def close(self) -> None: ...

    def fileno(self) -> int:
        return 0


def begun() -> Document:
    """A block with a rounded corner and a hole, to storm on."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (60, 40))
    part = ls.note(ls.new_part("block"), "20")
    part = ls.extrude(ls.sketch(part, d), 10, "#1")
    part = ls.step(part, "plane", names=("XY",), distance="10")
    return ls.hole(part, "20/end", "8", places=ls.Table(rows=(("30", "20"),)))


class Storm:
    """One bench, one seed."""

    def __init__(self, seed: int, folder: Path) -> None:
        self.rnd, self.rig = random.Random(seed), Rig(folder)
        self.kernel = EngineKernel()
        self.rig.session.builds.kernel = self.kernel  # type: ignore[assignment]
        self.rig.session.open_value(begun())
        self.took: list[tuple[float, str]] = []

    # events --------------------------------------------------------------------------------------
    def pick(self) -> None:
        rnd = self.rnd
        near = (NearEdge("20/end|20/l1", "20/l1", rnd.uniform(1, 30), 40), NearEdge("20/end|20/l2", "20/l2", 9, 60))
        if rnd.random() < 0.4:
            name = rnd.choice(("20/end|20/l1", "20/l1|20/l2", "20/end|20/l3"))
            self.rig.bench.pick(Picked("edge", (name,), (0.0, 0.0, 20.0)))
        else:
            at = (rnd.uniform(0, 60), rnd.uniform(0, 40))
            name = rnd.choice(("20/end", "20/l1", "20/start"))
            self.rig.bench.pick(Picked("face", (name,), (*at, 20.0), "flat face", at, "plane", near))

    def act(self) -> None:
        action = self.rnd.choice([a for a in ACTIONS if a.id not in LEFT_OUT])
        if action.enabled(self.rig.commands):
            run_action(action, self.rig.commands)

    def choose(self) -> None:
        steps = self.rig.document.steps
        if steps:
            self.rig.bench.choose_step(self.rnd.choice(steps).number)

    def note(self) -> None:
        text = self.rnd.choice(NOTES)
        self.rig.notes.understand(text)
        if self.rnd.random() < 0.6:
            self.rig.notes.enter(text)

    def field(self) -> None:
        """A value typed, chosen or picked into a row of the chosen step's form, as the form does it."""
        step: Any = self.rig.bench.chosen_step
        if step is None or step.kind not in FORMS:
            return
        section_of(self.rig.document, step)
        row = self.rnd.choice([r for r in rows_of(step.kind) if r.when(step)])
        try:
            if self.rnd.random() < 0.1 and (usual := usual_sizes(self.rig.document, step)):
                for path, value in self.rnd.choice(list(usual.values())).items():
                    step = put(step, path, value)
            else:
                step = put(step, row.path, self._value(row, step))
        except LathedError as exc:
            assert exc.message
            return
        if self.rnd.random() < 0.3:
            self.rig.commands.route.consider(step)
        else:
            self.rig.commands.route.change(f"step {step.number} {row.label}", step)

    def _value(self, row: FormRow, step: Any) -> Any:
        rnd = self.rnd
        if row.kind == "choice":
            return chosen(row, rnd.choice(row.choices)[0], self.rig.document, step, self.rig.bench.served)
        if row.kind == "count":
            return rnd.randint(1, min(row.most, 6))
        if row.kind == "flag":
            return rnd.random() < 0.5
        if row.picks and rnd.random() < 0.5:
            return with_picked(row, step, self.rig.bench.served)
        if row.kind == "names" and (held := get(step, row.path)) and rnd.random() < 0.5:
            return without(row, step, rnd.choice(held))
        return value_of(row, rnd.choice(TEXTS if row.kind in EXPRESSIONS else NAMES))

    def move(self) -> None:
        if self.rig.bench.step is not None:
            self.rig.commands.route.move(self.rnd.choice((-2, -1, 1, 2)))

    def undo(self) -> None:
        session = self.rig.session
        (session.undo if self.rnd.random() < 0.7 else session.redo)()

    def settle(self) -> None:
        builds = self.rig.session.builds
        for _ in range(50):
            if not builds.busy:
                break
            builds.poll()

    # promises ------------------------------------------------------------------------------------
    def wrong(self) -> str:
        """What is shown that a fresh engine does not make of the document; empty for nothing."""
        self.settle()
        session = self.rig.session
        session.builds.end_preview()
        self.settle()
        if not session.builds.settled:  # stopped by hand: said so, until it is built again
            session.builds.rebuild()
            self.settle()
        if session.reply is None:
            return ""
        shown = session.standing
        engine = Engine()
        fresh = summary(engine, shown, engine.build(shown))
        a, b = session.reply.summary, fresh
        if [s["ok"] for s in a["steps"]] != [s["ok"] for s in b["steps"]]:
            return f"steps {[(s['number'], s['ok']) for s in a['steps']]}, afresh {[s['ok'] for s in b['steps']]}"
        if abs(a["volume_mm3"] - b["volume_mm3"]) > 1e-9 * max(1.0, b["volume_mm3"]):
            return f"volume {a['volume_mm3']}, afresh {b['volume_mm3']}"
        return ""


def storm(seed: int, events: int = 60, slow: list[Took] | None = None) -> list[str]:
    """What broke its promise for one seed; into ``slow`` goes how long each event took beside the engine, s."""
    with tempfile.TemporaryDirectory(prefix="storm-") as folder:
        hand = Storm(seed, Path(folder))
        doing: list[Callable[[], None]] = [
            hand.pick, hand.pick, hand.act, hand.choose, hand.note, hand.field, hand.field, hand.field, hand.move,
            hand.undo, hand.settle, hand.settle,
        ]  # fmt: skip
        for k in range(events):
            event = hand.rnd.choice(doing)
            built, began = hand.kernel.built, time.thread_time()
            try:
                event()
            except Exception as exc:  # noqa: BLE001 - any exception is what is looked for
                return [f"event {k} {event.__name__}: {type(exc).__name__}: {exc}"]
            if slow is not None:
                slow.append((time.thread_time() - began - (hand.kernel.built - built), event.__name__, seed))
        found = hand.wrong()
        return [found] if found else []


if __name__ == "__main__":
    sweep("storms", storm)
