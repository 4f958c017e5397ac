"""A picture of a sheet, seen straight: the corners of a photographed sheet, the turn of a scanned one, even light.

A photographed sheet is the largest bright quadrilateral; the homography that takes its corners to a rectangle undoes
the perspective (R. Hartley, A. Zisserman, Multiple View Geometry, 2nd ed., 4.1). The rectangle has the proportion of
the paper's series that its sides are nearest to. What is left of a turn is the median direction of the long strokes,
level and upright ones together. Light is made even by dividing by the paper's own: the brightest of the neighbourhood,
smoothed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

Array = Any
#: the longer side by the shorter one: ISO 216, ANSI Y14.1 A and C, B and D
PAPERS = (math.sqrt(2), 11 / 8.5, 17 / 11)
#: a proportion this near to a paper's is the paper's
NEAR_PAPER = 0.06
#: the share of the picture that a photographed sheet takes; one that takes more is a scan, with no corners to find
LEAST_SHARE, MOST_SHARE = 0.2, 0.97
#: corners are looked for, and turns measured, in a picture of this many pixels across
COARSE = 1200
#: a scan is turned by no more than this, and by less than the other is not turned
MOST_TURN, LEAST_TURN = 6.0, 0.02
#: no more pixels across are kept than this
MOST_ACROSS = 4000


@dataclass(frozen=True)
class Straight:
    """The sheet, grey, paper white (rows, columns; 0 to 255); the corners where it lay (4, 2), shares of the picture
    from the top left, or None; how far it was turned, degrees.
    """

    grey: Array
    corners: Array | None
    turned: float


def straighten(grey: Array, corners: Array | None = None) -> Straight:
    """A grey picture as a straight sheet. ``corners`` as they were given by hand, shares of the picture."""
    across = max(grey.shape)
    if across > MOST_ACROSS:
        share = MOST_ACROSS / across
        grey = cv2.resize(grey, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
    if corners is None:
        corners = sheet_corners(grey)
    if corners is not None:
        grey = _flat(grey, np.asarray(corners, float) * (grey.shape[1], grey.shape[0]))
    light = even_light(grey)
    degrees = turn_of(light)
    if abs(degrees) > LEAST_TURN:
        light = _turned(light, degrees)
    return Straight(light, corners, degrees)


def sheet_corners(grey: Array) -> Array | None:
    """The corners of a bright sheet on something darker, from the top left clockwise; None for a scan."""
    share = COARSE / max(grey.shape)
    small = cv2.GaussianBlur(cv2.resize(grey, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), (5, 5), 0)
    _, bright = cv2.threshold(small, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    bright = cv2.morphologyEx(bright, cv2.MORPH_CLOSE, np.ones((15, 15), np.uint8))
    contours, _ = cv2.findContours(bright, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not contours:
        return None
    largest = max(contours, key=cv2.contourArea)
    area = cv2.contourArea(largest) / small.size
    if not LEAST_SHARE < area < MOST_SHARE:
        return None
    hull = cv2.convexHull(largest)
    quad = cv2.approxPolyDP(hull, 0.02 * cv2.arcLength(hull, True), True).reshape(-1, 2).astype(float)
    if len(quad) != 4 or cv2.contourArea(quad.astype(np.float32)) < 0.9 * cv2.contourArea(hull):
        return None
    edges = _on_edges(largest.reshape(-1, 2).astype(float), quad)
    height, width = small.shape
    at_border = ((edges < 2) | (edges > np.array([width, height]) - 3)).any(axis=1)
    if at_border.all():
        return None
    return _in_order(edges) / (width, height)


def _on_edges(contour: Array, quad: Array) -> Array:
    """Corners as crossings of lines fitted to the four sides: a worn corner is no corner."""
    lines = []
    for k in range(4):
        a, b = quad[k], quad[(k + 1) % 4]
        along = (b - a) / np.linalg.norm(b - a)
        at = (contour - a) @ along / np.linalg.norm(b - a)
        off = np.abs((contour - a) @ np.array([-along[1], along[0]]))
        near = contour[(at > 0.1) & (at < 0.9) & (off < 6)]
        if len(near) < 10:
            return quad
        vx, vy, x, y = cv2.fitLine(near.astype(np.float32), cv2.DIST_HUBER, 0, 0.01, 0.01).ravel()
        lines.append((np.array([x, y]), np.array([vx, vy])))
    out = []
    for k in range(4):
        (p, d), (q, e) = lines[k - 1], lines[k]
        t = np.linalg.solve(np.array([d, -e]).T, q - p)[0]
        out.append(p + t * d)
    return np.array(out)


def _in_order(quad: Array) -> Array:
    """From the top left clockwise."""
    middle = quad.mean(axis=0)
    around = np.argsort(np.arctan2(quad[:, 1] - middle[1], quad[:, 0] - middle[0]))
    quad = quad[around]
    return np.roll(quad, -int(np.argmin(quad.sum(axis=1))), axis=0)


def _flat(grey: Array, corners: Array) -> Array:
    """The quadrilateral as a rectangle of a paper's proportion, as large as it is seen."""
    sides = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    wide, high = (sides[0] + sides[2]) / 2, (sides[1] + sides[3]) / 2
    proportion = max(wide, high) / min(wide, high)
    paper = min(PAPERS, key=lambda p: abs(p - proportion))
    if abs(paper / proportion - 1) < NEAR_PAPER:
        wide, high = (high * paper, high) if wide > high else (wide, wide * paper)
    to = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], np.float32)
    matrix = cv2.getPerspectiveTransform(corners.astype(np.float32), to)
    return cv2.warpPerspective(grey, matrix, (round(wide), round(high)), flags=cv2.INTER_CUBIC, borderValue=255)


def even_light(grey: Array) -> Array:
    """Paper as white everywhere: divided by the brightest of the neighbourhood, a thirtieth of the picture wide."""
    wide = max(15, max(grey.shape) // 30) | 1
    small = cv2.resize(grey, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA)
    paper = cv2.morphologyEx(small, cv2.MORPH_CLOSE, np.ones((wide // 4 | 1, wide // 4 | 1), np.uint8))
    paper = cv2.GaussianBlur(cv2.medianBlur(paper, 5), (0, 0), wide / 12)
    paper = cv2.resize(paper, (grey.shape[1], grey.shape[0]), interpolation=cv2.INTER_LINEAR)
    return cv2.divide(grey, np.maximum(paper, 1), scale=250)


def turn_of(light: Array) -> float:
    """How far the strokes lie from level and upright, degrees, anticlockwise as seen; 0 without any."""
    found = cv2.createLineSegmentDetector().detect(light)[0]
    if found is None:
        return 0.0
    x0, y0, x1, y1 = found.reshape(-1, 4).T
    long = np.hypot(x1 - x0, y1 - y0)
    off = -np.degrees(np.arctan2(y1 - y0, x1 - x0))
    off = (off + 45) % 90 - 45
    keep = (long > 0.03 * max(light.shape)) & (np.abs(off) < MOST_TURN)
    if not keep.any():
        return 0.0
    off, long = off[keep], long[keep]
    order = np.argsort(off)
    half = np.searchsorted(np.cumsum(long[order]), long.sum() / 2)
    return float(off[order][half])


def _turned(light: Array, degrees: float) -> Array:
    height, width = light.shape
    matrix = cv2.getRotationMatrix2D(((width - 1) / 2, (height - 1) / 2), -degrees, 1.0)
    return cv2.warpAffine(light, matrix, (width, height), flags=cv2.INTER_CUBIC, borderValue=255)
