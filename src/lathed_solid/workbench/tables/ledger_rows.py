"""The ledger's rows: one a callout, with its limits in words and its verdict."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from lathed_solid.ledger import Callout
from lathed_solid.part import Document
from lathed_solid.proof import Report, VerdictRow
from lathed_solid.workbench.describe import limits_text, shown_deviation, shown_value
from lathed_solid.workbench.tables.column import Column


@dataclass(frozen=True)
class LedgerRow:
    """A callout with its limits in words and its verdict, if proven yet."""

    callout: Callout
    limits: str
    verdict: VerdictRow | None
    #: the decision against the drawing that its note is, in words
    decided: str = ""

    @property
    def balloon(self) -> int:
        """Of its callout."""
        return self.callout.balloon


def ledger_rows(document: Document, report: Report | None) -> tuple[LedgerRow, ...]:
    """Rows in balloon order."""
    rows = {r.balloon: r for r in report.rows} if report is not None else {}
    return tuple(
        LedgerRow(c, limits_text(c, document.limits(c)), rows.get(c.balloon), document.decided(c.balloon))
        for c in document.callouts
    )


def verdict_columns() -> list[Column]:
    """Measured, deviation, verdict: shared by the drawer and the Prove desk."""

    def of(row: LedgerRow, show: Callable[[VerdictRow], str]) -> str:
        return show(row.verdict) if row.verdict is not None else ""

    return [
        Column(
            "measured",
            lambda r: of(r, lambda v: shown_value(v.measured, v.kind, r.callout.unit)),
            look="number",
            width=74,
            tip=lambda r: of(r, lambda v: f"on {', '.join(v.faces)}" if v.faces else v.reason),
        ),
        Column(
            "deviation",
            lambda r: of(r, lambda v: shown_deviation(v.deviation, v.kind, r.callout.unit)),
            look="number",
            width=74,
        ),
        Column(
            "verdict",
            lambda r: of(r, lambda v: v.verdict),
            look="verdict",
            width=92,
            tip=lambda r: of(r, lambda v: "\n".join(w for w in (v.reason, v.redress, v.detail) if w) or v.verdict),
        ),
    ]


def ledger_columns(edit_note: Callable[[LedgerRow, str], object]) -> list[Column]:
    """The ledger's columns; its notes are edited in their cells."""
    return [
        Column("balloon", lambda r: str(r.balloon), look="balloon", width=58),
        Column("note as written", lambda r: r.callout.note, edit=edit_note, look="sheet", width=196,
               tip=lambda r: f"{r.callout.note}\nF2 edits the note"),
        Column("meaning", lambda r: f"{r.callout.meaning}; {r.decided}" if r.decided else r.callout.meaning, width=168,
               tip=lambda r: "\n".join(w for w in (r.callout.meaning, r.decided) if w)),
        Column("limits", lambda r: r.limits, width=112, tip=lambda r: r.verdict.limits_source if r.verdict else ""),
        Column("driven by", lambda r: r.callout.drive, width=70),
        Column("used by", _used, width=58, tip=lambda r: "\n".join(r.verdict.used_by) if r.verdict else ""),
        *verdict_columns(),
    ]  # fmt: skip


def _used(row: LedgerRow) -> str:
    if row.verdict is None:
        return ""
    numbers = dict.fromkeys(w.split()[1] for w in row.verdict.used_by if w.startswith("step"))
    return ", ".join(numbers)


def alarming(row: LedgerRow) -> bool:
    """Whether a row is tinted."""
    return row.verdict is not None and row.verdict.verdict == "out"


def totals(rows: Sequence[LedgerRow]) -> str:
    """The ledger in one line."""
    counts = Counter(row.verdict.verdict if row.verdict else "not proven" for row in rows)
    words = " · ".join(f"{n} {w}" for w, n in counts.items())
    plural = "s" if len(rows) != 1 else ""
    return f"LEDGER   {len(rows)} callout{plural}" + (f" · {words}" if words else "")
