"""Three practice parts drawn pictorially, as textbooks have them: main sizes along the axes, their holes noted."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))

from pictorial_sheet import Hand, PictorialSheet

from lathed_solid import scripting as ls
from lathed_solid.part import Document
from practice.block_pulley_ring import cover_block
from practice.figures import IN
from practice.stop_bracket import stop_bracket
from practice.vice_base import vice_base


def _sheet(part: Document, unit: float, scale: float, at: tuple[float, float], hand: Hand) -> PictorialSheet:
    body = ls.build(part).built.body
    assert body is not None
    return PictorialSheet(body.shape, (part.name, part.material, f"SCALE {scale:g}:1"), scale, unit, hand, at=at)


def bracket(hand: Hand = Hand()) -> PictorialSheet:
    """The stop bracket, in mm from a corner of its base."""
    s = _sheet(stop_bracket(), 1.0, 1.5, (160.0, 105.0), hand)
    s.length((0, 0, 0), 0, 80, (0, -14, 0), "80")
    s.length((80, 0, 0), 1, 52, (14, 0, 0), "52")
    s.length((80, 52, 0), 2, 9, (0, 12, 0), "9")
    s.length((0, 0, 0), 2, 36, (-14, 0, 0), "36")
    s.note((60, 16, 9), (60, -20), "2X ⌀8.5 THRU", "⌵ ⌀17 X 82°")
    return s


def base(hand: Hand = Hand()) -> PictorialSheet:
    """The vice base, in inches from the middle of its back."""
    s = _sheet(vice_base(), IN, 0.75, (130.0, 130.0), hand)
    half = 3.25 / 2
    s.length((1.38, -half, 0), 0, 4.9, (0, -1.4, 0), "4.90")
    s.length((6.28, -half, 0), 0, 1.15, (0, -1.4, 0), "1.15")
    s.length((7.43, -half, 0), 1, 3.25, (1.9, 0, 0), "3.25")
    s.length((7.43, half, 0), 2, 2.85, (0, 1.4, 0), "2.85")
    s.length((0, -half, 0), 2, 2.44, (-0.8, 0, 0), "2.44")
    s.note((0.4, -half, 3.4), (-30, 24), "R1.38")
    return s


def block(hand: Hand = Hand()) -> PictorialSheet:
    """The cover block, in inches from a corner of its underside."""
    s = _sheet(cover_block(), IN, 1.25, (130.0, 150.0), hand)
    s.length((0.22, 0, 0), 0, 4.16, (0, -0.7, 0), "4.160")
    s.length((4.6, 0.22, 0), 1, 1.36, (1.1, 0, 0), "1.360")
    s.length((4.6, 1.58, 0), 2, 0.7, (0, 1.0, 0), "0.700")
    s.note((1.9, 1.5, 0.7), (20, 34), "6X #10-24 UNC-2B ↧.35")
    return s


PICTORIAL: dict[str, tuple[str, Callable[[Hand], PictorialSheet]]] = {
    "stop bracket": ("mm", bracket), "vice base": ("in", base), "cover block": ("in", block),
}  # fmt: skip
