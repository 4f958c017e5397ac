"""``lathed-solid fit`` as a user runs it: outputs, exit codes, one line for an error."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from command_line import run

from lathed_solid import scripting as ls
from lathed_solid.files import write_document
from lathed_solid.files.fit_document import read_fit, write_fit


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A plate with a screw in each of three holes; one that fights; a part."""
    folder = tmp_path_factory.mktemp("fits")
    plate = ls.turned(ls.new_part("plate"), [ls.Station(key="A", diameter="100", length="12")])
    plate = ls.hole(plate, "10/face.right", "9", depth=None, places=ls.OnCircle(bolt_circle="70", count=3))
    fit = ls.member(ls.new_fit("bolted"), plate, "plate", held=True)
    fit = ls.member(fit, "hexagon screw M8x30", "screw", placement=(30.0, 40.0, 0.0))
    fit = ls.relate(fit, "share an axis", ("screw", "10/sB"), ("plate", "20/h0.wall"))
    fit = ls.relate(fit, "touch", ("screw", "10/shoulder.A"), ("plate", "10/face.left"))
    write_fit(folder / "bolted.lathed", ls.copies(fit, "screw", "every place"))
    again = ls.relate(fit, "gap", ("screw", "10/shoulder.A"), ("plate", "10/face.left"), size="4")
    write_fit(folder / "fights.lathed", again)
    through = ls.member(fit, "parallel pin 10x40", "pin", placement=(-5.0, 0.0, 0.0))
    write_fit(folder / "through.lathed", through)
    write_document(folder / "part.lathed", plate)
    return folder


def test_build_tells_how_it_stands(files: Path) -> None:
    result = run("fit", "build", files / "bolted.lathed", "--json")
    assert result.returncode == 0, result.stderr
    told = json.loads(result.stdout)
    assert told["state"] == "loose" and len(told["members"]) == 4 and len(told["freedoms"]) == 3
    assert told["freedoms"][0]["words"] == "turns about plate's bore ⌀9" and told["mass"]["mass_g"] > 700
    assert all(len(m["placement"]) == 4 for m in told["members"])
    result = run("fit", "build", files / "fights.lathed")
    assert result.returncode == 1 and "cannot all hold" in result.stdout


def test_prove_finds_what_overlaps(files: Path) -> None:
    good = run("fit", "prove", files / "bolted.lathed", "--json", "--clearance", "screw", "plate",
               "--stack", "plate", "10/face.right", "screw", "10/shoulder.A")  # fmt: skip
    assert good.returncode == 0, good.stdout + good.stderr
    told = json.loads(good.stdout)
    assert told["ok"] and told["overlaps"] == [] and told["clearances"][0]["mm"] < 1e-9
    # from the far face back along the screw's shank: minus the plate's thickness, as modelled
    assert told["stacks"][0]["nominal_mm"] == pytest.approx(-12) and told["fits"][0]["kind"] == "clearance"
    bad = run("fit", "prove", files / "through.lathed")
    assert bad.returncode == 1 and "■ overlap: plate and pin" in bad.stdout


def test_parts_sweep_and_export(files: Path) -> None:
    result = run("fit", "parts", files / "bolted.lathed", "--json")
    rows = json.loads(result.stdout)["parts"]
    assert [(r["count"], r["part"], r["standard"]) for r in rows] == [
        (1, "plate", ""), (3, "hexagon screw M8x30", "hexagon screw M8x30")]  # fmt: skip
    assert run("fit", "parts", files / "bolted.lathed", files / "list.pdf").returncode == 0
    assert (files / "list.pdf").read_bytes()[:5] == b"%PDF-"
    swept = run("fit", "sweep", files / "bolted.lathed", "screw", "--to", "90", "--steps", "3", "--json")
    frames = json.loads(swept.stdout)["frames"]
    assert [f["value"] for f in frames] == pytest.approx([0, 30, 60, 90]) and frames[3]["overlaps"] == []
    assert run("fit", "export", files / "bolted.lathed", files / "out.step").returncode == 0
    assert "AP242" in (files / "out.step").read_text()[:2000]


@pytest.mark.parametrize(("args", "words"), [
    (("build", "nowhere.lathed"), "no such file"), (("build", "part.lathed"), "no fit.json"),
    (("sweep", "bolted.lathed", "plate"), "does not move"), (("sweep", "bolted.lathed", "nobody"), "no member"),
    (("sweep", "fights.lathed", "screw"), "fight"), (("export", "bolted.lathed", "out.obj"), "not known"),
    (("prove", "bolted.lathed", "--clearance", "screw", "nobody"), "no member"),
    (("parts", "bolted.lathed", "list.doc"), "not known"),
])  # fmt: skip
def test_errors_are_one_line(files: Path, args: tuple[str, ...], words: str) -> None:
    command, *rest = args
    told = [str(files / a) if "." in a else a for a in rest]
    result = run("fit", command, *told)
    assert result.returncode == 2 and words in result.stderr and len(result.stderr.strip().splitlines()) == 1


def test_the_demo_is_saved_as_a_fit(tmp_path: Path) -> None:
    assert run("demo", "winch", "--save", tmp_path / "winch.lathed").returncode == 0
    assert len(read_fit(tmp_path / "winch.lathed").members) == 14
    part = run("build", tmp_path / "winch.lathed")
    assert part.returncode == 2 and "no part.json" in part.stderr
