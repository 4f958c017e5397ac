"""Cuts that go into the material: the typed depth on one side, from the sketch's face, whichever way it looks."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import DatumPlane, Document, FacePlane, edits
from lathed_solid.part.steps import KINDS
from lathed_solid.workbench.sketch.plane import planes_for
from lathed_solid.workbench.step_forms.extrude import BEGIN

BLOCK = 60.0 * 40.0 * 20.0


def _block(plane: str = "") -> Document:
    """60 x 40 x 20 about the z axis from z = 0, with a 10 x 10 square about it on a face or datum plane."""
    base = ls.Draft()
    ls.shapes.rectangle(base, (-30, -20), (30, 20))
    part = ls.extrude(ls.sketch(ls.note(ls.new_part("block"), "20", 1), base), 10, "#1")
    square = ls.Draft()
    ls.shapes.rectangle(square, (-5, -5), (5, 5))
    return ls.sketch(part, square, plane) if plane else ls.sketch(part, square)


def _cut(part: Document, **values: object) -> Document:
    sketch = part.steps[-1].number
    begun = BEGIN[1](part, {}) | {"sketch": sketch} | values
    return edits.put_step(part, KINDS["extrude"](number=sketch + 10, **begun))


@pytest.mark.parametrize(("face", "low"), [("20/end", 12.0), ("20/start", 0.0), ("XY", 0.0)])
def test_a_typed_depth_is_that_depth_into_the_block(face: str, low: float) -> None:
    part = _cut(_block("" if face == "XY" else face), distance="8")
    built = ls.build(part)
    assert built.volume == pytest.approx(BLOCK - 800, rel=1e-12)
    middle = (BLOCK * 10 - 800 * (low + 4)) / (BLOCK - 800)
    assert built.centre[2] == pytest.approx(middle, rel=1e-9), "the pocket lies where it was begun"


def test_a_cut_begins_through_all_and_through_both_sides_of_a_plane_within() -> None:
    part = _block()
    raised = edits.changed(part.steps[-1], plane=DatumPlane())
    part = edits.put_step(part, raised)
    assert ls.build(_cut(part)).volume == pytest.approx(BLOCK - 2000, rel=1e-12)
    assert ls.build(_cut(_block("20/end"))).volume == pytest.approx(BLOCK - 2000, rel=1e-12)


def test_a_length_to_the_other_side_and_an_offset_start_follow_the_way() -> None:
    deep = ls.build(_cut(_block("20/end"), distance="8", start="2"))
    assert deep.volume == pytest.approx(BLOCK - 800, rel=1e-12)
    assert deep.centre[2] == pytest.approx((BLOCK * 10 - 800 * 14) / (BLOCK - 800), rel=1e-9)
    flush = ls.build(_cut(_block("20/end"), distance="8", second="3"))
    assert flush.volume == pytest.approx(BLOCK - 800, rel=1e-12), "3 to the other side is air"


def test_what_is_kept_in_common_lies_in_the_material() -> None:
    kept = ls.build(_cut(_block("20/end"), mode="common", distance="8"))
    assert kept.volume == pytest.approx(800, rel=1e-12)
    assert kept.centre[2] == pytest.approx(16, rel=1e-9)


# ends at round faces, and the next that is met --------------------------------------------------------
def _tube(outer: float = 30.0, inner: float = 20.0) -> Document:
    """A tube about the z axis, 80 long."""
    d = ls.Draft()
    for r in (outer, inner):
        d.circle(d.point(0, 0), r)
    return ls.extrude(ls.sketch(ls.new_part("tube"), d), 10, "80")


def _square(part: Document, plane: DatumPlane, at: tuple[float, float], size: float = 5.0) -> Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, (at[0] - size, at[1] - size), (at[0] + size, at[1] + size))
    return edits.put_step(part, KINDS["sketch"](number=30, plane=plane, sketch=d.done()))


def _strip(radius: float, half: float) -> float:
    """Integral of sqrt(r^2 - x^2) over -half..half."""
    return half * math.sqrt(radius**2 - half**2) + radius**2 * math.asin(half / radius)


def _step(part: Document, **values: object) -> Document:
    return edits.put_step(part, KINDS["extrude"](number=40, sketch=30, **values))


def test_a_cut_to_next_from_the_middle_of_a_tube_goes_through_one_wall() -> None:
    part = _square(_tube(), DatumPlane(plane="XZ"), (0.0, 40.0))
    whole = ls.build(_tube()).volume
    wall = 10 * (_strip(30, 5) - _strip(20, 5))
    for side in ("front", "back"):
        cut = ls.build(_step(part, mode="cut", distance=None, until="next", side=side))
        assert whole - cut.volume == pytest.approx(wall, rel=1e-6)
        assert (cut.centre[1] > 0) == (side == "front"), "XZ looks along -y: its front is there"


def test_material_goes_up_to_a_round_face_from_without_and_from_within() -> None:
    whole = ls.build(_tube()).volume
    before = DatumPlane(plane="XZ", offset="-50")
    boss = ls.build(_step(_square(_tube(), before, (0.0, 40.0)), until="20/c1", distance=None, side="front"))
    assert boss.volume - whole == pytest.approx(10 * (10 * 50 - _strip(30, 5)), rel=1e-6)
    rib = ls.build(_step(_square(_tube(), DatumPlane(plane="XZ"), (0.0, 40.0)), until="20/c2", distance=None))
    assert rib.volume - whole == pytest.approx(10 * _strip(20, 5), rel=1e-6)
    deeper = _step(_square(_tube(), DatumPlane(plane="XZ"), (0.0, 40.0)), until="20/c2", until_offset="4", mode="cut",
                   distance=None)  # fmt: skip
    assert whole - ls.build(deeper).volume == pytest.approx(10 * (_strip(24, 5) - _strip(20, 5)), rel=1e-6)


@pytest.mark.parametrize(
    ("at", "values", "words"),
    [
        ((100.0, 40.0), {}, "does not reach that face"),
        ((0.0, 40.0), {"until_offset": "-60"}, "passed by more than its radius"),
        ((0.0, 40.0), {"until": "20/c9"}, "the face 20/c9 is gone"),
    ],
)
def test_a_round_face_that_is_not_met_is_refused_in_words(at: tuple[float, float], values: dict, words: str) -> None:
    part = _square(_tube(), DatumPlane(plane="XZ"), at)
    built = ls.build(_step(part, **{"until": "20/c1", "distance": None, **values}))
    (message,) = [s.message for s in built.built.steps if not s.ok]
    assert words in message


def test_a_datum_plane_is_meant_by_its_step_alone_and_carries_a_sketch() -> None:
    base = ls.Draft()
    ls.shapes.rectangle(base, (-30, -20), (30, 20))
    part = ls.extrude(ls.sketch(ls.new_part("block"), base), 10, "20")
    part = edits.put_step(part, KINDS["plane"](number=30, way="offset", names=("XY",), distance="35"))
    d = ls.Draft()
    ls.shapes.rectangle(d, (-5, -5), (5, 5))
    part = edits.put_step(part, KINDS["sketch"](number=40, plane=FacePlane(face="20/end"), sketch=d.done()))
    for name in ("30", "30/plane"):
        grown = edits.put_step(part, KINDS["extrude"](number=50, sketch=40, until=name, distance=None))
        assert ls.build(grown).volume == pytest.approx(60 * 40 * 20 + 100 * 15, rel=1e-12)
    step = part.steps[-1]
    assert planes_for(part, step) == ["XY", "XZ", "YZ", "30/plane", "20/end"]  # type: ignore[arg-type]
