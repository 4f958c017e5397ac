"""What is chosen at the Fit desk: a member, pairs of picked things, a relation; how parts are shown pulled apart."""

from __future__ import annotations

from collections.abc import Mapping

from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit, Member, Relation
from lathed_solid.fit.finish import finish_of
from lathed_solid.fit.placement import Array, Placement
from lathed_solid.kernel.figures import Picked
from lathed_solid.workbench.fit.exploded import drawn_out
from lathed_solid.workbench.fit.joining import MAX_PAIRS, Joint, Offer, PickedFeature, joined, offers, pairs, pick
from lathed_solid.workbench.fit.session import FitSession
from lathed_solid.workbench.signal import Signal

Matrix = tuple[tuple[float, ...], ...]


class FitBench:
    """Signals: another member or relation chosen (None: none); picks changed; pulled apart or together."""

    def __init__(self, session: FitSession) -> None:
        self.session = session
        self.member: str | None = None
        self.relation: int | None = None
        self.picks: tuple[PickedFeature, ...] = ()
        self.apart = False
        #: a member that is being drawn out by hand, and how far, mm in the room
        self.pulled: tuple[str, Array] | None = None
        self.member_chosen: Signal[str | None] = Signal()
        self.relation_chosen: Signal[int | None] = Signal()
        self.picks_changed: Signal[()] = Signal()
        self.apart_changed: Signal[bool] = Signal()
        session.changed.connect(self._keep_choice)

    @property
    def fit(self) -> Fit:
        """Of the session."""
        return self.session.fit

    @property
    def chosen(self) -> Member | None:
        """The chosen member; of a copy none."""
        return self.fit.by_name.get(self.member or "")

    def _keep_choice(self) -> None:
        whole = self.session.whole
        if self.member is not None and self.member not in whole.by_name:
            self.choose_member(None)
        if self.relation is not None and self.fit.relation(self.relation) is None:
            self.choose_relation(None)
        kept = tuple(p for p in self.picks if p.ref.member in self.fit.by_name)
        if kept != self.picks:
            self.picks = kept
            self.picks_changed.emit()

    def choose_member(self, name: str | None) -> None:
        """Choose a member, in the card or in the view."""
        if name != self.member:
            self.member = name
            self.member_chosen.emit(name)

    def choose_relation(self, number: int | None) -> None:
        """Choose a relation."""
        if number != self.relation:
            self.relation = number
            self.relation_chosen.emit(number)

    # picking -----------------------------------------------------------------------------------
    def pick(self, picked: Picked | None, more: bool = False) -> None:
        """Something was clicked in the view; None lets all picks go. The last two of different members count; with
        ``more`` it is picked besides, and let go when it was the last (a face may serve several pairs).
        """
        if picked is None or not picked.member:
            self.drop_picks()
            return
        self.choose_member(picked.member)
        solved = self.session.solved
        if solved is None:
            return
        if picked.member not in self.fit.by_name:
            self.session.told.emit(f"{picked.member} is a copy: it follows the first; relate that one", True)
            return
        found = pick(solved, picked.member, picked.names)
        if found is None:
            self.session.told.emit("nothing can hold on to this", True)
            return
        if more:
            again = bool(self.picks) and self.picks[-1].ref == found.ref
            self.picks = self.picks[:-1] if again else (*self.picks, found)[-2 * MAX_PAIRS :]
        else:
            others = tuple(p for p in self.picks[-2:] if p.ref.member != found.ref.member)
            self.picks = (*others, found)[-2:]
        self.picks_changed.emit()

    def drop_picks(self) -> None:
        """Nothing is picked."""
        if self.picks:
            self.picks = ()
            self.picks_changed.emit()

    @property
    def joints(self) -> tuple[Joint, ...]:
        """The picked things by pairs."""
        return pairs(self.picks)[0]

    @property
    def offers(self) -> tuple[Offer, ...]:
        """The relations that all picked pairs allow."""
        return () if self.session.solved is None else offers(self.session.solved, self.joints)

    def try_out(self, offer: Offer) -> None:
        """Show how an offered relation would draw the members together."""
        solved, joints = self.session.solved, self.joints
        if solved is not None and joints:
            self.session.try_out(lambda fit: joined(fit, solved, joints, offer))

    def join(self, offer: Offer) -> bool:
        """Take an offered relation for every picked pair, in one edit; False when it was refused."""
        solved, joints = self.session.solved, self.joints
        if solved is None or not joints:
            return False
        label = offer.kind if len(joints) == 1 else f"{len(joints)} x {offer.kind}"
        done = self.session.edit(label, lambda fit: joined(fit, solved, joints, offer))
        if done:
            self.drop_picks()
            # what came to the other is gone on with
            last = (p.ref.member for p in joints[-1])
            self.choose_member(next((n for n in last if not self.fit.by_name[n].held), None))
            self.choose_relation(self.fit.relations[-1].number)
        return done

    def lit_by(self, relation: Relation) -> tuple[tuple[str, str], ...]:
        """What a relation holds on to, to be lit."""
        refs = (relation.a, relation.b)
        return tuple((r.member, r.feature) for r in refs if r is not None)

    # looks -------------------------------------------------------------------------------------
    def colour_of(self, member: Member) -> str:
        """A member's own finish, else the colour of its part's material."""
        return finish_of(self.fit, member)

    def pull_apart(self, on: bool) -> None:
        """Show the parts drawn out along their axes, or together again."""
        if on != self.apart:
            self.apart = on
            self.apart_changed.emit(on)

    def pull(self, by: Array) -> None:
        """The chosen member is drawn out by hand, ``by`` mm more than it stands apart."""
        solved = self.session.solved
        if self.member is not None and solved is not None:
            start = drawn_out(solved).get(self.member)
            self.pulled = (self.member, by if start is None else start + by)
            self.session.moved.emit({})

    def let_go(self) -> None:
        """It is remembered how far."""
        if self.pulled is None:
            return
        (name, away), self.pulled = self.pulled, None
        x, y, z = (float(v) for v in away)
        self.session.edit(f"apart: {name}", lambda f: edits.put_member(f, name, apart=(x, y, z)))

    def matrices(self, placements: Mapping[str, Placement] | None = None) -> dict[str, Matrix]:
        """Where each member is shown: where it stands, or drawn out."""
        whole = self.session.whole
        solved = self.session.solved
        away = drawn_out(solved) if self.apart and solved is not None else {}
        if self.pulled is not None:
            away[self.pulled[0]] = self.pulled[1]
        out = {}
        for m in whole.members:
            at = (placements or {}).get(m.name, m.placement).matrix
            if m.name in away:
                at[:3, 3] += away[m.name]
            out[m.name] = tuple(tuple(float(x) for x in row) for row in at)
        return out
