"""Suspects, sensitivities, coverage and the itemised sum, against closed forms and planted slips."""

from __future__ import annotations

import json
import math
from pathlib import Path

import pytest
import slips_sweep
from click.testing import CliRunner
from effort import some
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.volumes import answered, volume_of
from lathed_solid.engine.worker_pool import Stopped, WorkerPool
from lathed_solid.part import Document, StatedVolume
from lathed_solid.part.edits import drop_step
from lathed_solid.proof.coverage import coverage
from lathed_solid.proof.expected import Expected, expected
from lathed_solid.proof.itemised import itemised, pappus, sum_words
from lathed_solid.proof.sensitivity import nudge, sensitivities, volume_band
from lathed_solid.proof.slips import digit_slips, other_slips
from lathed_solid.proof.suspects import hunt, nearest_round
from lathed_solid.quantity import QuantityError
from lathed_solid.quantity.volume import parse_volume


@pytest.fixture(scope="module")
def engine() -> Engine:
    return Engine()


def stepped() -> Document:
    """Two cylinders and a blind bore with a drill point: all volumes in closed form."""
    part = ls.new_part("stepped")
    for n, text in enumerate(("Ø40 ±0.1", "30 ±0.2", "Ø24", "20", "Ø10", "15", "118°"), 1):
        part = ls.note(part, text, n)
    stations = [ls.Station(key="A", diameter="#1", length="#2"), ls.Station(key="B", diameter="#3", length="#4")]
    bore = ls.Bore(end="left", steps=(ls.BoreStep(diameter="#5", depth="#6"),), point="#7")
    return ls.turned(part, stations, bores=[bore])


def test_sensitivities_are_those_of_the_closed_form(engine: Engine) -> None:
    found = {s.balloon: s for s in answered(engine, sensitivities(stepped()))}
    d, t, a = 10.0, 15.0, math.radians(59)
    cone = math.pi / 24 / math.tan(a)
    truth = {
        1: math.pi / 2 * 40 * 30, 2: math.pi / 4 * 40**2, 3: math.pi / 2 * 24 * 20, 4: math.pi / 4 * 24**2,
        5: -(math.pi / 2 * d * t + 3 * cone * d**2), 6: -math.pi / 4 * d**2,
        7: math.pi / 24 * d**3 / (2 * math.sin(a) ** 2),
    }  # fmt: skip
    assert set(found) == set(truth)
    for balloon, slope in truth.items():
        assert found[balloon].slope == pytest.approx(slope, rel=1e-6), balloon
        assert found[balloon].error <= 1e-4 * abs(slope)
    assert found[1].spread == pytest.approx(0.2 * truth[1], rel=1e-6)
    moved = [nudge(found[k], unit) for k, unit in ((1, "mm"), (1, "in"), (7, "in"))]
    assert moved == pytest.approx([0.1, 0.127, math.radians(0.1)])
    worst, root = volume_band([found[1], found[2]])
    one, two = 0.1 * truth[1], 0.2 * truth[2]
    assert (worst, root) == pytest.approx((one + two, math.hypot(one, two)), rel=1e-6)


@pytest.mark.parametrize("seed", some([1002, 1003, 1016], 1))
def test_a_planted_slip_is_named(seed: int, engine: Engine) -> None:
    """Of the generated parts (slips_sweep.py has the figures for many)."""
    got = slips_sweep.rank(seed, engine)
    assert got is not None and got[1] == 0
    model, planted, volume = slips_sweep.make(seed, engine) or (None, None, 0.0)
    assert model is not None and planted is not None
    best = next(s for s in got[2] if s.target in planted.targets)
    mended = best.document(model)
    wanted = expected(model)
    assert mended is not None and wanted is not None
    after = volume_of(engine, mended)
    assert after is not None and wanted.fits(after) and not wanted.fits(volume)


def test_two_slips_are_found_together_and_none_where_all_fits(engine: Engine) -> None:
    part = stepped()
    volume = volume_of(engine, part)
    assert volume is not None
    wanted = Expected(volume, 1e-5 * volume, "the drawing")
    assert answered(engine, hunt(part, volume, wanted)) == ()
    wrong = ls.change_callout(ls.change_callout(part, 1, nominal=20.0, low=None, high=None), 6, nominal=7.5)
    made = volume_of(engine, wrong)
    assert made is not None
    found = answered(engine, hunt(wrong, made, wanted, pairs=True))
    targets = [{k.target: k.now for k in s.slips} for s in found if len(s.slips) == 2]
    assert {"callout 1": "⌀40", "callout 6": "15"} in targets


def test_a_forgotten_hole_is_told_by_the_callouts_that_nothing_uses(engine: Engine) -> None:
    spindle = DEMOS["winch-spindle"]()
    volume = volume_of(engine, spindle)
    short = drop_step(spindle, 20)
    made = volume_of(engine, short)
    assert volume is not None and made is not None
    stated = short.model_copy(update={"stated_volume": StatedVolume(mm3=volume, tolerance=1e-4 * volume)})
    wanted = expected(stated)
    assert wanted is not None and wanted.source == "the volume stated"
    # four counterbored holes through the flange: by their own sizes, to the last digit
    told_by = [k for k in other_slips(stated, made) if k.target == "callout 21" and k.estimate is not None]
    best = min(told_by, key=lambda k: abs((k.estimate or 0.0) - volume))
    assert best.estimate == pytest.approx(volume, abs=1e-3) and "14 deep and counterbored" in best.why
    report = prove(engine, short, engine.build(short))
    body = engine.build(short).body
    assert body is not None
    told = coverage(short, report, body.labels)
    assert told.unused == (21, 22, 23, 24)


def test_coverage_and_the_sum_of_steps(engine: Engine) -> None:
    part = stepped()
    built = engine.build(part)
    assert built.body is not None
    report = prove(engine, part, built)
    told = coverage(part, report, built.body.labels)
    assert told.unused == () and told.faces == len(built.body.labels)
    assert all("10/bore" in name or "face" in name or "shoulder" in name for _, names in told.bare for name in names)
    holed = ls.hole(part, "10/face.right", "4", depth="6", point=None)
    built = engine.build(holed)
    lines = itemised(holed, built.steps)
    assert [k.step for k in lines] == [10, 20] and lines[1].volume == pytest.approx(-math.pi * 4 * 6, rel=1e-7)
    by_hand = pappus(holed)
    assert by_hand is not None and by_hand[2] == pytest.approx(lines[0].volume, rel=1e-7)
    assert 2 * math.pi * by_hand[0] * by_hand[1] == pytest.approx(by_hand[2])
    words = sum_words(holed, lines)
    one, whole = (f"{v:,.1f}".replace(",", " ") for v in (lines[0].volume, lines[1].total))
    assert words.startswith(f"{whole} mm³ = {one} − 75.4") and "by Pappus" in words


def test_a_crew_answers_as_one_process_does_and_can_be_stopped(engine: Engine, tmp_path: Path) -> None:
    part = stepped()
    many = [ls.change_callout(part, 2, nominal=20.0 + k) for k in range(5)]
    many.insert(2, ls.change_callout(part, 5, nominal=90.0))  # a bore wider than the part
    with WorkerPool(2) as crew:
        seen: list[tuple[int, int]] = []
        got = crew.volumes(many, lambda done, of: seen.append((done, of)))
        assert got[2] is None and seen[-1] == (6, 6)
        for document, v in zip(many, got, strict=True):
            own = volume_of(engine, document)
            assert (v is None) == (own is None) and (v is None or v == pytest.approx(own, rel=1e-12))
        crew.stop.set()
        with pytest.raises(Stopped):
            crew.volumes(many)
    volume = volume_of(engine, part)
    assert volume is not None
    wrong = ls.change_callout(part, 4, nominal=10.0)
    stated = wrong.model_copy(update={"stated_volume": StatedVolume(mm3=volume, tolerance=0.5)})
    file = tmp_path / "wrong.lathed"
    ls.write_document(file, stated)
    run = CliRunner().invoke(cli, ["suspects", str(file), "--json", "--jobs", "2"], standalone_mode=False)
    told = json.loads(run.output)
    assert run.return_value == 1 and not told["ok"]
    assert {(s["slips"][0]["target"], s["slips"][0]["now"]) for s in told["suspects"]} >= {("callout 4", "20")}
    run = CliRunner().invoke(cli, ["sensitivities", str(file)], standalone_mode=False)
    assert "by the tolerances: volume" in run.output and run.return_value == 0


def test_slips_of_the_pen(engine: Engine) -> None:
    values = {round(v, 6): why for v, why, _ in digit_slips(62.5, ls.new_part("p"))}
    assert 26.5 in values and "swapped" in values[26.5] and 625 in values and 6.25 in values and 62.5 not in values
    assert 82.5 in values and 62 in values
    assert nearest_round(24.97, 0.05, False) == 25 and nearest_round(24.97, 0.01, False) is None
    assert nearest_round(9.53, 0.02, True) == pytest.approx(9.525)


@given(st.floats(1e-3, 1e6), st.integers(0, 5), st.sampled_from(["mm3", "cm³", "in3", "in^3", ""]))
def test_a_stated_volume_reads_back(value: float, places: int, unit: str) -> None:
    text = f"{value:.{places}f}"
    if float(text) == 0:
        return
    mm3, half = parse_volume(f"{text} {unit}", "mm")
    factor = {"m": 1.0, "c": 1e3, "i": 25.4**3}[unit[:1] or "m"]
    assert mm3 == pytest.approx(float(text) * factor) and half == pytest.approx(0.5 * 10**-places * factor)
    mm3, half = parse_volume("1182.0 g - 1031.5 g in water", "mm")
    assert mm3 == pytest.approx(150.5 / 0.9982e-3) and half == pytest.approx(0.1 / 0.9982e-3)
    for bad in ("", "x", "-3", "0", "3 kg", "5 g - 6 g"):
        with pytest.raises(QuantityError):
            parse_volume(bad, "mm")


def test_own_densities_and_moments(engine: Engine) -> None:
    from lathed_solid.standards import StandardError, material

    oak = material("oak 0.70 g/cm3 ±8 %")
    assert (oak.name, oak.density, oak.spread) == ("oak", pytest.approx(7e-4), 0.08)
    assert material("7200 kg/m³").density == pytest.approx(7.2e-3) and material("melt 12: 8,78 g/cm3").spread == 0.01
    for bad in ("oak", "", "x 99 g/cm3", "0 g/cm3"):
        with pytest.raises(StandardError):
            material(bad)
    # a cylinder along x from the origin: m r^2 / 2, m (3 r^2 + h^2) / 12, and m (r^2 / 4 + h^2 / 3) about its end
    part = ls.turned(ls.new_part("pin", material="oak 0.70 g/cm3"), [ls.Station(key="A", diameter="20", length="50")])
    s = ls.build(part).summary
    m, r, h = s["mass_g"], 10.0, 50.0
    assert m == pytest.approx(math.pi * 100 * 50 * 7e-4)
    assert s["principal_g_mm2"] == pytest.approx([m * r**2 / 2, *[m * (3 * r**2 + h**2) / 12] * 2])
    assert abs(s["principal_axes"][0][0]) == pytest.approx(1)
    assert s["inertia_origin_g_mm2"][1][1] == pytest.approx(m * (r**2 / 4 + h**2 / 3))


def test_a_part_weighed_again_is_known_better() -> None:
    from lathed_solid.part import StatedMass
    from lathed_solid.proof.mass import mass_band

    mass = StatedMass(grams=1182.0, resolution=0.1, repeats=(1182.0,))
    for shown in (1182.4, 1181.9, 1182.1):
        mass = mass.weighed_again(shown)
    s = math.sqrt(sum((x - 1182.1) ** 2 for x in (1182.0, 1182.4, 1181.9, 1182.1)) / 3)
    assert mass.grams == pytest.approx(1182.1) and mass.scatter == pytest.approx(s / 2)
    assert mass_band(mass, 1182.1, 0.0) == pytest.approx(2 * math.sqrt(0.01 / 12 + s * s / 4))


def test_bodies_of_several_materials() -> None:
    """A steel pin and an oak block beside it: masses, centre and inertia by hand."""
    from lathed_solid.part import BodyMaterial

    d = ls.Draft()
    ls.shapes.rectangle(d, (100, -10), (140, 10))
    part = ls.turned(ls.new_part("pair", material="C45 steel"), [ls.Station(key="A", diameter="20", length="50")])
    part = ls.extrude(ls.sketch(part, d), 20, "30", mode="new")
    part = part.model_copy(update={"body_materials": (BodyMaterial(step=30, material="oak 0.70 g/cm3 ±8 %"),)})
    s = ls.build(part).summary
    steel, oak = math.pi * 100 * 50 * 7.85e-3, 40 * 20 * 30 * 7e-4
    assert s["mass_g"] == pytest.approx(steel + oak, rel=1e-3)  # the table's density of C45 to three digits
    steel = s["mass_g"] - oak
    x = (steel * 25 + oak * 120) / (steel + oak)
    assert s["centre_mm"] == pytest.approx([x, 0, oak * 15 / (steel + oak)], abs=1e-9)
    about_x = steel * 100 / 2 + oak * (20**2 + 30**2) / 12 + steel * oak / (steel + oak) * 15**2
    assert s["inertia_g_mm2"][0][0] == pytest.approx(about_x)
    mass = ls.prove(part).mass
    assert mass is not None and mass.material == "C45 steel, oak 0.70 g/cm3 ±8 %"
    assert mass.high - mass.model == pytest.approx(mass.model - mass.low)
    assert expected(ls.weighed(part, 150.0)) is None
    from lathed_solid.part.edits import move_step

    assert move_step(part, 10, 2).body_materials[0].step == 20
