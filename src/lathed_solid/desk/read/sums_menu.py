"""What can be worked out with the chosen size of the log: a new size each, or another way of one that is near."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QMenu, QWidget

from lathed_solid.ledger.combining import Sum
from lathed_solid.part import Document
from lathed_solid.quantity.formatting import fixed
from lathed_solid.workbench.log_commands import LogCommands
from lathed_solid.workbench.tables.log_rows import LogRow

#: a size this near to a sum is thought to be the same, in standard uncertainties, and at least mm
NEAR, NEAR_MM = 10, 0.5


def sums_menu(parent: QWidget, document: Document, rows: Sequence[LogRow], chosen: int, work: LogCommands) -> QMenu:
    """A menu of the sums with the chosen size, their values beside them."""
    from lathed_solid.part.caliper_log import sums_for

    menu, unit = QMenu(parent), document.unit
    for found in sums_for(document, chosen):
        shown = f"{found.words} = {fixed(found.value, unit)} ± {fixed(2 * found.uncertainty, unit)}"
        menu.addAction(shown, lambda f=found: work.work_out(f))
        for row in alike(found, rows):
            again = f"    compare with #{row.balloon}, {row.callout.show()}"
            menu.addAction(again, lambda f=found, r=row: work.work_out(f, r))
    return menu


def alike(found: Sum, rows: Sequence[LogRow]) -> list[LogRow]:
    """Lengths that were read and are near to a sum, none of its own terms."""
    own, room = {t.balloon for t in found.terms}, max(NEAR * found.uncertainty, NEAR_MM)
    return [
        r for r in rows
        if len(found.terms) > 1 and r.reading is not None and r.balloon not in own and r.callout.kind == "length"
        and r.reading.terms != found.terms and abs(r.reading.mean - found.value) < room
    ]  # fmt: skip
