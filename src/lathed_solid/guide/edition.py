"""The guide in one language."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.quantity.formatting import Spoken, as_it_is


@dataclass(frozen=True)
class Edition:
    """The guide in one language: its folder, and how the window's words are said in it."""

    language: str = "en"
    spoken: Spoken = as_it_is


ENGLISH = Edition()
