"""Dimension lines followed: spans, the scale, and numbers that their lines contradict; on sheets of another hand."""

from __future__ import annotations

import itertools
import random
from pathlib import Path

import pytest
from drawn_dimensions import Drawn, sheet
from effort import some
from hypothesis import given, settings
from hypothesis import strategies as st
from sheets_read_here import page_with_picture

from lathed_solid.demo.sheets import SHEETS
from lathed_solid.sheets import SheetPage
from lathed_solid.sheets.client import NoteCandidate
from lathed_solid.sheets.dimension_lines import Number, follow


def offer_of(d: Drawn, found: SheetPage) -> NoteCandidate | None:
    """The offer that stands where the dimension's number was drawn."""
    for o in found.offers:
        x, y = (o.box[0] + o.box[2]) / 2 * found.width, (1 - (o.box[1] + o.box[3]) / 2) * found.height
        if o.text == d.words and abs(x - d.at[0]) < 2.5 and abs(y - d.at[1]) < 2.5:
            return o
    return None


def judged(seed: int, out: Path, slips: int) -> dict[str, int]:
    """How the dimensions of a sheet are judged: right, unsure, wrong or blamed; caught, asked or taken where slipped.

    A span is right when it runs from one stop to the other as drawn, told from the lowest stop of its direction.
    """
    path = out / f"{seed}.pdf"
    truth, scale = sheet(seed, path, slips)
    found = page_with_picture(path, out)
    assert found.scale == pytest.approx(scale, rel=1e-3)
    counts = dict.fromkeys(("right", "unsure", "wrong", "blamed", "caught", "asked", "taken"), 0)
    lowest: dict[str, float] = {}
    for d in truth:
        o = offer_of(d, found)
        if o is not None and o.span is not None:  # the shift that this dimension would need; one for all
            lowest.setdefault(o.span.along, d.start / scale - float(o.span.start.split()[1]))
    for d in truth:
        o = offer_of(d, found)
        if d.slipped:
            counts[
                "asked" if o is None or o.sure == "doubtful" else "caught" if o.sure == "contradicted" else "taken"
            ] += 1
        elif o is None or o.sure == "doubtful":
            counts["unsure"] += 1
        elif o.sure == "contradicted" or o.span is None:
            counts["blamed"] += 1
        else:
            ends = [float(p.split()[1]) + lowest[o.span.along] for p in (o.span.start, o.span.end)]
            right = o.span.along[0] == d.along and ends == pytest.approx(
                [d.start / scale, d.end / scale], abs=0.3 / scale
            )
            counts["right" if right else "wrong"] += 1
    return counts


@pytest.mark.parametrize("seed", some(range(40, 48), 3))
def test_spans_of_another_hand(tmp_path: Path, seed: int) -> None:
    counts = judged(seed, tmp_path, 0)
    assert counts["wrong"] == counts["blamed"] == 0 and counts["unsure"] <= 1 and counts["right"] >= 4


@pytest.mark.parametrize("seed", some(range(60, 64), 2))
def test_a_slipped_number_is_never_taken_as_sure(tmp_path: Path, seed: int) -> None:
    counts = judged(seed, tmp_path, 2)
    assert counts["taken"] == counts["wrong"] == counts["blamed"] == 0 and counts["caught"] >= 1


@pytest.mark.parametrize(("name", "unit"), [("pedestal", "in"), ("winch-spindle", "mm"), ("ratchet-wheel", "mm"),
                                            ("gland-nut", "mm"), ("crank-hub", "mm")])  # fmt: skip
def test_lines_say_what_the_entities_of_the_same_drawing_say(tmp_path: Path, name: str, unit: str) -> None:
    """The DXF's definition points are the witness of what was followed in the PDF."""
    lines, entities = (page_with_picture(SHEETS / f"{name}.{kind}", tmp_path, unit) for kind in ("pdf", "dxf"))
    assert all(o.sure == "sure" for o in (*lines.offers, *entities.offers))

    def spans(found: SheetPage) -> list[tuple[str, str, float, float]]:
        return sorted(
            (o.text, o.span.along, *(float(p.split()[1]) for p in (o.span.start, o.span.end)))
            for o in found.offers if o.span is not None
        )  # fmt: skip

    ours, theirs = spans(lines), spans(entities)
    assert len(ours) >= 2 and [t[:2] for t in ours] == [t[:2] for t in theirs if t[0] in {o[0] for o in ours}]
    for a, b in zip(ours, (t for t in theirs if t[0] in {o[0] for o in ours}), strict=True):
        assert a[2:] == pytest.approx(b[2:], abs=0.02)


def test_what_a_drawing_says_wrong_is_found_by_its_own_line(tmp_path: Path) -> None:
    """The first revision of the pedestal's sheet says 3.02 where it is drawn 3.00, and 4.70 where it is 4.75."""
    for kind in ("pdf", "dxf"):
        found = page_with_picture(SHEETS / f"pedestal-a.{kind}", tmp_path, "in")
        assert [o.text for o in found.offers if o.sure == "contradicted"] == ["4.70", "3.02"]


def test_a_dimension_whose_text_was_typed_over_is_contradicted(tmp_path: Path) -> None:
    import ezdxf

    document = ezdxf.new(setup=True)
    document.header["$INSUNITS"] = 4
    space = document.modelspace()
    space.add_line((0, 0), (42, 0))
    for y, text in ((-10, "24"), (12, "<>")):
        space.add_linear_dim(base=(0, y), p1=(0, 0), p2=(42, 0), text=text, dimstyle="Standard").render()
    document.saveas(tmp_path / "typed.dxf")
    found = {o.text: o for o in page_with_picture(tmp_path / "typed.dxf", tmp_path).offers}
    assert (found["24"].sure, found["24"].why) == ("contradicted", "its dimension measures 42.00 mm")
    assert found["42"].sure == "sure" and found["42"].drawn == pytest.approx(42)


def row(*stops: float, y: float = 0.0) -> list[tuple[list[tuple[float, float]], float, bool]]:
    """A chain on one level with witness lines at its stops."""
    lines = [([(u, y - 1), (u, y + 9)], 0.2, False) for u in stops]
    return [*lines, *(([(a, y), (b, y)], 0.2, False) for a, b in itertools.pairwise(stops))]


def above(a: float, b: float, value: float) -> Number:
    return Number(((a + b) / 2 - 2, 0.6, (a + b) / 2 + 2, 3.6), 0, value)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(9, 60), min_size=3, max_size=7), st.sampled_from([0.2, 0.5, 1.0, 2.0]))
def test_chains_are_followed_link_by_link(lengths: list[float], scale: float) -> None:
    stops = [20.0]
    for length in lengths:
        stops.append(stops[-1] + length)
    numbers = [above(a, b, (b - a) / scale) for a, b in itertools.pairwise(stops)]
    lines, found = follow(row(*stops), numbers)
    assert found == pytest.approx(scale, rel=1e-6)
    assert [(f.start, f.end, f.fits) for f in lines if f] == [
        (pytest.approx(a), pytest.approx(b), True) for a, b in itertools.pairwise(stops)
    ]


def test_nothing_to_follow_says_nothing() -> None:
    assert follow([], [above(0, 10, 10)]) == ([None], None)
    assert follow(row(0, 10), []) == ([], None)
    many = [([(0.0, k * 0.01), (5.0, k * 0.01)], 0.2, False) for k in range(130_000)]
    assert follow(many, [above(0, 10, 10)]) == ([None], None)
    # one number agrees with any scale; and lines at random with none
    assert follow(row(0, 10), [above(0, 10, 7)]) == ([None], None)
    r = random.Random(4)
    places = [(r.uniform(0, 400), r.uniform(0, 280)) for _ in range(4000)]
    lines = [([(x, y), (x + 8, y)] if n % 2 else [(x, y), (x, y + 8)], 0.2, False) for n, (x, y) in enumerate(places)]
    numbers = [Number((x, y, x + 6, y + 3), 0, r.uniform(5, 80)) for x, y in places[:200]]
    assert follow(lines, numbers) == ([None] * 200, None)


def test_the_command_tells_what_lines_say(tmp_path: Path) -> None:
    import json

    from click.testing import CliRunner

    from lathed_solid.cli import cli

    path = tmp_path / "slipped.pdf"
    drawn, _ = sheet(60, path, 1)
    run = CliRunner().invoke(cli, ["read", str(path), "--json"], standalone_mode=False)
    told = json.loads(run.stdout)
    (bad,) = [d for d in drawn if d.slipped]
    against = [o for o in told["offers"] if o["sure"] == "contradicted"]
    assert run.return_value == 1 and not told["ok"] and [o["text"] for o in against] == [bad.words]
    assert against[0]["values_mm"] == [bad.value] and against[0]["drawn_mm"] == pytest.approx(
        bad.end - bad.start, rel=1e-3
    )
    assert any(text["why"] for text in told["left"]) or not told["left"]
    words = CliRunner().invoke(cli, ["read", str(SHEETS / "pedestal.pdf"), "--unit", "in"], standalone_mode=False)
    assert words.return_value == 0 and "dimension lines agree on 1:1" in words.stdout and "x 0 - x 6" in words.stdout
    (tmp_path / "no.pdf").write_text("%PDF-nothing")
    from lathed_solid.sheets import SheetError

    with pytest.raises(SheetError):
        CliRunner().invoke(cli, ["read", str(tmp_path / "no.pdf")], standalone_mode=False, catch_exceptions=False)
