"""A disputed note: what the drawing says is kept beside the decision, through edits, files and sheets."""

from __future__ import annotations

import csv
import io
from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.files import read_document, write_document
from lathed_solid.part import Document, edits
from lathed_solid.proof import VerdictRow
from lathed_solid.reports.verdict_csv import COLUMNS, verdict_cells

REASON = "the bore was measured twice, the office agreed"


def disputed() -> Document:
    document = edits.add_note(ls.new_part("Ferry bell yoke"), "⌀20H7")
    return edits.redress(edits.add_note(document, "⌀32"), 1, "⌀22H7", REASON)


def test_the_decision_is_modelled_and_the_drawing_is_kept() -> None:
    document = disputed()
    assert document.callout(1).nominal == 22 and document.callout(2).nominal == 32
    assert document.decided(1) == f"the drawing says ⌀20H7: {REASON}" and document.decided(2) == ""


def test_it_stays_while_the_ledger_is_worked_on_and_saved(tmp_path: Path) -> None:
    document = edits.put_callout(disputed(), edits.changed(disputed().callout(1), drive="middle"))
    document = edits.drop_callout(edits.add_note(document, "4x ⌀6.6 THRU"), 2)
    document = edits.edit_note(document, 1, "⌀22H8")
    assert document.decided(1).startswith("the drawing says ⌀20H7"), "a later text does not become the drawing's"
    write_document(tmp_path / "a.lathed", document)
    assert read_document(tmp_path / "a.lathed") == document


def test_a_second_decision_keeps_the_drawing_and_its_own_text_takes_it_back() -> None:
    second = edits.redress(disputed(), 1, "⌀22.5", "turned once more")
    assert second.decided(1) == "the drawing says ⌀20H7: turned once more" and second.callout(1).nominal == 22.5
    back = edits.redress(second, 1, " ⌀20H7 ", "")
    assert back.decided(1) == "" and back.callout(1).nominal == 20


@pytest.mark.parametrize(("balloon", "text", "reason", "words"), [
    (1, "⌀22", "  ", "needs its reason"), (9, "⌀22", REASON, "no callout 9"), (1, "⌀⌀", REASON, "⌀"),
    (1, "⌀22", "x" * 600, "500"),
])  # fmt: skip
def test_a_decision_without_ground_or_sense_is_refused(balloon: int, text: str, reason: str, words: str) -> None:
    from lathed_solid.errors import LathedError

    with pytest.raises(LathedError, match=words):
        edits.redress(disputed(), balloon, text, reason)


def test_the_verdict_carries_it_into_tables() -> None:
    row = VerdictRow(balloon=1, note="⌀22H7", meaning="diameter", kind="diameter", nominal=22, low=22, high=22.021,
                     limits_source="H7", uncertainty=0, measured=22, verdict="in",
                     redress=disputed().decided(1))  # fmt: skip
    out = io.StringIO()
    csv.writer(out).writerow(verdict_cells(row, "mm"))
    assert dict(zip(COLUMNS, next(csv.reader([out.getvalue()])), strict=True))["decided"] == disputed().decided(1)
    assert row.as_json()["redress"] == disputed().decided(1)
