"""What holes stand on: circles before or behind them, the pattern that they make, squares and rectangles."""

from __future__ import annotations

import re

from lathed_solid.notation.clauses import Clause, Pattern
from lathed_solid.notation.families.run import Families, Fields, Prefix, Run, all_but_last, limits_of, once_around
from lathed_solid.notation.items import Item, above_zero, factor_of, plain_number
from lathed_solid.notation.tokens import NUMBER


def goes_around(run: Run, fields: Fields) -> bool:
    """Whether so many of the angle at hand go once around, and it ends there, or their circle follows."""
    angle, following = run.peek(), run.peek(1)
    circled = following.kind in ("dia", "plain") and run.peek(2).kind == "circle"
    if not (circled or following.kind in ("end", "sep", "circle", "apart")):
        return False
    return once_around(fields.get("count"), angle)


def circle_before(run: Run) -> bool:
    """``PCD 60``, ``⌀60 PCD`` before what stands on it."""
    one, two = run.peek(), run.peek(1)
    return (one.kind == "circle" and two.kind in ("dia", "plain")) or circle_behind(run)


def circle_behind(run: Run) -> bool:
    """``96 PCD``; of ``⌀6 PCD 60`` the circle is the other: what stands on a circle is smaller than it."""
    one, two = run.peek(), run.peek(2)
    if one.kind not in ("dia", "plain") or run.peek(1).kind != "circle":
        return False
    return two.kind not in ("dia", "plain") or one.value > two.value


def take_circle(run: Run) -> Item:
    """Its size."""
    one, two = run.take(), run.take()
    return two if one.kind == "circle" else one


def on_circle(run: Run, fields: Fields, prefix: Prefix) -> None:
    """The circle that was said before."""
    if prefix.circle is not None:
        size = prefix.circle
        fields.update(bolt_circle_mm=size.value, **limits_of(run, size, "circle_low_mm", "circle_high_mm"))


def circle_at(run: Run, fields: Fields) -> bool:
    """``ON ⌀96 BC``, ``PCD 96``."""
    item = run.take()
    size = item
    if item.kind == "circle":
        if run.sees("sep", "cross") and run.peek(1).kind in ("dia", "plain"):
            run.take()
        if not run.sees("dia", "plain"):
            run.leave(item)
            return True
        size = run.take()
    else:
        run.take()
    if "bolt_circle_mm" in fields:
        run.leave(size)
        return True
    fields.update(bolt_circle_mm=size.value, **limits_of(run, size, "circle_low_mm", "circle_high_mm"))
    if "basic" in size.marks:
        run.say("a basic circle: no tolerance of its own")
    return True


def too_wide(run: Run, fields: Fields) -> bool:
    """Whether the circle at hand goes through the very size that would stand on it, so that it is another's."""
    circle = run.peek(1) if run.sees("circle") else run.peek()
    across = fields.get("diameter_mm")
    return "thread" not in fields and across is not None and 0.0 < circle.value <= across


def place(run: Run, fields: Fields) -> None:
    """The pattern that a bolt circle or equal spacing makes."""
    equally = fields.pop("equally", False)
    if equally:
        run.say("equally spaced on the full circle")
    if equally or fields.get("bolt_circle_mm"):
        circle = fields.get("bolt_circle_mm")
        fields["pattern"] = Pattern(kind="circle", count=fields.get("count", 1), diameter_mm=circle)


def _read_on_square(run: Run, prefix: Prefix) -> Fields | None:
    """``4 HOLES ⌀9 ON 70 SQ``, ``ON 60 x 40 CRS``: four stand at its corners, so far apart both ways."""
    item = run.take()
    held = run.done[-1] if run.done and run.done[-1].kind in ("hole", "thread", "diameter", "slot") else None
    if (prefix.count if prefix.holes else held.count if held else None) != 4:
        run.leave(item)
        return None
    sizes = [plain_number(n, item.column)[0] * factor_of(run.unit) for n in re.findall(NUMBER, item.text)]
    for size in sizes:
        above_zero(size, item.column)
    prefix.count = None
    _late_depth(run, held)
    if held is not None and held.kind == "diameter" and not held.fit:
        run.done[-1] = held.model_copy(update={"kind": "hole", "through": True})
        run.say("through: no depth is given")
    if len(sizes) > 1:
        run.say("four at the corners of a rectangle")
        return all_but_last(run, [{"kind": "length", "size_mm": size} for size in sizes], prefix)
    run.say("four on a square: so far apart both ways")
    return {"kind": "length", "size_mm": sizes[0], "count": 2}


def _late_depth(run: Run, held: Clause | None) -> None:
    """``4 HOLES M6 ON 32 SQ, DEPTH 12``: the depth of what stands on it."""
    thread = held.thread if held is not None else None
    deep = run.peek(1).kind == "depth" and run.peek(1).value and run.peek(2).kind in ("end", "sep")
    if held is None or thread is None or thread.depth_mm is not None or held.through or not run.sees("sep") or not deep:
        return
    run.take()
    item = run.take()
    limits = limits_of(run, item, "depth_low_mm", "depth_high_mm")
    run.done[-1] = held.model_copy(update={"thread": thread.model_copy(update={"depth_mm": item.value, **limits})})


#: which item begins what
READS: Families = {"on_square": _read_on_square}
