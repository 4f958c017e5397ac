"""The Hand over desk without a window, on a kernel that works in this process."""

from __future__ import annotations

import zipfile
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

import pytest

pytest.importorskip("OCP")

from lathed_solid.demo import DEMOS
from lathed_solid.engine import protocol
from lathed_solid.engine.at_hand import engine
from lathed_solid.engine.handlers import HANDLERS
from lathed_solid.engine.telling import Telling
from lathed_solid.errors import LathedError
from lathed_solid.kernel.figures import Picked
from lathed_solid.part import Document
from lathed_solid.viewer.finishes import FINISHES, Coated, Finish
from lathed_solid.viewer.shots import Shot
from lathed_solid.workbench.actions import ACTIONS, find_action, run_action
from lathed_solid.workbench.commands.hand_over import HandOverCommands
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.hand_over.pictures import PictureWish, coat_rows, order
from lathed_solid.workbench.hand_over.rows import note_rows, sums, way_rows
from workbench.fakes import Immediate, Rig


class InProcess:
    """Answers at once; ``asked`` is kept."""

    def __init__(self) -> None:
        self.asked: list[protocol.Request] = []
        self.closed = False

    def answer(self, request: protocol.Request, of: type) -> Any:
        self.asked.append(request)
        return HANDLERS[type(request)](engine(), request, Telling())

    def kill(self) -> None:
        self.closed = True

    def close(self) -> None:
        self.closed = True


class Later:
    """Work beside the window that is done when it is told to be."""

    def __init__(self) -> None:
        self.waiting: list[Callable[[], object]] = []

    def run(self, work: Callable[[], Any], done: Callable[[Any], object], failed: Callable[[str], object]) -> int:
        self.waiting.append(lambda: Immediate().run(work, done, failed))
        return len(self.waiting)

    def do_all(self) -> None:
        while self.waiting:
            self.waiting.pop(0)()


@pytest.fixture
def rig(tmp_path: Path) -> Rig:
    rig = Rig(tmp_path, DEMOS["crank-hub"]())
    rig.settle()
    rig.answers = InProcess()
    return rig


def do(rig: Rig, action: str) -> None:
    found = find_action(action)
    assert found is not None
    run_action(found, rig.commands)


def test_the_drawing_is_made_once_for_each_value_of_the_part(rig: Rig) -> None:
    maker: Maker = rig.maker
    came: list[int] = []
    maker.drawn.connect(lambda: came.append(len(maker.sheets)))
    maker.want_drawing(rig.document)
    maker.want_drawing(rig.document)
    assert came == [1] and maker.sheets[0].size == "A4"
    asked = len(rig.answers.asked)
    rig.commands.hand_over.restyle(size="A3", angle="third")
    assert rig.document.drawing.size == "A3" and rig.session.history.undo_label == "the drawing's sheet"
    maker.want_drawing(rig.document)
    # another sheet asks the geometry for nothing
    assert came == [1, 1] and maker.sheets[0].size == "A3" and len(rig.answers.asked) == asked
    rig.commands.hand_over.restyle(size="A3")
    assert rig.session.history.undo_label == "the drawing's sheet"
    rig.commands.hand_over.move(2, "", 5.0, -4.0)
    maker.want_drawing(rig.document)
    moved = next(d for d in maker.sheets[0].dimensions if d.balloons == (2,))
    do(rig, "put-back")
    assert not rig.document.drawing.moved
    maker.want_drawing(rig.document)
    back = next(d for d in maker.sheets[0].dimensions if d.balloons == (2,))
    assert moved.row - back.row == pytest.approx(-4)
    do(rig, "undo")
    assert rig.document.drawing.moved


def test_what_is_overtaken_is_not_told(tmp_path: Path) -> None:
    later, kernel = Later(), InProcess()
    maker = Maker(lambda: kernel, later)  # type: ignore[arg-type, return-value]
    came: list[str] = []
    busy: list[bool] = []
    maker.drawn.connect(lambda: came.append(maker.sheets[0].name))
    maker.busy_changed.connect(busy.append)
    first = DEMOS["crank-hub"]()
    second = first.model_copy(update={"name": "another hub"})
    maker.want_drawing(first)
    maker.want_drawing(second)
    assert maker.busy and not came
    later.do_all()
    assert came == ["another hub"] and busy == [True, False]
    maker.close()
    assert kernel.closed


def test_a_picture_is_taken_as_it_is_wished(rig: Rig, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    taken: list[tuple[Finish, Shot]] = []
    coated: list[tuple[Coated, ...]] = []

    def take(
        data: bytes, finish: Finish, shot: Shot, _started: object, _tell: object, coats: Sequence[Coated]
    ) -> bytes:
        assert data == rig.session.reply.shape
        taken.append((finish, shot))
        coated.append(tuple(coats))
        return b"a picture"

    monkeypatch.setattr("lathed_solid.viewer.picture_process.taken", take)
    hand, maker = rig.commands.hand_over, rig.maker
    hand.wish = PictureWish(finish="brass", size="3840x2400", floor=True)
    order = hand.picture_order(rig.view.eye())
    maker.want_picture(order.looked_at())
    maker.want_picture(order.looked_at())
    assert len(taken) == 1 and maker.picture == b"a picture"
    finish, shot = taken[0]
    assert finish == FINISHES["brass"] and finish.colour.startswith("#")
    assert (shot.width, shot.height, shot.eye, shot.floor) == (1280, 800, (0.0, -1.0, 0.0), True)
    rig.ask.path = tmp_path / "hub"
    do(rig, "picture")
    assert (tmp_path / "hub.png").read_bytes() == b"a picture" and taken[-1][1].width == 3840
    hand.write_picture(None, 12)
    assert (tmp_path / "hub.gif").exists() and (taken[-1][1].frames, taken[-1][1].film) == (12, "GIF")
    rig.ask.path = tmp_path / "hub.apng"
    hand.write_picture(None, 12)
    assert (tmp_path / "hub.apng").exists() and taken[-1][1].film == "APNG"
    hand.wish = PictureWish(side="inside")
    hand.write_picture(None)
    assert rig.bad and "no such side" in rig.words
    assert not any(coated)


def test_pictures_are_remembered_and_finishes_are_undone(rig: Rig) -> None:
    hand = rig.commands.hand_over
    hand.wish = PictureWish("paint #336699", "1,-2,0.5", "640x480", floor=True, lens="85 mm")
    for wrong in (" ", "x" * 61):
        hand.remember(wrong, None)
        assert rig.bad and "by a name" in rig.words
    hand.remember("cover", None)
    (kept,) = rig.session.document.pictures
    assert (kept.name, kept.eye, kept.lens, kept.width, kept.floor) == ("cover", (1.0, -2.0, 0.5), 85.0, 640, True)
    assert PictureWish.of(kept) == hand.wish
    hand.wish = PictureWish(side="top")
    hand.remember("cover", None)  # another of the same name, in its place
    assert [p.eye for p in rig.session.document.pictures] == [(0.0, 0.0, 1.0)]
    hand.forget("back")
    assert rig.bad and rig.session.document.pictures
    hand.forget("cover")
    assert not rig.session.document.pictures

    body = engine().build(rig.document).body
    assert body is not None
    reply = rig.session.reply.model_copy(update={"labels": list(body.labels)})
    rows = coat_rows(rig.document, reply)
    step, face = rows[0], rows[1]
    assert step.of == f"step {face.of.partition('/')[0]}" and not any(r.finish for r in rows)
    hand.coat(face.of, "gold leaf")
    assert rig.bad and "no such finish" in rig.words and not rig.session.document.coats
    hand.coat(face.of, "polished")
    hand.coat(step.of, "brass")
    hand.coat("999/gone", "zinc")  # there is no such face: nothing is asked of the renderer for it
    whole, one = order(hand.wish, rig.document, reply, None).coats
    assert whole.finish == FINISHES["brass"] and set(one.faces) < set(whole.faces) and one.finish.rough == 0.08
    assert {r.of: r.finish for r in coat_rows(rig.document, reply) if r.finish} == {
        face.of: "polished", step.of: "brass"}  # fmt: skip
    hand.coat(face.of, "")
    assert [c.of for c in rig.session.document.coats] == [step.of, "999/gone"]
    do(rig, "undo")
    assert face.of in [c.of for c in rig.session.document.coats]


def test_failures_are_told_and_tried_again(rig: Rig) -> None:
    maker: Maker = rig.maker
    failed: list[tuple[str, str]] = []
    maker.failed.connect(lambda what, why: failed.append((what, why)))
    nothing = Document(name="nothing")
    maker.want_drawing(nothing)
    maker.want_machinist(nothing)
    assert [w for w, _ in failed] == ["drawing", "machinist"] and "no solid" in failed[0][1]
    assert maker.sheets == () and rig.bad
    maker.forget()
    maker.want_drawing(rig.document)
    assert maker.sheets


def test_everything_is_written_where_it_is_asked(rig: Rig, tmp_path: Path) -> None:
    hand: HandOverCommands = rig.commands.hand_over
    for action, name, head in (
        ("drawing", "d.pdf", b"%PDF"), ("drawing", "d.dxf", b"  0"), ("drawing", "d.svg", b"<?xml"),
        ("machinist", "m.pdf", b"%PDF"), ("machinist", "m.csv", b"id,"), ("machinist", "m.json", b"{"),
        ("package", "p.zip", b"PK"),
    ):  # fmt: skip
        rig.ask.path = tmp_path / name
        do(rig, action)
        assert (tmp_path / name).read_bytes().startswith(head), name
        assert "written" in rig.words and not rig.bad
    with zipfile.ZipFile(tmp_path / "p.zip") as archive:
        assert "manifest.json" in archive.namelist()
    for ending in (".step", ".stl", ".3mf", ".glb"):
        rig.ask.path = tmp_path / f"solid{ending}"
        hand.write_solid(ending, 0.1)
        assert (tmp_path / f"solid{ending}").stat().st_size > 100
    rig.ask.path = tmp_path / "none"
    do(rig, "drawing")
    assert (tmp_path / "none.pdf").exists()  # without an ending it is the first kind
    rig.ask.path = tmp_path / "no folder" / "d.pdf"
    do(rig, "drawing")
    assert rig.bad
    rig.ask.path = None
    do(rig, "package")  # given up: nothing happens


def test_faces_and_sections_want_something_picked(rig: Rig, tmp_path: Path) -> None:
    hand: HandOverCommands = rig.commands.hand_over
    hand.write_face(0.02)
    assert rig.bad and "pick a flat face" in rig.words
    rig.bench.pick(Picked("face", ("10/sA",), (0.0, 0.0, 0.0), surface="cylinder"))
    hand.write_face(0.02)
    assert "pick a flat face" in rig.words
    rig.bench.pick(Picked("face", ("10/face.left",), (0.0, 0.0, 0.0), surface="plane"))
    rig.ask.path = tmp_path / "f.dxf"
    hand.write_face(0.02)
    assert (tmp_path / "f.dxf").exists()
    hand.write_section(None, 0.02)
    assert rig.bad and "cut the solid open" in rig.words
    rig.ask.path = tmp_path / "s.svg"
    hand.write_section((10.0, "x"), 0.02)
    assert (tmp_path / "s.svg").exists()


def test_rows_of_notes_and_of_work(rig: Rig) -> None:
    rig.maker.want_drawing(rig.document)
    rows = note_rows(rig.maker.sheets)
    assert [r.balloon for r in rows] == sorted(c.balloon for c in rig.document.callouts)
    assert all(r.where == "front" and not r.why for r in rows) and note_rows(()) == []
    reply = HANDLERS[protocol.Build](engine(), protocol.Build(document=rig.document, shape=False), Telling())
    ways = way_rows(rig.document, reply)
    assert [w.number for w in ways] == [s.number for s in rig.document.steps]
    assert ways[0].volume is not None and ways[0].volume > 0 and all((w.volume or 0) < 0 for w in ways[1:2])
    assert sum(w.volume or 0 for w in ways) == pytest.approx(reply.summary["volume_mm3"], rel=1e-4)
    told = sums(rig.document, reply)
    assert told.steps == len(ways) and told.entries == sum(w.entries for w in ways) > len(ways)
    assert told.grams == reply.summary.get("mass_g")


def test_impossible_moves_are_refused(rig: Rig) -> None:
    before = rig.document
    for x in (float("nan"), float("inf")):
        with pytest.raises((LathedError, ValueError)):
            before.drawing.with_move(2, "", x, 0.0)
    assert before.drawing.with_move(2, "", 1e9, -1e9).moved[0].x == 2000


def test_no_two_actions_have_one_key() -> None:
    keys = [a.keys for a in ACTIONS if a.keys]
    assert len(set(keys)) == len(keys)
