"""Shared helpers: parts made by the scripting interface, and a state folder that is thrown away."""

from __future__ import annotations

import os
from collections.abc import Iterator
from importlib.util import find_spec
from pathlib import Path

import pytest
from command_line import lend
from hypothesis import HealthCheck, settings
from sheets_read_here import read_here

from lathed_solid.demo import DEMOS
from lathed_solid.part import Document

#: the suite says the same twice; HYPOTHESIS_PROFILE=search looks where it has not looked before
for _name, _same in (("suite", True), ("search", False)):
    settings.register_profile(
        _name, deadline=None, max_examples=60, derandomize=_same, suppress_health_check=[HealthCheck.too_slow]
    )
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "suite"))


@pytest.fixture(autouse=True, scope="session")
def one_worker() -> None:
    """Commands that are run in the process of a test share one worker; sheets are read in it where no window is."""
    lend()
    if find_spec("PyQt6") is None:
        read_here()


@pytest.fixture(autouse=True)
def own_folders(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Settings, journal and log of a test are its own."""
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    os.environ.pop("LATHED_SOLID_TEST", None)
    yield


@pytest.fixture(scope="session")
def spindle() -> Document:
    return DEMOS["winch-spindle"]()
