"""From the plain records of a file to the present schema, one version at a time.

``MIGRATIONS[n]`` takes the records of version n to version n + 1. Version 1 is the first published one.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from lathed_solid.errors import LathedError
from lathed_solid.ledger import callouts_from_note
from lathed_solid.ledger.callouts import OWNED
from lathed_solid.part import SCHEMA

Records = dict[str, Any]


class NewerVersion(ValueError):
    """The records are of a version that this program does not know yet."""


def migrate(records: Records) -> Records:
    """Records of the present schema. Raises NewerVersion, or ValueError for a missing or odd version."""
    version = records.get("schema_version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise ValueError("it has no schema_version, so it is not a part document")
    if version > SCHEMA:
        raise NewerVersion(f"it is of version {version}, this program reads up to {SCHEMA}")
    for step in range(version, SCHEMA):
        records = MIGRATIONS[step](records)
        records["schema_version"] = step + 1
    return records


def _notes(records: Records) -> Records:
    """1 to 2: callouts that say one note stand together under it, with roles and duties read from it."""
    callouts = records.pop("callouts", ())
    if not isinstance(callouts, (list, tuple)):
        raise ValueError("its callouts are no list")
    groups: list[list[Records]] = []
    for c in callouts:
        if not isinstance(c, dict):
            raise ValueError("a callout is no object")
        last = groups[-1] if groups else []
        said = {k.get("meaning") for k in last}
        if last and all(last[-1].get(k) == c.get(k) for k in OWNED) and c.get("meaning") not in said:
            last.append(c)
        else:
            groups.append([c])
    records["notes"] = [_note(g) for g in groups]
    return records


def _note(callouts: list[Records]) -> Records:
    first = callouts[0]
    text, unit = first.get("note", ""), first.get("unit", "mm")
    try:
        stated = {c.meaning: c for c in callouts_from_note(text, 1, unit)}
    except (LathedError, TypeError, AttributeError, ValidationError):
        stated = {}  # written before this notation: its callouts keep what they say
    owned = []
    for c in callouts:
        own = {k: v for k, v in c.items() if k not in OWNED}
        found = stated.get(OLD_WORDS.get(str(c.get("meaning")), str(c.get("meaning"))))
        if found is not None and found.kind == c.get("kind"):
            own["role"] = found.role
            own["duties"] = [d.model_dump(mode="json") for d in found.duties]
        owned.append(own)
    return {"text": text, "unit": unit, "source": first.get("source", "sheet"), "callouts": owned}


#: words of a callout's meaning that version 1 had otherwise
OLD_WORDS = {"drill depth": "drill depth to the shoulder"}
MIGRATIONS: dict[int, Callable[[Records], Records]] = {1: _notes}
