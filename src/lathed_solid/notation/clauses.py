"""What a drawing note means: clauses, each one thing to make or to hold.

Lengths in mm, angles in degrees here (they are what the note says); ``low_mm`` and ``high_mm`` are the
limits when the note carries a tolerance, measured as the clause's own size is.
"""

from __future__ import annotations

from typing import Any, Literal

from lathed_solid.record import Record

ClauseKind = Literal[
    "hole",
    "diameter",
    "radius",
    "length",
    "angle",
    "chamfer",
    "fillet",
    "thread",
    "general",
    "taper",
    "groove",
    "keyway",
    "centre",
    "knurl",
    "slot",
    "frame",
    "datum",
    "texture",
    "widening",
    "instruction",
    "feature",
]


#: the included angle of a usual drill's point, and of a hole that ends flat
DRILL_POINT_DEG = 118.0
FLAT_DEG = 180.0
#: a countersink's angle up to this could be that from its axis, degrees; as its included one it says INCL
FROM_AXIS_DEG = 45.0


#: how it is told that a widening is on both sides of its hole
BOTH_SIDES = "on both sides"


class Entry(Record):
    """A counterbore (diameter, depth) or a countersink (diameter, included angle)."""

    diameter_mm: float | None = None
    depth_mm: float | None = None
    angle_deg: float | None = None
    diameter_low_mm: float | None = None
    diameter_high_mm: float | None = None
    depth_low_mm: float | None = None
    depth_high_mm: float | None = None
    low_deg: float | None = None
    high_deg: float | None = None
    #: places written behind the point of each, for a title block that goes by them
    diameter_decimals: int | None = None
    depth_decimals: int | None = None


class Thread(Record):
    """A thread as a note states it; lengths in mm."""

    designation: str
    major_mm: float
    pitch_mm: float
    thread_class: str | None = None
    hand: Literal["right", "left"] = "right"
    internal: bool | None = None
    depth_mm: float | None = None
    starts: int | None = None
    depth_low_mm: float | None = None
    depth_high_mm: float | None = None


class Pattern(Record):
    """Like places: equally spaced on a full circle, or a row (spacing, total length)."""

    kind: Literal["circle", "row"]
    count: int | None = None
    diameter_mm: float | None = None
    spacing_mm: float | None = None
    total_mm: float | None = None


class Taper(Record):
    """``ratio`` is n of 1:n on the diameter."""

    ratio: float


class Detail(Record):
    """The limits of a detail's sizes; ``fit`` is that of its width."""

    fit: str | None = None
    width_low_mm: float | None = None
    width_high_mm: float | None = None
    depth_low_mm: float | None = None
    depth_high_mm: float | None = None
    length_low_mm: float | None = None
    length_high_mm: float | None = None

    def told(self, name: str) -> tuple[float | None, str | None, float | None, float | None]:
        """Size, class and limits of its ``width``, ``depth``, ``length`` or ``diameter``."""
        fit = "fit" if name == "width" else f"{name}_fit"
        size, own, low, high = (
            getattr(self, n, None) for n in (f"{name}_mm", fit, f"{name}_low_mm", f"{name}_high_mm")
        )
        return size, own, low, high


class Groove(Detail):
    """A groove by width and the diameter of its bottom or its depth; ``form`` E or F is an undercut of DIN 509."""

    width_mm: float | None = None
    diameter_mm: float | None = None
    diameter_fit: str | None = None
    diameter_low_mm: float | None = None
    diameter_high_mm: float | None = None
    depth_mm: float | None = None
    radius_mm: float | None = None
    form: Literal["E", "F"] | None = None
    ring: bool | None = None


class Keyway(Detail):
    """A keyway as a note states it; what it does not say is None."""

    width_mm: float
    depth_mm: float | None = None
    length_mm: float | None = None


class Slot(Detail):
    """A slot: its width, its length over all or between the centres of its ends (none where it is open, or told
    elsewhere), its depth or through.
    """

    width_mm: float
    length_mm: float | None = None
    over: Literal["all", "centres"] = "all"
    depth_mm: float | None = None
    through: bool | None = None


class Frame(Record):
    """A tolerance of form, direction or place (ISO 1101, ASME Y14.5): ``datums`` in their order."""

    characteristic: str
    tolerance_mm: float
    diametral: bool | None = None
    material: Literal["M", "L"] | None = None
    datums: tuple[str, ...] = ()


class Texture(Record):
    """The texture of a surface (ISO 21920): a parameter and its limit, um."""

    parameter: str
    limit_um: float


class Centre(Record):
    """A centre hole of ISO 6411: form A, B or R."""

    form: Literal["A", "B", "R"]
    pilot_mm: float
    countersink_mm: float | None = None


class Knurl(Record):
    """DIN 82: RAA straight, RGE crossed raised, and so on."""

    form: str
    pitch_mm: float


class Rule(Record):
    """A general note: what is done to every edge of a kind that has no dimension of its own."""

    what: Literal["fillet", "round", "fillet and round", "break", "chamfer"]
    size_mm: float
    angle_deg: float | None = None
    at_most: bool | None = None
    low_mm: float | None = None
    high_mm: float | None = None
    where: Literal["every edge not named elsewhere"] = "every edge not named elsewhere"


class Instruction(Record):
    """What a sheet says that no size of the part is asked for by: ``text`` as it stands there.

    ``material``: its name; ``unit``: of the sheet; of a general tolerance the class of ISO 2768-1 by its ``letter``, or
    plus and minus on all lengths (mm) and angles (degrees), or ``by_places``: (places behind the point, mm), the places
    of a size that is written as a fraction -1; ``unit`` then is that of the block where it is not the sheet's.
    """

    what: Literal["material", "general tolerance", "unit", "work", "sheet"]
    text: str
    material: str | None = None
    unit: Literal["mm", "in"] | None = None
    letter: Literal["f", "m", "c", "v"] | None = None
    plus_minus_mm: float | None = None
    angle_deg: float | None = None
    by_places: tuple[tuple[int, float], ...] | None = None


class Feature(Record):
    """A feature that is kept and shown as the sheet has it, and not judged: its first size, mm, and its words."""

    name: Literal["V groove", "T slot", "dovetail", "Woodruff keyway", "spline", "serration", "thread insert"]
    size_mm: float
    text: str


class Clause(Record):
    """One meaning. Fields that do not apply are None; ``as_json`` leaves them out."""

    kind: ClauseKind
    count: int | None = None
    diameter_mm: float | None = None
    through: bool | None = None
    depth_mm: float | None = None
    depth_to: Literal["shoulder", "tip"] | None = None
    point_deg: float | None = None
    cbore: Entry | None = None
    csk: Entry | None = None
    spotface: Entry | None = None
    cdrill: Entry | None = None
    thread: Thread | None = None
    bolt_circle_mm: float | None = None
    pattern: Pattern | None = None
    taper: Taper | None = None
    groove: Groove | None = None
    keyway: Keyway | None = None
    centre: Centre | None = None
    knurl: Knurl | None = None
    rule: Rule | None = None
    slot: Slot | None = None
    frame: Frame | None = None
    texture: Texture | None = None
    datum: str | None = None
    instruction: Instruction | None = None
    feature: Feature | None = None
    size_mm: float | None = None
    second_mm: float | None = None
    square: bool | None = None
    spherical: bool | None = None
    angle_deg: float | None = None
    hexagon: bool | None = None
    basic: bool | None = None
    low_mm: float | None = None
    high_mm: float | None = None
    depth_low_mm: float | None = None
    depth_high_mm: float | None = None
    circle_low_mm: float | None = None
    circle_high_mm: float | None = None
    second_low_mm: float | None = None
    second_high_mm: float | None = None
    low_deg: float | None = None
    high_deg: float | None = None
    reference: bool | None = None
    fit: str | None = None
    decimals: int | None = None
    depth_decimals: int | None = None

    def as_json(self) -> dict[str, Any]:
        """As ``note --json`` prints it: only what was stated or assumed."""
        data = without(self.model_dump(exclude_none=True), "decimals", "diameter_decimals", "depth_decimals")
        if self.thread and self.thread.thread_class:
            data["thread"]["class"] = data["thread"].pop("thread_class")
        return data


def without(data: dict[str, Any], *names: str) -> dict[str, Any]:
    """A dump without some fields, at any depth."""
    return {k: without(v, *names) if isinstance(v, dict) else v for k, v in data.items() if k not in names}


class Meaning(Record):
    """A note read: clauses, what was assumed, and the words that were not read."""

    note: str
    unit: Literal["mm", "in"] = "mm"
    clauses: tuple[Clause, ...] = ()
    assumed: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()
    #: where they stand in the note: column (from 1) and length of each that stands there as it is told
    unread_at: tuple[tuple[int, int], ...] = ()
    #: for words that were not read, the nearest that could be
    nearest: tuple[tuple[str, str], ...] = ()
    plain: str = ""

    def as_json(self) -> dict[str, Any]:
        """The stable shape that ``lathed-solid note --json`` prints."""
        return {
            "ok": bool(self.clauses) and not self.unread,
            "plain": self.plain,
            "clauses": [c.as_json() for c in self.clauses],
            "assumed": list(self.assumed),
            "unread": list(self.unread),
            **({"nearest": dict(self.nearest)} if self.nearest else {}),
        }
