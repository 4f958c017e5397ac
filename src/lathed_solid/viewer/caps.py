"""Where shown things are cut open: each with a cutting plane of its own, and a cap in a hatch of its own.

A plane of the view would have one hatch for all.
"""

from __future__ import annotations

from collections.abc import Hashable, Mapping
from typing import Any

from OCP.collections import Vec2_float
from OCP.gp import gp_Pln
from OCP.Graphic3d import Graphic3d_ClipPlane, Graphic3d_Texture2D, Graphic3d_TypeOfShadingModel
from OCP.Image import Image_Format, Image_PixMap
from OCP.Quantity import Quantity_ColorRGBA

from lathed_solid.viewer.colours import Colours, colour_of

#: pixels of the hatch's picture, and how many of its lines are as long as the part
HATCH, HATCH_LINES = 32, 28


class Caps:
    """The cutting planes of shown things, by what they are known by."""

    def __init__(self) -> None:
        self._planes: dict[Hashable, Any] = {}

    def forget(self) -> None:
        """What was shown is gone."""
        self._planes = {}

    def cut(self, shown: Mapping[Any, Any], plane: gp_Pln | None, size: float, colours: Colours) -> None:
        """Cut all open at a plane; None takes the cut away. ``size`` (mm) says how wide the hatch is."""
        if plane is None:
            for key, old in self._planes.items():
                shown[key].RemoveClipPlane(old)
            self._planes = {}
            return
        for i, (key, thing) in enumerate(shown.items()):
            if key in self._planes:
                self._planes[key].SetEquation(plane)
                continue
            made = self._planes[key] = Graphic3d_ClipPlane(plane)
            made.SetCapping(True)
            made.SetUseObjectMaterial(False)
            # the cap faces away from the lights: draw it unlit
            aspect = made.CappingAspect()
            aspect.SetShadingModel(Graphic3d_TypeOfShadingModel.Graphic3d_TypeOfShadingModel_Unlit)
            aspect.SetInteriorColor(colour_of("#FFFFFF"))  # the hatch's picture has the colour
            made.SetCappingAspect(aspect)
            made.SetCappingTexture(hatching(i, size, colours))
            made.SetOn(True)
            thing.AddClipPlane(made)


def hatching(kind: int, size: float, colours: Colours) -> Any:
    """A picture of one hatch line on the cut's colour, repeated over the cap: rising, falling, then wider ones."""
    pixels = Image_PixMap()
    pixels.InitTrash(Image_Format.Image_Format_RGB, HATCH, HATCH)
    paper, ink = (Quantity_ColorRGBA(colour_of(c, raw=True)) for c in (colours.cut, colours.edge))
    way = -1 if kind % 2 else 1
    for x in range(HATCH):
        for y in range(HATCH):
            pixels.SetPixelColor(x, y, ink if (x + way * y) % HATCH < 2 else paper)
    texture = Graphic3d_Texture2D(pixels)
    texture.EnableRepeat()
    texture.EnableModulate()
    per_mm = HATCH_LINES / max(size, 1e-3) / (1 + 0.5 * (kind // 2 % 3))
    texture.GetParams().SetScale(Vec2_float(per_mm, -per_mm))
    return texture
