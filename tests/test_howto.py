"""The pages of docs/howto against the registries that they speak of."""

from __future__ import annotations

import csv
import re
import typing
from pathlib import Path

import pytest

from lathed_solid.engine import protocol
from lathed_solid.engine.handlers import HANDLERS
from lathed_solid.kernel.measure import WAYS
from lathed_solid.ledger import probe
from lathed_solid.ledger.dimensions import _WAYS as DIMENSIONS
from lathed_solid.notation.clauses import ClauseKind
from lathed_solid.notation.families import FAMILIES, READS
from lathed_solid.notation.write import _Pen
from lathed_solid.part.steps.catalogue import CATALOGUE
from lathed_solid.standards.csv_tables import DATA
from lathed_solid.workbench.step_forms import FORMS

ROOT = Path(__file__).parents[1]
PAGES = sorted((ROOT / "docs" / "howto").glob("*.md"))
PACKAGE = ROOT / "src" / "lathed_solid"


@pytest.mark.parametrize("page", PAGES, ids=lambda p: p.stem)
def test_every_path_that_a_page_names_is_there(page: Path) -> None:
    named = re.findall(r"`((?:src|tests|docs|tools)/[\w/.]*|[\w]+\.(?:lark|csv))`", page.read_text("utf-8"))
    assert len(named) >= 3
    missing = [n for n in named if "NAME" not in n and not (ROOT / n).exists()]
    assert missing == []


def test_the_six_pages() -> None:
    assert [p.stem for p in PAGES] == ["drive", "note", "probe", "request", "step", "table"]


@pytest.mark.parametrize("kind", sorted(CATALOGUE))
def test_a_step_is_where_the_page_says(kind: str) -> None:
    row = CATALOGUE[kind]
    assert (PACKAGE / "part" / "steps" / f"{kind}.py").exists()
    assert not row.built_by or (PACKAGE / "kernel" / "builders" / f"{row.built_by}.py").exists()
    assert (kind in FORMS) == (PACKAGE / "workbench" / "step_forms" / f"{kind}.py").exists() or not row.form


def test_every_clause_is_begun_by_one_family_told_in_words_and_written() -> None:
    kinds = [k for family in FAMILIES for k in family.READS]
    assert sorted(kinds) == sorted(READS) and len(kinds) == len(set(kinds))
    words = (PACKAGE / "notation" / "words.txt").read_text("utf-8")
    phrases = (PACKAGE / "notation" / "phrases.py").read_text("utf-8") + (PACKAGE / "notation" / "kinds.py").read_text()
    assert [k for k in READS if not re.search(rf"^{k} |\"{k}\"", words + phrases, re.M)] == []
    clauses = set(typing.get_args(ClauseKind))
    assert set(DIMENSIONS) == clauses
    assert [k for k in clauses - {"angle"} if not hasattr(_Pen, k)] == []


@pytest.mark.parametrize("table", sorted(DATA.glob("*.csv")), ids=lambda p: p.stem)
def test_every_row_of_a_table_says_its_source_and_somebody_reads_it(table: Path) -> None:
    with table.open(encoding="utf-8", newline="") as handle:
        found = list(csv.DictReader(handle))
    assert found and all(row["source"].strip() for row in found)
    readers = (p.read_text("utf-8") for p in (PACKAGE).rglob("*.py"))
    assert any(f'rows("{table.stem}")' in text or f'"{table.stem}"' in text for text in readers)


def test_every_probe_is_told_in_the_table_and_measured() -> None:
    kinds = set(typing.get_args(probe.ProbeKind))
    told = set()
    for line in (probe.__doc__ or "").splitlines():
        if line.startswith("| ") and not line.startswith("| kind"):
            cell = line.split("|")[1].replace("place_x, _y", "place_x, place_y")
            for name in filter(str.strip, cell.split(",")):
                told.add(name.strip())
    assert kinds == told
    # the others are sizes of real threads and of copies, which are measured by whole bodies
    assert kinds - set(WAYS) == {"spacing", "pitch", "real_major", "real_length"}
    assert set(WAYS) <= kinds


def test_every_request_has_a_handler_and_every_answer_a_name_of_its_own() -> None:
    requests = typing.get_args(typing.get_args(protocol.Request)[0])
    answers = typing.get_args(typing.get_args(protocol.Answer)[0])
    assert set(HANDLERS) == set(requests)
    for union, tag in ((requests, "op"), (answers, "kind")):
        names = [c.model_fields[tag].default for c in union]
        assert len(names) == len(set(names))
        assert all(c.__doc__ or c is protocol.Exported for c in union)
