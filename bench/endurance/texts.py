"""Texts: a hundred thousand characters of anything in every reader of text.

A reader answers or refuses with a ``LathedError`` within ``MAX_S`` of the processor (the least of two times: the
machine's other work is not counted, nor a stall of it), whatever it is given: repeated pieces of the notation,
brackets, digits, spaces, look-alikes, and random mixtures of them of any length.

python bench/endurance/texts.py 400 7101     # random texts for each reader, seed
"""

from __future__ import annotations

import random
import signal
import sys
import time
from collections.abc import Callable
from typing import Any

if __name__ == "__main__":
    import paths

from lathed_solid.demo import DEMOS
from lathed_solid.devices.lines import parse_line
from lathed_solid.errors import LathedError
from lathed_solid.files.journal.lines import records_in
from lathed_solid.files.json_text import read_json
from lathed_solid.notation import read_note
from lathed_solid.part import Document, Parameter, edits
from lathed_solid.part.names import read_edge
from lathed_solid.part.standard_parts import read_designation
from lathed_solid.quantity import evaluate
from lathed_solid.quantity.volume import parse_volume
from lathed_solid.standards.lookup import look_up
from lathed_solid.standards.materials import material
from lathed_solid.standards.thread_limits import thread_limits
from lathed_solid.standards.threads import thread_form
from lathed_solid.turned.cells import parse_edge, parse_taper
from lathed_solid.workbench.tables.log_rows import parse_repeats, parse_way

LENGTH = 100_000
#: what most fields still take
MAX_FIELD = 398
MAX_S = 0.1
GIVEN_UP_S = 2.0

PIECES = (
    " ", "\t", "\u00a0", "\u2009", "\n", "9", "0", "1.", ",", ".", "-", "+", "±", "(", ")", "[", "]", "/", "*",
    "^", "°", "'", '"', "Ø", "⌀", "R", "M8", "M20x1.5", "x", "X", "2X ", "h6", "H7", "1/2", "3/8-16 UNC-2A",
    "↧", "⌴", "THRU", "DEEP", "45°", "1:10", "sqrt(", "round(", "max(1;", "#7", "mm", "in", "e9", "E", "∅", "φ",
    "о", "０", "½", "\ud83d", "\u2028", "\U0001f529", "a", "ß", "steel 7.85 g/cm3", "±0.1", "+0.1/-0.2", "MAX",
    "BREAK EDGES ", "Tr 20x4", "G 1/2", "RAA", "{", "}", ":", ";", "=", "\\", "\x00",
)  # fmt: skip


def _note(text: str, document: Document) -> object:
    return edits.add_note(document, text)


def readers() -> dict[str, Callable[[str], Any]]:
    """Every reader of text that a person or a file can reach, by its name."""
    d = DEMOS["crank-hub"]()
    out: dict[str, Callable[[str], Any]] = {
        "note": read_note,
        "note in inches": lambda t: read_note(t, "in"),
        "note of a part": lambda t: _note(t, d),
        "length": lambda t: evaluate(t, "length"),
        "angle": lambda t: evaluate(t, "angle"),
        "number": lambda t: evaluate(t, "number"),
        "volume": lambda t: parse_volume(t, "mm"),
        "edge": parse_edge,
        "taper": parse_taper,
        "thread": thread_form,
        "thread limits": thread_limits,
        "material": material,
        "standard": look_up,
        "standard part": read_designation,
        "edge name": read_edge,
        "readings": lambda t: parse_repeats(t, "mm"),
        "way": parse_way,
        "device": parse_line,
        "parameter": lambda t: Parameter(name=t, expression=t),
        "name": lambda t: edits.changed(d, name=t),
        "json": lambda t: read_json(t.encode("utf-8", "replace")),
        "journal": lambda t: list(records_in(t.encode("utf-8", "replace"))),
    }
    return out


def texts(count: int, seed: int) -> list[str]:
    """Every piece over and over, then ``count`` random mixtures."""
    out = [(piece * LENGTH)[:LENGTH] for piece in PIECES]
    out += [
        f"{a}{piece * 40_000}{b}"[:LENGTH]
        for piece in (" ", "9", "(")
        for a, b in (("Ø5", "x"), ("1", "/7"), ("M8", "-6g"))
    ]
    out += [f"{a}{piece * 40}{b}"[:MAX_FIELD] for piece in PIECES for a, b in (("", ""), ("Ø5", "/7"), ("1", "x 45°"))]
    out += [f"{a}{piece * 390}{b}"[:MAX_FIELD] for piece in PIECES for a, b in (("", ""), ("", "/7"), ("1", "x45°"))]
    rng = random.Random(seed)
    for _ in range(count):
        length = rng.choice((3, 20, 100, 400, 2000, LENGTH))
        pieces = rng.sample(PIECES, rng.randrange(1, 6))
        text = ""
        while len(text) < length:
            text += rng.choice(pieces) * rng.choice((1, 1, 1, 2, 50))
        out.append(text[:length])
    return out


class _TooLong(BaseException):
    """The time that a reader is given at most is over."""


def _too_long(*_: object) -> None:
    raise _TooLong


def slow_or_broken(name: str, read: Callable[[str], Any], text: str) -> str:
    """What is wrong with how a text is read; empty for nothing."""
    least = float("inf")
    signal.signal(signal.SIGPROF, _too_long)
    for _ in range(2):
        begun = time.process_time()
        signal.setitimer(signal.ITIMER_PROF, GIVEN_UP_S)
        try:
            read(text)
        except _TooLong:
            return f"{name}: given up after {GIVEN_UP_S} s"
        except LathedError as exc:
            if not exc.message or len(exc.message) > 2000:
                return f"{name}: {len(exc.message)} characters of words"
        except ValueError as exc:
            if name not in ("json", "parameter"):  # their callers put it in words
                return f"{name}: {type(exc).__name__}: {str(exc)[:80]}"
        except Exception as exc:  # noqa: BLE001 - that is what is looked for
            return f"{name}: {type(exc).__name__}: {str(exc)[:80]}"
        finally:
            signal.setitimer(signal.ITIMER_PROF, 0)
        least = min(least, time.process_time() - begun)
        if least < MAX_S:
            return ""
    return f"{name}: {least:.2f} s"


def campaign(count: int, seed: int, *, every: int = 1) -> tuple[int, list[str]]:
    """How many texts were read, one of ``every`` so many, and what was wrong: reader, matter, the text's beginning."""
    bad = []
    given = texts(count, seed)[seed % every :: every]
    for name, read in readers().items():
        hopeless = 0
        for text in given:
            wrong = slow_or_broken(name, read, text)
            if wrong:
                bad.append(f"{wrong} for {len(text)} characters {text[:30]!a}")
                hopeless += "given up" in wrong
            if hopeless > 5:
                break
    return len(given) * len(readers()), bad


def main() -> int:
    """The exit code."""
    count, seed = paths.count_and_seed(100, 1)
    read, bad = campaign(count, seed)
    print("\n".join(bad[:60]))
    print(f"{read} texts read: {len(bad)} slow, or refused without words")
    return int(bool(bad))


if __name__ == "__main__":
    sys.exit(main())
