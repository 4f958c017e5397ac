"""Where the step of a note goes: after the row where work stands, from the end of the body that was picked."""

from __future__ import annotations

import math
from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.kernel.figures import Picked
from lathed_solid.part import Document, edits
from lathed_solid.part.steps import HoleStep, MirrorStep, Radial

from .fakes import Rig


def _rod(plane: str = "XY", start: str = "0") -> Document:
    """A round bar of 40, extruded 100."""
    d = ls.Draft()
    circle = d.circle(d.point(0, 0), 20)
    d.add("fixed", d.entities[circle].points[0])
    d.add("diameter", circle, value="40")
    part = ls.extrude(ls.sketch(ls.new_part("bar"), d), 10, "100")
    step = part.steps[-1]
    sketch = part.steps[0]
    part = edits.put_step(part, edits.changed(sketch, plane=edits.changed(sketch.plane, plane=plane)))
    return edits.put_step(part, edits.changed(step, start=start))


def _pick(rig: Rig, name: str, point: tuple[float, float, float], surface: str) -> None:
    rig.bench.pick(Picked("face", (name,), point, surface=surface, place=point[:2] if surface == "plane" else None))


@pytest.mark.parametrize(
    ("plane", "start", "point"),
    [("XY", "0", (20.0, 0.0, 30.04)), ("XY", "-10", (0.0, 20.0, 20.0)), ("YZ", "0", (30.0, 20.0, 0.0))],
)
def test_a_hole_in_a_round_bar_is_placed_from_its_own_end(
    tmp_path: Path, plane: str, start: str, point: tuple[float, float, float]
) -> None:
    part = _rod(plane, start)
    rig = Rig(tmp_path, part)
    rig.settle()
    _pick(rig, "20/c1", point, "cylinder")
    assert rig.commands.ledger.take("⌀5 THRU")
    step = rig.session.document.steps[-1]
    assert isinstance(step, HoleStep) and isinstance(step.places, Radial)
    assert (step.places.datum, step.places.at) == ("20/start", "30")
    assert ls.build(rig.session.document).volume < ls.build(part).volume - 700, "the hole goes through the bar"


def test_the_step_of_a_note_goes_in_where_work_stands(tmp_path: Path) -> None:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 10), (60, 40))
    part = ls.extrude(ls.sketch(ls.new_part("half"), d), 10, "12")
    part = edits.put_step(part, MirrorStep(number=30, plane="YZ"))
    rig = Rig(tmp_path, part)
    rig.settle()
    rig.bench.choose_step(20)
    rig.commands.route.stand_here()
    _pick(rig, "20/end", (20.0, 20.0, 12.0), "plane")
    assert rig.commands.ledger.take("⌀8 THRU")
    document = rig.session.document
    assert [s.kind for s in document.steps] == ["sketch", "extrude", "hole", "mirror"]
    assert rig.bench.step == document.steps[2].number == rig.session.stand
    rig.commands.route.stand_at_end()
    built = ls.build(document)
    plain = ls.build(part)
    assert plain.volume - built.volume == pytest.approx(2 * 16 * math.pi * 12, rel=1e-9), "mirrored with it"


def test_names_follow_when_there_was_no_room_between_two_steps(tmp_path: Path) -> None:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (60, 40))
    part = ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "12")
    rig = Rig(tmp_path, part)
    for at in ((10.0, 10.0), (30.0, 10.0), (50.0, 10.0), (10.0, 30.0), (30.0, 30.0), (50.0, 30.0)):
        rig.settle()
        rig.session.stand_at(part.steps[1].number)
        part = rig.session.document
        carrying = f"{part.steps[1].number}/end"
        rig.bench.pick(Picked("face", (carrying,), (*at, 12.0), surface="plane", place=at))
        assert rig.commands.ledger.take("⌀5 THRU")
    document = rig.session.document
    assert len(document.steps) == 8 and all(s.face == f"{document.steps[1].number}/end" for s in document.steps[2:])
    assert ls.build(document).volume == pytest.approx(60 * 40 * 12 - 6 * math.pi * 2.5**2 * 12, rel=1e-9)
