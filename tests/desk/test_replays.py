"""Sketches of the practice parts drawn by real events: held, areas by closed forms, entries counted."""

from __future__ import annotations

from pathlib import Path

import pytest
from driving.hand import Hand
from driving.replay import REPLAYS, ReplayError, play, play_all
from effort import LONG, some

#: entries a dimension, on the average of a part's sketches and in the worst sketch
EACH, WORST = 3.0, 4.0
#: the same for whole parts, from empty to proven
WHOLE, WHOLE_WORST = 4.0, 6.0


@pytest.mark.parametrize("part", some(["1", "2", "3", "4", "5", "7"], 1))
def test_a_practice_part_s_sketches_take_three_entries_a_dimension(part: str) -> None:
    played = play_all(sorted(REPLAYS.glob(f"{part}_*.txt")))
    assert played and all(p.each <= WORST for p in played), played
    entries, dimensions = sum(p.total for p in played), sum(p.dimensions for p in played)
    assert entries <= EACH * dimensions, f"{entries} entries for {dimensions} dimensions"


@pytest.mark.timeout(420)  # nine parts by real events take three minutes on a slow machine; two of them without LONG
def test_practice_parts_from_empty_to_proven_take_four_entries_a_dimension() -> None:
    """On the average; none above six. Every callout is in (the replay says so), and there is no step back."""
    parts = sorted((REPLAYS / "parts").glob("*.txt"))
    assert len(parts) == 9
    played = play_all(parts if LONG else [p for p in parts if p.name[0] in "15"])
    assert all(p.each <= WHOLE_WORST for p in played), played
    entries, dimensions = sum(p.total for p in played), sum(p.dimensions for p in played)
    assert entries <= WHOLE * dimensions, f"{entries} entries for {dimensions} dimensions"


def test_a_replay_says_which_line_failed_and_how(tmp_path: Path) -> None:
    wrong = tmp_path / "wrong.txt"
    wrong.write_text(
        "press Ctrl+K C\nat 0 0\npoint 10 0\nenter 20\nsee diameter 1\nareas of stop_bracket_rib\n", "utf-8"
    )
    with pytest.raises(ReplayError, match=r"wrong.txt:6: areas of stop_bracket_rib: the regions are \[314\.15"):
        play(wrong)


def test_the_window_tells_only_what_it_is_asked_and_changes_nothing() -> None:
    with Hand("demo") as hand:
        before = hand.ask("document")
        assert hand.ask("status")["desk"] == "shape"
        assert any(w["text"] == "ROUTE" for w in hand.ask("widgets"))
        for bad in ("close", "document.clear", "__class__"):
            with pytest.raises(RuntimeError, match="KeyError"):
                hand.ask(bad)
        with pytest.raises(RuntimeError, match="TypeError"):
            hand.ask("status", path="x")
        assert hand.ask("document") == before
