"""The canonical note of a meaning: what ``read_note`` reads back to the same clauses.

Numbers carry as many places as they need and no more; a clause's own limits are written as the fit it has, or as two
deviations.
"""

from __future__ import annotations

from lathed_solid.notation.clauses import (
    DRILL_POINT_DEG,
    FLAT_DEG,
    FROM_AXIS_DEG,
    Clause,
    Detail,
    Entry,
    Meaning,
    Thread,
)
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH

PLACES = 6
#: kinds whose count is read before them
COUNTED_BEFORE = ("hole", "diameter", "radius", "thread", "chamfer", "fillet", "slot", "widening")


def write_note(meaning: Meaning) -> str:
    """All clauses of a meaning, a line for each."""
    lines = []
    for place, clause in enumerate(meaning.clauses):
        bare = place > 0 and clause.kind == "length" and not clause.square and not clause.hexagon
        # a bare number beside another clause would be nobody's
        line = write_clause(clause.model_copy(update={"count": None}) if bare else clause, meaning.unit)
        # behind a keyway a length would be its own
        word = " APART" if meaning.clauses[place - 1].kind == "keyway" else " LONG"
        lines.append((f"{clause.count}X " if bare and clause.count else "") + line + (word if bare else ""))
    return "\n".join(lines)


def write_clause(c: Clause, unit: LengthUnit) -> str:
    """One clause on a sheet in ``unit``."""
    pen = _Pen(unit)
    text: str = getattr(pen, "angle_of" if c.kind == "angle" else c.kind)(c)
    before = c.kind in COUNTED_BEFORE or bool(c.pattern)
    count = (
        "" if not c.count or (c.count == 1 and c.kind == "hole") else f"{c.count}X " if before else f" {c.count} PLACES"
    )
    text = count + text if before else text + count
    text += " EQ SP" if c.pattern and c.kind in ("slot", "groove", "keyway") else ""
    return text + (" REF" if c.reference else "") + (" BASIC" if c.basic else "")


class _Pen:
    """Writes in one unit; a method for each kind of clause."""

    def __init__(self, unit: LengthUnit) -> None:
        self.unit = unit

    def number(self, mm: float | None) -> str:
        value = (mm or 0.0) / (MM_PER_INCH if self.unit == "in" else 1.0)
        return f"{value:.{PLACES}f}".rstrip("0").rstrip(".") or "0"

    def angle(self, degrees: float | None) -> str:
        return f"{degrees or 0.0:.{PLACES}f}".rstrip("0").rstrip(".") + "°"

    def limits(self, c: Clause, size: float | None) -> str:
        if c.fit:
            return f" {c.fit}"
        return self.between(size, c.low_mm, c.high_mm)

    def between(self, size: float | None, low: float | None, high: float | None) -> str:
        """Limits of any size, as deviations."""
        if size is None or (low is None and high is None):
            return ""
        if high is None:
            return " MIN"
        if low == 0 and high == size:
            return " MAX"
        under, over = (0.0 if v is None else v - size for v in (low, high))
        return f" {self._signed(over)}/{self._signed(under)}"

    def degrees_between(self, size: float | None, low: float | None, high: float | None) -> str:
        """Limits of an angle, as deviations."""
        if size is None or low is None or high is None:
            return ""
        signs = ("-" if d < 0 else "+" for d in (high - size, low - size))
        values = (self.angle(abs(d)) for d in (high - size, low - size))
        return " " + "/".join(a + b for a, b in zip(signs, values, strict=True))

    def _signed(self, deviation: float) -> str:
        return ("-" if deviation < 0 else "+") + self.number(abs(deviation))

    # sizes -------------------------------------------------------------------------------------
    def diameter(self, c: Clause) -> str:
        pattern = " EQ SP" if c.pattern else ""
        return f"{'S' if c.spherical else ''}⌀{self.number(c.diameter_mm)}{self.limits(c, c.diameter_mm)}{pattern}"

    def radius(self, c: Clause) -> str:
        return f"{'S' if c.spherical else ''}R{self.number(c.size_mm)}{self.limits(c, c.size_mm)}"

    def length(self, c: Clause) -> str:
        total = f" (={self.number(c.pattern.total_mm)})" if c.pattern and c.pattern.total_mm else ""
        total = " EQ SP" if c.pattern and not c.pattern.total_mm else total
        sign = "□" if c.square else "HEX " if c.hexagon else ""
        return f"{sign}{self.number(c.size_mm)}{self.limits(c, c.size_mm)}{total}"

    def angle_of(self, c: Clause) -> str:
        return self.angle(c.angle_deg) + self.degrees_between(c.angle_deg, c.low_deg, c.high_deg)

    def chamfer(self, c: Clause) -> str:
        if c.second_mm is not None:
            first = self.number(c.size_mm) + self.limits(c, c.size_mm)
            second = self.between(c.second_mm, c.second_low_mm, c.second_high_mm)
            return f"CHAMFER {first} X {self.number(c.second_mm)}{second}"
        angle = self.angle(c.angle_deg) + self.degrees_between(c.angle_deg, c.low_deg, c.high_deg)
        return f"CHAMFER {self.number(c.size_mm)}{self.limits(c, c.size_mm)} X {angle}"

    def fillet(self, c: Clause) -> str:
        return f"FILLET R{self.number(c.size_mm)}{self.limits(c, c.size_mm)}"

    # holes and threads -------------------------------------------------------------------------
    def hole(self, c: Clause) -> str:
        text = f"⌀{self.number(c.diameter_mm)}{self.limits(c, c.diameter_mm)}"
        text += " THRU" if c.through else self._deep(c) + (" TO TIP" if c.depth_to == "tip" else "")
        if c.point_deg == FLAT_DEG:
            text += " FLAT BOTTOM"
        elif c.point_deg not in (None, DRILL_POINT_DEG):
            text += f" {self.angle(c.point_deg)} POINT"
        return text + self.entries(c) + self.places(c)

    def widening(self, c: Clause) -> str:
        return self.entries(c).strip()

    def entries(self, c: Clause) -> str:
        text = ""
        if c.cbore:
            text += f" ⌴ {self._wide(c.cbore)}{self._depth(c.cbore)}"
        if c.cdrill:
            angle = f" X {self._leaning(c.cdrill)}" if c.cdrill.angle_deg else ""
            text += f" CDRILL {self._wide(c.cdrill)}{self._depth(c.cdrill)}{angle}"
        if c.csk:
            included = " INCL" if (c.csk.angle_deg or FLAT_DEG) <= FROM_AXIS_DEG else ""  # without it it is asked
            text += f" ⌵ {self._wide(c.csk)} X {self._leaning(c.csk)}{included}{self._depth(c.csk)}"
        if c.spotface:
            text += f" SF {self._wide(c.spotface)}{self._depth(c.spotface)}"
        return text

    def _wide(self, e: Entry) -> str:
        limits = self.between(e.diameter_mm, e.diameter_low_mm, e.diameter_high_mm)
        return f"⌀{self.number(e.diameter_mm)}{limits}"

    def _leaning(self, e: Entry) -> str:
        return self.angle(e.angle_deg) + self.degrees_between(e.angle_deg, e.low_deg, e.high_deg)

    def _depth(self, e: Entry) -> str:
        if e.depth_mm is None:
            return ""
        return f" ↧{self.number(e.depth_mm)}{self.between(e.depth_mm, e.depth_low_mm, e.depth_high_mm)}"

    def _deep(self, c: Clause) -> str:
        return f" ↧{self.number(c.depth_mm)}{self.between(c.depth_mm, c.depth_low_mm, c.depth_high_mm)}"

    def places(self, c: Clause) -> str:
        if c.bolt_circle_mm:
            limits = self.between(c.bolt_circle_mm, c.circle_low_mm, c.circle_high_mm)
            return f" ON ⌀{self.number(c.bolt_circle_mm)}{limits} BC"
        return " EQ SP" if c.pattern else ""

    def thread(self, c: Clause) -> str:
        t = c.thread
        assert t is not None
        text = t.designation + (" LH" if t.hand == "left" else "")
        if t.internal:
            text += " THRU" if c.through else " INT"
            text += f" ↧{self._long(t)}" if t.depth_mm is not None else ""
        else:
            text += " EXT" + (f" x {self._long(t)}" if t.depth_mm is not None else "")
        if c.diameter_mm is not None or c.depth_mm is not None:
            text += " DRILL" + (f" ⌀{self.number(c.diameter_mm)}" if c.diameter_mm is not None else "")
            text += self._deep(c) if c.depth_mm is not None else ""
            text += " TO TIP" if c.depth_to == "tip" else ""
        return text + self.entries(c) + self.places(c)

    def _long(self, t: Thread) -> str:
        return self.number(t.depth_mm) + self.between(t.depth_mm, t.depth_low_mm, t.depth_high_mm)

    # marks --------------------------------------------------------------------------------------
    def slot(self, c: Clause) -> str:
        s = c.slot
        assert s is not None
        over = "LONG" if s.over == "all" else "APART"
        text = f"{self.detail(s, 'width')} WIDE"
        text += f" X {self.detail(s, 'length')} {over}" if s.length_mm is not None else ""
        text += f" X {self.detail(s, 'depth')} DEEP" if s.depth_mm is not None else ""
        return text + " SLOT" + (" THRU" if s.through else "")

    def frame(self, c: Clause) -> str:
        f = c.frame
        assert f is not None
        zone = ("⌀" if f.diametral else "") + self.number(f.tolerance_mm)
        return " ".join([f.characteristic.upper(), zone, *([f"({f.material})"] if f.material else []), *f.datums])

    def datum(self, c: Clause) -> str:
        return f"DATUM {c.datum}"

    def texture(self, c: Clause) -> str:
        t = c.texture
        assert t is not None
        return f"{'RMS' if t.parameter == 'Rq' else t.parameter} {t.limit_um:.9g} um"

    def feature(self, c: Clause) -> str:
        return c.feature.text if c.feature is not None else ""

    def instruction(self, c: Clause) -> str:
        return c.instruction.text if c.instruction is not None else ""

    # turned parts and general notes ------------------------------------------------------------
    def taper(self, c: Clause) -> str:
        return f"TAPER 1:{c.taper.ratio:.9g}" if c.taper else "TAPER"

    def groove(self, c: Clause) -> str:
        g = c.groove
        assert g is not None
        if g.form:
            return f"UNDERCUT {g.form}{g.radius_mm:.9g}x{g.depth_mm:.9g}"
        text = ("CIRCLIP " if g.ring else "") + f"GROOVE {self.detail(g, 'width')} WIDE"
        text += f" X ⌀{self.detail(g, 'diameter')}" if g.diameter_mm is not None else ""
        text += f" X {self.detail(g, 'depth')} DEEP" if g.depth_mm is not None else ""
        return text + (f" R{self.number(g.radius_mm)}" if g.radius_mm is not None else "")

    def keyway(self, c: Clause) -> str:
        k = c.keyway
        assert k is not None
        text = f"KEYWAY {self.detail(k, 'width')} WIDE"
        text += f" X {self.detail(k, 'depth')} DEEP" if k.depth_mm is not None else ""
        return text + (f" X {self.detail(k, 'length')} LONG" if k.length_mm is not None else "")

    def detail(self, d: Detail, name: str) -> str:
        """A detail's size with its class or limits."""
        size, fit, low, high = d.told(name)
        return self.number(size) + (f" {fit}" if fit else self.between(size, low, high))

    def centre(self, c: Clause) -> str:
        h = c.centre
        assert h is not None
        wide = f"/{h.countersink_mm:.9g}" if h.countersink_mm is not None else ""
        return f"CENTRE {h.form}{h.pilot_mm:.9g}{wide}"

    def knurl(self, c: Clause) -> str:
        return f"KNURL {c.knurl.form} {c.knurl.pitch_mm:.9g}" if c.knurl else "KNURL"

    def general(self, c: Clause) -> str:
        r = c.rule
        assert r is not None
        words = {"fillet": "ALL FILLETS", "round": "ALL ROUNDS", "fillet and round": "FILLETS & ROUNDS",
                 "break": "BREAK EDGES", "chamfer": "CHAMFER ALL EDGES"}  # fmt: skip
        size = ("R" if "fillet" in r.what or r.what == "round" else "") + self.number(r.size_mm)
        angle = f" X {self.angle(r.angle_deg)}" if r.angle_deg is not None else ""
        return f"{words[r.what]} {size}{self.between(r.size_mm, r.low_mm, r.high_mm)}{angle}" + (
            " MAX" if r.at_most else ""
        )
