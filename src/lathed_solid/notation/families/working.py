"""Words of work behind a size: drilled, reamed, bored; which of several sizes is the hole's, and which its drill's."""

from __future__ import annotations

from lathed_solid.notation.families.run import OPERATIONS, Fields, Run, own_limits
from lathed_solid.notation.items import Item, NoteError

#: a reamer takes no more than this of its size
REAMED = 0.1
#: sizes within this share of each other are those of one hole
SAME = 0.005
#: nor a boring bar than so much of what was drilled
BORED = 0.6


def worked(run: Run, fields: Fields) -> bool:
    """DRILL behind its size; ``DRILL 9.8 REAM 10 H7``: the size is that of the last one, the first its pilot."""
    item, following = run.peek(), run.peek(1)
    if _of_another(run, fields):
        return False
    if item.kind == "drill" and reamed(run, fields, 1):
        return True
    share = following.value / fields["diameter_mm"]
    if item.kind == "drill" and following.kind in ("plain", "dia") and 1 - REAMED < share < 1:
        run.take()
        run.say(f"drilled Ø{run.size(run.take().value)} first")
        fields["kind"] = "hole"
        for word in ("cross", "depth"):  # the pilot's own depth is not kept
            if run.sees(word) and run.peek(word == "cross").kind == "depth":
                run.leave(run.take())
        return True
    second = following.kind in ("plain", "dia") and run.peek(2).kind not in ("cbore", "spotface", "circle")
    if second and run.peek(-1).text.startswith("\n") and abs(share - 1) > REAMED and item.kind != "drill":
        return False  # another hole, on a line of its own
    if second and item.kind == "bore" and run.peek(-1).kind == "sep" and (
        fields.get("kind") != "hole" or share > 1 + BORED
    ):  # fmt: skip
        return False  # ⌀4 SPRING PIN, BORE ⌀62; ⌀8 THRU, BORE ⌀22
    pilot = item.kind == "ream" and second and run.peek(2).kind == "drill" and 1 - REAMED < share < 1
    if item.kind == "ream" and following.kind == "plain" and share < REAMED:
        run.take()  # ⌀.375 REAM .002 PRESS FIT: no size of another hole
        run.leave(run.take())
        fields["kind"] = "hole"
        return True
    if item.kind == "ream" and second and following.toleranced and abs(share - 1) < SAME and "low_mm" not in fields:
        run.take()  # .1875 DOWEL HOLE, REAM .1870/.1875: the limits of its size
        run.say("to be reamed")
        fields.update(kind="hole", diameter_mm=following.value, **own_limits(run.take()))
        return True
    if second and not pilot and (item.kind == "drill" or following.value < fields["diameter_mm"]):
        return False  # the next hole
    most = 1 + (REAMED if item.kind == "ream" else BORED)
    if second and not pilot and share > most:
        many = f"{fields['diameter_mm']:g}"
        raise NoteError("so many holes, or what was drilled first: this can be read either way", column=item.column,
                        received=f"{many} {item.text} {following.text}",
                        hint=f"{many}X ⌀{following.text}, or DRILL {many}, {item.text} {following.text}")  # fmt: skip
    run.take()
    fields["kind"] = "hole"
    if item.kind == "ream":
        run.say("to be reamed")
        if _pilot_behind(run, fields):
            return True
    if second:
        _finished(run, fields, run.take())
    return True


def _of_another(run: Run, fields: Fields) -> bool:
    """``⌀60 HUB, DRILL 3 HOLES ⌀10``: whether work behind a comma is that of another size."""
    ahead = 1
    while run.peek(ahead).kind in (*OPERATIONS, "count", "holes"):
        ahead += 1
    size = run.peek(ahead)
    behind = run.peek(-1).kind == "sep" and ahead > 1 and size.kind == "dia"
    return behind and abs(size.value / fields["diameter_mm"] - 1) > REAMED


def _pilot_behind(run: Run, fields: Fields) -> bool:
    """``.500 REAM, .484 DRILL``: what is drilled before it is reamed; moves past it."""
    ahead = 1 if run.sees("sep") else 0
    size = run.peek(ahead)
    drilled = size.kind in ("plain", "dia") and run.peek(ahead + 1).kind == "drill"
    if not drilled or not 1 - REAMED < size.value / fields["diameter_mm"] < 1:
        return False
    run.at += ahead + 2
    run.say(f"drilled Ø{run.size(size.value)} first")
    return True


def pilot_of(run: Run, fields: Fields) -> bool:
    """``⌀10 H7 REAM, 25 DEEP, ⌀9.8 DRILL 30 DEEP``: what was drilled before it was reamed; moves past it. Its own depth
    is not kept.
    """
    size = run.peek()
    drilled = size.kind in ("dia", "plain") and run.peek(1).kind == "drill" and "to be reamed" in run.assumed
    if not drilled or fields.get("kind") != "hole" or not 1 - REAMED < size.value / fields["diameter_mm"] < 1:
        return False
    run.at += 2
    run.say(f"drilled Ø{run.size(size.value)} first")
    if run.sees("cross") and run.peek(1).kind == "depth":
        run.take()
    if run.sees("depth"):
        run.leave(run.take())
    return True


def reamed(run: Run, fields: Fields, ahead: int) -> bool:
    """``9.8 DRILL 10 REAM``, ``15/32 DRILL, 1/2 REAM``: a reamed size so many items ahead, larger by no more than a
    tenth, is that of the hole drilled before.
    """
    size = run.peek(ahead)
    drilled = fields.get("kind") == "hole" or run.sees("drill")
    larger = size.value - fields.get("diameter_mm", size.value)
    reamed = size.kind in ("plain", "dia") and run.peek(ahead + 1).kind == "ream"
    if not (drilled and reamed and 0 < larger <= REAMED * size.value):
        return False
    run.at += ahead
    _finished(run, fields, run.take())
    run.take()
    fields["kind"] = "hole"
    run.say("to be reamed")
    return True


def _finished(run: Run, fields: Fields, size: Item) -> None:
    """The hole has this size; what was read before was its drill."""
    run.say(f"drilled Ø{run.size(fields['diameter_mm'])} first")
    for key in ("low_mm", "high_mm", "fit", "decimals"):
        fields.pop(key, None)
    fields.update(diameter_mm=size.value, **own_limits(size))
