"""What is refused, and in which words; and that several bodies, ends and rules behave where they meet."""

from __future__ import annotations

import math

import numpy as np
import pytest

from lathed_solid import scripting as ls
from lathed_solid.engine.rebuild import Engine
from lathed_solid.files import FileError
from lathed_solid.kernel.assembly import Placed, write_assembly
from lathed_solid.kernel.surfaces import one_surface
from lathed_solid.part import EdgePick, Grid, Parameter, SketchPoints, SketchStep, StepError, Table, edits, scope
from lathed_solid.part.steps.pattern_layout import GridLayout, RingLayout, RowLayout
from lathed_solid.part.steps.resolved import ResolvedSketch
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.sketch.model import Constraint, Sketch

from .parts import block, built, bush, circle, near, polygon, refused, shaft, volume


def test_a_fillet_that_does_not_fit_says_what_would() -> None:
    part = ls.step(block(), "fillet", radius="21", pick=EdgePick(edges=("20/end|20/l1", "20/end|20/l3")))
    result = refused(part, "R21 does not fit; the land beside it is 20 wide; the largest that fits is 19.9")
    fits = float(result.message.split("fits is ")[1].split(";")[0])
    assert ls.build(ls.step(block(), "fillet", radius=str(fits), pick=part.steps[-1].pick)).ok
    chamfer = ls.step(block(), "chamfer", leg="45", pick=EdgePick(edges=("20/end|20/l1",)))
    refused(chamfer, "a bevel of 45 does not fit")


def test_the_general_note_breaks_what_no_other_step_breaks() -> None:
    named = ls.step(block(), "fillet", radius="5", pick=EdgePick(edges=("20/l1|20/l2",)))
    both = ls.step(named, "chamfer", leg="0.5", pick=EdgePick(rule="all others"))
    labels = set(built(both).built.body.labels)
    assert "30/(20/l1|20/l2)" in labels
    broken = [a for a in labels if a.startswith("40/(")]
    assert len(broken) == 13, "12 edges less the one named, and two new ones where it ends in the faces"
    spared = ls.step(block(), "chamfer", leg="1", pick=EdgePick(rule="upright outside", but=("20/l1|20/l2",)))
    assert volume(spared) == near(48000 - 3 * 0.5 * 20)


def test_a_varying_fillet_lies_between_its_ends() -> None:
    def rounded(**radii: str) -> float:
        return volume(ls.step(block(), "fillet", pick=EdgePick(edges=("20/l1|20/l2",)), **radii))

    small, large = rounded(radius="2"), rounded(radius="6")
    # the mean square of a radius that runs evenly from 2 to 6
    expected = 48000 - (1 - math.pi / 4) * (2 * 2 + 2 * 6 + 6 * 6) / 3 * 20
    assert large < rounded(radius="2", end_radius="6") < small
    # a ball that grows touches a little ahead of the section it is counted in
    assert 48000 - rounded(radius="2", end_radius="6") == near(48000 - expected, 0.03)


@pytest.mark.parametrize(
    ("kind", "values", "words"),
    [
        ("fillet", {}, "no edge is picked yet"),
        ("fillet", {"pick": EdgePick(rule="upright inside")}, "no edge is left to break"),
        ("fillet", {"radius": "-1", "pick": EdgePick(rule="outside")}, "above zero"),
        ("chamfer", {"second": "2", "angle": "30 deg", "pick": EdgePick(rule="outside")}, "say the same twice"),
        ("shell", {"open_faces": ()}, "left open"),
        ("shell", {"wall": "30", "open_faces": ("20/end",)}, ""),
        ("draft", {"faces": ("20/l9",)}, "the face 20/l9 is gone"),
        ("draft", {"faces": ("20/l1",), "angle": "80 deg"}, "within 70°"),
        ("pattern", {"steps": (10,)}, "made nothing to copy"),
        ("pattern", {"steps": (90,)}, "no step 90 before this one"),
        ("pattern", {"steps": (20,), "layout": RowLayout(spacing="0")}, "must not be zero"),
        ("pattern", {"steps": (20,), "skip": (4,)}, "no copy 4 to skip"),
        ("pattern", {"steps": (20,), "layout": RingLayout(angle="200°", count=3, total=False)}, "fall on one another"),
        ("mirror", {"plane": "20/l1|20/l2"}, "is gone"),
        ("mirror", {"steps": (20,), "bodies": (20,)}, "either steps or bodies"),
        ("plane", {"way": "midway", "names": ("20/l1",)}, "takes 2 names, not 1"),
        ("plane", {"way": "midway", "names": ("20/l1", "20/l2")}, "not parallel"),
        ("axis", {"way": "planes", "names": ("20/l1", "20/l3")}, "are parallel"),
        ("point", {"way": "of", "names": ("20/l1",)}, "is no point"),
        ("combine", {"body": 20, "others": (70,)}, "no body of step 70"),
        ("split", {"body": 20, "plane": "20/end"}, "does not pass through"),
        ("drop", {"others": (20,)}, "no body would be left"),
        ("move", {"body": 20}, "not moved at all"),
        ("keyway", {"face": "20/l1", "from_face": "20/l2"}, "a cylinder is needed"),
        ("thread", {"face": "20/l1", "designation": "M8"}, "a cylinder is needed"),
        ("thread", {"face": "20/l1", "designation": "Q8"}, "not known"),
        ("loft", {"sketches": (10,)}, "two sketches or more"),
        ("helix", {"sketch": 10, "turns": "0"}, "turns must be"),
        ("sweep", {"sketch": 10}, "nothing leads the sweep"),
        ("rib", {"sketch": 10}, ""),
    ],
)  # fmt: skip
def test_refused_in_words(kind: str, values: dict[str, object], words: str) -> None:
    refused(ls.step(block(), kind, **values), words)


def test_extrusions_refused() -> None:
    part = circle(block(), "20/end", 30, 20, 8)
    refused(ls.extrude(part, 30, "5", start="50", mode="cut"), "removes nothing")
    refused(ls.extrude(part, 30, "5", until="20/l1"), "which never meets it")
    refused(ls.extrude(part, 30, "5", until="20/start"), "lies behind the start")
    refused(ls.extrude(part, 30, "5", until="next"), "no next face")
    refused(ls.extrude(part, 30, None), "needs a distance")
    refused(ls.extrude(part, 30, "5", on=(70,)), "no body of step 70")


def test_holes_refused() -> None:
    def hole(**values: object) -> ls.Document:
        values = {"diameter": "5", "places": Table(rows=(("30", "20"),)), **values}
        return ls.hole(block(), "20/end", **values)  # type: ignore[arg-type]

    refused(hole(csk_diameter="4"), "not wider than its hole")
    refused(hole(csk_diameter="10", cbore_diameter="9", cbore_depth="2"), "one widening at its mouth")
    refused(hole(diameter="5", thread="M8"), "no drill for M8")
    refused(hole(diameter="", thread="M8", depth="10", thread_depth="12"), "the thread is 12 deep")
    refused(hole(until="20/l1"), "which never meets it")
    refused(hole(places=Grid(dx="3", nx=3)), "run into each other")
    refused(hole(places=SketchPoints(sketch=10)), "no point that stands alone")
    with pytest.raises(StepError, match="above zero"):
        hole(diameter="0").steps[-1].resolve(scope(hole(diameter="0")))


def test_holes_at_sketch_points_and_on_round_edges() -> None:
    d = ls.Draft()
    for x, y in ((10, 10), (50, 10), (30, 30)):
        d.point(x, y)
    part = ls.hole(ls.sketch(block(), d, "20/end"), "20/end", "5", places=SketchPoints(sketch=30))
    assert volume(part) == near(48000 - 3 * math.pi * 6.25 * 20)
    boss = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "10")
    top = ls.hole(boss, "40/end", "6", places={"kind": "edges", "edges": ("40/c1|40/end",)})
    assert volume(top) == near(48000 + math.pi * (640 - 9 * 30))


def test_cuts_meet_the_bodies_that_are_meant() -> None:
    two = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "10", mode="new", start="10")
    through = circle(two, "20/end", 30, 20, 3)
    both = ls.extrude(through, 50, None, mode="cut", side="both")
    one = ls.extrude(through, 50, None, mode="cut", side="both", on=(40,))
    assert volume(both) == near(48000 + 640 * math.pi - 9 * math.pi * 30)
    assert volume(one) == near(48000 + 640 * math.pi - 9 * math.pi * 10)
    bodies = built(one).built.parts.bodies
    assert list(bodies) == [20, 40] and bodies[20].size == near(48000)
    bridge = ls.extrude(circle(two, "20/end", 30, 20, 2), 50, "12")
    assert list(built(bridge).built.parts.bodies) == [20], "material that touches both joins them"


def test_copy_and_rebuilt_differ_where_the_end_does() -> None:
    """A post let down onto a floor that steps: the copy keeps its length, the rebuilt one finds its own floor."""
    base = ls.extrude(
        polygon(ls.new_part("steps"), "XZ", [(0, 0), (100, 0), (100, 30), (50, 30), (50, 20), (0, 20)]), 10, "40",
        side="back",
    )  # fmt: skip
    solid = 40.0 * (100 * 20 + 50 * 10)
    post = ls.extrude(circle(base, ls.DatumPlane(offset="50"), 80, 20, 5), 30, "1", side="back", until="next")
    layout = RowLayout(spacing="-60")
    assert built(ls.step(post, "pattern", steps=(40,), layout=layout)).built.steps[-1].pieces == 2
    rebuilt = ls.step(post, "pattern", steps=(40,), layout=layout, rebuilt=True)
    assert volume(rebuilt) == near(solid + math.pi * 25 * (20 + 30))


def test_a_pattern_is_one_cut_and_its_holes_are_proven() -> None:
    part = ls.note(ls.new_part("plate"), "6X Ø5", 1)
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (90, 40))
    part = ls.extrude(ls.sketch(part, d), 10, "8")
    part = ls.hole(part, "20/end", "#1", places=Grid(x="10", y="10", dx="30", nx=3, dy="20", ny=2))
    row = ls.prove(part).row(1)
    assert row is not None and row.verdict == "in" and row.measured == pytest.approx(5)
    copied = ls.step(part, "pattern", steps=(30,), layout=GridLayout(spacing="10", count=2, spacing2="6", count2=2))
    assert volume(copied) == near(90 * 40 * 8 - 24 * math.pi * 6.25 * 8)


def test_broken_edges_and_hexagons_are_measured_on_the_solid() -> None:
    part = ls.note(ls.note(ls.new_part("stud"), "R2", 1), "1.5 X 45°", 2)
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (30, 20))
    part = ls.extrude(ls.sketch(part, d), 10, "10")
    part = ls.step(part, "fillet", radius="#1", pick=EdgePick(rule="upright outside"))
    part = ls.step(part, "chamfer", leg="#2", pick=EdgePick(edges=("20/start|20/l1",)))
    report = ls.prove(part)
    assert [(r.verdict, round(r.measured, 9)) for r in report.rows] == [("in", 2.0), ("in", 1.5)]  # type: ignore[arg-type]
    nut = ls.step(shaft((25, 40)), "flats", face="10/sA", from_face="10/face.left", across="22", length="10")
    solid = ls.build(nut)
    assert solid.measure("distance", "20/flat.0", "20/flat.3") == near(22)
    assert solid.measure("distance", "10/face.left", "20/shoulder") == near(10)


def test_a_file_of_two_solids_is_a_body_in_two_pieces(tmp_path) -> None:
    rod = ls.build(shaft((20, 30))).built.body
    assert rod is not None
    aside = np.eye(4)
    aside[0, 3] = 50
    write_assembly([Placed("a", "rod", rod.shape, np.eye(4)), Placed("b", "rod", rod.shape, aside)],
                   tmp_path / "pair.step", "pair")  # fmt: skip
    back = ls.build(ls.import_body(ls.new_part("again"), tmp_path / "pair.step"))
    assert back.ok and back.volume == near(2 * math.pi * 100 * 30, 1e-7)
    assert len(back.built.body.by_atom) == 6
    assert len(ls.prove(back.document).asunder) == 1


def test_imported_bodies_are_cut_like_any_other(tmp_path) -> None:
    ls.export(ls.build(bush(30, 10, 20)), tmp_path / "bush.step")
    part = ls.import_body(ls.new_part("mended"), tmp_path / "bush.step")
    solid = built(part)
    assert solid.volume == near(math.pi * 200 * 20, 1e-7)
    flat = next(a for a, fs in solid.built.body.by_atom.items() if one_surface(fs).kind == "plane")
    drilled = ls.hole(part, flat, "3", places=Table(rows=(("10", "0"),)))
    assert volume(drilled) == near(math.pi * 200 * 20 - math.pi * 2.25 * 20, 1e-6)
    (tmp_path / "no.step").write_text("not a step file")
    with pytest.raises(FileError, match="no STEP file"):
        ls.import_body(part, tmp_path / "no.step")


def test_the_part_datum_moves_what_is_written_not_what_is_measured() -> None:
    part = ls.step(block(), "zero", origin="20/end|20/l1|20/l2|~corner", along_x="Y", along_z="Z")
    summary = ls.build(part).summary
    assert summary["box_mm"][0] == pytest.approx([0, 0, -20]) and summary["box_mm"][1] == pytest.approx([40, 60, 0])


def test_sizes_are_told_in_the_unit_of_the_sheet() -> None:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (50.8, 25.4))
    part = ls.extrude(ls.sketch(ls.new_part("inch block", unit="in"), d), 10, "1")
    part = ls.step(part, "fillet", radius=".6", pick=EdgePick(edges=("20/end|20/l1", "20/end|20/l3")))
    assert "R0.6 does not fit; the land beside it is 1 wide" in refused(part, "R0.6").message


def test_a_face_that_a_cone_runs_into_is_not_leaned() -> None:
    # a centre hole on the block's own corner: its cone meets the sides along straight lines
    part = ls.step(block(), "centre", face="20/end", about="Z", pilot="1.6")
    refused(ls.step(part, "draft", faces=("20/l1",), neutral="XY", angle="2 deg"), "a cone runs into it")


def test_a_bevel_of_bevelled_edges_is_refused_and_comes_back() -> None:
    """The kernel may never return from a bevel of a micrometre here: so small a one is not even tried."""
    part = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "10")
    for _ in range(2):
        part = ls.step(part, "chamfer", leg="0.5", pick=EdgePick(rule="outside"))
    last = ls.build(part).built.steps[-1]
    assert not last.ok and "no smaller one does" in last.message


def test_a_thread_s_own_edges_are_not_rounded() -> None:
    """The kernel does not survive it; rules pass them over."""
    rod = ls.step(shaft((20.0, 20.0)), "thread", face="10/sA", designation="M20x2.5", real=True)
    edge = "20/ring.helix.flank.b|20/ring.helix.root"
    refused(ls.step(rod, "fillet", radius="0.1", pick=ls.EdgePick(edges=(edge,))), "is a thread's")
    refused(ls.step(rod, "fillet", radius="0.1", pick=ls.EdgePick(rule="inside")), "no edge is left to break")


def test_a_radius_that_grows_beyond_its_land_is_refused_in_words() -> None:
    """The kernel does not survive it: found by a storm."""
    part = ls.step(block(), "fillet", pick=EdgePick(edges=("20/l1|20/l2",)), radius="2", end_radius="300")
    result = ls.build(part)
    assert not result.ok and "R300 does not fit" in result.messages[-1] and "wide" in result.messages[-1]


@pytest.mark.parametrize("fights", [False, True])
def test_a_sketch_is_solved_once_however_many_routes_it_is_in(fights: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    draft = ls.Draft()
    ls.shapes.rectangle(draft, (0, 0), (40, 20))
    part = ls.sketch(ls.new_part("plate"), draft)
    part = ls.hole(ls.extrude(part, 10, "10"), "20/end", "5", places=Table(rows=(("10", "10"),)))
    if fights:
        line = next(e.id for e in part.steps[0].sketch.entities if e.kind == "line")
        twice = tuple(Constraint(id=f"k{k}", kind="distance", of=(line,), value=str(k)) for k in (900, 901))
        figure = part.steps[0].sketch
        figure = Sketch(entities=figure.entities, constraints=(*figure.constraints, *twice))
        part = edits.put_step(part, edits.changed(part.steps[0], sketch=figure))
    solved: list[int] = []
    resolve = SketchStep.resolve

    def counted(step: SketchStep, evaluate: Resolver) -> ResolvedSketch:
        solved.append(step.number)
        return resolve(step, evaluate)

    monkeypatch.setattr(SketchStep, "resolve", counted)
    engine = Engine()
    for document in (part, part.model_copy(update={"steps": part.steps[:2]}), edits.changed(part, name="other")):
        assert engine.build(document).ok != fights
    assert solved == [10]
    engine.build(edits.put_parameter(part, Parameter(name="w", expression="3")))
    assert solved == [10, 10], "other names may mean other sizes"
