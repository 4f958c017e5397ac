"""Random parts whose notes are written from their construction: as noted (truths), or with one duty broken (lies).

A maker makes a part of one of five families, in millimetres or inches. Wherever the construction can break a duty and
leave the note as it is, it asks ``lie(kind, balloons)``; a first run counts the occasions, a second one takes one of
them. The oracle is the construction alone: nothing here measures. ``case(seed)`` is a truth for even seeds and a lie
for odd ones.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid import scripting as ls
from lathed_solid.ledger import InchBlock
from lathed_solid.part import Document
from lathed_solid.part.edits import next_balloon

IN = 25.4


@dataclass(frozen=True)
class Case:
    """A part; ``lie`` is the broken duty and ``balloons`` the callouts that must not all be in (empty for a truth)."""

    family: str
    document: Document
    lie: str = ""
    balloons: tuple[int, ...] = ()


class Maker:
    """Writes notes from sizes (mm) that it rounds to the sheet's unit, and makes the part from their callouts."""

    def __init__(self, seed: int, family: str, chosen: int | None) -> None:
        self.r = random.Random(seed)
        self.unit = "in" if family not in ("turned",) and self.r.random() < 0.4 else "mm"
        self.k = IN if self.unit == "in" else 1.0
        self.part = ls.new_part(f"{family} {seed}", unit=self.unit)
        if self.unit == "in":
            self.part = self.part.model_copy(update={"general": InchBlock()})
        self.chosen, self.occasions = chosen, 0
        self.told: tuple[str, tuple[int, ...]] = ("", ())

    def lie(self, kind: str, *balloons: int) -> bool:
        """Whether to break this duty here."""
        self.occasions += 1
        if self.chosen != self.occasions - 1:
            return False
        self.told = (kind, balloons)
        return True

    # sizes and notes ---------------------------------------------------------------------------
    def size(self, low: float, high: float) -> float:
        """mm, round in the sheet's unit."""
        x = self.r.uniform(low, max(low, high)) / self.k
        return (round(x * 2) / 2 if self.unit == "mm" else max(round(x, 2), 0.01)) * self.k

    def text(self, mm: float) -> str:
        x = mm / self.k
        return f"{x:.3f}".lstrip("0") if self.unit == "in" else f"{x:g}"

    def note(self, text: str) -> int:
        """The first balloon of a note; its others follow."""
        balloon = next_balloon(self.part)
        self.part = ls.note(self.part, text)
        return balloon

    def off(self, mm: float) -> str:
        """A length to be added to a field, in the sheet's unit."""
        return f" + {mm / self.k:.4f}"

    def length(self, low: float, high: float, form: str = "{}") -> tuple[int, float]:
        """A note of one size, and the size in mm."""
        mm = self.size(low, high)
        return self.note(form.format(self.text(mm))), mm

    def step(self, kind: str, **values: object) -> int:
        self.part = ls.step(self.part, kind, **values)
        return self.part.steps[-1].number

    def literal(self, field: str) -> str:
        """A field's value without its callouts: as of a step that nobody's note drives."""
        for c in sorted(self.part.callouts, key=lambda c: -c.balloon):
            size = f"{math.degrees(c.nominal):g}°" if c.kind == "angle" else self.expr(c.nominal)
            field = field.replace(c.name, size)
        return field

    def expr(self, mm: float) -> str:
        return f"{mm / self.k:.5f}"

    # pieces ------------------------------------------------------------------------------------
    def rectangle(self, wide: float, deep: float, bw: int, bd: int, plane: object = "XY", middle: bool = True) -> int:
        """A sketched rectangle about the origin (or from it), its two sides dimensioned."""
        d = ls.Draft()
        x, y = (-wide / 2, -deep / 2) if middle else (0.0, 0.0)
        sides = ls.shapes.rectangle(d, (x, y), (x + wide, y + deep))
        e = d.entities
        if middle:
            origin = d.point(0, 0)
            d.add("fixed", origin)
            diagonal = d.line(e[sides[0]].points[0], e[sides[2]].points[0], construction=True)
            d.add("midpoint", origin, diagonal)
        else:
            d.add("fixed", e[sides[0]].points[0])
        d.add("distance", sides[0], value=f"#{bw}")
        d.add("distance", sides[1], value=f"#{bd}")
        self.part = ls.sketch(self.part, d, plane)  # type: ignore[arg-type]
        return self.part.steps[-1].number

    def hole(self, face: str, places: object, count: int = 1, around: float = 12.0, deepest: float = 0.0,
             through: float = 0.0, bolt_circle: str = "") -> tuple[int, int]:  # fmt: skip
        """Some kind of hole with its note and its lies: (first balloon, step). ``through``: the thickness there."""
        r, many = self.r, f"{count}X " if count > 1 else ""
        d = self.size(4, min(8, around / 2.5))
        kind = r.choice(["plain", "cbore", "csk", "blind", "tip"] if deepest > 12 else ["plain", "cbore", "csk"])
        text = f"{many}Ø{self.text(d)}"
        values: dict[str, object] = {}
        if kind in ("blind", "tip"):
            deep = self.size(max(6.0, d), deepest - 4)
            text += f" ↧{self.text(deep)}" + (" TO TIP" if kind == "tip" else "")
            b = self.note(text + bolt_circle)
            values = {"depth": f"#{b + 1}", "depth_to": "shoulder" if kind == "blind" else "tip"}
            if self.lie("shoulder for tip", b + 1):
                values["depth_to"] = "tip" if kind == "blind" else "shoulder"
            if self.lie("too deep", b + 1):
                values["depth"] = f"#{b + 1}{self.off(1.5)}"
            if self.lie("through for blind", b + 1):
                values.pop("depth")
        elif kind == "plain":
            b = self.note(f"{text} THRU{bolt_circle}")
        elif kind == "cbore":
            wide, deep = d + self.size(3, 5), self.size(2, min(4, through / 2.5))
            b = self.note(f"{text} THRU ⌴ Ø{self.text(wide)} ↧{self.text(deep)}{bolt_circle}")
            values = {"cbore_diameter": f"#{b + 1}", "cbore_depth": f"#{b + 2}"}
            if self.lie("counterbore too deep", b + 2):
                values["cbore_depth"] = f"#{b + 2}{self.off(0.9)}"
            if self.lie("counterbore too wide", b + 1):
                values["cbore_diameter"] = f"#{b + 1}{self.off(0.9)}"
        else:
            wide, angle = d + self.size(3, 5), r.choice([82, 90, 100])
            b = self.note(f"{text} THRU ⌵ Ø{self.text(wide)} X {angle}°{bolt_circle}")
            values = {"csk_diameter": f"#{b + 1}", "csk_angle": f"#{b + 2}"}
            if self.lie("countersink angle", b + 2):
                values["csk_angle"] = f"#{b + 2} + 8°"
            if self.lie("half angle for included", b + 2):
                values["csk_angle"] = f"#{b + 2} / 2"
            if self.lie("countersink too wide", b + 1):
                values["csk_diameter"] = f"#{b + 1}{self.off(0.9)}"
        diameter = f"#{b}"
        if self.lie("hole too wide", b):
            diameter = f"#{b}{self.off(0.6)}"
        if self.lie("radius for diameter", b):
            diameter = f"#{b} / 2" if kind in ("blind", "tip") else f"#{b} * 0.6"
        if kind in ("plain", "cbore", "csk") and through and self.lie("blind for through", b):
            values.update(depth=self.expr(through * 0.75 + (0.0 if kind == "plain" else 2)), point=None)
            if kind != "plain" and through * 0.75 + 2 >= through:
                values["depth"] = self.expr(through - 0.4)
        n = self.step("hole", face=face, diameter=diameter, places=places, **values)
        return b, n


# families ----------------------------------------------------------------------------------------
def turned(m: Maker) -> None:
    """A shaft: stations, edges, a groove, a bore, a thread, a keyway, radial holes."""
    r = m.r
    n = r.randint(3, 5)
    stations, sizes = [], []
    thread = r.choice([("M12x1.25-6g", 12.0, "M12x1.25"), ("M16-6g", 16.0, "M16"), ("M20x1.5-6g", 20.0, "M20x1.5")])
    diameters = [m.size(24, 60) for _ in range(n)]
    overall = 0.0
    chamfer = m.note(r.choice(["2X 1x45°", "2X 1.5x45°", "2X 1.5x30°"]))
    note = m.part.callouts[-1]
    edge = f"#{chamfer} x {math.degrees(note.angle or 0):g}°"
    wrong = f"#{chamfer} x {math.degrees(note.angle or 0) + 10:g}°" if m.lie("chamfer angle", chamfer) else edge
    if m.lie("chamfer leg", chamfer):
        wrong = f"#{chamfer}{m.off(0.5)} x {math.degrees(note.angle or 0):g}°"
    both = None if m.lie("one chamfer for two", chamfer) else ls.edge(edge)
    for k in range(n):
        key = "ABCDE"[k]
        fit = r.choice(["", "", " h6", " g6", " ±0.05"])
        b = m.note(f"Ø{m.text(diameters[k])}{fit}")
        bl, long = m.length(14, 40)
        if fit == " g6":
            m.part = ls.change_callout(m.part, b, drive="middle")
        diameter = f"#{b}"
        if m.lie("diameter", b):
            diameter = f"#{b}{m.off(0.4)}"
        stations.append(
            ls.Station(
                key=key,
                diameter=diameter,
                length=f"#{bl}",
                left=ls.edge(wrong) if k == 0 else None,
                right=both if k == n - 1 else None,
            )
        )
        sizes.append((b, bl, diameters[k], long))
        overall += long
    threaded = r.random() < 0.6
    if threaded:
        note_text, _major, name = thread
        long = m.size(14, 30)
        b = m.note(f"{note_text} x {m.text(long)}")
        held = name
        if m.lie("thread pitch", b):
            held = {"M12x1.25": "M12", "M16": "M16x1.5", "M20x1.5": "M20"}[name]
        if m.lie("left for right hand", b):
            held += " LH"
        made = ls.Station(key="T", diameter=f"#{b}", length=f"#{b + 1}{m.off(6)}", carries="")
        size = f"#{b + 1}" if not m.lie("thread too short", b + 1) else f"#{b + 1} - 4"
        if m.lie("no thread", b):
            stations.append(made)
        else:
            stations.append(made.model_copy(update={"thread": ls.ThreadStretch(designation=held, length=size)}))
        overall += long + 6
    grooves = []
    wide = max(range(n), key=lambda k: sizes[k][3])
    if r.random() < 0.5 and sizes[wide][3] > 22:
        at = sum(s[3] for s in sizes[:wide]) + 8
        bottom = sizes[wide][2] - 3
        b = m.note(f"GROOVE 3 WIDE X Ø{m.text(bottom)}")
        width, across = f"#{b}", f"#{b + 1}"
        if m.lie("groove width", b):
            width = f"#{b}{m.off(0.4)}"
        if m.lie("groove diameter", b + 1):
            across = f"#{b + 1}{m.off(0.6)}"
        grooves.append(ls.Groove(key="g1", at=f"{at:g}", width=width, diameter=across))
    bores = []
    if r.random() < 0.5:
        d, deep = m.size(6, 10), m.size(14, 26)
        b = m.note(f"Ø{m.text(d)} ↧{m.text(deep)}")
        field = f"#{b + 1}"
        if m.lie("bore depth to its tip", b + 1):
            field = f"#{b + 1} - #{b} / 2 / tan(59 deg)"
        bores.append(ls.Bore(end="left", steps=(ls.BoreStep(diameter=f"#{b}", depth=field),), point="118°"))
    m.part = ls.turned(m.part, stations, grooves=grooves, bores=bores)
    if r.random() < 0.5:
        k = r.randrange(n)
        b, d = sizes[k][0], sizes[k][2]
        start = sum(s[3] for s in sizes[:k])
        text = m.note(f"Ø{m.text(m.size(4, 6))} THRU")
        places = ls.Radial(at=f"{start + sizes[k][3] / 2:g}", datum="10/face.left", angle=f"{r.randrange(0, 360, 15)}°")
        more = {"depth": f"{d * 0.8:g}", "point": None} if m.lie("radial hole stops short", text) else {}
        # beyond a groove its station goes on under another name
        beyond = bool(grooves) and k == wide
        if beyond:
            places = places.model_copy(update={"at": f"{start + sizes[k][3] - 5:g}"})
        face = f"10/s{'ABCDE'[k]}" + (">g1" if beyond else "")
        m.step("hole", face=face, diameter=f"#{text}", places=places, **more)
    if m.lie("faced off", sizes[0][1]):
        m.step("hole", face="10/face.left", diameter=f"{sizes[0][2] + 10:g}", depth="0.9", point=None)
    if r.random() < 0.5:
        # on the second station, well within it
        b2, reach = sizes[1][2], sizes[1][3]
        seat, deep, along = 6.0, 3.5, m.size(8, max(9.0, reach - 10))
        b = m.note(f"KEYWAY 6 P9 WIDE X 3.5 DEEP X {m.text(along)} LONG")
        m.part = ls.change_callout(m.part, b, drive="middle")
        w, dp, ln = f"#{b}", f"#{b + 1}", f"#{b + 2}"
        if m.lie("keyway width", b):
            w = f"#{b}{m.off(0.3)}"
        if m.lie("keyway depth", b + 1):
            dp = f"#{b + 1}{m.off(0.6)}"
        if m.lie("keyway length", b + 2):
            ln = f"#{b + 2}{m.off(1.0)}"
        shoulder = "10/shoulder.A" if abs(sizes[0][2] - b2) > 1e-6 else "10/face.left"
        if seat < b2 / 3 and not (grooves and wide == 1) and along + 3 < reach and shoulder.endswith("A"):
            m.step("keyway", face="10/sB", from_face=shoulder, at="2", width=w, depth=dp, length=ln, angle="200°",
                   ends=r.choice(["round", "square"]))  # fmt: skip
        else:
            for x in (b, b + 1, b + 2):
                m.part = ls.change_callout(m.part, x, reference=True)
            m.part = ls.note(m.part, "(1)")


def plate(m: Maker) -> None:
    """A plate: outline, rounded corners, holes in a grid, a slot or pocket, a boss, edges broken."""
    r = m.r
    (bw, wide), (bd, deep), (bt, thick) = m.length(90, 150), m.length(60, 90), m.length(12, 24)
    n = m.rectangle(wide, deep, bw, bd)
    m.part = ls.extrude(m.part, n, f"#{bt}")
    body = m.part.steps[-1].number
    if m.lie("thickness milled off", bt):
        _mill_off(m, f"{body}/end", wide, deep, 0.9)
        return
    top = f"{body}/end"
    if r.random() < 0.6:
        b, _radius = m.length(4, 9, "4X R{}")
        edges = _corners(body)
        if m.lie("three rounds for four", b):
            edges = edges[:-1]
        size = f"#{b}{m.off(1.2)}" if m.lie("radius", b) else f"#{b}"
        m.step("fillet", radius=size, pick=ls.EdgePick(edges=edges))
    # holes at the corners, by rows and columns
    dx, dy = m.size(wide * 0.55, wide * 0.7), m.size(deep * 0.45, deep * 0.6)
    bx, by = m.note(m.text(dx)), m.note(m.text(dy))
    many = 4
    grid = ls.Grid(x=f"-#{bx} / 2", y=f"-#{by} / 2", dx=f"#{bx}", nx=2, dy=f"#{by}", ny=2)
    before = next_balloon(m.part)
    places: object = grid
    if m.lie("three holes for four", before):
        places = ls.Table(
            rows=((f"-#{bx} / 2", f"-#{by} / 2"), (f"#{bx} / 2", f"-#{by} / 2"), (f"#{bx} / 2", f"#{by} / 2"))
        )
    b, step = m.hole(top, places, many, 14, thick, thick)
    if m.lie("a plug", b):
        m.part = ls.sketch(m.part, _disc(-dx / 2, -dy / 2, 6.0), ls.DatumPlane(plane="XY", offset=m.expr(thick - 3)))
        m.part = ls.extrude(m.part, m.part.steps[-1].number, m.expr(1.5))
    if m.lie("one more alike", b):
        first = m.part.step(step)
        assert first is not None
        same = first.model_dump(include={"depth_to", "point"})
        for f in ("diameter", "depth", "cbore_diameter", "cbore_depth", "csk_diameter", "csk_angle"):
            value = getattr(first, f)
            same[f] = m.literal(value) if value else value
        places = ls.OnCircle(x=m.expr(-3.0), y=m.expr(0.0))
        m.part = ls.step(m.part, "hole", face=top, places=places, **same)
        return
    if r.random() < 0.5:
        _pocket(m, top, wide, deep, thick)
    elif r.random() < 0.7:
        _boss(m, top)
    if r.random() < 0.5:
        leg = m.note(r.choice(["1 X 45°", "1.5 X 45°", "2 X 1"]) if m.unit == "mm" else ".040 X 45°")
        two = m.part.callouts[-1].duty("second leg")
        values: dict[str, object] = {"leg": f"#{leg}"}
        if two is not None:
            values["second"] = "1"
        if m.lie("other leg of the bevel", leg):
            values["second"] = m.expr(2.2)
        edge = f"{body}/end|{body}/l1"
        m.step("chamfer", **values, on=top, pick=ls.EdgePick(edges=(edge,)))


def _mill_off(m: Maker, face: str, wide: float, deep: float, down: float) -> None:
    """All of a face taken off, ``down`` mm deep."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (-wide, -deep), (wide, deep))
    m.part = ls.sketch(m.part, d, face)
    m.part = ls.extrude(m.part, m.part.steps[-1].number, m.expr(down), side="back", mode="cut")


def _corners(step: int) -> tuple[str, ...]:
    """The four edges between the sides that a rectangle made."""
    return tuple(f"{step}/l{i}|{step}/l{j}" for i, j in ((1, 2), (2, 3), (3, 4), (1, 4)))


def _disc(x: float, y: float, radius: float) -> ls.Draft:
    d = ls.Draft()
    d.circle(d.point(x, y), radius)
    return d


def _pocket(m: Maker, top: str, wide: float, deep: float, thick: float) -> None:
    w, h = m.size(wide * 0.2, wide * 0.3), m.size(deep * 0.18, deep * 0.25)
    bw, bh = m.note(m.text(w)), m.note(m.text(h))
    bd, _down = m.length(3, thick - 5)
    n = m.rectangle(w, h, bw, bh, top)
    side = "both" if m.lie("pocket half as deep", bd) else "back"
    m.part = ls.extrude(m.part, n, f"#{bd}", side=side, mode="cut")
    number = m.part.steps[-1].number
    if m.lie("rim of the pocket milled off", bd):
        _mill_off(m, top, wide, deep, 0.8)
        return
    if m.r.random() < 0.5 and h > 6:
        b, _radius = m.length(1.5, min(3, h / 3), "4X R{}")
        edges = _corners(number)
        if m.lie("one sharp corner", b):
            edges = edges[1:]
        m.step("fillet", radius=f"#{b}", pick=ls.EdgePick(edges=edges))


def _boss(m: Maker, top: str) -> None:
    d = m.size(14, 22)
    b, (bh, high) = m.note(f"Ø{m.text(d)}"), m.length(6, 14)
    draft = ls.Draft()
    c = draft.circle(draft.point(0, 0), d / 2)
    draft.add("fixed", draft.entities[c].centre)
    draft.add("radius" if m.lie("diameter taken as radius", b) else "diameter", c, value=f"#{b}")
    m.part = ls.sketch(m.part, draft, top)
    m.part = ls.extrude(m.part, m.part.steps[-1].number, f"#{bh}")
    number = m.part.steps[-1].number
    if m.lie("boss faced off", bh):
        m.step("hole", face=f"{number}/end", diameter=m.expr(3 * d), depth=m.expr(0.8), point=None)
        return
    if m.r.random() < 0.6:
        m.hole(f"{number}/end", ls.OnCircle(), 1, d * 0.7, high, 0.0)


def flange(m: Maker) -> None:
    """A turned flange with a hub: bore with its fit, holes on a circle, a keyway, edges broken."""
    r = m.r
    (bo, outer), (bt, thick) = m.length(90, 130, "Ø{}"), m.length(12, 18)
    (bh, hub), (bl, _long) = m.length(40, 52, "Ø{}"), m.length(18, 30)
    bore = m.size(16, 24)
    fit = "" if m.unit == "in" else r.choice([" H7", " H8", " H7/g6"])
    bb = m.note(f"Ø{m.text(bore)}{fit}")
    limits = m.lie("bore to the shaft's side", bb) if fit else False
    wide = f"#{bb}" + (" - 0.03" if limits else "")
    stations = [
        ls.Station(key="A", diameter=f"#{bo}", length=f"#{bt}"),
        ls.Station(key="B", diameter=f"#{bh}", length=f"#{bl}"),
    ]
    m.part = ls.turned(m.part, stations, bores=[ls.Bore(end="right", steps=(ls.BoreStep(diameter=wide, depth=None),))])
    count = r.randint(3, 8)
    circle = (outer + hub) / 2 + r.uniform(-2, 2)
    circle = round(circle) if m.unit == "mm" else round(circle / IN, 2) * IN
    text = f" EQ SP ON Ø{m.text(circle)} BC"
    start = r.randrange(0, 90, 15)
    at: object = ls.OnCircle(bolt_circle=m.expr(circle), count=count, start_angle=f"{start}°")
    b, step = m.hole("10/face.left", at, count, min(14, math.pi * circle / count / 2), thick, thick, text)
    # how many sizes the hole's note states is not known before it is written
    bc = next(c.balloon for c in m.part.callouts if c.role == "bolt circle")
    made = m.part.step(step)
    assert made is not None
    at = ls.OnCircle(bolt_circle=f"#{bc}", count=count, start_angle=f"{start}°")
    if m.lie("circle too wide", bc):
        at = ls.OnCircle(bolt_circle=f"#{bc}{m.off(1.6)}", count=count, start_angle=f"{start}°")
    if m.lie("circle beside the middle", bc):
        at = ls.OnCircle(bolt_circle=f"#{bc}", count=count, start_angle=f"{start}°", x=m.expr(1.2))
    if m.lie("one hole too few", b):
        at = ls.OnCircle(bolt_circle=f"#{bc}", count=count - 1, start_angle=f"{start}°")
    turns = [math.radians(start + 360 * k / count) for k in range(count)]
    if m.lie("one place turned", bc):
        turns[1] += 0.08
        at = ls.Table(rows=tuple((f"#{bc} / 2 * sin({a:.9f} rad)", f"#{bc} / 2 * cos({a:.9f} rad)") for a in turns))
    m.part = ls._edits.put_step(m.part, ls._edits.changed(made, places=at))
    if r.random() < 0.5 and m.unit == "mm":
        k = m.note("KEYWAY 5 JS9 WIDE X 2.3 DEEP")
        width = f"#{k}{m.off(0.2)}" if m.lie("keyway width", k) else f"#{k}"
        deep = f"#{k + 1}{m.off(0.6)}" if m.lie("keyway depth", k + 1) else f"#{k + 1}"
        m.step("keyway", face="10/bore.right.1", from_face="10/face.left", width=width, depth=deep, length=None)
    if r.random() < 0.6:
        e = m.note("2X 1 X 45°" if m.unit == "mm" else "2X .040 X 45°")
        picked: tuple[str, ...] = ("10/face.left|10/sA", "10/sA|10/shoulder.A")
        values: dict[str, object] = {"leg": f"#{e}"}
        if m.lie("bevel of another angle", e):
            values["angle"] = "30°"
        if m.lie("one bevel for two", e):
            picked = picked[:1]
        m.step("chamfer", **values, pick=ls.EdgePick(edges=picked))
    if r.random() < 0.5:
        f, _size = m.length(1.5, 4, "R{}")
        m.step("fillet", radius=f"#{f}" + (m.off(1.4) if m.lie("fillet radius", f) else ""),
               pick=ls.EdgePick(edges=("10/sB|10/shoulder.A",)))  # fmt: skip


def bracket(m: Maker) -> None:
    """An angle bracket: a foot and a wall, holes in both, one side mirrored, a round at the corner."""
    r = m.r
    (bw, wide), (bd, deep), (bt, thick) = m.length(60, 90), m.length(50, 70), m.length(9, 13)
    n = m.rectangle(wide, deep, bw, bd)
    m.part = ls.extrude(m.part, n, f"#{bt}")
    foot = m.part.steps[-1].number
    (bh, high), (bs, strong) = m.length(40, 60), m.length(9, 13)
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (-wide / 2, 0), (wide / 2, high))
    e = d.entities
    origin = d.point(0, 0)
    d.add("fixed", origin)
    d.add("horizontal", origin, e[sides[0]].points[0])
    d.add("distance", sides[0], value=f"#{bw}")
    d.add("distance", sides[1], value=f"#{bh}")
    d.add("across_x", e[sides[0]].points[0], origin, value=f"#{bw} / 2")
    m.part = ls.sketch(m.part, d, ls.DatumPlane(plane="XZ", offset=f"-#{bd} / 2"))
    m.part = ls.extrude(m.part, m.part.steps[-1].number, f"#{bs}", side="back")
    wall = m.part.steps[-1].number
    top = f"{foot}/end"
    x = m.size(wide * 0.25, wide * 0.32)
    bx, by = m.note(m.text(x)), m.note(m.text(m.size(6, 12)))
    b, step = m.hole(top, ls.Table(rows=((f"#{bx}", f"-#{by}"),)), 2, 10, thick, thick)
    if m.lie("mirror forgotten", b):
        return
    m.step("mirror", steps=(step,), plane="YZ")
    bz = m.note(m.text(m.size(high * 0.45, high * 0.6)))
    d = ls.Draft()
    origin, p = d.point(0, 0), d.point(0, high * 0.5)
    d.add("fixed", origin)
    d.add("vertical", origin, p)
    d.add("across_y", origin, p, value=f"#{bz}")
    m.part = ls.sketch(m.part, d, ls.FacePlane(face=f"{wall}/end"))
    points = m.part.steps[-1].number
    drilled = m.size(8, 14)
    bo = m.note(f"Ø{m.text(drilled)} THRU")
    more: dict[str, object] = {}
    if m.lie("stops within the wall", bo):
        more = {"depth": m.expr(strong * 0.7), "point": None}
    m.step("hole", face=f"{wall}/end", diameter=f"#{bo}", places=ls.SketchPoints(sketch=points, points=(p,)), **more)
    if r.random() < 0.6:
        f, _size = m.length(3, 6, "R{}")
        edge = next(
            (e for e in ls.build(m.part).edges if f"{foot}/end|{wall}/" in e and ("start" in e or "end" in e)), None
        )
        if edge is not None:
            bigger = m.off(1.2) if m.lie("corner's radius", f) else ""
            m.step("fillet", radius=f"#{f}{bigger}", pick=ls.EdgePick(edges=(edge,)))
        else:
            m.part = ls.change_callout(m.part, f, reference=True)


def block(m: Maker) -> None:
    """A block with pockets on two faces, tapped holes, a row of holes repeated by a pattern."""
    r = m.r
    (bw, wide), (bd, deep), (bt, thick) = m.length(80, 110), m.length(60, 80), m.length(28, 40)
    n = m.rectangle(wide, deep, bw, bd)
    m.part = ls.extrude(m.part, n, f"#{bt}")
    body = m.part.steps[-1].number
    _pocket(m, f"{body}/end", wide, deep, thick * 0.6)
    if m.told[0] == "rim of the pocket milled off":
        return
    # a row of holes by a pattern, on the front
    count = r.randint(3, 4)
    spacing = m.size(15, 18)
    bs = m.note(f"{count - 1}X {m.text(spacing)} (={m.text(spacing * (count - 1))})")
    made = m.size(4, 6)
    down = m.size(9, 14)
    b = m.note(f"{count}X Ø{m.text(made)} ↧{m.text(down)}")
    front = f"{body}/l1"
    step = m.step("hole", face=front, diameter=f"#{b}", depth=f"#{b + 1}",
                  places=ls.Table(rows=((m.expr(-spacing), m.expr(thick / 2)),)))  # fmt: skip
    many = count - 1 if m.lie("one copy too few", b) else count
    m.step("pattern", steps=(step,), layout={"kind": "row", "along": "X", "spacing": f"#{bs}", "count": many})
    if m.lie("pocket around a blind hole", b + 1):
        d = ls.Draft()
        ls.shapes.rectangle(d, (-wide, 0), (wide, thick * 2))
        m.part = ls.sketch(m.part, d, ls.FacePlane(face=front))
        m.part = ls.extrude(m.part, m.part.steps[-1].number, m.expr(1.6), side="back", mode="cut")
        return
    tapped, pitch = r.choice([("M6", 1.0), ("M8", 1.25), ("M8x1", 1.0)])
    if m.unit == "in":
        tapped, pitch = "1/4-20 UNC", 1.27
    long = m.size(9, 12)
    klass = "-2B" if m.unit == "in" else "-6H"
    b = m.note(f"2X {tapped}{klass} ↧{m.text(long)}")
    held = tapped
    if m.lie("tapped with another pitch", b):
        held = {"M6": "M6x0.75", "M8": "M8x1", "M8x1": "M8", "1/4-20 UNC": "1/4-28 UNF"}[tapped]
    if m.lie("tapped left-handed", b):
        held += " LH"
    size = f"#{b + 1}" + (m.off(-2.5).replace("+ -", "- ") if m.lie("thread too short", b + 1) else "")
    x = m.expr(wide * 0.38)
    rows: tuple[tuple[str, str], ...] = ((x, m.expr(0)), (f"-{x}", m.expr(0)))
    if m.lie("one tapped hole for two", b):
        rows = rows[:1]
    m.step("hole", face=f"{body}/end", diameter="", depth=f"#{b + 1} + {m.expr(5 * pitch)}", thread=held,
           thread_depth=size, places=ls.Table(rows=rows))  # fmt: skip


FAMILIES: dict[str, Callable[[Maker], None]] = {
    "turned": turned, "plate": plate, "flange": flange, "bracket": bracket, "block": block,
}  # fmt: skip


def truth(seed: int) -> Case:
    """A part that is as noted."""
    family = sorted(FAMILIES)[seed // 2 % len(FAMILIES)]
    m = Maker(seed, family, None)
    FAMILIES[family](m)
    return Case(family, m.part)


def lie(seed: int) -> Case:
    """The same part with one duty broken."""
    family = sorted(FAMILIES)[seed // 2 % len(FAMILIES)]
    m = Maker(seed, family, None)
    FAMILIES[family](m)
    chosen = random.Random(seed * 7919 + 1).randrange(m.occasions)
    m = Maker(seed, family, chosen)
    FAMILIES[family](m)
    kind, balloons = m.told
    return Case(family, m.part, kind, balloons)
