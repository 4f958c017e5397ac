"""The published JSON Schema of ``part.json``: ``python -m lathed_solid.files.schema`` prints it."""

from __future__ import annotations

import json

from lathed_solid.part import Document


def schema_text() -> str:
    """The schema as docs/part.schema.json holds it."""
    schema = Document.model_json_schema()
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = "Lathed Solid part document"
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(schema_text(), end="")
