"""Verdicts: in, near, out, no limit, not found.

With limits L <= x <= H and U the expanded uncertainty of the value that drives the geometry (the readings',
when the callout is modelled as measured; else zero):

    in    L + U <= x <= H - U          near    within U of a limit, on either side          out    beyond

A size that nothing limits (outside the general tolerance's range, no block for its decimals) is *no limit*: never in.

A comparison slack of 1e-6 mm (or rad) absorbs the kernel's own rounding.
"""

from __future__ import annotations

import math
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

Verdict = Literal["in", "near", "out", "no limit", "not found"]

SLACK = 1e-6

#: shape beside the word, legible without colour
SIGNS: dict[Verdict, str] = {"in": "○", "near": "△", "out": "■", "no limit": "◇", "not found": "?"}


class DutyRow(BaseModel):
    """One duty's verdict: what it is, what the note says, what was measured, both in words."""

    model_config = ConfigDict(frozen=True)

    what: str
    said: str
    measured: str
    verdict: Verdict
    reason: str = ""
    #: False for what is shown and not judged here; it is left out of the row's verdict
    judged: bool = True

    @property
    def sign(self) -> str:
        """The verdict's sign and word, or that there is none."""
        return f"{SIGNS[self.verdict]} {self.verdict}" if self.judged else "not judged here"

    @property
    def brief(self) -> str:
        """In a few words: ``through in``, ``places 3 out``."""
        return " ".join(self.words)

    @property
    def words(self) -> tuple[str, ...]:
        """What is asked, what was measured or said where that says anything, and the verdict."""
        if not self.judged:
            return self.what, self.said, "not judged here"
        plain = ("", "yes", "no")
        said = self.measured if self.measured not in plain else self.said if self.said not in plain else ""
        return tuple(w for w in (self.what, said, self.verdict) if w)


class VerdictRow(BaseModel):
    """One callout's verdict; mm, or rad for angles. ``faces`` are the names that were measured."""

    model_config = ConfigDict(frozen=True)

    balloon: int
    note: str
    meaning: str
    kind: str
    nominal: float
    low: float | None
    high: float | None
    limits_source: str
    uncertainty: float
    measured: float | None
    verdict: Verdict
    reason: str = ""
    used_by: tuple[str, ...] = ()
    faces: tuple[str, ...] = ()
    duties: tuple[DutyRow, ...] = ()
    #: the decision against the drawing that the note is, in words
    redress: str = ""

    @property
    def detail(self) -> str:
        """All duties in one line."""
        return " · ".join(d.brief for d in self.duties)

    @property
    def deviation(self) -> float | None:
        """Measured minus nominal."""
        return None if self.measured is None else self.measured - self.nominal

    @property
    def beyond(self) -> float:
        """How far outside the limits, in mm or rad; zero when inside."""
        if self.measured is None:
            return 0.0
        below = 0.0 if self.low is None else self.low - self.measured
        above = 0.0 if self.high is None else self.measured - self.high
        return max(0.0, below, above)

    def as_json(self) -> dict[str, Any]:
        """The stable shape of ``prove --json``; angles in degrees under ``_deg`` keys."""
        unit = {"angle": "deg", "taper": "ratio"}.get(self.kind, "mm")

        def show(x: float | None) -> float | None:
            return None if x is None else math.degrees(x) if unit == "deg" else x

        return {
            "balloon": self.balloon,
            "note": self.note,
            "meaning": self.meaning,
            "kind": self.kind,
            f"nominal_{unit}": show(self.nominal),
            f"low_{unit}": show(self.low),
            f"high_{unit}": show(self.high),
            f"measured_{unit}": show(self.measured),
            f"deviation_{unit}": show(self.deviation),
            f"uncertainty_{unit}": show(self.uncertainty),
            "verdict": self.verdict,
            "reason": self.reason,
            "faces": list(self.faces),
            "redress": self.redress,
            "duties": [d.model_dump(include={"what", "said", "measured", "verdict"}) for d in self.duties],
        }


def judge(measured: float, low: float | None, high: float | None, uncertainty: float = 0.0) -> Verdict:
    """The verdict of one value by the rule in the module's docstring."""
    if low is None and high is None:
        return "no limit"
    room = math.inf
    if low is not None:
        room = min(room, measured - low)
    if high is not None:
        room = min(room, high - measured)
    if room >= uncertainty - SLACK:
        return "in"
    return "near" if room >= -uncertainty - SLACK else "out"
