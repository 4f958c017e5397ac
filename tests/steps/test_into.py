"""Cuts that go into the material: the typed depth on one side, from the sketch's face, whichever way it looks."""

from __future__ import annotations

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import DatumPlane, Document, edits
from lathed_solid.part.steps import KINDS
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
