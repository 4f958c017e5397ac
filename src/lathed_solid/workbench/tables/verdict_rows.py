"""The rows of the verdict table: one a callout, and under an unfolded one a line for each of its duties."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from lathed_solid.ledger import Callout
from lathed_solid.proof import DutyRow, VerdictRow
from lathed_solid.workbench.tables.column import Column
from lathed_solid.workbench.tables.ledger_rows import LedgerRow, verdict_columns


@dataclass(frozen=True)
class DutyLine:
    """One duty of an unfolded row; hovering and choosing it means its callout."""

    parent: LedgerRow
    duty: DutyRow

    @property
    def balloon(self) -> int:
        """Of its callout."""
        return self.parent.balloon

    @property
    def callout(self) -> Callout:
        """The callout whose duty it is."""
        return self.parent.callout

    @property
    def verdict(self) -> VerdictRow | None:
        """Of the callout."""
        return self.parent.verdict


Line = LedgerRow | DutyLine


def unfolded(rows: Sequence[LedgerRow], folded_out: Collection[int]) -> tuple[Line, ...]:
    """The rows with the duties of those whose balloon is in ``folded_out`` beneath them."""
    out: list[Line] = []
    for row in rows:
        out.append(row)
        if row.balloon in folded_out and row.verdict is not None:
            out += [DutyLine(row, d) for d in row.verdict.duties]
    return tuple(out)


def duties_of(line: Line) -> tuple[DutyRow, ...]:
    """Duties beside the size; one is the size itself, so a row with one duty has nothing to unfold."""
    found = line.verdict.duties if line.verdict is not None else ()
    return found if len(found) > 1 else ()


def columns(folded_out: Collection[int]) -> list[Column]:
    """Columns of the table; ``folded_out`` is read each time a row is shown."""

    def fold(line: Line) -> str:
        if isinstance(line, DutyLine) or not duties_of(line):
            return ""
        return "–" if line.balloon in folded_out else f"+{len(duties_of(line))}"

    def note(line: Line) -> str:
        return f"  {line.duty.what}" if isinstance(line, DutyLine) else line.callout.note

    def limits(line: Line) -> str:
        return line.duty.said if isinstance(line, DutyLine) else line.limits

    measured, deviation, verdict = verdict_columns()

    def of_duty(line: Line, duty: str, row: Column) -> str:
        return duty if isinstance(line, DutyLine) else row.text(line)

    def why(line: Line) -> str:
        if isinstance(line, DutyLine):
            return line.duty.reason or line.duty.sign
        return verdict.tip(line) if verdict.tip else ""

    return [
        Column("balloon", lambda r: "" if isinstance(r, DutyLine) else str(r.balloon), look="balloon", width=56),
        Column("", fold, width=40, tip=lambda r: "its duties: → unfolds, ← folds" if duties_of(r) else ""),
        Column("note", note, look="sheet", width=124,
               tip=lambda r: f"{r.callout.note}: {r.callout.meaning}"),
        Column("limits", limits, width=100,
               tip=lambda r: r.verdict.limits_source if isinstance(r, LedgerRow) and r.verdict else ""),
        Column("measured", lambda r: of_duty(r, _shown(r), measured), look="number", width=74, tip=measured.tip),
        Column("deviation", lambda r: of_duty(r, "", deviation), look="number", width=66),
        Column("verdict", lambda r: of_duty(r, _verdict(r), verdict), look="verdict", width=88, tip=why),
    ]  # fmt: skip


def _shown(line: Line) -> str:
    return line.duty.measured if isinstance(line, DutyLine) else ""


def _verdict(line: Line) -> str:
    if not isinstance(line, DutyLine):
        return ""
    return line.duty.verdict if line.duty.judged else "not judged here"


def alarming(line: Line) -> bool:
    """Whether a line is tinted: a row that is out, a duty that is out."""
    if isinstance(line, DutyLine):
        return line.duty.verdict == "out"
    return line.verdict is not None and line.verdict.verdict == "out"
