"""The Fit desk without a window, on a kernel that works in this process: edits, relations, movements, judging."""

from __future__ import annotations

import csv
import io
import json
import math
from collections import deque
from pathlib import Path

import numpy as np
import pytest

pytest.importorskip("OCP")

from lathed_solid import scripting as ls
from lathed_solid.engine import protocol
from lathed_solid.engine.client import Lost, Message
from lathed_solid.engine.fit_protocol import JudgeFit
from lathed_solid.engine.handlers import HANDLERS
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.telling import Telling
from lathed_solid.errors import LathedError
from lathed_solid.files import write_document
from lathed_solid.files.fit_document import write_fit
from lathed_solid.fit import edits
from lathed_solid.fit.document import Fit, Ref
from lathed_solid.fit.placement import Placement
from lathed_solid.kernel.figures import Picked
from lathed_solid.part import Document
from lathed_solid.workbench.actions import ACTIONS, find_action, run_action
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands import Commands
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.fit.moving import Judged, Moving
from lathed_solid.workbench.fit.rows import member_rows, overlap_rows, relation_rows
from lathed_solid.workbench.fit.session import FitSession
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.session import Session
from workbench.fakes import FakePrompts, FakeView, Immediate

ENGINE = Engine()


class Worker:
    """A kernel that does at once what it is asked, and tells it at the next poll."""

    def __init__(self) -> None:
        self.asked: list[protocol.Request] = []
        self.messages: deque[Message] = deque()
        self.cancelled = 0
        self.dies = False

    def ask(self, request: protocol.Request) -> int:
        self.asked.append(request)
        if self.dies:
            self.messages.append(Lost(1, "the worker stopped"))
            return 1
        try:
            answer = HANDLERS[type(request)](ENGINE, request, Telling())
        except LathedError as exc:
            answer = protocol.Failed(message=exc.message)
        self.messages.append(answer)
        return len(self.asked)

    def poll(self, timeout: float = 0.0) -> Message | None:
        return self.messages.popleft() if self.messages else None

    def cancel(self) -> None:
        self.cancelled += 1
        self.messages.clear()

    def close(self) -> None: ...

    def fileno(self) -> int:
        return 7


class FitRig:
    """A fit bench with everything about it faked but the kernel's work."""

    def __init__(self, folder: Path, fit: Fit | None = None) -> None:
        self.worker, self.ask, self.view = Worker(), FakePrompts(), FakeView()
        self.session = FitSession(lambda: self.worker, folder / "journal")
        self.fit = FitBench(self.session)
        self.bench = Workbench(Session(None, journal_folder=folder / "parts"))
        maker = Maker(lambda: self.worker, Immediate())  # type: ignore[arg-type, return-value]
        self.commands = Commands.of(self.bench, self.ask, self.view, Immediate(), self.fit, maker)  # type: ignore[arg-type]
        self.moving = Moving(self.session, Immediate())
        self.said: list[tuple[str, bool]] = []
        self.session.told.connect(lambda words, bad: self.said.append((words, bad)))
        self.bench.told.connect(lambda words, bad: self.said.append((words, bad)))
        self.session.begin()
        self.bench.show_desk("fit")
        if fit is not None:
            self.session.open_value(fit)
        self.settle()

    def settle(self) -> None:
        while not self.session.queue.idle:
            self.session.queue.poll()

    @property
    def words(self) -> str:
        return self.said[-1][0] if self.said else ""

    def pick(self, member: str, face: str, more: bool = False) -> None:
        self.fit.pick(Picked("face", (face,), (0.0, 0.0, 0.0), member=member), more)

    def do(self, action: str) -> None:
        found = find_action(action)
        assert found is not None, action
        run_action(found, self.commands)
        self.settle()


def flange() -> Document:
    part = ls.turned(ls.new_part("flange"), [ls.Station(key="A", diameter="120", length="10")])
    return ls.hole(part, "10/face.right", "9", depth=None, places=ls.OnCircle(bolt_circle="90", count=4))


def pair() -> Fit:
    fit = ls.member(ls.new_fit("pair"), flange(), "flange", held=True)
    return ls.member(fit, "washer M8", "washer", placement=(30.0, 41.0, 3.0))


@pytest.fixture
def rig(tmp_path: Path) -> FitRig:
    return FitRig(tmp_path, pair())


def test_two_picks_offer_relations_and_show_them_before_one_is_taken(rig: FitRig) -> None:
    moved: list[dict] = []
    rig.session.moved.connect(lambda p: moved.append(dict(p)))
    rig.pick("washer", "10/bore.right.1")
    assert rig.fit.offers == () and rig.fit.member == "washer"
    rig.pick("flange", "20/h0.wall")
    kinds = [o.kind for o in rig.fit.offers]
    assert kinds[0] == "share an axis" and "touch" not in kinds and {"on", "parallel", "held"} <= set(kinds)
    before = rig.session.fit
    rig.fit.try_out(rig.fit.offers[0])
    at = np.array(moved[-1]["washer"].at)
    assert math.hypot(at[1], at[2]) == pytest.approx(45, abs=1e-9)
    assert rig.session.fit == before  # shown, not taken
    rig.session.end_trial()
    assert moved[-1]["washer"] == before.by_name["washer"].placement
    assert rig.fit.join(rig.fit.offers[0]) and len(rig.session.fit.relations) == 1 and not rig.fit.picks
    assert rig.fit.relation == 1
    (row,) = relation_rows(rig.session)
    assert (row.kind, row.state, row.first) == ("share an axis", "holds", "washer · bore ⌀8.4")
    assert [m.state for m in member_rows(rig.session)] == ["fast", "loose"]
    rig.do("undo")
    assert rig.session.fit == before
    rig.do("redo")
    assert len(rig.session.fit.relations) == 1


def test_a_size_that_is_no_size_is_refused_and_nothing_changes(rig: FitRig) -> None:
    rig.pick("washer", "10/face.left")
    rig.pick("flange", "10/face.right")
    gap = next(o for o in rig.fit.offers if o.kind == "gap")
    from dataclasses import replace

    assert not rig.fit.join(replace(gap, size="1/0"))
    assert rig.said[-1][1] and not rig.session.fit.relations and len(rig.fit.picks) == 2
    assert rig.fit.join(replace(gap, size="7/2"))
    rig.commands.fit.resize(1, "oops")
    assert relation_rows(rig.session)[0].state == "left out"
    rig.commands.fit.resize(1, "2")
    assert rig.session.whole.by_name["washer"].placement.at[0] == pytest.approx(10 + 2, abs=1e-9)


@pytest.mark.parametrize("order", ["pair by pair", "side by side"])
def test_several_pairs_are_joined_at_one_time_each_as_it_stands(tmp_path: Path, order: str) -> None:
    """Two flanges hole to hole, the second turned over: the same two relations in either order."""
    other = Placement(at=(25.0, 3.0, -4.0), turn=(0.0, 0.0, 0.0, 1.0))  # half a turn about z
    fit = ls.member(ls.new_fit("two"), flange(), "one", held=True)
    fit = edits.put_member(ls.member(fit, flange(), "two"), "two", placement=other)
    rig = FitRig(tmp_path, fit)
    picks = [("one", "20/h0.wall"), ("two", "20/h1.wall"), ("one", "20/h1.wall"), ("two", "20/h0.wall")]
    if order == "side by side":
        picks = [picks[0], picks[2], picks[1], picks[3]]
    rig.pick(*picks[0])
    for it in picks[1:]:
        rig.pick(*it, more=True)
    assert len(rig.fit.joints) == 2
    offers = {o.kind: o for o in rig.fit.offers}
    assert "share an axis" in offers and "touch" not in offers
    rig.fit.try_out(offers["share an axis"])
    assert not rig.session.fit.relations
    assert rig.fit.join(offers["share an axis"])
    assert [r.kind for r in rig.session.fit.relations] == ["share an axis"] * 2 and not rig.fit.picks
    assert rig.session.history.undo_label == "2 x share an axis"
    solved = rig.session.solved
    assert solved is not None and solved.state == "loose"
    walls = rig.session.features()["flange"]
    for a, b in (("20/h0.wall", "20/h1.wall"), ("20/h1.wall", "20/h0.wall")):
        here = np.array(walls[a].origin)[1:]
        there = np.append(np.array(walls[b].origin), 1) @ solved.placements["two"].matrix.T
        assert there[1:3] == pytest.approx(here, abs=1e-8)
    rig.do("undo")
    assert not rig.session.fit.relations


def test_one_face_serves_several_pairs_and_what_does_not_join_all_is_not_offered(rig: FitRig) -> None:
    rig.fit.choose_member("washer")
    rig.do("fit-again")
    rig.pick("washer", "10/face.left")
    for it in (("flange", "10/face.right"), ("washer 2", "10/face.left"), ("flange", "10/face.right")):
        rig.pick(*it, more=True)
    assert len(rig.fit.joints) == 2 and rig.fit.offers[0].kind == "touch"
    rig.pick("flange", "10/face.right", more=True)  # the last again: let go
    assert len(rig.fit.joints) == 1 and len(rig.fit.picks) == 3
    rig.pick("flange", "20/h0.wall", more=True)  # a flat and a round wall: nothing that the first pair allows as well
    assert "touch" not in {o.kind for o in rig.fit.offers}
    rig.pick("flange", "20/h0.wall", more=True)
    rig.pick("flange", "10/face.right", more=True)
    assert rig.fit.join(rig.fit.offers[0])
    assert [r.kind for r in rig.session.fit.relations] == ["touch"] * 2
    assert all(rig.session.whole.by_name[n].placement.at[0] - 0 >= 10 - 1e-9 for n in ("washer", "washer 2"))
    rig.pick("washer", "10/face.left")
    rig.pick("flange", "10/face.right", more=True)
    rig.pick("washer 2", "10/face.left", more=True)
    gap = next(o for o in rig.fit.offers if o.kind == "gap")
    from dataclasses import replace

    assert not rig.fit.join(replace(gap, size="1/0")) and len(rig.fit.picks) == 3


def test_a_fight_is_told_with_its_way_out(rig: FitRig) -> None:
    fit = ls.relate(rig.session.fit, "touch", ("washer", "10/face.left"), ("flange", "10/face.right"))
    rig.session.commit(fit, "touch")
    rig.session.edit("and not", lambda f: ls.relate(f, "gap", ("washer", "10/face.left"), ("flange", "10/face.right"),
                                                    size="5"))  # fmt: skip
    assert rig.session.solved is not None and rig.session.solved.state == "fighting" and "cannot all hold" in rig.words
    assert [r.state for r in relation_rows(rig.session)] == ["fights", "fights"]
    assert {m.state for m in member_rows(rig.session)} == {"fast", "fighting"}
    rig.fit.choose_relation(2)
    rig.do("fit-suspend")
    assert [r.state for r in relation_rows(rig.session)] == ["holds", "suspended"]
    rig.do("fit-suspend")
    rig.do("fit-drop-relation")
    assert rig.session.solved.state == "loose" and rig.fit.relation is None


def test_members_are_held_hidden_named_copied_and_removed(rig: FitRig) -> None:
    rig.fit.choose_member("washer")
    rig.do("fit-hold")
    assert rig.session.fit.by_name["washer"].held
    rig.do("fit-hold")
    rig.do("fit-hide")
    assert rig.session.fit.by_name["washer"].hidden
    rig.do("fit-show-all")
    rig.ask.line = "disc"
    rig.do("fit-name")
    assert rig.fit.member == "disc" and "disc" in rig.session.fit.by_name
    rig.do("fit-again")
    assert set(rig.session.fit.by_name) == {"flange", "disc", "disc 2"} and len(rig.session.fit.parts) == 2
    rig.do("fit-drop")
    assert set(rig.session.fit.by_name) == {"flange", "disc 2"} and rig.fit.member is None
    rig.do("fit-hold")
    assert "not possible" in rig.words


def test_copies_by_commands(rig: FitRig) -> None:
    fit = ls.relate(rig.session.fit, "share an axis", ("washer", "10/bore.right.1"), ("flange", "20/h0.wall"))
    rig.session.commit(ls.relate(fit, "touch", ("washer", "10/face.left"), ("flange", "10/face.right")), "put there")
    rig.fit.choose_member("washer")
    rig.do("fit-every-place")
    rows = member_rows(rig.session)
    assert [r.state for r in rows].count("copy") == 3
    rig.pick("washer (2)", "10/face.left")
    assert "is a copy" in rig.words and rig.fit.picks == ()
    rig.do("undo")
    rig.fit.choose_member("washer")
    rig.do("fit-ring")
    assert "pick an axis" in rig.words
    rig.pick("flange", "10/sA")
    rig.fit.choose_member("washer")
    rig.ask.line = "6"
    rig.do("fit-ring")
    assert len(rig.session.whole.members) == 7
    assert relation_rows(rig.session)[-1].kind == "6 x ring"
    rig.do("undo")
    rig.ask.line = "many"
    rig.fit.choose_member("washer")
    rig.do("fit-row")
    assert "how many" in rig.words


def test_parts_come_from_files_from_the_hand_and_from_tables(tmp_path: Path) -> None:
    rig = FitRig(tmp_path)
    write_document(tmp_path / "flange.lathed", flange())
    rig.ask.path = tmp_path / "flange.lathed"
    rig.do("fit-add-file")
    assert rig.session.fit.members[0].held and rig.session.fit.parts[0].path == str(tmp_path / "flange.lathed")
    rig.do("fit-add-hand")
    assert "no steps" in rig.words
    rig.bench.session.open_value(flange().model_copy(update={"name": "other"}))
    rig.do("fit-add-hand")
    rig.ask.line = "hexagon screw M8x30"
    rig.do("fit-add-standard")
    rig.ask.line = "hexagon banana M8"
    rig.do("fit-add-standard")
    assert rig.said[-1][1]
    assert list(rig.session.fit.by_name) == ["flange", "other", "hexagon screw M8x30"]
    # each stands behind what stood already (a flange is 10 thick, across 120), seen and not joined
    rig.session.judge()
    rig.settle()
    assert rig.session.overlaps == ()
    at = [m.placement.at[0] for m in rig.session.fit.members]
    assert at == pytest.approx([0.0, 10 + 0.4 * 120, 10 + 0.4 * 120 + 10 + 0.4 * 120])
    assert [r.message for r in member_rows(rig.session)][1:] == ["not joined yet"] * 2
    rig.ask.path = tmp_path / "nowhere.lathed"
    rig.do("fit-add-file")
    assert "no such file" in rig.words


def test_the_files_of_a_fit(rig: FitRig, tmp_path: Path) -> None:
    rig.ask.path = tmp_path / "pair"
    rig.do("save")
    assert rig.session.path == tmp_path / "pair.lathed" and rig.session.history.clean
    rig.fit.choose_member("washer")
    rig.do("fit-hide")
    rig.ask.leave = "stay"
    rig.do("new")
    assert len(rig.session.fit.members) == 2
    rig.ask.leave = "leave"
    rig.do("new")
    assert rig.session.fit.members == ()
    rig.ask.path = tmp_path / "pair.lathed"
    rig.do("open")
    assert len(rig.session.fit.members) == 2
    rig.ask.path = tmp_path / "pair.step"
    rig.do("export")
    assert (tmp_path / "pair.step").stat().st_size > 1000
    for ending in ("csv", "json", "pdf", "doc"):
        rig.ask.path = tmp_path / f"list.{ending}"
        rig.do("fit-parts-list")
    assert "ending is not known" in rig.words
    rows = list(csv.reader(io.StringIO((tmp_path / "list.csv").read_text())))
    assert [r[2] for r in rows[1:]] == ["flange", "washer M8"]
    told = json.loads((tmp_path / "list.json").read_text())
    assert told["whole"]["mass_g"] == pytest.approx(sum(p["grams"] for p in told["parts"]))
    assert (tmp_path / "list.pdf").read_bytes()[:5] == b"%PDF-"
    other = FitRig(tmp_path / "other")
    other.ask.path = tmp_path / "pair.step"
    other.do("fit-import")
    assert [m.name for m in other.session.fit.members] == ["flange", "washer"]
    masses, before = other.session.masses(), rig.session.masses()
    assert masses["washer M8"].grams == pytest.approx(before["washer M8"].grams, rel=1e-9)
    for name in ("flange", "washer"):
        assert np.allclose(other.session.fit.by_name[name].placement.matrix,
                           rig.session.fit.by_name[name].placement.matrix, atol=1e-9)  # fmt: skip
    (tmp_path / "no.step").write_text("nothing")
    other.ask.path = tmp_path / "no.step"
    other.do("fit-import")
    assert other.said[-1][1]


def test_a_changed_part_is_told_at_opening_and_taken_over_when_asked(tmp_path: Path) -> None:
    write_document(tmp_path / "flange.lathed", flange())
    write_fit(tmp_path / "f.lathed", ls.member(ls.new_fit("f"), tmp_path / "flange.lathed", "flange"))
    thicker = ls.turned(ls.new_part("flange"), [ls.Station(key="A", diameter="120", length="14")])
    write_document(tmp_path / "flange.lathed", thicker)
    rig = FitRig(tmp_path)
    rig.ask.path = tmp_path / "f.lathed"
    rig.do("open")
    assert any("has changed" in words for words, _ in rig.said)
    rig.ask.yes = False
    rig.do("fit-take-over")
    assert rig.session.fit.parts[0].document == flange()
    rig.ask.yes = True
    rig.do("fit-take-over")
    assert rig.session.fit.parts[0].document == thicker
    rig.do("fit-take-over")
    assert "as its file says" in rig.words


def test_what_is_loose_is_moved_set_and_let_go(rig: FitRig) -> None:
    rig.session.edit("on the axis", lambda f: ls.relate(f, "share an axis", ("washer", "10/bore.right.1"),
                                                        ("flange", "20/h0.wall")))  # fmt: skip
    assert rig.session.solved is not None
    slide = next(f for f in rig.session.solved.freedoms if f.kind == "slide")
    start = rig.session.whole.by_name["washer"].placement.at[0]
    rig.moving.try_out(slide, 12.0)
    assert rig.session.fit.by_name["washer"].placement.at[0] == pytest.approx(start)
    rig.moving.show_moment(-1)  # the hand leaves the slider
    moved = rig.session.fit.by_name["washer"].placement.at[0]
    assert abs(moved - start) == pytest.approx(12, abs=1e-9) and not rig.session.fit.drives
    slide = next(f for f in rig.session.solved.freedoms if f.kind == "slide")
    rig.moving.take(slide, 5.0)
    assert len(rig.session.fit.drives) == 1 and len(rig.session.solved.freedoms) == 1
    assert abs(rig.session.fit.by_name["washer"].placement.at[0] - moved) == pytest.approx(5, abs=1e-9)
    rig.session.edit("let go", lambda f: edits.drop_drive(f, 0))
    assert len(rig.session.solved.freedoms) == 2
    assert rig.moving.grab("washer", (0.0, 0.0, 0.0)) and not rig.moving.grab("flange", (0.0, 0.0, 0.0))


def test_a_travel_is_judged_moment_by_moment(rig: FitRig) -> None:
    found: list[Judged] = []
    rig.moving.judged.connect(found.append)
    rig.session.edit("on the axis", lambda f: ls.relate(f, "share an axis", ("washer", "10/bore.right.1"),
                                                        ("flange", "20/h0.wall")))  # fmt: skip
    assert rig.session.solved is not None
    slide = next(f for f in rig.session.solved.freedoms if f.kind == "slide")
    at = rig.session.whole.by_name["washer"].placement.at[0]
    way = 1.0 if slide.direction[0] < 0 else -1.0
    # from clear of the flange's right face (x = 10) until the washer stands in the flange
    rig.moving.travel(slide, 0.0, way * (at - 4.0), 4, ("washer", "flange"))
    rig.settle()
    (judged,) = found
    assert judged.clearances[0] == pytest.approx(at - 10, abs=1e-6) and judged.clearances[-1] == 0
    assert judged.overlaps[0] == 0 and judged.overlaps[-1] > 0 and "washer" in judged.words
    rig.moving.travel(slide, 0.0, math.inf, 4, None)
    assert "no number" in found[-1].words


def test_overlaps_are_judged_and_told(rig: FitRig) -> None:
    rig.do("rebuild")  # F5 judges at this desk
    assert rig.session.overlaps == () and overlap_rows(rig.session) == [] and rig.session.looked_at
    rig.session.edit("into it", lambda f: edits.put_member(f, "washer", placement=f.by_name["flange"].placement))
    assert rig.session.overlaps is None and not rig.session.looked_at
    rig.session.judge()
    rig.settle()
    assert rig.session.looked_at, "shown again, it is not judged again"
    (row,) = overlap_rows(rig.session)
    assert row.sign == "■ overlap" and row.overlap.volume_mm3 == pytest.approx(
        math.pi / 4 * (16**2 - 8.4**2) * 1.6, rel=1e-9)  # fmt: skip
    assert len(rig.session.overlap_shapes[0]) > 100


def test_what_was_judged_of_a_fit_is_not_said_of_the_edited_one(rig: FitRig) -> None:
    """The answer is under way when the edit comes: it tells of members that stand elsewhere now."""
    rig.session.judge()
    rig.session.edit("into it", lambda f: edits.put_member(f, "washer", placement=f.by_name["flange"].placement))
    rig.settle()
    assert rig.session.overlaps is None
    rig.session.judge()
    rig.settle()
    assert len(overlap_rows(rig.session)) == 1

    found: list[Judged] = []
    rig.moving.judged.connect(found.append)
    rig.session.undo()
    solved = rig.session.solved
    assert solved is not None
    rig.moving.travel(solved.freedoms[0], 0.0, 1.0, 3, None)
    rig.session.edit("hide", lambda f: edits.put_member(f, "washer", hidden=True))
    rig.settle()
    assert [(j.values, j.words) for j in found] == [((), "the fit was edited meanwhile: sweep again")]


def test_a_dying_kernel_costs_a_message_never_the_fit(rig: FitRig) -> None:
    before = rig.session.fit
    rig.worker.dies = True
    rig.session.judge()
    for _ in range(10):
        rig.session.queue.poll()
    assert "stopped several times" in rig.words and rig.session.fit == before
    rig.worker.dies = False
    rig.session.judge()
    rig.settle()
    assert rig.session.overlaps == ()
    rig.session.queue.judge(rig.session.whole)
    rig.commands.view.cancel()
    assert rig.worker.cancelled == 1 and isinstance(rig.worker.asked[-1], JudgeFit)


def test_parts_are_pulled_apart_along_their_axis_in_their_order() -> None:
    from lathed_solid.demo import FITS
    from lathed_solid.workbench.fit.exploded import drawn_out

    found = ls.solve(FITS["winch"]())
    away = drawn_out(found)
    y = {m.name: m.placement.at[1] + away.get(m.name, np.zeros(3))[1] for m in found.whole.members}
    assert y["gland nut"] < y["gland body"] < y["bush"] < y["drum"] < y["spindle"] < y["taper sleeve"] < y["crank hub"]
    assert "pedestal" not in away or not away["pedestal"].any()
    assert away["foot screw"][2] > 20 and abs(away["foot screw"][1]) < 1e-9  # heads rise out of their counterbores
    shown = FitBench(FitSession(lambda: None, Path("/nonexistent")))
    shown.session.solved = found
    assert shown.matrices()["spindle"][1][3] == pytest.approx(found.placements["spindle"].at[1])
    shown.pull_apart(True)
    assert shown.matrices()["spindle"][1][3] == pytest.approx(y["spindle"])


def test_every_action_of_the_desk_waits_for_its_desk(rig: FitRig) -> None:
    mine = [a for a in ACTIONS if a.id.startswith("fit-")]
    assert len(mine) > 15 and len({a.id for a in ACTIONS}) == len(ACTIONS)
    rig.bench.show_desk("shape")
    assert not any(a.enabled(rig.commands) for a in mine)
    for a in mine:
        assert a.title and (a.keys == "" or sum(b.keys == a.keys for b in ACTIONS) == 1), a.id


def test_a_relation_lights_what_it_holds_on_to(rig: FitRig) -> None:
    rig.session.edit("touch", lambda f: ls.relate(f, "touch", ("washer", "10/face.left"), ("flange", "10/face.right")))
    relation = rig.session.fit.relation(1)
    assert relation is not None
    assert rig.fit.lit_by(relation) == (("washer", "10/face.left"), ("flange", "10/face.right"))
    assert rig.fit.colour_of(rig.session.fit.by_name["washer"]).startswith("#")
    rig.session.edit("gone", lambda f: edits.exchange_part(f, "washer M8", ls.new_part("empty")))
    rig.settle()
    assert relation_rows(rig.session)[0].state == "left out"
    assert Ref(member="washer", feature="x").words == "washer x"
    assert rig.session.failed_parts() == {"washer M8": "it has no solid yet"}


def test_a_lost_face_is_picked_again(rig: FitRig) -> None:
    rig.session.edit("touch", lambda f: ls.relate(f, "touch", ("washer", "10/face.left"), ("flange", "10/face.right")))
    bare = ls.turned(ls.new_part("flange"), [ls.Station(key="A", diameter="120", length="6"),
                                             ls.Station(key="B", diameter="60", length="4")])  # fmt: skip
    rig.session.edit("gone", lambda f: edits.put_relation(f, 1, b=Ref(member="flange", feature="10/lip")))
    assert relation_rows(rig.session)[0].state == "left out"
    rig.session.edit("another flange", lambda f: edits.exchange_part(f, "flange", bare))
    rig.settle()
    rig.fit.choose_relation(1)
    rig.do("fit-pick-again")
    assert "pick what is meant on flange" in rig.words and "10/" in rig.words
    rig.pick("flange", "10/shoulder.A")
    rig.do("fit-pick-again")
    assert relation_rows(rig.session)[0].state == "holds"
    assert rig.session.whole.by_name["washer"].placement.at[0] == pytest.approx(6, abs=1e-9)
    rig.do("fit-pick-again")
    assert "nothing of this relation is gone" in rig.words


def test_a_member_is_mirrored_in_a_flat(rig: FitRig) -> None:
    rig.fit.choose_member("washer")
    rig.do("fit-mirror")
    assert "pick a flat" in rig.words
    rig.pick("flange", "10/face.left")
    rig.fit.choose_member("washer")
    rig.do("fit-mirror")
    twin = rig.session.whole.by_name["washer (2)"].placement
    first = rig.session.whole.by_name["washer"].placement
    # the flange's left face lies at x = 0: the twin's faces lie where the first's mirror images lie
    assert twin.at == pytest.approx((-first.at[0], first.at[1], first.at[2]), abs=1e-9)
    assert np.linalg.det(twin.rotation) == pytest.approx(1, abs=1e-12)
    assert (twin.rotation @ [1, 0, 0])[0] == pytest.approx(-(first.rotation @ [1, 0, 0])[0], abs=1e-12)
    rig.session.edit("turn", lambda f: edits.put_member(f, "washer", held=True))
    assert relation_rows(rig.session)[-1].kind == "mirror"


def test_a_member_drawn_out_by_hand_stays_so(rig: FitRig) -> None:
    rig.fit.choose_member("washer")
    rig.fit.pull_apart(True)
    before = rig.fit.matrices()["washer"][1][3]
    rig.fit.pull(np.array([0.0, 25.0, 0.0]))
    assert rig.fit.matrices()["washer"][1][3] == pytest.approx(before + 25)
    rig.fit.let_go()
    assert rig.session.fit.by_name["washer"].apart is not None
    assert rig.fit.matrices()["washer"][1][3] == pytest.approx(before + 25)
    assert rig.session.fit.by_name["washer"].placement.at[1] == pytest.approx(41)  # where it stands is another matter
    rig.do("fit-apart-anew")
    assert rig.fit.matrices()["washer"][1][3] == pytest.approx(before)
