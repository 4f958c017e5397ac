"""Chains of lengths along a turned part: which readings close loops, whether they agree, and which one does not.

Faces square to the axis are the nodes, callouts between two of them the links, by the probes that prove them. A loop
of links is a condition: going round it, the lengths sum to nothing. Each loop is told as a sum, ``198 = 18 + 34 + 62
+ 14 + 40 + 30``, with how far nominals and readings miss it.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass

from lathed_solid.errors import LathedError
from lathed_solid.ledger.reconcile import Reconciled, reconcile
from lathed_solid.part.document import Document
from lathed_solid.part.edits import turned_step
from lathed_solid.part.scope import scope
from lathed_solid.proof.plan import plan
from lathed_solid.quantity.formatting import fixed, length

#: nominals that miss their sum by more do not add up, mm
NOMINAL_OFF = 1e-6
SPANS = ("distance", "stretch")


@dataclass(frozen=True, slots=True)
class Link:
    """A callout between two faces at ``start`` < ``end`` (their names), mm."""

    balloon: int
    start: str
    end: str
    nominal: float


@dataclass(frozen=True, slots=True)
class Loop:
    """A closed chain: (balloon, sign) of its links, and what nominals and readings miss, mm (None: not all read)."""

    links: tuple[tuple[int, int], ...]
    nominal_off: float
    read_off: float | None


@dataclass(frozen=True)
class Chain:
    links: tuple[Link, ...]
    loops: tuple[Loop, ...]
    #: the readings that stand in loops, brought to agree; None when there are none
    adjusted: Reconciled | None
    read: tuple[int, ...] = ()

    @property
    def suspect(self) -> int | None:
        """The balloon of the reading most at odds."""
        if self.adjusted is None or self.adjusted.suspect is None:
            return None
        return self.read[self.adjusted.suspect]


def length_chain(document: Document) -> Chain | None:
    """The chain of a turned part's lengths; None when there is no table, or it is impossible."""
    places = _places(document)
    if not places:
        return None
    links = _links(document, places)
    ways = _loops(links)
    by = {k.balloon: k for k in links}
    loops = tuple(_loop(document, by, way) for way in ways)
    closed = [loop for loop in loops if loop.read_off is not None]
    read = tuple(sorted({b for loop in closed for b, _ in loop.links}))
    if not read:
        return Chain(links, loops, None)
    at = {b: i for i, b in enumerate(read)}
    rows = [[0.0] * len(read) for _ in closed]
    for row, loop in zip(rows, closed, strict=True):
        for balloon, sign in loop.links:
            row[at[balloon]] += sign
    found = [document.reading(b) for b in read]
    means = [r.mean for r in found if r is not None]
    spreads = [r.standard_uncertainty for r in found if r is not None]
    return Chain(links, loops, reconcile(means, spreads, rows, [0.0] * len(rows)), read)


def chain_words(document: Document, chain: Chain) -> tuple[str, str]:
    """One line on how the lengths agree, and all loops with what their readings become, a line each."""
    if not chain.loops:
        return "no length is told twice: nothing to check them against", ""
    wrong = [loop for loop in chain.loops if abs(loop.nominal_off) > NOMINAL_OFF]
    lines = [loop_words(document, loop, read=False) for loop in chain.loops]
    if wrong:
        head = f"the nominals do not add up: {loop_words(document, wrong[0], read=False)}"
    elif chain.adjusted is None:
        head = f"the nominals add up: {lines[0]}"
    else:
        told = next(loop for loop in chain.loops if loop.read_off is not None)
        head = loop_words(document, told, read=True)
        if chain.adjusted.agrees:
            head += " — within the readings' uncertainty"
        elif chain.suspect is not None:
            head += f" — more than chance: measure {chain.suspect} again"
        else:
            names = ", ".join(str(chain.read[i]) for i in chain.adjusted.suspects)
            head += f" — more than chance, one of {names}: measure one of them another way"
    if chain.adjusted is not None:
        for balloon, value, u in zip(chain.read, chain.adjusted.values, chain.adjusted.uncertainties, strict=True):
            lines.append(
                f"{balloon}: {fixed(float(value), document.unit)} ± {fixed(2 * float(u), document.unit)} adjusted"
            )
    return head, "\n".join(lines)


def loop_words(document: Document, loop: Loop, *, read: bool) -> str:
    """``198 = 18 + 34 + 62 + 14 + 40 + 30``, with the difference where there is one."""
    size = {}
    for balloon, _ in loop.links:
        callout, reading = document.callout(balloon), document.reading(balloon)
        value = reading.mean if read and reading is not None else callout.nominal if callout is not None else 0.0
        size[balloon] = value
    one, *others = sorted(loop.links, key=lambda k: -size[k[0]])
    sign = -one[1]
    show = (lambda v: fixed(v, document.unit)) if read else (lambda v: length(v, document.unit))
    terms = [("+ " if s == sign else "− ") + show(size[b]) for b, s in others]
    text = f"{show(size[one[0]])} = {' '.join(terms).removeprefix('+ ')}"
    off = loop.read_off if read else loop.nominal_off
    if off is not None and abs(off) > (1e-6 if not read else 5e-4):
        text += f" is off by {show(abs(off))}"
    return text


def _places(document: Document) -> dict[str, float]:
    """Where the faces square to the axis stand, mm, by name."""
    step = turned_step(document)
    if step is None or step.suspended:
        return {}
    try:
        section = step.resolve(scope(document))
    except LathedError:
        return {}
    n = step.number
    at = {f"{n}/face.left": 0.0, f"{n}/face.right": section.length}
    at |= {f"{n}/shoulder.{s.key}": s.z1 for s in section.stretches[:-1]}
    for g in section.grooves:
        at |= {f"{n}/{g.key}.near": g.z0, f"{n}/{g.key}.far": g.z1}
    return at


def _links(document: Document, places: dict[str, float]) -> tuple[Link, ...]:
    out = []
    for callout, p in zip(document.callouts, plan(document), strict=True):
        for probe in p.probes[:1]:
            ends = [f for f in probe.faces if f in places]
            if probe.kind in SPANS and len(ends) == 2:
                a, b = sorted(ends, key=lambda f: places[f])
                out.append(Link(callout.balloon, a, b, callout.nominal))
    return tuple(out)


def _loops(links: tuple[Link, ...]) -> list[list[tuple[int, int]]]:
    """A basis of the loops: each link that closes one, with the fewest links of those before it."""
    beside: dict[str, list[tuple[str, int, int]]] = {}
    loops = []
    for k in links:
        path = _path(beside, k.end, k.start)
        if path is not None:
            loops.append([(k.balloon, 1), *path])
        else:
            beside.setdefault(k.start, []).append((k.end, k.balloon, 1))
            beside.setdefault(k.end, []).append((k.start, k.balloon, -1))
    return loops


def _path(beside: dict[str, list[tuple[str, int, int]]], start: str, end: str) -> list[tuple[int, int]] | None:
    came: dict[str, tuple[str, int, int] | None] = {start: None}
    waiting = deque([start])
    while waiting:
        node = waiting.popleft()
        if node == end:
            out = []
            while (step := came[node]) is not None:
                out.append((step[1], step[2]))
                node = step[0]
            return out[::-1]
        for other, balloon, sign in beside.get(node, ()):
            if other not in came:
                came[other] = (node, balloon, sign)
                waiting.append(other)
    return None


def _loop(document: Document, by: dict[int, Link], way: list[tuple[int, int]]) -> Loop:
    nominal = sum(sign * by[b].nominal for b, sign in way)
    found = [document.reading(b) for b, _ in way]
    read = None
    if all(r is not None for r in found):
        read = sum(sign * r.mean for (_, sign), r in zip(way, found, strict=True) if r is not None)
    return Loop(tuple(way), nominal, read)
