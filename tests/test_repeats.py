"""Repeats of one size, strays among them, several sizes never heaped into one; what fractions were read to."""

from __future__ import annotations

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.ledger import Instrument, Reading
from lathed_solid.ledger.repeats import instrument_for, reads_to, room, sizes_of, strays
from lathed_solid.workbench.log_commands import LogCommands
from lathed_solid.workbench.tables.log_rows import LogRow

IN = 25.4


class Log:
    """The log of a part with one callout, answering doubts as told."""

    def __init__(self, answer: bool = False, unit: str = "in") -> None:
        self.part = ls.note(ls.new_part("from the hand", unit=unit), "Ø.25")
        self.commands, self.asked, self.said = LogCommands(), [], []  # type: ignore[var-annotated]
        self.commands.document = self.part
        self.commands.edited.connect(self._edit)
        self.commands.told.connect(lambda words, bad: self.said.append((words, bad)))
        self.commands.confirm = self._asked
        self.answer = answer

    def _asked(self, words: str) -> bool:
        self.asked.append(words)
        return self.answer

    def _edit(self, _label: str, change: object) -> None:
        self.part = self.commands.document = change(self.part)  # type: ignore[operator]

    @property
    def row(self) -> LogRow:
        return LogRow(self.part.callouts[0], self.part.reading(1))


def test_a_repeat_that_does_not_belong_is_asked_about() -> None:
    log = Log()
    log.commands.type_repeats(log.row, "4/16; 4/16; 5/16")
    assert log.asked and "Does it belong" in log.asked[0] and not log.part.readings
    assert log.said[-1][1] and "not logged" in log.said[-1][0]
    meant = Log(answer=True)
    meant.commands.type_repeats(meant.row, "4/16; 4/16; 5/16")
    assert meant.part.readings[0].repeats == pytest.approx((0.25 * IN, 0.25 * IN, 0.3125 * IN))


def test_what_scatters_as_the_instrument_does_is_not_asked_about() -> None:
    log = Log()
    log.commands.type_repeats(log.row, ".2500; .2510; .2490; .2525")
    assert not log.asked and len(log.part.readings[0].repeats) == 4


def test_eighteen_readings_are_eighteen_sizes() -> None:
    text = "; ".join(f"{0.125 + 0.0368 * k:.3f}" for k in range(18))
    log = Log()
    log.commands.log_new("outside ⌀", text)
    assert log.asked == ["These are 18 sizes. Log each by itself?"] and not log.part.readings
    each = Log(answer=True)
    each.commands.log_new("outside ⌀", text)
    assert len(each.part.readings) == 18 and all(len(r.repeats) == 1 for r in each.part.readings)
    one = Log()
    one.commands.log_new("outside ⌀", ".500; .501; .4995")
    assert not one.asked and len(one.part.readings) == 1


@pytest.mark.parametrize(
    ("text", "resolution"),
    [("4/16; 5/16", IN / 16), ("1 3/8; 1 1/4in", IN / 8), ("3/64", IN / 64), ("1/4; 3/128", IN / 128), ("1/2", IN / 8),
     ("0.25; 1/4", 0.01), ("25.41", 0.01), ("1/3 + 2", 0.01)],
)  # fmt: skip
def test_fractions_tell_what_they_were_read_to(text: str, resolution: float) -> None:
    assert instrument_for(text, Instrument()).resolution == pytest.approx(resolution)


def test_sixteenths_have_the_uncertainty_of_sixteenths() -> None:
    log = Log()
    log.commands.type_repeats(log.row, "4/16; 4/16")
    assert log.part.readings[0].uncertainty == pytest.approx(2 * (IN / 16) / 12**0.5, rel=1e-2)
    log.commands.instrument = reads_to(32)
    other = Log()
    other.commands.instrument = reads_to(32)
    other.commands.type_repeats(other.row, ".25")
    assert other.part.readings[0].instrument.name == "read to 1/32 in"


@given(st.lists(st.floats(1, 500), min_size=1, max_size=30), st.sampled_from((8, 16, 64)))
def test_sizes_part_the_repeats_and_never_lose_one(repeats: list[float], fraction: int) -> None:
    instrument = reads_to(fraction)
    groups = sizes_of(repeats, instrument)
    assert sorted(x for g in groups for x in g) == sorted(repeats)
    assert all(b[0] - a[-1] > room(instrument) for a, b in itertools.pairwise(groups))
    if len(groups) == 1 and max(repeats) - min(repeats) <= room(instrument):
        assert not strays(repeats, instrument)
    assert Reading(balloon=1, way="step", repeats=tuple(repeats), instrument=instrument).uncertainty > 0
