"""Standards against published values, uncertainty, limits, verdicts, mass."""

from __future__ import annotations

import math

import pytest

from lathed_solid.ledger import Callout, InchBlock, Instrument, Iso2768, Reading, limits
from lathed_solid.part import Document, StatedMass
from lathed_solid.proof import judge, judge_mass
from lathed_solid.standards import StandardError, angular, coarse_pitch, deviations, linear, material, materials
from lathed_solid.standards.csv_tables import rows


@pytest.mark.parametrize(
    ("size", "name", "lower", "upper"),
    [  # micrometres, from the tables of ISO 286-2 as printed in handbooks
        (25, "h6", -13, 0), (25, "H7", 0, 21), (25, "g6", -20, -7), (25, "f7", -41, -20), (25, "k6", 2, 15),
        (25, "m6", 8, 21), (25, "n6", 15, 28), (25, "p6", 22, 35), (25, "js6", -6.5, 6.5), (8, "N9", -36, 0),
        (8, "P9", -51, -15), (50, "H8", 0, 39), (50, "e8", -89, -50), (50, "d9", -142, -80), (100, "H11", 0, 220),
        (3, "h6", -6, 0), (3.5, "h6", -8, 0), (120, "h7", -35, 0), (25, "F8", 20, 53), (25, "D10", 65, 149),
        (30, "H7", 0, 21), (30.01, "H7", 0, 25), (18, "h9", -43, 0), (1.3, "H13", 0, 140),
    ],
)  # fmt: skip
def test_tolerance_classes(size: float, name: str, lower: float, upper: float) -> None:
    assert deviations(size, name) == pytest.approx((lower / 1000, upper / 1000), abs=1e-12)


def test_grades_agree_with_the_formula_within_their_rounding() -> None:
    factor = {"IT6": 10, "IT7": 16, "IT8": 25, "IT9": 40, "IT10": 64, "IT11": 100}
    for row in rows("tolerance_grades"):
        if row["grade"] in factor and float(row["over_mm"]) >= 3:
            d = math.sqrt(float(row["over_mm"]) * float(row["up_to_mm"]))
            unit = 0.45 * d ** (1 / 3) + 0.001 * d if d <= 500 else 0.004 * d + 2.1  # ISO 286-1:2010, B.2
            formula = factor[row["grade"]] * unit
            # the standard rounds to whole micrometres at small sizes, and to preferred numbers at large ones
            assert abs(float(row["tolerance_um"]) - formula) <= max(0.7, 0.08 * formula), row


@pytest.mark.parametrize(("size", "name"), [(25, "I9"), (25, "h20"), (3200, "h6"), (0, "h6"), (25, "K9"), (25, "")])
def test_classes_not_shipped_are_refused(size: float, name: str) -> None:
    with pytest.raises(StandardError):
        deviations(size, name)


def test_general_tolerances() -> None:
    assert [linear(s, "m") for s in (0.5, 3, 3.1, 6, 30, 30.5, 120, 121, 400)] == [
        0.1, 0.1, 0.1, 0.1, 0.2, 0.3, 0.3, 0.5, 0.5,
    ]  # fmt: skip
    assert linear(2, "m", broken_edge=True) == 0.2 and linear(7, "c", broken_edge=True) == 2
    assert math.degrees(angular("c", 60)) == pytest.approx(0.5)
    with pytest.raises(StandardError):
        linear(0.3, "m")
    assert coarse_pitch(20) == 2.5 and coarse_pitch(8) == 1.25


def test_every_material_has_a_density_and_a_source() -> None:
    assert all(0.0005 < m.density < 0.02 and m.source and 0 < m.spread < 0.05 for m in materials().values())


def test_uncertainty_of_a_reading() -> None:
    one = Reading(balloon=1, way="outside", repeats=(24.95,), instrument=Instrument())
    assert one.uncertainty == pytest.approx(2 * math.sqrt(0.01**2 / 12 + 0.02**2 / 3))
    assert "one repeat" in one.note
    four = Reading(balloon=1, way="outside", repeats=(24.94, 24.95, 24.94, 24.93))
    s = math.sqrt(2 * 0.01**2 / 3)
    assert four.mean == pytest.approx(24.94)
    assert four.uncertainty == pytest.approx(2 * math.sqrt(0.01**2 / 12 + 0.02**2 / 3 + s**2 / 4))


def test_limits_and_where_they_come_from() -> None:
    def of(**values: object) -> Callout:
        return Callout.model_validate({"balloon": 1, "note": "x", "kind": "diameter", "nominal": 32.0, **values})

    iso, block = Iso2768(), InchBlock()
    assert (limits(of(), iso).low, limits(of(), iso).high) == (31.7, 32.3)
    assert limits(of(low=31.0, high=32.0), iso).source == "written"
    reference = limits(of(reference=True, decimals=1), iso)
    assert (reference.low, reference.high) == (pytest.approx(31.95), pytest.approx(32.05))
    inch = limits(of(nominal=25.4, decimals=3, unit="in"), block)
    assert inch.high == pytest.approx(25.4 + 0.127)
    assert limits(of(nominal=0.2), iso).low is None


def test_verdict_rule() -> None:
    assert judge(25.0, 24.987, 25.0) == "in"
    assert judge(25.0 + 2e-6, 24.987, 25.0) == "out"
    assert judge(24.995, 24.987, 25.0, 0.01) == "near"
    assert judge(24.98, 24.987, 25.0, 0.01) == "near"
    assert judge(24.94, 24.987, 25.0, 0.024) == "out"
    assert judge(5.0, 4.0, None) == "in" and judge(5.0, None, None, 0.5) == "no limit"


def test_mass_band() -> None:
    document = Document(stated_mass=StatedMass(grams=100.0, resolution=1.0, tolerance=0.5))
    volume = 100.0 / material("C45 steel").density
    result = judge_mass(document, {10: volume})
    assert result is not None and result.model == pytest.approx(100)
    assert result.band == pytest.approx(0.5 + 2 * math.sqrt(1 / 12 + 0.5**2 / 3))
    assert result.verdict == "in"
    heavier = judge_mass(document, {10: volume * 1.02})
    assert heavier is not None and heavier.verdict == "out"
    assert judge_mass(document.model_copy(update={"material": "cheese"}), {10: volume}) is None
