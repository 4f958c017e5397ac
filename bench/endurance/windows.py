"""Real windows, driven by real keys: killed while notes are typed, and two of them on one file.

Kills: notes are typed into a window until it is killed, at any moment of the typing; started again, it has to have
every note that it had told of before. Two windows: both open one file; one saves, then the other; whatever its question
is answered by, both windows' work is in a file, or still in its window.

python bench/endurance/windows.py 100 7401 [20]     # kills, seed, rounds of two windows
"""

from __future__ import annotations

import os
import random
import resource
import signal
import sys
import tempfile
import time
from dataclasses import dataclass, field
from pathlib import Path

if __name__ == "__main__":
    import paths

    sys.path.insert(0, str(paths.HERE.parents[1] / "tools"))

from driving.hand import Hand

from lathed_solid import scripting as ls
from lathed_solid.files import read_document, write_document

#: so many kills in one home, then another
LIVES = 10
PROCESSES = 4000


@dataclass
class Found:
    """What a campaign came to: kills or rounds, notes that were told of, and what was lost, in words."""

    rounds: int = 0
    notes: int = 0
    lost: list[str] = field(default_factory=list)


def noted(hand: Hand) -> list[str]:
    """The notes of the part in the window."""
    return [n["text"] for n in hand.ask("document").get("notes", [])]


def enter(hand: Hand, text: str) -> None:
    """A note at the note line."""
    hand.press("/")
    hand.type(text)
    hand.press("Enter")


def kills(count: int, seed: int) -> Found:
    """Kill a window ``count`` times."""
    rng = random.Random(seed)
    found = Found()
    while found.rounds < count:
        with tempfile.TemporaryDirectory() as home, Hand(home=Path(home)) as hand:
            told = noted(hand)
            for _ in range(min(LIVES, count - found.rounds)):
                for _ in range(rng.randrange(1, 4)):
                    enter(hand, f"{rng.randrange(10, 9000) / 100:g}")
                    told = noted(hand)
                    found.notes += 1
                hand.press("/")
                hand.type(f"R{rng.randrange(1, 9)}")
                if rng.random() < 0.5:  # the last note may or may not have come in
                    hand._stroke("Return")
                    hand.display.sync()
                    time.sleep(rng.random() * 0.05)
                hand.kill()
                hand.open()
                now = noted(hand)
                if now[: len(told)] != told or len(now) > len(told) + 1:
                    found.lost.append(f"kill {found.rounds + 1}: told of {told[-4:]}, came back with {now[-4:]}")
                told = now
                found.rounds += 1
    return found


def pairs(count: int, seed: int) -> Found:
    """Save one file from two windows ``count`` times."""
    rng = random.Random(seed)
    found = Found()
    with tempfile.TemporaryDirectory() as home:
        for k in range(count):
            folder = Path(home) / str(k)
            folder.mkdir()
            file = folder / "part.lathed"
            write_document(file, ls.note(ls.new_part("Two windows"), "Ø20"))
            with Hand("open", str(file), home=Path(home)) as first, Hand("open", str(file), home=Path(home)) as second:
                if "open" not in second.ask("status")["words"]:
                    found.lost.append(f"round {k + 1}: the second window was not told that it is open elsewhere")
                enter(first, "30")
                enter(second, "R5")
                first.press("Ctrl+S")
                second.press("Ctrl+S")
                answer = rng.choice(("Keep both", "Overwrite", ""))
                if answer:
                    second.press_button(answer)
                else:
                    second.press("Esc")
                second.settle()
                files = {p.name: [n.text for n in read_document(p).notes] for p in folder.glob("*.lathed")}
                wanted = {
                    "Keep both": [["Ø20", "30"], ["Ø20", "R5"]], "Overwrite": [["Ø20", "R5"]], "": [["Ø20", "30"]],
                }[answer]  # fmt: skip
                if sorted(files.values()) != wanted or noted(first) != ["Ø20", "30"] or noted(second) != ["Ø20", "R5"]:
                    found.lost.append(f"round {k + 1}, {answer or 'Esc'}: {files}")
                found.rounds += 1
                found.notes += 2
                for hand in (first, second):
                    hand.kill()
    return found


def main() -> int:
    """The exit code."""
    resource.setrlimit(resource.RLIMIT_NPROC, (PROCESSES, PROCESSES))
    count, seed = paths.count_and_seed(100, 7401)
    rounds = int(sys.argv[3]) if len(sys.argv) > 3 else 20
    os.setpgrp()
    try:
        killed, paired = kills(count, seed), pairs(rounds, seed)
    finally:
        signal.signal(signal.SIGTERM, signal.SIG_IGN)
        os.killpg(0, signal.SIGTERM)
    print(f"{killed.rounds} kills of the window, {killed.notes} notes told of, {len(killed.lost)} times something lost")
    print(f"{paired.rounds} rounds of two windows on one file, {len(paired.lost)} times something lost or unsaid")
    for lost in (*killed.lost, *paired.lost):
        print("  ", lost)
    return int(bool(killed.lost or paired.lost))


if __name__ == "__main__":
    sys.exit(main())
