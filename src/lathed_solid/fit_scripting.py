"""Putting parts together in plain Python; reached through ``scripting`` (``ls.new_fit`` ...), see docs/scripting.md.

Fits are values: every function returns a new one. Parts are built in this process, once each.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from lathed_solid.fit import edits
from lathed_solid.fit.document import Drive, Fit, Kind, Ref
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.features import feature
from lathed_solid.fit.freedoms import Freedom, drive_of
from lathed_solid.fit.judged import Clearance, Mass, Overlap, Row, mass, parts_list
from lathed_solid.fit.ledger_fits import LedgerFit, ledger_fits
from lathed_solid.fit.motion import Travel
from lathed_solid.fit.motion import sweep as walked
from lathed_solid.fit.solved import Solved
from lathed_solid.fit.stacks import FitStack, stack
from lathed_solid.part import Document
from lathed_solid.part.standard_parts import standard_part

if TYPE_CHECKING:
    from lathed_solid.engine.fits import FitEngine

__all__ = [
    "clearance",
    "clearances_by_ledger",
    "copies",
    "drive",
    "features",
    "fit_mass",
    "fit_parts",
    "member",
    "new_fit",
    "overlaps",
    "read_fit",
    "relate",
    "solve",
    "stack_across",
    "standard_part",
    "sweep",
    "write_fit",
]


@cache
def _shop() -> FitEngine:
    from lathed_solid.engine.fits import FitEngine

    return FitEngine()


def new_fit(name: str, *, unit: str = "mm") -> Fit:
    """An empty fit. Raises FitError for an impossible name or unit."""
    return edits.changed(Fit(), name=name, unit=unit)


def read_fit(path: str | Path) -> Fit:
    """The fit in a file. Raises FileError."""
    from lathed_solid.files.fit_document import read_fit as read

    return read(Path(path))


def write_fit(path: str | Path, fit: Fit) -> None:
    """Write a fit as an archive, or bare JSON by the ending. Raises FileError."""
    from lathed_solid.files.fit_document import write_fit as write

    write(Path(path), fit)


def member(
    fit: Fit,
    part: Document | str | Path,
    name: str = "",
    *,
    held: bool = False,
    placement: Any = None,
    finish: str = "",
) -> Fit:
    """One more member: a document, a part's file, a standard part by its designation (``hexagon nut M8``), or a part
    that the fit has, by its name. ``placement``: a place (x, y, z), or a matrix (4, 4).
    """
    path = standard = ""
    if isinstance(part, str) and part in fit.by_part:
        return edits.with_member(fit, part, name, placement=placement, held=held, finish=finish)
    if isinstance(part, str) and not part.endswith((".lathed", ".json")):
        document, standard = standard_part(part), part
    elif isinstance(part, Document):
        document = part
    else:
        from lathed_solid.files import read_document

        document, path = read_document(Path(part)), str(Path(part).resolve())
    fit, source = edits.with_part(fit, document, path=path, standard=standard)
    return edits.with_member(fit, source, name, placement=placement, held=held, finish=finish)


def features(fit: Fit, name: str) -> dict[str, str]:
    """What a member offers to hold on to: names, and each in words."""
    part = fit.by_part[fit.by_name[name].part]
    return {n: f.words for n, f in _shop().part(part).features.items()}


def relate(
    fit: Fit, kind: Kind, a: tuple[str, str], b: tuple[str, str] | None = None, *, flip: bool | None = None,
    size: str = "", gap: str = "", about: tuple[float, float, float] | None = None,
) -> Fit:  # fmt: skip
    """One more relation between (member, feature) and another; ``flip`` None: as the two stand. ``gap`` makes *touch* a
    gap. Raises FitError, at once, for two things that it cannot join.
    """
    if gap and gap.strip() not in ("0", "0 mm"):
        kind, size = "gap", gap
    first = Ref(member=a[0], feature=a[1])
    second = None if b is None else Ref(member=b[0], feature=b[1])
    if second is not None and kind != "held":
        for ref in (first, second):
            if ref.member not in fit.by_name:
                raise FitError(f"there is no member {ref.member}", hint=", ".join(fit.by_name))
        fa, fb = (_feature(fit, r) for r in (first, second))
        if flip is None:
            places = [fit.by_name[r.member].placement for r in (first, second)]
            flip = edits.natural_flip(kind, fa, fb, places[0], places[1])
    made = edits.relate(fit, kind, first, second, flip=bool(flip), size=size, about=about)
    if second is not None and kind != "held":
        from lathed_solid.fit.equations import Pair, equations
        from lathed_solid.fit.sizes import size_of

        equations(Pair(made.relations[-1], fa, fb, size_of(made, made.relations[-1])))
    return made


def _feature(fit: Fit, ref: Ref) -> Any:
    built = _shop().part(fit.by_part[fit.by_name[ref.member].part])
    return feature(built.features, ref.feature, ref.member)


def copies(fit: Fit, member: str, kind: str, **values: Any) -> Fit:
    """A member several times: ``every place`` of its holes, a ``ring`` or a ``row`` (``about`` a (member, axis) pair,
    ``count``, ``angle`` or ``size``), a ``mirror`` (``about`` a (member, flat) pair).
    """
    about = values.pop("about", None)
    if about is not None:
        values["about"] = Ref(member=about[0], feature=about[1])
    return edits.with_copies(fit, member=member, kind=kind, **values)


def solve(fit: Fit) -> Solved:
    """Where everything stands, what is free, what fights."""
    return _shop().solve(fit)


def _as_drive(fit: Fit, freedom: Freedom | Drive) -> tuple[Solved, Drive]:
    solved = _shop().solve(fit)
    if isinstance(freedom, Drive):
        return solved, freedom
    return solved, drive_of(solved.assembled, solved.solution, freedom)


def drive(fit: Fit, freedom: Freedom | Drive, value: float) -> Fit:
    """The fit with a freedom set by a number (rad, mm) from where it stands now, moved there. Raises FitError where it
    does not go so far.
    """
    solved, told = _as_drive(fit, freedom)
    travel = walked(solved.fit, solved.features, told, 0.0, value, 1)
    if travel.stopped:
        raise FitError(f"{told.member} goes no further", rule=travel.stopped)
    moved = edits.with_placements(solved.fit, travel.frames[-1].placements)
    return edits.put_drive(moved, told.model_copy(update={"value": value}))


@dataclass(frozen=True)
class Swept:
    """A travel with what was judged at each step: ``overlaps`` and, for ``pair``, the least ``clearances`` (mm)."""

    travel: Travel
    overlaps: tuple[tuple[Overlap, ...], ...] = field(repr=False)
    clearances: tuple[float, ...] = ()

    @property
    def stopped(self) -> str:
        """Why it went no further; empty where it went all the way."""
        return self.travel.stopped


def sweep(
    fit: Fit, freedom: Freedom | Drive, start: float, stop: float, steps: int, *, pair: tuple[str, str] | None = None,
    judge: bool = True,
) -> Swept:  # fmt: skip
    """Drive a freedom from ``start`` to ``stop`` (rad, mm) and judge ``steps`` + 1 times. Raises FitError."""
    solved, told = _as_drive(fit, freedom)
    travel = walked(solved.fit, solved.features, told, start, stop, steps)
    shop, moments = _shop(), [edits.with_placements(solved.whole, frame.placements) for frame in travel.frames]
    over = shop.travel(moments) if judge else [[] for _ in moments]
    clear = () if pair is None else tuple(c.mm for c in shop.clearances(moments, *pair))
    return Swept(travel, tuple(tuple(o for o, _ in found) for found in over), clear)


def overlaps(solved: Solved) -> list[Overlap]:
    """Members that have material in common; contact is none."""
    return [o for o, _ in _shop().overlaps(solved.whole)]


def clearance(solved: Solved, a: str, b: str) -> Clearance:
    """The least distance between two members. Raises LathedError where one has no solid."""
    return _shop().clearance(solved.whole, a, b)


def fit_mass(solved: Solved) -> Mass:
    """Mass, centre and inertia of all members."""
    return mass(solved.whole, _shop().masses(solved.whole))


def fit_parts(solved: Solved) -> tuple[Row, ...]:
    """The parts list."""
    return parts_list(solved.whole, _shop().masses(solved.whole))


def clearances_by_ledger(fit: Fit | Solved) -> tuple[LedgerFit, ...]:
    """Least and most clearance of shaft and bore, screw and hole, key and way, by both ledgers."""
    solved = fit if isinstance(fit, Solved) else _shop().solve(fit)
    return ledger_fits(solved, {n: p.report for n, p in _shop().parts(solved.whole).items()})


def stack_across(solved: Solved, start: tuple[str, str], end: tuple[str, str]) -> FitStack:
    """The tolerance stack from one member's face to another's. Raises FitError."""
    reports = {n: p.report for n, p in _shop().parts(solved.whole).items()}
    first, last = (Ref(member=x[0], feature=x[1]) for x in (start, end))
    return stack(solved, reports, first, last)
