"""Pictures of a solid: the same twice, as large as asked, the outline as geometry has it, the ground seen through."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from OCP.Aspect import Aspect_DisplayConnection
from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakeSphere
from OCP.GeomAbs import GeomAbs_SurfaceType
from OCP.TopoDS import TopoDS_Face
from PIL import Image

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.errors import LathedError
from lathed_solid.files.document import write_document
from lathed_solid.kernel.topology import faces, to_bytes
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part import Document
from lathed_solid.part.pictures import RememberedPicture
from lathed_solid.viewer.finishes import Coated, Finish, finish_named
from lathed_solid.viewer.gl_context import ViewError
from lathed_solid.viewer.picture import picture
from lathed_solid.viewer.picture_process import taken
from lathed_solid.viewer.shots import Shot, eye_of, lens_of, size_of

BALL = to_bytes(BRepPrimAPI_MakeSphere(10.0).Shape())
BRICK = to_bytes(BRepPrimAPI_MakeBox(10.0, 20.0, 30.0).Shape())
GREY = "#9A9EA1"


@pytest.fixture(scope="module", autouse=True)
def display() -> Iterator[None]:
    """A client that stays: the virtual display starts anew whenever its last one leaves."""
    held = Aspect_DisplayConnection()
    yield
    del held


def dots(data: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(data)), float)


def bare(name: str) -> Finish:
    """On grey metal."""
    return finish_named(name, GREY)


def test_a_ball_covers_the_disc_it_is_and_only_its_edge_is_half_seen() -> None:
    seen = dots(picture(BALL, bare("polished"), Shot(400, 300, clear=True)))
    assert seen.shape == (300, 400, 4)
    covers = seen[..., 3] / 255
    rows, columns = np.nonzero(covers > 0.5)
    across = (np.ptp(rows) + 1, np.ptp(columns) + 1)
    assert abs(across[0] - across[1]) <= 1  # round
    radius = sum(across) / 4
    assert covers.sum() == pytest.approx(math.pi * radius**2, rel=0.02)
    half = ((covers > 0.02) & (covers < 0.98)).sum()
    assert 0 < half < 3 * 2 * math.pi * radius  # smoothed at its edge and nowhere within


def test_the_same_scene_is_the_same_picture_and_finishes_and_floors_differ() -> None:
    shot = Shot(160, 100)
    plain = picture(BALL, bare("turned"), shot)
    assert picture(BALL, bare("turned"), shot) == plain
    others = [picture(BALL, bare(name), shot) for name in ("polished", "paint #336699")]
    assert len({plain, *others}) == 3
    red, green, blue = dots(others[1])[50, 80]
    assert blue > green > red  # painted blue
    floor = dots(picture(BALL, bare("turned"), Shot(160, 100, floor=True))).mean(axis=2)
    bright, shade = np.median(floor[0]), floor[60:95].min()
    assert shade < bright - 25  # there is a shadow below


def test_faces_and_solids_of_a_finish_of_their_own() -> None:
    """A brick's six faces are seen from two sides, three at a time; what is painted is red there and nowhere else."""
    red = finish_named("paint #CC2211", GREY)

    def reds(coats: list[Coated], eye: Triple) -> float:
        r, g, _, a = np.moveaxis(dots(picture(BRICK, bare("cast"), Shot(200, 200, eye, clear=True), None, coats)), 2, 0)
        return float(((r > 1.5 * g) & (a > 250)).sum() / (a > 250).sum())

    one, other = (1.0, -1.0, 1.0), (-1.0, 1.0, -1.0)
    # how much of the silhouette each face takes: a b / (a b + b c + a c) with the sides 10, 20, 30
    shares = {200 / 1100, 600 / 1100, 300 / 1100}
    for k in range(6):
        found = [reds([Coated(red, (k,))], eye) for eye in (one, other)]
        assert min(found) < 0.01 and any(abs(max(found) - share) < 0.03 for share in shares)
    assert min(reds([Coated(red, (), (0,))], eye) for eye in (one, other)) > 0.97
    bared = [Coated(red, (), (0,)), *(Coated(bare("cast"), (k,)) for k in range(6))]
    assert reds(bared, one) < 0.01  # the later over the earlier
    shot = Shot(64, 48)
    coats = [Coated(red, (0, 3)), Coated(bare("zinc"), (1,))]
    assert taken(BRICK, bare("brass"), shot, coats=coats) == picture(BRICK, bare("brass"), shot, None, coats)


def test_a_lens_shows_what_is_near_larger() -> None:
    """Into a tube along its axis: a parallel view shows nothing of its wall; through a lens of focal length f its far
    rim is smaller by D / (D + length), where D = f / 24 mm times the height of the picture at the near rim.
    """
    wide, narrow, long = 20.0, 10.0, 40.0
    tube = BRepAlgoAPI_Cut(BRepPrimAPI_MakeCylinder(wide, long).Shape(), BRepPrimAPI_MakeCylinder(narrow, long).Shape())
    wall = next(k for k, f in enumerate(faces(tube.Shape())) if is_cylinder(f, narrow))
    red = [Coated(finish_named("paint #CC2211", GREY), (wall,))]

    def seen(lens: float) -> tuple[float, float]:
        shot = Shot(600, 600, (0.0, 0.0, 1.0), lens=lens, clear=True)
        r, g, _, a = np.moveaxis(dots(picture(to_bytes(tube.Shape()), bare("cast"), shot, None, red)), 2, 0)
        return float(((r > 1.4 * g) & (a > 128)).sum()), float(np.ptp(np.nonzero(a > 128)[0]) + 1)

    assert seen(0.0)[0] < 100
    for lens in (35.0, 85.0):
        area, across = seen(lens)
        away = lens / 24 * 600 * 2 * wide / across
        rim = across / 2 * narrow / wide
        assert area == pytest.approx(math.pi * rim**2 * (1 - (away / (away + long)) ** 2), rel=0.05)
    for wrong in ("wide", "nan", "2 mm"):
        with pytest.raises(ViewError):
            Shot(lens=lens_of(wrong))
    assert [lens_of(told) for told in ("85 mm", "50", "parallel", "")] == [85.0, 50.0, 0.0, 0.0]


def is_cylinder(face: TopoDS_Face, radius: float) -> bool:
    surface = BRepAdaptor_Surface(face)
    return surface.GetType() == GeomAbs_SurfaceType.GeomAbs_Cylinder and surface.Cylinder().Radius() == radius


def test_a_turn_has_its_pictures_and_nothing_impossible_is_taken() -> None:
    with Image.open(io.BytesIO(picture(BRICK, bare("brass"), Shot(64, 48, frames=4)))) as film:
        assert film.size == (64, 48) and film.n_frames == 4
    data = picture(BRICK, bare("brass"), Shot(64, 48, frames=4, film="APNG", clear=True))
    with Image.open(io.BytesIO(data)) as film:
        assert (film.format, film.size, film.n_frames, film.mode) == ("PNG", (64, 48), 4, "RGBA")
    for wrong in (
        {"width": 8},
        {"width": 9000},
        {"eye": (0.0, 0.0, 0.0)},
        {"clear": True, "floor": True},
        {"frames": 0},
    ):
        with pytest.raises(ViewError):
            Shot(**wrong)


def test_a_process_of_its_own_makes_the_same_and_says_what_it_cannot() -> None:
    shot = Shot(64, 48)
    assert taken(BALL, bare("brass"), shot) == picture(BALL, bare("brass"), shot)
    told: list[int] = []
    turn = taken(BRICK, bare("brass"), Shot(32, 32, frames=3), None, told.append)
    assert turn.startswith(b"GIF8") and told == [1, 2, 3]
    with pytest.raises(ViewError):
        taken(b"no solid", bare("brass"), shot)
    with pytest.raises(ViewError, match="was ended"):
        taken(BALL, bare("brass"), shot, lambda process: process.kill())


def test_sides_sizes_and_finishes_by_their_names() -> None:
    assert eye_of("Top") == (0, 0, 1) and eye_of("1, -1,0.5") == (1.0, -1.0, 0.5)
    assert size_of("3840 x 2160") == (3840, 2160)
    for ask, wrong in ((eye_of, "inside"), (eye_of, "0,0,0"), (eye_of, "nan,1,1"), (size_of, "big"),
                       (bare, "gold leaf"), (bare, "paint #12")):  # fmt: skip
        with pytest.raises(LathedError):
            ask(wrong)


def test_from_the_command_line(tmp_path: Path) -> None:
    part = tmp_path / "nut.lathed"
    write_document(part, DEMOS["gland-nut"]())
    still = ["--size", "200x120", "--from", "iso right", "--clear"]
    assert asked(part, tmp_path / "nut.png", *still) == 0
    assert dots((tmp_path / "nut.png").read_bytes()).shape == (120, 200, 4)
    with pytest.raises(LathedError, match="PNG, GIF or APNG"):
        asked(part, tmp_path / "nut.bmp")


def test_a_remembered_picture_from_the_command_line(tmp_path: Path) -> None:
    nut = DEMOS["gland-nut"]()
    kept = RememberedPicture(name="cover", finish="cast", eye=(0, 0, 1), width=120, height=90, lens=85, clear=True)
    part = tmp_path / "nut.lathed"
    write_document(part, nut.model_copy(update={"pictures": (kept,)}))
    assert asked(part, tmp_path / "as_kept.png", "--named", "cover") == 0
    seen = dots((tmp_path / "as_kept.png").read_bytes())
    assert seen.shape == (90, 120, 4)
    step = next(s.number for s in nut.steps if s.kind == "turned")
    assert asked(part, tmp_path / "red.png", "--named", "cover", "--coat", f"step {step}=paint #CC2211") == 0
    red = dots((tmp_path / "red.png").read_bytes())
    assert np.abs(red[..., 3] - seen[..., 3]).mean() < 0.5  # the same outline
    more = (red[..., 0] / red[..., 2].clip(1) - seen[..., 0] / seen[..., 2].clip(1))[red[..., 3] > 250]
    assert (more > 1).mean() > 0.05 and np.median(np.abs(more)) < 0.1  # red where the step made it
    for told, words in ((("--named", "back"), "cover"), (("--coat", "brass"), "FACE=FINISH"),
                        (("--coat", "x=gold leaf"), "no such finish")):  # fmt: skip
        with pytest.raises(LathedError) as caught:
            asked(part, tmp_path / "no.png", *told)
        assert words in str(caught.value)


def test_from_a_script(tmp_path: Path) -> None:
    ls.write_picture(DEMOS["gland-nut"](), tmp_path / "nut.png", "brass", Shot(64, 64))
    assert dots((tmp_path / "nut.png").read_bytes()).shape == (64, 64, 3)
    with pytest.raises(LathedError, match="no solid"):
        ls.write_picture(Document(name="nothing"), tmp_path / "nothing.png")


def asked(part: Path, out: Path, *told: str) -> int:
    return int(cli.main(args=["picture", str(part), str(out), *told], standalone_mode=False))
