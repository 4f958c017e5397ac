"""The command line as a user runs it: outputs, exit codes, one line for an error."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from command_line import alone, run

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.files import write_document
from lathed_solid.part import Document

ROOT = Path(__file__).parent.parent


@pytest.fixture(scope="module")
def file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("cli") / "spindle.lathed"
    result = run("demo", "winch-spindle", "--save", path)
    assert result.returncode == 0, result.stderr
    return path


def test_build_json(file: Path) -> None:
    result = run("build", file, "--json")
    assert result.returncode == 0, result.stderr
    data = json.loads(result.stdout)
    assert set(data) == {
        "ok", "unit", "volume_mm3", "area_mm2", "mass_g", "centre_mm", "inertia_g_mm2", "box_mm", "solids", "faces",
        "edges", "steps", "principal_g_mm2", "principal_axes", "inertia_origin_g_mm2",
    }  # fmt: skip
    assert data["ok"] and data["solids"] == 1 and data["mass_g"] == pytest.approx(data["volume_mm3"] * 0.00785)
    assert [(s["number"], s["kind"], s["ok"]) for s in data["steps"]] == [
        (10, "turned", True),
        (20, "hole", True),
        (30, "hole", True),
    ]


def test_what_takes_too_long_is_given_up(file: Path, tmp_path: Path) -> None:
    part = ls.turned(ls.new_part("drum"), [ls.Station(key="A", diameter="400", length="1300")])
    for i in range(40):
        part = ls.hole(part, "10/sA", "6", depth="10", places=ls.Radial(at=str(20 + 30 * i), count=60))
    write_document(tmp_path / "drum.lathed", part)
    result = run("--time-limit", "1.5", "build", tmp_path / "drum.lathed")
    assert result.returncode == 2 and "no answer within 1.5 s" in result.stderr
    several = run("--time-limit", "12", "prove", "--json", "--jobs", "2", file, tmp_path / "drum.lathed", file)
    told = [r.get("error", r.get("name")) for r in json.loads(several.stdout)]
    assert told[0] == told[2] == "Winch spindle" and "no answer within 12 s" in told[1] and several.returncode == 2
    assert run("--time-limit", "-1", "build", file).returncode == 2


def test_prove_json_csv_and_exit_code(file: Path, tmp_path: Path) -> None:
    result = run("prove", file, "--json", "--csv", tmp_path / "v.csv")
    assert result.returncode == 1, result.stderr
    data = json.loads(result.stdout)
    assert data["ok"] is False and data["counts"] == {"in": 29, "near": 0, "out": 1, "no limit": 0, "not found": 0}
    rows: dict[int, Any] = {v["balloon"]: v for v in data["verdicts"]}
    assert rows[9]["verdict"] == "out" and rows[9]["deviation_mm"] == pytest.approx(-0.06)
    assert rows[29]["nominal_deg"] == pytest.approx(118) and "nominal_mm" not in rows[29]
    assert data["mass"]["verdict"] == "in"
    lines = (tmp_path / "v.csv").read_text("utf-8").splitlines()
    assert len(lines) == 31 and lines[0].startswith("balloon,note,meaning,unit")
    told = alone("prove", file)
    assert told.returncode == 1 and "29 in" in told.stdout


def test_new_build_prove_export(tmp_path: Path) -> None:
    part = tmp_path / "bush.lathed"
    assert run("new", part, "--template", "turned").returncode == 0
    assert run("new", part).returncode == 2
    assert run("prove", part).returncode == 0
    for name in ("a.step", "a.stl"):
        assert run("export", part, tmp_path / name).returncode == 0
        assert (tmp_path / name).stat().st_size > 500


def test_propose(tmp_path: Path) -> None:
    out = tmp_path / "first.lathed"
    result = run("propose", SHEETS / "winch-spindle.pdf", out, "--json")
    told = json.loads(result.stdout)
    assert result.returncode == 1 and told["asked"] == [] and told["unplaced"] == ["⌀6 H9 THRU"]
    assert told["rows"][0]["what"] == "station A" and out.exists()
    refused = run("propose", SHEETS / "pedestal.pdf", tmp_path / "no.lathed", "--unit", "in")
    assert refused.returncode == 2 and not (tmp_path / "no.lathed").exists()


def test_note() -> None:
    result = run("note", "4X Ø6.6 THRU ⌴ Ø11 ↧6.8", "--json")
    assert result.returncode == 0
    assert json.loads(result.stdout)["clauses"][0]["cbore"] == {"diameter_mm": 11, "depth_mm": 6.8}
    assert json.loads(run("note", "Ø.5", "--unit", "in", "--json").stdout)["clauses"][0]["diameter_mm"] == 12.7
    assert run("note", "Ø5 WOBBLE").returncode == 1


def test_errors_are_one_line_and_exit_2(file: Path, tmp_path: Path) -> None:
    broken = tmp_path / "broken.lathed"
    broken.write_bytes(file.read_bytes()[:300])
    for args in (
        ("build", tmp_path / "none.lathed"), ("build", broken), ("prove",), ("frobnicate",), ("note", "Ø"),
        ("export", file, tmp_path / "a.xyz"), ("export", file, tmp_path / "no" / "a.step"), ("demo", "nothing"),
        ("open", broken), ("prove", file, "--csv", tmp_path / "no" / "v.csv"), ("new", tmp_path / "no" / "x.lathed"),
    ):  # fmt: skip
        result = run(*args)
        assert result.returncode == 2, args
        assert len(result.stderr.strip().splitlines()) == 1 and "Traceback" not in result.stderr, result.stderr
        assert result.stderr.startswith("lathed-solid: ")


def test_a_failed_step_is_exit_1_and_named(tmp_path: Path) -> None:
    from lathed_solid import scripting as ls

    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="40", length="0")])
    write_document(tmp_path / "rod.json", rod)
    result = run("build", tmp_path / "rod.json", "--json")
    assert result.returncode == 1
    assert "station 1" in json.loads(result.stdout)["steps"][0]["message"]
    assert run("build", tmp_path / "rod.json").returncode == 1
    assert run("export", tmp_path / "rod.json", tmp_path / "x.step").returncode == 2


def test_an_empty_part_builds_to_nothing(tmp_path: Path) -> None:
    write_document(tmp_path / "e.json", Document())
    result = run("build", tmp_path / "e.json", "--json")
    assert result.returncode == 1 and json.loads(result.stdout)["solids"] == 0


def test_without_a_display_the_window_says_so(file: Path) -> None:
    pytest.importorskip("PyQt6")
    result = alone("open", file)
    assert result.returncode == 2 and "no X display" in result.stderr


def test_the_scripting_page_runs(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """docs/scripting.md: its Python blocks, in order, in one namespace."""
    blocks = re.findall(r"```python\n(.*?)```", (ROOT / "docs" / "scripting.md").read_text("utf-8"), re.S)
    assert len(blocks) >= 4
    monkeypatch.chdir(tmp_path)
    space: dict[str, Any] = {}
    for block in blocks:
        exec(compile(block, "docs/scripting.md", "exec"), space)
    assert space["report"].counts["out"] == 0 and (tmp_path / "bush.step").exists()


def test_compare_tells_what_changed(tmp_path: Path) -> None:
    old = DEMOS["crank-hub"]()
    new = ls.change_callout(old, 3, nominal=40.0)
    write_document(tmp_path / "old.lathed", old)
    write_document(tmp_path / "new.lathed", new)
    result = run("compare", tmp_path / "old.lathed", tmp_path / "new.lathed", "--json")
    data = json.loads(result.stdout)
    assert result.returncode == 1 and not data["ok"]
    assert [d["what"] for d in data["differences"]] == ["callout 3 nominal"]
    assert "10/sB" in data["faces"]["changed"] and not data["faces"]["added"] and not data["faces"]["removed"]
    assert data["mass_g"][1] > data["mass_g"][0]
    result = run("compare", tmp_path / "old.lathed", tmp_path / "old.lathed")
    assert result.returncode == 0 and "nothing differs" in result.stdout


def test_a_note_is_read_without_what_the_geometry_needs() -> None:
    """A short command starts quickly: it imports what it needs and nothing else of weight."""
    said = "import sys; from lathed_solid.cli import main\ntry: main()\nexcept SystemExit: pass\nprint(*sys.modules)"
    ran = subprocess.run([sys.executable, "-c", said, "note", "4X Ø6.6 THRU"], capture_output=True, encoding="utf-8",
                         timeout=60, env=os.environ | {"PYTHONUTF8": "1"})  # fmt: skip
    assert ran.returncode == 0 and "four through holes" in ran.stdout
    loaded = {name.partition(".")[0] for name in ran.stdout.split()}
    assert not loaded & {"numpy", "scipy", "OCP", "PyQt6", "PIL", "reportlab", "ezdxf", "rich"}
    assert "lathed_solid.files" not in ran.stdout.split() and "lathed_solid.part" not in ran.stdout.split()
