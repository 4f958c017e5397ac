"""General notes: what is done to every edge that has no dimension of its own.

``FILLETS & ROUNDS R2.5``, ``ALL UNMARKED RADII R2``, ``BREAK EDGES 0.2 MAX``. One fillet is a size.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from lathed_solid.notation.clauses import Rule
from lathed_solid.notation.families.run import Complete, Fields, Run, Take
from lathed_solid.notation.items import Item, NoteError


def _take_round(run: Run, item: Item, following: Item | None) -> None:
    word = " ".join(item.text.upper().split())
    fillet, rounds = "FILLET" in word, bool(re.search(r"ROUND|CORNER", word))
    what = "fillet and round" if fillet == rounds else "fillet" if fillet else "round"
    many = bool(re.search(r"^ALL|UNMARKED|UNSPECIFIED|OTHER|FILLETS|ROUNDS|RADII|CORNERS|&|\bAND\b", word))
    counted = set(run.open) == {"count"} or (run.kind == "radius" and "count" in run.open)
    if run.kind == "radius" and "size_mm" in run.open:
        # R3 FILLETS: the size stands before
        size = run.open["size_mm"]
        if many and not counted:
            run.open = {"kind": "general", "what": what, "size_mm": size}
        else:
            run.open["kind"] = "fillet"
        return
    if many and not counted:
        run.start(kind="general", what=what)
    else:
        run.start(kind="fillet")
    _elsewhere_before(run)


def _take_breaks(run: Run, item: Item, _: Item | None) -> None:
    chamfer = item.text.upper().lstrip().startswith("CHAMFER")
    if run.kind in ("chamfer", "radius", "length") and "size_mm" in run.open and "count" not in run.open:
        kept: dict[str, Any] = {k: v for k, v in run.open.items() if k in ("size_mm", "angle_deg")}
        what = "fillet and round" if run.kind == "radius" else "chamfer"
        run.open = {"kind": "general", "what": what, **kept}
    else:
        run.start(kind="general", what="chamfer" if chamfer else "break")
    _elsewhere_before(run)


def _elsewhere_before(run: Run) -> None:
    if run.elsewhere and run.kind == "fillet":
        run.open.update(kind="general", what="fillet")
    run.elsewhere = False


def _take_elsewhere(run: Run, _: Item, following: Item | None) -> None:
    if run.kind == "fillet":
        run.open.update(kind="general", what="fillet")
    elif run.kind in ("chamfer", "radius") and "size_mm" in run.open:
        what = "chamfer" if run.kind == "chamfer" else "fillet and round"
        kept: dict[str, Any] = {k: v for k, v in run.open.items() if k in ("size_mm", "angle_deg")}
        run.open = {"kind": "general", "what": what, **kept}
    elif run.kind != "general":
        run.elsewhere = True


def rule_size(run: Run, item: Item) -> bool:
    """A size for a general note that has none yet; False for other clauses."""
    if run.kind != "general" or "size_mm" in run.open:
        return False
    run.open["size_mm"] = item.value
    return True


def _complete_general(run: Run, fields: Fields) -> Fields:
    if "size_mm" not in fields:
        raise NoteError("the general note gives no size", hint="FILLETS R2.5, BREAK EDGES 0.2 MAX")
    rule = Rule(
        what=fields["what"], size_mm=fields["size_mm"], angle_deg=fields.get("angle_deg"),
        at_most=fields.get("at_most"),
    )  # fmt: skip
    return {"kind": "general", "rule": rule}


#: what each kind of item does to the clause that is being read
TAKES: Mapping[str, Take] = {
    "round": _take_round,
    "breaks": _take_breaks,
    "elsewhere": _take_elsewhere,
}

#: how clauses of each kind are finished
COMPLETES: Mapping[str, Complete] = {
    "general": _complete_general,
}
