"""Demo sheets as they come to a bench: scanned (turned by a degree, with noise and a fold) and photographed (seen
aslant, in uneven light). ``python tools/scans.py`` writes them beside the drawings; the same at each run.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pypdfium2 as pdfium
from numpy.typing import NDArray
from PIL import Image, ImageFilter

SHEETS = Path(__file__).parents[1] / "src" / "lathed_solid" / "demo" / "sheets"
DPI = 200
#: paper, as a share of white
PAPER = 0.96
Grey = NDArray[np.float64]


def page(path: Path, dpi: float = DPI) -> Image.Image:
    """The first page of a drawing, grey."""
    return pdfium.PdfDocument(path)[0].render(scale=dpi / 72).to_pil().convert("L")


def scan(sheet: Image.Image, degrees: float = 1.0, noise: float = 0.03, seed: int = 1) -> Image.Image:
    """On the glass of a scanner: turned by ``degrees``, with grain, dust and a fold across it."""
    rng = np.random.default_rng(seed)
    turned = sheet.rotate(degrees, Image.Resampling.BICUBIC, fillcolor=255).filter(ImageFilter.GaussianBlur(0.7))
    light = np.asarray(turned, float) / 255 * PAPER
    h, w = light.shape
    x = np.arange(w)[None, :] + 0.02 * np.arange(h)[:, None]
    light = light * (1 - 0.25 * np.exp(-(((x - 0.52 * w) / 5.0) ** 2)))
    dust = rng.integers(0, (h, w), (w * h // 60_000, 2))
    for row, column in dust:
        light[row : row + 2, column : column + 2] *= 0.5
    return _picture(light + noise * rng.standard_normal((h, w)))


def photograph(sheet: Image.Image, aslant: float = 0.06, noise: float = 0.02, seed: int = 2) -> Image.Image:
    """On a bench, seen aslant: its corners moved in by up to ``aslant`` of the width, light from one side."""
    rng = np.random.default_rng(seed)
    w, h = sheet.width, sheet.height
    wide, high = round(w * 1.12), round(h * 1.12)
    dx, dy = (wide - w) / 2, (high - h) / 2
    moves = np.array([[1.0, 0.7], [-0.3, 1.0], [-1.0, -0.5], [0.5, -0.9]]) * aslant * h
    corners = np.array([[dx, dy], [wide - dx, dy], [wide - dx, high - dy], [dx, high - dy]]) + moves
    own = [(0, 0), (w, 0), (w, h), (0, h)]
    laid = sheet.transform(
        (wide, high), Image.Transform.PERSPECTIVE, projection(corners, own), Image.Resampling.BICUBIC, fillcolor=0
    )
    there = Image.new("L", sheet.size, 255).transform(
        (wide, high), Image.Transform.PERSPECTIVE, projection(corners, own), fillcolor=0
    )
    on = np.asarray(there.filter(ImageFilter.GaussianBlur(1.0)), float) / 255
    bench = 0.30 + 0.03 * rng.standard_normal((high, wide))
    light = on * np.asarray(laid.filter(ImageFilter.GaussianBlur(0.9)), float) / 255 * PAPER + (1 - on) * bench
    y, x = np.mgrid[0:high, 0:wide]
    shade = 0.72 + 0.28 * np.clip(1.15 * x / wide - 0.25 * y / high + 0.2, 0, 1)
    return _picture(light * shade + noise * rng.standard_normal((high, wide)))


def projection(seen: NDArray[np.float64], own: list[tuple[int, int]]) -> list[float]:
    """The eight numbers that take what is seen at four corners (4, 2) to the sheet's own."""
    rows, right = [], []
    for (x, y), (u, v) in zip(seen, own, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    return [float(v) for v in np.linalg.solve(np.array(rows, float), np.array(right, float))]


def _picture(light: Grey) -> Image.Image:
    return Image.fromarray((np.clip(light, 0, 1) * 255).astype(np.uint8), "L")


def main() -> None:
    """Write them."""
    made = {"pedestal-scan.jpg": scan(page(SHEETS / "pedestal.pdf")),
            "winch-spindle-photo.jpg": photograph(page(SHEETS / "winch-spindle.pdf"))}  # fmt: skip
    for name, picture in made.items():
        picture.save(SHEETS / name, quality=70, dpi=(DPI, DPI))
        print(name, picture.size, (SHEETS / name).stat().st_size)


if __name__ == "__main__":
    main()
