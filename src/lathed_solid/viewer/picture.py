"""A picture of a solid, rendered without a window: finishes, light, floor and shadow, any size to 8k.

The kernel's physically based renderer, in a studio of soft boxes that is made here; or its ray tracer. Drawn at twice
the size and halved, so that edges are smooth. Where the ground is to be seen through, it is drawn over black and over
white: what a dot covers is a = 1 - (white - black), and its colour black / a, which holds at the smoothed edges too.
The same scene is the same picture. Needs an X display (a virtual one will do).
"""

from __future__ import annotations

import io
import math
import tempfile
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import numpy as np
from OCP.AIS import AIS_InteractiveContext, AIS_Shape
from OCP.Aspect import Aspect_DisplayConnection, Aspect_GradientFillMethod
from OCP.Bnd import Bnd_Box
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace
from OCP.gp import gp_Dir, gp_Pln, gp_Pnt
from OCP.Graphic3d import (
    Graphic3d_Camera,
    Graphic3d_CubeMapPacked,
    Graphic3d_MaterialAspect,
    Graphic3d_NameOfMaterial,
    Graphic3d_PBRMaterial,
    Graphic3d_RenderingMode,
    Graphic3d_TypeOfShadingModel,
)
from OCP.Image import Image_AlienPixMap
from OCP.OpenGl import OpenGl_GraphicDriver
from OCP.TCollection import TCollection_AsciiString
from OCP.V3d import V3d_AmbientLight, V3d_DirectionalLight, V3d_ImageDumpOptions, V3d_Viewer
from OCP.Xw import Xw_Window
from PIL import Image

from lathed_solid.kernel.topology import SOLID, Key, box, faces, from_bytes, sub_shapes, together
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.pictures import LEAST
from lathed_solid.viewer.colours import colour_of
from lathed_solid.viewer.finishes import Coated, Finish
from lathed_solid.viewer.gl_context import ViewError
from lathed_solid.viewer.shots import Shot

#: up to this side it is drawn at twice its size, dots; a turn takes so many ms
TWICE, ROUND = 4096, 4000
#: side of a tile of the studio, dots
TILE = 256
#: what the renderer makes of it: sides of 2^8 dots, samples a dot for matt and for bright faces
BAKED = (8, 256, 64)
#: the part fills so much of the picture; chords of its triangles, share of its size
ROOM, FINE = 0.08, 1e-4
#: a floor reaches so many times as far as the part
FLOOR = 4.0
#: ground of a picture: above, below; the floor's own colour
ABOVE, BELOW, GROUND = "#F4F4F1", "#D9DBDB", Finish("#E4E3DF", 0.0, 0.9)
#: height of the frame that focal lengths are told for, mm
TALL = 24.0
#: longest side of the hidden window the picture is framed in, dots
FRAME = 800


def picture(
    data: bytes, finish: Finish, shot: Shot, tell: Callable[[int], object] | None = None, coats: Sequence[Coated] = ()
) -> bytes:
    """A PNG; where the shot has several frames, a GIF or an APNG of the part turned once about the upright.

    ``data``: the solid as bytes; ``coats``: faces and solids of a finish of their own, the later over the earlier;
    ``tell`` takes how many pictures are done. Raises ViewError.
    """
    studio = _Studio(data, finish, shot, coats)
    x, y, z = shot.eye
    found = []
    for k in range(shot.frames):
        c, s = math.cos(2 * math.pi * k / shot.frames), math.sin(2 * math.pi * k / shot.frames)
        found.append(studio.taken((c * x - s * y, s * x + c * y, z)))
        if tell is not None:
            tell(k + 1)
    out = io.BytesIO()
    if shot.frames == 1:
        found[0].save(out, "PNG")
    else:
        form, frames = ("PNG", found) if shot.film == "APNG" else ("GIF", [f.convert("RGB") for f in found])
        pause = max(20, ROUND // shot.frames)
        frames[0].save(out, form, save_all=True, append_images=frames[1:], duration=pause, loop=0)
    return out.getvalue()


class _Studio:
    """A part set up to be taken."""

    def __init__(self, data: bytes, finish: Finish, shot: Shot, coats: Sequence[Coated] = ()) -> None:
        self._shot = shot
        self._times = 2 if max(shot.width, shot.height) <= TWICE else 1
        try:
            self._connection = Aspect_DisplayConnection()
            self._driver = OpenGl_GraphicDriver(self._connection, False)
        except Exception as exc:  # noqa: BLE001 - whatever the driver raises
            raise ViewError("no picture can be made here", rule=str(exc).splitlines()[0] if str(exc) else "",
                            hint="an X display is needed; a virtual one will do") from None  # fmt: skip
        viewer = self._viewer = V3d_Viewer(self._driver)
        self._light(viewer)
        self._context = AIS_InteractiveContext(viewer)
        self.view = viewer.CreateView()
        self.view.SetImmediateUpdate(False)
        share = FRAME / max(shot.width, shot.height)  # as wide as the picture will be: what fits it fits the picture
        wide, tall = (max(1, round(side * share)) for side in (shot.width, shot.height))
        self._window = Xw_Window(self._connection, "picture", 0, 0, wide, tall)
        self._window.SetVirtual(True)
        self.view.SetWindow(self._window)
        self._set_up()
        self._shape = from_bytes(data)
        for part, coat in _parted(self._shape, finish, coats):
            self._show(part, _material(coat))
        if shot.floor:
            self._lay_floor()

    def _light(self, viewer: Any) -> None:
        sun = V3d_DirectionalLight(gp_Dir(0.45, 0.55, -1.0))
        sun.SetCastShadows(self._shot.floor)
        sun.SetIntensity(1.8)
        for light in (sun, V3d_AmbientLight()):
            viewer.AddLight(light)
            viewer.SetLightOn(light)

    def _set_up(self) -> None:
        params = self.view.ChangeRenderingParams()
        params.ShadingModel = Graphic3d_TypeOfShadingModel.Graphic3d_TypeOfShadingModel_Pbr
        params.ShadowMapResolution = 4096
        params.PbrEnvPow2Size, params.PbrEnvBakingDiffNbSamples, params.PbrEnvBakingSpecNbSamples = BAKED
        if self._shot.rays:
            params.Method = Graphic3d_RenderingMode.Graphic3d_RM_RAYTRACING
            params.IsShadowEnabled = params.IsReflectionEnabled = params.IsAntialiasingEnabled = True
            params.RaytracingDepth = 3
        with tempfile.TemporaryDirectory(prefix="lathed-solid-studio-") as folder:
            path = Path(folder) / "studio.png"
            _studio_walls().save(path, "PNG")
            walls = Graphic3d_CubeMapPacked(TCollection_AsciiString(str(path)))
            self.view.SetBackgroundCubeMap(walls, True, False)
            self._dump(LEAST, LEAST)  # read while it is there

    def _show(self, shape: Any, material: Any) -> None:
        shown = AIS_Shape(shape)
        shown.SetMaterial(material)
        shown.Attributes().SetDeviationCoefficient(FINE)
        shown.Attributes().SetFaceBoundaryDraw(False)
        self._context.Display(shown, 1, -1, False)

    def _lay_floor(self) -> None:
        low, high = box(self._shape)
        far = FLOOR * max(h - k for k, h in zip(low, high, strict=True))
        middle = gp_Pnt((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, low[2] - 1e-3)
        plane = gp_Pln(middle, gp_Dir(0, 0, 1))
        self._show(BRepBuilderAPI_MakeFace(plane, -far, far, -far, far).Face(), _material(GROUND))

    def taken(self, eye: Triple) -> Image.Image:
        """The picture from a side."""
        self.view.SetProj(*eye)
        if self._shot.lens:
            camera = self.view.Camera()
            camera.SetProjectionType(Graphic3d_Camera.Projection_e.Projection_Perspective)
            camera.SetFOVy(math.degrees(2 * math.atan(TALL / 2 / self._shot.lens)))
        around = Bnd_Box()
        for corner in box(self._shape):
            around.Add(gp_Pnt(*corner))
        self.view.FitAll(around, ROOM, False)
        if not self._shot.clear:
            return self._drawn(ABOVE, BELOW)
        dark, light = (np.asarray(self._drawn(g, g), float) for g in ("#000000", "#FFFFFF"))
        covers = np.clip(255.0 - (light - dark).mean(axis=2), 0.0, 255.0)
        colours = np.clip(dark * 255.0 / np.maximum(covers, 1.0)[..., None], 0.0, 255.0)
        return Image.fromarray(np.dstack([colours, covers]).round().astype("uint8"), "RGBA")

    def _drawn(self, above: str, below: str) -> Image.Image:
        """Over a ground that runs from one colour to another."""
        fill = Aspect_GradientFillMethod.Aspect_GradientFillMethod_Vertical
        self.view.SetBgGradientColors(colour_of(above), colour_of(below), fill)
        shot, k = self._shot, self._times
        found = self._dump(shot.width * k, shot.height * k)
        return found if k == 1 else found.resize((shot.width, shot.height), Image.Resampling.BOX)

    def _dump(self, wide: int, tall: int) -> Image.Image:
        pixels, options = Image_AlienPixMap(), V3d_ImageDumpOptions()
        options.Width, options.Height = wide, tall
        if not self.view.ToPixMap(pixels, options):
            raise ViewError("the picture cannot be drawn", received=f"{wide}x{tall}", hint="a smaller one")
        with tempfile.TemporaryDirectory(prefix="lathed-solid-picture-") as folder:
            path = Path(folder) / "dump.png"
            if not pixels.Save(TCollection_AsciiString(str(path))):
                raise ViewError("the picture cannot be written", hint="check the space on the disk")
            with Image.open(path) as image:
                return image.convert("RGB")


def _parted(shape: Any, finish: Finish, coats: Sequence[Coated]) -> Iterator[tuple[Any, Finish]]:
    """The faces of each finish as one shape; all of it where nothing has its own."""
    if not coats:
        yield shape, finish
        return
    all_of_them, solids = list(faces(shape)), list(sub_shapes(shape, SOLID))
    found = {Key(f): finish for f in all_of_them}
    for coat in coats:
        own = [all_of_them[k] for k in coat.faces] + [f for k in coat.solids for f in faces(solids[k])]
        found.update((Key(f), coat.finish) for f in own)
    for own_finish in dict.fromkeys(found.values()):
        yield together(f for f in all_of_them if found[Key(f)] == own_finish), own_finish


def _material(finish: Finish) -> Any:
    out = Graphic3d_MaterialAspect(Graphic3d_NameOfMaterial.Graphic3d_NameOfMaterial_UserDefined)
    pbr = Graphic3d_PBRMaterial()
    pbr.SetColor(colour_of(finish.colour))
    pbr.SetMetallic(finish.metal)
    pbr.SetRoughness(finish.rough)
    out.SetPBRMaterial(pbr)
    out.SetColor(colour_of(finish.colour))
    return out


def _studio_walls() -> Image.Image:
    """Six tiles, one above the other (+X -X +Y -Y +Z -Z as the renderer counts): grey walls, soft boxes."""
    y, x = np.mgrid[0:TILE, 0:TILE] / (TILE - 1) * 2 - 1
    side = 0.78 - 0.33 * y
    box_light = np.where((np.abs(x) < 0.25) & (np.abs(y) < 0.8), 1.0, side)
    above = np.where((np.abs(x) < 0.6) & (np.abs(y) < 0.35), 1.0, 0.76)
    below = np.full_like(x, 0.38)
    tiles = np.concatenate([box_light, side, above, below, box_light, side], axis=0)
    return Image.fromarray((np.clip(tiles, 0, 1) * 255).astype("uint8")).convert("RGB")
