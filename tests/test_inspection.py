"""The inspection sheet read back, the part's own verdicts, and many files proven at once."""

from __future__ import annotations

import csv
import io
import json
import math
from pathlib import Path

import pypdfium2
import pytest
from click.testing import CliRunner

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.engine.rebuild import Engine
from lathed_solid.files import FileError
from lathed_solid.kernel.views import views
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.proof.inspection import document_hash, inspection_json, inspection_rows
from lathed_solid.reports.inspection import inspection_csv, inspection_pdf, write_inspection

Proven = tuple[Document, Report, list[dict[str, object]]]


@pytest.fixture(scope="module")
def proven() -> Proven:

    part = DEMOS["winch-spindle"]()
    report = ls.prove(part)
    body = Engine().build(part).body
    assert body is not None
    return part, report, list(views(body, report.rows))


def test_views_are_the_outlines_that_the_table_says(proven: Proven) -> None:
    """Front: from 0 to 198 along the axis, 36 to either side; right: a circle of the flange and its four holes."""
    _part, report, found = proven
    front, top, right, _iso = found
    for view in (front, top):
        xs = [v for k in view.lines for v in (k[0], k[2])]
        ys = [v for k in view.lines for v in (k[1], k[3])]
        assert (min(xs), max(xs)) == pytest.approx((0, 198), abs=0.3)
        assert (min(ys), max(ys)) == pytest.approx((-36, 36), abs=0.3)
    radii = {round(math.hypot(k[0], k[1]), 1) for k in right.lines}
    assert any(abs(r - 36) < 0.2 for r in radii) and max(radii) < 36.3
    told = {b[0]: b[1:] for v in found for b in v.balloons}
    assert set(told) == {r.balloon for r in report.rows if r.faces}
    holes = {b[0] for b in right.balloons}
    assert {21, 22, 24} <= holes and math.hypot(*told[21]) == pytest.approx(26, abs=0.1)


def test_the_sheet_reads_back_with_the_parts_own_verdicts(proven: Proven) -> None:
    part, report, found = proven
    rows = {r.row.balloon: r for r in inspection_rows(part, report)}
    # the worn seat: 24.94 +- 0.025 against 24.987 .. 25.000; its twin 24.993 lies within U of both limits
    assert rows[9].verdict == "out" and rows[3].verdict == "near" and rows[5].verdict == "in" and rows[14].part is None
    pdf = pypdfium2.PdfDocument(inspection_pdf(part, report, found))
    text = "".join(pdf[i].get_textpage().get_text_range() for i in range(len(pdf)))
    assert len(pdf) == 3 and "INSPECTION SHEET" in text and "Winch spindle" in text
    assert document_hash(part) in text and "24.940" in text and "± 0.025" in text
    assert "near: it lies within U of a limit" in text and "no release for" in text and "1182 g" in text
    blank = pypdfium2.PdfDocument(inspection_pdf(part, report, blank=True))
    empty = "".join(blank[i].get_textpage().get_text_range() for i in range(len(blank)))
    assert "± 0.025" not in empty and "M20x1.5-6g" in empty and len(blank) == 2
    table = list(csv.DictReader(io.StringIO(inspection_csv(part, report))))
    nine = next(r for r in table if r["balloon"] == "9")
    assert (nine["part"], nine["part_verdict"], nine["way"]) == ("24.94000", "out", "outside")
    told = inspection_json(part, report)
    by_hand = 2 * math.sqrt(0.01**2 / 12 + 0.02**2 / 3 + (2e-4 / 3) / 4)
    assert told["readings"]["out"] == 1 and told["rows"][8]["part"]["uncertainty_mm"] == pytest.approx(by_hand)


def test_the_hash_tells_states_apart_and_endings_are_known(proven: Proven, tmp_path: Path) -> None:
    part, report, _ = proven
    assert document_hash(part) == document_hash(DEMOS["winch-spindle"]())
    assert document_hash(ls.change_callout(part, 5, nominal=32.5)) != document_hash(part)
    with pytest.raises(FileError, match="the ending is not known"):
        write_inspection(tmp_path / "a.doc", part, report)
    with pytest.raises(FileError):
        write_inspection(tmp_path / "nowhere" / "a.pdf", part, report)


def test_many_files_are_proven_at_once_with_one_summary(tmp_path: Path) -> None:
    for n, d in enumerate((20, 30, 40)):
        part = ls.note(ls.new_part(f"pin {d}"), f"Ø{d}", 1)
        part = ls.turned(part, [ls.Station(key="A", diameter="#1" if n < 2 else "41", length="20")])
        ls.write_document(tmp_path / f"{n}.lathed", part)
    (tmp_path / "3.lathed").write_text("no part")
    files = [str(tmp_path / f"{n}.lathed") for n in range(4)]
    run = CliRunner().invoke(cli, ["prove", *files[:2], "--jobs", "2"], standalone_mode=False)
    assert run.return_value == 0 and "2 proven, 0 not, 0 with errors" in run.output
    run = CliRunner().invoke(cli, ["prove", *files, "--jobs", "2", "--json"], standalone_mode=False)
    told = json.loads(run.output)
    assert run.return_value == 2 and [r.get("ok") for r in told] == [True, True, False, None] and "error" in told[3]
    run = CliRunner().invoke(cli, ["inspect", files[0], str(tmp_path / "out.pdf")], standalone_mode=False)
    assert run.return_value == 0 and (tmp_path / "out.pdf").read_bytes().startswith(b"%PDF")
