"""What the replays' regions measure, by hand: outlines of straight pieces and arcs, from the dimensions alone.

A loop is its corners counter-clockwise with a radius for each piece: 0 straight, positive bulging out, negative hollow.
Its area is the shoelace sum plus or minus the segments, r^2 (t - sin t) / 2 with the chord 2 r sin(t / 2); each arc is
shorter than half a circle. Lengths are in the part's unit. Nothing of the product is used.
"""

from __future__ import annotations

import cmath
import math

Loop = list[tuple[complex, float]]


def area(loop: Loop) -> float:
    """Of a loop: (corner, radius of the piece that leaves it)."""
    total = 0.0
    for (a, r), (b, _) in zip(loop, loop[1:] + loop[:1], strict=True):
        total += (a.conjugate() * b).imag / 2
        if r:
            t = 2 * math.asin(abs(b - a) / 2 / abs(r))
            total += math.copysign(r * r * (t - math.sin(t)) / 2, r)
    return total


def meeting(a: complex, ra: float, b: complex, rb: float, side: int) -> complex:
    """Where two circles meet, to the left (1) or right (-1) of the way from a to b."""
    d = abs(b - a)
    x = (d * d + ra * ra - rb * rb) / (2 * d)
    return a + (b - a) / d * complex(x, side * math.sqrt(ra * ra - x * x))


def toward(a: complex, b: complex, way: float) -> complex:
    """The place so far from a on the way to b."""
    return a + (b - a) / abs(b - a) * way


def pawl_link() -> list[float]:
    """Rings of the bosses, bores, the arm and its window, the keyway in and beside the bore."""
    one, two = 0j, 96 + 0j
    up = meeting(one, 28 + 60, two, 20 + 60, 1)
    low = meeting(one, 120 - 28, two, 120 - 20, 1)
    t1, t2 = toward(one, up, 28), toward(two, up, 20)
    t3, t4 = toward(low, two, 120), toward(low, one, 120)
    # the second boss stands in the arm by more than half: its arc is taken in two
    arm = area([(t1, -28), (t4, 120), (t3, -20), (76 + 0j, -20), (t2, -60)])
    r = 6
    rounds = [  # centre of the round, then the curves it touches before and after it, counter-clockwise
        (meeting(one, 35 + r, up, 67 + r, -1), up, one), (meeting(one, 35 + r, low, 113 - r, -1), one, low),
        (meeting(two, 27 + r, low, 113 - r, 1), low, two), (meeting(two, 27 + r, up, 67 + r, 1), two, up),
    ]  # fmt: skip
    radii = {one: -35.0, low: 113.0, two: -27.0, up: -67.0}
    loop: Loop = []
    for centre, before, after in rounds:
        loop.append((_touch(centre, before, radii[before], r), r))
        loop.append((_touch(centre, after, radii[after], r), radii[after]))
    window = area(loop)
    inner = 2 * math.sqrt(14**2 - 4**2) * 4 / 2 + 14**2 * math.asin(4 / 14)  # the key's strip within the bore's half
    key = 8 * (31.3 - 14) - inner
    return [math.pi * (28**2 - 14**2) - key, key, inner, math.pi * 14**2 - inner, math.pi * (20**2 - 9**2),
            math.pi * 9**2, arm - window, window]  # fmt: skip


def _touch(centre: complex, of: complex, radius: float, r: float) -> complex:
    """Where a round about ``centre`` touches the circle about ``of``, from without (hollow) or from within."""
    return toward(centre, of, r) if radius < 0 else centre + (centre - of) / abs(centre - of) * r


def stop_bracket() -> list[float]:
    """The base with one corner round; the other sketches are seen alone."""
    return [80 * 52 - 16**2 * (1 - math.pi / 4)]


def stop_bracket_wall() -> list[float]:
    """A trapezium under a slope of 30 degrees, its peak one arc R12 tangent to slope and edge."""
    high = 36 + 52 * math.tan(math.radians(30))
    corner = math.radians(60)  # between the slope and the upright edge
    cut = 12**2 * (1 / math.tan(corner / 2) - (math.pi - corner) / 2)
    return [(36 + high) / 2 * 52 - cut]


def stop_bracket_slot() -> list[float]:
    """A round end of 28 and a slot 14 wide to 38 beyond its centre, as three regions."""
    lens = 7 * math.sqrt(14**2 - 7**2) + 14**2 * math.asin(7 / 14)  # the strip of the slot in the right half
    slot = 14 * 38 + math.pi * 7**2
    left = math.pi * 7**2 / 2  # the slot's own round end lies within the circle
    common = lens + left
    return [math.pi * 14**2 - common, common, slot - common]


def stop_bracket_rib() -> list[float]:
    """A triangle."""
    return [38 * 44 / 2]


def vice_base() -> list[float]:
    """The side view: quarter round on the left, floor, post."""
    loop: Loop = [
        (0j, 0), (7.43 + 0j, 0), (7.43 + 2.85j, 0), (6.28 + 2.85j, 0), (6.28 + 2j, 0), (1.38 + 2j, 0),
        (1.38 + 3.82j, 1.38), (2.44j, 0),
    ]  # fmt: skip
    return [area(loop)]


def vice_base_slot() -> list[float]:
    """Two rectangles, one on the other."""
    return [1.12 * 1.1, 1.38 * 0.85]


def vice_base_boss() -> list[float]:
    """A ring and its bore."""
    return [math.pi * (0.7**2 - 0.28**2), math.pi * 0.28**2]


def vice_base_ear() -> list[float]:
    """Base 1.80, round end R.56 at .60, sides tangent to it, hole .34; the round end is a full circle."""
    base, centre, r = 0.9 + 0j, 0.6j, 0.56
    d = abs(centre - base)
    touch = base + (centre - base) * cmath.rect(math.sqrt(d * d - r * r) / d, -math.asin(r / d))
    mirrored = -touch.conjugate()
    low = (
        area([(-0.9 + 0j, 0), (base, 0), (touch, -r), (mirrored, 0)]) if touch.imag < centre.imag else _under(touch, r)
    )
    hole = math.pi * 0.17**2
    return [low, math.pi * r * r - hole, hole]


def _under(touch: complex, r: float) -> float:
    """The region under a circle that its tangents touch above the middle: the polygon without the lower arc's part."""
    whole = area([(-0.9 + 0j, 0), (0.9 + 0j, 0), (touch, 0), (-touch.conjugate(), 0)])
    t = 2 * math.asin(touch.real / r)
    cap = r * r * (t - math.sin(t)) / 2
    return whole - (math.pi * r * r - cap)


def cover_block() -> list[float]:
    """A rectangle with clipped corners, each edge of a clip rounded R.10."""
    clip = 0.22
    turn = math.radians(45)
    cut = 0.1**2 * (math.tan(turn / 2) - turn / 2)
    return [4.6 * 1.8 - 2 * clip**2 - 8 * cut]


def cover_block_pocket() -> list[float]:
    """One pocket across the whole width."""
    return [0.9 * 1.8]


def hand_pulley() -> list[float]:
    """Half a half section, its rim's edge bevelled .015."""
    loop: Loop = [(0.35j, 0), (0.9 + 0.35j, 0), (0.9 + 2.6j, 0), (0.68 + 2.6j, 0), (0.45 + 1.65j, 0), (1.65j, 0)]
    steep = math.sin(math.atan2(0.95, 0.23))  # of the groove's side, where the second bevel has its other leg
    return [area(loop) - 0.015**2 * (1 + steep) / 2]


def roller_ring() -> list[float]:
    """Half a half section of the ring: recess .05 deep to 1.40, groove .44 wide to 1.46, outer edge .015; a roller."""
    loop: Loop = [
        (0.73j, 0), (0.22 + 0.73j, 0), (0.22 + 0.55j, 0), (0.23 + 0.55j, 0), (0.23 + 0.7j, 0), (0.28 + 0.7j, 0),
        (0.28 + 0.85j, 0), (0.85j, 0),
    ]  # fmt: skip
    return [area(loop) - 0.015**2 / 2]
