"""What the panes show of the fit: members, relations, movements, what is judged; and what they tell it back."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PyQt6.QtCore import QTimer

from lathed_solid.desk.fit.grip import Dragging
from lathed_solid.desk.fit.movement_pane import Travelled
from lathed_solid.desk.language import spoken
from lathed_solid.desk.panes import Panes
from lathed_solid.errors import LathedError
from lathed_solid.fit import edits
from lathed_solid.fit.judged import mass, parts_list
from lathed_solid.fit.ledger_fits import LedgerFit
from lathed_solid.fit.placement import Placement
from lathed_solid.fit.stacks import stack
from lathed_solid.kernel.figures import Picked
from lathed_solid.part.document import StatedMass
from lathed_solid.quantity.formatting import counted, volume
from lathed_solid.viewer.looks import Look, PartShape
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands.fit import FitCommands
from lathed_solid.workbench.describe import grams
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.fit.joining import pairs
from lathed_solid.workbench.fit.moving import Judged, Moving
from lathed_solid.workbench.fit.rows import (
    OverlapRow,
    RelationRow,
    member_rows,
    nothing_moves,
    overlap_rows,
    relation_rows,
)
from lathed_solid.workbench.flags import Flag

#: what the kernel does, by its request, in words
AT_WORK = {
    "build parts": "building the parts",
    "judge fit": "looking for overlaps",
    "judge travel": "judging the travel",
}
#: the fit is judged so long after the last edit, ms
REST_MS = 500
OVERLAPS, FITS = 2, 3


class FitShowing:
    """One fit bench in its panes."""

    def __init__(self, bench: Workbench, fit: FitBench, panes: Panes, commands: FitCommands, moving: Moving) -> None:
        self.bench, self.fit, self.session, self.panes = bench, fit, fit.session, panes
        self.commands, self.moving = commands, moving
        self.page, self.card = panes.fit_page, panes.members
        self._rest = QTimer(panes)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST_MS)
        self._rest.timeout.connect(self.session.judge)
        self.dragging = Dragging(panes.solid, fit, moving, self._movable)
        self._shown, self._framed = False, 0
        self._connect_session()
        self._connect_page()

    def _connect_session(self) -> None:
        session, fit = self.session, self.fit
        session.changed.connect(self.show_fit)
        session.moved.connect(self.show_moved)
        session.judged.connect(self.show_judged)
        session.told.connect(self.bench.tell)
        session.queue.busy_changed.connect(lambda busy: self.panes.status.show_busy(busy, False))
        session.queue.progressed.connect(lambda p, op: self.panes.status.show_progress(p, AT_WORK.get(op, op)))
        fit.member_chosen.connect(self._show_member)
        fit.relation_chosen.connect(self._show_relation)
        fit.picks_changed.connect(self._show_picks)
        fit.apart_changed.connect(lambda _on: self.show_members())
        self.moving.judged.connect(self._show_travel)
        self.bench.desk_changed.connect(self.show_desk)

    def _connect_page(self) -> None:
        page, commands, fit = self.page, self.commands, self.fit
        self.card.chosen.connect(fit.choose_member)
        self.card.removal_asked.connect(commands.drop_member)
        self.card.hovered.connect(lambda name: self._light(((name, ""),) if name else None))
        page.joining.considered.connect(self._consider)
        page.joining.taken.connect(fit.join)
        page.joining.dropped.connect(self._drop_picks)
        relations = page.relations
        relations.chosen.connect(lambda r: fit.choose_relation(r.number if r is not None else None))
        relations.hovered.connect(self._point_at)
        relations.resized.connect(commands.resize)
        relations.flip_asked.connect(commands.flip)
        relations.suspend_asked.connect(commands.toggle_suspended)
        relations.removal_asked.connect(self._drop_relation)
        relations.again_asked.connect(commands.pick_again)
        movements = page.movements
        movements.tried.connect(self.moving.try_out)
        movements.taken.connect(self.moving.take)
        movements.moment.connect(self.moving.show_moment)
        movements.travel_asked.connect(self._travel)
        movements.let_go.connect(lambda i: self.session.edit("let go", lambda f: edits.drop_drive(f, i)))
        movements.told.connect(self.bench.tell)
        movements.chosen.connect(lambda f: self._light(((f.member, ""),) if f is not None else None))
        page.overlaps.pointed.connect(self._point_at_overlap)
        page.overlaps.judge_asked.connect(self.session.judge)
        page.fits.pointed.connect(self._point_at_fit)
        page.fits.stack_asked.connect(self._stack)
        page.parts.pointed.connect(lambda r: self._light(tuple((n, "") for n in r.members) if r is not None else None))
        page.parts.write_asked.connect(commands.write_parts_list)
        page.parts.weigh_asked.connect(self._weigh)

    # the fit -----------------------------------------------------------------------------------
    @property
    def on(self) -> bool:
        """Whether the desk is in view."""
        return self.bench.desk == "fit"

    def show_desk(self, desk: str) -> None:
        """Another desk: the fit instead of the part, or the part again."""
        self.dragging.active = desk == "fit"
        if desk == "fit":
            self._shown = True
            self.session.begin()
            self.show_fit()
        elif self._shown:
            self._shown = False
            self.panes.solid.show_solid_again()

    def show_fit(self) -> None:
        """Another fit, or another value of it."""
        if not self.on:
            return
        session, page = self.session, self.page
        solved = session.solved
        page.state.setText(spoken(self._words()))
        self.card.set_rows(member_rows(session), self.fit.member)
        page.relations.set_rows(relation_rows(session), self.fit.relation)
        names = tuple(m.name for m in session.whole.members)
        free = solved.freedoms if solved is not None else ()
        page.movements.set_freedoms(free, session.fit.drives, names, nothing_moves(session))
        page.fits.show_fits(session.fits, session.fit.unit)
        page.fits.show_stack(None, session.fit.unit)
        self._show_parts()
        self.show_members()
        self._show_picks()
        self.show_judged()
        self.panes.status.show_figures(self._figures())
        if session.ready and len(names) > 1 and not session.looked_at:
            self._rest.start()

    def _figures(self) -> str:
        session = self.session
        whole = session.whole
        said = [counted(len(whole.members), "member"), counted(len(session.fit.relations), "relation")]
        if session.solved is not None and whole.members:
            said.append(session.solved.state)
        if session.ready and (masses := session.masses()):
            said.append(f"mass {grams(mass(whole, masses).grams)}")
        return "        ".join(said)

    def _words(self) -> str:
        session = self.session
        if not session.fit.members:
            return "An empty fit: add members at the right."
        if not session.ready:
            return "Building the parts …"
        return f"{session.fit.name}: {session.solved.words}" if session.solved is not None else session.fit.name

    def _show_parts(self) -> None:
        session = self.session
        if not session.ready:
            return
        masses, whole = session.masses(), session.whole
        total = mass(whole, masses) if masses else None
        stated, words = session.fit.stated_mass, ""
        if stated is not None and total is not None:
            off = total.grams - stated.grams
            band = max(stated.tolerance, 0.005 * stated.grams)
            sign = "○ in" if abs(off) <= band else "■ out"
            words = f"weighed {grams(stated.grams)}: {sign}, {off:+.1f} g of ± {band:.1f} g"
        self.page.parts.show_list(parts_list(whole, masses), total, words)

    def show_members(self) -> None:
        """The members in the view, where they stand or pulled apart."""
        if not self.on:
            return
        session, at = self.session, self.fit.matrices()
        parts = {p.sha256: self._shape(p.sha256) for p in session.fit.parts if session.queue.shapes.get(p.sha256)}
        key = {p.name: p.sha256 for p in session.fit.parts}
        looks = [Look(m.name, key[m.part], at[m.name], self.fit.colour_of(m), m.hidden) for m in session.whole.members]
        self.panes.solid.show_members(parts, looks)
        shown = sum(look.part in parts for look in looks)
        if shown > self._framed:  # what came is looked at with the rest
            self.panes.solid.fit()
        self._framed = shown
        self._show_flags()

    def _shape(self, sha: str) -> PartShape:
        news = self.session.queue.parts[sha]
        return PartShape(self.session.queue.shapes[sha], news.labels, news.edge_labels)

    def _show_flags(self) -> None:
        """Numbered balloons of the parts list while the parts are pulled apart."""
        flags = []
        if self.fit.apart and self.session.ready:
            for row in parts_list(self.session.whole, self.session.masses()):
                flags += [Flag(name, str(row.number), "") for name in row.members[:1]]
        self.panes.solid.set_flags(flags)

    def show_moved(self, placements: Mapping[str, Placement]) -> None:
        """Members elsewhere, for now."""
        if self.on:
            self.panes.solid.on_members("move", self.fit.matrices(placements))

    def show_judged(self) -> None:
        """Overlaps, and how many matters are open."""
        session = self.session
        rows = overlap_rows(session)
        bad = sum(1 for r in rows if not r.why)
        if session.overlaps is None:
            members = len(session.whole.members)
            alone = "One member overlaps with nothing." if members else "No members yet."
            words = "Not looked at yet." if members > 1 else alone
        elif not rows:
            words = "○ Nothing overlaps: contact is no overlap."
        else:
            words = f"{bad} overlaps that nothing explains, {len(rows) - bad} press fits by their notes"
        self.page.overlaps.show_rows(rows, words, session.fit.unit)
        out = sum(1 for f in session.fits if f.verdict in ("out", "near"))
        self.page.set_count(OVERLAPS, bad)
        self.page.set_count(FITS, out)
        solved = session.solved
        strife = 0 if solved is None else len(solved.lost) + (len(solved.fights) if not solved.solution.ok else 0)
        self.panes.rail.set_count("fit", bad + out + strife)

    # pointing ----------------------------------------------------------------------------------
    def _light(self, names: tuple[tuple[str, str], ...] | None, shapes: tuple[bytes, ...] = ()) -> None:
        """Light up faces of members (or whole ones) and shapes; None: the picks, or the chosen relation's."""
        if names is None:
            picks = tuple((p.ref.member, p.ref.feature) for p in self.fit.picks)
            chosen = self.session.fit.relation(self.fit.relation) if self.fit.relation is not None else None
            names = picks or (self.fit.lit_by(chosen) if chosen is not None else ())
        if self.on:
            self.panes.solid.on_members("light", names, shapes)

    def _point_at(self, row: RelationRow | None) -> None:
        relation = row.relation if row is not None else None
        self._light(self.fit.lit_by(relation) if relation is not None else None)

    def _point_at_overlap(self, row: OverlapRow | None) -> None:
        shapes = self.session.overlap_shapes
        shown = row is not None and row.at < len(shapes)
        self.panes.view_bar.see_through.setChecked(shown)
        self._light(() if row is not None else None, (shapes[row.at],) if row is not None and shown else ())
        if row is not None:
            o = row.overlap
            words = volume(o.volume_mm3, self.session.fit.unit, 2)
            self.panes.solid.set_flags([Flag("", "■", words, not row.why, o.middle)])
        else:
            self._show_flags()

    def _point_at_fit(self, row: LedgerFit | None) -> None:
        self._light(None if row is None else tuple((s.member, s.feature) for s in (row.hole, row.shaft)))

    def show_picked(self, picked: Picked | None, more: bool) -> None:
        """Something was clicked in the view; ``more``: besides what is picked."""
        self.fit.pick(picked, more)

    def _show_member(self, name: str | None) -> None:
        self.card.choose(name)

    def _show_relation(self, number: int | None) -> None:
        self.page.relations.choose(number)
        self._light(None)

    def _show_picks(self) -> None:
        self.page.joining.show_picks(*pairs(self.fit.picks), self.fit.offers)
        self._light(None)
        if self.on and self.fit.offers:
            self.page.joining.setFocus()

    def _consider(self, offer: Any) -> None:
        if offer is None:
            self.session.end_trial()
        else:
            self.fit.try_out(offer)

    def _drop_picks(self) -> None:
        self.fit.drop_picks()
        self.session.end_trial()

    def _drop_relation(self) -> None:
        row = self.page.relations.view.current_row()
        if row is not None:
            self.commands.drop_relation(row.number)

    def _movable(self, member: str) -> bool:
        """The chosen member follows the hand where it is loose."""
        if member != self.fit.member or member not in self.session.fit.by_name:
            return False
        return self.fit.apart or any(r.name == member and r.state == "loose" for r in member_rows(self.session))

    # movements and stacks ------------------------------------------------------------------------
    def _travel(self, asked: Travelled) -> None:
        self.moving.travel(asked.freedom, asked.start, asked.stop, asked.steps, asked.pair)

    def _show_travel(self, found: Judged) -> None:
        self.page.movements.show_travel(found.values, found.clearances, found.overlaps, found.words)

    def _stack(self) -> None:
        solved, picks = self.session.solved, self.fit.picks
        if solved is None or len(picks) != 2:
            self.bench.tell("pick a flat face of one member and one of another: the stack runs between them", True)
            return
        try:
            found = stack(solved, self.session.reports(), picks[0].ref, picks[1].ref)
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return
        self.page.fits.show_stack(found, self.session.fit.unit)

    def _weigh(self) -> None:
        stated = self.session.fit.stated_mass
        said = self.commands.ask.text("The whole on the scale", "Mass in g (empty: none)",
                                      "" if stated is None else f"{stated.grams:g}")  # fmt: skip
        if said is None:
            return
        try:
            found = StatedMass(grams=float(said.replace(",", "."))) if said.strip() else None
        except ValueError:
            self.bench.tell(f"this is no mass in grams (received {said})", True)
            return
        self.session.edit("state the weight", lambda f: edits.changed(f, stated_mass=found))
