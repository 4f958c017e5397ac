"""The faults that the night's run plants still fit the sources: each stands where it says, once, and has its tests."""

from __future__ import annotations

import shutil
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tools"))

from plant_faults import FAULTS, SOURCES, Fault, planted  # noqa: E402


@pytest.mark.parametrize("fault", FAULTS, ids=lambda f: f.name)
def test_a_fault_can_be_planted(fault: Fault, tmp_path: Path) -> None:
    file = tmp_path / "lathed_solid" / fault.file
    file.parent.mkdir(parents=True)
    shutil.copy(SOURCES / fault.file, file)
    whole = planted(fault, tmp_path)
    assert file.read_text("utf-8") != whole
    compile(file.read_text("utf-8"), fault.file, "exec")
    assert all((ROOT / name).exists() for name in fault.tests.split())


def test_a_fault_that_does_not_fit_is_told(tmp_path: Path) -> None:
    file = tmp_path / "lathed_solid" / "a.py"
    file.parent.mkdir(parents=True)
    file.write_text("x = 1\nx = 1\n")
    with pytest.raises(ValueError, match="stands 2 times"):
        planted(Fault("twice", "a.py", "x = 1", "x = 2", "tests"), tmp_path)
