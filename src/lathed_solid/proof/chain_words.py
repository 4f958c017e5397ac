"""What the chain audit found, in words: sums as a person writes them, ``198 = 18 + 34 + 62 + 14 + 40 + 30``."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from lathed_solid.ledger.chains import SLACK, Chain, Loop, Stack, Term, other_way_round
from lathed_solid.part.document import Document
from lathed_solid.proof.chain import Told, chains
from lathed_solid.quantity.formatting import angle, fixed, length

#: readings that miss their sum by less are not worth a word, mm
READ_OFF = 5e-4


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing the audit has to say; ``balloons`` and ``places`` it is about."""

    kind: Literal["contradiction", "open", "twice", "adds up"]
    along: str
    words: str
    balloons: tuple[int, ...] = ()
    places: tuple[str, ...] = ()


ORDER = ("contradiction", "open", "twice", "adds up")


def findings(document: Document) -> tuple[Finding, ...]:
    """What the audit of all chains finds, the worst first."""
    out = [f for told in chains(document) for f in (*_loop_findings(told), *_open_findings(told.chain))]
    return tuple(sorted(out, key=lambda f: ORDER.index(f.kind)))


def _loop_findings(told: Told) -> list[Finding]:
    out = []
    for loop in told.loops:
        words = loop_words(told.document, loop, read=False)
        if loop.contradicts:
            values = {c.balloon: c.nominal for c in told.document.callouts}
            turned = other_way_round(loop, values)
            hint = f"; it would add up if {turned} ran the other way" if turned is not None else ""
            numbers = ", ".join(map(str, loop.balloons[:-1])) + f" and {loop.balloons[-1]}" if loop.terms else ""
            out.append(
                Finding("contradiction", told.chain.along, f"{numbers} contradict: {words}{hint}", loop.balloons)
            )
        elif loop.reference:
            out.append(Finding("adds up", told.chain.along, f"{loop.balloon} is a reference: {words}", loop.balloons))
        else:
            twice = f"{loop.balloon} is told twice: {words}; mark one as reference"
            out.append(Finding("twice", told.chain.along, twice, loop.balloons))
    return out


def _open_findings(chain: Chain) -> list[Finding]:
    out = []
    for group in chain.loose:
        first, verb = chain.groups[0], "stands" if len(group) == 1 else "stand"
        words = f"this drawing does not fix where {_list(group)} {verb} from {_list(first, 2)}: a link is missing"
        out.append(Finding("open", chain.along, words, (), (first[0], group[0])))
    return out


def _list(places: Sequence[str], most: int = 4) -> str:
    shown = ", ".join(places[:most])
    return shown if len(places) <= most else f"{shown} and {len(places) - most} more"


def chain_words(document: Document, told: Told) -> tuple[str, str]:
    """One line on how the lengths agree, and all loops with what their readings become, a line each."""
    if not told.loops:
        return "no length is told twice: nothing to check them against", ""
    wrong = [loop for loop in told.loops if loop.contradicts]
    lines = [loop_words(document, loop, read=False) for loop in told.loops]
    adjusted = told.adjusted
    if wrong:
        head = f"the nominals do not add up: {loop_words(document, wrong[0], read=False)}"
    elif adjusted is None:
        head = f"the nominals add up: {lines[0]}"
    else:
        head = loop_words(document, next(k for k in told.loops if told.read_off(k) is not None), read=True)
        if adjusted.agrees:
            head += " — within the readings' uncertainty"
        elif told.suspect is not None:
            head += f" — more than chance: measure {told.suspect} again"
        else:
            names = ", ".join(map(str, told.suspects))
            head += f" — more than chance, one of {names}: measure one of them another way"
    if adjusted is not None:
        for balloon, value, u in zip(told.read, adjusted.values, adjusted.uncertainties, strict=True):
            lines.append(
                f"{balloon}: {fixed(float(value), document.unit)} ± {fixed(2 * float(u), document.unit)} adjusted"
            )
    return head, "\n".join(lines)


def loop_words(document: Document, loop: Loop, *, read: bool) -> str:
    """``198 = 18 + 34 + 62 + 14 + 40 + 30``, with the difference where there is one."""
    one, *others = sorted(loop.signed, key=lambda t: -abs(t[1] * _size(document, t[0], read)))
    terms = [(b, -f / one[1]) for b, f in others]
    text = f"{_shown(document, one[0], read)} = {_sum(document, terms, read)}"
    off = _size(document, one[0], read) - sum(f * _size(document, b, read) for b, f in terms)
    if abs(off) > (READ_OFF if read else max(loop.slack, SLACK)):
        callout = document.callout(one[0])
        turning = callout is not None and callout.kind == "angle"
        text += f" is off by {angle(abs(off)) if turning else (fixed if read else length)(abs(off), document.unit)}"
    return text


def link_words(document: Document, terms: Sequence[Term]) -> str:
    """A missing link with its arithmetic: ``1.44 = 6/2 − 1.56``."""
    total = sum(f * _size(document, b, False) for b, f in terms)
    callout = document.callout(terms[0][0]) if terms else None
    shown = angle(total) if callout is not None and callout.kind == "angle" else length(total, document.unit)
    return f"{shown} = {_sum(document, terms, False)}" if terms else "0, by symmetry"


def stack_words(document: Document, found: Stack) -> list[str]:
    """Worst case, root of squares, and what has no limit, a line each."""

    turning = any(c.kind == "angle" for b in found.bars if (c := document.callout(b.balloon)) is not None)

    def show(value: float) -> str:
        return angle(value, 3) if turning else length(value, document.unit)

    low, high = found.middle - found.root, found.middle + found.root
    out = [
        f"worst case {show(found.low)} to {show(found.high)}  (± {show((found.high - found.low) / 2)})",
        f"root of squares {show(low)} to {show(high)}  (± {show(found.root)})",
    ]
    if found.open:
        out.append(f"without a limit, counted as exact: {', '.join(map(str, found.open))}")
    return out


def _size(document: Document, balloon: int, read: bool) -> float:
    callout, reading = document.callout(balloon), document.reading(balloon)
    if read and reading is not None:
        return reading.mean
    return callout.nominal if callout is not None else 0.0


def _shown(document: Document, balloon: int, read: bool) -> str:
    value, callout = _size(document, balloon, read), document.callout(balloon)
    if callout is not None and callout.kind == "angle":
        return angle(value)
    return (fixed if read else length)(value, document.unit)


def _sum(document: Document, terms: Sequence[Term], read: bool) -> str:
    out = []
    for balloon, factor in sorted(terms, key=lambda t: t[1] < 0):
        size = _shown(document, balloon, read)
        whole = abs(factor)
        text = size if whole == 1 else f"{size}/{1 / whole:g}" if whole < 1 else f"{whole:g} × {size}"
        out.append(("+ " if factor > 0 else "− ") + text)
    return " ".join(out).removeprefix("+ ") or "0"
