"""Pictures of a solid: the same twice, as large as asked, the outline as geometry has it, the ground seen through."""

from __future__ import annotations

import io
import math
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from OCP.Aspect import Aspect_DisplayConnection
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeSphere
from PIL import Image

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.demo import DEMOS
from lathed_solid.errors import LathedError
from lathed_solid.files.document import write_document
from lathed_solid.kernel.topology import to_bytes
from lathed_solid.part import Document
from lathed_solid.viewer.finishes import Finish, finish_named
from lathed_solid.viewer.gl_context import ViewError
from lathed_solid.viewer.picture import picture
from lathed_solid.viewer.picture_process import taken
from lathed_solid.viewer.shots import Shot, eye_of, size_of

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


def test_a_turn_has_its_pictures_and_nothing_impossible_is_taken() -> None:
    with Image.open(io.BytesIO(picture(BRICK, bare("brass"), Shot(64, 48, frames=4)))) as film:
        assert film.size == (64, 48) and film.n_frames == 4
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
    with pytest.raises(LathedError, match="PNG or GIF"):
        asked(part, tmp_path / "nut.bmp")


def test_from_a_script(tmp_path: Path) -> None:
    ls.write_picture(DEMOS["gland-nut"](), tmp_path / "nut.png", "brass", Shot(64, 64))
    assert dots((tmp_path / "nut.png").read_bytes()).shape == (64, 64, 3)
    with pytest.raises(LathedError, match="no solid"):
        ls.write_picture(Document(name="nothing"), tmp_path / "nothing.png")


def asked(part: Path, out: Path, *told: str) -> int:
    return int(cli.main(args=["picture", str(part), str(out), *told], standalone_mode=False))
