"""One sketch drawn at random by hand: clicks with snaps, typed sizes, dimensions, edits of values, trims, rounds, undo.

What it promises: no exception; what is *held* is what a fresh solve of the written file says. Run by the tests on some
seeds, and on thousands by ``python -m workbench.drawing_sweep FIRST COUNT`` from ``tests/``.
"""

from __future__ import annotations

import random
import sys
import time

from lathed_solid.part import Document, SketchStep
from lathed_solid.sketch.examine import examine
from lathed_solid.sketch.model import Sketch
from lathed_solid.workbench.sketch.dimensioning import dimension_for
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.relations import offered

from .sketching import Desk

TOOLS = ("line", "line", "line", "rectangle", "circle", "arc", "slot", "polygon", "centre-arc")


class Hand:
    """A hand that does something sensible and something careless in turn."""

    def __init__(self, seed: int) -> None:
        self.rnd, self.desk = random.Random(seed), Desk()
        self.before: list[Document] = [self.desk.state.document]
        self.desk.commands.changed.connect(lambda _l, _s: self.before.append(self.desk.state.document))

    def place(self) -> tuple[float, float]:
        """Anywhere, on a point, at the origin, or on a curve."""
        rnd, sketch = self.rnd, self.desk.sketch
        kind = rnd.random()
        if kind < 0.25 and sketch.points:
            p = rnd.choice(sketch.points)
            return p.x + rnd.uniform(-0.5, 0.5), p.y + rnd.uniform(-0.5, 0.5)
        if kind < 0.35:
            return rnd.uniform(-0.5, 0.5), rnd.uniform(-0.5, 0.5)
        if kind < 0.5 and sketch.curves:
            z = self.desk.state.shape(rnd.choice(sketch.curves).id).at(rnd.random())
            return z.real, z.imag
        return rnd.uniform(-45, 45), rnd.uniform(-45, 45)

    def draw(self) -> None:
        d, rnd = self.desk, self.rnd
        d.commands.start_tool(rnd.choice(TOOLS))
        for _ in range(rnd.randint(1, 5)):
            draw = d.board.interaction
            if isinstance(draw, Draw) and draw.snaps and draw.tool.fields and rnd.random() < 0.2:
                label = draw.tool.next_size(len(draw.snaps))
                text = str(rnd.choice((5, 8, 12.5, 20, 30)))
                if dict(draw.tool.fields)[label] == "length":
                    settings = d.board.settings
                    d.commands.take_sizes(settings.texts | {label: text}, settings.values | {label: float(text)})
                    d.commands.finish_here()
            d.click(*self.place())
            if rnd.random() < 0.1:
                self.undo()
        d.board.accept()
        d.board.cancel()
        d.commands.set_mode("pick")

    def undo(self) -> None:
        if len(self.before) > 1:
            self.before.pop()
            step = self.before[-1].step(10)
            assert isinstance(step, SketchStep)
            self.desk.state.load(self.before[-1], step)
            self.desk.board.refresh()

    def end_fight(self) -> None:
        """As one does who meets a contradiction, or a value that cannot be; mostly."""
        seen = self.desk.state.seen
        if (seen is None or not seen.ok) and self.rnd.random() < 0.8:
            self.undo()

    def pick(self, most: int) -> tuple[str, ...]:
        names = [e.id for e in self.desk.sketch.entities]
        return tuple(self.rnd.sample(names, min(len(names), self.rnd.randint(1, most))))

    def relate(self) -> None:
        offers = offered(self.desk.sketch, self.pick(4))
        if offers:
            self.desk.commands.relate(self.rnd.choice(offers))
            self.end_fight()

    def dimension(self) -> None:
        c = dimension_for(self.desk.state, self.pick(2), complex(*self.place()))
        if c is not None:
            self.desk.commands.dimensions.begin(c)
            assert self.desk.commands.dimensions.pending is not None
            self.desk.commands.dimensions.give_value(self.desk.commands.dimensions.pending.value)
            self.end_fight()

    def change_value(self) -> None:
        d = self.desk
        driving = [c for c in d.sketch.constraints if c.id in d.state.values]
        if driving:
            c = self.rnd.choice(driving)
            value = d.state.values[c.id] * self.rnd.uniform(0.7, 1.4)
            text = f"{value * 180 / 3.141592653589793:.6g} deg" if c.kind == "angle" else f"{abs(value):.6g}"
            d.board.choose((c.id,))
            d.commands.dimensions.give_value(text)
            self.end_fight()

    def edit(self) -> None:
        d, rnd = self.desk, self.rnd
        d.board.choose(self.pick(2))
        what = rnd.choice(("corner", "round", "bevel", "close_gaps", "remove_chosen", "toggle_construction", "trim"))
        if what == "trim":
            d.commands.set_mode("trim")
            d.click(*self.place())
            d.commands.set_mode("pick")
        elif what != "remove_chosen" or rnd.random() < 0.3:
            getattr(d.commands, what)()


def check(seed: int, moves: int = 14) -> list[str]:
    """What broke its promise for one seed."""
    hand = Hand(seed)
    doing = [hand.draw, hand.draw, hand.dimension, hand.dimension, hand.change_value, hand.relate, hand.edit, hand.undo]
    wrong = []
    for k in range(moves):
        act = hand.rnd.choice(doing) if k else hand.draw
        try:
            act()
        except (ArithmeticError, AssertionError, AttributeError, LookupError, TypeError, ValueError) as exc:
            return [f"move {k} {act.__name__}: {type(exc).__name__}: {exc}"]
        state = hand.desk.state
        if state.seen is None or not state.seen.ok or state.step is None:
            continue
        again = Sketch.model_validate_json(state.step.sketch.model_dump_json())
        fresh = examine(again, state.values)
        if fresh.state != state.seen.state:
            wrong.append(f"move {k} {act.__name__}: {state.seen.state}, afresh {fresh.state}")
    return wrong


if __name__ == "__main__":
    first, count = int(sys.argv[1]), int(sys.argv[2])
    failures, slowest = 0, 0.0
    for seed in range(first, first + count):
        began = time.perf_counter()
        found = check(seed)
        slowest = max(slowest, time.perf_counter() - began)
        failures += bool(found)
        if found:
            print(seed, found, flush=True)
    print(f"{count} drawings from seed {first}: {failures} failures, slowest {slowest:.2f} s")
