"""The drawings of the demo parts, which ship beside them: laid with a part, every callout's balloon at its note."""

from __future__ import annotations

import json
from pathlib import Path

from lathed_solid.files.attachments import keep_sheet
from lathed_solid.ledger import SheetPlace, Span
from lathed_solid.part import Document, Sheet
from lathed_solid.part.edits import with_callouts

SHEETS = Path(__file__).parent / "sheets"


def on_its_sheet(part: Document, name: str, title: str) -> Document:
    """The part with the PDF ``name`` laid beside it as ``title``; its callouts get their places and spans."""
    sheet = SHEETS / f"{name}.pdf"
    told = json.loads((SHEETS / f"{name}.json").read_text("utf-8"))
    callouts = []
    for c in part.callouts:
        at, span = told["places"].get(str(c.balloon)), told["spans"].get(str(c.balloon))
        values = {"place": SheetPlace(x=at[0], y=at[1])} if at else {}
        if span is not None:
            along, start, end, alike = span
            values["span"] = Span(along=along, start=start, end=end, symmetric=alike)  # type: ignore[assignment]
        callouts.append(c.model_copy(update=values))
    kept = Sheet(name=f"{title}.pdf", file=keep_sheet(sheet.read_bytes(), sheet))
    return with_callouts(part, callouts).model_copy(update={"sheets": (kept,)})
