"""The corpus of notes, each with its meaning checked by hand; and the canonical note read back."""

from __future__ import annotations

import contextlib
import json
import random
import re
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from effort import some
from hypothesis import given, settings
from hypothesis import strategies as st
from notes.hands import loud_noise, spelling
from notes.sweep import alike, judged

from lathed_solid.notation import Clause, Entry, Meaning, NoteError, Thread, read_note, write_note
from lathed_solid.notation.clauses import Centre, Groove, Keyway, Knurl, Pattern, Rule, Taper
from lathed_solid.notation.german import in_english
from lathed_solid.notation.instructions import without_instructions
from lathed_solid.notation.letters import of_sizes, plain_letters
from lathed_solid.workbench.typing_in import with_sign

CORPUS = Path(__file__).parent / "notes" / "corpus.txt"
REFUSED = CORPUS.with_name("refused.txt")


def corpus() -> Iterator[tuple[str, str, list[dict[str, Any]]]]:
    """(unit, note, clauses) of every spelling."""
    meaning: list[dict[str, Any]] = []
    for line in CORPUS.read_text("utf-8").splitlines():
        if line.startswith("= "):
            meaning = json.loads(line[2:])
        elif line and not line.startswith("#"):
            unit, text = line.split("| ", 1)
            yield unit, text.replace("⏎", "\n"), meaning


close = alike
#: what is said of a sheet, not of a place
UNCOUNTED = ("instruction", "feature", "general", "frame", "datum", "texture", "knurl")
NOTES = list(corpus())


def test_the_corpus_is_large_and_in_many_hands() -> None:
    assert len(NOTES) >= 1300 and len({(u, t) for u, t, _ in NOTES}) == len(NOTES)
    assert {c["kind"] for _, _, m in NOTES for c in m} >= {
        "hole",
        "diameter",
        "radius",
        "length",
        "angle",
        "chamfer",
        "fillet",
        "thread",
        "general",
        "taper",
        "groove",
        "keyway",
        "centre",
        "knurl",
        "slot",
        "frame",
        "datum",
        "texture",
    }


def test_every_note_of_the_corpus_means_what_it_should() -> None:
    wrong = []
    for unit, text, want in NOTES:
        told = read_note(text, unit).as_json()  # type: ignore[arg-type]
        if not told["ok"] or not told["plain"] or not close(told["clauses"], want):
            wrong.append((unit, text, told))
    assert wrong == []


def test_every_beginning_of_a_note_is_read_to_its_end() -> None:
    """As it is typed, letter by letter: read, marked or refused, and never looked at for ever."""
    for unit, text, _ in some(NOTES, 250):
        for end in range(1, len(text)):
            with contextlib.suppress(NoteError):
                read_note(text[:end], unit)  # type: ignore[arg-type]


def test_notes_of_sizes_alone_are_no_instructions_and_in_no_other_language() -> None:
    """The quick way past both gives what the long one does."""
    quick = 0
    for unit, text, _ in NOTES:
        letters = plain_letters(text)
        if of_sizes(letters.text):
            quick += 1
            same, found = without_instructions(in_english(letters), unit, text)  # type: ignore[arg-type]
            assert (same.text, found) == (letters.text, []), text
    assert quick > 1000


def _sized(clauses: Any) -> list[Any]:
    return [c for c in clauses if c["kind"] not in ("instruction", "feature")]  # whose text is that of the note


def test_a_note_broken_at_any_gap_means_the_same() -> None:
    """What stands over two lines on the sheet is read as if in one, or it is said that it is not."""
    found, silent = Counter[str](), list[str]()
    for unit, text, want in some(NOTES, 420):
        text = text.strip()
        for k in (k for k, letter in enumerate(text) if letter == " " and "\n" not in text):
            broken = f"{text[:k]}\n{text[k + 1 :]}"
            try:
                told = read_note(broken, unit).as_json()  # type: ignore[arg-type]
            except NoteError:
                told = {"ok": False}
            right = told["ok"] and close(_sized(told["clauses"]), _sized(want))
            found["right" if right else "silent" if told["ok"] else "marked"] += 1
            silent += [broken] if told["ok"] and not right else []
    total = sum(found.values())
    assert total > 1000 and found["right"] > 0.9 * total and len(silent) < 0.01 * total, (found, silent)


@pytest.mark.parametrize("form", ["2X {}", "(2) {}", "2 OFF {}", "{} 2 PLACES", "{} (2X)"])
def test_a_count_before_or_behind_a_note_counts_it_and_is_nothing_else(form: str) -> None:
    found, silent = Counter[str](), list[str]()
    for unit, text, want in some(NOTES, 1200):
        if len(want) != 1 or want[0].get("count") not in (None, 1) or want[0]["kind"] in UNCOUNTED or "\n" in text:
            continue
        circle = {"pattern": want[0]["pattern"] | {"count": 2}} if "pattern" in want[0] else {}
        verdict = judged(form.format(text.strip()), unit, [want[0] | {"count": 2} | circle])
        found[verdict] += 1
        silent += [text] if verdict == "silent" else []
    assert sum(found.values()) > 400 and found["right"] > 0.8 * sum(found.values()) and len(silent) < 3, (found, silent)


def test_gaps_and_a_full_stop_say_nothing() -> None:
    for unit, text, want in some(NOTES, 700):
        for spread in (text.replace(" ", "  "), f"  {text} ", f"{text}." if text[-1].isdigit() else text):
            told = read_note(spread, unit).as_json()  # type: ignore[arg-type]
            assert told["ok"] and close(_sized(told["clauses"]), _sized(want)), spread


@pytest.mark.parametrize(
    ("note", "kinds"),
    [
        ("4\n⌀8", ["length", "diameter"]), ("30\nr6", ["length", "radius"]), ("⌀12\nR3", ["diameter", "radius"]),
        ("DEBURR\nHARDEN", ["instruction", "instruction"]), ("GRIND\n20", ["length", "instruction"]),
        ("6 HOLES\nM5 x 10 DEEP\nON 48 PCD", ["thread"]), ("BREAK SHARP EDGES\n0.2 MAX", ["general"]),
        ("PAINT RAL\n5010", ["instruction"]), ("Ø12 H7\nREAM", ["hole"]), ("CLEARANCE\nFOR M8", ["hole"]),
        ("⌀10 H7, DRILL\n⌀9.8", ["hole"]), ("DRILL 4\nHOLES Ø6 THRU", ["hole"]), ("4\n#7 DRILL", ["hole"]),
        ("BORE ⌀35 H7\nx 22 DEEP\nFLAT BOTTOM", ["hole"]), ("BC ⌀120\n8X ⌀11", ["hole"]),
        ("Lochkreis ⌀80\n6 x ⌀7", ["hole"]),
        ("ON PCD ⌀120\n8 HOLES ⌀11", ["hole"]), ("3 HOLES ⌀5.5 THRU\nCSK ⌀11 x 90°\n120° APART", ["hole"]),
        ("DETAIL B\n2:1", ["instruction"]), ("CHROME PLATE\n0.02", ["instruction"]), ("CONE\n1:10", ["taper"]),
        ("ZINC PLATED\n⌀10", ["diameter", "instruction"]), ("PLATE\n25", ["length"]),
    ],
)  # fmt: skip
def test_lines_that_are_one_and_lines_that_are_two(note: str, kinds: list[str]) -> None:
    meaning = read_note(note)
    assert not meaning.unread and [c.kind for c in meaning.clauses] == kinds


@pytest.mark.parametrize(
    ("note", "kinds", "counts"),
    [
        ("R8\n2 HOLES REAM ⌀6 H7", ["radius", "hole"], [None, 2]),
        ("2x45°\n4 TAPPED HOLES M8 x 20 DEEP", ["chamfer", "thread"], [None, 4]),
        ("16 WIDE\n5 HOLES Ø9 EQUI-SPACED ON 96 P.C.D.", ["length", "hole"], [None, 5]),
        ("⌀62 K7 BEARING SEAT\n4 HOLES M6 x 16 DP ON 80 PCD", ["diameter", "thread"], [None, 4]),
        ("R8, 2 HOLES REAM ⌀6 H7", ["radius", "hole"], [None, 2]),
        ("24 REF, 6 OFF HOLES 8.5 DIA ON 84 P.C. DIA", ["length", "hole"], [None, 6]),
        ("3/8 BSW\nTHRU HOLE ⌀11", ["thread", "hole"], [None, 1]),
        ("3 HOLES ⌀5 EQ. SPACED\nBORE ⌀52 H7 x 18 DEEP", ["hole", "hole"], [3, 1]),
        ("M8, 20 DEEP\nDRILL 4.2, TAP M5", ["thread", "thread"], [None, None]),
        ("30 JS9, KEYWAY 6 WIDE x 4 DEEP", ["length", "keyway"], [None, None]),
    ],
)
def test_two_notes_together_stay_two(note: str, kinds: list[str], counts: list[int | None]) -> None:
    meaning = read_note(note)
    assert not meaning.unread and [(c.kind, c.count) for c in meaning.clauses] == list(zip(kinds, counts, strict=True))


def test_what_cannot_be_read_is_told_and_never_taken() -> None:
    notes = [line.split("| ", 1) for line in REFUSED.read_text("utf-8").splitlines() if not line.startswith("#")]
    assert len(notes) >= 100
    taken = [(unit, text) for unit, text in notes if judged(text.replace("⏎", "\n"), unit, []) != "marked"]
    assert taken == []


def test_spellings_of_drawn_meanings_are_read_right_or_marked() -> None:
    """The meaning comes first, the note from it: nothing may be read as something else without a word."""
    found, strange = Counter[str](), Counter[str]()
    seeds = some(range(700_001, 701_501), 800)
    for seed in seeds:
        rnd = random.Random(seed)
        text, unit, meant = spelling(rnd)
        verdict = judged(text, unit, meant)
        assert verdict != "silent", (seed, text)
        found[verdict] += 1
        strange[judged(loud_noise(text, rnd), unit, meant)] += 1
    assert found["right"] >= 0.98 * len(seeds) and strange == {"marked": len(seeds)}


def test_typing_a_note_reads_as_the_note_does() -> None:
    """Signs that come for words while typing change nothing of what is read."""
    for unit, text, want in some(NOTES, 2500):
        typed = ""
        for letter in text:
            typed += letter
            if sign := with_sign(typed):
                typed = typed[: len(typed) - sign[0]] + sign[1]
        assert judged(typed, unit, want) == "right", (text, typed)


def test_german_notes_are_read_by_the_one_grammar() -> None:
    """A note without German words stays as it is; of others each letter knows its column."""
    german = [text for _, text, _ in NOTES if in_english(plain_letters(text)).text != plain_letters(text).text]
    assert len(german) >= 40 and all(not text.isascii() or re.search("[a-z]{3}|BEIDSEITIG", text) for text in german)
    told = read_note("4 Bohrungen ⌀6,6 durchgehend QUER", "mm")
    assert told.unread == ("QUER",) and told.unread_at == ((30, 4),)
    assert told.clauses[0].count == 4 and told.clauses[0].through


@given(st.lists(st.sampled_from(["⌀12", "tief", "TIEFE", "Bohrung", "x", "ß", "SENKUNG", "12", "\n", "LANG", "q"])))
def test_columns_of_german_words_stay_in_order(words: list[str]) -> None:
    note = " ".join(words)
    english = in_english(plain_letters(note))
    assert len(english.columns) == len(english.text) + 1
    assert list(english.columns) == sorted(english.columns) and english.columns[-1] == len(note) + 1


def _same(a: Meaning, b: Meaning) -> bool:
    return not b.unread and close(b.as_json()["clauses"], a.as_json()["clauses"])


def test_the_canonical_note_means_the_same() -> None:
    for unit, text, _ in some(NOTES, 2500):
        meaning = read_note(text, unit)  # type: ignore[arg-type]
        assert _same(meaning, read_note(write_note(meaning), unit)), (text, write_note(meaning))  # type: ignore[arg-type]


SIZE = st.integers(1, 9_000_00).map(lambda n: n / 1000)
SMALL = st.integers(10, 4000).map(lambda n: n / 1000)
ANGLE = st.integers(1, 89).map(float)
COUNT = st.none() | st.integers(2, 24)


@st.composite
def clauses(draw: st.DrawFn) -> Clause:
    kind = draw(
        st.sampled_from(
            [
                "hole",
                "diameter",
                "radius",
                "length",
                "angle",
                "chamfer",
                "fillet",
                "thread",
                "taper",
                "groove",
                "keyway",
                "centre",
                "knurl",
                "general",
                "widening",
            ]
        )
    )
    count, size = draw(COUNT), draw(SIZE)
    return {
        "hole": lambda: draw(holes()),
        "diameter": lambda: draw(toleranced("diameter", "diameter_mm", count, size)),
        "radius": lambda: draw(toleranced("radius", "size_mm", count, size)),
        "length": lambda: draw(toleranced("length", "size_mm", None, size)),
        "angle": lambda: Clause(kind="angle", angle_deg=draw(ANGLE)),
        "chamfer": lambda: Clause(kind="chamfer", size_mm=size, angle_deg=draw(ANGLE), count=count),
        "fillet": lambda: Clause(kind="fillet", size_mm=size, count=count),
        "widening": lambda: Clause(kind="widening", count=count, **draw(widenings(0.0))),
        "thread": lambda: draw(threads()),
        "taper": lambda: Clause(kind="taper", taper=Taper(ratio=draw(st.integers(1, 60).map(float)))),
        "groove": lambda: Clause(kind="groove", groove=Groove(width_mm=draw(SMALL), diameter_mm=size)),
        "keyway": lambda: Clause(
            kind="keyway",
            keyway=Keyway(
                width_mm=draw(SMALL),
                depth_mm=draw(SMALL),
                length_mm=draw(st.none() | SIZE),
                fit=draw(st.sampled_from([None, "N9", "P9"])),
            ),
        ),
        "centre": lambda: Clause(kind="centre", centre=Centre(form="B", pilot_mm=2.5, countersink_mm=8.0)),
        "knurl": lambda: Clause(
            kind="knurl", knurl=Knurl(form=draw(st.sampled_from(["RAA", "RGE", "RBL"])), pitch_mm=0.8)
        ),
        "general": lambda: Clause(
            kind="general",
            rule=Rule(
                what=draw(st.sampled_from(["fillet", "round", "fillet and round", "break"])),
                size_mm=draw(SMALL),
                at_most=draw(st.sampled_from([None, True])),
            ),
        ),
    }[kind]()


@st.composite
def toleranced(draw: st.DrawFn, kind: Any, key: str, count: int | None, size: float) -> Clause:
    low, high = draw(st.sampled_from([(None, None), (-0.1, 0.1), (0.0, 0.2), (-0.05, 0.0), (-0.3, 0.02)]))
    limits = {} if low is None or high is None else {"low_mm": round(size + low, 6), "high_mm": round(size + high, 6)}
    return Clause(kind=kind, count=count, **{key: size}, **limits)


@st.composite
def widenings(draw: st.DrawFn, hole: float) -> dict[str, Any]:
    kind = draw(st.sampled_from(["cbore", "csk", "spotface", "cdrill"]))
    return {
        "cbore": {"cbore": Entry(diameter_mm=hole + 4, depth_mm=2.5)},
        "csk": {"csk": Entry(diameter_mm=hole + 5, angle_deg=draw(ANGLE))},
        "spotface": {"spotface": Entry(diameter_mm=hole + 9)},
        "cdrill": {"cdrill": Entry(diameter_mm=hole + 3, depth_mm=2.5, angle_deg=118.0)},
    }[kind]


@st.composite
def holes(draw: st.DrawFn) -> Clause:
    d = draw(SMALL)
    depth = draw(st.none() | st.integers(5, 90).map(float))
    more: dict[str, Any] = draw(st.just({}) | widenings(d))
    count = draw(st.integers(1, 24))
    if draw(st.booleans()):
        more |= {"bolt_circle_mm": 150.0, "pattern": Pattern(kind="circle", count=count, diameter_mm=150.0)}
    if depth is None:
        return Clause(kind="hole", count=count, diameter_mm=d, through=True, **more)
    to = draw(st.sampled_from(["shoulder", "tip"]))
    return Clause(
        kind="hole", count=count, diameter_mm=d, through=False, depth_mm=depth, depth_to=to, point_deg=118.0, **more
    )


@st.composite
def threads(draw: st.DrawFn) -> Clause:
    name, major, pitch, inner, outer = draw(
        st.sampled_from(
            [
                ("M8×1.25", 8, 1.25, "6H", "6g"),
                ("M20×1.5", 20, 1.5, "6H", "6h"),
                ("5/16-18 UNC", 7.9375, 25.4 / 18, "2B", "2A"),
                ("Tr20×4", 20, 4, "7H", "7e"),
            ]
        )
    )
    internal, classed = draw(st.booleans()), draw(st.booleans())
    klass = (inner if internal else outer) if classed else None
    thread = Thread(
        designation=name + (f"-{klass}" if klass else ""),
        major_mm=major,
        pitch_mm=pitch,
        thread_class=klass,
        hand=draw(st.sampled_from(["right", "left"])),
        internal=internal,
        depth_mm=draw(st.integers(5, 40).map(float)),
    )
    drill = draw(st.none() | st.integers(41, 60).map(float)) if internal else None
    return Clause(
        kind="thread", thread=thread, count=draw(COUNT), depth_mm=drill, depth_to="shoulder" if drill else None
    )


@settings(max_examples=400)
@given(clauses(), st.sampled_from(["mm", "in"]))
def test_a_written_clause_reads_back(clause: Clause, unit: Any) -> None:
    note = write_note(Meaning(note="", unit=unit, clauses=(clause,)))
    read = read_note(note, unit)
    assert not read.unread, note
    want = clause.as_json()
    assert len(read.clauses) == 1 and set(read.clauses[0].as_json()) == set(want), (note, read.clauses)
    # six places of an inch are 25 nm
    for key, value in read.clauses[0].as_json().items():
        if isinstance(want[key], float):
            assert value == pytest.approx(want[key], abs=3e-5), (note, key)
        else:
            _near(value, want[key], note)


def _near(got: Any, want: Any, note: str) -> None:
    if isinstance(want, dict):
        assert set(got) == set(want), note
        for k in want:
            _near(got[k], want[k], note)
    elif isinstance(want, float):
        assert got == pytest.approx(want, abs=3e-5), note
    else:
        assert got == want, note


WORDS = st.sampled_from(
    [
        "Ø6.6",
        "4X",
        "THRU",
        "⌴",
        "Ø11",
        "↧6.8",
        "x",
        "45°",
        "R2",
        "M8",
        "±0.1",
        "25",
        "1.5",
        "H7",
        "BC",
        "ON",
        ",",
        "CSK",
        "DEEP",
        "1 3/8",
        "⏎",
        "REF",
        "HOLES",
        "C1",
        "qq",
        "KEYWAY",
        "GROOVE",
        "WIDE",
        "LONG",
        "5/16-18",
        "UNC",
        "2B",
        "LH",
        "FILLETS",
        "ALL",
        "MAX",
        "BREAK EDGES",
        "UNLESS STATED",
        "TAPER",
        "1:10",
        "DRILL",
        "SF",
        "CHAMFER",
        "EQ SP",
        "(50)",
        "DIN 471 - 25",
        "KNURL RAA 1",
        "CENTRE A2.5",
        "-6g",
        "Tr20x4",
        "G1/8",
        "NPT",
        "3",
        "BOTH ENDS",
        "(=100)",
        "□",
        "RECESS",
        "POCKET",
        "CLEARANCE",
        "FOR M6",
        "DEBURR",
        "BOSS",
        "FLANGE",
        "R7",
        "r6",
        "m6",
        "HARDEN",
        "58 HRC",
        "MATERIAL",
        "POINT",
        "A/F",
        "HEX",
        "DIN 6885",
        "8x7x36",
        "THK",
        "ISO 2768-m",
        "AT 90°",
        "SLOT",
        "TYP",
    ]
)


@settings(max_examples=400)
@given(st.lists(WORDS, min_size=1, max_size=9).map(" ".join), st.sampled_from(["mm", "in"]))
def test_whatever_is_read_is_written_and_read_again(text: str, unit: Any) -> None:
    try:
        meaning = read_note(text.replace("⏎", "\n"), unit)
    except NoteError as exc:
        assert exc.message
        return
    if meaning.clauses and not meaning.unread:
        again = read_note(write_note(meaning), unit)
        assert [c.kind for c in again.clauses] == [c.kind for c in meaning.clauses], (text, write_note(meaning))


@given(st.text(max_size=60))
def test_any_text_is_answered(text: str) -> None:
    try:
        read_note(text)
    except NoteError as exc:
        assert exc.message


@pytest.mark.parametrize(
    ("text", "word", "near"),
    [
        ("Ø6 THROU", "THROU", "THRU"),
        ("Ø6 THRU CSINKK", "CSINKK", ""),
        ("FILETS R2", "FILETS", "FILLETS"),
        ("KEYWY 8x4", "KEYWY", "KEYWAY"),
        ("4X Ø6 EQULLY", "EQULLY", ""),
    ],
)
def test_a_word_nearly_right_is_named_and_not_taken(text: str, word: str, near: str) -> None:
    told = read_note(text).as_json()
    assert word in told["unread"] and not told["ok"]
    if near:
        assert told["nearest"][word].startswith(near[:4])


def test_contradictions_are_refused_and_places_named() -> None:
    for text, words in (
        ("5X 20 (=90)", "is 100, not 90"),
        ("M8-6H ↧16 DRILL ↧12", "not as deep"),
        ("GROOVE 3", "a width"),
        ("KEYWAY", "no width"),
        ("FILLETS", "no size"),
        ("DIN 471 - 26.3", "no ring"),
        ("5/16-19 UNC", "threads an inch"),
        ("M20x5(P2)", "whole number"),
        ("TAPER", "no ratio"),
        ("CHAMFER", "no size"),
        ("SF", "SF|read|diameter"),
        ("#99 DRILL", "not in the tables"),
    ):
        with pytest.raises(NoteError, match=words):
            meaning = read_note(text)
            raise NoteError("SF" if meaning.unread else "was read", hint=str(meaning.clauses))
