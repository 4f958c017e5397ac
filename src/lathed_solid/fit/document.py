"""A fit: parts put together. An immutable value like a part; files are this value as JSON.

A part's own value is kept inside, so that a fit opens when the part's file has moved; its path and the SHA-256 of what
was read are kept beside it, so that a changed file is told. Members are known by their names, relations by numbers.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property
from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from lathed_solid.fit.placement import Placement
from lathed_solid.part.document import Document, StatedMass
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.cells import Cell
from lathed_solid.record import Record

SCHEMA = 1
#: so many members a fit may have, its copies counted
MOST_MEMBERS = 2000

Kind = Literal[
    "share an axis", "touch", "level", "gap", "angle", "parallel", "square", "on", "in its taper", "screwed", "geared",
    "held",
]  # fmt: skip
KINDS: tuple[Kind, ...] = get_args(Kind)
Name = Annotated[str, Field(min_length=1, max_length=80, pattern=r"^[^\x00-\x1f\x7f]+$")]
Number = Annotated[int, Field(ge=1, le=99_999)]


class PartSource(Record):
    """What members are made of: a part's value, and where it came from.

    ``path``: its file, as it was given, empty for none. ``sha256``: of the value's JSON when it was read. ``standard``:
    the designation of a part made on the spot (``ISO 4017 - M8x30``).
    """

    name: Name
    document: Document
    path: str = Field(default="", max_length=4096)
    sha256: str = Field(default="", pattern=r"^([0-9a-f]{64})?$")
    standard: str = Field(default="", max_length=120)


class Member(Record):
    """One part in its place. ``part``: the name of its source. ``held``: it stands fast in the room.

    ``apart``: how far it is drawn out when parts are shown pulled apart, mm along the three directions of the room.
    """

    name: Name
    part: Name
    placement: Placement = Placement()
    held: bool = False
    hidden: bool = False
    finish: str = Field(default="", max_length=40)
    apart: tuple[float, float, float] | None = None


class Ref(Record):
    """A face, edge, axis or point of a member, by the part's lasting name."""

    member: Name
    feature: str = Field(min_length=1, max_length=400)

    @property
    def words(self) -> str:
        """``wheel 10/bore.left.1``"""
        return f"{self.member} {self.feature}"


class Relation(Record):
    """What holds two members together.

    ``flip``: the directions of the two run against each other where they would run the same way, or the other way
    round. ``size``: an expression: the gap (length), the angle, the ratio of *geared* (``17/52``), what *screwed* is
    turned out of its mesh (length). ``b`` is None for *held* in the room. ``about``: what *angle* is counted about.
    """

    number: Number
    kind: Kind
    a: Ref
    b: Ref | None = None
    flip: bool = False
    size: Cell = ""
    suspended: bool = False
    #: a direction in b's member, about which an angle is counted; None where the two alone say it
    about: tuple[float, float, float] | None = None

    @property
    def words(self) -> str:
        """Itself in words."""
        if self.b is None:
            return f"{self.a.member} held in the room"
        size = f" {self.size}" if self.size else ""
        return f"{self.a.words} {self.kind}{size} {self.b.words}"

    @property
    def members(self) -> tuple[str, ...]:
        """The members that it joins."""
        return (self.a.member,) if self.b is None else (self.a.member, self.b.member)


class Drive(Record):
    """A freedom that is set by a number: a turn (rad) or a slide (mm) of ``member`` in ``base`` (empty: the room).

    ``origin`` and ``direction`` of the axis, and ``zero`` square to it, in the base; ``mark`` is the direction in the
    member that lies in ``zero`` at value 0, for a slide the place of the member that lies in ``origin``.
    """

    member: Name
    base: str = Field(default="", max_length=80)
    kind: Literal["turn", "slide"]
    origin: tuple[float, float, float]
    direction: tuple[float, float, float]
    zero: tuple[float, float, float]
    mark: tuple[float, float, float]
    value: Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)] = 0.0
    words: str = Field(default="", max_length=200)


class Copies(Record):
    """A member again, with what holds it.

    *ring*: ``count`` in all, evenly about the axis ``about`` of another member (through ``angle``, all round when
    empty). *row*: ``count`` in all, each ``size`` further along the axis ``about``. *every place*: one at each place of
    the hole pattern that its relations hold on to, as many as there are. *mirror*: once more in the place mirrored in
    the flat ``about``; the part itself is turned, not mirrored, so it must be its own mirror image in its ZX plane, as
    what is turned about X is.
    """

    number: Number
    kind: Literal["ring", "row", "every place", "mirror"]
    member: Name
    about: Ref | None = None
    count: Annotated[int, Field(ge=1, le=MOST_MEMBERS)] = 2
    angle: Cell = ""
    size: Cell = ""


class Fit(Record):
    """Members, what holds them, and what is set by numbers."""

    fit_version: Literal[1] = 1
    name: Name = "Untitled fit"
    unit: LengthUnit = "mm"
    parts: tuple[PartSource, ...] = Field(default=(), max_length=500)
    members: tuple[Member, ...] = Field(default=(), max_length=MOST_MEMBERS)
    relations: tuple[Relation, ...] = Field(default=(), max_length=10_000)
    copies: tuple[Copies, ...] = Field(default=(), max_length=500)
    drives: tuple[Drive, ...] = Field(default=(), max_length=200)
    stated_mass: StatedMass | None = None

    @model_validator(mode="after")
    def _sound(self) -> Fit:
        _once("part", (p.name for p in self.parts))
        _once("member", (m.name for m in self.members))
        _once("relation", (r.number for r in self.relations))
        _once("copies", (c.number for c in self.copies))
        parts, members = {p.name for p in self.parts}, {m.name for m in self.members}
        for m in self.members:
            if m.part not in parts:
                raise ValueError(f"member {m.name}: there is no part {m.part}")
        for r in self.relations:
            _known(f"relation {r.number}", r.members, members)
            if r.b is None and r.kind != "held":
                raise ValueError(f"relation {r.number}: {r.kind} needs two things")
            if r.b is not None and r.b.member == r.a.member:
                raise ValueError(f"relation {r.number}: a member is not related to itself")
        for c in self.copies:
            _known(f"copies {c.number}", (c.member, *((c.about.member,) if c.about else ())), members)
        for d in self.drives:
            _known("a driven freedom", (d.member, *((d.base,) if d.base else ())), members)
        return self

    @cached_property
    def by_name(self) -> dict[str, Member]:
        """Members by name."""
        return {m.name: m for m in self.members}

    @cached_property
    def by_part(self) -> dict[str, PartSource]:
        """Parts by name."""
        return {p.name: p for p in self.parts}

    def document_of(self, member: str) -> Document:
        """The part that a member is. KeyError for none."""
        return self.by_part[self.by_name[member].part].document

    @cached_property
    def by_number(self) -> dict[int, Relation]:
        """Relations by number."""
        return {r.number: r for r in self.relations}

    def relation(self, number: int) -> Relation | None:
        """By its number; None for none."""
        return self.by_number.get(number)


def _once(what: str, keys: Iterable[object]) -> None:
    seen: set[object] = set()
    for key in keys:
        if key in seen:
            raise ValueError(f"{what} {key} stands twice")
        seen.add(key)


def _known(what: str, names: Iterable[str], members: set[str]) -> None:
    for name in names:
        if name not in members:
            raise ValueError(f"{what}: there is no member {name}")
