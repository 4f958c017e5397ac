"""Fits of real parts: copies, standard parts, fits and stacks by the ledgers, the demo winch, files, edits."""

from __future__ import annotations

import json
import math
import zipfile
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.demo import FITS
from lathed_solid.errors import LathedError
from lathed_solid.files import FileError, Journal, read_document, recoverable, write_document
from lathed_solid.files.fit_document import changed_parts, fit_json, is_fit, read_fit, write_fit
from lathed_solid.fit import edits
from lathed_solid.fit.copies import place_of
from lathed_solid.fit.document import Fit, Ref, Relation
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.solved import Solved
from lathed_solid.part import Document, DocumentError, History
from lathed_solid.part.standard_parts import kinds, standard_part
from lathed_solid.standards import StandardError


@pytest.fixture(scope="module")
def winch() -> Solved:
    return ls.solve(FITS["winch"]())


# the winch -----------------------------------------------------------------------------------------
def test_the_winch_stands_and_turns(winch: Solved) -> None:
    assert winch.state == "loose" and not winch.lost and not winch.trouble
    assert len(winch.whole.members) == 20
    moving = {f.member: f for f in winch.freedoms}
    assert "crank hub" in moving["spindle"].others and "drum screw (4)" in moving["spindle"].others
    assert moving["gland nut"].kind == "screw"
    # by hand: the spindle's shoulder at 52 stands on the bush's face, which lies level with the column at 19.05
    assert winch.placements["spindle"].at == pytest.approx((0, 19.05 - 52, 76.2), abs=1e-9)
    # the taper of the sleeve begins 24 mm on, the hub's wide end lies there: 168 + 24 + 48 from the spindle's left
    assert winch.placements["crank hub"].at == pytest.approx((0, 19.05 - 52 + 168 + 24 + 48, 76.2), abs=1e-9)


def test_its_two_slips_are_found_and_nothing_else(winch: Solved) -> None:
    from lathed_solid.fit.ledger_fits import pressed

    fits = ls.clearances_by_ledger(winch)
    out = [f for f in fits if f.verdict == "out"]
    assert [(f.hole.member, f.shaft.member) for f in out] == [("bush", "spindle")]
    # Ø25 P7 is -0.014/-0.035, Ø25 h6 0/-0.013 (ISO 286-2)
    assert out[0].least == pytest.approx(-0.035, abs=1e-9) and out[0].most == pytest.approx(-0.001, abs=1e-9)
    explained = pressed(fits)
    bare = [o for o in ls.overlaps(winch) if frozenset((o.a, o.b)) not in explained]
    assert {(o.a, o.b) for o in bare} == {("bush", "spindle"), *(("drum", n) for n in (
        "drum screw", "drum screw (2)", "drum screw (3)", "drum screw (4)"))}  # fmt: skip
    tips = [o.volume_mm3 for o in bare if o.a == "drum"]
    assert max(tips) == pytest.approx(min(tips), rel=1e-9)


def test_the_end_play_is_summed_across_four_parts(winch: Solved) -> None:
    found = ls.stack_across(winch, ("ratchet wheel", "10/face.right"), ("retaining ring", "10/face.left"))
    # 162 + 1.3 to the groove's far side, less 128 to the flange, less 17.8, 16 and the ring's 1.2
    assert found.nominal == pytest.approx(162 + 1.3 - 114 - 14 - 17.8 - 16 - 1.2, abs=1e-9)
    half = (0.2, 0.05, 0.05, 0.2, 0.1)
    assert found.low == pytest.approx(0.3 - sum(half), abs=1e-6)
    assert found.high == pytest.approx(0.3 + sum(half) + 0.14 + 0.06, abs=1e-6)
    assert found.root == pytest.approx(math.sqrt(sum(h * h for h in half) + 0.07**2 + 0.03**2), abs=1e-6)
    assert not found.open
    back = ls.stack_across(winch, ("retaining ring", "10/face.left"), ("ratchet wheel", "10/face.right"))
    assert back.nominal == pytest.approx(found.nominal, abs=1e-9)  # each along its own normal
    with pytest.raises(FitError, match="flats"):
        ls.stack_across(winch, ("spindle", "10/sB"), ("bush", "10/face.left"))
    with pytest.raises(FitError, match="parallel"):
        ls.stack_across(winch, ("pedestal", "20/end"), ("bush", "10/face.left"))


def test_the_crank_turns_all_that_hangs_on_it(winch: Solved) -> None:
    free = next(f for f in winch.freedoms if f.member == "spindle")
    swept = ls.sweep(winch.fit, free, 0.0, math.pi, 4, pair=("drum", "pedestal"))
    assert not swept.stopped and len(swept.overlaps) == 5
    # the drum's flange lies 4 mm before the column, less what the bush's place gives: constant through the turn
    assert np.ptp(swept.clearances) < 1e-6
    turned = ls.drive(winch.fit, free, math.radians(30))
    assert len(ls.solve(turned).freedoms) == len(winch.freedoms) - 1
    wheel = ls.solve(turned).placement("ratchet wheel")[:3, :3] @ winch.placement("ratchet wheel")[:3, :3].T
    assert np.trace(wheel) == pytest.approx(1 + 2 * math.cos(math.radians(30)), abs=1e-9)


# copies ----------------------------------------------------------------------------------------------
def flange(holes: int) -> Document:
    part = ls.turned(ls.new_part("flange"), [ls.Station(key="A", diameter="120", length="10")])
    return ls.hole(part, "10/face.right", "9", depth=None, places=ls.OnCircle(bolt_circle="90", count=holes))


@pytest.mark.parametrize("holes", [3, 4, 7])
def test_one_at_every_place_follows_the_pattern(holes: int) -> None:
    fit = ls.member(ls.new_fit("f"), flange(4), "flange", held=True)
    fit = ls.member(fit, "hexagon screw M8x30", "screw", placement=(30.0, 40.0, 0.0))
    fit = ls.relate(fit, "share an axis", ("screw", "10/sB"), ("flange", "20/h0.wall"))
    fit = ls.relate(fit, "touch", ("screw", "10/shoulder.A"), ("flange", "10/face.left"))
    fit = ls.copies(fit, "screw", "every place")
    fit = edits.exchange_part(fit, "flange", flange(holes))
    found = ls.solve(fit)
    at = [np.array(m.placement.at) for m in found.whole.members if m.part != "flange"]
    assert len(at) == holes and found.state == "loose" and len(found.freedoms) == holes
    angles = sorted(math.atan2(p[2], p[1]) % (2 * math.pi) for p in at)
    assert np.allclose(np.diff(angles), 2 * math.pi / holes, atol=1e-9)
    assert all(math.hypot(p[1], p[2]) == pytest.approx(45, abs=1e-9) for p in at)


def test_rings_and_rows_follow_their_member() -> None:
    fit = ls.member(ls.new_fit("f"), flange(4), "flange", held=True)
    fit = ls.member(fit, "parallel pin 6x30", "pin", placement=(0.0, 20.0, 0.0))
    ring = ls.copies(fit, "pin", "ring", about=("flange", "10/sA"), count=5)
    at = [np.array(m.placement.at) for m in ls.solve(ring).whole.members[1:]]
    assert len(at) == 5 and all(math.hypot(p[1], p[2]) == pytest.approx(20, abs=1e-9) for p in at)
    row = ls.copies(fit, "pin", "row", about=("flange", "X axis"), count=3, size="12")
    assert [m.placement.at[0] for m in ls.solve(row).whole.members[1:]] == pytest.approx([0, 12, 24])
    axis, gone = ("flange", "X axis"), ("flange", "10/gone")
    for kind, bad, words in (
        ("row", {"count": 3, "about": axis}, "goes nowhere"), ("ring", {"count": 3}, "no axis"),
        ("ring", {"count": 3, "about": gone}, "not on the part"), ("every place", {}, "no hole of a pattern"),
        ("row", {"count": 2, "about": axis, "size": "2 deg"}, "a length"),
    ):  # fmt: skip
        found = ls.solve(ls.copies(fit, "pin", kind, **bad))
        assert words in " ".join(found.trouble), (kind, found.trouble)
        assert found.solution.ok
    with pytest.raises(FitError):
        ls.copies(fit, "pin", "ring", count=10_000)


def test_names_of_holes_tell_their_places() -> None:
    assert place_of("20/h3.wall") == ("h3", "20/h*.wall")
    assert place_of("60/2(20/h0.wall)") == ("60/2(h0", "20/h*.wall")
    assert place_of("10/face.left") == ("", "10/face.left")


# standard parts ----------------------------------------------------------------------------------------
@pytest.mark.parametrize(("said", "volume"), [
    ("washer M8", math.pi / 4 * (16**2 - 8.4**2) * 1.6),
    ("parallel pin 10x40", None), ("key 8x7x40", 7 * (8 * 32 + math.pi * 16)),
    ("bearing 6204", None), ("taper pin 5x50", math.pi * 50 / 12 * (25 + 30 + 36)),
    ("hexagon nut M8", None), ("hexagon bolt M10x60", None), ("socket head screw M6x20", None), ("bore ring 47", None),
    ("ISO 4017 - M8x30 real", None), ("DIN 471 25", None), ("hardened parallel pin 6x20", None), ("M8x1 nut", None),
])  # fmt: skip
def test_standard_parts_build_and_prove(said: str, volume: float | None) -> None:
    if said.startswith("M8x1"):
        with pytest.raises(DocumentError, match="no standard part"):
            standard_part(said)
        return
    part = standard_part(said)
    built, proved = ls.build(part), ls.prove(part)
    assert built.ok, built.messages
    assert all(r.verdict == "in" for r in proved.rows)
    if volume is not None:
        assert built.volume == pytest.approx(volume, rel=1e-9)


def test_a_hexagon_is_as_wide_as_its_table_says() -> None:
    built = ls.build(standard_part("hexagon nut M12"))
    assert built.measure("distance", "20/flat.0", "20/flat.3") == pytest.approx(18, abs=1e-9)
    assert set(kinds()) >= {"hexagon screw", "washer", "key", "ring", "bearing"}


@pytest.mark.parametrize(("said", "words"), [
    ("frob 8", "no standard part"), ("washer", "not read"), ("hexagon screw M8", "how long"),
    ("parallel pin 7x20", "in the tables"), ("washer M99", "in the tables"), ("key 8", "not read"),
    ("hexagon screw M8x-3", "not read"), ("bearing 9", "not in the table"), ("ring 3000", "no ring"),
    ("", "no standard"),
])  # fmt: skip
def test_what_is_no_standard_part_is_told(said: str, words: str) -> None:
    with pytest.raises((DocumentError, StandardError), match=words):
        standard_part(said)


@given(st.text(max_size=40))
@settings(max_examples=150)
def test_any_text_is_a_standard_part_or_an_error_of_ours(said: str) -> None:
    try:
        assert isinstance(standard_part(said), Document)
    except LathedError as exc:
        assert exc.message


# edits and files ---------------------------------------------------------------------------------------
def small() -> Fit:
    fit = ls.member(ls.new_fit("small"), flange(4), "flange", held=True)
    fit = ls.member(fit, "washer M8", "washer", placement=(20.0, 3.0, 0.0), finish="#AA7733")
    fit = ls.relate(fit, "share an axis", ("washer", "10/bore.right.1"), ("flange", "20/h0.wall"))
    return ls.relate(fit, "touch", ("washer", "10/face.left"), ("flange", "10/face.right"))


def test_renaming_goes_through_all_that_refers() -> None:
    fit = ls.copies(small(), "washer", "ring", about=("flange", "X axis"), count=2)
    fit = ls.drive(fit, ls.solve(fit).freedoms[0], 0.1)
    named = edits.put_member(edits.put_member(fit, "washer", name="disc"), "flange", name="plate")
    assert {r.a.member for r in named.relations} == {"disc"} and named.copies[0].about == Ref(
        member="plate", feature="X axis"
    )
    assert (named.drives[0].member, named.drives[0].base) == ("disc", "plate")
    assert ls.solve(named).solution.ok
    bare = edits.drop_member(named, "disc")
    assert not bare.relations and not bare.copies and not bare.drives and len(bare.parts) == 1


def test_a_gap_names_a_callout_of_a_part() -> None:
    plate = ls.note(flange(4), "16 ±0.1")
    fit = ls.member(ls.new_fit("gap"), plate, "first plate", held=True)
    fit = ls.member(fit, "washer M8", "washer", placement=(20.0, 3.0, 0.0))
    number = plate.callouts[-1].balloon
    fit = ls.relate(fit, "gap", ("washer", "10/face.left"), ("first plate", "10/face.right"),
                    size=f"first_plate#{number}/2 + 1")  # fmt: skip
    far = ls.solve(fit).placements["washer"].at[0]
    bare = ls.solve(edits.put_relation(fit, 1, size="0")).placements["washer"].at[0]
    assert abs(far - bare) == pytest.approx(16 / 2 + 1, abs=1e-9)
    named = edits.put_member(fit, "first plate", name="cover")
    assert named.relations[0].size == f"cover#{number}/2 + 1" and ls.solve(named).solution.ok
    for wrong in (f"#{number}", f"nobody#{number}", "first_plate#999", "first_plate#play"):
        with pytest.raises(LathedError) as told:
            ls.relate(fit, "gap", ("washer", "10/face.left"), ("first plate", "10/face.left"), size=wrong)
        assert told.value.message


@pytest.mark.parametrize("change", [
    lambda f: edits.put_member(f, "washer", name="flange"),
    lambda f: edits.put_member(f, "washer", name=""),
    lambda f: edits.put_member(f, "nobody", held=True),
    lambda f: edits.put_member(f, "washer", frobnicated=True),
    lambda f: edits.drop_relation(f, 77),
    lambda f: edits.put_relation(f, 77, flip=True),
    lambda f: edits.with_member(f, "no part"),
    lambda f: edits.relate(f, "welded", Ref(member="washer", feature="a"), Ref(member="flange", feature="b")),
    lambda f: edits.relate(f, "touch", Ref(member="washer", feature="a"), Ref(member="washer", feature="b")),
    lambda f: edits.relate(f, "touch", Ref(member="washer", feature="a"), None),
    lambda f: edits.exchange_part(f, "no part", Document()),
    lambda f: ls.relate(f, "touch", ("washer", "10/nowhere"), ("flange", "10/face.left")),
    lambda f: ls.relate(f, "in its taper", ("washer", "10/face.left"), ("flange", "10/face.left")),
    lambda f: ls.relate(f, "gap", ("washer", "10/face.left"), ("flange", "10/face.left"), size="seven"),
    lambda f: ls.relate(f, "touch", ("nobody", "origin"), ("flange", "origin")),
])  # fmt: skip
def test_impossible_edits_are_refused(change: object) -> None:
    with pytest.raises(LathedError) as told:
        change(small())  # type: ignore[operator]
    assert told.value.message


def test_a_fit_comes_back_from_its_file(tmp_path: Path) -> None:
    fit = ls.solve(small()).fit
    for name in ("a.lathed", "fit.json"):
        write_fit(tmp_path / name, fit)
        assert is_fit(tmp_path / name) and read_fit(tmp_path / name) == fit
    with pytest.raises(FileError, match="a fit, not a part"):
        read_document(tmp_path / "fit.json")
    with pytest.raises(FileError, match=r"no part.json"):
        read_document(tmp_path / "a.lathed")
    write_document(tmp_path / "part.lathed", flange(3))
    assert not is_fit(tmp_path / "part.lathed")
    with pytest.raises(FileError, match=r"no fit.json"):
        read_fit(tmp_path / "part.lathed")


def test_a_part_whose_file_changed_is_told_and_taken_over(tmp_path: Path) -> None:
    write_document(tmp_path / "flange.lathed", flange(4))
    fit = ls.member(ls.new_fit("f"), tmp_path / "flange.lathed", "flange", held=True)
    write_fit(tmp_path / "f.lathed", fit)
    back = read_fit(tmp_path / "f.lathed")
    assert back.parts[0].path == "flange.lathed" and list(changed_parts(back, tmp_path / "f.lathed")) == []
    write_document(tmp_path / "flange.lathed", flange(6))
    (changed,) = changed_parts(back, tmp_path / "f.lathed")
    assert changed.document is not None and "has changed" in changed.words
    taken = edits.exchange_part(back, changed.part, changed.document)
    assert list(changed_parts(taken, tmp_path / "f.lathed")) == []
    (tmp_path / "flange.lathed").write_bytes(b"PK\x03\x04 nonsense")
    (broken,) = changed_parts(back, tmp_path / "f.lathed")
    assert broken.document is None and "damaged" in broken.words
    (tmp_path / "flange.lathed").unlink()
    (gone,) = changed_parts(back, tmp_path / "f.lathed")
    assert "is gone" in gone.words and ls.solve(back).whole.members


def test_unknown_fields_of_a_newer_program_are_kept(tmp_path: Path) -> None:
    records = json.loads(fit_json(small()))
    records["members"][0]["gloss"] = 0.7
    records["stiffness"] = [1, 2]
    (tmp_path / "fit.json").write_text(json.dumps(records))
    fit = read_fit(tmp_path / "fit.json")
    assert json.loads(fit_json(fit))["stiffness"] == [1, 2]
    assert json.loads(fit_json(fit))["members"][0]["gloss"] == 0.7
    for wrong, words in (({"fit_version": 99}, "newer version"), ({"fit_version": None}, "no fit_version"),
                         ({"members": [{"name": "x", "part": "y"}]}, "there is no part"),
                         ({"relations": records["relations"] * 2}, "stands twice")):  # fmt: skip
        (tmp_path / "fit.json").write_text(json.dumps(records | wrong))
        with pytest.raises(FileError, match=words):
            read_fit(tmp_path / "fit.json")


@given(data=st.data())
@settings(max_examples=120)
def test_mutated_archives_give_a_fit_or_an_error_of_ours(data: st.DataObject, tmp_path_factory: pytest.TempPathFactory
                                                          ) -> None:  # fmt: skip
    folder = tmp_path_factory.getbasetemp() / "mutated"
    folder.mkdir(exist_ok=True)
    whole = folder / "whole.lathed"
    if not whole.exists():
        write_fit(whole, small())
    if data.draw(st.booleans()):
        raw = bytearray(whole.read_bytes())
        for _ in range(data.draw(st.integers(1, 8))):
            raw[data.draw(st.integers(0, len(raw) - 1))] = data.draw(st.integers(0, 255))
        (folder / "m.lathed").write_bytes(raw[: data.draw(st.integers(1, len(raw)))])
    else:
        records = json.loads(zipfile.ZipFile(whole).read("fit.json"))
        key = data.draw(st.sampled_from(["members", "relations", "parts", "name", "fit_version", "copies", "drives"]))
        leaves = st.none() | st.booleans() | st.floats() | st.integers() | st.text(max_size=5)
        junk = st.recursive(leaves, lambda c: st.lists(c, max_size=3) | st.dictionaries(st.text(max_size=5), c))
        if isinstance(records[key], list) and records[key] and data.draw(st.booleans()):
            inner = data.draw(st.sampled_from(sorted(records[key][0])))
            records[key][0][inner] = data.draw(junk)
        else:
            records[key] = data.draw(junk)
        with zipfile.ZipFile(folder / "m.lathed", "w") as archive:
            archive.writestr("fit.json", json.dumps(records))
    try:
        fit = read_fit(folder / "m.lathed")
    except FileError as exc:
        assert exc.message
        return
    assert isinstance(fit, Fit)
    assert ls.solve(fit).words


def test_a_killed_window_loses_no_edit_of_a_fit(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    journal = Journal(tmp_path)
    history = History.start(small())
    journal.start(history, None)
    for k in range(3):
        history = history.commit(edits.put_member(history.document, "washer", hidden=k % 2 == 0), f"edit {k}")
        journal.append(f"edit {k}", history.document)
    # two parts, in both copies of the first value; not again however often the fit is edited
    assert journal.file.read_bytes().count(b'"document"') == 4
    with journal.file.open("ab") as handle:
        handle.write(b'00000000 20 {"label": "cut sho')
    monkeypatch.setattr("lathed_solid.files.journal.recovery._alive", lambda *_a: False)
    (found,) = recoverable(tmp_path)
    assert found.history is None and found.fits is not None and (found.edits, found.damaged) == (3, 1)
    assert found.fits.document == history.document


def test_a_relation_may_be_left_out_for_a_while() -> None:
    fit = edits.put_relation(small(), 2, suspended=True)
    assert len(ls.solve(fit).freedoms) == 2 and len(ls.solve(small()).freedoms) == 1
    assert isinstance(fit.relation(2), Relation) and fit.relation(99) is None


def test_the_schema_of_fits_is_published_and_holds() -> None:
    import jsonschema
    from referencing import Registry, Resource

    from lathed_solid.files.schema import fit_schema_text, schema_text

    docs = Path(__file__).parents[2] / "docs"
    published = (docs / "fit.schema.json").read_text("utf-8")
    assert published == fit_schema_text()
    registry: Registry = Registry().with_resource("part.schema.json", Resource.from_contents(json.loads(schema_text())))
    check = jsonschema.Draft202012Validator(json.loads(published), registry=registry)
    check.validate(json.loads(fit_json(FITS["winch"]())))
    wrong = json.loads(fit_json(small()))
    wrong["relations"][0]["kind"] = "glued"
    assert not check.is_valid(wrong)
