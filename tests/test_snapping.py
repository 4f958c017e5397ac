"""From readings to nominals: snapping, threads, over-determined chains."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import minimize

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.ledger import Instrument, Reading
from lathed_solid.ledger.guide import Next
from lathed_solid.ledger.reconcile import ReconcileError, reconcile
from lathed_solid.ledger.snapping import CUSTOM, MADE, WEAR, WORN, ReadSize, _family, snap
from lathed_solid.ledger.thread_guess import guess_thread, known
from lathed_solid.part import Document
from lathed_solid.part.caliper_log import guide
from lathed_solid.part.edits import put_reading
from lathed_solid.proof.chain import length_chain
from lathed_solid.proof.chain_words import chain_words
from lathed_solid.standards.thread_limits import thread_limits


def _measured(rng: np.random.Generator, true: float, role: str) -> ReadSize:
    """Three repeats with a caliper's own error, by its permissible error, and its resolution."""
    instrument = Instrument()
    error = rng.uniform(-1, 1) * instrument.permissible_error
    repeats = [round((true + error + rng.normal(0, 0.006)) / 0.01) * 0.01 for _ in range(3)]
    way = "inside" if role == "inside" else "outside"
    reading = Reading(balloon=1, way=way, repeats=tuple(max(r, 0.01) for r in repeats))
    return ReadSize.of(role, reading)  # type: ignore[arg-type]


def test_the_right_nominal_comes_first_and_the_share_is_honest() -> None:
    """1000 made-up parts of eight sizes each, metric or inch: drawn from the standard sizes (and a few of no family,
    for which no candidate can be right), made within MADE, some seats worn, measured with a caliper.
    """
    rng = np.random.default_rng(7)
    right, shares, of_standard = [], [], []
    for _ in range(1000):
        system = "metric" if rng.random() < 0.5 else "inch"
        sizes, truth = [], []
        for _ in range(8):
            role = rng.choice(["outside", "inside", "length"])
            family = _family(role, system)
            standard = rng.random() > CUSTOM
            usual = float(rng.choice(family.nominals, p=family.shares / family.shares.sum()))
            nominal = usual if standard else float(rng.uniform(1, 300))
            worn = rng.uniform(0, WEAR) if role == "outside" and rng.random() < WORN else 0.0
            sizes.append(_measured(rng, nominal + rng.normal(0, MADE) - worn, role))
            truth.append((nominal, standard))
        for (nominal, standard), found in zip(truth, snap(sizes), strict=True):
            right.append(standard and bool(found) and abs(found[0].nominal - nominal) < 1e-6)
            shares.append(found[0].share if found else 0.0)
            of_standard.append(standard)
    hit, said, usual_size = np.array(right), np.array(shares), np.array(of_standard)
    assert hit[usual_size].mean() >= 0.95 and usual_size.mean() < 0.99
    assert abs(said.mean() - hit.mean()) <= 0.03
    for low, high in ((0.0, 0.8), (0.8, 0.97), (0.97, 1.01)):
        chosen = (said >= low) & (said < high)
        if chosen.sum() > 150:
            assert abs(said[chosen].mean() - hit[chosen].mean()) <= 0.05, (low, said[chosen].mean(), hit[chosen].mean())


def test_sizes_of_one_part_decide_together_on_its_units() -> None:
    """25.00 is 25 mm among whole millimetres, and near 63/64 in; 25.40 is an inch among sixteenths."""
    alone = snap([ReadSize("length", 25.003, 0.012)])[0]
    assert {c.text for c in alone} >= {"25", "63/64 in"} and alone[0].text == "25"
    inch = snap([ReadSize("length", m, 0.012) for m in (25.003, 19.05, 12.70, 31.75, 9.525, 44.45)])
    assert inch[0][0].text == "63/64 in" and inch[4][0].text == "3/8 in"
    metric = snap([ReadSize("length", m, 0.012) for m in (25.40, 30.0, 42.0, 18.01, 55.0, 12.0, 8.0)])
    assert metric[0][0].text == "25.4" and "tenth" in metric[0][0].reason


def test_wear_is_told() -> None:
    (found,) = snap([ReadSize("outside", 24.94, 0.0125)], prior={"metric": 0.95, "inch": 0.05})
    assert found[0].text == "25" and found[0].reason == "a bearing seat"
    assert found[0].worn == 0  # within what parts are made to
    (found,) = snap([ReadSize("outside", 24.90, 0.0125)], prior={"metric": 0.95, "inch": 0.05})
    best = next(c for c in found if c.text == "25")
    assert best.worn == pytest.approx(0.10)


@pytest.mark.parametrize(
    ("diameter", "pitch", "inside", "name"),
    [
        (7.86, 1.25, False, "M8"),
        (7.86, 1.411, False, "5/16-18 UNC"),
        (19.85, 1.5, False, "M20x1.5"),
        (9.45, 1.5875, False, "3/8-16 UNC"),
        (20.85, 1.814, False, "G1/2"),
        (12.6, 1.954, False, "1/2-13 UNC"),
        (11.85, 1.75, False, "M12"),
        (6.75, 1.25, True, "M8"),
        (4.72, 0.794, False, "#10-32 UNF"),
        (4.90, 0.8, False, "M5"),
    ],
)
def test_threads_that_look_alike_are_told_apart(diameter: float, pitch: float, inside: bool, name: str) -> None:
    found = guess_thread(diameter, pitch, inside=inside)
    assert found and found[0].designation == name, found
    assert sum(g.share for g in found) == pytest.approx(1, abs=0.05)
    assert all(g.reason for g in found)


def test_every_known_thread_is_found_from_the_middle_of_its_limits() -> None:
    missed = []
    for name, _ in known():
        t = next(t for t in thread_limits(name) if not t.internal)
        low, high = t.major
        assert low is not None and high is not None
        found = guess_thread((low + high) / 2, t.form.pitch)
        if not found or found[0].designation != t.form.designation:
            missed.append(name)
    # of two threads with one pitch and overlapping limits the more usual one is named first, the other after it
    assert len(missed) <= 0.03 * len(known()), missed
    assert guess_thread(300, 1.5) == [] and guess_thread(8, 9) == []


READINGS = st.lists(st.tuples(st.floats(5, 200), st.floats(0.005, 0.2)), min_size=2, max_size=8)


@given(READINGS, st.floats(-0.5, 0.5))
def test_a_sum_is_shared_out_by_the_variances(steps: list[tuple[float, float]], off: float) -> None:
    """The closed form of one condition: each reading takes its share of the misclosure by u^2."""
    seen = [m for m, _ in steps] + [sum(m for m, _ in steps) + off]
    u = [s for _, s in steps] + [0.03]
    a = [[1.0] * len(steps) + [-1.0]]
    r = reconcile(seen, u, a, [0.0])
    q = np.square(u)
    signs = np.array(a[0])
    expected = np.array(seen) + q * signs * (off / q.sum())
    assert np.allclose(r.values, expected, rtol=1e-12, atol=1e-12)
    assert r.chi2 == pytest.approx(off * off / q.sum(), rel=1e-9, abs=1e-12) and r.freedom == 1
    # with one condition all residuals are alike: nobody is blamed
    assert r.suspect is None


def test_two_chains_name_the_reading_at_odds() -> None:
    """Steps 1 to 4, an overall length and a partial one; step 2 was read a millimetre short."""
    true = np.array([18.0, 34.0, 62.0, 14.0, 128.0, 52.0])
    seen = true.copy()
    seen[1] -= 1.0
    u = np.array([0.03, 0.03, 0.03, 0.03, 0.05, 0.03])
    a = [[1, 1, 1, 1, -1, 0], [1, 1, 0, 0, 0, -1]]
    r = reconcile(seen, u, a, [0, 0])
    assert not r.agrees and r.suspect is None  # steps 1 and 2 stand in the same conditions
    a.append([0, 1, 1, 0, 0, 0])
    r = reconcile(seen, u, a, [0, 0, 96.0])
    assert r.suspect == 1 and not r.agrees and np.allclose(np.array(a) @ r.values, [0, 0, 96], atol=1e-12)
    numeric = minimize(
        lambda x: float((((x - seen) / u) ** 2).sum()), seen, method="SLSQP", options={"ftol": 1e-14},
        constraints={"type": "eq", "fun": lambda x: np.array(a) @ x - [0, 0, 96]},
    )  # fmt: skip
    assert np.allclose(numeric.x, r.values, atol=1e-5)
    fine = reconcile(true + 0.01, u, a, [0, 0, 96.0])
    assert fine.agrees and fine.suspect is None
    twice = reconcile(seen, u, [*a, a[0]], [0, 0, 96.0, 0])
    assert twice.freedom == 3 and np.allclose(twice.values, r.values)


def test_readings_that_cannot_be_are_refused() -> None:
    for seen, u, a, b in (([1.0], [0.0], [[1.0]], [1.0]), ([float("nan")], [0.1], [[1.0]], [1.0]),
                          ([1.0, 2.0], [0.1], [[1.0]], [1.0])):  # fmt: skip
        with pytest.raises(ReconcileError):
            reconcile(seen, u, a, b)
    free = reconcile([1.0, 2.0], [0.1, 0.1], [], [])
    assert free.agrees and free.freedom == 0 and list(free.values) == [1.0, 2.0]


def test_the_chain_of_the_spindle_is_told_and_its_slip_found() -> None:
    spindle = DEMOS["winch-spindle"]()
    chain = length_chain(spindle)
    assert chain is not None and chain.suspect is None and chain.adjusted is not None and chain.adjusted.agrees
    head, more = chain_words(spindle, chain)
    assert head.startswith("198.050 = 114.035 + 40.015 + 30.045 + 14.017 is off by 0.062 — within")
    assert "198 = 114 + 40 + 30 + 14" in more and "13: " in more
    # a length read a millimetre short, and one told another way: the slip is named
    slip = spindle.reading(10)
    assert slip is not None
    short = put_reading(spindle, slip.model_copy(update={"repeats": tuple(r - 1 for r in slip.repeats)}))
    found = length_chain(short)
    assert found is not None and found.adjusted is not None and not found.adjusted.agrees and found.suspect is None
    assert "one of 6, 8, 10, 12, 13" in chain_words(short, found)[0]
    part = short
    for balloon, note, end, seen in ((40, "168", "E", (168.02, 168.01)), (41, "128", "D", (128.01, 128.03))):
        part = ls.measured_between(ls.note(part, note, balloon=balloon), balloon, "10/face.left", f"10/shoulder.{end}")
        part = ls.reading(part, balloon, "depth", seen)
    found = length_chain(part)
    assert found is not None and len(found.loops) == 3 and found.suspect == 10
    assert "measure 10 again" in chain_words(part, found)[0]
    # a nominal that does not add up
    wrong = ls.change_callout(spindle, 8, nominal=15.0)
    odd = length_chain(wrong)
    assert (
        odd is not None and "do not add up" in chain_words(wrong, odd)[0] and "off by 1" in chain_words(wrong, odd)[0]
    )
    assert length_chain(ls.new_part("nothing")) is None


def test_what_to_measure_next_is_what_tells_most() -> None:
    spindle = DEMOS["winch-spindle"]()

    def first(part: Document) -> tuple[Next, ...]:
        told = length_chain(part)
        return guide(part, tuple(k.balloons for k in told.loops) if told else (), told.suspects if told else ())

    # what drives the model and is not measured, then what was read once or twice
    assert [n.balloon for n in first(spindle)][:3] == [24, 4, 6] and "1 more tell" in first(spindle)[1].reason
    assert first(spindle)[0].way == "inside" and "plus both radii" in first(spindle)[0].caution
    # one link of the chain is missing: it closes the chain, whatever else is open
    part = spindle.model_copy(update={"readings": tuple(r for r in spindle.readings if r.balloon not in (3, 12, 27))})
    n = first(part)
    assert n[0].balloon == 12 and n[0].way == "step" and "closes the chain with 13, 6, 8, 10" in n[0].reason
    assert n[1].balloon == 3 and "tight limits" in n[1].reason and "micrometer" in n[1].caution
    assert next(k for k in n if k.balloon == 27).caution.startswith("small bores read low")
    # a reading at odds comes first, another way
    slip = spindle.reading(10)
    assert slip is not None
    off = put_reading(spindle, slip.model_copy(update={"repeats": tuple(r - 1 for r in slip.repeats)}))
    assert {k.balloon for k in first(off)[:5]} == {6, 8, 10, 12, 13} and first(off)[0].way == "step"
    assert guide(ls.new_part("nothing"), (), ()) == ()
