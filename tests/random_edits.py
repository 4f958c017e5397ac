"""Edits as a person makes them, drawn from a seed: names with strange characters, notes, values, steps, sheets."""

from __future__ import annotations

import random
from collections.abc import Callable

from lathed_solid.errors import LathedError
from lathed_solid.part import Document, Parameter, edits

#: what split lines, ended texts or were read as something else: separators, next line, NUL, marks, pairs, markup
STRANGE = (
    "\u2028",
    "\u2029",
    "\u0085",
    "\x0b",
    "\x1c",
    "\u00a0",
    "ß⌀°",
    "日本",
    "\U0001f529",
    "\u202e",
    '"\\',
    "</b>",
    "e\u0301",
)
NOTES = ("Ø{0}", "{0} ±0.1", "2X Ø{0} THRU", "R{0}", "1.5x45°", "M8 ↧{0}", "Ø{0} h6", "({0})")


def strange_name(rng: random.Random) -> str:
    """A name with odd characters in it."""
    return f"part{rng.choice(STRANGE)}{rng.choice(STRANGE)}{rng.randrange(1000)}"


def _name(d: Document, rng: random.Random) -> Document:
    return edits.changed(d, name=strange_name(rng))


def _note(d: Document, rng: random.Random) -> Document:
    return edits.add_note(d, rng.choice(NOTES).format(rng.randrange(2, 90)))


def _drop_note(d: Document, rng: random.Random) -> Document:
    free = sorted({c.balloon for c in d.callouts} - d.used_balloons())
    return edits.drop_callout(d, rng.choice(free)) if free else d


def _parameter(d: Document, rng: random.Random) -> Document:
    name = f"w{rng.randrange(5)}"
    return edits.put_parameter(d, Parameter(name=name, expression=str(rng.randrange(100)), remark=strange_name(rng)))


def _suspend(d: Document, rng: random.Random) -> Document:
    step = rng.choice(d.steps)
    return edits.suspend_step(d, step.number, not step.suspended)


def _duplicate(d: Document, rng: random.Random) -> Document:
    return edits.duplicate_step(d, rng.choice(d.steps).number) if len(d.steps) < 20 else d


def _drop_step(d: Document, rng: random.Random) -> Document:
    return edits.drop_step(d, d.steps[-1].number) if len(d.steps) > 2 else d


def _move(d: Document, rng: random.Random) -> Document:
    return edits.move_step(d, rng.choice(d.steps).number, rng.randrange(len(d.steps)))


KINDS: tuple[Callable[[Document, random.Random], Document], ...] = (
    _name, _note, _drop_note, _parameter, _suspend, _duplicate, _drop_step, _move,
)  # fmt: skip


def edited(document: Document, rng: random.Random) -> Document:
    """The document after one edit; the same where it was refused."""
    try:
        return rng.choice(KINDS)(document, rng)
    except LathedError:
        return document
