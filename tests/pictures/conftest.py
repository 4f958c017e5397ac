"""The demo's pictures, each read once: it takes the networks a quarter of a minute."""

from __future__ import annotations

import pytest

from lathed_solid.demo.sheets import SHEETS
from lathed_solid.sheets.client import SheetPage, read_page


@pytest.fixture(scope="session")
def scan() -> SheetPage:
    """The pedestal's sheet, scanned."""
    pytest.importorskip("rapidocr")
    return read_page(SHEETS / "pedestal-scan.jpg", 1, "in")


@pytest.fixture(scope="session")
def photograph() -> SheetPage:
    """The spindle's sheet, photographed."""
    pytest.importorskip("rapidocr")
    return read_page(SHEETS / "winch-spindle-photo.jpg", 1, "mm")
