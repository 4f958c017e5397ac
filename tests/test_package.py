"""The hand-over package: complete, hashed, the same again; what is not whole is not handed over."""

from __future__ import annotations

import hashlib
import json
import zipfile
from pathlib import Path

import pytest
from click.testing import CliRunner

pytest.importorskip("OCP")

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.files import read_document, write_document
from lathed_solid.proof.mass import MassVerdict
from lathed_solid.proof.report import Relation, Report, Standing
from lathed_solid.reports.file_names import slug
from lathed_solid.reports.status import status_of


def test_the_package_of_the_spindle(tmp_path: Path) -> None:
    document = DEMOS["winch-spindle"]()
    write_document(tmp_path / "s.lathed", document)
    run = CliRunner().invoke(cli, ["handover", str(tmp_path / "s.lathed"), str(tmp_path / "s.zip")],
                             standalone_mode=False)  # fmt: skip
    assert run.return_value == 1, run.output  # one callout of the demo is out
    with zipfile.ZipFile(tmp_path / "s.zip") as archive:
        assert archive.testzip() is None
        told = json.loads(archive.read("manifest.json"))
        names = set(archive.namelist())
        assert names == {f["name"] for f in told["files"]} | {"manifest.json"}
        for f in told["files"]:
            data = archive.read(f["name"])
            assert hashlib.sha256(data).hexdigest() == f["sha256"] and len(data) == f["bytes"] > 0
        archive.extractall(tmp_path / "out")
    assert told["status"] == "NOT PROVEN: 1 out"
    endings = sorted(n.removeprefix("winch-spindle") for n in names if n != "manifest.json")
    assert endings == sorted([".lathed", ".step", ".stl", ".3mf", ".glb", "-inspection.pdf", "-inspection.csv",
                              "-drawing.pdf", "-drawing.dxf", "-machinist.pdf", "-machinist.csv",
                              "-machinist.json"])  # fmt: skip
    assert read_document(tmp_path / "out" / "winch-spindle.lathed") == document


def test_what_is_not_whole_is_not_handed_over(tmp_path: Path) -> None:
    part = ls.turned(ls.new_part("bad"), [ls.Station(key="A", diameter="20", length="30")])
    part = ls.step(part, "fillet", radius="900", pick=ls.EdgePick(edges=("10/sA|10/face.left",)))
    write_document(tmp_path / "bad.lathed", part)
    run = CliRunner().invoke(cli, ["handover", str(tmp_path / "bad.lathed"), str(tmp_path / "bad.zip")])
    assert run.exit_code != 0 and not (tmp_path / "bad.zip").exists()
    good = ls.turned(ls.new_part("good"), [ls.Station(key="A", diameter="20", length="30")])
    write_document(tmp_path / "good.lathed", good)
    nowhere = tmp_path / "nowhere" / "x.zip"
    run = CliRunner().invoke(cli, ["handover", str(tmp_path / "good.lathed"), str(nowhere)])
    assert run.exit_code != 0


@pytest.mark.parametrize(("name", "file"), [
    ("Winch spindle", "winch-spindle"), ("../../etc/passwd", "etc-passwd"), ("Wälzkörper ⌀ 20", "walzkorper-20"),
    ("数", "part"), ("a" * 200, "a" * 60), ("CON.", "con"), ("-x-", "x"),
])  # fmt: skip
def test_names_of_files(name: str, file: str) -> None:
    assert slug(name) == file


@pytest.mark.parametrize(("report", "words"), [
    (Report(rows=(), mass=None, complete=True), ""),
    (Report(rows=(), mass=None, complete=False), "NOT PROVEN: the model is not complete"),
    (Report(rows=(), mass=MassVerdict(material="steel", density_source="", density_g_mm3=0.00785, model=100.0, low=99.0,
                                      high=101.0, stated=80.0, source="scale", band=1.0, verdict="out"), complete=True),
     "NOT PROVEN: the mass is out"),
    (Report(rows=(), mass=None, complete=True,
            relations=(Relation(kind="parallel", faces=("10/a", "10/b"), deviation=0.1, unit="rad"),)),
     "NOT PROVEN: 1 relation not held"),
    (Report(rows=(), mass=None, complete=True, standing=(Standing(body=10, pieces=2, meant=False),
                                                         Standing(body=20, pieces=2, meant=True))),
     "NOT PROVEN: 1 body in pieces"),
])  # fmt: skip
def test_sheets_say_whatever_keeps_a_part_from_being_proven(report: Report, words: str) -> None:
    assert status_of(report) == words
    assert report.ok == (not words)
