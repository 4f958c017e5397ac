"""Random assemblies of known construction: the true places are drawn first, the features cut from them.

Nothing here uses the solver: a part's features are the world's places and directions seen from its true placement, so
that where members truly stand, every relation holds. Members are then put down elsewhere. Each assembly says how many
freedoms it has by construction.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from lathed_solid.fit.document import Fit, Kind, Member, PartSource, Ref, Relation
from lathed_solid.fit.features import Feature
from lathed_solid.fit.placement import Array, Placement, placed, square_to, turn_about
from lathed_solid.part.document import Document

DOCUMENT = Document()


@dataclass
class Made:
    """A fit with its features, true placements, and the freedoms that it has."""

    fit: Fit
    features: dict[str, dict[str, Feature]]
    truth: dict[str, Placement]
    freedoms: int
    what: str


class Builder:
    """Adds bodies at true places and joints between them."""

    def __init__(self, seed: int) -> None:
        self.draw = np.random.default_rng(seed)
        self.truth: dict[str, Placement] = {}
        self.features: dict[str, dict[str, Feature]] = {}
        self.relations: list[Relation] = []
        self.freedoms = 0

    def turn(self) -> Array:
        axis = self.draw.normal(size=3)
        return turn_about(axis, self.draw.uniform(0, math.pi))

    def way(self) -> Array:
        v = self.draw.normal(size=3)
        return np.asarray(v / np.linalg.norm(v))

    def body(self, name: str, at: Array | None = None) -> str:
        where = self.draw.uniform(-200, 200, 3) if at is None else at
        self.truth[name] = placed(self.turn() if self.truth else np.eye(3), where if self.truth else np.zeros(3))
        self.features[name] = {}
        return name

    def add(self, body: str, kind: str, at: Array, way: Array, *, radius: float = 0.0, x: Array | None = None,
            **more: object) -> str:  # fmt: skip
        """A feature of a body given in the room; its name."""
        place = self.truth[body]
        back = place.rotation.T
        name = f"f{len(self.features[body])}"
        across = square_to(way)[0] if x is None else x
        self.features[body][name] = Feature(
            kind, tuple(back @ (at - np.array(place.at))), tuple(back @ way), tuple(back @ across), radius, **more,  # type: ignore[arg-type]
        )  # fmt: skip
        return name

    def relate(self, kind: Kind, a: tuple[str, str], b: tuple[str, str], *, flip: bool = False, size: str = "") -> None:
        self.relations.append(Relation(
            number=len(self.relations) + 1, kind=kind, a=Ref(member=a[0], feature=a[1]),
            b=Ref(member=b[0], feature=b[1]), flip=flip, size=size,
        ))  # fmt: skip

    # joints ----------------------------------------------------------------------------------
    def axis(self, a: str, b: str, at: Array, way: Array) -> None:
        """Two share an axis; half of the time their own directions run against each other."""
        flip = bool(self.draw.random() < 0.5)
        one = self.add(a, "round", at + way * self.draw.uniform(-20, 20), -way if flip else way, radius=5.0)
        two = self.add(b, "round", at, way, radius=5.0, hollow=True)
        self.relate("share an axis", (a, one), (b, two), flip=flip)

    def faces(self, a: str, b: str, at: Array, way: Array, gap: float = 0.0) -> None:
        """Two flats face each other, ``gap`` apart along b's normal."""
        two = self.add(b, "flat", at, way)
        across = square_to(way)
        off = self.draw.uniform(-30, 30, 2) @ np.array(across)
        one = self.add(a, "flat", at + way * gap + off, -way)
        if gap:
            self.relate("gap", (a, one), (b, two), size=f"{gap:.9f}")
        else:
            self.relate("touch", (a, one), (b, two))

    def hinge(self, a: str, b: str, at: Array, way: Array) -> None:
        self.axis(a, b, at, way)
        self.faces(a, b, at, way)

    def ball(self, a: str, b: str, at: Array) -> None:
        way = self.way()
        one, two = self.add(a, "point", at, way), self.add(b, "point", at, way)
        self.relate("on", (a, one), (b, two))

    def slider(self, a: str, b: str, at: Array, way: Array) -> None:
        """Two flats level with two others: only the way along both is left."""
        up, side = square_to(way)
        for normal in (up, side):
            one, two = self.add(a, "flat", at + way * 10, normal), self.add(b, "flat", at, normal)
            self.relate("level", (a, one), (b, two))

    def put_down(self, spread: float, what: str) -> Made:
        """Members somewhere near the truth: shifted by ``spread`` mm and turned by a share of it."""
        members = []
        for i, (name, place) in enumerate(self.truth.items()):
            if i == 0:
                members.append(Member(name=name, part=name, placement=place, held=True))
                continue
            by = turn_about(self.draw.normal(size=3), self.draw.uniform(0, spread / 100))
            members.append(Member(name=name, part=name, placement=placed(
                by @ place.rotation, np.array(place.at) + self.draw.normal(size=3) * spread)))  # fmt: skip
        fit = Fit(
            parts=tuple(PartSource(name=n, document=DOCUMENT) for n in self.truth), members=tuple(members),
            relations=tuple(self.relations),
        )  # fmt: skip
        return Made(fit, self.features, dict(self.truth), self.freedoms, what)


def tree(seed: int, count: int, spread: float = 8.0) -> Made:
    """Bodies joined one after another to an earlier one by hinges, sliders, balls, cylinders or not at all loose."""
    b = Builder(seed)
    names = [b.body("m0")]
    for i in range(1, count):
        base = names[int(b.draw.integers(max(0, i - 4), i))]
        at = np.array(b.truth[base].at) + b.draw.uniform(-60, 60, 3)
        name = b.body(f"m{i}", at + b.draw.uniform(-40, 40, 3))
        way = b.way()
        kind = b.draw.choice(["hinge", "slider", "ball", "cylinder", "fast", "plane"])
        if kind == "hinge":
            b.hinge(name, base, at, way)
            b.freedoms += 1
        elif kind == "slider":
            b.slider(name, base, at, way)
            b.freedoms += 1
        elif kind == "ball":
            b.ball(name, base, at)
            b.freedoms += 3
        elif kind == "cylinder":
            b.axis(name, base, at, way)
            b.freedoms += 2
        elif kind == "plane":
            b.faces(name, base, at, way, float(b.draw.choice([0.0, 3.5])))
            b.freedoms += 3
        else:
            b.hinge(name, base, at, way)
            up = square_to(way)[0]
            one, two = b.add(name, "flat", at, up), b.add(base, "flat", at + up * 12, up)
            b.relate("parallel", (name, one), (base, two))
        names.append(name)
    return b.put_down(spread, f"tree of {count}")


def four_bar(seed: int, spread: float = 4.0) -> Made:
    """Ground, crank, coupler and rocker in a plane somewhere in space, all joints hinges: one freedom, three surplus
    equations round the loop.
    """
    b = Builder(seed)
    lengths = b.draw.uniform(30, 90, 4)
    longest = int(np.argmax(lengths))
    # sound lengths: the longest is less than the sum of the others, by a margin
    others = lengths.sum() - lengths[longest]
    lengths[longest] = min(lengths[longest], 0.8 * others)
    way = b.way()
    x, y = square_to(way)
    origin = b.draw.uniform(-50, 50, 3)
    ground, crank, coupler, rocker = lengths
    for _ in range(200):
        angle = b.draw.uniform(0, 2 * math.pi)
        tip = np.array([crank * math.cos(angle), crank * math.sin(angle)])
        far = float(np.linalg.norm(np.array([ground, 0]) - tip))
        if abs(coupler - rocker) + 6 < far < coupler + rocker - 6:
            break
    else:
        return four_bar(seed + 10_000_019, spread)
    toward = (np.array([ground, 0]) - tip) / far
    along = (coupler**2 - rocker**2 + far**2) / (2 * far)
    up = math.sqrt(coupler**2 - along**2) * (1 if b.draw.random() < 0.5 else -1)
    knee = tip + toward * along + np.array([-toward[1], toward[0]]) * up

    def room(p: Array) -> Array:
        return np.asarray(origin + x * p[0] + y * p[1])

    joints = [room(np.zeros(2)), room(tip), room(knee), room(np.array([ground, 0.0]))]
    names = ["ground", "crank", "coupler", "rocker"]
    for n in names:
        b.body(n, origin + b.draw.uniform(-30, 30, 3))
    for k, (one, two) in enumerate((("crank", "ground"), ("coupler", "crank"), ("rocker", "coupler"),
                                    ("rocker", "ground"))):  # fmt: skip
        b.hinge(one, two, joints[k], way)
    b.freedoms = 1
    return b.put_down(spread, "four-bar linkage")


def cross_joint(seed: int, spread: float = 3.0, bend: float | None = None) -> Made:
    """A shaft in the ground, a cross, and a second shaft at an angle to the first: one freedom."""
    b = Builder(seed)
    angle = math.radians(b.draw.uniform(10, 50)) if bend is None else bend
    b.truth["ground"] = Placement()
    b.features["ground"] = {}
    first, middle = np.array([1.0, 0.0, 0.0]), np.zeros(3)
    second = np.array([math.cos(angle), math.sin(angle), 0.0])
    pin = np.array([0.0, 0.0, 1.0])  # square to both: the first yoke's pin at the start
    other = np.cross(second, pin)  # the second yoke's pin: square to the first pin and to the second shaft
    for n in ("first", "cross", "second"):
        b.body(n, b.draw.uniform(-30, 30, 3))
    b.hinge("first", "ground", middle - first * 60, first)
    b.hinge("second", "ground", middle + second * 60, second)
    for shaft, way in (("first", pin), ("second", other)):
        b.axis("cross", shaft, middle, way)
    b.faces("cross", "first", middle, pin)
    b.freedoms = 1
    return b.put_down(spread, "joint with a cross")


def bolted(seed: int, count: int, spread: float = 8.0) -> Made:
    """A plate with holes, a bolt in each (axis and touch): each turns, nothing else."""
    b = Builder(seed)
    plate = b.body("plate")
    up = np.array([0.0, 0.0, 1.0])
    for i in range(count):
        at = np.array([20.0 * (i % 14), 20.0 * (i // 14), 0.0])
        bolt = b.body(f"bolt {i}", at + b.draw.uniform(-10, 10, 3))
        b.hinge(bolt, plate, at, up)
        b.freedoms += 1
    return b.put_down(spread, f"{count} bolts")


def bend(made: Made, placements: dict[str, Placement]) -> float:
    """How far the knee of a four-bar linkage's coupler and rocker is bent, -1 to 1, seen along its hinges: what changes
    sign elsewhere than at 0 has turned over.
    """

    def joint(number: int) -> Array:
        ref = next(r.b for r in made.fit.relations if r.number == number)
        assert ref is not None
        return _seen(made, placements, ref)[0]

    first = made.fit.relations[0].b
    assert first is not None
    tip, knee, end = joint(3), joint(5), joint(7)
    way = _seen(made, placements, first)[1]
    one, two = knee - tip, end - knee
    return float(np.cross(one, two) @ way / (np.linalg.norm(one) * np.linalg.norm(two)))


FAMILIES = {
    "tree": lambda seed: tree(seed, 5 + seed % 30), "four-bar": four_bar, "cross": cross_joint,
    "bolted": lambda seed: bolted(seed, 3 + seed % 20),
}  # fmt: skip


def worst(made: Made, placements: dict[str, Placement]) -> float:
    """How far any relation is from holding, mm or rad, by formulas of its own."""
    out = 0.0
    for r in made.fit.relations:
        assert r.b is not None
        (pa, da, fa), (pb, db, _) = (_seen(made, placements, x) for x in (r.a, r.b))
        sign = -1.0 if r.flip else 1.0
        if r.kind in ("touch", "gap"):
            sign = -sign
        if r.kind in ("share an axis", "touch", "gap", "level", "parallel"):
            out = max(out, float(np.linalg.norm(da - sign * db)))
        away = pa - pb
        if r.kind == "share an axis":
            out = max(out, float(np.linalg.norm(away - db * float(away @ db))))
        elif r.kind in ("touch", "level"):
            out = max(out, abs(float(away @ db)))
        elif r.kind == "gap":
            out = max(out, abs(float(away @ db) - float(r.size)))
        elif r.kind == "on" and fa.kind == "point":
            out = max(out, float(np.linalg.norm(away)))
    return out


def _seen(made: Made, placements: dict[str, Placement], ref: Ref) -> tuple[Array, Array, Feature]:
    it, place = made.features[ref.member][ref.feature], placements[ref.member]
    r = place.rotation
    return r @ np.array(it.origin) + np.array(place.at), r @ np.array(it.direction), it
