"""From the flat run of items to clauses, by the order in which draughtsmen write.

A diameter with a depth, THRU, counterbore, count or bolt circle is a hole; alone it is a diameter. Depths
belong to what stands before them: after ⌴ to the counterbore, else to the hole, measured to the
full-diameter shoulder unless the note says to the tip. ``a X b°`` is a chamfer (leg along the axis, angle
from the axis) unless a whole number of places was clearly meant; what was taken is always said.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Any

from lathed_solid.notation.clauses import Clause, Entry, Meaning, Thread
from lathed_solid.notation.items import Item, NoteError, read_items
from lathed_solid.notation.plain import describe
from lathed_solid.quantity import LengthUnit
from lathed_solid.standards import StandardError, coarse_pitch

DRILL_POINT_DEG = 118.0


def read_note(text: str, unit: LengthUnit = "mm") -> Meaning:
    """The meaning of one drawing note. Raises NoteError (with a column) when it cannot be read at all.

    Words that were not understood are kept in ``unread`` and never guessed.
    """
    state = _State(unit)
    items = read_items(text, unit)
    for index, item in enumerate(items):
        state.take(item, items[index + 1] if index + 1 < len(items) else None)
    clauses = tuple(state.finish())
    meaning = Meaning(note=text, unit=unit, clauses=clauses, assumed=tuple(state.assumed), unread=tuple(state.unread))
    return meaning.model_copy(update={"plain": describe(meaning)})


@dataclass
class _State:
    """The clause under construction and what waits for its partner."""

    unit: LengthUnit
    open: dict[str, Any] = field(default_factory=dict)
    done: list[Clause] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    entry: str = ""  # "cbore" or "csk" while its sizes are being read
    circle_next: bool = False  # PCD was read, its size follows
    crossed: bool = False  # an X stands before the next size
    waiting_angle: float | None = None

    def take(self, item: Item, following: Item | None) -> None:
        handler = getattr(self, "take_" + item.kind, None)
        if handler is None:
            self.unread.append(item.text)
        else:
            handler(item, following)
        if item.kind not in ("cross", "separator"):
            self.crossed = False

    # sizes -------------------------------------------------------------------------------------
    def take_dia(self, item: Item, following: Item | None) -> None:
        if self.on_circle(item, following):
            return
        if self.entry and self.open.get(self.entry, Entry()).diameter_mm is None:
            self.set_entry(diameter_mm=item.value)
        elif "diameter_mm" in self.open and self.is_hole():
            self.open["bolt_circle_mm"] = item.value
            self.assumed.append(f"Ø{item.value:g} mm taken as the bolt circle")
        else:
            self.start(diameter_mm=item.value)
            self.limits(item)

    def take_drill(self, item: Item, _: Item | None) -> None:
        self.start(diameter_mm=item.value, kind="hole")
        self.limits(item)

    def take_square(self, item: Item, _: Item | None) -> None:
        self.unread.append(f"□{item.value:g}")

    def take_radius(self, item: Item, _: Item | None) -> None:
        self.start(kind="radius", size_mm=item.value)
        self.limits(item)

    def take_plain(self, item: Item, following: Item | None) -> None:
        if self.on_circle(item, following):
            return
        if self.crossed and self.entry:
            self.set_entry(depth_mm=item.value)
        elif self.crossed and "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"depth_mm": item.value, "internal": False})
        elif self.crossed and "diameter_mm" in self.open:
            self.open["depth_mm"] = item.value
        elif following is not None and following.kind == "cross":
            self.start(kind="leg", size_mm=item.value, column=item.column, decimals=item.decimals)
            self.limits(item)
        else:
            self.start(kind="length", size_mm=item.value)
            self.limits(item)

    def take_reference(self, item: Item, _: Item | None) -> None:
        if item.text == "angle":
            self.start(kind="angle", angle_deg=item.value, reference=True)
        elif item.text == "dia":
            self.start(diameter_mm=item.value, reference=True, decimals=item.decimals)
        else:
            kind = "radius" if item.text == "radius" else "length"
            self.start(kind=kind, size_mm=item.value, reference=True, decimals=item.decimals)

    def take_basic(self, item: Item, _: Item | None) -> None:
        self.start(kind="length", size_mm=item.value, decimals=item.decimals)
        self.assumed.append("a basic dimension: no tolerance of its own")

    # depths and entries ------------------------------------------------------------------------
    def take_depth(self, item: Item, _: Item | None) -> None:
        if self.entry:
            self.set_entry(depth_mm=item.value)
        elif "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"depth_mm": item.value, "internal": True})
        elif "diameter_mm" in self.open:
            self.open["depth_mm"] = item.value
        else:
            raise NoteError("a depth without a hole before it", column=item.column, hint="Ø5 ↧12")

    def take_tip(self, _: Item, __: Item | None) -> None:
        self.open["depth_to"] = "tip"

    def take_through(self, item: Item, _: Item | None) -> None:
        if "diameter_mm" not in self.open and "thread" not in self.open:
            raise NoteError("THRU without a size before it", column=item.column, hint="Ø6.6 THRU")
        self.open["through"] = True
        if "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"internal": True})

    def take_cbore(self, item: Item, _: Item | None) -> None:
        self.begin_entry("cbore", item)

    def take_spotface(self, item: Item, _: Item | None) -> None:
        self.unread.append(item.text)

    def take_csk(self, item: Item, _: Item | None) -> None:
        self.begin_entry("csk", item)
        if self.waiting_angle is not None:
            self.set_entry(angle_deg=self.waiting_angle)
            self.waiting_angle = None

    def begin_entry(self, kind: str, item: Item) -> None:
        if "diameter_mm" not in self.open and "thread" not in self.open:
            raise NoteError(f"{item.text} without a hole before it", column=item.column, hint="Ø6.6 THRU ⌴ Ø11 ↧6.8")
        self.entry = kind
        self.open.setdefault(kind, Entry())

    def set_entry(self, **values: float) -> None:
        self.open[self.entry] = self.open[self.entry].model_copy(update=values)

    # places ------------------------------------------------------------------------------------
    def take_count(self, item: Item, _: Item | None) -> None:
        bare = item.text.strip().upper()
        after = bare.endswith(("S", "E", "OFF", "PLC")) and bool(self.open)
        if after:
            self.open["count"] = int(item.value)
        else:
            self.start(count=int(item.value))

    def take_circle(self, item: Item, following: Item | None) -> None:
        if "bolt_circle_mm" not in self.open:
            self.circle_next = True  # PCD 96: the size follows

    def on_circle(self, item: Item, following: Item | None) -> bool:
        """Take a size that stands before or after the words 'bolt circle'."""
        if "diameter_mm" not in self.open and "thread" not in self.open:
            return False
        if not self.circle_next and not (following is not None and following.kind == "circle"):
            return False
        self.open["bolt_circle_mm"] = item.value
        self.circle_next = False
        self.entry = ""
        return True

    def take_equally(self, _: Item, __: Item | None) -> None:
        self.open["equally"] = True

    def take_cross(self, _: Item, __: Item | None) -> None:
        self.crossed = True

    def take_separator(self, item: Item, following: Item | None) -> None:
        if item.text == "\n":
            self.close()

    # angles and edge breaks --------------------------------------------------------------------
    def take_angle(self, item: Item, following: Item | None) -> None:
        if self.entry == "csk":
            self.set_entry(angle_deg=item.value)
        elif following is not None and following.kind == "csk":
            self.waiting_angle = item.value
        elif self.crossed and self.open.get("kind") == "leg":
            self.chamfer_or_places(item)
        else:
            self.start(kind="angle", angle_deg=item.value)
            self.angle_limits(item)

    def chamfer_or_places(self, item: Item) -> None:
        leg = self.open["size_mm"]
        written = leg / (25.4 if self.unit == "in" else 1.0)
        whole = self.open.get("decimals") == 0 and written == int(written)
        if whole and (item.low is not None or item.value >= 90):
            self.open = {"count": int(written), "kind": "angle", "angle_deg": item.value}
            self.angle_limits(item)
            self.assumed.append(f"{int(written)} places, each {item.value:g}°")
            return
        self.open.update(kind="chamfer", angle_deg=item.value)
        self.open.pop("column", None)
        if item.value != 45:
            self.assumed.append("leg along the axis, angle from the axis")

    def take_chamfer_c(self, item: Item, _: Item | None) -> None:
        self.start(kind="chamfer", size_mm=item.value, angle_deg=45.0)

    # threads and modifiers ---------------------------------------------------------------------
    def take_thread(self, item: Item, _: Item | None) -> None:
        match = re.match(r"M(\d+(?:[.,]\d+)?)(?:[x×](\d+(?:[.,]\d+)?))?(?:-(\w+))?$", item.text, re.I)
        if not match:
            raise NoteError("a metric thread reads M8, M8x1 or M8x1-6H", column=item.column, received=item.text)
        major = float(match[1].replace(",", "."))
        if match[2]:
            pitch = float(match[2].replace(",", "."))
        else:
            try:
                pitch = coarse_pitch(major)
            except StandardError as exc:
                raise NoteError(exc.what, column=item.column, hint=exc.hint) from None
            self.assumed.append(f"coarse pitch {pitch:g} taken")
        if not 0 < pitch < major:
            raise NoteError("a pitch is above zero and below the diameter", column=item.column, received=pitch)
        klass = match[3]
        internal = None if klass is None else klass[-1].isupper()
        name = f"M{major:g}×{pitch:g}" + (f"-{klass}" if klass else "")
        thread = Thread(designation=name, major_mm=major, pitch_mm=pitch, thread_class=klass, internal=internal)
        self.start(kind="thread", thread=thread)

    def take_modifier(self, item: Item, _: Item | None) -> None:
        word = item.text.upper().rstrip(".")
        if word == "REF":
            self.open["reference"] = True
        elif word in ("LH", "RH") and "thread" in self.open:
            hand = "left" if word == "LH" else "right"
            self.open["thread"] = self.open["thread"].model_copy(update={"hand": hand})
        elif word in ("MAX", "MIN"):
            self.one_limit(word)
        else:
            self.assumed.append("typical: holds at every like place")

    def one_limit(self, word: str) -> None:
        size = self.open.get("size_mm", self.open.get("diameter_mm"))
        if size is None:
            self.unread.append(word)
        elif word == "MAX":
            self.open.update(low_mm=0.0, high_mm=size)
        else:
            self.open.update(low_mm=size, high_mm=None)

    # closing -----------------------------------------------------------------------------------
    def is_hole(self) -> bool:
        hole_words = ("through", "depth_mm", "cbore", "csk", "bolt_circle_mm", "equally")
        return self.open.get("kind") == "hole" or any(k in self.open for k in hole_words)

    def start(self, **values: Any) -> None:
        waiting_count = set(self.open) == {"count"}
        if not waiting_count:
            self.close()
        self.entry = ""
        self.open.update(values)

    def limits(self, item: Item) -> None:
        if item.decimals is not None:
            self.open["decimals"] = item.decimals
        if item.low is not None or item.high is not None:
            self.open.update(low_mm=item.low, high_mm=item.high)
        if item.fit:
            self.open["fit"] = item.fit

    def angle_limits(self, item: Item) -> None:
        if item.low is not None:
            self.open.update(low_deg=item.low, high_deg=item.high)

    def close(self) -> None:
        fields, self.open, self.entry = self.open, {}, ""
        if self.circle_next:
            self.unread.append("bolt circle")
            self.circle_next = False
        if not fields:
            return
        if set(fields) <= {"count", "equally"}:
            self.unread.append(f"{fields.get('count', '')}X")
            return
        if fields.pop("equally", False):
            self.assumed.append("equally spaced on the full circle")
        fields.pop("column", None)
        self.done.append(Clause(**self.complete(fields)))

    def complete(self, fields: dict[str, Any]) -> dict[str, Any]:
        kind = fields.get("kind")
        if kind == "leg":
            raise NoteError("a size and an X without what follows", hint="1 x 45°")
        if kind is None or kind == "hole":
            entry_or_place = any(k in fields for k in ("through", "depth_mm", "cbore", "csk", "bolt_circle_mm"))
            if kind == "hole" or entry_or_place:
                return self.complete_hole(fields)
            fields["kind"] = "diameter"
        if fields.get("kind") == "thread" and fields["thread"].internal is None:
            fields["thread"] = fields["thread"].model_copy(update={"internal": False})
            self.assumed.append("an external thread")
        return fields

    def complete_hole(self, fields: dict[str, Any]) -> dict[str, Any]:
        fields["kind"] = "hole"
        fields.setdefault("count", 1)
        if "depth_mm" in fields and fields.get("through"):
            raise NoteError("a hole is either THRU or has a depth, not both", hint="leave one of them out")
        if "depth_mm" in fields:
            fields["through"] = False
            fields.setdefault("depth_to", "shoulder")
            fields["point_deg"] = DRILL_POINT_DEG
            self.assumed.append(
                "depth to the tip" if fields["depth_to"] == "tip" else "depth to the full-diameter shoulder"
            )
            self.assumed.append("drill point 118° included")
        elif not fields.get("through"):
            fields["through"] = True
            self.assumed.append("through: no depth is given")
        self.check_entries(fields)
        return fields

    def check_entries(self, fields: dict[str, Any]) -> None:
        for key, word in (("cbore", "counterbore"), ("csk", "countersink")):
            entry = fields.get(key)
            if entry is None:
                continue
            if entry.diameter_mm is None:
                raise NoteError(f"the {word} has no diameter", hint="⌴ Ø11 ↧6.8, ⌵ Ø14 X 90°")
            if entry.diameter_mm <= fields["diameter_mm"]:
                raise NoteError(
                    f"the {word} Ø{entry.diameter_mm:g} is not wider than its hole Ø{fields['diameter_mm']:g}"
                )
            if key == "cbore" and entry.depth_mm is None:
                raise NoteError("the counterbore has no depth", hint="⌴ Ø11 ↧6.8")
            if key == "csk" and entry.angle_deg is None:
                fields[key] = entry.model_copy(update={"angle_deg": 90.0})
                self.assumed.append("countersink 90° included")
        cbore = fields.get("cbore")
        if cbore and "depth_mm" in fields and cbore.depth_mm >= fields["depth_mm"]:
            raise NoteError("the counterbore is as deep as the hole itself", hint="depths count from the outer face")

    def finish(self) -> list[Clause]:
        self.close()
        if not self.done and not self.unread:
            raise NoteError("nothing in this note could be read", hint="Ø12, 4X Ø6.6 THRU, R2, 1x45°")
        return self.done
