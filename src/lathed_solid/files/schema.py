"""The published JSON Schemas of ``part.json`` and ``fit.json``: ``python -m lathed_solid.files.schema [fit]`` prints
one.
"""

from __future__ import annotations

import json
import sys
from typing import Any

from lathed_solid.fit.document import Fit
from lathed_solid.part import Document


def schema_text() -> str:
    """The schema as docs/part.schema.json holds it."""
    return _published(Document.model_json_schema(), "Lathed Solid part document")


def fit_schema_text() -> str:
    """The schema as docs/fit.schema.json holds it; the parts inside are part documents, by their own schema."""
    schema = Fit.model_json_schema()
    inside = schema["$defs"]["PartSource"]["properties"]
    inside["document"] = {"$ref": "part.schema.json"}
    wanted = _reached(schema, {})
    schema["$defs"] = {name: schema["$defs"][name] for name in sorted(wanted)}
    return _published(schema, "Lathed Solid fit")


def _reached(schema: Any, seen: dict[str, None], root: Any = None) -> dict[str, None]:
    """Names of the definitions that a schema refers to, however deep."""
    root = root if root is not None else schema
    if isinstance(schema, dict):
        ref = schema.get("$ref", "")
        name = ref.removeprefix("#/$defs/") if ref.startswith("#/$defs/") else ""
        if name and name not in seen:
            seen[name] = None
            _reached(root["$defs"][name], seen, root)
        for key, value in schema.items():
            if not (schema is root and key == "$defs"):
                _reached(value, seen, root)
    elif isinstance(schema, list):
        for value in schema:
            _reached(value, seen, root)
    return seen


def _published(schema: dict[str, Any], title: str) -> str:
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = title
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(fit_schema_text() if sys.argv[1:] == ["fit"] else schema_text(), end="")
