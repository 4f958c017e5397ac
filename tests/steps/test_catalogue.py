"""A kind of step is a row of the catalogue and three modules of its name, and nothing else."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import pytest

from lathed_solid.kernel.builders import builder_of
from lathed_solid.part.steps import KINDS
from lathed_solid.part.steps.catalogue import CATALOGUE

ROOT = Path(__file__).parents[2]
sys.path.insert(0, str(ROOT / "tools"))

import pages  # noqa: E402


@pytest.mark.parametrize("kind", sorted(CATALOGUE))
def test_every_row_has_its_class_and_its_builder(kind: str) -> None:
    row, cls = CATALOGUE[kind], KINDS[kind]
    assert cls.__name__ == row.cls and cls.model_fields["kind"].default == kind
    assert cls.__module__ == f"lathed_solid.part.steps.{kind}"
    assert (builder_of(kind) is None) == (kind == "sketch")
    assert row.breaks + row.begins_body < 2


SAMPLE = {
    "part_steps/lift.py": '''
"""A sample: the first body moved up."""

from typing import Any, Literal

from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase


class LiftStep(StepBase):
    kind: Literal["lift"] = "lift"
    by: Cell = "5"

    def fields(self) -> tuple[FieldOf, ...]:
        return (FieldOf("by", self.by, "length", None),)

    def resolve(self, evaluate: Any) -> float:
        return Reader(evaluate).size("by", self.by)
''',
    "builders/lift.py": """
from OCP.gp import gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.names import moved


def build_lift(parts, by, number):
    up = gp_Trsf()
    up.SetTranslation(gp_Vec(0, 0, by))
    first = min(parts.bodies)
    return parts.with_body(first, moved(parts.bodies[first], TopLoc_Location(up), lambda a: a))
""",
    "step_forms/lift.py": """
from lathed_solid.workbench.step_forms.begin import small
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (FormRow("by", "upwards"),)
BEGIN = (lambda d, _picked: {"by": small(d, "3", "1/8")},)
""",
}


def test_a_sample_kind_is_three_files_and_a_row_and_shows_everywhere(tmp_path: Path) -> None:
    for name, text in SAMPLE.items():
        file = tmp_path / name
        file.parent.mkdir(exist_ok=True)
        file.write_text(text)
    done = subprocess.run(
        [sys.executable, str(Path(__file__).with_name("sample_kind.py")), str(tmp_path)],
        capture_output=True, text=True, timeout=120, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    told = json.loads(done.stdout.splitlines()[-1])
    assert told.pop("centre") == pytest.approx(4 / 2 + 7)
    assert told == {
        "menu": "Lift the first body", "note line": "Lift the first body", "completion": ["Lift the first body"],
        "form": ["upwards"], "schema": "5", "page": ['| `lift` | `by`=`"5"` |'], "begun": "3",
    }  # fmt: skip


def test_the_scripting_page_lists_every_kind() -> None:
    text = (ROOT / "docs" / "scripting.md").read_text("utf-8")
    assert pages.filled(text, "step kinds", pages.step_kinds()) == text, "python tools/pages.py writes it anew"
    assert all(f"| `{kind}` |" in text for kind in CATALOGUE)
    with pytest.raises(ValueError, match="no one place"):
        pages.filled("no marks", "step kinds", "")
