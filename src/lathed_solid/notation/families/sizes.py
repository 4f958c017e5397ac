"""Diameters, lengths, radii, angles, chamfers, references, counts and the words beside them."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from lathed_solid.notation.clauses import Entry, Pattern
from lathed_solid.notation.families.run import COLLECTING, CONTINUES, STRANGE, Run
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.units import MM_PER_INCH


class Sizes(Run):
    """``a X b°`` is a chamfer (leg along the axis, angle from the axis) unless a whole number of places was clearly
    meant; what was taken is always said.
    """

    # sizes -------------------------------------------------------------------------------------
    def take_dia(self, item: Item, following: Item | None) -> None:
        if self.on_circle(item, following) or self.collect("diameter", item):
            return
        if self.entry and self.open.get(self.entry, Entry()).diameter_mm is None:
            self.set_entry(diameter_mm=item.value, diameter_decimals=item.decimals)
        elif self.drilling and "thread" in self.open:
            self.open["diameter_mm"] = item.value
        elif "diameter_mm" in self.open and self.open.get("equally") and not self.crossed:
            self.open["bolt_circle_mm"] = item.value
            self.assumed.append(f"Ø{item.value:g} mm taken as the bolt circle")
        else:
            self.start(diameter_mm=item.value)
            if item.text.startswith("S"):
                self.open["spherical"] = True
            self.limits(item)

    def take_square(self, item: Item, _: Item | None) -> None:
        self.start(kind="length", size_mm=item.value, square=True)
        self.limits(item)

    def take_radius(self, item: Item, _: Item | None) -> None:
        if self.collect("radius", item) or self.rule_size(item):
            return
        if self.kind == "fillet" and "size_mm" not in self.open:
            self.open["size_mm"] = item.value
        else:
            self.start(kind="radius", size_mm=item.value)
            if item.text.startswith("S"):
                self.open["spherical"] = True
        self.limits(item)

    def take_plain(self, item: Item, following: Item | None) -> None:
        if self.on_circle(item, following) or self.collect("plain", item) or self.rule_size(item):
            return
        if self.entry and self.open[self.entry].diameter_mm is None:
            self.set_entry(diameter_mm=item.value, diameter_decimals=item.decimals)
        elif self.crossed and self.entry:
            self.set_entry(depth_mm=item.value, depth_decimals=item.decimals)
        elif self.crossed and "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"depth_mm": item.value, "internal": False})
        elif self.crossed and "diameter_mm" in self.open:
            self.open.update(depth_mm=item.value, depth_decimals=item.decimals)
        elif self.crossed and self.kind == "leg":
            self.open["second_mm"] = item.value
            self.open["numbers"].append(("plain", item.value))
            if item.fit:
                self.open["fit"] = item.fit
        elif self.crossed and self.kind == "chamfer" and not {"angle_deg", "second_mm"} & set(self.open):
            self.open["second_mm"] = item.value
        elif self.crossed and self.kind == "angle":
            self.open.update(kind="chamfer", size_mm=item.value)
        elif self.kind in ("chamfer", "fillet") and "size_mm" not in self.open:
            self.open["size_mm"] = item.value
            self.limits(item)
        elif following is not None and following.kind == "cross":
            self.start(kind="leg", size_mm=item.value, column=item.column, decimals=item.decimals)
            self.open["numbers"] = [("plain", item.value)]
            self.limits(item)
        else:
            self.start(kind="length", size_mm=item.value)
            self.open["numbers"] = [("plain", item.value)]
            self.limits(item)

    def take_wide(self, item: Item, _: Item | None) -> None:
        if item.value == 0 or self.collect("wide", item):
            return
        self.start(kind="wide", numbers=[("wide", item.value)], size_mm=item.value)
        self.limits(item)

    def take_long(self, item: Item, _: Item | None) -> None:
        if item.value == 0 or self.collect("long", item):
            return
        if "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"depth_mm": item.value})
        elif self.kind in ("leg", "wide"):
            self.open["numbers"].append(("long", item.value))
        else:
            self.start(kind="length", size_mm=item.value)
            self.limits(item)

    def complete_wide(self, fields: dict[str, Any]) -> dict[str, Any]:
        return {**fields, "kind": "length"}

    def complete_size(self, fields: dict[str, Any]) -> dict[str, Any]:
        """A diameter without a kind of its own."""
        if any(k in fields for k in ("through", "depth_mm", "cbore", "csk", "cdrill", "spotface", "bolt_circle_mm")):
            return self.complete_hole(fields)
        fields["kind"] = "diameter"
        if fields.pop("equally", False):
            fields["pattern"] = Pattern(kind="circle", count=fields.get("count"))
            self.assumed.append("equally spaced on the full circle")
        return fields

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

    def take_total(self, item: Item, _: Item | None) -> None:
        """``5X 20 (=100)``: a row of like spaces."""
        if self.kind != "length" or "count" not in self.open:
            self.unread.append(f"(={item.value:g})")
            return
        size, count = self.open["size_mm"], self.open["count"]
        if not math.isclose(size * count, item.value, rel_tol=1e-6, abs_tol=1e-6):
            raise NoteError(
                f"{count} times {size:g} is {size * count:g}, not {item.value:g}", column=item.column,
                hint="one of the three is wrong",
            )  # fmt: skip
        self.open["pattern"] = Pattern(kind="row", count=count, spacing_mm=size, total_mm=item.value)

    # places ------------------------------------------------------------------------------------
    def take_count(self, item: Item, following: Item | None) -> None:
        bare = item.text.strip().upper().strip(".()")
        if self.kind in COLLECTING and bare.endswith(("X", "×")):
            # KEYWAY 8 x 4 x 30: no count, a size
            value = item.value * (MM_PER_INCH if self.unit == "in" else 1.0)
            self.collect("plain", replace(item, value=value))
            return
        worded = bare.endswith(("S", "E", "OFF", "PLC", "PL", "D")) or bare.startswith("QTY")
        if worded and bool(self.open) and "count" not in self.open and set(self.open) != {"equally"}:
            self.open["count"] = int(item.value)
            if "EQUI" in bare:
                self.open["equally"] = True
        else:
            self.start(count=int(item.value))

    def take_side(self, item: Item, _: Item | None) -> None:
        word = item.text.upper()
        if "BOTH" in word or "EACH" in word:
            self.open.setdefault("count", 2)
        self.assumed.append(" ".join(word.lower().removeprefix("on ").split()))

    def take_cross(self, _: Item, __: Item | None) -> None:
        self.crossed = True

    def take_separator(self, item: Item, following: Item | None) -> None:
        goes_on = following is not None and (
            following.kind in CONTINUES or (following.kind == "separator" and following.text.upper() == "ON")
        )
        if item.text == "\n" and not goes_on:
            self.close()

    def take_operation(self, item: Item, _: Item | None) -> None:
        word = item.text.upper()
        if "REAM" in word:
            self.assumed.append("to be reamed")
        elif word.startswith("INT") and "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"internal": True})
        elif word.startswith("EXT") and "thread" in self.open:
            self.open["thread"] = self.open["thread"].model_copy(update={"internal": False})

    # angles and edge breaks --------------------------------------------------------------------
    def take_angle(self, item: Item, following: Item | None) -> None:
        if self.kind == "general":
            self.open["angle_deg"] = item.value
        elif self.entry in ("csk", "cdrill"):
            self.set_entry(angle_deg=item.value)
        elif following is not None and following.kind == "csk":
            self.waiting_angle = item.value
        elif self.crossed and self.kind == "leg":
            self.chamfer_or_places(item)
        elif self.kind == "chamfer" and "angle_deg" not in self.open:
            self.open["angle_deg"] = item.value
            self.say_angle(item.value)
        else:
            self.start(kind="angle", angle_deg=item.value)
            self.angle_limits(item)

    def say_angle(self, degrees: float) -> None:
        if degrees != 45:
            self.assumed.append("leg along the axis, angle from the axis")

    def chamfer_or_places(self, item: Item) -> None:
        leg = self.open["size_mm"]
        written = leg / (MM_PER_INCH if self.unit == "in" else 1.0)
        whole = self.open.get("decimals") == 0 and written == int(written)
        if whole and (item.low is not None or item.value >= 90):
            self.open = {"count": int(written), "kind": "angle", "angle_deg": item.value}
            self.angle_limits(item)
            self.assumed.append(f"{int(written)} places, each {item.value:g}°")
            return
        self.open.update(kind="chamfer", angle_deg=item.value)
        self.say_angle(item.value)

    def take_chamfer_c(self, item: Item, _: Item | None) -> None:
        self.start(kind="chamfer", size_mm=item.value, angle_deg=45.0)

    def take_chamfer(self, item: Item, _: Item | None) -> None:
        """The word: what stands before it is the chamfer's, else what follows."""
        if self.kind in ("leg", "length", "angle"):
            self.open["kind"] = "chamfer"
        elif self.kind != "chamfer":
            self.start(kind="chamfer")

    def complete_leg(self, fields: dict[str, Any]) -> dict[str, Any]:
        if "second_mm" in fields:
            self.assumed.append("a chamfer of two legs")
            self.unread += [STRANGE[k] for k in ("fit", "low_mm") if fields.pop(k, None) is not None]
            fields.pop("high_mm", None)
            return {**fields, "kind": "chamfer"}
        raise NoteError("a size and an X without what follows", hint="1 x 45°")

    def complete_chamfer(self, fields: dict[str, Any]) -> dict[str, Any]:
        if "size_mm" not in fields:
            raise NoteError("the chamfer has no size", hint="1 x 45°")
        if "angle_deg" not in fields and "second_mm" not in fields:
            fields["angle_deg"] = 45.0
            self.assumed.append("chamfer 45° taken")
        return fields

    def complete_fillet(self, fields: dict[str, Any]) -> dict[str, Any]:
        if "size_mm" not in fields:
            raise NoteError("the fillet has no radius", hint="FILLET R3")
        return fields

    # words beside ------------------------------------------------------------------------------
    def take_modifier(self, item: Item, _: Item | None) -> None:
        word = item.text.upper().strip(" .-–")
        if word.startswith("REF"):
            self.open["reference"] = True
        elif word.startswith(("LH", "RH", "LEFT", "RIGHT")):
            if "thread" not in self.open:
                self.unread.append(item.text)
                return
            hand = "left" if word.startswith("L") else "right"
            self.open["thread"] = self.open["thread"].model_copy(update={"hand": hand})
        elif word.startswith(("MAX", "MIN")):
            self.one_limit(word[:3])
        elif word.startswith("TYP"):
            self.assumed.append("typical: holds at every like place")

    def one_limit(self, word: str) -> None:
        if self.kind == "general":
            if word == "MAX":
                self.open["at_most"] = True
            else:
                self.unread.append(word)
            return
        size = self.open.get("size_mm", self.open.get("diameter_mm"))
        if size is None or "fit" in self.open or "low_mm" in self.open or "high_mm" in self.open:
            self.unread.append(word)  # nothing to limit, or limited already
        elif word == "MAX":
            self.open.update(low_mm=0.0, high_mm=size)
        else:
            self.open.update(low_mm=size, high_mm=None)

    # what other families answer ----------------------------------------------------------------
    def on_circle(self, item: Item, following: Item | None) -> bool:
        return False

    def is_hole(self) -> bool:
        return False

    def set_entry(self, **values: float | None) -> None:
        self.open[self.entry] = self.open[self.entry].model_copy(update=values)

    def rule_size(self, item: Item) -> bool:
        return False

    def complete_hole(self, fields: dict[str, Any]) -> dict[str, Any]:
        return fields
