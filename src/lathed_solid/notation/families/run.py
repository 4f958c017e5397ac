"""The clause under construction, and how one ends and the next begins."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from lathed_solid.notation.clauses import Clause
from lathed_solid.notation.items import Item
from lathed_solid.quantity import LengthUnit

#: a clause has one of these
ESSENTIAL = frozenset({"kind", "diameter_mm", "thread"})
#: fields that any clause may have, and those of each kind: what else was read belongs elsewhere and is kept as unread
ALWAYS = frozenset({"kind", "count", "reference", "decimals", "depth_decimals"})
_LIMITS = {"low_mm", "high_mm", "fit"}
_PLACES = {"cbore", "csk", "spotface", "cdrill", "bolt_circle_mm", "pattern", "through", "depth_mm", "depth_to"}
OWN = {
    "hole": frozenset({"diameter_mm", "point_deg", *_PLACES, *_LIMITS}),
    "thread": frozenset({"thread", "diameter_mm", *_PLACES}),
    "diameter": frozenset({"diameter_mm", "spherical", "spotface", "pattern", *_LIMITS}),
    "radius": frozenset({"size_mm", "spherical", *_LIMITS}),
    "length": frozenset({"size_mm", "square", "pattern", *_LIMITS}),
    "angle": frozenset({"angle_deg", "low_deg", "high_deg"}),
    "chamfer": frozenset({"size_mm", "second_mm", "angle_deg", *_LIMITS}),
    "fillet": frozenset({"size_mm", *_LIMITS}),
    "taper": frozenset({"taper"}),
    "groove": frozenset({"groove"}),
    "keyway": frozenset({"keyway"}),
    "centre": frozenset({"centre"}),
    "knurl": frozenset({"knurl"}),
    "general": frozenset({"rule"}),
}
STRANGE = {"depth_to": "to the tip", "through": "THRU", "fit": "the fit", "low_mm": "the tolerance"}
#: kinds whose numbers are collected with their roles and told apart at the end
COLLECTING = ("keyway", "groove", "taper")
#: what may stand on a new line and still belongs to the hole or size above
CONTINUES = ("cbore", "csk", "spotface", "cdrill", "depth", "circle", "equally", "through", "drill_word", "tip",
             "modifier", "side", "elsewhere", "operation")  # fmt: skip


Fields = dict[str, Any]
#: what an item does: the run, the item, the one that follows
Take = Callable[["Run", Item, Item | None], None]
#: the fields of a finished clause from those that were read
Complete = Callable[["Run", Fields], Fields]


@dataclass
class Run:
    """``open`` holds the fields of the clause so far; ``numbers`` in it the sizes with their roles."""

    unit: LengthUnit
    #: how clauses of each kind are finished
    completes: Mapping[str, Complete] = field(repr=False)
    open: dict[str, Any] = field(default_factory=dict)
    done: list[Clause] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    entry: str = ""  # the widening (cbore, csk, spotface, cdrill) whose sizes are being read
    circle_next: bool = False  # PCD was read, its size follows
    crossed: bool = False  # an X stands before the next size
    drilling: bool = False  # DRILL was read in a tapped hole: its depth or size follows
    waiting_angle: float | None = None
    elsewhere: bool = False  # UNLESS STATED was read before its note

    @property
    def kind(self) -> str:
        """Of the clause that is open; empty while it has none."""
        return str(self.open.get("kind", ""))

    def start(self, **values: Any) -> None:
        """A new clause, with the count that may stand before it."""
        if set(self.open) != {"count"}:
            self.close()
        self.entry = ""
        self.drilling = False
        self.open.update(values)

    def collect(self, role: str, item: Item) -> bool:
        """Keep a size for a clause that tells its sizes apart at the end; False for others."""
        if self.kind not in COLLECTING:
            return False
        self.open.setdefault("numbers", []).append((role, item.value))
        if item.fit:
            self.open["fit"] = item.fit
        return True

    def begin_collecting(self, kind: str) -> None:
        """A feature's word: sizes that stand before it belong to it."""
        before = self.open if self.kind in ("leg", "length", "wide") else {}
        if before:
            count, fit = before.get("count"), before.get("fit")
            numbers = list(before.get("numbers", ()))
            if count and sum(role == "plain" for role, _ in numbers) > 1:
                # 8 x 4 x 30 KEYWAY: a count or a width? It is not guessed
                self.unread.append(f"{count} x")
                count = None
            self.open = {k: v for k, v in (("count", count), ("fit", fit)) if v}
        else:
            numbers = []
        if not set(self.open) <= {"count", "fit"}:
            self.close()
        self.entry = ""
        self.open.update(kind=kind, numbers=numbers)

    def guess_thread(self, *, internal: bool, **known: Any) -> None:
        """More of the open thread; ``internal`` only where its class does not say which it is."""
        thread = self.open["thread"]
        said = internal if thread.internal is None else thread.internal
        self.open["thread"] = thread.model_copy(update={**known, "internal": said})

    def set_entry(self, **values: float | None) -> None:
        """Sizes of the widening that is being read."""
        self.open[self.entry] = self.open[self.entry].model_copy(update=values)

    def limits(self, item: Item) -> None:
        """Decimals, tolerance and fit that stand with a size belong to the open clause."""
        if item.decimals is not None:
            self.open["decimals"] = item.decimals
        if item.low is not None or item.high is not None:
            self.open.update(low_mm=item.low, high_mm=item.high)
        if item.fit:
            self.open["fit"] = item.fit
            if "/" in item.fit:
                self.assumed.append("a pair: the hole's class first, then the shaft's")

    def angle_limits(self, item: Item) -> None:
        """The tolerance that stands with an angle, degrees."""
        if item.low is not None:
            self.open.update(low_deg=item.low, high_deg=item.high)

    def close(self) -> None:
        """End the clause; what is no clause by itself is kept as unread."""
        fields, self.open, self.entry, self.drilling = self.open, {}, "", False
        if self.circle_next:
            self.unread.append("bolt circle")
            self.circle_next = False
        if not fields:
            return
        if not ESSENTIAL & set(fields):
            words = {"count": f"{fields.get('count', '')}X", "equally": "equally spaced", "reference": "REF",
                     "depth_to": "to the tip"}  # fmt: skip
            self.unread += [w for k, w in words.items() if k in fields] or ["a note without a size"]
            return
        fields.pop("column", None)
        completed = self.complete(fields)
        known = ALWAYS | OWN.get(str(completed["kind"]), frozenset())
        strange = {k: completed.pop(k) for k in list(completed) if k not in known}
        self.unread += [STRANGE.get(k, k.replace("_mm", "").replace("_", " ")) for k in strange]
        self.done.append(Clause(**completed))

    def complete(self, fields: dict[str, Any]) -> dict[str, Any]:
        """The fields of a finished clause; each family knows its kinds."""
        kind = str(fields.get("kind", ""))
        way = self.completes.get(kind or "size")
        out = fields if way is None else way(self, fields)
        for key in ("numbers", "equally", "what"):
            out.pop(key, None)
        return out
