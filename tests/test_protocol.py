"""What crosses the pipe comes out as it went in; what is no message is told, and nothing is executed."""

from __future__ import annotations

import math
from collections import deque
from multiprocessing import Pipe

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.demo import DEMOS
from lathed_solid.engine import protocol as p
from lathed_solid.engine.handlers import HANDLERS
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.results import StepResult
from lathed_solid.engine.telling import Telling
from lathed_solid.engine.worker import serve
from lathed_solid.kernel.figures import FaceChanges, Hand, Mark, SectionFigures, Thing, View
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.sketch.laid_edge import Edge

numbers = st.floats(allow_nan=False)
triples = st.tuples(numbers, numbers, numbers)
words = st.text(max_size=12)
REPORT = Report(rows=(), mass=None, complete=True)
SUMMARY = {"ok": True, "unit": "mm", "steps": [], "volume_mm3": 1.0, "solids": 1, "faces": 2, "edges": 3}

ANSWERS = st.one_of(
    st.builds(p.Progress, request=st.integers(0, 99), number=st.integers(0, 9), row=st.just(1), total=st.just(2)),
    st.builds(p.Failed, message=words),
    st.builds(p.Volumes, values=st.lists(st.one_of(st.none(), numbers), max_size=4).map(tuple)),
    st.builds(p.Compared, faces=st.builds(FaceChanges, *[st.lists(words, max_size=2).map(tuple)] * 3),
              masses=st.tuples(st.none(), numbers)),
    st.builds(p.Measured, sizes=st.lists(st.builds(Hand, words, numbers, words), max_size=2).map(tuple),
              section=st.one_of(st.none(), st.builds(SectionFigures, numbers, triples, st.tuples(numbers, numbers),
                                                     triples, triples)),
              mesh=st.one_of(st.none(), st.tuples(numbers, numbers))),
    st.builds(p.Viewed, report=st.just(REPORT), summary=st.just(SUMMARY),
              views=st.lists(st.builds(View, words, st.just(((0.0, 1.0, 2.0, 3.0),)), st.just(((4, 1.0, 2.0),))),
                             max_size=2).map(tuple)),
    st.builds(
        p.BuildReply, report=st.just(REPORT), summary=st.just(SUMMARY), shape=st.binary(max_size=40),
        steps=st.lists(st.builds(StepResult, st.integers(1, 90), words, st.booleans(), numbers), max_size=2).map(tuple),
        marks=st.lists(st.builds(Mark, triples, triples, numbers, numbers), max_size=2).map(tuple),
        outlines=st.dictionaries(st.integers(1, 90), st.just((Edge("a|b", "line", ((0.0, 1.0), (2.0, 3.0))),)),
                                 max_size=2)),
)  # fmt: skip


@given(ANSWERS)
def test_answers_come_out_as_they_went_in(answer: p.Answer) -> None:
    here, there = Pipe()
    with here, there:
        p.send(here, answer)
        assert p.receive_answer(there) == answer


@pytest.mark.parametrize("demo", sorted(DEMOS))
def test_documents_come_out_as_they_went_in(demo: str) -> None:
    part = DEMOS[demo]()
    things = (Thing("face", "10/sA", (1.0, math.inf, -0.0)),)
    here, there = Pipe()
    with here, there:
        for request in (
            p.Build(document=part, shape=False), p.Compare(old=Document(), document=part),
            p.FindVolumes(documents=(part, Document())), p.Export(document=part, path="/a/b.step"),
            p.MeasureByHand(document=part, things=things, section=(3.0, "y"), mesh=True), p.DrawViews(document=part),
        ):  # fmt: skip
            p.send(here, request.model_copy(update={"request": 7}))
            assert p.receive_request(there) == request.model_copy(update={"request": 7})


def test_what_a_newer_program_wrote_is_kept_on_its_way() -> None:
    text = '{"request": 3, "op": "build", "document": {"name": "a", "fancy": [1]}, "shape": true}'
    here, there = Pipe()
    with here, there:
        here.send_bytes(b"%08x" % len(text) + text.encode())
        request = p.receive_request(there)
    assert isinstance(request, p.Build) and request.document.kept == (("fancy", "[1]"),)


@pytest.mark.parametrize(
    "frame",
    [b"", b"zzzzzzzz{}", b"00000002{}", b"00000010" + b'{"request":5,"op', b"00000019" + b'{"request":5,"op":"shell"}'],
)
def test_what_is_no_message_is_told_with_its_number(frame: bytes) -> None:
    here, there = Pipe()
    with here, there:
        here.send_bytes(frame)
        with pytest.raises(p.Malformed) as told:
            p.receive_request(there)
    assert told.value.request == (5 if b'"request":5' in frame else 0)


def test_a_handler_that_breaks_is_an_answer(monkeypatch: pytest.MonkeyPatch) -> None:
    def broken(*_args: object) -> p.Answer:
        raise RuntimeError("no")

    monkeypatch.setitem(HANDLERS, p.Build, broken)
    here, there = Pipe()
    with here, there:
        serve(here, Engine(), p.Build(request=4, document=Document()), deque())
        answer = p.receive_answer(there)
    assert answer == p.Failed(request=4, message="the kernel failed: RuntimeError: no")


def test_every_request_is_answered_in_this_process(spindle: Document) -> None:
    """The handlers without a worker: figures that the demo is known by."""
    engine = Engine()
    telling = Telling()
    told = HANDLERS[p.Build](engine, p.Build(document=spindle), telling).with_picture(telling.pictured)
    assert told.report.counts["in"] == 29 and told.failed is None and len(told.labels) > 30 and told.shape
    volume = told.summary["volume_mm3"]
    found = HANDLERS[p.FindVolumes](engine, p.FindVolumes(documents=(spindle, Document())), Telling())
    assert found.values == (pytest.approx(volume), None)
    same = HANDLERS[p.Compare](engine, p.Compare(old=spindle, document=spindle), Telling())
    assert same.faces == FaceChanges((), (), ()) and same.masses[0] == same.masses[1]
    hand = p.MeasureByHand(document=spindle, things=(Thing("face", "10/sB", (35.0, 0.0, 12.5)),), mesh=True)
    sizes = HANDLERS[p.MeasureByHand](engine, hand, Telling())
    assert next(s.value for s in sizes.sizes if s.label == "diameter") == 25
    assert sizes.mesh is not None and abs(sizes.mesh[0] - volume) < 5 * sizes.mesh[1] + 1e-3 * volume
