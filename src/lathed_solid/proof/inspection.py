"""The inspection sheet's content: every callout with its limits, the model's value, and the real part's by its reading.

The decision rule stated on the sheet (after ISO 14253-1, with U the expanded uncertainty of the reading, k = 2):

    in    the value keeps its limits by at least U      near    it lies within U of a limit      out    beyond by more
"""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass
from typing import Any

from lathed_solid.part import Document
from lathed_solid.proof.report import Report
from lathed_solid.proof.verdicts import Verdict, VerdictRow, judge

RULE = (
    "in: the value keeps its limits by at least its expanded uncertainty U (k = 2); near: it lies within U of a limit; "
    "out: it is beyond by more. The model's own values carry no uncertainty, unless modelled as measured."
)
CAUTIONS = (
    "Measure with the spindle stopped, the part clamped and deburred. A model from worn parts is no release for "
    "pressure, lifting or life-safety use; local codes and licensed practice decide."
)


@dataclass(frozen=True)
class InspectionRow:
    """A callout's proof, and the real part's: ``part`` mm with its ``uncertainty``, and the verdict; None: not read."""

    row: VerdictRow
    way: str
    part: float | None
    uncertainty: float | None
    verdict: Verdict | None

    def as_json(self) -> dict[str, Any]:
        """The model's verdict, and the part's reading beside it; mm."""
        part = {"way": self.way, "mean_mm": self.part, "uncertainty_mm": self.uncertainty, "verdict": self.verdict}
        return {**self.row.as_json(), "part": part if self.part is not None else None}


def inspection_rows(document: Document, report: Report) -> tuple[InspectionRow, ...]:
    """One row a callout; readings are judged against the same limits as the model."""
    out = []
    for row in report.rows:
        reading = document.reading(row.balloon)
        if reading is None:
            out.append(InspectionRow(row, "", None, None, None))
            continue
        verdict = judge(reading.mean, row.low, row.high, reading.uncertainty)
        out.append(InspectionRow(row, reading.way, reading.mean, reading.uncertainty, verdict))
    return tuple(out)


def document_hash(document: Document) -> str:
    """SHA-256 of the document's canonical JSON: which state of the part a sheet speaks of."""
    text = json.dumps(document.model_dump(mode="json"), sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def inspection_json(document: Document, report: Report) -> dict[str, Any]:
    """The stable shape of ``lathed-solid inspect PART OUT.json``."""
    rows = inspection_rows(document, report)
    told = [r.verdict for r in rows if r.verdict is not None]
    return {
        "part": document.name,
        "material": document.material,
        "general": str(document.general),
        "document_sha256": document_hash(document),
        "rule": RULE,
        "rows": [r.as_json() for r in rows],
        "model": dict(report.counts),
        "readings": {v: told.count(v) for v in ("in", "near", "out")},
        "mass": None if report.mass is None else report.mass.as_json(),
    }
