"""The guide as a file's bytes, by its ending."""

from __future__ import annotations

from lathed_solid.errors import LathedError


def written(ending: str) -> bytes:
    """HTML or PDF. Raises LathedError for another ending."""
    if ending.lower() == ".pdf":
        from lathed_solid.guide.pdf import guide_pdf

        return guide_pdf()
    if ending.lower() in (".html", ".htm"):
        from lathed_solid.guide.html import whole

        return whole().encode("utf-8")
    raise LathedError("the guide is written as HTML or PDF", received=ending, hint="guide.html, or guide.pdf")
