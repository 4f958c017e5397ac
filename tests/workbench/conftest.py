"""A workbench with everything about it faked, holding the demo spindle."""

from __future__ import annotations

from pathlib import Path

import pytest

from lathed_solid.part import Document

from .fakes import Rig


@pytest.fixture
def rig(tmp_path: Path, spindle: Document) -> Rig:
    """The demo spindle on a workbench, built."""
    made = Rig(tmp_path, spindle)
    made.settle()
    return made
