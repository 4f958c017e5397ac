"""What every message between the window and the worker is: a numbered value, some with shapes as bytes behind it."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field


class Framed(BaseModel):
    """``request``: the number it was given when it was sent; an answer has its request's."""

    model_config = ConfigDict(frozen=True, extra="forbid", ser_json_inf_nan="constants")

    request: int = 0


class Shaped(Framed):
    """A message with shapes: ``shape`` crosses the pipe behind the header, as it is."""

    shape: bytes = Field(default=b"", repr=False, exclude=True)
