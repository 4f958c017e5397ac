"""Colours of the 3D view, from #RRGGBB to the kernel's own."""

from __future__ import annotations

from dataclasses import dataclass

from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor


@dataclass(frozen=True)
class Colours:
    """Colours of the view as #RRGGBB."""

    top: str = "#F1F1EE"
    bottom: str = "#DDDFDE"
    body: str = "#B4BABC"
    edge: str = "#27323A"
    lit: str = "#B4832F"
    hover: str = "#E7CF97"
    cut: str = "#D8CFB8"


def colour_of(text: str, *, raw: bool = False) -> Quantity_Color:
    """A colour from #RRGGBB; ``raw`` for the bytes of a picture, which are not linear."""
    bare = text.lstrip("#")
    r, g, b = (int(bare[i : i + 2], 16) / 255 for i in (0, 2, 4))
    kind = Quantity_TypeOfColor.Quantity_TOC_RGB if raw else Quantity_TypeOfColor.Quantity_TOC_sRGB
    return Quantity_Color(r, g, b, kind)
