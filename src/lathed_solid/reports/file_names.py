"""Names of parts and faces as names of files."""

from __future__ import annotations

import re
import unicodedata


def slug(name: str) -> str:
    """A part's name as a file's name: letters, digits and dashes only."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    return re.sub(r"[^A-Za-z0-9]+", "-", plain).strip("-").lower()[:60] or "part"
