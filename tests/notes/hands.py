"""The grammar turned round: a meaning first, then the many ways in which hands write it, with noise.

``spelling(random)`` gives a note, the unit of its sheet, and what it means, as ``note --json`` tells it. The meaning is
drawn first and never read back from the note: it is the oracle. ``noise`` changes what must not change the meaning
(case, gaps, look-alikes) or what must be seen (a word that no clause owns).
"""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any

MM_PER_INCH = 25.4
Meant = list[dict[str, Any]]
Note = tuple[str, str, Meant]

SIGNS = ("⌀", "Ø", "ø ", "∅", "%%c", "DIA ", "φ", "dia. ")
CROSSES = (" x ", " X ", "x", "X", " × ", "×")
DEPTHS = (" ↧{}", " x {} DEEP", " {} DEEP", " X {} DP", " DEPTH {}", " x {} DEEP.", " - {} DEEP", ", {} DEEP", "\n↧{}")
THRUS = (" THRU", " THROUGH", " THRU ALL", " thru", " THRO'")
BEFORE = ("{}X ", "{}x ", "{} HOLES ", "({}) ", "{}-", "{} OFF ", "QTY {} ", "{} X ")
BEHIND = (" {} HOLES", ", {} HOLES", " - {} HOLES", " {} PLACES", " ({} HOLES)", " {} PLCS", " - {} PLACES", " {} PL")
CIRCLES = (
    " ON {0}{1} BC",
    " ON A {1} PCD",
    " ON PCD {1}",
    " EQ SP ON {0}{1} B.C.",
    ", EQUALLY SPACED ON {0}{1} BOLT CIRCLE",
    " PCD {1}",
    " ON {1} P.C.D.",
)
CBORES = (
    " ⌴ {0}{1} ↧{2}",
    ", CBORE {0}{1} x {2} DEEP",
    " C'BORE {1} DIA x {2} DP",
    "\n⌴ {0}{1} ↧{2}",
    " COUNTERBORE {0}{1} X {2}",
)
SINKS = (
    " ⌵ {0}{1} X {2}°",
    ", CSK {0}{1} x {2}°",
    " {2}° CSK TO {0}{1}",
    " C'SINK {1} DIA x {2}°",
    "\n⌵ {0}{1} {2}°",
    " CSK {2}° x {0}{1}",
    " COUNTERSINK {0}{1} x {2} DEG INCL",
)
CHAMFERS = ("{0} x 45°", "{0}x45°", "{0} X 45° CHAM", "CHAMFER {0} x 45°", "45° x {0}", "{0} CHAMFER", "C{0}")
STRANGE = ("FROBNICATE", "17", "SEE MR X", "0.35", "PER SPEC", "Z9", "%", "4.2 mm", "??")


class Hand:
    """One hand at one note: how it writes numbers, signs and tolerances."""

    def __init__(self, rnd: random.Random) -> None:
        self.rnd = rnd
        self.unit = "in" if rnd.random() < 0.3 else "mm"
        self.sign = rnd.choice(SIGNS)
        self.point = "," if self.unit == "mm" and rnd.random() < 0.15 else "."

    def one(self, *ways: Any) -> Any:
        return self.rnd.choice(ways)

    def size(self, low: float, high: float) -> tuple[str, float]:
        """A number as it is written, and mm."""
        if self.unit == "in":
            value = round(self.rnd.uniform(low, high) / MM_PER_INCH, 3) or 0.125
            text = f"{value:.3f}"
            return (text.lstrip("0") if value < 1 and self.rnd.random() < 0.7 else text), value * MM_PER_INCH
        value = round(self.rnd.uniform(low, high), self.rnd.choice((0, 1, 1, 2))) or 1.0
        text = f"{value:g}".replace(".", self.point)
        return text, value

    def tolerance(self, value: float) -> tuple[str, dict[str, float]]:
        """Limits behind a size: their text and what they mean; none at times."""
        rnd, inch = self.rnd, self.unit == "in"
        k = MM_PER_INCH if inch else 1.0
        most = min(0.04 * value / k, 0.3)
        a, b = (round(rnd.uniform(0.1 * most, most), 3) or 0.001 for _ in range(2))
        sa, sb = ((f"{v:g}".replace(".", self.point)) for v in (a, b))
        gap, slash = rnd.choice(("", " ")), rnd.choice(("/", " / ", " "))
        up, down = value + a * k, value - b * k
        ways: list[tuple[str, float, float]] = [
            (f"{gap}±{gap}{sa}", value - a * k, value + a * k),
            (f" +/-{gap}{sa}", value - a * k, value + a * k),
            (f" +{sa}{slash}-{sb}", down, up),
            (f" +{sa}{slash}-0", value, up),
            (f" +{sa}/0", value, up),
            (f" 0/-{sb}", down, value),
            (f" -{sb}", down, value),
            (f" +{sa}", value, up),
            (f"\n+{sa}\n-{sb}", down, up),
        ]
        if a != b:
            low, high = sorted((a, b))
            s_low, s_high = (f"{v:g}".replace(".", self.point) for v in (low, high))
            ways += [
                (f" -{s_low}/-{s_high}", value - high * k, value - low * k),
                (f" +{s_high}/+{s_low}", value + low * k, value + high * k),
            ]
        text, lo, hi = rnd.choice(ways)
        return text, {"low_mm": lo, "high_mm": hi}

    def maybe(self, value: float, share: float = 0.4) -> tuple[str, dict[str, float]]:
        return self.tolerance(value) if self.rnd.random() < share else ("", {})


def _hole(h: Hand) -> Note:
    text, d = h.size(2, 30)
    tolerance, limits = h.maybe(d, 0.25)
    count = h.rnd.choice((None, 2, 3, 4, 6, 8, 12))
    meant: dict[str, Any] = {"kind": "hole", "count": count or 1, "diameter_mm": d, **limits}
    note = h.sign + text + tolerance if h.rnd.random() < 0.85 else f"{text} DIA{tolerance}"
    drilled = not tolerance and h.rnd.random() < 0.15
    note = (
        h.one(f"{text} DRILL", f"DRILL {h.sign}{text}", f"DRILL {text}", f"{h.sign}{text} DRILL") if drilled else note
    )
    if h.rnd.random() < 0.5:
        note += h.rnd.choice(THRUS)
        meant["through"] = True
        deep = None
    else:
        deep_text, deep = h.size(1.2 * d, 4 * d)
        tol, lim = h.maybe(deep, 0.2)
        way = h.rnd.choice(DEPTHS)
        note += way.format(deep_text + (tol if "\n" not in tol else ""))
        meant |= {"through": False, "depth_mm": deep, "depth_to": "shoulder", "point_deg": 118.0}
        if tol and "\n" not in tol:
            meant |= {f"depth_{k}": v for k, v in lim.items()}
    entry = h.rnd.random()
    if entry < 0.25:
        wide_text, wide = h.size(1.6 * d, 2.4 * d)
        sunk_text, sunk = h.size(0.2 * d, 0.9 * d)
        note += h.rnd.choice(CBORES).format(h.sign, wide_text, sunk_text)
        meant["cbore"] = {"diameter_mm": wide, "depth_mm": sunk}
    elif entry < 0.5:
        wide_text, wide = h.size(1.6 * d, 2.4 * d)
        angle = h.one(82, 90, 100, 120)
        note += h.rnd.choice(SINKS).format(h.sign, wide_text, angle)
        meant["csk"] = {"diameter_mm": wide, "angle_deg": angle}
    if count and h.rnd.random() < 0.3:
        circle_text, circle = h.size(3 * d, 12 * d)
        note += h.rnd.choice(CIRCLES).format(h.sign, circle_text)
        meant |= {"bolt_circle_mm": circle, "pattern": {"kind": "circle", "count": count, "diameter_mm": circle}}
        note = h.rnd.choice(BEFORE).format(count) + note
    elif count:
        before = h.rnd.random() < 0.6
        way = h.rnd.choice(BEFORE if before else BEHIND).format(count)
        if before and way.endswith("-") and not note.startswith(h.sign):
            way = f"{count}X "
        note = way + note if before else note + way
    return note, h.unit, [meant]


def _diameter(h: Hand) -> Note:
    text, d = h.size(3, 90)
    tolerance, limits = h.maybe(d)
    note = h.one(f"{h.sign}{text}{tolerance}", f"{text} DIA{tolerance}", f"{h.sign}{text}{tolerance}")
    return _counted(h, note, {"kind": "diameter", "diameter_mm": d, **limits})


def _radius(h: Hand) -> Note:
    text, r = h.size(1, 40)
    tolerance, limits = h.maybe(r)
    return _counted(h, f"{h.one('R', 'R ', 'RAD ')}{text}{tolerance}", {"kind": "radius", "size_mm": r, **limits})


def _counted(h: Hand, note: str, meant: dict[str, Any]) -> Note:
    if h.rnd.random() < 0.35:
        n = h.one(2, 3, 4)
        way = h.one("{n}X {t}", "{n}x {t}", "{t} {n} PLACES", "{t} - {n} PLACES", "{t} {n} PLCS", "({n}X) {t}")
        return way.format(n=n, t=note), h.unit, [{**meant, "count": n}]
    return note, h.unit, [meant]


def _length(h: Hand) -> Note:
    text, size = h.size(4, 300)
    tolerance, limits = h.maybe(size, 0.6)
    meant: dict[str, Any] = {"kind": "length", "size_mm": size, **limits}
    if not tolerance:
        way, more = h.one(
            ("{}", {}),
            ("({})", {"reference": True}),
            ("{} REF", {"reference": True}),
            ("[{}]", {"basic": True}),
            ("{} BSC", {"basic": True}),
            ("{} MAX", {"low_mm": 0.0, "high_mm": size}),
            ("{} TYP", {}),
            ("{} MIN", {"low_mm": size}),
            ("2X {}", {"count": 2}),
            ("3X {}", {"count": 3}),
            ("{} SQ", {"square": True}),
            ("□{}", {"square": True}),
            ("{} A/F", {"hexagon": True}),
            ("HEX {}", {"hexagon": True}),
        )
        return way.format(text), h.unit, [{**meant, **more}]
    return text + tolerance, h.unit, [meant]


def _angle(h: Hand) -> Note:
    value = h.one(10, 12.5, 15, 22, 30, 60, 75, 118)
    meant: dict[str, Any] = {"kind": "angle", "angle_deg": value}
    way, low, high = h.one(
        ("", None, None),
        (" ±1°", -1, 1),
        (" ± 0.5°", -0.5, 0.5),
        ("±30'", -0.5, 0.5),
        (" +1°/-0°", 0, 1),
        (" +1/-0.5", -0.5, 1),
    )
    if low is not None:
        meant |= {"low_deg": value + low, "high_deg": value + high}
    note = f"{value:g}{h.one('°', ' DEG', ' deg.')}" if not way else f"{value:g}°{way}"
    if h.rnd.random() < 0.25:
        return f"4X {note}", h.unit, [{**meant, "count": 4}]
    return note, h.unit, [meant]


def _chamfer(h: Hand) -> Note:
    text, leg = h.size(0.4, 4)
    meant: dict[str, Any] = {"kind": "chamfer", "size_mm": leg, "angle_deg": 45}
    note = h.rnd.choice(CHAMFERS).format(text)
    if h.rnd.random() < 0.3 and not note.startswith("45"):
        return h.one(f"2X {note}", f"{note} 2 PLACES", f"{note} BOTH ENDS"), h.unit, [{**meant, "count": 2}]
    return note, h.unit, [meant]


METRIC = (
    (3, 0.5),
    (4, 0.7),
    (5, 0.8),
    (6, 1),
    (8, 1.25),
    (10, 1.5),
    (12, 1.75),
    (16, 2),
    (20, 2.5),
    (24, 3),
    (30, 3.5),
)
UNIFIED = (
    ("#10-32", "UNF", 4.826, 32),
    ("1/4-20", "UNC", 6.35, 20),
    ("5/16-18", "UNC", 7.9375, 18),
    ("3/8-24", "UNF", 9.525, 24),
    ("1/2-13", "UNC", 12.7, 13),
)


def _thread(h: Hand) -> Note:
    if h.unit == "mm":
        d: float
        p: float
        d, p = h.rnd.choice(METRIC)
        written = h.one(f"M{d}", f"M{d}x{p:g}", f"M{d} x {p:g}", f"M {d}", f"M{d}×{p:g}")
        klass, name = h.one("", "6H"), f"M{d}×{p:g}"
        written += h.one(f"-{klass}", f" - {klass}", f" {klass}") if klass else ""
    else:
        size, series, d, tpi = h.rnd.choice(UNIFIED)
        p, name, klass = MM_PER_INCH / tpi, f"{size} {series}", h.one("", "2B")
        written = h.one(f"{size} {series}", f"{size}{series}", f"{size.replace('-', ' - ')} {series}") + (
            f"-{klass}" if klass else ""
        )
    thread: dict[str, Any] = {
        "designation": name + (f"-{klass}" if klass else ""),
        "major_mm": d,
        "pitch_mm": p,
        "hand": "right",
        "internal": True,
    }
    if klass:
        thread["class"] = klass
    meant: dict[str, Any] = {"kind": "thread", "thread": thread}
    way = h.rnd.random()
    deep_text, deep = h.size(1.5 * d, 3 * d)
    if way < 0.3:
        note = h.one(f"{written} THRU", f"TAP {written} THRU", f"{written} TAP THRU")
        meant["through"] = True
    elif way < 0.7:
        note = h.one(
            f"{written} ↧{deep_text}",
            f"{written} x {deep_text} DEEP",
            f"TAP {written} {deep_text} DEEP",
            f"{written} TAP {deep_text} DEEP",
            f"{written} DEPTH {deep_text}",
            f"{written}\n↧{deep_text}",
        )
        thread["depth_mm"] = deep
    else:
        k = 1.0 if h.unit == "mm" else MM_PER_INCH
        number = f"{h.rnd.uniform(0.78, 0.9) * d / k:.3f}"
        drill_text, drill = number.replace(".", h.point), float(number) * k
        hole_text, hole = h.size(3.2 * d, 5 * d)
        note = h.one(
            f"{h.sign}{drill_text} x {hole_text} DEEP\n{written} x {deep_text} DEEP",
            f"DRILL {h.sign}{drill_text} ↧{hole_text}, TAP {written} ↧{deep_text}",
            f"{drill_text} DRILL {hole_text} DEEP, TAP {written} x {deep_text} DEEP",
            f"{written} ↧{deep_text}, DRILL {h.sign}{drill_text} ↧{hole_text}",
        )
        thread["depth_mm"] = deep
        meant |= {"diameter_mm": drill, "depth_mm": hole, "depth_to": "shoulder"}
    if h.rnd.random() < 0.4:
        n = h.one(2, 4, 6)
        return (
            h.one(f"{n}X {note}", f"{note}, {n} HOLES", f"{note} {n} PLACES", f"{note} - {n} PLACES"),
            h.unit,
            [{**meant, "count": n}],
        )
    return note, h.unit, [meant]


def _feature(h: Hand) -> Note:
    wide_text, wide = h.size(3, 12)
    deep_text, deep = h.size(1, 2.9)
    long_text, long = h.size(20, 60)
    kind = h.one("keyway", "groove", "slot")
    if kind == "keyway":
        note = h.one(
            f"KEYWAY {wide_text} WIDE x {deep_text} DEEP x {long_text} LONG",
            f"KEYWAY {wide_text} x {deep_text} x {long_text}",
            f"{wide_text} WIDE x {deep_text} DEEP KEYWAY x {long_text} LONG",
            f"KEYSEAT {wide_text} WIDE, {deep_text} DEEP, {long_text} LG",
        )
        return note, h.unit, [{"kind": kind, "keyway": {"width_mm": wide, "depth_mm": deep, "length_mm": long}}]
    if kind == "groove":
        note = h.one(
            f"GROOVE {wide_text} WIDE x {deep_text} DEEP",
            f"{wide_text} WIDE x {deep_text} DEEP GROOVE",
            f"{wide_text} x {deep_text} GROOVE",
            f"GROOVE {wide_text} x {deep_text}",
        )
        return note, h.unit, [{"kind": kind, "groove": {"width_mm": wide, "depth_mm": deep}}]
    note = h.one(
        f"SLOT {wide_text} x {long_text}",
        f"{wide_text} WIDE x {long_text} LONG SLOT",
        f"SLOT {wide_text} WIDE x {long_text} LONG",
    )
    slot: dict[str, Any] = {"width_mm": wide, "length_mm": long, "over": "all"}
    if h.rnd.random() < 0.5:
        note, slot["through"] = note + " THRU", True
    return note, h.unit, [{"kind": kind, "slot": slot}]


def _rule(h: Hand) -> Note:
    text, r = h.size(0.5, 6)
    what, words = h.one(
        ("fillet and round", "FILLETS & ROUNDS R{}"),
        ("fillet and round", "ALL UNMARKED RADII R{}"),
        ("fillet", "ALL FILLETS R{}"),
        ("round", "ALL CORNERS R{}"),
        ("break", "BREAK EDGES {} MAX"),
        ("break", "BREAK ALL SHARP EDGES {} MAX"),
    )
    rule: dict[str, Any] = {"what": what, "size_mm": r, "where": "every edge not named elsewhere"}
    if what == "break":
        rule["at_most"] = True
    number = h.one("", "", "1. ", "3) ", "NOTE 2. ")
    return number + words.format(text), h.unit, [{"kind": "general", "rule": rule}]


def _frame(h: Hand) -> Note:
    text, t = h.size(0.05, 0.9)
    sign, name, words = h.one(
        ("⌖", "position", "TRUE POSITION"),
        ("⟂", "perpendicularity", "PERPENDICULARITY"),
        ("∥", "parallelism", "PARALLELISM"),
        ("◎", "concentricity", "CONCENTRICITY"),
        ("↗", "runout", "RUNOUT"),
    )
    frame: dict[str, Any] = {"characteristic": name, "tolerance_mm": t, "datums": ("A", "B")}
    if h.rnd.random() < 0.4:
        return f"{h.one(sign, words)} ⌀{text} A B", h.unit, [{"kind": "frame", "frame": {**frame, "diametral": True}}]
    return (
        h.one(f"{sign} {text} A B", f"|{sign}|{text}|A|B|", f"{words} {text} A B"),
        h.unit,
        [{"kind": "frame", "frame": frame}],
    )


KINDS: tuple[Callable[[Hand], Note], ...] = (
    _hole,
    _hole,
    _hole,
    _hole,
    _diameter,
    _radius,
    _length,
    _length,
    _angle,
    _chamfer,
    _thread,
    _thread,
    _feature,
    _rule,
    _frame,
)


def spelling(rnd: random.Random) -> Note:
    """A note in one hand: text, unit, meaning."""
    hand = Hand(rnd)
    text, unit, meant = rnd.choice(KINDS)(hand)
    return quiet_noise(text, rnd), unit, meant


def quiet_noise(text: str, rnd: random.Random) -> str:
    """Case, gaps and look-alikes: nothing that changes the meaning."""
    if rnd.random() < 0.15:
        text = "".join(c.lower() if c.isascii() and c.isalpha() and c not in "MHGCRABTX" else c for c in text)
    if rnd.random() < 0.15:
        text = text.replace(" ", "\u00a0").replace("-", "−")
    if rnd.random() < 0.1:
        text = text.replace("X", "Х").replace("M", "М").replace("C", "С")  # Cyrillic
    if rnd.random() < 0.1:
        text = text.translate({ord(c): ord(c) + 0xFEE0 for c in "0123456789"})
    return text


def loud_noise(text: str, rnd: random.Random) -> str:
    """With a word or number that no clause owns, at its end or on a line of its own."""
    return text + rnd.choice((" ", "\n", ", ")) + rnd.choice(STRANGE)
