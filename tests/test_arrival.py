"""The kernel comes in beside a thread that stays at work: each test in a process that has not imported it yet."""

from __future__ import annotations

import subprocess
import sys

import pytest

pytest.importorskip("OCP")

SETUP = """
import sys, threading, time
from lathed_solid.viewer import deferred_import as arrival
told = []
stirred = arrival.Stirred()

def run():
    try:
        arrival.fetch(stirred)
    except arrival.KernelMissing as exc:
        told.append(exc.message)

def fetch():
    thread = threading.Thread(target=run)
    thread.start()
    return thread
"""


def _run(code: str) -> list[str]:
    done = subprocess.run([sys.executable, "-c", SETUP + code], capture_output=True, text=True, timeout=120)
    assert done.returncode == 0, done.stderr
    return done.stdout.split()


def test_the_other_thread_goes_on_during_the_import() -> None:
    """A plain import lets the other thread have two or three turns: before, after, and where files are read."""
    turns, before, after = _run("""
assert "OCP" not in sys.modules and not arrival.arrived()
arrival._load(stirred)
arrival.libraries = lambda: []
thread = fetch()
turns = 0
while thread.is_alive():
    time.sleep(0.0005)
    turns += 1
assert told == [] and arrival.arrived()
import gc
print(turns, arrival.offering_the_lock in gc.callbacks, len(gc.callbacks))
""")
    assert int(turns) > 60
    assert (before, after) == ("False", "0")


def test_the_import_rests_while_the_window_is_stirred() -> None:
    """Stirred all the time, the import is still under way after as many objects as many rests allow."""
    (under_way, done) = _run("""
stirred.now()
thread = fetch()
end = time.perf_counter() + 2
while time.perf_counter() < end:
    stirred.now()
    time.sleep(0.001)
print(thread.is_alive())
stirred.hurry = True
thread.join()
print(arrival.arrived())
""")
    assert (under_way, done) == ("True", "True")


def test_a_missing_kernel_is_told_in_words() -> None:
    words = _run("""
sys.modules["OCP"] = None
fetch().join()
assert not arrival.arrived()
print(told[0].replace(" ", "_"))
""")
    assert words[0].startswith("the_geometry_kernel_is_missing")
