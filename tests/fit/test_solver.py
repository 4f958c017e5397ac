"""Random assemblies of known construction, linkages and joints: places, freedoms, fights, travels."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from effort import some
from hypothesis import given
from hypothesis import strategies as st

from fit import assemblies
from fit.assemblies import FAMILIES, Builder, Made, worst
from lathed_solid.fit.assemble import assemble
from lathed_solid.fit.document import Drive, Fit, Ref, Relation
from lathed_solid.fit.edits import with_placements
from lathed_solid.fit.equations import Equation
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.features import Feature, Helix
from lathed_solid.fit.freedoms import drive_of, freedoms
from lathed_solid.fit.motion import Grip, sweep
from lathed_solid.fit.placement import as_placement, placed, quaternion_of, rotation_of, square_to, turn_about, turns
from lathed_solid.fit.residuals import ROWS
from lathed_solid.fit.solve import settle, solve
from lathed_solid.fit.solved import Solved, solved
from lathed_solid.fit.system import Poses, System

NUMBER = st.floats(-1, 1).filter(lambda x: abs(x) > 1e-3)


def stood(made: Made) -> Solved:
    found = solved(made.fit, made.features)
    assert found.solution.ok, (made.what, found.solution.reason, found.solution.error)
    return found


# placements --------------------------------------------------------------------------------------
@given(st.tuples(NUMBER, NUMBER, NUMBER, NUMBER))
def test_a_turn_and_its_quaternion_are_one(q: tuple[float, float, float, float]) -> None:
    matrix = rotation_of(q)
    assert np.allclose(matrix @ matrix.T, np.eye(3), atol=1e-12)
    assert np.allclose(rotation_of(quaternion_of(matrix)), matrix, atol=1e-12)
    assert quaternion_of(matrix)[0] >= 0


@given(st.tuples(NUMBER, NUMBER, NUMBER), st.floats(0, 3.1))
def test_turns_are_rotations_by_their_vector(axis: tuple[float, float, float], angle: float) -> None:
    d = np.array(axis) / np.linalg.norm(axis)
    turned = turns((d * angle)[None])[0]
    across = square_to(d)[0]
    assert np.allclose(turned @ d, d, atol=1e-12)
    assert math.isclose(float(turned @ across @ across), math.cos(angle), abs_tol=1e-12)
    assert float(np.cross(across, turned @ across) @ d) == pytest.approx(math.sin(angle), abs=1e-12)


@pytest.mark.parametrize("bad", [
    (1.0, 2.0), "here", None, np.full((4, 4), np.nan), np.zeros((4, 4)), np.diag([1.0, 1.0, -1.0, 1.0]), (1e9, 0, 0),
])  # fmt: skip
def test_absurd_placements_are_refused(bad: object) -> None:
    with pytest.raises(FitError):
        as_placement(bad)


# equations ---------------------------------------------------------------------------------------
@pytest.mark.parametrize("way", sorted(ROWS))
def test_slopes_are_those_of_finite_differences(way: str) -> None:
    draw = np.random.default_rng(hash(way) % 1000)
    bodies = {"": (0, np.eye(3), np.zeros(3)), "a": (1, np.eye(3), np.zeros(3)), "b": (2, np.eye(3), np.zeros(3))}
    made = []
    for _ in range(4):
        e, d = (v / np.linalg.norm(v) for v in draw.normal(size=(2, 3)))
        p, q = 10 * draw.normal(size=(2, 3))
        made.append(Equation(1, way, "a", "b", p, d, q, e, square_to(e)[0], 0.3, 2.0, (3, 2)))  # type: ignore[arg-type]
    turn = np.concatenate([np.eye(3)[None], turns(draw.normal(size=(2, 3)))])
    poses = Poses(turn, np.concatenate([np.zeros((1, 3)), 20 * draw.normal(size=(2, 3))]))
    system = System(made, bodies, 3, poses)
    _, slopes = system.evaluate(poses)
    given_ = system.jacobian(slopes)
    h = 1e-6
    measured = np.zeros_like(given_)
    for k in range(system.n):
        step = np.zeros(system.n)
        step[k] = h
        ahead, behind = (system.evaluate(system.moved(poses, s))[0] for s in (step, -step))
        measured[:, k] = (ahead - behind) / (2 * h)
    assert np.abs(given_ - measured).max() < 1e-6 * max(1.0, np.abs(given_).max())


@pytest.mark.parametrize(("family", "seed"), list(itertools.product(FAMILIES, some(range(900, 912), 4))))
def test_random_assemblies_stand_as_they_were_made(family: str, seed: int) -> None:
    made = FAMILIES[family](seed)
    found = stood(made)
    assert worst(made, found.placements) < 1e-9 * found.assembled.system.size, made.what
    assert len(found.freedoms) == made.freedoms, made.what


def test_every_solver_of_the_normal_matrix_gives_the_same_step() -> None:
    made = assemblies.tree(7, 20)
    system = assemble(made.fit, made.features).system
    r, slopes = system.evaluate(system.start)
    full = system.jacobian(slopes)
    wanted = np.linalg.solve(full.T @ full + 0.01 * np.eye(system.n), -full.T @ r)
    for solver in ("dense", "banded", "sparse"):
        import lathed_solid.fit.system as module

        before = module.DENSE_BELOW, module.SPARSE_ABOVE
        try:
            module.DENSE_BELOW, module.SPARSE_ABOVE = {"dense": (10_000, 10_000), "banded": (1, 600), "sparse": (1, 1)}[
                solver]  # fmt: skip
            again = assemble(made.fit, made.features).system
        finally:
            module.DENSE_BELOW, module.SPARSE_ABOVE = before
        assert again.solver == solver
        r, slopes = again.evaluate(again.start)
        step = again.damped_step(again.normal(slopes), -again.gradient(slopes, r), 0.01)
        assert step is not None and np.abs(step - wanted).max() < 1e-8 * np.abs(wanted).max()


# each relation -------------------------------------------------------------------------------------
ROUND = Feature("round", (0, 0, 0), (0, 0, 1), (1, 0, 0), 10.0)
FLAT = Feature("flat", (0, 0, 0), (0, 0, 1), (1, 0, 0))
BALL = Feature("ball", (0, 0, 0), radius=8.0)
POINT = Feature("point", (0, 0, 0))


def pair(kind: str, a: Feature, b: Feature, *, size: str = "", flip: bool = False, at: tuple[float, ...] = (40, 7, 31),
         about: tuple[float, float, float] | None = None) -> tuple[np.ndarray, np.ndarray, np.ndarray]:  # fmt: skip
    """Where a ends up beside b: its place and directions (of its Z and X) in b's frame."""
    fit = two(kind, size=size, flip=flip, at=at, about=about)
    found = solved(fit, {"A": {"f": a}, "B": {"f": b}})
    assert found.solution.ok and not found.lost, (kind, found.words, found.lost)
    place = found.placements["a"]
    return np.array(place.at), place.rotation @ [0, 0, 1], place.rotation @ [1, 0, 0]


def two(kind: str, *, size: str = "", flip: bool = False, at: tuple[float, ...] = (40, 7, 31),
        about: tuple[float, float, float] | None = None) -> Fit:  # fmt: skip
    from lathed_solid.fit.document import Member, PartSource

    where = placed(turn_about((1, 2, 3), 0.4), np.array(at))
    relation = Relation(number=1, kind=kind, a=Ref(member="a", feature="f"), b=Ref(member="b", feature="f"), size=size,
                        flip=flip, about=about)  # type: ignore[arg-type]  # fmt: skip
    return Fit(
        parts=(PartSource(name="A", document=assemblies.DOCUMENT), PartSource(name="B", document=assemblies.DOCUMENT)),
        members=(Member(name="b", part="B", held=True), Member(name="a", part="A", placement=where)),
        relations=(relation,),
    )  # fmt: skip


def test_relations_put_things_where_they_say() -> None:
    at, z, _ = pair("share an axis", ROUND, ROUND)
    assert np.allclose(at[:2], 0, atol=1e-9) and np.allclose(z, [0, 0, 1], atol=1e-9)
    _, z, _ = pair("share an axis", ROUND, ROUND, flip=True)
    assert np.allclose(z, [0, 0, -1], atol=1e-9)
    at, z, _ = pair("touch", FLAT, FLAT)
    assert abs(at[2]) < 1e-9 and np.allclose(z, [0, 0, -1], atol=1e-9)
    at, z, _ = pair("level", FLAT, FLAT)
    assert abs(at[2]) < 1e-9 and np.allclose(z, [0, 0, 1], atol=1e-9)
    at, z, _ = pair("gap", FLAT, FLAT, size="12.5")
    assert at[2] == pytest.approx(12.5, abs=1e-9) and np.allclose(z, [0, 0, -1], atol=1e-9)
    at, _, _ = pair("gap", ROUND, ROUND, size="30")
    assert np.hypot(at[0], at[1]) == pytest.approx(30, abs=1e-9)
    _, z, _ = pair("angle", FLAT, FLAT, size="35")
    assert float(z @ [0, 0, 1]) == pytest.approx(math.cos(math.radians(35)), abs=1e-9)
    _, z, _ = pair("angle", ROUND, FLAT, size="20")
    assert float(z @ [0, 0, 1]) == pytest.approx(math.sin(math.radians(20)), abs=1e-9)
    _, z, _ = pair("square", ROUND, ROUND)
    assert abs(z[2]) < 1e-9
    _, z, _ = pair("parallel", ROUND, FLAT)
    assert abs(z[2]) < 1e-9


def test_round_things_lie_on_what_they_touch() -> None:
    at, z, _ = pair("on", ROUND, FLAT)
    assert at[2] == pytest.approx(10, abs=1e-9) and abs(z[2]) < 1e-9
    at, _, _ = pair("on", BALL, FLAT)
    assert at[2] == pytest.approx(8, abs=1e-9)
    at, _, _ = pair("touch", BALL, BALL)
    assert np.linalg.norm(at) == pytest.approx(16, abs=1e-9)
    at, _, _ = pair("on", POINT, ROUND)
    assert np.hypot(at[0], at[1]) == pytest.approx(10, abs=1e-9)
    at, z, _ = pair("on", ROUND, Feature("round", (0, 0, 0), (0, 0, 1), (1, 0, 0), 14.0, hollow=True))
    assert np.hypot(at[0], at[1]) == pytest.approx(4, abs=1e-9)


def test_a_taper_seats_where_the_two_cones_are_one() -> None:
    half = math.radians(5)
    plug = Feature("cone", (0, 0, 0), (0, 0, 1), (1, 0, 0), 10.0, half)
    # the same taper seen from the other side, 12 mm on: there it is 10 + 12 tan 5 wide, and narrows along its own axis
    socket = Feature("cone", (0, 0, 12), (0, 0, -1), (1, 0, 0), 10.0 + 12 * math.tan(half), -half, hollow=True)
    at, z, _ = pair("in its taper", plug, socket)
    assert np.allclose(at, 0, atol=1e-9) and np.allclose(z, [0, 0, 1], atol=1e-9)
    other = Feature("cone", (0, 0, 0), (0, 0, 1), (1, 0, 0), 10.0, math.radians(6), hollow=True)
    found = solved(two("in its taper"), {"A": {"f": plug}, "B": {"f": other}})
    assert "included angle" in str(found.lost[1])


@pytest.mark.parametrize("lead", [1.5, -1.5, 3.0])
def test_a_screw_advances_by_its_lead(lead: float) -> None:
    helix = Helix(1.5, lead)
    screw = Feature("round", (0, 0, 0), (0, 0, 1), (1, 0, 0), 5.0, helix=helix)
    nut = Feature("round", (0, 0, 0), (0, 0, 1), (1, 0, 0), 4.2, hollow=True, helix=helix)
    fit = two("screwed", at=(1, 2, 20))
    found = solved(fit, {"A": {"f": screw}, "B": {"f": nut}})
    (free,) = found.freedoms
    assert free.kind == "screw" and "a turn" in free.words
    drive = drive_of(found.assembled, found.solution, free)
    travel = sweep(found.fit, found.features, drive, 0.0, 6 * math.pi, 6)
    assert not travel.stopped
    z = [f.placements["a"].at[2] for f in travel.frames]
    assert np.allclose(np.diff(z), lead / 2, rtol=0, atol=1e-12)


def test_real_threads_mesh_half_a_pitch_apart() -> None:
    screw = Feature("round", (0, 0, 3), (0, 0, 1), (1, 0, 0), 5.0, helix=Helix(2.0, 2.0, 0.3))
    nut = Feature("round", (0, 0, 0), (0, 0, 1), (0, 1, 0), 4.2, hollow=True, helix=Helix(2.0, 2.0, 0.7))
    found = solved(two("screwed", at=(0, 0, 11)), {"A": {"f": screw}, "B": {"f": nut}})
    place = found.placements["a"]
    x = place.rotation @ [1, 0, 0]
    angle = math.atan2(-x[0], x[1])  # of the screw's X about Z, counted from the nut's X, which is the room's Y
    crest_of_screw = place.at[2] + 3 + 0.3
    crest_of_nut = 0.7 + 2.0 * angle / (2 * math.pi)
    assert (crest_of_screw - crest_of_nut) % 2.0 == pytest.approx(1.0, abs=1e-9)


def test_what_does_not_fit_is_left_out_and_told() -> None:
    for kind, a, b, words in (
        ("touch", POINT, Feature("cone", (0, 0, 0), half_angle=0.1, radius=3.0), "does not join"),
        ("screwed", ROUND, ROUND, "threads"),
        ("angle", FLAT, FLAT, "more than 0"),
        ("gap", ROUND, ROUND, "more than zero"),
        ("geared", ROUND, ROUND, "impossible ratio"),
    ):
        found = solved(two(kind, size="0"), {"A": {"f": a}, "B": {"f": b}})
        assert words in str(found.lost[1]), kind
        assert found.state == "loose" and "left out" in found.words
    found = solved(two("touch"), {"A": {"f": FLAT}, "B": {"g": FLAT}})
    assert "is not on the part" in str(found.lost[1]) and getattr(found.lost[1], "candidates", ()) == ("g",)


# freedoms ------------------------------------------------------------------------------------------
def test_a_free_member_has_six_freedoms_and_a_held_one_none() -> None:
    made = assemblies.bolted(3, 4)
    loose = made.fit.model_copy(update={"relations": ()})
    assert len(solved(loose, made.features).freedoms) == 6 * 4
    held = loose.model_copy(update={"members": tuple(m.model_copy(update={"held": True}) for m in loose.members)})
    found = solved(held, made.features)
    assert found.state == "held" and found.words == "held"


def test_freedoms_are_motions_that_no_relation_feels() -> None:
    for seed in range(40, 46):
        made = assemblies.tree(seed, 9)
        found = stood(made)
        system = found.assembled.system
        full = system.jacobian(found.solution.slopes)
        for f in found.freedoms:
            step = f.motion[1:].copy()
            step[:, 3:] *= system.reach[1:, None]
            assert np.abs(full @ step.ravel()).max() < 1e-6 * system.size, f.words
        count = system.n - np.linalg.matrix_rank(full, tol=1e-6 * np.linalg.norm(full, 2))
        assert len(found.freedoms) == count


def test_words_name_the_axis_of_the_other() -> None:
    found = stood(assemblies.bolted(5, 1))
    (free,) = found.freedoms
    assert free.words == "turns about plate's bore ⌀10" and free.base == "plate"
    assert np.allclose(np.abs(free.twist[3:]), [0, 0, 1], atol=1e-9)


# fights ----------------------------------------------------------------------------------------------
@pytest.mark.parametrize("seed", some(range(60, 68), 4))
def test_a_planted_contradiction_is_found_with_a_smallest_set(seed: int) -> None:
    made = assemblies.tree(seed, 7)
    draw = np.random.default_rng(seed)
    found = stood(made)
    held = [r for r in made.fit.relations if r.kind in ("touch", "gap", "level")]
    if not held:
        pytest.skip("this one has no flats to contradict")
    victim = held[int(draw.integers(len(held)))]
    planted = victim.model_copy(update={"number": 999, "kind": "gap", "size": "17",
                                        "flip": victim.kind == "level"})  # fmt: skip
    if victim.kind == "gap":
        planted = planted.model_copy(update={"size": "23"})
    fit = found.fit.model_copy(update={"relations": (*made.fit.relations, planted)})
    contradicted = solved(fit, made.features)
    assert contradicted.state == "fighting"
    (fight,) = contradicted.fights
    assert 999 in fight.relations and victim.number in fight.relations
    assert set(fight.ways) <= set(fight.relations) and {999, victim.number} <= set(fight.ways)
    # none can be spared: without any one of them the fit stands
    for n in fight.relations:
        rest = tuple(r for r in fit.relations if r.number != n)
        assert settle(assemble(fit.model_copy(update={"relations": rest}), made.features).system).ok
    assert "cannot all hold" in contradicted.words


def test_two_members_held_against_each_other_fight() -> None:
    made = assemblies.bolted(9, 1)
    held = tuple(m.model_copy(update={"held": True}) for m in made.fit.members)
    found = solved(made.fit.model_copy(update={"members": held}), made.features)
    assert found.state == "fighting" and found.fights


# travels ---------------------------------------------------------------------------------------------
def driven(made: Made, member: str) -> tuple[Solved, Drive]:
    found = stood(made)
    found = solved(found.fit, made.features)
    free = next(f for f in found.freedoms if f.member == member or member in f.others)
    return found, drive_of(found.assembled, found.solution, free)


@pytest.mark.parametrize("seed", some(range(300, 308), 4))
def test_a_linkage_never_turns_over_on_its_way(seed: int) -> None:
    made = assemblies.four_bar(seed)
    found, drive = driven(made, "crank")
    travel = sweep(found.fit, found.features, drive, 0.0, 2 * math.pi, 90)
    assert len(travel.frames) > 3
    bends = [assemblies.bend(made, frame.placements) for frame in travel.frames]
    assert all(worst(made, frame.placements) < 1e-7 for frame in travel.frames)
    # it changes sides only through the stretched position
    assert not any(a * b < 0 and min(abs(a), abs(b)) > 0.25 for a, b in itertools.pairwise(bends))


@pytest.mark.parametrize("bend", [15, 35, 50])
def test_a_joint_with_a_cross_turns_by_the_closed_form(bend: float) -> None:
    beta = math.radians(bend)
    made = assemblies.cross_joint(17, bend=beta)
    found, drive = driven(made, "first")
    # where it was made, the first yoke's pin stands square to the plane of both shafts: angles count from there
    start = {n: made.truth[n].rotation for n in ("first", "second")}
    travel = sweep(found.fit, found.features, drive, 0.0, 2 * math.pi, 48)
    assert not travel.stopped
    first, second = np.array([1.0, 0, 0]), np.array([math.cos(beta), math.sin(beta), 0.0])
    for frame in travel.frames:
        turned_in = _about(frame.placements["first"].rotation @ start["first"].T, first)
        turned_out = _about(frame.placements["second"].rotation @ start["second"].T, second)
        # the second pin is square to the first and to its own shaft: tan(out) = tan(in) cos(beta)
        wanted = math.atan2(math.sin(turned_in) * math.cos(beta), math.cos(turned_in))
        assert math.remainder(turned_out - wanted, 2 * math.pi) == pytest.approx(0, abs=1e-9)


def _about(turn: np.ndarray, axis: np.ndarray) -> float:
    across = square_to(axis)[0]
    moved = turn @ across
    return math.atan2(float(np.cross(across, moved) @ axis), float(across @ moved))


def test_a_drag_follows_the_hand_as_far_as_it_is_free() -> None:
    made = assemblies.bolted(2, 1)
    made.fit = made.fit.model_copy(update={"relations": made.fit.relations[1:]})  # the touch alone: it slides
    found = stood(made)
    at = np.array(found.placements["bolt 0"].at)
    grip = Grip(found.fit, made.features, "bolt 0", at)
    for share in np.linspace(0, 1, 12):  # a hand comes by and by
        moved = grip.to(at + share * np.array([30.0, -12.0, 25.0]))["bolt 0"]
    assert np.allclose(np.array(moved.at)[:2], at[:2] + np.array([30, -12]), atol=0.1)
    assert moved.at[2] == pytest.approx(at[2], abs=1e-6)
    with pytest.raises(FitError, match="held in the room"):
        Grip(found.fit, made.features, "plate", np.zeros(3))


def test_an_impossible_travel_stops_and_says_where() -> None:
    b = Builder(1)
    b.body("ground")
    b.body("slide")
    b.slider("slide", "ground", np.zeros(3), np.array([1.0, 0, 0]))
    ball, flat = b.add("slide", "ball", np.zeros(3), np.array([0, 0, 1.0]), radius=5.0), "stop"
    b.features["ground"][flat] = Feature("ball", (40.0, 0.0, 0.0), radius=10.0)
    made = b.put_down(2.0, "slider")
    found, drive = driven(made, "slide")
    free = sweep(found.fit, found.features, drive, 0.0, 60.0, 6)
    assert not free.stopped and len(free.frames) == 7
    a, b_ = Ref(member="slide", feature=ball), Ref(member="ground", feature=flat)
    touch = Relation(number=50, kind="touch", a=a, b=b_)
    tied = found.fit.model_copy(update={"relations": (*found.fit.relations, touch)})
    stuck = solved(tied, found.features)
    assert stuck.state == "held"
    blocked = sweep(
        stuck.fit, found.features, drive_of(stuck.assembled, stuck.solution, found.freedoms[0]), 0.0, 9.0, 3
    )
    assert blocked.stopped and len(blocked.frames) == 1
    with pytest.raises(FitError):
        sweep(found.fit, found.features, drive, 0.0, math.inf, 3)
    with pytest.raises(FitError, match="number of steps"):
        sweep(found.fit, found.features, drive, 0.0, 1.0, 0)


def test_gears_turn_together_by_their_teeth() -> None:
    b = Builder(4)
    b.body("ground")
    up = np.array([0.0, 0, 1])
    for name, x in (("small", 0.0), ("large", 69.0)):
        b.body(name, np.array([x, 5.0, 3.0]))
        b.hinge(name, "ground", np.array([x, 0.0, 0.0]), up)
    axes = [b.add(n, "round", np.array([x, 0.0, 0.0]), up, radius=8.0) for n, x in (("small", 0.0), ("large", 69.0))]
    b.relate("geared", ("small", axes[0]), ("large", axes[1]), size="17/52")
    made = b.put_down(0.0, "gears")
    found, drive = driven(made, "small")
    assert len(found.freedoms) == 1
    start = {n: found.placements[n].rotation for n in ("small", "large")}
    travel = sweep(found.fit, found.features, drive, 0.0, math.radians(130), 13)
    end = travel.frames[-1].placements
    turned = {n: _about(end[n].rotation @ start[n].T, up) for n in start}
    assert turned["large"] == pytest.approx(-turned["small"] * 17 / 52, abs=1e-9)


def test_solving_again_changes_nothing() -> None:
    made = assemblies.tree(11, 12)
    once = stood(made)
    again = solved(once.fit, made.features)
    assert again.solution.steps <= 1
    for name, place in once.placements.items():
        assert np.allclose(place.matrix, again.placements[name].matrix, atol=1e-9)
    assert with_placements(once.fit, once.placements) == once.fit
    assert solve(again.assembled.system).ok
    assert freedoms(again.assembled, again.solution) == again.freedoms
