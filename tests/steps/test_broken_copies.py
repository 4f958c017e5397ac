"""Rounds and bevels repeat and mirror with the step whose edges they break; lofts are made anew at each place."""

from __future__ import annotations

import math

from lathed_solid import scripting as ls
from lathed_solid.part import EdgePick
from lathed_solid.part.steps.pattern_layout import RowLayout

from .parts import block, built, circle, near, refused, volume

CORNER = 1 - math.pi / 4


def posts() -> ls.Document:
    """A block with a post Ø8 x 10 on it, rounded R2 at its foot, bevelled 1 at its head."""
    part = ls.extrude(circle(block(80, 40), "20/end", 15, 20, 4), 30, "10")
    part = ls.step(part, "fillet", radius="2", pick=EdgePick(edges=("20/end|40/c1",)))
    return ls.step(part, "chamfer", leg="1", pick=EdgePick(edges=("40/c1|40/end",)))


def foot(radius: float, r: float) -> float:
    """A hollow round about a post, by Pappus: the corner outside the ball's circle."""
    area = CORNER * r * r
    # from the post: the square's middle less the quarter circle's, weighted
    quarter = math.pi * r * r / 4
    middle = (r * r * r / 2 - quarter * (r - 4 * r / 3 / math.pi)) / area
    return 2 * math.pi * (radius + middle) * area


def head(radius: float, leg: float) -> float:
    return 2 * math.pi * (radius - leg / 3) * leg * leg / 2


def test_a_row_of_posts_is_rounded_and_bevelled_each() -> None:
    one = math.pi * 16 * 10 + foot(4, 2) - head(4, 1)
    assert volume(posts()) == near(80 * 40 * 20 + one, 1e-7)
    row = ls.step(posts(), "pattern", steps=(40, 50, 60), layout=RowLayout(count=4, spacing="16"))
    assert volume(row) == near(80 * 40 * 20 + 4 * one, 1e-7)
    labels = built(row).built.body.labels
    assert {"50/(20/end|40/c1)", "50/(20/end|70/3(40/c1))", "60/(70/3(40/c1)|70/3(40/end))"} <= set(labels)


def test_their_counts_are_proven_with_the_copies() -> None:
    part = ls.note(ls.note(posts(), "4X R2"), "4X 1 X 45°")
    part = part.model_copy(update={"steps": tuple(
        s.model_copy(update={"radius": "#1"}) if s.number == 50 else s.model_copy(update={"leg": "#2"})
        if s.number == 60 else s for s in part.steps
    )})  # fmt: skip
    row = ls.step(part, "pattern", steps=(40, 50, 60), layout=RowLayout(count=4, spacing="16"))
    assert [(r.verdict, r.reason) for r in ls.prove(row).rows] == [("in", "")] * 2


def test_a_mirror_takes_its_rounds_along() -> None:
    part = ls.step(posts(), "plane", names=("YZ",), distance="40")
    image = ls.step(part, "mirror", steps=(40, 50, 60), plane="70/plane")
    one = math.pi * 16 * 10 + foot(4, 2) - head(4, 1)
    assert volume(image) == near(80 * 40 * 20 + 2 * one, 1e-7)
    body = built(image).built.body
    assert body is not None
    assert len(body.by_atom["50/(20/end|80/m(40/c1))"]) == 1


def test_what_cannot_be_repeated_says_so() -> None:
    refused(ls.step(posts(), "pattern", steps=(50,), layout=RowLayout(spacing="16")), "name the step that made them")
    ruled = ls.step(posts(), "chamfer", leg="0.2", pick=EdgePick(rule="all others"))
    refused(ls.step(ruled, "pattern", steps=(40, 70), layout=RowLayout(spacing="16")), "by a rule or a step")
    elsewhere = ls.step(posts(), "fillet", radius="3", pick=EdgePick(edges=("20/l1|20/l2",)))
    refused(ls.step(elsewhere, "pattern", steps=(40, 70), layout=RowLayout(spacing="16")), "lies on what is repeated")


def test_a_loft_is_made_anew_at_each_place_and_mirrored() -> None:
    d = ls.Draft()
    ls.shapes.rectangle(d, (5, 5), (15, 15))
    part = ls.sketch(block(80, 40), d, "20/end")
    d = ls.Draft()
    ls.shapes.rectangle(d, (8, 8), (12, 12))
    part = ls.sketch(part, d, ls.DatumPlane(offset="29"))
    part = ls.step(part, "loft", sketches=(30, 40), ruled=True)
    frustum = 9 / 3 * (100 + 16 + 40)
    assert volume(part) == near(64000 + frustum, 1e-7)
    row = ls.step(part, "pattern", steps=(50,), layout=RowLayout(count=3, spacing="20"), rebuilt=True)
    assert volume(row) == near(64000 + 3 * frustum, 1e-7)
    plane = ls.step(part, "plane", names=("YZ",), distance="40")
    assert volume(ls.step(plane, "mirror", steps=(50,), plane="60/plane", rebuilt=True)) == near(
        64000 + 2 * frustum, 1e-7
    )
