"""From the plain records of a file to the present schema, one version at a time.

``MIGRATIONS[n]`` takes the records of version n to version n + 1. Version 1 is the first published one.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lathed_solid.part import SCHEMA

Records = dict[str, Any]
MIGRATIONS: dict[int, Callable[[Records], Records]] = {}


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
