"""Replays: files that a person can read, each line one thing done or seen.

    press L                  a key, or keys: Ctrl+K, Shift+R
    unit in                  the part is in inches, and so are places and areas
    at 0 0                   a click at a place of the open sketch; then shift, double
    drag 0 0  10 5           from one place of the sketch to another
    wheel 0 0 -3             the wheel at a place, so many notches; toward the hand shows more
    point 12 4               the pointer there, without a click
    type 28                  characters into what has the keyboard
    enter 28                 the same, and Enter
    choose cut               a click on what says so: a button, a word
    note 4X Ø5 THRU          the note line, what is typed into it, Enter
    on 10 5 20               a click at a point of the solid; then shift, double
    over 10 5 20             the pointer at a point of the solid, without a click
    field diameter 12        a click into what has that name, what is typed into it, Enter
    cell Stations 2 taper    a click on a cell of a table: its name, the row, the column
    row 10                   a click on a step's row of the route
    held                     the open sketch is held
    areas of NAME            its regions are those of closed_forms.NAME, in any order, each to 1e-9
    dimensions 4             so many dimensions drive it
    built                    no step failed
    proven 7                 so many callouts, all of them in, and the part proven
    weighs 1234.5            the solid's volume in mm3, to 1e-6
    see tangent 2            so many relations of a kind are in it
    look NAME                a picture of the screen into the folder of LOOK_AT, when that is set
    # ...                    a remark

Run: ``python -m driving.replay FILE...`` from ``tools/``, or all of ``tools/replays`` without a name.
"""

from __future__ import annotations

import math
import os
import re
import sys
import tempfile
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from driving import closed_forms
from driving.hand import Hand, WindowLost
from lathed_solid.files import write_document
from lathed_solid.quantity import LengthUnit
from lathed_solid.workbench.beginning import Beginning, begun, general_of

REPLAYS = Path(__file__).parent.parent / "replays"
#: areas agree with their closed forms to this share
AREA = 1e-9


class ReplayError(AssertionError):
    """A line of a replay that cannot be done, or something seen that is otherwise."""


@dataclass(frozen=True)
class Played:
    """What a replay took: entries by kind, driving dimensions, the longest the window kept an answer waiting, s."""

    name: str
    entries: dict[str, int]
    dimensions: int
    slowest: float

    @property
    def total(self) -> int:
        """All entries."""
        return sum(self.entries.values())

    @property
    def each(self) -> float:
        """Entries a dimension."""
        return self.total / max(self.dimensions, 1)


def play(path: Path, *, size: tuple[int, int] = (1280, 800)) -> Played:
    """Do everything in a replay on a new, empty part. Raises ReplayError naming the line."""
    lines = [re.split(r"(?:^|\s)#\s", line)[0].strip() for line in path.read_text("utf-8").splitlines()]
    unit: LengthUnit = "in" if "unit in" in lines else "mm"
    with tempfile.TemporaryDirectory(prefix="replay-") as folder:
        part = Path(folder) / "part.lathed"
        write_document(part, begun(Beginning("drawing", path.stem, unit, general=general_of(unit))))
        return _played(path, lines, part, size, 25.4 if unit == "in" else 1.0)


def play_all(paths: Sequence[Path]) -> list[Played]:
    """Several replays, two at a time, each on an X server of its own."""
    with ThreadPoolExecutor(2) as pool:
        return list(pool.map(play, paths))


def _played(path: Path, lines: list[str], part: Path, size: tuple[int, int], scale: float) -> Played:
    dimensions = 0
    with Hand("open", str(part), size=size) as hand:
        hand.scale = scale
        for number, line in enumerate(lines, 1):
            word, *rest = line.split(None, 1) if line else ("",)
            if not word or word == "unit":
                continue
            if word not in _WORDS:
                raise ReplayError(f"{path.name}:{number}: nothing is done by {word!r}")
            try:
                _WORDS[word](hand, rest[0] if rest else "")
            except WindowLost as exc:
                raise ReplayError(f"{path.name}:{number}: {line}: {exc}") from exc
            except (ReplayError, ValueError) as exc:
                status = hand.ask("status")["words"]
                _look(hand, f"{path.stem}-failed")
                raise ReplayError(f"{path.name}:{number}: {line}: {exc} (the window says: {status})") from exc
            if word == "dimensions":
                dimensions += int(rest[0])
        return Played(path.stem, dict(hand.entries), dimensions, hand.slowest)


# words ---------------------------------------------------------------------------------------------
def _places(rest: str) -> tuple[list[float], list[str]]:
    numbers, words = [], []
    for part in rest.split():
        try:
            numbers.append(float(part))
        except ValueError:
            words.append(part)
    return numbers, words


def _on_screen(hand: Hand, x: float, y: float) -> tuple[int, int]:
    at = hand.ask("place", x=x * hand.scale, y=y * hand.scale)
    return at[0], at[1]


def _at(hand: Hand, rest: str) -> None:
    (x, y), words = _places(rest)
    hand.click(*_on_screen(hand, x, y), shift="shift" in words, times=2 if "double" in words else 1)


def _drag(hand: Hand, rest: str) -> None:
    (a, b, c, d), _ = _places(rest)
    hand.drag(_on_screen(hand, a, b), _on_screen(hand, c, d))


def _wheel(hand: Hand, rest: str) -> None:
    (x, y, notches), _ = _places(rest)
    hand.wheel(*_on_screen(hand, x, y), round(notches))


def _point(hand: Hand, rest: str) -> None:
    (x, y), _ = _places(rest)
    hand.point(*_on_screen(hand, x, y))


def _press(hand: Hand, rest: str) -> None:
    for keys in rest.split():
        hand.press(keys)


def _enter(hand: Hand, rest: str) -> None:
    hand.type(rest)
    hand.press("Enter")


def _choose(hand: Hand, rest: str) -> None:
    said = [w for w in hand.ask("widgets") if w["text"] == rest and w["enabled"]]
    if not said:
        raise ReplayError(f"nothing that can be clicked says {rest!r}")
    hand.click(*said[0]["at"])


def _note(hand: Hand, rest: str) -> None:
    hand.press("/")
    _enter(hand, rest)


def _in_space(hand: Hand, x: float, y: float, z: float) -> tuple[int, int]:
    at = hand.ask("in space", x=x * hand.scale, y=y * hand.scale, z=z * hand.scale)
    return at[0], at[1]


def _on(hand: Hand, rest: str) -> None:
    (x, y, z), words = _places(rest)
    hand.click(*_in_space(hand, x, y, z), shift="shift" in words, times=2 if "double" in words else 1)


def _over(hand: Hand, rest: str) -> None:
    (x, y, z), _ = _places(rest)
    hand.point(*_in_space(hand, x, y, z))


def _field(hand: Hand, rest: str) -> None:
    named = [w for w in hand.ask("widgets") if w["name"] and rest.startswith(w["name"] + " ") and w["enabled"]]
    if not named:
        raise ReplayError(f"there is no field of that name: {rest}")
    field = max(named, key=lambda w: len(w["name"]))
    hand.click(*field["at"], times=1)
    hand.press_quietly("Ctrl+A")
    _enter(hand, rest[len(field["name"]) + 1 :])


def _cell(hand: Hand, rest: str) -> None:
    table, row, column = rest.split(None, 2)
    hand.click(*hand.ask("cell", table=table, row=int(row), column=column))


def _row(hand: Hand, rest: str) -> None:
    hand.click(*hand.ask("row", step=int(rest)))


def _built(hand: Hand, _rest: str) -> None:
    failed = hand.ask("proof")["failed"]
    if failed:
        raise ReplayError("; ".join(failed))


def _proven(hand: Hand, rest: str) -> None:
    proof = hand.ask("proof")
    other = proof["reasons"]
    if len(proof["verdicts"]) != int(rest) or other or not proof["ok"]:
        raise ReplayError(f"{len(proof['verdicts'])} callouts, not in: {other}; {proof['failed']}")


def _weighs(hand: Hand, rest: str) -> None:
    volume = hand.ask("proof")["volume"]
    if not math.isclose(volume, float(rest), rel_tol=1e-6):
        raise ReplayError(f"the solid has {volume:.9g} mm3")


def _held(hand: Hand, _rest: str) -> None:
    headline = hand.ask("sketch")["headline"]
    if headline != "held":
        raise ReplayError(f"the sketch is not held: {headline}")


def _areas(hand: Hand, rest: str) -> None:
    wanted = sorted(getattr(closed_forms, rest.removeprefix("of "))())
    found = sorted(a / hand.scale**2 for a in hand.ask("sketch")["areas"])
    wrong = len(wanted) != len(found) or any(
        not math.isclose(a, b, rel_tol=AREA) for a, b in zip(wanted, found, strict=True)
    )
    if wrong:
        raise ReplayError(f"the regions are {found}, not {wanted}")


def _dimensions(hand: Hand, rest: str) -> None:
    verdicts = hand.ask("proof")["verdicts"]
    found = len(verdicts) or hand.ask("sketch")["dimensions"]
    if found < int(rest):
        raise ReplayError(f"{found} dimensions drive it")


def _see(hand: Hand, rest: str) -> None:
    kind, count = rest.split()
    found = sum(c["kind"] == kind for c in hand.ask("sketch")["constraints"])
    if found != int(count):
        raise ReplayError(f"{found} relations {kind}")


def _look(hand: Hand, rest: str) -> None:
    folder = os.environ.get("LOOK_AT", "")
    if folder:
        hand.look(Path(folder) / f"{rest}.png")


_WORDS: dict[str, Callable[[Hand, str], None]] = {
    "at": _at, "drag": _drag, "point": _point, "wheel": _wheel, "press": _press, "type": lambda h, r: h.type(r),
    "enter": _enter, "note": _note, "on": _on, "over": _over, "field": _field, "cell": _cell, "row": _row,
    "choose": _choose, "held": _held, "areas": _areas, "dimensions": _dimensions, "see": _see, "built": _built,
    "proven": _proven, "weighs": _weighs, "look": _look,
}  # fmt: skip


def main(names: list[str]) -> int:
    """Play replays and print what each took; 1 when one failed."""
    failed = 0
    done = []
    for path in [Path(n) for n in names] or sorted(REPLAYS.glob("*.txt")):
        try:
            played = play(path)
        except ReplayError as exc:
            print(f"{path.stem}: {exc}")
            failed = 1
            continue
        done.append(played)
        kinds = ", ".join(f"{n} {kind}" for kind, n in sorted(played.entries.items()))
        count = f"{played.total} entries ({kinds}) for {played.dimensions} dimensions"
        print(f"{played.name}: {count}: {played.each:.2f} each; longest wait {played.slowest * 1000:.0f} ms")
    if len(done) > 1:
        total, dimensions = sum(p.total for p in done), sum(p.dimensions for p in done)
        print(f"all: {total} entries for {dimensions} dimensions: {total / dimensions:.2f} each; "
              f"longest wait {max(p.slowest for p in done) * 1000:.0f} ms")  # fmt: skip
    return failed


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
