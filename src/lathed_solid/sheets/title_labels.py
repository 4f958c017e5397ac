"""What stands behind or beneath a label of the title block: the part's name, the drawing's number, its revision.

A value stands to the right of its label on one line, or beneath it, aligned at the left (both ways are usual; ISO
7200:2004 leaves it open). Another label is no value, and neither is a dash.
"""

from __future__ import annotations

from collections.abc import Sequence

from lathed_solid.sheets.texts import TextLine

#: labels by what they say
LABELS = {
    **dict.fromkeys(("part", "part name", "name", "title", "drawing title", "description", "component",
                     "benennung", "bezeichnung", "teil", "teilename", "titel"), "name"),
    **dict.fromkeys(("drawing", "drawing no", "drawing number", "drg no", "dwg no", "drg", "dwg", "part no",
                     "part number", "number", "zeichnung", "zeichnungsnummer", "zeichnungs-nr", "zeichnungsnr",
                     "zeichn -nr", "zng -nr", "teilenummer", "teile-nr", "nummer", "sachnummer"), "number"),
    **dict.fromkeys(("revision", "rev", "issue", "iss", "änderung", "änd", "index", "stand"), "revision"),
    "scale": "scale",
    "maßstab": "scale",
}  # fmt: skip
#: labels of other cells
OTHERS = frozenset((
    "material", "matl", "general tolerance", "general tolerances", "tolerance", "tolerances", "mass", "weight", "unit",
    "units", "document", "sheet", "date", "drawn", "drawn by", "checked", "checked by", "approved", "finish",
    "projection", "size", "customer", "company", "quantity", "qty", "dimensions in",
    "werkstoff", "allgemeintoleranz", "allgemeintoleranzen", "masse", "gewicht", "einheit", "dokument",
    "blatt", "datum", "gezeichnet", "bearbeitet", "geprüft", "freigegeben", "oberfläche", "kunde", "firma", "menge",
))  # fmt: skip
#: a value stands no farther than this right of its label, and beneath it between these, in ems; aligned within so much
RIGHT, BENEATH, ALIGNED, LEVEL = 40.0, (0.6, 4.0), 1.0, 0.4
NOUGHT = str.maketrans("⌀Ø", "00")
#: the longest value, characters
MOST = 120


def labelled(lines: Sequence[TextLine]) -> dict[str, str]:
    """name, number, revision and scale, those that are told; of two that differ none."""
    found: dict[str, set[str]] = {}
    level = [line for line in lines if line.angle == 0]
    for line in level:
        what = LABELS.get(_plain(line.text))
        value = None if what is None else _value(line, level)
        if what is not None and value is not None:
            # a crossed nought reads as the sign of a diameter, which no number of a drawing has
            found.setdefault(what, set()).add(value if what == "name" else value.translate(NOUGHT))
    return {what: next(iter(values)) for what, values in found.items() if len(values) == 1}


def _plain(text: str) -> str:
    return " ".join(text.lower().replace(".", " ").split()).strip(" :")


def _value(label: TextLine, lines: Sequence[TextLine]) -> str | None:
    em = label.size
    beside = [(o.u - label.end, o) for o in lines if o is not label and abs(o.v - label.v) < LEVEL * em
              and 0 < o.u - label.end < RIGHT * em]  # fmt: skip
    beneath = [(label.v - o.v, o) for o in lines if abs(o.u - label.u) < ALIGNED * em
               and BENEATH[0] * em < label.v - o.v < BENEATH[1] * em]  # fmt: skip
    for near in (beside, beneath):
        text = min(near, key=lambda n: n[0])[1].text.strip() if near else ""
        plain = _plain(text)
        if any(c.isalnum() for c in text) and plain not in LABELS and plain not in OTHERS and len(text) <= MOST:
            return text
    return None
