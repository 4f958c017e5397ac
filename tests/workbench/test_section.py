"""The section of a step as a drawing: outlines and sizes by its figures, each size leading to its field."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import edits
from lathed_solid.workbench.step_forms import rows_of
from lathed_solid.workbench.step_forms.section import SECTIONS, StepSection, section_of, usual_sizes


def drawn(**values: object) -> StepSection:
    part = ls.hole(plate(), "20/end", **{"diameter": "8.5", **values})  # type: ignore[arg-type]
    found = section_of(part, part.steps[-1])
    assert found is not None
    return found


def plate(unit: str = "mm") -> ls.Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, (-40, -26), (40, 26))
    return ls.extrude(ls.sketch(ls.new_part("plate", unit=unit), d), 10, "20" if unit == "mm" else "1")


def texts(section: StepSection) -> dict[str, str]:
    return {s.path: s.text for s in section.sizes}


def test_a_blind_hole_ends_in_its_drill_point() -> None:
    found = drawn(depth="20")
    assert texts(found) == {"diameter": "⌀8.5", "depth": "20", "point": "118°"}
    tip = max(y for x, y in found.outline if x == 0.0 and y < max(q for _, q in found.outline))
    assert tip == pytest.approx(20 + 4.25 / math.tan(math.radians(59)))
    assert drawn(depth="20", point=None).sizes and (4.25, 20.0) in drawn(depth="20", point=None).outline


def test_only_what_applies_is_shown() -> None:
    bored = drawn(cbore_diameter="15", cbore_depth="9")
    assert texts(bored) == {"cbore_diameter": "⌴ ⌀15", "cbore_depth": "9", "diameter": "⌀8.5", "depth": "through"}
    assert {(7.5, 0.0), (7.5, 9.0), (4.25, 9.0)} <= set(bored.outline)
    sunk = drawn(csk_diameter="17", csk_angle="90°")
    assert texts(sunk)["csk_diameter"] == "⌵ ⌀17" and texts(sunk)["csk_angle"] == "90°"
    assert any(x == 4.25 and y == pytest.approx(4.25) for x, y in sunk.outline)
    drill = drawn(cdrill_diameter="12", cdrill_depth="5")
    assert texts(drill)["cdrill_depth"] == "5"


def test_a_tapped_hole_shows_its_thread_as_a_thin_line() -> None:
    tapped = drawn(diameter="", thread="M8", depth="22", thread_depth="16")
    assert texts(tapped)["thread"] == "M8" and texts(tapped)["thread_depth"] == "16" and "diameter" not in texts(tapped)
    assert tapped.thin == ((4.0, 0.0, 16.0),)


def test_every_size_leads_to_a_row_of_the_form() -> None:
    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="25", length="60")])
    groove = ls.step(rod, "groove", face="10/sA", from_face="10/face.left", at="8")
    centre = ls.step(rod, "centre", face="10/face.left", pilot="2.5")
    bore = ls.hole(plate(), "20/end", "8", depth="20", csk_diameter="14")
    for part in (groove, centre, bore):
        step = part.steps[-1]
        found = section_of(part, step)
        assert found is not None and step.kind in SECTIONS
        assert {s.path for s in found.sizes} <= {r.path for r in rows_of(step.kind)}
    ring = section_of(groove, groove.steps[-1])
    assert ring is not None and ring.along
    assert texts(ring) == {"at": "8", "width": "1.3 DIN 471", "diameter": "⌀23.9 DIN 471"}


def test_a_keyway_and_a_thread_are_cut_along_the_shaft() -> None:
    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="25", to="60")])
    where = {"face": "10/sA", "from_face": "10/face.left"}
    part = ls.step(rod, "keyway", at="5", length="32", **where)
    seat = section_of(part, part.steps[-1])
    assert seat is not None and texts(seat) == {
        "at": "5",
        "length": "32",
        "depth": "4 deep ISO 773",
        "width": "8 wide ISO 773",
    }
    assert {(5.0, -8.5), (37.0, -8.5)} <= set(seat.outline), "the floor is 4 below the shaft's 12.5"
    part = ls.step(rod, "keyway", at="0", length=None, width="6", depth="3", **where)
    open_seat = section_of(part, part.steps[-1])
    assert open_seat is not None and texts(open_seat) == {"length": "all along", "depth": "3 deep", "width": "6 wide"}
    part = ls.step(rod, "thread", face="10/sA", designation="M24x2", length="20", left=True)
    thread = section_of(part, part.steps[-1])
    assert thread is not None and {s.text for s in thread.sizes} == {"20", "M24x2 LH", "minor ⌀21.546  P2"}
    ((level, start, end),) = thread.thin
    assert (level, start, end) == (pytest.approx(-12 + 1.226869, abs=1e-5), 0.0, 20.0), "17/24 H, H = 0.866025 P"
    assert {s.path for s in (*seat.sizes, *thread.sizes)} <= {r.path for k in ("keyway", "thread") for r in rows_of(k)}
    assert usual_sizes(part, ls.step(rod, "keyway", **where).steps[-1]).keys() == {"key by the diameter, ISO 773"}
    bored = ls.step(plate(), "thread", face="20/l1", designation="M8")
    assert section_of(bored, bored.steps[-1]) is None


def test_what_cannot_be_drawn_is_not() -> None:
    part = ls.hole(plate(), "20/end", "5", cbore_diameter="4", cbore_depth="2")
    assert section_of(part, part.steps[-1]) is None and section_of(part, part.steps[0]) is None
    loose = ls.step(plate(), "groove", face="20/l1", from_face="20/end", at="3")
    assert section_of(loose, loose.steps[-1]) is None


@pytest.mark.parametrize(("name", "removed"), [
    ("cap screw M6", math.pi * (3.3**2 * 20 + (5.5**2 - 3.3**2) * 6.8)),
    ("cap screw M18", math.pi * (10**2 * 20 + (15**2 - 10**2) * 18.6)), ("clearance M6", math.pi * 3.3**2 * 20),
    ("tapped M6", math.pi * 2.5**2 * 20),
])  # fmt: skip
def test_a_usual_size_fills_all_fields_at_once(name: str, removed: float) -> None:
    part = ls.hole(plate(), "20/end", "9", csk_diameter="15")
    step = part.steps[-1]
    filled = edits.put_step(part, edits.changed(step, **usual_sizes(part, step)[name]))
    solid = ls.build(filled)
    assert solid.messages == [] and solid.volume == pytest.approx(80 * 52 * 20 - removed, rel=1e-9)
    inch = ls.hole(plate("in"), "20/end", ".3")
    again = edits.put_step(inch, edits.changed(inch.steps[-1], **usual_sizes(inch, inch.steps[-1])["clearance M6"]))
    assert ls.build(again).messages == [], "metric sizes say so in an inch part"
    screw = edits.changed(inch.steps[-1], **usual_sizes(inch, inch.steps[-1])["cap screw 1/4"])
    cut = ls.build(plate("in")).volume - ls.build(edits.put_step(inch, screw)).volume
    assert cut == pytest.approx(25.4**3 * math.pi / 4 * (0.281**2 * 0.75 + 0.4375**2 * 0.25), rel=1e-9)
    assert not any(name.endswith("1/4") for name in usual_sizes(part, step)), "for parts in inches only"


def test_a_groove_in_a_bore_is_cut_into_what_lies_about_it() -> None:
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter="30", depth=None),))]
    ring = ls.turned(ls.new_part("ring"), [ls.Station(key="A", diameter="50", length="20")], bores=bores)
    where = {"face": "10/bore.right.1", "from_face": "10/face.left"}
    part = ls.step(ring, "groove", at="6", width="8", diameter="38", **where)
    found = section_of(part, part.steps[-1])
    assert found is not None and texts(found) == {"at": "6", "width": "8", "diameter": "⌀38"}
    heights = [-y for _, y in found.outline]
    assert heights == [25, 15, 15, 19, 19, 15, 15, 25], "from the outside to the bore, the groove between"
    open_size = ls.step(ring, "groove", at="6", **where)
    assert section_of(open_size, open_size.steps[-1]) is None
    assert section_of(*(lambda p: (p, p.steps[-1]))(ls.step(ring, "groove", at="6", face="10/bore.left.1",
                                                         from_face="10/face.left"))) is None  # fmt: skip
