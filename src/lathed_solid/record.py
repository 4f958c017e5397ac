"""The frozen value that every piece of a document is.

Made in the program, a record refuses fields that it does not know: ``cbore_diametre="11"`` is an error, not a plain
hole. Read from a file (with ``context=READING``), unknown fields are kept in ``kept``, written back where they stood,
and told by ``strangers``: a newer program may have written them.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from typing import Any, Self

from pydantic import BaseModel, ConfigDict, Field, SerializationInfo, ValidationInfo, model_serializer, model_validator
from pydantic.json_schema import SkipJsonSchema

#: validation context of what was read from a file
READING = {"reading": True}


class Record(BaseModel):
    """A frozen value that refuses unknown fields, but keeps those of a file."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    #: names of unknown fields with their values as JSON text, which can be hashed
    kept: SkipJsonSchema[tuple[tuple[str, str], ...]] = Field(default=(), repr=False)

    @model_validator(mode="before")
    @classmethod
    def _keep(cls, data: Any, info: ValidationInfo) -> Any:
        if not (isinstance(data, dict) and info.context and info.context.get("reading")):
            return data
        known = cls.model_fields
        strange = {k: v for k, v in data.items() if k not in known or k == "kept"}
        if not strange:
            return data
        kept = tuple((str(k), json.dumps(v)) for k, v in strange.items())
        return {**{k: v for k, v in data.items() if k not in strange}, "kept": kept}

    @model_serializer(mode="wrap")
    def _give_back(self, handler: Any, info: SerializationInfo) -> dict[str, Any]:
        out: dict[str, Any] = handler(self)
        kept = out.pop("kept", None)
        return {**{k: json.loads(v) for k, v in kept}, **out} if kept else out

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy with some fields changed, unvalidated; what the value knew of itself is not taken along. Raises
        TypeError for a field that is not there.
        """
        fields = type(self).model_fields
        for name in update or ():
            if name not in fields and self.model_config.get("extra") != "allow":
                raise TypeError(f"{type(self).__name__} has no field {name!r}")
        made = super().model_copy(update=update, deep=deep)
        for name in [n for n in made.__dict__ if n not in fields]:
            del made.__dict__[name]
        return made


def strangers(value: Any, where: str = "") -> Iterator[str]:
    """Where fields stand that were read but are not known: ``steps / 2 / fancy``."""
    if isinstance(value, BaseModel):
        yield from (f"{where}{name}" for name, _ in getattr(value, "kept", ()))
        for name in type(value).model_fields:
            if name != "kept":
                yield from strangers(getattr(value, name), f"{where}{name} / ")
    elif isinstance(value, (tuple, list)):
        for i, item in enumerate(value, 1):
            yield from strangers(item, f"{where}{i} / ")
