"""The guide as a file's bytes, by its ending."""

from __future__ import annotations

from lathed_solid.errors import LathedError
from lathed_solid.guide.edition import ENGLISH, Edition


def written(ending: str, edition: Edition = ENGLISH) -> bytes:
    """HTML or PDF. Raises LathedError for another ending."""
    if ending.lower() == ".pdf":
        from lathed_solid.guide.pdf import guide_pdf

        return guide_pdf(edition)
    if ending.lower() in (".html", ".htm"):
        from lathed_solid.guide.html import whole

        return whole(edition).encode("utf-8")
    raise LathedError("the guide is written as HTML or PDF", received=ending, hint="guide.html, or guide.pdf")
