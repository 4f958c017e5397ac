"""What the window does for the Prove desk: suspects shown and taken, sizes by hand."""

from __future__ import annotations

from typing import Any

from lathed_solid.desk.flags import across
from lathed_solid.desk.ledger_commands import LedgerCommands
from lathed_solid.desk.prove.page import ProvePage
from lathed_solid.desk.solid_view import SolidView
from lathed_solid.errors import LathedError
from lathed_solid.kernel.figures import Thing
from lathed_solid.quantity.formatting import fixed


class ProveCommands(LedgerCommands):
    """Knows the Prove page and what is picked in the solid."""

    prove_page: ProvePage
    solid: SolidView

    def connect_proof(self) -> None:
        """Wire the panes that lead back into the part."""
        self.prove_page.suspects.shown.connect(self._show_suspect)
        self.prove_page.suspects.taken.connect(self._take_suspect)
        self.prove_page.hand.edited.connect(self.session.edit)
        self.prove_page.hand.wanted.connect(lambda mesh: self.measure_by_hand(mesh=mesh))
        self.session.measured.connect(self._show_measured)

    def _show_suspect(self, suspect: Any) -> None:
        """The part without the slip, as a preview; None: as it is."""
        document = None
        if suspect is not None:
            try:
                document = suspect.document(self.session.document)
            except LathedError as exc:
                self.tell(exc.message, True)
        if document is None:
            self.session.end_preview()
        else:
            self.session.preview(document)

    def _take_suspect(self, suspect: Any) -> None:
        slip = suspect.slips[0]
        label = f"{suspect.target}: {' and '.join(k.now for k in suspect.slips)}"
        if self.session.edit(label, lambda d: suspect.document(d) or d):
            self.tell(f"{slip.kind} undone at {suspect.target}", False)

    def measure_by_hand(self, *, mesh: bool = False) -> None:
        """The last one or two picks, measured; a pick beside the solid begins anew."""
        things = tuple(Thing(p.kind, p.names[0], p.point) for p in self.picks[-2:] if p.names)
        self.session.by_hand(things, section=self.solid.section, mesh=mesh)

    def _show_measured(self, found: Any) -> None:
        names = [p.names[0] for p in self.picks[-2:] if p.names]
        exact = float(self.session.reply.summary["volume_mm3"]) if self.session.reply else 0.0
        self.prove_page.hand.show_measured(names, found, exact)
        unit = self.session.document.unit
        cut = found.section
        self.solid.set_measures([] if cut is None else across(cut.low, cut.high, lambda v: fixed(v, unit)))
