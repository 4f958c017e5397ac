"""Which relations can be put on what is picked, however much it is.

Up to three things are tried in every order: one relation on all of them. Of more, and where no single relation takes
them together, a relation goes on each by itself (every line *horizontal*) or between one of them, the hub, and each
of the others (all lines *parallel* to the first; all points *on* the only circle). Work grows with the number of
picked things times the number of kinds, so that a window over a large figure is answered at once.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from lathed_solid.sketch.constraints import DIMENSIONS, KINDS, ConstraintKind, accepts
from lathed_solid.sketch.model import Constraint, Sketch

RELATIONS: tuple[ConstraintKind, ...] = tuple(k for k in KINDS if k not in DIMENSIONS)  # type: ignore[misc]
#: so many are tried in every order
IN_ANY_ORDER = 3
#: a point is the middle of one line only, and three make a symmetry: no hub
_NO_HUB = frozenset({"midpoint", "symmetric"})


@dataclass(frozen=True, slots=True)
class OfferedRelation:
    """A kind of relation and what it goes on: one tuple of entities, in order, for each constraint it makes."""

    kind: ConstraintKind
    groups: tuple[tuple[str, ...], ...]

    @property
    def words(self) -> str:
        """As a button says it."""
        many = len(self.groups)
        return KINDS[self.kind].words + (f" ×{many}" if many > 1 else "")


def offered(sketch: Sketch, picked: tuple[str, ...]) -> list[OfferedRelation]:
    """Relations for the entities among ``picked`` (other names are passed over), one a kind, in the order of KINDS."""
    names = tuple(n for n in dict.fromkeys(picked) if n in sketch.by_id)
    if not names:
        return []
    kinds = {n: sketch.by_id[n].kind for n in names}
    own = tuple(n for n in names if not sketch.by_id[n].source)  # edges are as they are
    out = []
    for kind in RELATIONS:
        groups = _together(kind, names, kinds) or _each(kind, own, kinds) or _about_hub(kind, names, kinds)
        if groups:
            out.append(OfferedRelation(kind, groups))
    return out


def _fit(kind: str, of: Iterable[str], kinds: Mapping[str, str]) -> bool:
    return accepts(kind, tuple(kinds[n] for n in of))


def _together(kind: str, names: tuple[str, ...], kinds: Mapping[str, str]) -> tuple[tuple[str, ...], ...]:
    if len(names) > IN_ANY_ORDER:
        return ()
    order = next((o for o in itertools.permutations(names) if _fit(kind, o, kinds)), None)
    return (order,) if order is not None else ()


def _each(kind: str, names: tuple[str, ...], kinds: Mapping[str, str]) -> tuple[tuple[str, ...], ...]:
    return tuple((n,) for n in names) if names and all(_fit(kind, (n,), kinds) for n in names) else ()


def _about_hub(kind: str, names: tuple[str, ...], kinds: Mapping[str, str]) -> tuple[tuple[str, ...], ...]:
    """Between the only one of its kind, else the first, and each of the others."""
    if kind in _NO_HUB or len(names) < 2:
        return ()
    all_kinds = list(kinds.values())
    hubs = [n for n in names if all_kinds.count(kinds[n]) == 1] if len(set(all_kinds)) > 1 else []
    for hub in dict.fromkeys((*hubs, names[0])):
        groups = []
        for other in names:
            if other == hub:
                continue
            order = next((o for o in ((hub, other), (other, hub)) if _fit(kind, o, kinds)), None)
            if order is None:
                break
            groups.append(order)
        if len(groups) == len(names) - 1:
            return tuple(groups)
    return ()


def standing(sketch: Sketch, picked: tuple[str, ...]) -> list[Constraint]:
    """The constraints that are put on any of ``picked`` already."""
    among = set(picked)
    return [c for c in sketch.constraints if among.intersection(c.of)]
