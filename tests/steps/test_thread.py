"""Real threads against a numeric integral of their outline, and what is refused."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepCheck import BRepCheck_Analyzer

from lathed_solid import scripting as ls
from lathed_solid.kernel.builders import shell_replacement as graft
from lathed_solid.kernel.builders import thread
from lathed_solid.kernel.builders.helicoid import Stretch
from lathed_solid.kernel.builders.unrolled import Cone, Profile, thread_volume
from lathed_solid.kernel.parts import ThreadData
from lathed_solid.kernel.properties import volume as exact
from lathed_solid.part import scope
from lathed_solid.part.steps.edges import EdgePick
from lathed_solid.part.steps.thread import ThreadStep
from lathed_solid.standards import StandardError, thread_form

from .parts import built, bush, near, refused, shaft, volume


def sampled(profile: Profile, ends: tuple[float, float], cones: tuple[Cone, ...], lead: float) -> float:
    """Integral of r^2 / 2 over the turn and the length, by sampling the outline alone (midpoints, 720 x 4000)."""
    t = (np.arange(720) + 0.5) / 720 * 2 * math.pi
    z = ends[0] + (np.arange(4000) + 0.5) / 4000 * (ends[1] - ends[0])
    at = (z[None, :] - lead * t[:, None] / (2 * math.pi)) % profile.pitch
    zs, rs = np.array(profile.corners).T
    r = np.interp(at, zs, rs)
    for cone in cones:
        bound = cone.a + cone.b * z
        r = np.minimum(r, bound) if cone.keep == "within" else np.maximum(r, bound)
    return float((r * r / 2).mean() * 2 * math.pi * (ends[1] - ends[0]))


def outline(d: float, p: float, depth: float) -> Profile:
    top, bottom, rise = d / 2, d / 2 - depth, depth * math.tan(math.radians(30))
    root = p * 0.875 - 2 * rise
    return Profile(
        ((0, bottom), (root, bottom), (root + rise, top), (p - rise, top), (p, bottom)), ("root", "a", "crest", "b")
    )


SIZES = [(6, 1), (8, 1.25), (10, 1.5), (12, 1.75), (18, 1.5), (20, 2.5), (30, 3.5), (5, 0.8)]


@settings(max_examples=24)
@given(st.sampled_from(SIZES), st.sampled_from((1, -1)), st.integers(1, 3), st.floats(2.2, 9.7), st.booleans(),
       st.booleans())  # fmt: skip
def test_random_threads_are_sound_and_hold_their_volume(
    size: tuple[float, float], hand: int, starts: int, turns: float, lead_in: bool, run_out: bool
) -> None:
    d, p = size
    profile = outline(d, p, 0.6 * p)
    length = round(turns, 2) * p
    cones: tuple[Cone, ...] = ()
    if lead_in:
        cones += (Cone("within", d / 2 - 0.65 * p, 1.0, "leadin"),)
    if run_out:
        cones += (Cone("beyond", d / 2 - 0.6 * p - length, 1.0, "runout"), Cone("within", d / 2, 0.0, "plain"))
    ends = (0.0, length + (2 * p if run_out else 0.0))
    stretch = Stretch(profile, ends, cones, hand, starts)
    solid, _faces = stretch.solid()
    assert BRepCheck_Analyzer(solid).IsValid()
    got = exact(solid)
    assert got == near(thread_volume(stretch.layout), 1e-9)
    assert got == near(sampled(profile, ends, cones, hand * starts * p), 2e-5)


def test_the_spindle_thread() -> None:
    """M18x1.5, 44 long on a rod of 60: the rest of the rod is the plain cylinder."""
    rod = shaft((18, 60))
    part = ls.step(rod, "thread", face="10/sA", designation="M18x1.5", length="44", real=True)
    solid = built(part)
    form = thread_form("M18x1.5")
    depth = 0.613435 * 1.5
    profile = Profile(
        ((0, 9 - depth), (1.5 * 0.875 - 2 * depth * math.tan(math.pi / 6), 9 - depth),
         (1.5 * 0.875 - depth * math.tan(math.pi / 6), 9), (1.5 - depth * math.tan(math.pi / 6), 9), (1.5, 9 - depth)),
        ("root", "a", "crest", "b"),
    )  # fmt: skip
    cones = (Cone("within", 9 - depth - 0.075, 1.0, ""), Cone("beyond", 9 - depth - 44, 1.0, ""),
             Cone("within", 9.0, 0.0, ""))  # fmt: skip
    assert solid.volume == near(sampled(profile, (0.0, 60.0), cones, 1.5), 1e-5)
    assert solid.measure("diameter", "20/ring.helix.crest") == near(18)
    assert solid.measure("diameter", "20/ring.helix.root") == near(18 - 2 * depth)
    assert form.minor == near(16.376, 1e-4) and form.pitch_diameter == near(17.026, 1e-4)


@settings(max_examples=10)
@given(st.sampled_from(["M8", "M18x1.5", "M18x1.5 LH", "Tr20x4", "1/2-13 UNC"]), st.floats(0.3, 1.0), st.booleans(),
       st.booleans(), st.integers(1, 2), st.sampled_from(["plain", "shoulder", "nut"]))  # fmt: skip
def test_a_thread_put_into_the_shell_is_the_ring_that_a_boolean_puts_there(
    designation: str, share: float, lead_in: bool, run_out: bool, starts: int, around: str
) -> None:
    """Two ways of making the same solid: the same volume, the same names, and both sound for what comes after."""
    form = thread_form(designation)
    if around == "nut":
        part, face = bush(3 * form.major, form.minor, 5 * form.pitch), "10/bore.right.1"
    else:
        rows = [(form.major, 7 * form.pitch), (2 * form.major, 5)]
        part, face = shaft(*rows[: 2 if around == "shoulder" else 1]), "10/sA"
    length = str(share * (5 if around == "nut" else 6) * form.pitch)
    part = ls.step(part, "thread", face=face, designation=designation, length=length, real=True, lead_in=lead_in,
                   run_out=run_out, starts=starts)  # fmt: skip
    asked: list[bool] = []

    def spied(*given: Any) -> Any:
        out = graft.grafted(*given)
        asked.append(out is not None)
        return out

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(thread, "grafted", spied)
        one = built(part)
        patch.setattr(thread, "grafted", lambda *_given: None)
        other = built(part)
    # with a lead-in and a run-out no boolean is needed, whatever stands beside the cylinder
    assert asked == [True] or not (lead_in and run_out)
    assert BRepCheck_Analyzer(one.built.body.shape).IsValid()
    assert one.volume == near(other.volume, 1e-9)
    assert one.built.body.size == near(one.volume, 1e-6)
    assert set(one.built.body.by_atom) | {"20/ring.floor"} >= set(other.built.body.by_atom)
    if around != "nut":
        drilled = ls.hole(part, "10/face.left", str(form.minor / 4), depth="3", point=None)
        assert one.volume - volume(drilled) == near(math.pi * (form.minor / 8) ** 2 * 3, 1e-6)


@pytest.mark.parametrize(("leg", "length"), [("0.6", "10"), ("2", "10"), ("0.6", None), ("1.5", None)])
def test_a_thread_is_cut_through_the_bevel_at_its_end(leg: str, length: str | None) -> None:
    """The broken edges of a rod bound the thread, as they would on the lathe, and keep their names."""
    ends = EdgePick(edges=("10/face.left|10/sA", "10/face.right|10/sA"))
    rod = ls.step(shaft((8, 20)), "chamfer", pick=ends, leg=leg)
    solid = built(ls.step(rod, "thread", face="10/sA", designation="M8", length=length, real=True))
    assert BRepCheck_Analyzer(solid.built.body.shape).IsValid()
    h, form = float(leg), thread_form("M8")
    profile = thread.profile_of(ThreadStep(number=1, face="x", designation="M8").resolve(scope(rod)), 4.0, False)
    deep = min(r for _z, r in profile.corners)
    cones = [Cone("within", 4 - h, 1.0, ""), Cone("within", 4 - h + 20, -1.0, "")]
    if length is not None:
        cones += [Cone("beyond", deep - h - 10, 1.0, ""), Cone("within", 4.0, 0.0, "")]
        cones.append(cones.pop(1))
    assert solid.volume == near(sampled(profile, (0.0, 20.0), tuple(cones), form.pitch), 2e-5)
    assert solid.measure("diameter", "30/ring.helix.crest") == near(8)
    assert {a for a in solid.built.body.by_atom if a.startswith("20/")} == set(ls.build(rod).built.body.by_atom) - {
        "10/sA", "10/face.left", "10/face.right"}  # fmt: skip


def test_nuts_left_hands_and_later_cuts() -> None:
    nut = bush(30, 16.376, 12)
    bore = math.pi * (15**2 - 8.188**2) * 12
    real = ls.step(nut, "thread", face="10/bore.right.1", designation="M18x1.5", real=True)
    assert volume(nut) == near(bore) and volume(real) < bore
    left = ls.step(nut, "thread", face="10/bore.right.1", designation="M18x1.5 LH", real=True)
    assert volume(left) == near(volume(real), 1e-6)
    rod = ls.step(shaft((18, 40), (25, 10)), "thread", face="10/sA", designation="M18x1.5", length="20", real=True)
    holed = ls.hole(rod, "10/face.left", "5", depth="15", point=None)
    assert volume(rod) - volume(holed) == near(math.pi * 2.5**2 * 15, 1e-6)
    keyed = ls.step(rod, "keyway", face="10/sB", from_face="10/face.right", width="5", depth="2", length=None)
    assert 0 < volume(rod) - volume(keyed) < 5 * 2.3 * 10
    head = ls.extrude(ls.sketch(rod, (lambda d: (d.circle(d.point(0, 0), 10), d)[1])(ls.Draft()), "10/face.right"),
                      30, "5")  # fmt: skip
    assert volume(head) - volume(rod) == near(math.pi * 500, 1e-6)


def test_a_drawn_thread_carries_its_data_and_leaves_the_solid() -> None:
    rod = shaft((18, 60))
    solid = built(ls.step(rod, "thread", face="10/sA", designation="M18x1.5", length="44"))
    assert solid.volume == near(math.pi * 81 * 60)
    assert solid.built.parts.threads["10/sA"] == ThreadData("M18x1.5", 18.0, 1.5, 44.0)


def test_trapezoidal_and_free_profiles() -> None:
    rod = shaft((20, 40))
    screw = ls.step(rod, "thread", face="10/sA", designation="Tr20x4", real=True, lead_in=False)
    assert volume(screw) < volume(rod)
    square = ls.step(rod, "thread", face="10/sA", pitch="4", real=True, lead_in=False,
                     profile=(("0", "2"), ("1.9", "2"), ("2", "0"), ("3.9", "0"), ("4", "2")))  # fmt: skip
    # half of a groove 2 deep, with flanks 0.1 wide: the integral over one pitch
    per_pitch = math.pi * (8**2 * 1.9 + 10**2 * 1.9 + 2 * 0.1 * (64 + 80 + 100) / 3)
    assert volume(square) == near(per_pitch * 10, 1e-6)


def test_refused() -> None:
    rod = shaft((18, 60))
    refused(ls.step(rod, "thread", face="10/sA", designation="M20", real=True), "needs a cylinder of about ⌀20")
    refused(ls.step(rod, "thread", face="10/sA", designation="M18x1.5", length="70"), "longer than its cylinder")
    refused(ls.step(rod, "thread", face="10/sA"), "a designation, or a pitch and a profile")
    refused(ls.step(rod, "thread", face="10/sA", pitch="2", profile=(("0", "1"), ("1", "0"), ("3", "1"))), "one pitch")
    refused(ls.step(bush(20, 18, 10), "thread", face="10/bore.right.1", designation="M18x1.5"), "needs a bore")


@pytest.mark.parametrize(
    ("designation", "major", "pitch", "minor"),
    [  # ISO 724, ASME B1.1, ISO 228-1, ISO 2904
        ("M8", 8, 1.25, 6.647), ("M10", 10, 1.5, 8.376), ("M14x1", 14, 1, 12.917), ("M24", 24, 3, 20.752),
        ("M5", 5, 0.8, 4.134), ("M30x2", 30, 2, 27.835), ("1/4-20 UNC", 6.35, 1.27, 4.976),
        ("3/8-16 UNC-2B", 9.525, 1.5875, 7.805), ("1/2-13 UNC LH", 12.7, 25.4 / 13, 10.584),
        ("#10-32 UNF", 4.826, 0.79375, 3.967), ("G1/8", 9.728, 0.907, 8.566), ("G1/2", 20.955, 1.814, 18.631),
        ("G1", 33.249, 2.309, 30.291), ("Tr20x4", 20, 4, 16), ("Tr40x7", 40, 7, 33),
    ],
)  # fmt: skip
def test_basic_sizes_are_the_published_ones(designation: str, major: float, pitch: float, minor: float) -> None:
    form = thread_form(designation)
    assert form.major == pytest.approx(major, abs=1e-3)
    assert form.pitch == pytest.approx(pitch, abs=1e-3)
    assert form.minor == pytest.approx(minor, abs=2e-3)
    assert form.left == designation.endswith("LH")


@pytest.mark.parametrize("text", ["", "M", "M8x9", "M7.3", "1/4-21 UNC", "G7/3", "Tr20", "Tr20x8(P3)", "hello"])
def test_designations_that_are_none(text: str) -> None:
    with pytest.raises(StandardError):
        thread_form(text)


def test_a_threaded_part_goes_out_and_comes_back(tmp_path: Path) -> None:
    part = ls.step(shaft((18, 20)), "thread", face="10/sA", designation="M18x1.5", real=True)
    solid = built(part)
    ls.export(solid, tmp_path / "screw.step")
    back = ls.import_body(ls.new_part("back"), tmp_path / "screw.step")
    assert volume(back) == near(solid.volume, 1e-6)


def test_a_free_profile_may_have_arcs() -> None:
    """A groove 2 wide and 1.2 deep with its root corners R0.4: the integral with true arcs, over ten pitches."""
    rod = shaft((20, 40))
    rows = (("0", "0"), ("1", "0"), ("1.2", "1.2", "0.4"), ("2.8", "1.2", "0.4"), ("3", "0"), ("4", "0"))
    screw = ls.step(rod, "thread", face="10/sA", pitch="4", real=True, lead_in=False, profile=rows)
    # a corner: tangent back by t, the circle's middle at its radius above the root
    lean = math.atan2(1.2, 0.2)
    t = 0.4 * math.tan(lean / 2)
    z = np.linspace(0, 4, 4_000_001)
    edge = np.minimum(z, 4 - z)
    depth = np.clip((edge - 1) * 6, 0, 1.2)
    within = (edge > 1.2 - t * math.cos(lean)) & (edge < 1.2 + t)
    arc = 0.8 + np.sqrt(np.clip(0.16 - (edge - 1.2 - t) ** 2, 0, None))
    depth = np.where(within, arc, depth)
    per_pitch = float(np.trapezoid(math.pi * (10 - depth) ** 2, z))
    assert math.pi * 100 * 40 - volume(screw) == near(math.pi * 100 * 40 - per_pitch * 10, 1e-5)
    first = (("0", "0", "0.1"), *rows[1:])
    refused(ls.step(rod, "thread", face="10/sA", pitch="4", real=True, profile=first), "cannot be rounded")
    wide = (*rows[:2], ("1.2", "1.2", "1.6"), *rows[3:])
    refused(ls.step(rod, "thread", face="10/sA", pitch="4", real=True, profile=wide), "do not fit beside one another")
