"""Random routes: whatever is asked for, every step answers with a sound body or with words; and files give it back."""

from __future__ import annotations

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from OCP.BRepCheck import BRepCheck_Analyzer

from lathed_solid import scripting as ls
from lathed_solid.errors import LathedError
from lathed_solid.part import Document, EdgePick, Grid, Table

from .parts import block, circle, shaft

FACES = ("20/l1", "20/l2", "20/end", "20/start", "10/sA", "10/face.left", "40/c1", "40/end", "XY", "90/l1")
EDGES = ("20/l1|20/l2", "20/end|20/l1", "20/end|40/c1", "40/c1|40/end", "10/face.left|10/sA", "20/l1|20/l9")
sizes = st.sampled_from(("0.5", "1", "3", "8", "20", "45", "-2", "0", "1/3 in", "#4", "abc", "1e9"))
angles = st.sampled_from(("5 deg", "30 deg", "90 deg", "200 deg", "-10 deg", "0"))
faces, edges = st.sampled_from(FACES), st.sampled_from(EDGES)
picks = st.one_of(
    st.builds(lambda e: EdgePick(edges=(e,)), edges), st.builds(lambda f: EdgePick(faces=(f,)), faces),
    st.builds(lambda r: EdgePick(rule=r), st.sampled_from(("outside", "inside", "upright outside", "all others"))),
)  # fmt: skip
places = st.one_of(
    st.builds(lambda x, y: Table(rows=((x, y),)), sizes, sizes),
    st.builds(lambda d, n: Grid(x="8", y="8", dx=d, nx=n), sizes, st.integers(1, 4)),
)

STEPS = st.one_of(
    st.tuples(st.just("fillet"), st.fixed_dictionaries({"radius": sizes, "pick": picks})),
    st.tuples(st.just("chamfer"), st.fixed_dictionaries({"leg": sizes, "pick": picks}, optional={"second": sizes})),
    st.tuples(st.just("hole"), st.fixed_dictionaries(
        {"face": faces, "diameter": sizes, "places": places},
        optional={"depth": sizes, "csk_diameter": sizes, "thread": st.sampled_from(("M6", "G1/8", "X"))})),
    st.tuples(st.just("extrude"), st.fixed_dictionaries(
        {"sketch": st.sampled_from((10, 30)), "mode": st.sampled_from(("add", "cut", "common", "new"))},
        optional={"distance": st.one_of(st.none(), sizes), "side": st.sampled_from(("front", "back", "both")),
                  "until": st.one_of(st.just("next"), faces), "taper": angles, "wall": sizes, "start": sizes,
                  "outside": st.booleans()})),
    st.tuples(st.just("shell"), st.fixed_dictionaries({"wall": sizes, "open_faces": st.tuples(faces)})),
    st.tuples(st.just("draft"), st.fixed_dictionaries({"faces": st.tuples(faces), "angle": angles, "neutral": faces})),
    st.tuples(st.just("pattern"), st.fixed_dictionaries(
        {"steps": st.tuples(st.sampled_from((20, 40, 50))), "rebuilt": st.booleans(),
         "layout": st.fixed_dictionaries({"kind": st.just("row"), "spacing": sizes, "count": st.integers(1, 4)})})),
    st.tuples(st.just("mirror"), st.fixed_dictionaries({"plane": faces}, optional={"separate": st.booleans()})),
    st.tuples(st.just("keyway"), st.fixed_dictionaries({"face": faces, "from_face": faces, "length": sizes})),
    st.tuples(st.just("flats"), st.fixed_dictionaries({"face": faces, "from_face": faces, "across": sizes})),
    st.tuples(st.just("plane"), st.fixed_dictionaries({"names": st.tuples(faces), "distance": sizes})),
    st.tuples(st.just("split"), st.fixed_dictionaries({"body": st.sampled_from((10, 20)), "plane": faces})),
    st.tuples(st.just("move"), st.fixed_dictionaries({"body": st.just(20), "x": sizes, "as_copy": st.booleans()})),
    st.tuples(st.just("thread"), st.fixed_dictionaries(
        {"face": faces, "designation": st.sampled_from(("M20", "Tr20x4", "")), "real": st.booleans()})),
)  # fmt: skip


def start(turned: bool) -> Document:
    if turned:
        return shaft((20, 40), (30, 15))
    return ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "10")


# the same routes in every run: on a new one the kernel may crash, which would end this process with all its tests
@settings(max_examples=60, derandomize=True, suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large])
@given(st.booleans(), st.lists(STEPS, min_size=1, max_size=4))
def test_whatever_is_asked_for_is_built_soundly_or_refused_in_words(turned: bool, steps: list) -> None:
    part = start(turned)
    for kind, values in steps:
        try:
            part = ls.step(part, kind, **values)
        except LathedError as exc:
            assert len(exc.message) > 5
    assert Document.model_validate(part.model_dump(mode="json")) == part
    built = ls.build(part).built
    for result in built.steps:
        assert result.ok or len(result.message) > 8
        assert "geometry kernel failed" not in result.message, (result.kind, result.message)
    for body in built.parts.bodies.values():
        assert BRepCheck_Analyzer(body.shape).IsValid() and body.size > 0
        assert all(body.labels), "every face has a name"
