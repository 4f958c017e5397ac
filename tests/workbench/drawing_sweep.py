"""One sketch drawn at random by hand: clicks with snaps, typed sizes, dimensions, edits of values, trims, rounds, undo.

What it promises: no exception; what is *held* is what a fresh solve of the written file says; after a change of a value
every dimension measures it, on its own hand and in its own sector, and no corner and no arc is another way round
without a word. All of this is read from the places of the points by formulas of its own. Run by the tests on some
seeds, and on thousands by ``python -m workbench.drawing_sweep FIRST COUNT`` from ``tests/``, which prints the longest
that the window would have been held up too.
"""

from __future__ import annotations

import cmath
import itertools
import math
import random
import time
from collections.abc import Callable, Mapping
from typing import Any

from lathed_solid.part import Document, SketchStep
from lathed_solid.sketch.examine import examine
from lathed_solid.sketch.holds import places_of
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.workbench.sketch.dimensioning import dimension_for
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.keys import pressed
from lathed_solid.workbench.sketch.relations import offered

from .sketching import Desk
from .sweeping import Took, sweep

TOOLS = ("line", "line", "line", "rectangle", "circle", "arc", "slot", "polygon", "centre-arc")


WORK = ("relate", "corner", "round", "bevel", "offset", "close_gaps", "remove_chosen", "toggle_construction",
        "place_by_numbers", "finish_here")  # fmt: skip
SIZING = ("begin", "give_value", "to_other_side", "refoot")


class Hand:
    """A hand that does something sensible and something careless in turn."""

    def __init__(self, seed: int) -> None:
        self.rnd, self.desk = random.Random(seed), Desk()
        self.desk.state.hasty = True  # as in the window: contradictions are looked for beside it
        self.wrong: list[str] = []
        #: how long each event worked in the window, s, and what it was
        self.took: list[tuple[float, str]] = []
        d = self.desk
        for thing, names in ((d, ("click",)), (d.commands, WORK), (d.commands.dimensions, SIZING)):
            for name in names:
                setattr(thing, name, self._timed(name, getattr(thing, name)))
        self.before: list[Document] = [self.desk.state.document]
        self.desk.commands.changed.connect(lambda _l, _s: self.before.append(self.desk.state.document))

    def _timed(self, name: str, event: Callable[..., Any]) -> Callable[..., Any]:
        def timed(*args: Any, **more: Any) -> Any:
            began = time.thread_time()
            try:
                return event(*args, **more)
            finally:
                self.took.append((time.thread_time() - began, name))

        return timed

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
            if rnd.random() < 0.12:
                x, y = (round(v, 1) for v in self.place())
                d.commands.place_by_numbers(rnd.choice((f"{x};{y}", f"{x};", f";{y}", "0;0")))
            else:
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
        for c in self.desk.sketch.curves:
            if self.rnd.random() < 0.2 and not c.source:
                names += [n for n, _ in places_of(self.desk.state.shape(c.id))]
        if self.rnd.random() < 0.4:
            names += ["origin", "x axis", "y axis"]
        return tuple(self.rnd.sample(names, min(len(names), self.rnd.randint(1, most))))

    def relate(self) -> None:
        self.desk.board.choose(self.pick(4))
        figure, names = self.desk.board.holding()
        offers = offered(figure.sketch, names)
        if offers:
            self.desk.commands.relate(self.rnd.choice(offers))
            self.end_fight()

    def dimension(self) -> None:
        self.desk.board.choose(self.pick(2))
        state, names = self.desk.board.holding()
        clicks = [complex(*self.place()) for _ in names]
        c = dimension_for(state, names, complex(*self.place()), clicks)
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
            before, said = senses(d.sketch), len(d.said)
            d.commands.dimensions.give_value(text)
            seen = d.state.seen
            if seen is not None and seen.ok:
                told = any("Ctrl+Z takes it back" in words for words, _ in d.said[said:])
                self.wrong += wrong_sizes(d.sketch, d.state.values)
                if not told:
                    self.wrong += [f"{k} turned over unsaid" for k in turned(before, senses(d.sketch))]
            self.end_fight()

    def other_side(self) -> None:
        """Of some constraint; then on another footing."""
        d = self.desk
        if d.sketch.constraints:
            c = self.rnd.choice(d.sketch.constraints)
            d.board.choose((c.id,))
            d.commands.dimensions.to_other_side()
            self.end_fight()
            if d.sketch.constraint(c.id) is not None:
                d.board.choose((c.id, *self.pick(1)))
                for old, new in d.commands.dimensions.footings()[:1]:
                    d.commands.dimensions.refoot(old, new)
                    self.end_fight()

    def point_into(self) -> None:
        """Offset, round or bevel what lies under the pointer."""
        d, rnd = self.desk, self.rnd
        d.board.choose(())
        d.board.move(d.board.paper.pixel(complex(*self.place())))
        d.ask.given = {
            "distance inwards (negative: outwards)": str(rnd.choice((1, 2.5, -2))),
            "radius": "2",
            "legs": "1",
        }
        pressed(d.commands, rnd.choice("YUV"))

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


# the oracle: places of points alone -------------------------------------------------------------
Senses = dict[tuple[str, ...], float]


def _line(sketch: Sketch, name: str) -> tuple[complex, complex]:
    e = sketch.by_id[name]
    return complex(*sketch.at(e.start)), complex(*sketch.at(e.end))


def senses(sketch: Sketch) -> Senses:
    """Twice the signed area of each corner of two drawn lines whose ends lie on one place, by its far ends, over the
    product of the sides; of an arc, how much it is past a half turn, over a half turn.
    """
    out: Senses = {}
    lines = [c for c in sketch.curves if c.kind == "line" and not c.construction]
    for i, a in enumerate(lines):
        for b in lines[i + 1 :]:
            for p, q in itertools.product((a.start, a.end), (b.start, b.end)):
                z, w = complex(*sketch.at(p)), complex(*sketch.at(q))
                u = complex(*sketch.at(a.end if p == a.start else a.start)) - z
                v = complex(*sketch.at(b.end if q == b.start else b.start)) - w
                if abs(z - w) < 1e-7 and abs(u) > 1e-6 and abs(v) > 1e-6:
                    out[a.id, p, b.id, q] = (u.conjugate() * v).imag / abs(u) / abs(v)
    for c in sketch.curves:
        if c.kind == "arc":
            m, s, e = (complex(*sketch.at(p)) for p in c.points)
            if abs(e - s) < 1e-3 * abs(s - m) or abs(s - m) < 1e-9:
                continue  # nothing, or a whole turn: which of them is no sense of the figure
            out[(c.id,)] = cmath.phase((e - m) / (s - m)) % (2 * math.pi) / math.pi - 1
    return out


def turned(before: Senses, after: Senses) -> list[str]:
    """What changed its sign and was, and is, clearly not flat."""
    both = before.keys() & after.keys()
    bound = {1: 0.3, 4: 1e-4}
    return [
        " ".join(k) for k in both
        if before[k] * after[k] < 0 and min(abs(before[k]), abs(after[k])) > bound[len(k)]
    ]  # fmt: skip


def wrong_sizes(sketch: Sketch, values: Mapping[str, float]) -> list[str]:
    """Driving dimensions that do not measure their value, on their hand or in their sector."""
    out = []
    for c in sketch.constraints:
        if c.id not in values:
            continue
        found, value = _measured(sketch, c), values[c.id]
        # an angle is as good as the places of the shorter line's ends
        arm = min(1.0, *(abs(b - a) for a, b in (_line(sketch, n) for n in c.of))) if c.kind == "angle" else 1.0
        if found is not None and abs(found - value) * arm > 1e-6 * max(1.0, abs(value)):
            out.append(f"{c.id} ({c.kind}) measures {found:.9g}, not {value:.9g}")
    return out


def _measured(sketch: Sketch, c: Constraint) -> float | None:
    """By places: signed to its hand for what stands on one side; None for kinds that this does not know."""
    by, side = sketch.by_id, c.side or 1
    if c.kind == "angle":
        (a, b), (p, q) = _line(sketch, c.of[0]), _line(sketch, c.of[1])
        if min(abs(b - a), abs(q - p)) < 1e-9:
            return None
        turn = cmath.phase(((q - p) * (-1 if c.supplement else 1)) / (b - a)) * side * c.sign
        return turn if abs(turn - math.pi) < 1 else turn % (2 * math.pi)
    if c.kind in ("across_x", "across_y") or (c.kind == "distance" and by[c.of[0]].kind == "point"):
        ends = c.of if len(c.of) == 2 else by[c.of[0]].points
        d = complex(*sketch.at(ends[1])) - complex(*sketch.at(ends[0]))
        return (
            {"across_x": d.real, "across_y": d.imag}.get(c.kind, 0.0) * side * c.sign
            if c.kind != "distance"
            else abs(d)
        )
    if c.kind == "distance" and len(c.of) == 2 and by[c.of[1]].kind == "point":
        a, b = _line(sketch, c.of[0])
        if abs(b - a) < 1e-9:
            return None
        return ((b - a).conjugate() * (complex(*sketch.at(c.of[1])) - a)).imag / abs(b - a) * side * c.sign
    return None


def check(seed: int, moves: int = 14, slow: list[Took] | None = None) -> list[str]:
    """What broke its promise for one seed; into ``slow`` goes how long each event took, s."""
    hand = Hand(seed)
    doing = [
        hand.draw, hand.draw, hand.dimension, hand.dimension, hand.change_value, hand.change_value, hand.relate,
        hand.edit, hand.undo, hand.other_side, hand.point_into,
    ]  # fmt: skip
    wrong: list[str] = []
    for k in range(moves):
        act = hand.rnd.choice(doing) if k else hand.draw
        try:
            act()
        except (ArithmeticError, AssertionError, AttributeError, LookupError, TypeError, ValueError) as exc:
            return [f"move {k} {act.__name__}: {type(exc).__name__}: {exc}"]
        wrong += [f"move {k}: {w}" for w in hand.wrong]
        hand.wrong = []
        state = hand.desk.state
        if state.seen is None or not state.seen.ok or state.step is None:
            continue
        again = Sketch.model_validate_json(state.step.sketch.model_dump_json())
        fresh = examine(again, state.values)
        if fresh.state != state.seen.state:
            wrong.append(f"move {k} {act.__name__}: {state.seen.state}, afresh {fresh.state}")
    if slow is not None:
        slow += [(t, name, seed) for t, name in hand.took]
    return wrong


if __name__ == "__main__":
    sweep("drawings", check)
