"""The station table: half sections against closed forms, impossible tables refused with their station."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.quantity import evaluate
from lathed_solid.turned import (
    Bore,
    BoreStep,
    Edge,
    Groove,
    HalfSection,
    Station,
    TableError,
    Taper,
    TurnedTable,
    edge_text,
    edits,
    half_section,
    parse_edge,
    parse_taper,
    revolved,
    taper_text,
)


def section(**values: Any) -> HalfSection:
    return half_section(TurnedTable(**values), lambda text, kind: evaluate(text, kind, "mm"))


def station(key: str, diameter: str, length: str | None = None, **values: Any) -> Station:
    return Station(key=key, diameter=diameter, length=length, **values)


def cone(d0: float, d1: float, length: float) -> float:
    return math.pi * length / 12 * (d0 * d0 + d0 * d1 + d1 * d1)


CYLINDER = station("A", "40", "50")
VOLUMES: list[tuple[str, dict[str, Any], float]] = [
    ("cylinder", {"stations": [CYLINDER]}, math.pi * 400 * 50),
    ("two steps, to", {"stations": [CYLINDER, station("B", "20", to="80")]}, math.pi * (400 * 50 + 100 * 30)),
    ("datum right", {"datum": "right", "stations": [station("A", "30", to="50"), station("B", "40", to="10")]},
     math.pi * (225 * 40 + 400 * 10)),
    ("taper to", {"stations": [station("A", "30", "60", taper=Taper(kind="diameter", value="20"))]}, cone(30, 20, 60)),
    ("taper 1:10", {"stations": [station("A", "30", "60", taper=Taper(kind="ratio", value="10"))]}, cone(30, 24, 60)),
    ("taper angle rises", {"stations": [station("A", "30", "60", taper=Taper(kind="angle", value="5°", rises=True))]},
     cone(30, 30 + 120 * math.tan(math.radians(5)), 60)),
    ("chamfer", {"stations": [station("A", "40", "50", right=Edge(kind="chamfer", size="2"))]},
     math.pi * 400 * 48 + cone(40, 36, 2)),
    ("chamfer 30", {"stations": [station("A", "40", "50", left=Edge(kind="chamfer", size="3", angle="30°"))]},
     math.pi * 400 * 47 + cone(40, 40 - 6 * math.tan(math.radians(30)), 3)),
    # Pappus: a quarter-round removed from, or added to, a corner: area (1 - pi/4) R^2, its centroid from the corner
    # (10 - 3 pi) / (12 - 3 pi) R
    ("round", {"stations": [station("A", "40", "50", right=Edge(kind="radius", size="2"))]},
     math.pi * 400 * 50 - 2 * math.pi * (20 - 2 * (10 - 3 * math.pi) / (12 - 3 * math.pi)) * (1 - math.pi / 4) * 4),
    ("fillet", {"stations": [CYLINDER, station("B", "20", "30", left=Edge(kind="radius", size="2"))]},
     math.pi * (400 * 50 + 100 * 30)
     + 2 * math.pi * (10 + 2 * (10 - 3 * math.pi) / (12 - 3 * math.pi)) * (1 - math.pi / 4) * 4),
    ("groove", {"stations": [CYLINDER], "grooves": [Groove(key="g1", at="20", width="3", diameter="34")]},
     math.pi * (400 * 50 - (400 - 289) * 3)),
    ("groove at a shoulder", {"stations": [station("A", "30", "50"), CYLINDER.model_copy(update={"key": "B"})],
     "grooves": [Groove(key="g1", at="47", width="3", diameter="26")]},
     math.pi * (225 * 50 + 400 * 50 - (225 - 169) * 3)),
    ("flat bore", {"stations": [CYLINDER], "bores": [Bore(end="left", steps=(BoreStep(diameter="10", depth="20"),))]},
     math.pi * (400 * 50 - 25 * 20)),
    ("drilled bore", {"stations": [CYLINDER],
     "bores": [Bore(end="right", steps=(BoreStep(diameter="10", depth="20"),), point="118°")]},
     math.pi * (400 * 50 - 25 * 20 - 25 * 5 / math.tan(math.radians(59)) / 3)),
    ("through bore", {"stations": [CYLINDER], "bores": [Bore(end="left", steps=(BoreStep(diameter="12"),))]},
     math.pi * (400 - 36) * 50),
    ("bores from both ends, one through", {"stations": [CYLINDER], "bores": [
        Bore(end="left", steps=(BoreStep(diameter="20", depth="10"), BoreStep(diameter="12"))),
        Bore(end="right", steps=(BoreStep(diameter="16", depth="8"),))]},
     math.pi * (400 * 50 - 100 * 10 - 36 * 32 - 64 * 8)),
    ("mouth", {"stations": [CYLINDER],
     "bores": [Bore(end="left", steps=(BoreStep(diameter="12"),), mouth=Edge(kind="chamfer", size="1"))]},
     math.pi * (400 - 36) * 50 - (cone(14, 12, 1) - math.pi * 36)),
    ("taper bore", {"stations": [CYLINDER],
     "bores": [Bore(end="left", steps=(BoreStep(diameter="20", end_diameter="15"),))]},
     math.pi * 400 * 50 - cone(20, 15, 50)),
]  # fmt: skip


@pytest.mark.parametrize(("values", "volume"), [v[1:] for v in VOLUMES], ids=[v[0] for v in VOLUMES])
def test_volume_by_closed_form(values: dict[str, Any], volume: float) -> None:
    assert revolved(section(**values)).volume == pytest.approx(volume, rel=1e-12)


def test_figures_of_a_cylinder_and_a_ring() -> None:
    r = revolved(section(stations=[CYLINDER]))
    assert (r.area, r.centre) == (pytest.approx(2 * math.pi * 20 * 70), pytest.approx(25))
    assert r.axial == pytest.approx(r.volume * 20**2 / 2)
    assert r.transverse == pytest.approx(r.volume * (3 * 20**2 + 50**2) / 12)


REFUSED: list[tuple[str, dict[str, Any], int | None]] = [
    ("no stations", {"stations": []}, None),
    ("length must be above zero", {"stations": [station("A", "20", "0")]}, 1),
    ("diameter must be above zero", {"stations": [CYLINDER, station("B", "-5", "3")]}, 2),
    ("negative", {"stations": [CYLINDER, station("B", "20", to="45")]}, 2),
    ("above 10 m", {"stations": [station("A", "20", "20 m")]}, 1),
    ("either a length or", {"stations": [station("A", "20")]}, 1),
    ("not known", {"stations": [CYLINDER, station("B", "nan", "3")]}, 2),
    ("larger than its step", {"stations": [CYLINDER, station("B", "30", "9", left=Edge(kind="radius", size="6"))]}, 2),
    ("no shoulder", {"stations": [CYLINDER, station("B", "40", "9", left=Edge(kind="radius", size="1"))]}, 2),
    ("runs to a point", {"stations": [station("A", "20", "50", taper=Taper(kind="ratio", value="2"))]}, 1),
    ("overlap", {"stations": [CYLINDER], "grooves": [Groove(key="a", at="20", width="3", diameter="30"),
                                                    Groove(key="b", at="22", width="3", diameter="30")]}, 1),
    ("opens at the end", {"stations": [CYLINDER], "grooves": [Groove(key="a", at="47", width="3", diameter="30")]}, 1),
    ("not smaller", {"stations": [CYLINDER], "grooves": [Groove(key="a", at="20", width="3", diameter="40")]}, 1),
    ("within one station", {"stations": [CYLINDER],
                            "grooves": [Groove(key="a", at="90", width="3", diameter="9")]}, None),
    ("run into each other", {"stations": [CYLINDER], "bores": [
        Bore(end="left", steps=(BoreStep(diameter="8", depth="30"),)),
        Bore(end="right", steps=(BoreStep(diameter="8", depth="25"),))]}, None),
    ("breaks through", {"stations": [CYLINDER, station("B", "12", "20")],
                        "bores": [Bore(end="right", steps=(BoreStep(diameter="12", depth="30"),))]}, 2),
    ("breaks through", {"stations": [CYLINDER], "grooves": [Groove(key="a", at="20", width="3", diameter="16")],
                        "bores": [Bore(end="right", steps=(BoreStep(diameter="18"),))]}, 1),
    ("not beyond", {"stations": [CYLINDER], "bores": [
        Bore(end="left", steps=(BoreStep(diameter="9", depth="9"), BoreStep(diameter="5", depth="9")))]}, None),
    ("reaches the other face", {"stations": [CYLINDER], "bores": [
        Bore(end="left", steps=(BoreStep(diameter="9", depth="50"),))]}, None),
    ("share the key", {"stations": [CYLINDER, CYLINDER]}, None),
]  # fmt: skip


@pytest.mark.parametrize(("words", "values", "number"), REFUSED)
def test_impossible_tables_are_refused_with_the_station(words: str, values: dict[str, Any], number: int | None) -> None:
    with pytest.raises(TableError, match=words) as caught:
        section(**values)
    assert caught.value.station == number


SIZES = st.floats(4, 60).map(lambda x: round(x, 2))


@given(st.lists(st.tuples(SIZES, SIZES), min_size=1, max_size=8), st.floats(0, 1.2), st.booleans())
def test_any_stepped_shaft_closes_and_keeps_pappus(
    steps: list[tuple[float, float]], edge: float, rounded: bool
) -> None:
    broken = Edge(kind="radius" if rounded else "chamfer", size=f"{edge:.3f}") if edge > 0.01 else None
    rows = [station(f"S{i}", str(d), str(length)) for i, (d, length) in enumerate(steps)]
    rows[-1] = rows[-1].model_copy(update={"right": broken})
    h = section(stations=rows)
    for a, b in zip(h.segments, (*h.segments[1:], h.segments[0]), strict=True):
        assert math.dist(a.end, b.start) < 1e-9
    plain = sum(math.pi * d * d / 4 * length for d, length in steps)
    removed = plain - revolved(h).volume
    most = math.pi * steps[-1][0] * edge * edge
    assert -1e-9 * plain <= removed <= most + 1e-9 * plain


@pytest.mark.parametrize("text", ["1 × 45°", "#14 × 45°", "R #20", "R 1", "#1 + 2 × 30°", ""])
def test_edge_cells_round_trip(text: str) -> None:
    assert edge_text(parse_edge(text)) == text


@pytest.mark.parametrize("text", ["to 18", "1:10", "1:10 rises", "half 5.7°", ""])
def test_taper_cells_round_trip(text: str) -> None:
    assert taper_text(parse_taper(text)) == text


def test_editing_keeps_keys() -> None:
    table = TurnedTable(stations=(CYLINDER,))
    table = edits.add_station(table, 0, "20", "5")
    table = edits.add_station(table, 0, "30", "5")
    assert [s.key for s in table.stations] == ["A", "C", "B"]
    assert [s.key for s in edits.move_station(table, 0, 1).stations] == ["C", "A", "B"]
    table = edits.set_station_cell(edits.remove_station(table, 1), 1, "to", "70")
    assert table.stations[1].length is None and table.stations[1].to == "70"
    with pytest.raises(TableError, match="station 2"):
        edits.set_station_cell(table, 1, "left", "wobbly")
    with pytest.raises(TableError, match="at least one"):
        edits.remove_station(TurnedTable(stations=(CYLINDER,)), 0)
    bored = edits.add_bore_step(edits.add_bore_step(table, "left"), "left", "4", "20")
    assert len(edits.bore_rows(bored)) == 2
    assert edits.set_bore_cell(bored, 1, "depth", "through").bores[0].steps[1].depth is None
    assert edits.remove_bore_step(edits.remove_bore_step(bored, 0), 0).bores == ()
    assert edits.set_bore_cell(bored, 0, "end", "right").bores[0].end == "right"
    with pytest.raises(TableError, match="one of the two faces"):
        edits.set_bore_cell(bored, 0, "end", "top")
    with pytest.raises(TableError, match="from the right already"):
        edits.set_bore_cell(edits.add_bore_step(bored, "right"), 0, "end", "right")
