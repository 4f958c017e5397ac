"""Threads: with class, hand, length or depth, and the drill's size and depth.

TAP, THRU, a depth, a widening or a drill make an internal thread; an X and a length an external one. A figure behind
the X that can be no pitch of the thread is a length.
"""

from __future__ import annotations

from lathed_solid.notation.clauses import Entry, Thread
from lathed_solid.notation.families.circles import on_circle, place
from lathed_solid.notation.families.designations import thread_of
from lathed_solid.notation.families.holes import DRILLS, complete, said_before, tails
from lathed_solid.notation.families.run import WIDENINGS, Families, Fields, Prefix, Run, limits_of, own_limits, say_pair
from lathed_solid.notation.families.widenings import check_entries
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.notation.named import screwed_in

#: a tap's drill is at least so much of the thread's major diameter
TAPPED = 0.7
#: and of one that stands on the line below
BELOW = 0.78
#: a diameter that is nearer than this to major diameter less pitch, mm, may be the drill's
ITS_DRILL = 0.06
INSIDE = ("through", "csk", "cbore", "depth_mm", "diameter_mm", "spotface", "cdrill")


#: of ASME B1.1, where A is the external one
INCH_CLASSES = {f"{n}{side}" for n in "123" for side in "AB"}
SCREW = "an external thread of this length"
#: no part has so many ends with a thread on them
SEVERAL = 3


def read_thread(run: Run, prefix: Prefix) -> Fields | None:
    """From the designation on."""
    item = run.take()
    fields: Fields = {"kind": "thread", "thread": thread_of(run, item)}
    if "ref" in item.marks:
        fields["reference"] = True
    if prefix.count is not None:
        fields["count"] = prefix.count
    if prefix.equally:
        fields["equally"] = True
    on_circle(run, fields, prefix)
    _inner(fields, said="tap" in prefix.operations or prefix.holes)
    return _rest(run, fields, prefix)


def _read_tapped(run: Run, drilled: Fields, item: Item, prefix: Prefix) -> Fields | None:
    """A thread in what was drilled for it: ``DRILL ⌀8.5 ↧25, TAP M10 ↧20``."""
    fields: Fields = {"kind": "thread", "thread": thread_of(run, item)}
    for key in ("count", "diameter_mm", "depth_mm", "depth_decimals", "depth_low_mm", "depth_high_mm", "depth_to",
                "through", "equally", "bolt_circle_mm", "circle_low_mm", "circle_high_mm"):  # fmt: skip
        if key in drilled:
            fields[key] = drilled[key]
    if "low_mm" in drilled:
        run.unread.append("the drill's tolerance")
    _inner(fields, said=True)
    return _rest(run, fields, prefix)


def _inner(fields: Fields, *, said: bool) -> None:
    """TAP: internal, unless its class says otherwise."""
    if said and fields["thread"].internal is None:
        _set(fields, internal=True)


def _set(fields: Fields, **values: object) -> None:
    fields["thread"] = fields["thread"].model_copy(update=values)


def _rest(run: Run, fields: Fields, prefix: Prefix) -> Fields | None:
    own = True
    while own and (run.goes_on or _drill_below(run, fields)) and not run.sees("end"):
        own = _own(run, fields)
        if not own:
            place_before = run.at
            tails(run, fields, prefix, thread=True)
            own = run.at > place_before
    return _complete(run, fields)


def _own(run: Run, fields: Fields) -> bool:
    """What belongs to the thread itself."""
    item, following = run.peek(), run.peek(1)
    thread: Thread = fields["thread"]
    if item.kind == "cross" and following.kind in ("plain", "long", "depth"):
        run.take()
        return _length(run, fields, run.take())
    if item.kind in ("long", "depth") and item.value:
        return _length(run, fields, run.take())
    least = item.kind == "plain" and item.low == item.value and item.high is None
    if least and thread.internal and following.kind in ("end", "sep"):
        return _length(run, fields, run.take())  # 3/8-16 UNC-2B .75 MIN
    if item.kind == "plain" and following.kind == "starts":
        run.take()
        run.take()
        n = int(item.value)
        if n != item.value or thread.starts not in (None, n):
            run.leave(item)
        elif n > 1:
            _set(fields, starts=n)
    elif item.kind == "plain" and following.kind == "drill" and _word_of_depth(run, 2) and "depth_mm" not in fields:
        fields.update(depth_mm=item.value, depth_decimals=item.decimals)  # .75 DRILL DEPTH
        run.at += 3
    elif _drill_deep(run, fields, 0):
        pass
    elif item.kind in ("hand", "tap") and following.kind == "thread":
        return False  # M6 THRU, LH M16: the next one's
    elif item.kind == "hand":
        run.take()
        left = item.text.upper().strip(" -").startswith("L")
        _set(fields, hand="left" if left else "right")
    elif item.kind == "class" and thread.thread_class is None:
        run.take()
        klass = item.text.strip(" -")
        inside = klass[-1] == "B" if klass in INCH_CLASSES else klass[-1].isupper()
        _set(fields, thread_class=klass, designation=f"{thread.designation}-{klass}", internal=inside)
    elif item.kind in ("inner", "outer"):
        run.take()
        if thread.internal not in (None, item.kind == "inner"):
            run.leave(item)
        else:
            _set(fields, internal=item.kind == "inner")
    elif item.kind == "tap":
        run.take()
        if thread.internal is False and SCREW in run.assumed:
            _no_screw(run, fields)  # M8 x 20 TAPPED
        elif thread.internal is False:
            run.leave(item)
        else:
            _set(fields, internal=True)
    elif item.kind in ("threaded", "holes"):
        run.take()
        if item.kind == "holes":
            _inner(fields, said=True)
    elif item.kind == "chamfer":
        return _chamfer(run, fields)
    elif item.kind == "slash":
        return _drill_under(run, fields)
    elif item.kind == "drill" or _drilled(run, fields):
        return not _another_drill(run, fields) and _drill(run, fields)
    else:
        return False
    return True


def _word_of_depth(run: Run, ahead: int) -> bool:
    """DEEP or DEPTH without a number of its own."""
    return run.peek(ahead).kind == "depth" and not run.peek(ahead).value


def _drill_below(run: Run, fields: Fields) -> bool:
    """``M5 TAP 12 DEEP``, and ``4.2 DRILL 15 DEEP`` or ``⌀4.2 ↧15`` on the next line; moves there."""
    size, behind, major = run.peek(1), run.peek(2), fields["thread"].major_mm
    drilled = size.kind in ("dia", "plain") and behind.kind == "drill" and DRILLS[0] * major <= size.value < major
    drilled = drilled and "diameter_mm" not in fields and fields["thread"].internal is True
    if _drill_deep(run, fields, 1):
        return True
    if not drilled and not (size.kind == "dia" and _is_its_drill(run, fields, 1)):
        return False
    run.take()
    return True


def _drill_deep(run: Run, fields: Fields, ahead: int) -> bool:
    """``M8 x 15 DP, 20 DRILL``: what is wider than the thread and as deep is its drill's depth; moves past it. Raises
    NoteError for what may be another hole.
    """
    size, thread = run.peek(ahead), fields["thread"]
    behind = run.peek(ahead + 2)
    ends = behind.kind in ("end", "sep") or (behind.text == "places" and not run.opens(ahead + 3, line=False))
    bare = size.kind == "plain" and run.peek(ahead + 1).kind == "drill" and ends
    if not bare or "depth_mm" in fields or size.value < thread.major_mm or thread.internal is False:
        return False
    if thread.depth_mm is None or size.value < thread.depth_mm or size.toleranced:
        raise NoteError("the drill's depth, or another hole: this can be read either way", column=size.column,
                        received=f"{size.text} DRILL", hint=f"{size.text} DRILL DEPTH, or ⌀{size.text}")  # fmt: skip
    run.say("the drill's depth")
    fields.update(depth_mm=size.value, depth_decimals=size.decimals)
    run.at += ahead + 2
    return True


def _drilled(run: Run, fields: Fields) -> bool:
    """``⌀6.8 DRILL``, ``6.8 DRILL``: a size before its word."""
    item, before = run.peek(), run.peek(1).kind == "drill"
    smaller = before and item.kind == "plain" and "diameter_mm" not in fields and item.value < fields["thread"].major_mm
    return smaller or (item.kind == "dia" and (before or _is_its_drill(run, fields)))


def _another_drill(run: Run, fields: Fields) -> bool:
    """``M8, 20 DEEP, DRILL 4.2``: too small for this thread, or a diameter too large: another hole's."""
    if run.sees("drill") and run.peek(1).kind == "count" and run.opens(2, line=False):
        return True
    size, major = run.peek(1 if run.sees("drill") else 0), fields["thread"].major_mm
    sized = size.kind in ("dia", "plain") and size.value > 0
    return sized and (size.value < DRILLS[0] * major or (size.kind == "dia" and size.value >= major))


def _length(run: Run, fields: Fields, item: Item) -> bool:
    """Its length: a depth makes it internal, a length behind an X external unless something else says so."""
    thread: Thread = fields["thread"]
    if thread.depth_mm is not None and "thread" in item.marks and item.value < thread.depth_mm:
        _longer_hole(fields, thread)  # M10 x 18 DEEP, FULL THREAD 15
        thread = fields["thread"]
    # DEEP without a number is a depth of zero; M20 x 60 OVERALL is the stud's length
    if thread.depth_mm is not None or not item.value or "overall" in item.marks:
        run.leave(item)
        return True
    internal = thread.internal
    if internal is None and item.kind == "depth":
        internal = True
    if internal is None and screwed_in(run.assumed):
        internal = True  # EYEBOLT M12 x 25
    if internal is None and not any(k in fields for k in INSIDE):
        internal = False
        if item.kind == "plain":
            run.say(SCREW)
    _set(fields, depth_mm=item.value, internal=internal, **limits_of(run, item, "depth_low_mm", "depth_high_mm"))
    return True


def _longer_hole(fields: Fields, thread: Thread) -> None:
    """The depth that was read is the hole's: what comes next is that of the full thread."""
    limits = {"depth_low_mm": thread.depth_low_mm, "depth_high_mm": thread.depth_high_mm}
    if "depth_mm" not in fields:
        fields.update(depth_mm=thread.depth_mm, **{k: v for k, v in limits.items() if v is not None})
        _set(fields, depth_mm=None, **dict.fromkeys(limits))


def _drill_under(run: Run, fields: Fields) -> bool:
    """``M12 x 16 / ⌀10.2 x 20`` (ISO 6410-1, 4.1): its drill and the drill's depth behind a slash."""
    size, major = run.peek(1), fields["thread"].major_mm
    if size.kind != "dia" or "diameter_mm" in fields or not DRILLS[0] * major <= size.value < major:
        return False
    run.take()
    _no_screw(run, fields)
    return _drill(run, fields)


def _no_screw(run: Run, fields: Fields) -> None:
    """Its length was taken for that of a screw, before a drill was read."""
    _set(fields, internal=True)
    run.assumed[:] = [words for words in run.assumed if words != SCREW]


def _is_its_drill(run: Run, fields: Fields, ahead: int = 0) -> bool:
    """``M10 ↧20, ⌀8.5 ↧30``: a drill's size, so many items ahead, and its depth behind a tapped hole."""
    item, behind, thread = run.peek(ahead), run.peek(ahead + 1), fields["thread"]
    crossed = run.peek(ahead + 2)
    alone = crossed.kind == "plain" and run.peek(ahead + 3).kind in ("sep", "end")
    deep = behind.kind in ("depth", "through") or (behind.kind == "cross" and (crossed.kind == "depth" or alone))
    fits = (
        TAPPED * thread.major_mm <= item.value < thread.major_mm
        and "diameter_mm" not in fields
        and "depth_mm" not in fields
    )
    open_yet = thread.internal is None or (thread.internal is False and SCREW in run.assumed)  # M8 x 20, ⌀6.8 x 25
    exactly = open_yet and abs(thread.major_mm - thread.pitch_mm - item.value) < ITS_DRILL
    return deep and fits and (bool(thread.internal) or exactly) and not item.toleranced


def _drill(run: Run, fields: Fields) -> bool:
    """``DRILL ↧20``, ``DRILL ⌀6.8 ↧20``, ``⌀6.8 DRILL 20 DEEP``, ``DRILL THRU``."""
    if run.sees("dia", "plain"):
        size = run.take()
        if run.sees("drill"):
            run.take()
        if "diameter_mm" in fields:
            run.leave(size)
        fields["diameter_mm"] = size.value
    else:
        run.take()
        if run.sees("dia") or (run.sees("plain") and run.peek().value < fields["thread"].major_mm):
            size = run.take()
            if "diameter_mm" in fields:
                run.leave(size)
            fields["diameter_mm"] = size.value
    if run.sees("sep", "cross") and run.peek(1).kind in ("depth", "through"):
        run.take()
    if run.sees("cross") and run.peek(1).kind == "plain":
        run.take()
    if run.sees("depth", "plain") and run.peek().value and "depth_mm" not in fields:
        item = run.take()
        fields.update(depth_mm=item.value, depth_decimals=item.decimals,
                      **limits_of(run, item, "depth_low_mm", "depth_high_mm"))  # fmt: skip
        if run.sees("tip"):
            run.take()
            fields["depth_to"] = "tip"
    elif run.sees("through"):
        run.take()
        fields["through"] = True
    return True


def _chamfer(run: Run, fields: Fields) -> bool:
    """``CHAM ⌀13 X 90°``: the widening at a tapped hole's mouth."""
    if run.peek(1).kind != "dia" or "csk" in fields:
        return False
    run.take()
    size = run.take()
    if run.sees("cross"):
        run.take()
    angle = run.take().value if run.sees("angle") else None
    if run.sees("included"):
        run.take()
    fields["csk"] = Entry(diameter_mm=size.value, diameter_decimals=size.decimals, angle_deg=angle,
                          **limits_of(run, size, "diameter_low_mm", "diameter_high_mm"))  # fmt: skip
    return True


def _complete(run: Run, fields: Fields) -> Fields:
    several = (fields.get("count") or 1) >= SEVERAL and not any("stud" in said for said in run.assumed)
    placed = fields.get("bolt_circle_mm") or fields.get("equally") or several
    if (any(fields.get(k) for k in INSIDE) or placed) and SCREW in run.assumed:
        _no_screw(run, fields)  # G1/4 x 15 over SPOTFACE, M5 x 10 over PCD 64, 4 x M6 x 12
        run.say("an internal thread")
    thread: Thread = fields["thread"]
    if thread.internal is None:
        placed = bool(fields.get("bolt_circle_mm")) or run.sees("on_square")  # 4 x M8 ON 70 x 50 CENTRES
        inside = any(fields.get(k) for k in INSIDE) or placed or screwed_in(run.assumed)
        if not inside and run.done and run.done[-1].kind == "hole":
            run.unread.append(f"{thread.designation}: in the hole, or on a pin")  # ⌀6 - 10 DP - M6
        _set(fields, internal=inside)
        run.say("an internal thread" if inside else "an external thread")
    elif thread.internal is False and any(fields.get(k) for k in ("through", "diameter_mm", "cbore", "spotface")):
        raise NoteError("an external thread has no drill, THRU or counterbore", received=thread.designation,
                        hint="a class such as 6H, or TAP")  # fmt: skip
    if "depth_mm" in fields:
        if thread.depth_mm is not None and fields["depth_mm"] < thread.depth_mm:
            raise NoteError("the drill is not as deep as the thread", hint="M8 ↧16, DRILL ↧20")
        fields.setdefault("depth_to", "shoulder")
    if fields.get("through") and "depth_mm" in fields:
        raise NoteError("a hole is either THRU or has a depth, not both", hint="leave one of them out")
    if "point_deg" in fields:
        run.say(f"drill point {fields['point_deg']:g}° included")
    place(run, fields)
    check_entries(run, fields, fields["thread"].major_mm if "cbore" in fields else 0.0)
    return fields


# a drill before its thread -----------------------------------------------------------------------------
def read_hole(run: Run, prefix: Prefix) -> Fields | None:
    """From the diameter on; a tap behind it makes a thread of it, which has this drill."""
    item = run.take()
    fields: Fields = {"diameter_mm": item.value, **own_limits(item)}
    if "drill" in item.marks:
        fields["kind"] = "hole"
    say_pair(run, item)
    said_before(run, prefix, fields)
    tails(run, fields, prefix)
    thread = _tapped(run, fields)
    if thread is not None:
        return _read_tapped(run, fields, thread, prefix)
    return complete(run, fields)


def _tapped(run: Run, fields: Fields) -> Item | None:
    """The thread that is tapped into what was drilled: behind it, or on the next line."""
    if any(k in fields for k in WIDENINGS) or "fit" in fields:
        return None
    ahead, newline = 0, False
    while run.peek(ahead).kind in ("sep", "tap", "inner"):
        newline = newline or run.peek(ahead).text.startswith("\n")
        ahead += 1
    taps = any(run.peek(k).kind == "tap" for k in range(ahead)) or run.peek(-1).kind == "slash"  # ⌀10.2 / M12
    item = run.peek(ahead)
    if item.kind != "thread" or ("bolt_circle_mm" in fields and not taps and run.peek(ahead + 1).kind != "tap"):
        return None
    thread = thread_of(run, item, quietly=True)
    share = fields["diameter_mm"] / thread.major_mm
    drilled = fields.get("kind") == "hole" or "depth_mm" in fields or fields.get("through")
    drilled = drilled or fields.get("count", 1) > 1  # 2 x ⌀8.5 over M10 x 20
    if not DRILLS[0] <= share <= DRILLS[1] or not (taps or (drilled and share > (BELOW if newline else TAPPED))):
        alone = not drilled and not {"low_mm", "fit"} & set(fields) and thread.internal is None
        if alone and abs(thread.major_mm - thread.pitch_mm - fields["diameter_mm"]) < ITS_DRILL:
            raise NoteError("a thread's drill, or a diameter beside it: this can be read either way",
                            column=item.column, received=f"⌀{run.size(fields['diameter_mm'])} {thread.designation}",
                            hint=f"DRILL ⌀{fields['diameter_mm']:g}, or EXT {thread.designation}")  # fmt: skip
        return None
    run.at += ahead
    return run.take()


#: which item begins what
READS: Families = {"thread": read_thread, "dia": read_hole}
