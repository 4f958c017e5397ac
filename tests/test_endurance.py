"""Short campaigns of endurance; the long ones are commands in ``bench/endurance``."""

from __future__ import annotations

import pytest
from effort import LONG
from endurance import full_disk, kills, mutations, texts


def test_what_was_committed_before_a_kill_comes_back() -> None:
    found = kills.campaign(6, 41, while_taking_over=3)
    assert found.lost == [] and found.kills > 6 and found.edits > 40


def test_files_changed_at_random_are_refused_in_words_or_saved_alike(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(mutations, "MAX_S", 120.0)  # how long it takes is measured by the campaign itself
    files = 80 if LONG else 48
    found = mutations.campaign(files, 43, build=2)
    assert found.wrong == [] and found.files == files and found.opened > files // 2 and found.built == 2


def test_no_reader_of_text_hangs_or_breaks(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(texts, "MAX_S", 1.0)  # how long it takes is measured by the campaign itself
    read, bad = texts.campaign(2 if LONG else 1, 47, every=1 if LONG else 3)
    assert bad == [] and read > 2000


def test_a_full_disk_leaves_the_old_file_and_loses_no_edit() -> None:
    refused, lost = full_disk.campaign(12, 53)
    assert lost == [] and refused
