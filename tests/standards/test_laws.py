"""Each table has an independent check: a formula of its standard, another publication's rule, or a law over it all."""

from __future__ import annotations

import itertools
import math

import pytest

from lathed_solid.standards import StandardError
from lathed_solid.standards.clearance import socket_counterbore
from lathed_solid.standards.csv_tables import DATA, rows
from lathed_solid.standards.fits import deviations, grade_tolerance
from lathed_solid.standards.lookup import look_up
from lathed_solid.standards.machine import centre_hole, inch_key_for, key_for, ring_groove
from lathed_solid.standards.materials import materials
from lathed_solid.standards.stock import usual
from lathed_solid.standards.thread_limits import drill_for, stress_area, thread_limits
from lathed_solid.standards.threads import coarse_pitch, thread_form
from standards.laws import column, gaps, grouped, off_law, rising
from standards.published import published


@pytest.mark.parametrize(("name", "size", "low", "high"), list(published()))
def test_limits_are_those_published(name: str, size: float, low: float, high: float) -> None:
    assert [1000 * d for d in deviations(size, name)] == pytest.approx([low, high], abs=1e-6)


def test_dryseal_threads_are_cut_by_the_shares_of_their_pitch_that_the_standard_gives_beside() -> None:
    """ASME B1.20.3 gives each truncation twice: as a share of the pitch, and in inches to four places."""
    shares = {27.0: (0.047, 0.094, 0.094, 0.140), 18.0: (0.047, 0.078, 0.078, 0.109),
              14.0: (0.036, 0.060, 0.060, 0.085), 11.5: (0.040, 0.060, 0.060, 0.090),
              8.0: (0.042, 0.055, 0.055, 0.076)}  # fmt: skip
    for row in rows("dryseal"):
        told = [float(row[n]) for n in ("crest_least_in", "crest_most_in", "root_least_in", "root_most_in")]
        tpi = float(row["tpi"])
        assert told == pytest.approx([share / tpi for share in shares[tpi]], abs=5.1e-5)
    assert {float(r["tpi"]) for r in rows("dryseal")} >= {float(r["tpi"]) for r in rows("pipe_taper")}
    plain, dry = look_up("1/4-18 NPT"), look_up("1/4-18 NPTF")
    assert dry.data["designation"] == "1/4-18 NPTF" and plain.data["designation"] == "1/4-18 NPT"
    assert len(dry.figures) == len(plain.figures) + 2


def test_grades_follow_their_unit_up_to_three_metres() -> None:
    """i = 0.45 D^(1/3) + 0.001 D up to 500 mm, I = 0.004 D + 2.1 beyond, times 10^(1/5) a grade from IT6 on."""
    for (grade,), group in grouped(rows("tolerance_grades"), "grade").items():
        assert not gaps(group, "over_mm", "up_to_mm") and rising(column(group, "tolerance_um"), strictly=False), grade
    times = {
        6: 10,
        7: 16,
        8: 25,
        9: 40,
        10: 64,
        11: 100,
        12: 160,
        13: 250,
        14: 400,
        15: 640,
        16: 1000,
        17: 1600,
        18: 2500,
    }

    def law(r: dict[str, str]) -> float:
        mean = math.sqrt(max(float(r["over_mm"]), 1.0) * float(r["up_to_mm"]))
        unit = 0.45 * mean ** (1 / 3) + 0.001 * mean if float(r["up_to_mm"]) <= 500 else 0.004 * mean + 2.1
        return unit * times[int(r["grade"][2:])]

    coarse = [r for r in rows("tolerance_grades") if r["grade"][2:] in map(str, times)]
    assert len(coarse) == 13 * 21
    # rounded to preferred numbers; the first range is rounded up throughout
    assert off_law([r for r in coarse if r["over_mm"] != "0"], law, "tolerance_um", 0.08, 1.0) == []
    assert off_law(coarse, law, "tolerance_um", 0.17) == []
    for size in (2, 25, 100, 480, 900, 3000):
        assert rising([grade_tolerance(size, g) for g in range(1, 19)])
    assert grade_tolerance(25, "01") == 0.0006 and grade_tolerance(25, "0") == 0.001


def test_letters_lie_in_their_order_and_grow_with_the_size() -> None:
    groups = grouped(rows("shaft_deviations"), "letter")
    for (letter,), group in groups.items():
        values = [abs(v) for v in column(group, "deviation_um")]
        assert letter in ("a", "b", "j", "js", "k") or rising(values, strictly=False), letter
    for size in (8, 20, 45, 110, 300, 480):
        tight = [deviations(size, f"{c}7")[0] for c in ("p", "r", "s", "u", "x", "z", "za", "zb", "zc")]
        loose = [deviations(size, f"{c}8")[1] for c in ("c", "d", "e", "f", "g", "h")]
        assert rising(tight) and rising(loose)
    for size in (2, 5, 8):  # the pairs lie between their neighbours, at the geometric mean within a step
        for pair in ("cd", "ef", "fg"):
            a, m, b = (-deviations(size, f"{c}8")[1] * 1000 for c in (pair[0], pair, pair[1]))
            assert a > m > b and m == pytest.approx(math.sqrt(a * b), rel=0.2)
    for letter, law in (
        ("d", lambda d: 16 * d**0.44), ("e", lambda d: 11 * d**0.41), ("f", lambda d: 5.5 * d**0.41),
        ("m", lambda d: 0.024 * d + 12.6), ("n", lambda d: 0.04 * d + 21), ("p", lambda d: 0.072 * d + 37.8),
    ):  # fmt: skip
        big = [r for r in groups[(letter,)] if float(r["over_mm"]) >= 500]
        assert len(big) == 8
        for r in big:
            mean = math.sqrt(float(r["over_mm"]) * float(r["up_to_mm"]))
            assert abs(float(r["deviation_um"])) == pytest.approx(law(mean), rel=0.06), r
    with pytest.raises(StandardError):
        deviations(25, "cd8")
    with pytest.raises(StandardError):
        deviations(700, "x6")


@pytest.mark.parametrize("letter", ["V", "Y", "Z", "ZA", "ZB", "ZC", "CD", "EF", "FG"])
def test_a_hole_of_any_letter_answers_its_shaft(letter: str) -> None:
    """General rule above the special one's grades: ES = -ei, EI = -es."""
    size = 8 if letter in ("CD", "EF", "FG") else 40
    (a, b), (c, d) = deviations(size, f"{letter}9"), deviations(size, f"{letter.lower()}9")
    assert (a, b) == pytest.approx((-d, -c), abs=1e-12)


def test_coarse_pitches_are_those_of_iso_261() -> None:
    """First choices are there from M1 to M64; pitch and diameter grow together; drills are near d - P."""
    table = rows("metric_coarse")
    first = (1, 1.2, 1.6, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 16, 20, 24, 30, 36, 42, 48, 56, 64)
    assert [coarse_pitch(d) for d in first] == [
        0.25, 0.25, 0.35, 0.4, 0.45, 0.5, 0.7, 0.8, 1, 1.25, 1.5, 1.75, 2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6,
    ]  # fmt: skip
    assert (coarse_pitch(1.1), coarse_pitch(1.4), coarse_pitch(7), coarse_pitch(68)) == (0.25, 0.3, 1, 6)
    assert rising(column(table, "major_mm")) and rising(column(table, "pitch_mm"), strictly=False)
    fine, within = rows("tap_drills_fine"), 0
    for r in (*[r for r in table if r["tap_drill_mm"]], *fine):
        d, p, drill = (float(r[n]) for n in ("major_mm", "pitch_mm", "tap_drill_mm"))
        assert drill == pytest.approx(d - p, abs=0.26)
        try:
            (nut,) = thread_limits(f"M{d:g}x{p:g}-6H")
        except StandardError:
            continue  # a pitch that ISO 965-1 has no tolerance for at this size
        low, high = nut.minor
        assert low is not None and high is not None and low - 0.13 <= drill <= high + 0.02, r
        within += 1
    assert within >= 80
    assert [drill_for(thread_form(n)).name for n in ("M6x0.75", "M8x0.75", "M10x0.75", "G1/16", "G1/8")] == [
        "5.2", "7.2", "9.2", "6.8", "8.8",
    ]  # fmt: skip


def test_small_threads_have_finer_usual_classes_and_limits() -> None:
    screw, nut = thread_limits("M1")  # ISO 965-2
    assert (screw.thread_class, nut.thread_class) == ("6h", "5H")
    assert screw.pitch_diameter == (0.785, 0.838) and nut.pitch_diameter == (0.838, 0.894)
    assert [t.thread_class for t in thread_limits("M1.6")] == ["6g", "6H"]


@pytest.mark.parametrize(
    ("name", "area"),
    [
        ("#4-40 UNC", 0.00604),
        ("#10-24 UNC", 0.0175),
        ("#10-32 UNF", 0.0200),
        ("1/4-20 UNC", 0.0318),
        ("1/4-28 UNF", 0.0364),
        ("5/16-18 UNC", 0.0524),
        ("3/8-16 UNC", 0.0775),
        ("3/8-24 UNF", 0.0878),
        ("7/16-14 UNC", 0.1063),
        ("1/2-13 UNC", 0.1419),
        ("1/2-20 UNF", 0.1599),
        ("5/8-11 UNC", 0.226),
        ("3/4-10 UNC", 0.334),
        ("7/8-9 UNC", 0.462),
        ("1-8 UNC", 0.606),
        ("1 1/4-7 UNC", 0.969),
        ("1 1/2-6 UNC", 1.405),
        ("2-4.5 UNC", 2.50),
    ],
)
def test_stress_areas_are_those_of_asme_b1_1(name: str, area: float) -> None:
    assert stress_area(thread_form(name)) / 25.4**2 == pytest.approx(area, rel=3e-3)


def test_unified_sizes_round_as_the_standard_does() -> None:
    """Table 2A: the allowance of 5/8-11 is 0.0016; constant pitches engage nine pitches."""
    screw = thread_limits("5/8-11 UNC-2A")[0]
    assert [None if v is None else round(v / 25.4, 4) for v in screw.pitch_diameter] == [0.5589, 0.5644]
    constant = thread_limits("1-12 UNF-2A")[0].pitch_diameter, thread_limits("1 1/16-18 UNEF-2A")[0].pitch_diameter
    assert all(low is not None and high is not None and low < high for low, high in constant)
    assert thread_form("3/8 UNC").pitch == thread_form("3/8-16 UNC").pitch
    for size, tpi in (("2 1/4", 4.5), ("3", 4), ("4", 4)):
        assert thread_form(f"{size} UNC").pitch == pytest.approx(25.4 / tpi)


def test_taper_pipes_follow_their_formulas_to_twelve_inches() -> None:
    table = rows("pipe_taper")
    assert table[-1]["designation"] == "12" and rising(column(table, "outside_in"))
    assert (
        off_law(table, lambda r: (0.8 * float(r["outside_in"]) + 6.8) / float(r["tpi"]), "effective_l2_in", 0, 2e-4)
        == []
    )


def test_taper_pipes_of_iso_7_gauge_a_few_turns() -> None:
    parallel = {r["designation"]: float(r["tpi"]) for r in rows("pipe_parallel")}
    table = rows("pipe_iso7")
    assert rising(column(table, "gauge_length_mm"), strictly=False)
    for r in table:
        if r["designation"] in parallel:
            turns = float(r["gauge_length_mm"]) / 25.4 * parallel[r["designation"]]
            assert 4 <= turns <= 12, r
    figures = {f.label: f for f in look_up("R1/2").figures}
    assert figures["gauge length"].low == pytest.approx(8.2 - 25.4 / 14)
    assert figures["major diameter at the gauge plane"].low == 20.955


@pytest.mark.parametrize("name", ["Tr100x12", "Tr160x16", "Tr200x18", "Tr300x44", "Tr90x14"])
def test_trapezoidal_threads_reach_three_hundred(name: str) -> None:
    screw, nut = thread_limits(name)
    for side in (screw, nut):
        low, high = side.pitch_diameter
        assert low is not None and high is not None and 0.3 < high - low < 1.3
    basic = screw.form.pitch_diameter
    assert screw.pitch_diameter[1] < basic == nut.pitch_diameter[0]  # type: ignore[operator]


def test_rings_on_shafts_and_in_bores() -> None:
    for (where,), group in grouped(rows("ring_grooves"), "on").items():
        assert rising(column(group, "size_mm")) and rising(column(group, "width_mm"), strictly=False)
        assert rising(column(group, "groove_mm"))
        for r in group:
            depth = abs(float(r["size_mm"]) - float(r["groove_mm"])) / 2
            assert 0.09 <= depth <= 4.0 and (float(r["groove_mm"]) < float(r["size_mm"])) == (where == "shaft"), r
            assert depth < float(r["width_mm"]) * 1.1
            if float(r["size_mm"]) > 100:  # large rings stand 1.2 to 1.9 per cent deep
                assert 0.0119 < depth / float(r["size_mm"]) < 0.0195
    assert ring_groove(25) == (23.9, 1.3) and ring_groove(30, inside=True) == (31.4, 1.3)
    assert ring_groove(52, inside=True) == (55, 2.15) and ring_groove(100) == (96.5, 3.15)
    assert ring_groove(120) == (116, 4.15) and ring_groove(200, inside=True) == (205, 4.15)
    assert ring_groove(300) == (292, 5.15) and ring_groove(250, inside=True) == (256, 5.15)
    with pytest.raises(StandardError, match="DIN 472"):
        ring_groove(33, inside=True)


def test_keys_reach_five_hundred_and_stand_half_in_their_shafts() -> None:
    table = rows("keys")
    assert not gaps(table, "over_mm", "to_mm") and table[-1]["to_mm"] == "500"
    for r in table:
        h, shaft, hub = (float(r[n]) for n in ("height_mm", "shaft_depth_mm", "hub_depth_mm"))
        assert 0 < shaft + hub - h <= 0.81 and 0.5 <= shaft / h <= 0.65, r  # a gap above the key
    inch = rows("keys_inch")
    assert not gaps(inch, "over_in", "to_in")
    for r in inch:  # a quarter of the shaft, about
        assert 0.17 <= float(r["width_in"]) / float(r["to_in"]) <= 0.34, r
    key = inch_key_for(1.0)
    # the half height at the side: from the shaft's far side to the seat's floor 0.859 (published for a 1 inch shaft)
    assert 1.0 - key.shaft_depth / 25.4 == pytest.approx(0.859, abs=5e-4)
    assert 1.0 + key.hub_depth / 25.4 == pytest.approx(1.109, abs=5e-4)
    assert key_for(120).width == 32


def test_centre_holes_have_three_forms() -> None:
    for (form,), group in grouped(rows("centre_holes"), "form").items():
        pilots = column(group, "pilot_mm")
        assert rising(pilots)
        for r in group:
            assert float(r["countersink_mm"]) == pytest.approx(2.12 * float(r["pilot_mm"]), rel=0.015, abs=0.02), r
        if form == "B":
            assert all(float(r["protected_mm"]) > float(r["countersink_mm"]) for r in group)
    assert centre_hole(2.5).countersink == 5.3 and centre_hole(4, "B").protected == 12.5
    assert centre_hole(4, "R").least_depth is None


def test_bearings_grow_with_their_bores_and_bore_codes() -> None:
    for r in rows("bearings"):
        code = int(r["designation"][-2:])
        if len(r["designation"]) > 3 and code >= 4:
            assert int(r["bore_mm"]) == 5 * code  # ISO 355, ISO 15: the bore code
        ball = (float(r["outside_mm"]) - float(r["bore_mm"])) / 2
        assert 0.4 * ball < float(r["width_mm"]) < 1.75 * ball
    for series in ("618", "60", "62", "63"):
        group = [r for r in rows("bearings") if r["designation"][:-2] == series]
        assert len(group) == 21 and rising(column(group, "outside_mm"))
        assert rising(column(group, "width_mm"), strictly=False)
    sizes = {s: float(next(r for r in rows("bearings") if r["designation"] == f"{s}04")["outside_mm"])
             for s in ("618", "60", "62", "63")}  # fmt: skip
    assert rising(list(sizes.values()))


def test_fasteners_grow_with_their_threads() -> None:
    for (kind, source), group in grouped(rows("fasteners"), "kind", "source").items():
        assert rising(column(group, "width_mm")) and rising(column(group, "height_mm"), strictly=False), (kind, source)
    for r in rows("fasteners"):
        if not r["thread"].startswith("M"):
            continue
        d, wide, high = float(r["thread"][1:]), float(r["width_mm"]), float(r["height_mm"])
        share = {"socket head screw": (1.5, 1.85, 0.99, 1.01), "hexagon bolt": (1.45, 1.85, 0.58, 0.71),
                 "hexagon screw": (1.45, 1.85, 0.58, 0.71), "hexagon nut": (1.45, 1.85, 0.79, 0.95),
                 "washer": (1.75, 2.35, 0.13, 0.27), "socket countersunk screw": (1.95, 2.25, 0.5, 0.63),
                 "cross recessed countersunk screw": (1.99, 2.36, 0.49, 0.68)}[r["kind"]]  # fmt: skip
        assert share[0] <= wide / d <= share[1] and share[2] <= high / d <= share[3], r
        if r["hole_mm"]:
            assert 0.1 <= float(r["hole_mm"]) - d <= 1.1


def test_pins_o_rings_and_reliefs() -> None:
    assert all(1 <= float(r["diameter_mm"]) <= 50 for r in rows("pins"))
    for r in rows("undercuts"):  # an arc of the radius, run out at 15 degrees, fits into the width
        radius, deep, wide = (float(r[n]) for n in ("radius_mm", "depth_mm", "width_mm"))
        assert radius < wide and wide >= deep / math.tan(math.radians(15)) * 0.9, r
    for r in rows("o_rings"):
        d, deep, wide = (float(r[n]) for n in ("section_mm", "groove_depth_static_mm", "groove_width_mm"))
        assert 0.12 <= 1 - deep / d <= 0.3  # squeeze
        assert 0.6 <= math.pi / 4 * d * d / (deep * wide) <= 0.85  # fill
    for r in rows("thread_reliefs"):
        p = float(r["pitch_mm"])
        assert float(r["groove_least_mm"]) <= 2.4 * p and 2.4 * p <= float(r["groove_most_mm"]) <= 3.6 * p
        assert float(r["below_major_mm"]) >= 1.226869 * p  # below the minor diameter of the screw
        assert float(r["runout_mm"]) == pytest.approx(2.5 * p, rel=0.05)


def test_materials_are_told_with_density_source_and_colour() -> None:
    found = materials()
    assert len(found) >= 40
    for m in found.values():
        assert 0.8e-3 < m.density < 9.5e-3 and 0 < m.spread < 0.05 and m.source and m.finish_colour.startswith("#")
        if "steel" in m.key:
            assert 7.6e-3 < m.density < 8.05e-3


@pytest.mark.parametrize(
    ("text", "label", "value"),
    [
        ("nut M8", "across flats", 13),
        ("bolt M12", "height", 7.5),
        ("washer M10", "hole", 10.5),
        ("socket M6", "head diameter", 10),
        ("countersunk M8", "head diameter", 17.92),
        ("bearing 6204", "outside diameter", 47),
        ("bearing 61810", "width", 7),
        ("ring bore 30", "groove diameter", 31.4),
        ("key 120", "width", 32),
        ("key 1 in", "width", 6.35),
        ("centre B4", "countersink 60°", 8.5),
        ("relief 1.5", "undercut diameter below the major", 2.3),
        ("O-ring 20x2.65", "groove width", 3.6),
        ("socket 1/4", "head diameter", 9.525),
    ],
)
def test_parts_are_looked_up(text: str, label: str, value: float) -> None:
    assert next(f for f in look_up(text).figures if f.label == label).low == pytest.approx(value)


@pytest.mark.parametrize(
    "text",
    [
        "nut M7",
        "bearing 6999",
        "ring bore 33",
        "key 700",
        "O-ring 20x9",
        "centre B3",
        "taper pin 7",
        "undercut F9x9",
        "Rc 7",
    ],
)
def test_what_no_table_has_is_told_with_what_it_has(text: str) -> None:
    with pytest.raises(StandardError) as told:
        look_up(text)
    assert told.value.message


def test_usual_stock_has_no_wide_gaps() -> None:
    """No step of "stock" is wider than a quarter of the size (half for thickness, width); inches are sixteenths."""
    for row in rows("stock"):
        sizes = usual(row["shape"], row["unit"])  # type: ignore[arg-type]
        one = 25.4 if row["unit"] == "in" else 1.0
        widest = 0.25 if row["shape"] in ("round", "hexagon") else 0.5
        for a, b in itertools.pairwise(sizes):
            assert 0 < b - a <= widest * a + 1e-9, (row["shape"], row["unit"], a / one, b / one)
        if row["unit"] == "in":
            assert all(abs(s / 25.4 * 16 - round(s / 25.4 * 16)) < 1e-9 for s in sizes)
        assert row["source"]


def test_whitworth_threads_grow_coarser_and_have_their_published_sizes() -> None:
    """Threads an inch fall with the size, the fine series is finer; sizes by the tables of BS 84, in inches."""
    table = rows("whitworth")
    for series in ("bsw", "bsf"):
        pitches = [float(row[series]) for row in table if row[series]]
        assert pitches == sorted(pitches, reverse=True)
    assert all(float(r["bsf"]) > float(r["bsw"]) for r in table if r["bsf"] and r["bsw"])
    published = {"1/4 BSW": (0.2180, 0.1860), "3/8 BSW": (0.3350, 0.2950), "3/4 BSW": (0.6860, 0.6219),
                 "1 BSW": (0.9200, 0.8400), "1/4 BSF": (0.2254, 0.2007), "3/8 BSF": (0.3430, 0.3110),
                 "1/2 BSF": (0.4600, 0.4200)}  # fmt: skip
    for name, sizes in published.items():
        form = thread_form(name)
        assert (form.pitch_diameter / 25.4, form.minor / 25.4) == pytest.approx(sizes, abs=1e-4), name


def test_british_association_threads_are_those_of_their_table() -> None:
    """Pitch, major, pitch and minor diameter, mm, by the table of BS 93, which rounds them to 0.005 and 0.01."""
    published = {0: (1.0, 6.0, 5.4, 4.8), 2: (0.81, 4.7, 4.215, 3.73), 4: (0.66, 3.6, 3.205, 2.81),
                 6: (0.53, 2.8, 2.48, 2.16), 8: (0.43, 2.2, 1.94, 1.68), 10: (0.35, 1.7, 1.49, 1.28)}  # fmt: skip
    for number, sizes in published.items():
        form = thread_form(f"{number} BA")
        assert (form.pitch, form.major, form.pitch_diameter, form.minor) == pytest.approx(sizes, abs=5e-3), (
            number
        )  # they are rounded so
    with pytest.raises(StandardError, match="no 17 BA"):
        thread_form("17 BA")
    assert look_up("2 BA").data["pitch_mm"] == 0.81 and look_up("3/8 BSW").data["major_diameter_mm"] == 9.525


def test_unj_nuts_are_wider_at_the_crest_and_their_screws_fuller_at_the_root() -> None:
    """Published least and greatest minor diameters of nuts 3B, inches; the rest by the geometry of the rounded root."""
    published = {"1/4-28": (0.2152, 0.2190), "5/16-24": (0.2719, 0.2754), "3/8-24": (0.3344, 0.3372),
                 "1/2-20": (0.4513, 0.4537)}  # fmt: skip
    for name, (low, high) in published.items():
        screw, nut = thread_limits(f"{name} UNJF")
        assert [v / 25.4 for v in nut.minor] == pytest.approx([low, high], abs=6e-5)  # type: ignore[operator]
        plain = thread_limits(f"{name} UNF-3A/3B")
        assert (screw.pitch_diameter, nut.pitch_diameter) == (plain[0].pitch_diameter, plain[1].pitch_diameter)
        # the nut's crest is cut off at 9/16 H, the screw's rounded root ends at 2/3 H
        form = screw.form
        height = math.sqrt(3) / 2 * form.pitch
        assert (form.screw_depth, form.nut_depth) == pytest.approx((2 / 3 * height, 9 / 16 * height), rel=1e-5)
        assert (
            (screw.minor[1] or 0)
            < (plain[1].minor[0] or 0)
            < (nut.minor[0] or 0)
            < nut.tap_drill.diameter
            < high * 25.4
        )
    with pytest.raises(StandardError, match="3A and 3B"):
        thread_limits("1/4-28 UNJF-2A")
    # numbers are no inches, and inches no numbers
    sizes = {"10-32 UNF": 0.19, "4-40 UNC": 0.112, "4-4 UNC": 4.0, "2-56 UNC": 0.086, "2-4.5 UNC": 2.0, "1-8 UNC": 1.0}
    assert {name: round(thread_form(name).major / 25.4, 6) for name in sizes} == sizes


def test_counterbores_clear_the_heads_of_their_screws() -> None:
    """DIN 974-1 against the heads of ISO 4762 (1.5 d and a little from M3 on), and against the rows it replaced."""
    published_depths = {"M3": 3.4, "M4": 4.4, "M5": 5.4, "M6": 6.4, "M8": 8.6, "M10": 10.6, "M12": 12.6, "M16": 16.6,
                        "M20": 20.6, "M24": 24.8, "M30": 31.0}  # fmt: skip
    found = {r["thread"]: socket_counterbore(r["thread"]) for r in rows("screws") if r["counterbore_974_mm"]}
    assert {k: round(found[k][1], 6) for k in published_depths} == published_depths
    wide = [d for d, _ in found.values()]
    assert wide == sorted(wide) and len(set(wide)) == len(wide)
    for row in rows("screws"):
        if row["thread"] not in found:
            continue
        size, (diameter, depth) = float(row["thread"][1:]), found[row["thread"]]
        assert 1.5 * size + 0.3 < diameter < 1.5 * size + 2.2 * size**0.3 and size < depth <= size + 1
        assert not row["counterbore_mm"] or float(row["counterbore_mm"]) == diameter
        assert not row["counterbore_depth_mm"] or depth <= float(row["counterbore_depth_mm"])
        clear = [float(row[f"clearance_{k}_mm"]) for k in ("fine", "medium", "coarse")]
        assert size < clear[0] < clear[1] < clear[2] < diameter
    for none in ("M7", "M48"):
        with pytest.raises(StandardError):
            socket_counterbore(none)


def test_holes_of_inch_screws_are_sizes_of_drills_and_clear_their_screws() -> None:
    """ASME B18.2.8 names a drill beside each size: a number, or a fraction of 1/64; counterbores clear heads."""
    from lathed_solid.standards.clearance import clearance_hole, head_room
    from lathed_solid.standards.drills import drills

    sizes = [d.diameter / 25.4 for d in drills("inch")]
    found = rows("screws_inch")
    assert len(found) == 14 and all(rising(column(found, n)) for n in found[0] if n.endswith("_in"))
    for row in found:
        major = thread_form(f"{row['thread']} UNC").major / 25.4
        fine, medium, coarse = (float(row[f"clearance_{k}_in"]) for k in ("fine", "medium", "coarse"))
        assert major < fine < medium < coarse < 1.4 * major
        for size in (fine, medium, coarse):
            assert min(abs(size - drilled) for drilled in sizes) <= 5.1e-4, (row["thread"], size)
        assert clearance_hole(row["thread"], "coarse") == pytest.approx(25.4 * coarse)
        wide, deep, table = head_room(row["thread"])
        head = look_up(f"socket {row['thread']}").data
        assert 0.3 < wide - head["width_mm"] < 3.4 and deep == pytest.approx(head["height_mm"], abs=0.01)
        assert deep == pytest.approx(25.4 * major, abs=0.01) and table == "ASME B18.3"
    assert look_up("screw 1/4").data["clearance_medium_mm"] == pytest.approx(9 / 32 * 25.4, abs=0.01)


def test_every_table_has_a_law_here_or_among_the_published_values() -> None:
    """A new table is not shipped unchecked: its name stands in one of the two test modules."""
    from pathlib import Path

    here = Path(__file__).read_text("utf-8") + (Path(__file__).parents[1] / "test_standards.py").read_text("utf-8")
    by_value = {"drills", "gauges", "general_tolerances", "hole_deviations_j", "materials", "screws", "acme", "unified",
                "trapezoidal", "trapezoidal_pitch_diameter"}  # fmt: skip
    assert {p.stem for p in DATA.glob("*.csv") if f'"{p.stem}"' not in here} <= by_value
