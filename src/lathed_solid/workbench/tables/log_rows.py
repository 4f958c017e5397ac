"""A row of the caliper log, and reading what is typed into it."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.ledger import WAY_WORDS, Callout, Instrument, Reading, Way
from lathed_solid.ledger.repeats import DENOMINATORS, reads_to
from lathed_solid.part import DocumentError
from lathed_solid.quantity import LengthUnit, QuantityError, evaluate

#: what can be measured with, by what it reads to
READS: dict[str, Instrument] = {
    "reads 0.01 mm": Instrument(),
    "reads 0.02 mm": Instrument(name="caliper with vernier", resolution=0.02, permissible_error=0.03),
    "reads 0.05 mm": Instrument(name="caliper with vernier", resolution=0.05, permissible_error=0.05),
    "reads 0.001 mm": Instrument(name="micrometer", resolution=0.001, permissible_error=0.004),
    "reads .001 in": Instrument(name="caliper in inches", resolution=0.0254, permissible_error=0.025),
    "reads .0005 in": Instrument(name="digital caliper in inches", resolution=0.0127, permissible_error=0.025),
    **{f"reads 1/{d} in": reads_to(d) for d in DENOMINATORS},
}


@dataclass(frozen=True)
class LogRow:
    """A callout with its reading, None while it has none."""

    callout: Callout
    reading: Reading | None

    @property
    def balloon(self) -> int:
        """Of its callout."""
        return self.callout.balloon


def parse_repeats(text: str, unit: LengthUnit) -> tuple[float, ...]:
    """``24.94; 24.95 ; 1 3/8in`` -> mm. Raises QuantityError."""
    parts = [p.strip() for p in text.replace("\n", ";").split(";") if p.strip()]
    if not parts:
        raise QuantityError("no repeat was given", hint="24.94; 24.95; 24.94")
    values = tuple(evaluate(p, "length", unit) for p in parts)
    for part, value in zip(parts, values, strict=True):
        if not 0 < value <= 10_000:
            raise QuantityError("a reading must be above zero and below 10 m", text=part)
    return values


def parse_way(text: str) -> Way:
    """The beginning of one of the four ways. Raises DocumentError."""
    for way, words in WAY_WORDS.items():
        if text and (way.startswith(text.lower()) or words.startswith(text.lower())):
            return way
    raise DocumentError("this way of measuring is not known", received=text, hint=", ".join(WAY_WORDS.values()))
