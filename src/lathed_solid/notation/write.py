"""The canonical note of a meaning: what ``read_note`` reads back to the same clauses.

Numbers carry as many places as they need and no more; a clause's own limits are written as the fit it has, or as two
deviations.
"""

from __future__ import annotations

from lathed_solid.notation.clauses import Clause, Entry, Meaning
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH

PLACES = 6
#: kinds whose count is read before them
COUNTED_BEFORE = ("hole", "diameter", "radius", "thread", "chamfer", "fillet")


def write_note(meaning: Meaning) -> str:
    """All clauses of a meaning, a line for each."""
    return "\n".join(write_clause(c, meaning.unit) for c in meaning.clauses)


def write_clause(c: Clause, unit: LengthUnit) -> str:
    """One clause on a sheet in ``unit``."""
    pen = _Pen(unit)
    text: str = getattr(pen, "angle_of" if c.kind == "angle" else c.kind)(c)
    before = c.kind in COUNTED_BEFORE or bool(c.pattern)
    count = (
        "" if not c.count or (c.count == 1 and c.kind == "hole") else f"{c.count}X " if before else f" {c.count} PLACES"
    )
    text = count + text if before else text + count
    return text + (" REF" if c.reference else "")


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
        if size is None or (c.low_mm is None and c.high_mm is None):
            return ""
        if c.high_mm is None:
            return " MIN"
        if c.low_mm == 0 and c.high_mm == size:
            return " MAX"
        low, high = (0.0 if v is None else v - size for v in (c.low_mm, c.high_mm))
        return f" {self._signed(high)}/{self._signed(low)}"

    def _signed(self, deviation: float) -> str:
        return ("-" if deviation < 0 else "+") + self.number(abs(deviation))

    # sizes -------------------------------------------------------------------------------------
    def diameter(self, c: Clause) -> str:
        if c.spotface:
            return f"SF ⌀{self.number(c.diameter_mm)}" + self._depth(c.spotface)
        pattern = " EQ SP" if c.pattern else ""
        return f"{'S' if c.spherical else ''}⌀{self.number(c.diameter_mm)}{self.limits(c, c.diameter_mm)}{pattern}"

    def radius(self, c: Clause) -> str:
        return f"{'S' if c.spherical else ''}R{self.number(c.size_mm)}{self.limits(c, c.size_mm)}"

    def length(self, c: Clause) -> str:
        total = f" (={self.number(c.pattern.total_mm)})" if c.pattern and c.pattern.total_mm else ""
        return f"{'□' if c.square else ''}{self.number(c.size_mm)}{self.limits(c, c.size_mm)}{total}"

    def angle_of(self, c: Clause) -> str:
        text = self.angle(c.angle_deg)
        if c.low_deg is None or c.high_deg is None or c.angle_deg is None:
            return text
        return f"{text} ± {self.angle(c.high_deg - c.angle_deg)}"

    def chamfer(self, c: Clause) -> str:
        if c.second_mm is not None:
            return f"CHAMFER {self.number(c.size_mm)} X {self.number(c.second_mm)}"
        return f"CHAMFER {self.number(c.size_mm)}{self.limits(c, c.size_mm)} X {self.angle(c.angle_deg)}"

    def fillet(self, c: Clause) -> str:
        return f"FILLET R{self.number(c.size_mm)}{self.limits(c, c.size_mm)}"

    # holes and threads -------------------------------------------------------------------------
    def hole(self, c: Clause) -> str:
        text = f"⌀{self.number(c.diameter_mm)}{self.limits(c, c.diameter_mm)}"
        text += " THRU" if c.through else f" ↧{self.number(c.depth_mm)}" + (" TO TIP" if c.depth_to == "tip" else "")
        return text + self.entries(c) + self.places(c)

    def entries(self, c: Clause) -> str:
        text = ""
        if c.cbore:
            text += f" ⌴ ⌀{self.number(c.cbore.diameter_mm)} ↧{self.number(c.cbore.depth_mm)}"
        if c.cdrill:
            angle = f" X {self.angle(c.cdrill.angle_deg)}" if c.cdrill.angle_deg else ""
            text += f" CDRILL ⌀{self.number(c.cdrill.diameter_mm)} ↧{self.number(c.cdrill.depth_mm)}{angle}"
        if c.csk:
            text += f" ⌵ ⌀{self.number(c.csk.diameter_mm)} X {self.angle(c.csk.angle_deg)}"
        if c.spotface:
            text += f" SF ⌀{self.number(c.spotface.diameter_mm)}" + self._depth(c.spotface)
        return text

    def _depth(self, entry: Entry) -> str:
        return f" ↧{self.number(entry.depth_mm)}" if entry.depth_mm is not None else ""

    def places(self, c: Clause) -> str:
        if c.bolt_circle_mm:
            return f" ON ⌀{self.number(c.bolt_circle_mm)} BC"
        return " EQ SP" if c.pattern else ""

    def thread(self, c: Clause) -> str:
        t = c.thread
        assert t is not None
        text = t.designation + (" LH" if t.hand == "left" else "")
        if t.internal:
            text += " THRU" if c.through else " INT"
            text += f" ↧{self.number(t.depth_mm)}" if t.depth_mm is not None else ""
        else:
            text += " EXT" + (f" x {self.number(t.depth_mm)}" if t.depth_mm is not None else "")
        if c.diameter_mm is not None or c.depth_mm is not None:
            text += " DRILL" + (f" ⌀{self.number(c.diameter_mm)}" if c.diameter_mm is not None else "")
            text += f" ↧{self.number(c.depth_mm)}" if c.depth_mm is not None else ""
            text += " TO TIP" if c.depth_to == "tip" else ""
        return text + self.entries(c) + self.places(c)

    # turned parts and general notes ------------------------------------------------------------
    def taper(self, c: Clause) -> str:
        return f"TAPER 1:{c.taper.ratio:.9g}" if c.taper else "TAPER"

    def groove(self, c: Clause) -> str:
        g = c.groove
        assert g is not None
        if g.form:
            return f"UNDERCUT {g.form}{g.radius_mm:.9g}x{g.depth_mm:.9g}"
        text = ("CIRCLIP " if g.ring else "") + f"GROOVE {self.number(g.width_mm)} WIDE"
        text += f" X ⌀{self.number(g.diameter_mm)}" if g.diameter_mm is not None else ""
        text += f" X {self.number(g.depth_mm)} DEEP" if g.depth_mm is not None else ""
        return text + (f" R{self.number(g.radius_mm)}" if g.radius_mm is not None else "")

    def keyway(self, c: Clause) -> str:
        k = c.keyway
        assert k is not None
        text = f"KEYWAY {self.number(k.width_mm)}" + (f" {k.fit}" if k.fit else "") + " WIDE"
        text += f" X {self.number(k.depth_mm)} DEEP" if k.depth_mm is not None else ""
        return text + (f" X {self.number(k.length_mm)} LONG" if k.length_mm is not None else "")

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
        return f"{words[r.what]} {size}{angle}" + (" MAX" if r.at_most else "")
