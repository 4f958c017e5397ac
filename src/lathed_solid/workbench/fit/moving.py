"""Moving what is loose at the desk: by slider and number, under the hand, through a travel that is judged."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from lathed_solid.engine.fit_protocol import JudgeTravel, TravelJudged
from lathed_solid.errors import LathedError
from lathed_solid.fit import edits
from lathed_solid.fit.assemble import assemble
from lathed_solid.fit.document import Drive, Fit
from lathed_solid.fit.freedoms import Freedom, drive_of
from lathed_solid.fit.motion import Grip, Travel, Walker, sweep, with_drive
from lathed_solid.fit.placement import Placement
from lathed_solid.fit.solved import Solved, standing, with_followers
from lathed_solid.kernel.vectors import Triple
from lathed_solid.workbench.fit.session import FitSession
from lathed_solid.workbench.prompts import Background
from lathed_solid.workbench.signal import Signal

#: an overlap that grows by less of itself on the way is the one that was there before
SAME = 1e-3


@dataclass(frozen=True)
class Judged:
    """A travel as it is shown: the number (degrees or mm) at each moment, clearances and overlap volumes."""

    values: tuple[float, ...]
    clearances: tuple[float, ...]
    overlaps: tuple[float, ...]
    words: str


class Moving:
    """Signals: a travel was judged; words for the user."""

    def __init__(self, session: FitSession, background: Background) -> None:
        self.session, self._background = session, background
        self.judged: Signal[Judged] = Signal()
        self._walker: Walker | None = None
        self._freedom: Freedom | None = None
        self._grip: Grip | None = None
        self._now: Mapping[str, Placement] | None = None
        self._travel: Travel | None = None
        #: what is under way for a travel: its walk, then the request to judge it
        self._pending: object = None
        session.changed.connect(self.forget)
        session.queue.travelled.connect(self._take)

    def forget(self) -> None:
        """The fit is another one now: a travel under way, and the one shown, are not of it."""
        self._walker = self._grip = self._now = None
        self._freedom = None
        if self._pending is not None or self._travel is not None:
            words = "the fit was edited meanwhile: sweep again" if self._pending is not None else ""
            self._travel = self._pending = None
            self.judged.emit(Judged((), (), (), words))

    # by a number -------------------------------------------------------------------------------
    def _drive(self, freedom: Freedom) -> tuple[Solved, Drive] | None:
        solved = self.session.solved
        return None if solved is None else (solved, drive_of(solved.assembled, solved.solution, freedom))

    def try_out(self, freedom: Freedom, value: float) -> None:
        """Show how it would stand with a freedom at a number (rad, mm) from where it stands; it stays free."""
        found = self._drive(freedom)
        if found is None:
            return
        solved, drive = found
        if self._walker is None or self._freedom is not freedom:
            driven, index = with_drive(standing(solved), drive)
            self._walker, self._freedom = Walker(assemble(driven, solved.features), index), freedom
        if not self._walker.to(value):
            self.session.told.emit(f"it goes no further than {_shown(drive, self._walker.value)}: "
                                   f"{self._walker.reason}", True)  # fmt: skip
        self._show(self._walker.found.placements(self._walker.now))

    def take(self, freedom: Freedom, value: float) -> None:
        """Hold a freedom at a number."""
        found = self._drive(freedom)
        if found is None:
            return
        solved, drive = found
        travel = sweep(standing(solved), solved.features, drive, 0.0, value, 1)
        if travel.stopped:
            self.session.told.emit(f"{drive.member} goes no further: {travel.stopped}", True)
            self.session.end_trial()
            return
        placements = travel.frames[-1].placements

        def change(fit: Fit) -> Fit:
            moved = edits.with_placements(fit, placements)
            return edits.put_drive(moved, drive.model_copy(update={"value": value}))

        self.session.edit(f"set {drive.member} to {_shown(drive, value)}", change)

    # under the hand ------------------------------------------------------------------------------
    def grab(self, member: str, place: Triple) -> bool:
        """Take a member by a place of it; False (and words) where it stands fast."""
        solved = self.session.solved
        if solved is None or not solved.solution.ok:
            return False
        try:
            self._grip = Grip(standing(solved), solved.features, member, np.array(place))
        except LathedError as exc:
            self.session.told.emit(exc.message, True)
            return False
        words = [f.words for f in solved.freedoms if f.member == member]
        led = [f"{f.member} {f.words}" for f in solved.freedoms if member in f.others]
        self.session.told.emit(f"{member} {'; '.join(words) or f'follows {led[0]}' if led or words else ''}", False)
        return True

    def drag(self, place: Triple) -> None:
        """The hand is at ``place``."""
        if self._grip is not None:
            self._show(self._grip.to(np.array(place)))

    def leave(self, label: str = "move") -> None:
        """It stays where it was moved to."""
        now, self._now = self._now, None
        self._grip = None
        if now is not None:
            placements = dict(now)
            self.session.edit(label, lambda fit: edits.with_placements(fit, placements))

    def _show(self, placements: Mapping[str, Placement]) -> None:
        solved = self.session.solved
        if solved is not None:
            self._now = placements
            self.session.moved.emit(with_followers(solved, placements))

    # through a travel ----------------------------------------------------------------------------
    def travel(self, freedom: Freedom, start: float, stop: float, steps: int, pair: tuple[str, str] | None) -> None:
        """Walk a travel beside the window, then have every moment judged."""
        found = self._drive(freedom)
        if found is None:
            return
        solved, drive = found
        walk = self._pending = object()

        def done(travel: Travel) -> None:
            if walk is self._pending:
                self._judge(solved, travel, pair)

        def failed(why: str) -> None:
            if walk is self._pending:
                self._pending = None
                self.judged.emit(Judged((), (), (), why))

        self._background.run(lambda: sweep(standing(solved), solved.features, drive, start, stop, steps), done, failed)

    def _judge(self, solved: Solved, travel: Travel, pair: tuple[str, str] | None) -> None:
        self._travel = travel
        frames = tuple(with_followers(solved, f.placements) for f in travel.frames)
        first, last = frames[0], frames[len(frames) // 2]
        moving = tuple(n for n in first if first[n] != last[n] or first[n] != frames[-1][n])
        request = JudgeTravel(fit=solved.whole, frames=frames, moving=moving, pair=pair)
        self._pending = request
        self.session.queue.judge_travel(request)

    def _take(self, answer: TravelJudged, asked: JudgeTravel) -> None:
        travel = self._travel
        if travel is None or asked is not self._pending:
            return
        self._pending = None
        turn = travel.drive.kind == "turn"
        values = tuple(math.degrees(f.value) if turn else f.value for f in travel.frames)
        rest = {(o.a, o.b): o.volume_mm3 * (1 + SAME) for o in answer.overlaps[0]}
        more = [[o for o in found if o.volume_mm3 > rest.get((o.a, o.b), 0.0)] for found in answer.overlaps]
        volumes = tuple(sum(o.volume_mm3 for o in found) for found in more)
        said = [f"{len(values)} moments"]
        if answer.clearances:
            least = min(answer.clearances)
            said.append(f"least clearance {least:.4g} mm at {values[answer.clearances.index(least)]:.4g}")
        pairs = sorted({f"{o.a} with {o.b}" for found in more for o in found})
        again = " more" if rest else ""
        said.append(f"overlaps on the way: {', '.join(pairs[:3])}" if pairs else f"nothing{again} overlaps on the way")
        if travel.stopped:
            said.append(f"it stops {travel.stopped}")
        self.judged.emit(Judged(values, answer.clearances, volumes, " · ".join(said)))

    def show_moment(self, index: int) -> None:
        """Show one moment of the last travel; -1: leave things where they were moved to."""
        if index < 0:
            self.leave()
        elif self._travel is not None and index < len(self._travel.frames) and self.session.solved is not None:
            self.session.moved.emit(with_followers(self.session.solved, self._travel.frames[index].placements))


def _shown(drive: Drive, value: float) -> str:
    return f"{math.degrees(value):.4g}°" if drive.kind == "turn" else f"{value:.4g} mm"
