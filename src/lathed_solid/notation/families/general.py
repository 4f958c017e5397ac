"""General notes: what is done to every edge that has no dimension of its own."""

from __future__ import annotations

import re
from typing import Any

from lathed_solid.notation.clauses import Rule
from lathed_solid.notation.families.turned import Turned
from lathed_solid.notation.items import Item, NoteError


class General(Turned):
    """``FILLETS & ROUNDS R2.5``, ``ALL UNMARKED RADII R2``, ``BREAK EDGES 0.2 MAX``. One fillet is a size."""

    def take_round(self, item: Item, following: Item | None) -> None:
        word = " ".join(item.text.upper().split())
        fillet, rounds = "FILLET" in word, bool(re.search(r"ROUND|CORNER", word))
        what = "fillet and round" if fillet == rounds else "fillet" if fillet else "round"
        many = bool(re.search(r"^ALL|UNMARKED|UNSPECIFIED|OTHER|FILLETS|ROUNDS|RADII|CORNERS|&|\bAND\b", word))
        counted = set(self.open) == {"count"} or (self.kind == "radius" and "count" in self.open)
        if self.kind == "radius" and "size_mm" in self.open:
            # R3 FILLETS: the size stands before
            size = self.open["size_mm"]
            if many and not counted:
                self.open = {"kind": "general", "what": what, "size_mm": size}
            else:
                self.open["kind"] = "fillet"
            return
        if many and not counted:
            self.start(kind="general", what=what)
        else:
            self.start(kind="fillet")
        self._elsewhere_before()

    def take_breaks(self, item: Item, _: Item | None) -> None:
        chamfer = item.text.upper().lstrip().startswith("CHAMFER")
        if self.kind in ("chamfer", "radius", "length") and "size_mm" in self.open and "count" not in self.open:
            kept: dict[str, Any] = {k: v for k, v in self.open.items() if k in ("size_mm", "angle_deg")}
            what = "fillet and round" if self.kind == "radius" else "chamfer"
            self.open = {"kind": "general", "what": what, **kept}
        else:
            self.start(kind="general", what="chamfer" if chamfer else "break")
        self._elsewhere_before()

    def _elsewhere_before(self) -> None:
        if self.elsewhere and self.kind == "fillet":
            self.open.update(kind="general", what="fillet")
        self.elsewhere = False

    def take_elsewhere(self, _: Item, following: Item | None) -> None:
        if self.kind == "fillet":
            self.open.update(kind="general", what="fillet")
        elif self.kind in ("chamfer", "radius") and "size_mm" in self.open:
            what = "chamfer" if self.kind == "chamfer" else "fillet and round"
            kept: dict[str, Any] = {k: v for k, v in self.open.items() if k in ("size_mm", "angle_deg")}
            self.open = {"kind": "general", "what": what, **kept}
        elif self.kind != "general":
            self.elsewhere = True

    def rule_size(self, item: Item) -> bool:
        if self.kind != "general" or "size_mm" in self.open:
            return False
        self.open["size_mm"] = item.value
        return True

    def complete_general(self, fields: dict[str, Any]) -> dict[str, Any]:
        if "size_mm" not in fields:
            raise NoteError("the general note gives no size", hint="FILLETS R2.5, BREAK EDGES 0.2 MAX")
        rule = Rule(
            what=fields["what"], size_mm=fields["size_mm"], angle_deg=fields.get("angle_deg"),
            at_most=fields.get("at_most"),
        )  # fmt: skip
        return {"kind": "general", "rule": rule}
