"""The bounds of what is checked after every step, at their edges; and the limits of the process that reads sheets."""

from __future__ import annotations

import json
import math
import subprocess
import sys

import pytest

from lathed_solid import scripting as ls
from lathed_solid.kernel.checks import check_cut, check_exact, check_join, check_sum
from lathed_solid.kernel.errors import BuildError
from lathed_solid.ledger import Probe, Span
from lathed_solid.part import edits


@pytest.mark.parametrize(
    ("before", "after", "tools", "words"),
    [(1000, 900, 100, ""), (1000, 950, 100, ""), (1000, 1000, 100, "removes nothing"),
     (1000, 1000 * (1 - 1e-10), 100, "removes nothing"), (1000, 1001, 100, "removes nothing"),
     (1000, 899.99, 100, "more than its tools hold"), (1000, 899.999, 100, "")],
)  # fmt: skip
def test_a_cut_takes_something_and_no_more_than_its_tools(
    before: float, after: float, tools: float, words: str
) -> None:
    said(lambda: check_cut(before, after, tools), words)


@pytest.mark.parametrize(
    ("sizes", "volume", "words"),
    [([100, 50], 150, ""), ([100, 50], 120, ""), ([100, 50], 99, "does not fit its parts"),
     ([100, 50], 150.1, "does not fit its parts"), ([50, 100], 99.9, "does not fit its parts"),
     ([100, 50], 100, "lies within the body"), ([100, 50], 100 * (1 + 1e-10), "lies within the body"),
     ([50, 100], 100, ""), ([100], 100, "")],
)  # fmt: skip
def test_a_join_holds_its_largest_part_and_no_more_than_all(sizes: list[float], volume: float, words: str) -> None:
    said(lambda: check_join(sizes, volume), words)


@pytest.mark.parametrize("off", [0.0, 5e-9, -5e-9, 2e-8, -2e-8])
def test_closed_forms_are_met_to_eight_digits(off: float) -> None:
    said(lambda: check_exact(1000 * (1 + off), 1000), "closed form" if abs(off) > 1e-8 else "")
    said(lambda: check_exact(1000 * (1 + 400 * off), 1000, free=True), "")
    said(lambda: check_sum(1000 * (1 + 1000 * off), 1000), "sum of its pieces" if abs(off) > 1e-8 else "")


def said(check, words: str) -> None:  # type: ignore[no-untyped-def]
    if not words:
        check()
        return
    with pytest.raises(BuildError, match=words):
        check()


READER = """
import resource, sys
from lathed_solid.sheets import worker
{then}
sys.exit(worker.main([sys.argv[0], "1", "100", "out.bmp", "mm"]))
"""


def reader(then: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-c", READER.format(then=then)], capture_output=True, text=True, timeout=100, check=False
    )


def test_the_process_that_reads_sheets_has_limits_on_time_and_memory() -> None:
    told = reader(
        "worker._found = lambda *a, **k: sys.exit(str([resource.getrlimit(k)[0] for k in "
        "(resource.RLIMIT_CPU, resource.RLIMIT_AS)]))"
    )
    cpu, memory = json.loads(told.stderr.strip().splitlines()[-1])
    assert 1 <= cpu <= 60 and (1 << 28) <= memory <= (4 << 30)
    swollen = reader("worker._found = lambda *a, **k: bytearray(5 << 30)")
    assert swollen.returncode == 1 and "more memory than it may have" in swollen.stderr


def test_rewording_a_note_keeps_what_is_its_own() -> None:
    """Span, place, way of measuring and drive stay with the callout; size and limits follow the text."""
    part = ls.note(ls.new_part("x"), "40 ±0.1")
    span = Span(along="x", start="left", end="right")
    callout = part.callouts[0].model_copy(update={"span": span, "drive": "middle"})
    part = edits.put_callout(part, callout)
    after = edits.edit_note(part, 1, "42.5 ±0.2").callouts[0]
    assert after.span == span and after.drive == "middle" and after.balloon == 1
    assert after.nominal == 42.5 and after.note == "42.5 ±0.2" and part.limits(after).high == pytest.approx(42.7)


@pytest.mark.parametrize(("made", "verdict"), [("30°", "in"), ("45°", "out"), ("33°", "out")])
def test_the_angle_of_a_bevel_is_judged_as_it_was_made(made: str, verdict: str) -> None:
    """A bevel drawn at 30 degrees; the same callout measured on bevels that were made at others."""
    part = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="40", length="60")])
    part = ls.note(part, "30° ±1°")
    pick = ls.EdgePick(edges=("10/face.right|10/sA",))
    part = ls.step(part, "chamfer", leg="3", angle=made, pick=pick)
    shown = Probe(kind="bevel_angle", faces=("20/(10/face.right|10/sA)",))
    part = edits.put_callout(part, part.callouts[0].model_copy(update={"measure": shown}))
    (row,) = ls.prove(part).rows
    assert row.verdict == verdict
    assert row.measured == pytest.approx(math.radians(float(made.rstrip("°"))))
