"""Tables of the documentation that are read off the program: ``python tools/pages.py`` writes them anew.

A page holds each between ``<!-- name -->`` and ``<!-- /name -->``; the tests see that pages and program agree.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping
from pathlib import Path

from pydantic_core import PydanticUndefined

DOCS = Path(__file__).parent.parent / "docs"


def step_kinds() -> str:
    """Every kind of step with its fields and what they start as; fields that all have are left out."""
    from lathed_solid.part.steps import KINDS
    from lathed_solid.part.steps.base import StepBase

    rows = ["| step | fields, with what they start as |", "|---|---|"]
    for kind in sorted(KINDS):
        fields = []
        for name, field in KINDS[kind].model_fields.items():
            if name in StepBase.model_fields or name == "kind":
                continue
            start = field.get_default(call_default_factory=True, validated_data={})
            fields.append(f"`{name}`" if start is PydanticUndefined else f"`{name}`={_shown(start)}")
        rows.append(f"| `{kind}` | {', '.join(fields)} |")
    return "\n".join(rows)


def _shown(value: object) -> str:
    dump = getattr(value, "model_dump", None)
    if dump is not None:
        found = {k: v for k, v in dump(mode="json").items() if v not in (None, "", [], False)}
        return f"`{json.dumps(found, ensure_ascii=False)}`"
    return f"`{json.dumps(value, ensure_ascii=False, default=str)}`"


TABLES: Mapping[tuple[str, str], Callable[[], str]] = {("scripting.md", "step kinds"): step_kinds}


def filled(text: str, name: str, table: str) -> str:
    """A page's text with the table in its place. Raises ValueError when it has none."""
    mark = re.compile(rf"(<!-- {name} -->\n).*?(\n<!-- /{name} -->)", re.S)
    if len(mark.findall(text)) != 1:
        raise ValueError(f"the page has no one place for the table: {name}")
    return mark.sub(lambda m: m[1] + table + m[2], text)


def main() -> None:
    """Write all tables into their pages."""
    for (page, name), table in TABLES.items():
        file = DOCS / page
        file.write_text(filled(file.read_text("utf-8"), name, table()), "utf-8")


if __name__ == "__main__":
    main()
