"""First models of plates: what is proposed without a question is the plate that was drawn, in volume and place."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from dimensioned_plates import sheet
from drawn_plates import drawn
from drawn_plates import sheet as stepped_sheet
from drilled_plates import drilled_plate
from effort import some
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.ledger import Callout, Span
from lathed_solid.part import Document
from lathed_solid.part.proposals import ProposalError, propose_plate
from lathed_solid.part.proposals.coordinates import axis_of
from lathed_solid.part.proposals.drawn import DrawnNote
from lathed_solid.reports.drawing.files import write_drawing
from lathed_solid.sheets.client import NoteCandidate, read_linework
from lathed_solid.sheets.drawn_views import DrawnView
from lathed_solid.sheets.plate_outline import PlateFace, is_bare, plate_face
from lathed_solid.sheets.strokes import Linework, Stroke

EXERCISES = Path(__file__).parent.parent / "src" / "lathed_solid" / "exercises" / "sheets"


# what a view shows ---------------------------------------------------------------------------------
def face_of(*runs: list[tuple[float, float]]) -> PlateFace | None:
    points = np.vstack([np.array(r) for r in runs])
    box = (*map(float, points.min(axis=0)), *map(float, points.max(axis=0)))
    return plate_face(DrawnView(tuple(Stroke(np.array(r, float), 0.5) for r in runs), box))  # type: ignore[arg-type]


def arc(x: float, y: float, r: float, start: float, turn: float, n: int = 16) -> list[tuple[float, float]]:
    angles = (math.radians(start + turn * k / n) for k in range(n + 1))
    return [(x + r * math.cos(a), y + r * math.sin(a)) for a in angles]


@settings(max_examples=60, deadline=None)
@given(st.floats(20, 150), st.floats(20, 150), st.floats(2, 8), st.integers(6, 24), st.floats(1.2, 6), st.booleans())
def test_a_rounded_plate_with_a_hole_and_a_slot(
    w: float, h: float, r: float, chords: int, hole: float, joined: bool
) -> None:
    centres = ((w - r, h - r, 0), (r, h - r, 90), (r, r, 180), (w - r, r, 270))
    corners = [arc(x + 30, y + 40, r, start, 90, chords) for x, y, start in centres]
    if joined:
        rim = [[p for run in corners for p in run]]
        rim[0].append(rim[0][0])
    else:
        rim = [*corners, *([a[-1], b[0]] for a, b in zip(corners, corners[1:] + corners[:1], strict=True))]
    x, y = 30 + w / 3, 40 + h / 2
    slot = [*arc(x + w / 3 + 2, y, 1.5, -90, 180), *arc(x + w / 3 - 2, y, 1.5, 90, 180)]
    face = face_of(*rim, arc(x, y, min(hole, w / 9), 0, 360, 48), [*slot, slot[0]])
    assert face is not None and not face.unexplained
    assert sorted((round(c.x), round(c.y)) for c in face.corners) == sorted(
        (round(a), round(b)) for a in (0, face.width) for b in (0, face.height)
    )
    assert all(c.round == pytest.approx(r, abs=0.05) for c in face.corners)
    (circle,), (loop,) = face.circles, face.slots
    assert (circle.x, circle.y, circle.radius) == pytest.approx((w / 3, h / 2, min(hole, w / 9)), abs=0.03)
    assert (loop.x, loop.y, loop.long, loop.wide) == pytest.approx((2 * w / 3, h / 2, 4, 3), abs=0.03)
    assert not loop.upright and not is_bare(face)


def test_what_is_no_hole_is_not_explained_and_other_curves_are_refused() -> None:
    box = [(0.0, 0.0), (60.0, 0.0), (60.0, 40.0), (0.0, 40.0), (0.0, 0.0)]
    bare = face_of(box)
    assert bare is not None and is_bare(bare)
    step = face_of(box, [(20.0, 0.0), (20.0, 40.0)])
    assert step is not None and step.unexplained == ((10.0, 20.0),)
    loose = face_of(box, [(20.0, 10.0), (30.0, 10.0)])
    assert loose is not None and loose.unexplained == ((25.0, 10.0),)
    pocket = face_of(box, [(10.0, 10.0), (30.0, 10.0), (30.0, 30.0), (10.0, 30.0), (10.0, 10.0)])
    assert pocket is not None and not pocket.unexplained and not is_bare(pocket)
    assert [len(p.corners) for p in pocket.pockets] == [4]
    bent = face_of(box, [*arc(20, 20, 8, 0, 180), (12.0, 12.0), (28.0, 20.0)])
    assert bent is not None and len(bent.unexplained) == 1
    assert face_of([(0.0, 0.0), (60.0, 0.0), *arc(30, 0, 30, 0, 180)]) is None


# places --------------------------------------------------------------------------------------------
def noted(number: int, mm: float, start: float, end: float) -> DrawnNote:
    span = Span(along="x", start=f"x {start:g}", end=f"x {end:g}")
    offer = NoteCandidate(f"{mm:g}", (0, 0, 0.1, 0.1), 0, "", span)
    return DrawnNote(offer, [Callout(balloon=number, note=f"{mm:g}", kind="length", nominal=mm)], (0, 0), None)


def test_places_are_sums_halves_and_mirrors_of_dimensions() -> None:
    notes = [noted(1, 100, 0, 100), noted(2, 20, 0, 20), noted(3, 15, 20, 35), noted(4, 60, 20.001, 80)]
    axis = axis_of("x", [20, 35, 80, 50, 61], 100, notes, ls.new_part("p"), 0.4)
    cells = {place: axis.at(place) for place in (0, 20, 35, 80, 100, 61)}
    assert [cells[p].cell for p in (0, 20, 35, 80, 100)] == ["0", "#2", "#2 + #3", "#2 + #4", "#1"]
    assert cells[61].asked and cells[61].cell == "61.0"
    mirrored = axis_of("x", [20, 80], 100, [notes[0], notes[3]], ls.new_part("p"), 0.4)
    assert [mirrored.at(p).cell for p in (20, 80)] == ["#1 / 2 - #4 / 2", "#1 / 2 + #4 / 2"]
    middle = axis_of("x", [50, 70], 100, [notes[0], noted(5, 20, 50, 70)], ls.new_part("p"), 0.4)
    assert [middle.at(p).cell for p in (50, 70)] == ["#1 / 2", "#1 / 2 + #5"]


# whole sheets --------------------------------------------------------------------------------------
def outcome(seed: int, folder: Path) -> str:
    """``whole``: proven without a question, and the plate that was drawn; ``asked``; ``wrong``: neither."""
    path = folder / f"{seed}.pdf"
    part = sheet(seed, path)
    try:
        found = ls.propose(path, part.unit)  # type: ignore[arg-type]
    except ProposalError as exc:
        return f"refused: {exc.message}"
    if found.asked or found.unplaced:
        return f"asked: {found.asked} {found.unplaced}"
    solid, (volume, (x, y), z) = ls.build(found.document), part.moments
    right = solid.ok and solid.volume == pytest.approx(volume, rel=1e-7)
    right = right and solid.centre == pytest.approx((x, y, z), abs=1e-6)
    proven = {r.verdict for r in ls.prove(found.document).rows}
    return "whole" if right and proven == {"in"} else f"wrong: {seed} {solid.messages} {proven}"


def test_plates_of_another_hand(tmp_path: Path) -> None:
    found = [outcome(seed, tmp_path) for seed in some(range(601, 613), 6)]
    assert not [f for f in found if f.startswith(("wrong", "refused"))], found
    assert 3 * Counter(found)["whole"] >= 2 * len(found), found


@pytest.mark.parametrize("ending", ["pdf", "dxf"])
def test_the_product_s_own_drawing_gives_every_hole_where_it_was(tmp_path: Path, ending: str) -> None:
    truth = drilled_plate(21, 6)
    path = tmp_path / f"plate.{ending}"
    write_drawing(path, list(ls.drawing(truth.document)))
    found = ls.propose(path)
    assert found.kind == "plate"
    holes = ls.machinist(found.document).holes
    at = {(round(h.at[0], 6), round(h.at[1], 6), h.thread.split("x")[0] or f"{h.diameter:g}") for h in holes}
    drilled = {(h.x, h.y, h.thread or f"{h.diameter:g}") for h in truth.holes}
    assert at == drilled and not found.asked and not found.unplaced
    assert {r.verdict for r in ls.prove(found.document).rows} == {"in"}


def test_the_bearing_plate_of_the_exercises_is_whole() -> None:
    found = ls.propose(EXERCISES / "bearing-plate.pdf")
    assert not found.asked and not found.unplaced
    assert [s.kind for s in found.document.steps] == ["sketch", "extrude", "fillet", "hole", "hole", "chamfer"]
    solid = ls.build(found.document)
    # 90 x 70 x 12, corners R10, bore 35 with a chamfer of 1, four holes 6.6 counterbored 11 x 6.8
    corners, bore = (4 - math.pi) * 100, math.pi / 4 * 35**2
    holes = 4 * math.pi / 4 * (6.6**2 * 12 + (11**2 - 6.6**2) * 6.8)
    bevel = math.pi * (17.5 + 1 / 3)
    assert solid.volume == pytest.approx((90 * 70 - corners - bore) * 12 - holes - bevel, rel=1e-9)


def test_a_step_and_what_lies_behind_the_face_are_asked(tmp_path: Path) -> None:
    path = tmp_path / "stepped.pdf"
    stepped_sheet(drawn(3), path, 3)
    with pytest.raises(ProposalError):
        ls.propose(path)
    page, lines = ls.read_sheet(EXERCISES / "bearing-plate.pdf"), read_linework(EXERCISES / "bearing-plate.pdf")
    hidden = Stroke(np.array([(120.0, 90.0), (170.0, 92.0)]), 0.25, dashed=True)
    more = Linework(lines.width, lines.height, (*lines.strokes, hidden))
    found = propose_plate(ls.new_part("Plate"), page, more)
    assert [a for a in found.asked if a.startswith("what else it shows, at x 42.0, y 15.7")]


def test_a_pocket_is_cut_as_deep_as_its_note_says_or_asked(tmp_path: Path) -> None:
    path = tmp_path / "pocket.pdf"
    part = sheet(704, path)
    assert part.pocket is not None and outcome(704, tmp_path) == "whole"
    page, lines = ls.read_sheet(path, unit=part.unit), read_linework(path)  # type: ignore[arg-type]
    without = replace(page, offers=tuple(o for o in page.offers if "POCKET" not in o.text))
    found = propose_plate(ls.new_part("Plate", unit=part.unit), without, lines)
    assert any(a.startswith("a pocket at ") and a.endswith("how deep it is") for a in found.asked)


def test_a_note_that_counts_otherwise_than_is_drawn_is_asked() -> None:
    path = EXERCISES / "bearing-plate.pdf"
    page = ls.read_sheet(path)
    offers = tuple(replace(o, text=o.text.replace("4X ⌀6.6", "3X ⌀6.6")) for o in page.offers)
    found = propose_plate(ls.new_part("Plate"), replace(page, offers=offers), read_linework(path))
    assert any("4 circles are drawn alike, 3 are told" in a for a in found.asked)
    assert sum(a.startswith("a circle ⌀6.6 in ⌀11.0") for a in found.asked) == 4
    document: Document = found.document
    own = {c.balloon for n in document.notes if "6.6" in n.text for c in n.callouts}
    assert own and not document.used_balloons() & own
