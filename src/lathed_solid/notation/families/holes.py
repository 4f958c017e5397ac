"""Holes: depths, counterbores, countersinks, spotfaces, counterdrills, bolt circles.

Depths belong to what stands before them: after ⌴ to the counterbore, else to the hole, measured to the full-diameter
shoulder unless the note says to the tip.
"""

from __future__ import annotations

from typing import Any

from lathed_solid.notation.clauses import Entry, Pattern
from lathed_solid.notation.families.sizes import Sizes
from lathed_solid.notation.items import Item, NoteError

DRILL_POINT_DEG = 118.0
WORDS = {"cbore": "counterbore", "csk": "countersink", "spotface": "spotface", "cdrill": "counterdrill"}


class Holes(Sizes):
    """A diameter with a depth, THRU, a widening, or a bolt circle is a hole; alone it is a diameter."""

    def take_drill(self, item: Item, _: Item | None) -> None:
        if "thread" in self.open:
            self.open["diameter_mm"] = item.value
            self.drilling = True
            return
        self.start(diameter_mm=item.value, kind="hole")
        self.limits(item)

    def take_drill_word(self, _: Item, __: Item | None) -> None:
        self.entry = ""
        self.drilling = True
        if "diameter_mm" in self.open and "thread" not in self.open and not self.kind:
            self.open["kind"] = "hole"  # Ø.312 DRILL

    def take_depth(self, item: Item, _: Item | None) -> None:
        if self.collect("depth", item):
            return
        if self.entry:
            self.set_entry(depth_mm=item.value, depth_decimals=item.decimals)
        elif "thread" in self.open and self.drilling:
            self.open.update(depth_mm=item.value, depth_decimals=item.decimals)
        elif "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"depth_mm": item.value, "internal": True})
        elif "diameter_mm" in self.open:
            self.open.update(depth_mm=item.value, depth_decimals=item.decimals)
        elif self.kind in ("leg", "wide", "length") and self.open.get("numbers"):
            self.open["numbers"].append(("depth", item.value))  # 3 x 1.5 DEEP GROOVE
            self.open["kind"] = "leg" if self.kind == "length" else self.kind
        else:
            raise NoteError("a depth without a hole before it", column=item.column, hint="Ø5 ↧12")

    def take_tip(self, item: Item, __: Item | None) -> None:
        if "depth_mm" in self.open:
            self.open["depth_to"] = "tip"
        else:
            self.unread.append(item.text)

    def take_through(self, item: Item, _: Item | None) -> None:
        if "diameter_mm" not in self.open and "thread" not in self.open:
            raise NoteError("THRU without a size before it", column=item.column, hint="Ø6.6 THRU")
        self.open["through"] = True
        if "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"internal": True})

    def take_cbore(self, item: Item, _: Item | None) -> None:
        self.begin_entry("cbore", item)

    def take_cdrill(self, item: Item, _: Item | None) -> None:
        self.begin_entry("cdrill", item)

    def take_spotface(self, item: Item, _: Item | None) -> None:
        if "diameter_mm" not in self.open and "thread" not in self.open:
            self.start(kind="spotface", spotface=Entry())
        self.entry = "spotface"
        self.open.setdefault("spotface", Entry())

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

    # places ------------------------------------------------------------------------------------
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

    def is_hole(self) -> bool:
        hole_words = ("through", "depth_mm", "cbore", "csk", "cdrill", "spotface", "bolt_circle_mm", "equally")
        return self.kind == "hole" or any(k in self.open for k in hole_words)

    # closing -----------------------------------------------------------------------------------
    def complete_spotface(self, fields: dict[str, Any]) -> dict[str, Any]:
        face = fields["spotface"]
        if face.diameter_mm is None:
            raise NoteError("the spotface has no diameter", hint="SF Ø20")
        return {**fields, "kind": "diameter", "diameter_mm": face.diameter_mm}

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
        self.place(fields)
        self.check_entries(fields, fields["diameter_mm"])
        return fields

    def place(self, fields: dict[str, Any]) -> None:
        """The pattern that a bolt circle or equal spacing makes."""
        equally = fields.pop("equally", False)
        if equally:
            self.assumed.append("equally spaced on the full circle")
        if equally or fields.get("bolt_circle_mm"):
            fields["pattern"] = Pattern(
                kind="circle", count=fields.get("count", 1), diameter_mm=fields.get("bolt_circle_mm")
            )

    def check_entries(self, fields: dict[str, Any], hole: float) -> None:
        for key, word in WORDS.items():
            entry = fields.get(key)
            if entry is None:
                continue
            if entry.diameter_mm is None:
                raise NoteError(f"the {word} has no diameter", hint="⌴ Ø11 ↧6.8, ⌵ Ø14 X 90°")
            if entry.diameter_mm <= hole:
                raise NoteError(f"the {word} Ø{entry.diameter_mm:g} is not wider than its hole Ø{hole:g}")
            if key in ("cbore", "cdrill") and entry.depth_mm is None:
                raise NoteError(f"the {word} has no depth", hint="⌴ Ø11 ↧6.8")
            if key == "csk" and entry.angle_deg is None:
                fields[key] = entry.model_copy(update={"angle_deg": 90.0})
                self.assumed.append("countersink 90° included")
            if key == "cdrill" and entry.angle_deg is None:
                fields[key] = entry.model_copy(update={"angle_deg": DRILL_POINT_DEG})
        cbore = fields.get("cbore")
        if cbore and "depth_mm" in fields and cbore.depth_mm >= fields["depth_mm"]:
            raise NoteError("the counterbore is as deep as the hole itself", hint="depths count from the outer face")
