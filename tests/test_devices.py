"""Calipers on a line: what they send, simulated ones on a real pseudo-terminal, and what is no reading."""

from __future__ import annotations

import contextlib
import statistics
import subprocess
import sys
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.devices import DeviceError, SimulatedDevice, parse_line
from lathed_solid.devices.port import Port


@pytest.mark.parametrize(
    ("line", "value", "kind"),
    [
        ("+0024.94 mm\r\n", 24.94, "length"), ("24,94", 24.94, "length"), ("01A+00024.94", 24.94, "length"),
        ("0.9820in", 24.9428, "length"), ('0.5"', 12.7, "length"), ("  12.00 MM ", 12.0, "length"),
        ("1182.0 g", 1182.0, "mass"), ("+ 1.182 kg", 1182.0, "mass"), ("2.5 lb", 1133.980925, "mass"),
    ],
)  # fmt: skip
def test_lines_of_many_makes_are_read(line: str, value: float, kind: str) -> None:
    found = parse_line(line)
    assert (found.value, found.kind) == (pytest.approx(value), kind)


def test_a_sheet_in_inches_takes_bare_numbers_as_inches() -> None:
    assert parse_line("0.982", "in").value == pytest.approx(24.9428)


@pytest.mark.parametrize(
    "line", ["", "abc", "-12.0 mm", "0.00", "1e9", "12.0 furlongs", "9" * 200, "12.0 mm 13.0 mm", "nan"]
)
def test_what_is_no_reading_is_told(line: str) -> None:
    with pytest.raises(DeviceError) as told:
        parse_line(line)
    assert told.value.message


@given(st.text(max_size=90))
def test_anything_on_the_line_is_read_or_refused(line: str) -> None:
    with contextlib.suppress(DeviceError):
        assert parse_line(line).value > 0


def _lines(port: Port, count: int) -> list[str]:
    out: list[str] = []
    end = time.monotonic() + 10
    while len(out) < count and time.monotonic() < end:
        out += port.lines()
        time.sleep(0.002)
    return out


def test_a_simulated_caliper_is_listened_to_as_a_real_one() -> None:
    """Through the operating system: pseudo-terminal, serial line, lines; the errors are those of a caliper."""
    with SimulatedDevice(seed=3) as caliper:
        port = Port(caliper.port)
        sent = [caliper.press(24.94) for _ in range(40)]
        read = [parse_line(x).value for x in _lines(port, 40)]
        port.close()
    assert read == [parse_line(s).value for s in sent] and abs(caliper.bias) <= 0.02
    assert statistics.mean(read) == pytest.approx(24.94 + caliper.bias, abs=0.006)
    assert 0 < statistics.stdev(read) < 0.02 and all(abs(r * 100 - round(r * 100)) < 1e-6 for r in read)


def test_the_unit_slip_comes_without_a_unit() -> None:
    with SimulatedDevice(seed=1, slip=1.0) as caliper:
        reading = parse_line(caliper.line(25.4))
    assert reading.unit == "" and reading.value == pytest.approx(1.0, abs=0.002)


def test_a_scale_and_a_port_that_is_not_there() -> None:
    with SimulatedDevice("scale", seed=2) as scale:
        assert parse_line(scale.line(1184.0)).kind == "mass"
    with pytest.raises(DeviceError, match="cannot be opened"):
        Port("/dev/there-is-no-such-port")


def test_the_command_line_simulates_a_caliper() -> None:
    run = subprocess.run(
        [sys.executable, "-m", "lathed_solid.cli", "simulate", "caliper", "25", "12.7", "--every", "0", "--wait", "0",
         "--repeats", "2", "--seed", "4"], capture_output=True, text=True, timeout=60,
    )  # fmt: skip
    told = run.stdout.splitlines()
    assert run.returncode == 0 and told[0].startswith("listen at /dev/") and len(told) == 5, run.stderr
    assert [round(parse_line(t).value) for t in told[1:]] == [25, 25, 13, 13]
