"""Duties: what a note lays on its callouts, and that a part which breaks one is never in."""

from __future__ import annotations

import math

import pytest
import truth_parts
from steps.parts import block

from lathed_solid import scripting as ls
from lathed_solid.ledger import HouseRule, InchBlock, Iso2768, callouts_from_note, limits
from lathed_solid.part import Document, Table, edits
from lathed_solid.part.kinds import KindError, mismatches
from lathed_solid.proof import VerdictRow


def stated(text: str, unit: str = "mm") -> dict[str, set[str]]:
    """Role -> duties, each as kind and what is said."""
    found = callouts_from_note(text, 1, unit)  # type: ignore[arg-type]
    return {c.role: {f"{d.kind} {d.said(c.unit)}" for d in c.duties} for c in found}


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("4X Ø6.6 THRU", {"hole diameter": {"form hole", "through yes", "places 4"}}),
        ("Ø5 ↧12", {"hole diameter": {"form hole", "places 1"}, "hole depth": {"places 1"}}),
        ("Ø5 ↧12 TO TIP", {"hole diameter": {"form hole", "places 1"}, "hole depth to the tip": {"places 1"}}),
        ("2X Ø6.6 THRU ⌵ Ø12 X 82°", {
            "hole diameter": {"form hole", "through yes", "places 2"},
            "countersink diameter": {"form hole", "concentric yes", "places 2"},
            "countersink angle": {"places 2"}}),
        ("3X Ø9 THRU ON Ø96 BC", {
            "hole diameter": {"form hole", "through yes", "places 3"},
            "bolt circle": {"equal spacing equal", "places 3"}}),
        ("SR20", {"sphere radius": {"form sphere"}}),
        ("SØ40", {"sphere diameter": {"form sphere"}}),
        ("□25", {"square": {"both ways 25"}}),
        ("1.5 x 30°", {"chamfer": {"leg angle 30°"}}),
        ("CHAMFER 1 X 2", {"chamfer": {"second leg 2"}}),
        ("Tr20x8(P4) LH EXT", {"major diameter": {"form pin", "pitch 4", "hand left", "starts 2"}}),
        ("M8-6H ↧16", {
            "major diameter": {"form hole", "pitch 1.25", "hand right", "starts 1", "thread class M8×1.25-6H"},
            "thread length": set()}),
        ("R6", {"radius": {"form round"}}),
        ("25 ±0.1", {"length": set()}),
    ],
)  # fmt: skip
def test_every_clause_yields_its_duties(text: str, expected: dict[str, set[str]]) -> None:
    assert stated(text) == expected


# the campaign, a small part of it ----------------------------------------------------------------
@pytest.mark.parametrize("seed", range(30))
def test_truths_are_in_and_found_by_themselves(seed: int) -> None:
    case = truth_parts.truth(seed)
    solid = ls.build(case.document)
    assert solid.messages == []
    judged = {c.balloon for c in case.document.callouts if not c.reference}
    rows = [r for r in ls.prove(case.document).rows if r.balloon in judged]
    assert [f"{r.balloon} {r.note}: {r.verdict} {r.reason}" for r in rows if r.verdict != "in"] == []


@pytest.mark.parametrize("seed", range(60))
def test_lies_are_never_in(seed: int) -> None:
    case = truth_parts.lie(seed)
    if not ls.build(case.document).ok:
        pytest.skip("this lie cannot be built")
    report = ls.prove(case.document)
    rows = [report.row(b) for b in case.balloons]
    assert any(r is not None and r.verdict != "in" for r in rows), case.lie


# kinds at entry ----------------------------------------------------------------------------------
ROD = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="60", length="40")])


def test_a_radius_in_a_diameter_is_told_with_what_would_be_right() -> None:
    part = ls.note(ROD, "R6")
    with pytest.raises(KindError, match="is a radius, the field takes a diameter") as found:
        ls.hole(part, "10/face.right", "#1")
    assert found.value.hint == "2 * #1" and found.value.mismatch.callout.balloon == 1
    right = ls.hole(part, "10/face.right", "2 * #1")
    assert [r.verdict for r in ls.prove(right).rows] == ["in"]


def test_a_diameter_in_a_radius_and_a_whole_angle_in_a_half_one() -> None:
    part = ls.note(ls.note(ROD, "Ø4"), "Ø5 THRU ⌵ Ø10 X 82°")
    pick = ls.EdgePick(edges=("10/face.right|10/sA",))
    with pytest.raises(KindError, match="is a diameter, the field takes a radius"):
        ls.step(part, "fillet", radius="#1", pick=pick)
    station = ls.Station(key="A", diameter="60", length="40", taper=ls.Taper(kind="angle", value="#4"))
    with pytest.raises(KindError, match="whole angle"):
        ls.turned(ls.note(ls.new_part("cone"), "Ø5 THRU ⌵ Ø10 X 82°", 2), [station])


def test_where_it_was_put_in_all_the_same_the_proof_says_out() -> None:
    part = ls.note(ROD, "R6")
    step = ls.hole(ROD, "10/face.right", "12").steps[-1]
    forced = edits.put_step(part, edits.changed(step, diameter="#1"))
    assert [m.right for m in mismatches(forced, forced.steps[-1])] == ["2 * #1"]
    row = ls.prove(forced).rows[0]
    assert row.verdict == "out" and "half" in row.reason and row.measured == pytest.approx(3)


def test_both_sides_of_a_hole_are_asked_for_and_a_hole_drilled_again_is_one() -> None:
    part = ls.note(block(), "2X Ø6 ±0.1 THRU ⌵ Ø10 ±0.1 X 90° BOTH SIDES")
    part = part.model_copy(update={"house": HouseRule(length=0.1, angle_deg=1.0)})
    places = Table(rows=(("10", "10"), ("40", "20")))
    near = ls.hole(part, "20/end", "#1", csk_diameter="#2", csk_angle="#3", places=places)
    assert [r.verdict for r in ls.prove(near).rows] == ["in", "in", "in", "not found", "not found"]
    places = Table(rows=(("10", "-10"), ("40", "-20")))
    both = ls.hole(near, "20/start", "#1", csk_diameter="#4", csk_angle="#5", places=places)
    assert [(r.verdict, r.reason) for r in ls.prove(both).rows] == [("in", "")] * 5
    once = ls.hole(near, "20/start", "#1", csk_diameter="#4", csk_angle="#5", places=Table(rows=(("10", "-10"),)))
    assert [r.verdict for r in ls.prove(once).rows][3:] == ["out", "out"]


# limits ------------------------------------------------------------------------------------------
def test_a_size_that_nothing_limits_is_never_in() -> None:
    part = ls.note(ROD, "0.3x45°")
    part = ls.step(part, "chamfer", leg="#1", pick=ls.EdgePick(edges=("10/face.right|10/sA",)))
    report = ls.prove(part)
    row = report.rows[0]
    assert row.verdict == "no limit" and "rule for such sizes" in row.reason
    assert report.counts["no limit"] == 1 and not report.ok
    ruled = part.model_copy(update={"house": HouseRule(length=0.1, angle_deg=1.0)})
    assert ls.prove(ruled).rows[0].verdict == "in" and ls.prove(ruled).ok


def test_decimals_of_a_compound_note_go_each_by_its_own_block() -> None:
    bore, wide, deep = callouts_from_note("Ø.265 THRU ⌴ Ø.44 ↧.2", 1, "in")
    widths = [(lim.high or 0) - (lim.low or 0) for lim in (limits(c, InchBlock()) for c in (bore, wide, deep))]
    assert widths == pytest.approx([2 * 0.005 * 25.4, 2 * 0.01 * 25.4, 2 * 0.03 * 25.4])


def test_angles_go_by_their_shorter_leg_and_fits_by_their_side() -> None:
    (angle,) = callouts_from_note("30°", 1)
    for leg, minutes in ((8, 60), (30, 30), (100, 20), (300, 10)):
        found = limits(angle, Iso2768(), leg=leg)
        assert found.high is not None and math.degrees(found.high) == pytest.approx(30 + minutes / 60)
    part = ls.note(ls.note(ls.new_part("fits"), "Ø25 H7/g6"), "Ø25 H7/g6")
    part = ls.change_callout(part, 2, drive="nominal")
    station = ls.Station(key="A", diameter="#2 - 0.014", length="40")
    bore = ls.Bore(end="right", steps=(ls.BoreStep(diameter="#1 + 0.01 - 10", depth=None),))
    report = ls.prove(ls.turned(part, [station], bores=[bore]))
    assert report.row(2).limits_source == "g6" and report.row(2).verdict == "in"  # type: ignore[union-attr]
    assert report.row(1).limits_source == "H7" and report.row(1).verdict == "out"  # type: ignore[union-attr]


def test_the_middle_of_the_limits_drives_where_the_nominal_does_not_keep_them() -> None:
    part = ls.note(ls.new_part("pin"), "Ø25 k6")
    rows = [ls.Station(key="A", diameter="#1", length="40")]
    assert ls.prove(ls.turned(part, rows)).rows[0].verdict == "out"
    middle = ls.turned(ls.change_callout(part, 1, drive="middle"), rows)
    row = ls.prove(middle).rows[0]
    assert row.verdict == "in" and row.measured == pytest.approx(25.0085, abs=1e-6)


# derived callouts --------------------------------------------------------------------------------
def derived(
    *notes: str, length: str, diameter: str = "30", more: list[ls.Station] | None = None
) -> dict[int, VerdictRow]:
    part = ls.new_part("derived")
    for text in notes:
        part = ls.note(part, text)
    part = ls.turned(part, [ls.Station(key="A", diameter="30", length=length), *(more or [])])
    return {r.balloon: r for r in ls.prove(part).rows}


@pytest.mark.parametrize(
    ("notes", "length", "nominals"),
    [
        (("50",), "#1 / 2", [50]),
        (("25",), "2 * #1", [25]),
        (("25",), "#1 + 3", [25]),
        (("25",), "(#1 - 4) * 2 + 1mm", [25]),
        (("16",), "sqrt(#1 * #1 + 9mm * 9mm)", [16]),
    ],
)
def test_a_callout_is_turned_back_from_its_field(notes: tuple[str, ...], length: str, nominals: list[float]) -> None:
    rows = derived(*notes, length=length)
    assert [rows[k + 1].measured for k in range(len(notes))] == pytest.approx(nominals)
    assert all(r.verdict == "in" for r in rows.values())


def test_differences_take_the_others_as_measured_and_rest_on_nothing_unproven() -> None:
    second = [ls.Station(key="B", diameter="20", length="#2")]
    rows = derived("50", "18", length="#1 - #2", more=second)
    assert rows[1].measured == pytest.approx(50) and rows[1].verdict == rows[2].verdict == "in"
    alone = derived("50", "18", length="#1 - #2")
    assert {r.verdict for r in alone.values()} == {"not found"} and "is not measured either" in alone[1].reason


def test_parameters_lead_back_to_callouts() -> None:
    part = ls.parameter(ls.note(ls.new_part("p"), "50"), "half", "#1 / 2")
    part = ls.turned(part, [ls.Station(key="A", diameter="30", length="half + 1")])
    assert ls.prove(part).rows[0].measured == pytest.approx(50)


# copies, sides, the material ---------------------------------------------------------------------
def plate(*notes: str, thick: str = "12") -> Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (80, 60))
    part = ls.new_part("plate")
    for text in notes:
        part = ls.note(part, text)
    return ls.extrude(ls.sketch(part, d), 10, thick)


def test_places_are_counted_through_patterns_mirrors_and_steps() -> None:
    part = plate("8X Ø5 THRU")
    part = ls.hole(part, "20/end", "#1", places=ls.Table(rows=(("10", "10"),)))
    part = ls.step(part, "pattern", steps=(30,), layout={"kind": "row", "along": "X", "spacing": "15", "count": 3})
    part = ls.hole(part, "20/end", "#1", places=ls.Table(rows=(("10", "50"), ("25", "50"), ("40", "50"))))
    row = ls.prove(part).rows[0]
    assert row.verdict == "out" and row.reason == "6 places found, the note says 8"
    part = ls.hole(part, "20/end", "#1", places=ls.Grid(x="60", y="15", dx="10", nx=2, dy="1", ny=1))
    assert ls.prove(part).rows[0].verdict == "in"


def test_a_pocket_halved_behind_ones_back_is_out() -> None:
    part = plate("8")
    d = ls.Draft()
    ls.shapes.rectangle(d, (20, 20), (50, 40))
    part = ls.sketch(part, d, "20/end")
    whole = ls.extrude(part, 30, "#1", side="back", mode="cut")
    assert ls.prove(whole).rows[0].measured == pytest.approx(8)
    half = ls.extrude(part, 30, "#1", side="both", mode="cut")
    row = ls.prove(half).rows[0]
    assert row.verdict == "out" and row.measured == pytest.approx(4)


def test_a_depth_is_from_the_local_rim() -> None:
    part = plate("Ø6 ↧8")
    part = ls.hole(part, "20/end", "#1", depth="#2", places=ls.Table(rows=(("40", "30"),)))
    d = ls.Draft()
    ls.shapes.rectangle(d, (30, 20), (50, 40))
    part = ls.extrude(ls.sketch(part, d, "20/end"), 40, "2", side="back", mode="cut")
    rows = ls.prove(part).rows
    assert rows[1].measured == pytest.approx(6) and rows[1].verdict == "out" and rows[0].verdict == "in"


def test_a_broken_rim_leaves_the_depth_as_it_was() -> None:
    part = plate("Ø6 ↧8")
    part = ls.hole(part, "20/end", "#1", depth="#2", places=ls.Table(rows=(("40", "30"),)))
    part = ls.step(part, "chamfer", leg="0.5", pick=ls.EdgePick(edges=("20/end|30/h0.wall",)))
    assert [r.measured for r in ls.prove(part).rows] == pytest.approx([6, 8])


@pytest.mark.parametrize(("second", "angle"), [("2", None), (None, "60°")])
def test_a_bevel_shows_both_its_legs_and_its_angle(second: str | None, angle: str | None) -> None:
    part = plate("1x45°")
    part = ls.step(part, "chamfer", leg="#1", second=second, angle=angle, pick=ls.EdgePick(edges=("20/end|20/l1",)))
    row = ls.prove(part).rows[0]
    assert row.verdict == "out" and "angle" in row.detail


def test_a_thread_is_its_whole_designation() -> None:
    for held, verdict, reason in (("M8", "in", ""), ("M8x1", "out", "pitch"), ("M8 LH", "out", "left")):
        part = plate("M8-6H ↧8")
        part = ls.hole(part, "20/end", "", depth="10", thread=held, thread_depth="#2",
                       places=ls.Table(rows=(("40", "30"),)))  # fmt: skip
        part = ls.measured_by(part, 1, "thread_major", "30/h*.wall")
        row = ls.prove(part).rows[0]
        assert row.verdict == verdict and reason in row.reason, held


def test_a_real_thread_tells_pitch_hand_and_starts() -> None:
    part = ls.note(ls.new_part("screw"), "M18x1.5-6g x 30")
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="60")])
    for left, verdict in ((False, "in"), (True, "out")):
        cut = ls.step(part, "thread", face="10/sA", designation="M18x1.5", length="#2", real=True, left=left)
        cut = ls.measured_by(cut, 1, "real_major", "20/ring.helix")
        row = ls.prove(cut).rows[0]
        assert row.verdict == verdict, row.detail
        assert row.measured == pytest.approx(18)


def test_names_that_fit_nothing_are_errors() -> None:
    part = plate()
    spared = ls.EdgePick(faces=("20/end",), but=("nonsense|gone",))
    assert "nonsense" in ls.build(ls.step(part, "chamfer", leg="1", pick=spared)).messages[0]
    on = ls.step(part, "chamfer", leg="1", on="20/start", pick=ls.EdgePick(edges=("20/end|20/l1",)))
    assert "no edge that is bevelled lies on 20/start" in ls.build(on).messages[0]


def test_a_like_hole_that_nobody_speaks_of_is_one_too_many() -> None:
    part = plate("2X Ø5 THRU")
    part = ls.hole(part, "20/end", "#1", places=ls.Table(rows=(("10", "10"), ("30", "10"))))
    assert ls.prove(part).rows[0].verdict == "in"
    other = ls.hole(part, "20/end", "5.5", places=ls.Table(rows=(("50", "10"),)))
    assert ls.prove(other).rows[0].verdict == "in"
    same = ls.hole(part, "20/end", "5", places=ls.Table(rows=(("50", "10"),)))
    row = ls.prove(same).rows[0]
    assert row.verdict == "out" and "1 more of the same size" in row.reason
    owned = ls.hole(ls.note(part, "Ø5 THRU"), "20/end", "#2", places=ls.Table(rows=(("50", "10"),)))
    assert [r.verdict for r in ls.prove(owned).rows] == ["in", "in"]


def test_a_square_is_square_both_ways() -> None:
    part = ls.turned(ls.note(ls.new_part("p"), "□17"), [ls.Station(key="A", diameter="22", length="40")])
    both = ls.step(part, "flats", face="10/sA", from_face="10/face.right", across="#1", length="12", sides=4)
    assert ls.prove(both).rows[0].verdict == "in"
    one = ls.step(part, "flats", face="10/sA", from_face="10/face.right", across="#1", length="12", sides=2)
    row = ls.prove(one).rows[0]
    assert row.verdict == "not found" and "both ways" in row.detail


@pytest.mark.parametrize(("tall", "verdict"), [("#1", "in"), ("26", "not found")])
def test_a_square_that_is_drawn_shows_on_both_its_sides(tall: str, verdict: str) -> None:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (25, 25))
    d.add("fixed", d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="#1")
    d.add("distance", sides[1], value=tall)
    part = ls.extrude(ls.sketch(ls.note(ls.new_part("block"), "□25"), d), 10, "8")
    later = ls.hole(part, "20/end", "3", places=ls.Table(rows=(("5", "5"),)))
    row = ls.prove(later).rows[0]
    assert row.verdict == verdict, row.detail


@pytest.mark.parametrize(("beside", "verdict"), [("0", "in"), ("0.2", "out")])
def test_a_counterbore_of_a_step_of_its_own_is_looked_for_over_its_hole(beside: str, verdict: str) -> None:
    part = ls.note(ls.extrude(ls.sketch(ls.new_part("block"), _square()), 10, "30"), "Ø8 THRU ⌴ Ø14 ↧6")
    part = ls.hole(part, "20/end", "#1", places=ls.Table(rows=(("20", "20"),)))
    part = ls.hole(part, "20/end", "#2", depth="#3", point=None, places=ls.Table(rows=((f"20 + {beside}", "20"),)))
    row = ls.prove(part).row(2)
    assert row is not None
    duty = next(d for d in row.duties if d.what == "concentric")
    assert (duty.verdict, row.verdict) == (verdict, verdict), row


def _square() -> ls.Draft:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (40, 40))
    return d
