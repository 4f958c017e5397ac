"""Edits: functions from a fit to a new one, each one undoable entry. All raise FitError when the result would be
impossible; the fit given is never touched.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping
from typing import Any, TypeVar

import numpy as np

from lathed_solid.fit.document import Copies, Drive, Fit, Kind, Member, PartSource, Ref, Relation
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.features import Feature
from lathed_solid.fit.placement import Array, Placement, as_placement
from lathed_solid.fit.sizes import renamed
from lathed_solid.part.document import Document
from lathed_solid.part.edits import changed as part_changed
from lathed_solid.record import Record

M = TypeVar("M", bound=Record)


def changed(model: M, **values: Any) -> M:
    """A validated copy of a frozen value. Raises FitError in plain words."""
    try:
        return part_changed(model, **values)
    except ValueError as exc:
        what = getattr(exc, "what", str(exc))
        raise FitError(what, where=getattr(exc, "where", ""), received=getattr(exc, "received", None)) from None


def value_hash(document: Document) -> str:
    """The SHA-256 of a part's value, by which a changed file is told."""
    text = json.dumps(document.model_dump(mode="json"), sort_keys=True, ensure_ascii=True)
    return hashlib.sha256(text.encode()).hexdigest()


# parts and members -----------------------------------------------------------------------------
def with_part(fit: Fit, document: Document, *, path: str = "", standard: str = "") -> tuple[Fit, str]:
    """The fit with a part to make members of, and the part's name; one whose value is there already is not added."""
    told = value_hash(document)
    same = next((p for p in fit.parts if p.sha256 == told and p.standard == standard), None)
    if same is not None:
        return fit, same.name
    name = free_name(document.name, {p.name for p in fit.parts})
    source = part_source(name, document, path=path, standard=standard)
    return changed(fit, parts=(*fit.parts, source)), name


def part_source(name: str, document: Document, *, path: str = "", standard: str = "") -> PartSource:
    """A source with its hash. Raises FitError for an impossible name."""
    blank = PartSource(name="part", document=document)
    return changed(blank, name=name, path=path, sha256=value_hash(document), standard=standard)


def with_member(
    fit: Fit, part: str, name: str = "", *, placement: Any = None, held: bool = False, finish: str = ""
) -> Fit:
    """The fit with one more member of a part that it has; named after the part when no name is given."""
    if part not in fit.by_part:
        raise FitError(f"there is no part {part}", hint=", ".join(fit.by_part) or "add one first")
    name = name.strip() or free_name(part, set(fit.by_name))
    where = Placement() if placement is None else as_placement(placement)
    blank = Member(name="member", part=part, placement=where, held=held)
    return changed(fit, members=(*fit.members, changed(blank, name=name, finish=finish)))


def free_name(name: str, taken: set[str]) -> str:
    """A name that is not taken: itself, or with the first number that makes it so."""
    base = name.strip()[:70] or "part"
    if base not in taken:
        return base
    return next(n for k in range(2, len(taken) + 3) if (n := f"{base} {k}") not in taken)


def put_member(fit: Fit, name: str, /, **values: Any) -> Fit:
    """Change fields of a member; a new name goes through all that refers to it."""
    member = _member(fit, name)
    new = values.get("name", name)
    if new != name:
        fit = _renamed(fit, name, new)
        member = fit.by_name[new]
    made = changed(member, **values)
    return changed(fit, members=tuple(made if m.name == new else m for m in fit.members))


def _member(fit: Fit, name: str) -> Member:
    found = fit.by_name.get(name)
    if found is None:
        raise FitError(f"there is no member {name}", hint=", ".join(list(fit.by_name)[:8]))
    return found


def _renamed(fit: Fit, old: str, new: str) -> Fit:
    if new in fit.by_name:
        raise FitError(f"member {new} stands twice")

    def ref(r: Ref | None) -> Ref | None:
        return r if r is None or r.member != old else changed(r, member=new)

    return changed(
        fit,
        members=tuple(changed(m, name=new) if m.name == old else m for m in fit.members),
        relations=tuple(r.model_copy(update={"a": ref(r.a), "b": ref(r.b), "size": renamed(r.size, old, new)})
                        for r in fit.relations),
        copies=tuple(c.model_copy(update={"member": new if c.member == old else c.member, "about": ref(c.about),
                                          "size": renamed(c.size, old, new), "angle": renamed(c.angle, old, new)})
                     for c in fit.copies),
        drives=tuple(d.model_copy(update={"member": new if d.member == old else d.member,
                                          "base": new if d.base == old else d.base}) for d in fit.drives),
    )  # fmt: skip


def drop_member(fit: Fit, name: str) -> Fit:
    """Without a member and all that holds on to it; a part that nothing is made of any more goes too."""
    _member(fit, name)
    members = tuple(m for m in fit.members if m.name != name)
    used = {m.part for m in members}
    return changed(
        fit, members=members, parts=tuple(p for p in fit.parts if p.name in used),
        relations=tuple(r for r in fit.relations if name not in r.members),
        copies=tuple(c for c in fit.copies if c.member != name and (c.about is None or c.about.member != name)),
        drives=tuple(d for d in fit.drives if name not in (d.member, d.base)),
    )  # fmt: skip


def duplicate_member(fit: Fit, name: str, by: tuple[float, float, float]) -> Fit:
    """The same part once more, ``by`` mm away, with nothing that holds it."""
    member = _member(fit, name)
    at = np.array(member.placement.at) + by
    where = changed(member.placement, at=tuple(float(x) for x in at))
    return with_member(fit, member.part, free_name(name, set(fit.by_name)), placement=where, finish=member.finish)


def exchange_part(fit: Fit, part: str, document: Document) -> Fit:
    """Another value for a part (its file has changed), taken over by all its members."""
    source = fit.by_part.get(part)
    if source is None:
        raise FitError(f"there is no part {part}")
    made = part_source(part, document, path=source.path, standard=source.standard)
    return changed(fit, parts=tuple(made if p.name == part else p for p in fit.parts))


def together(fit: Fit, other: Fit) -> Fit:
    """A fit with the members of another, which keep their places and get new names where theirs are taken."""
    for m in other.members:
        fit, part = with_part(fit, other.document_of(m.name))
        fit = with_member(fit, part, free_name(m.name, set(fit.by_name)), placement=m.placement, finish=m.finish)
    return fit


def with_placements(fit: Fit, placements: Mapping[str, Placement]) -> Fit:
    """Members where they were moved to; nothing is checked again."""
    moved = tuple(
        m if m.name not in placements else m.model_copy(update={"placement": placements[m.name]}) for m in fit.members
    )
    return fit.model_copy(update={"members": moved})


# relations ---------------------------------------------------------------------------------------
def next_number(fit: Fit) -> int:
    """The first free number after the highest, of relations and copies."""
    return max((*(r.number for r in fit.relations), *(c.number for c in fit.copies)), default=0) + 1


def relate(fit: Fit, kind: Kind, a: Ref, b: Ref | None, *, flip: bool = False, size: str = "",
           about: tuple[float, float, float] | None = None) -> Fit:  # fmt: skip
    """One more relation. Raises FitError for an unknown kind or member."""
    blank = Relation(number=next_number(fit), kind="held", a=a, b=b)
    made = changed(blank, kind=kind, flip=flip, size=size, about=about)
    return changed(fit, relations=(*fit.relations, made))


def put_relation(fit: Fit, number: int, **values: Any) -> Fit:
    """Change fields of a relation. Raises FitError when there is none."""
    relation = fit.relation(number)
    if relation is None:
        raise FitError(f"there is no relation {number}")
    made = changed(relation, **values)
    return changed(fit, relations=tuple(made if r.number == number else r for r in fit.relations))


def drop_relation(fit: Fit, number: int) -> Fit:
    """Without a relation, or copies of that number."""
    relations = tuple(r for r in fit.relations if r.number != number)
    copies = tuple(c for c in fit.copies if c.number != number)
    if len(relations) == len(fit.relations) and len(copies) == len(fit.copies):
        raise FitError(f"there is no relation {number}")
    return changed(fit, relations=relations, copies=copies)


def with_copies(fit: Fit, **values: Any) -> Fit:
    """A member several times. Raises FitError for impossible fields."""
    blank = Copies(number=next_number(fit), kind="row", member=values.get("member", "") or "?")
    return changed(fit, copies=(*fit.copies, changed(blank, **values)))


def put_drive(fit: Fit, drive: Drive) -> Fit:
    """A freedom set by a number, in place of the same one set before."""
    from lathed_solid.fit.motion import with_drive

    return changed(with_drive(fit, drive)[0])


def drop_drive(fit: Fit, index: int) -> Fit:
    """A driven freedom is let go."""
    return changed(fit, drives=tuple(d for i, d in enumerate(fit.drives) if i != index))


def natural_flip(kind: Kind, a: Feature, b: Feature, place_a: Placement, place_b: Placement) -> bool:
    """Whether a new relation should have its directions against each other, as the two stand now."""
    da, db = (p.rotation @ np.array(f.direction) for f, p in ((a, place_a), (b, place_b)))
    along = float(da @ db)
    if kind in ("share an axis", "screwed", "geared", "parallel", "angle", "square"):
        return along < 0
    if kind in ("touch", "level") and a.kind == b.kind == "flat":
        return False
    if kind in ("on", "touch"):
        f, o = (a, b) if a.kind == "flat" else (b, a)
        pf, po = (place_a, place_b) if a.kind == "flat" else (place_b, place_a)
        if f.kind != "flat":
            return a.kind == b.kind == "round" and along < 0
        return float((_at(o, po) - _at(f, pf)) @ (pf.rotation @ np.array(f.direction))) < 0
    return False


def _at(it: Feature, place: Placement) -> Array:
    out: Array = place.rotation @ np.array(it.origin) + np.array(place.at)
    return out
