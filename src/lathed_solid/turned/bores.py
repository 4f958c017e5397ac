"""The inner side of the half section: bores from either end, and the axis between them.

The path runs from the foot of the right face to the foot of the left one (right to left), as vertices whose
leaving lines are named. Depths count from the bore's own face to its shoulder; a pointed bottom adds
r / tan(point / 2) beyond.
"""

from __future__ import annotations

import math

from lathed_solid.quantity.message_units import said
from lathed_solid.turned.checked_cells import Cells
from lathed_solid.turned.contour import EPS, Corner, Vertex
from lathed_solid.turned.table import Bore, TableError

#: a bore as seen from its own face: (depth, radius, name of the line that leaves towards the inside)
Profile = list[tuple[float, float, str]]


def inner_path(bores: tuple[Bore, ...], length: float, cell: Cells) -> list[Vertex]:
    """Vertices from (length, foot of the right face) to (0, foot of the left face)."""
    by_end = {b.end: b for b in bores}
    through = [b.end for b in bores if b.steps[-1].depth is None]
    if len(through) == 2:
        raise TableError("both bores are through", hint="give one of them a depth")
    profiles: dict[str, Profile] = {}
    for end in ("right", "left"):
        if end in by_end and end not in through:
            profiles[end] = _profile(by_end[end], length, None, cell)
    if through:
        end = through[0]
        other = profiles.get("left" if end == "right" else "right")
        if other is not None:
            other = [p for p in other if not p[2].endswith("axis")]
        reach = length - (_shoulder_depth(other) if other else 0.0)
        own = _profile(by_end[end], length, reach, cell)
        profiles[end] = own
        if other is not None:
            profiles["left" if end == "right" else "right"] = _open_end(other, own[-1][1])
    else:
        _check_meeting(profiles, length)
    corners: dict[str, Corner | None] = {end: _mouth(by_end[end], cell) for end in by_end}
    return _joined(profiles, corners, length, bool(through))


def _profile(bore: Bore, length: float, reach: float | None, cell: Cells) -> Profile:
    """(depth, radius, leaving name) going inwards; ``reach`` is where a through bore ends."""
    base = f"bore.{bore.end}"
    words = f"bore from the {bore.end}"
    out: Profile = []
    depth = 0.0
    radius = 0.0
    for i, step in enumerate(bore.steps, 1):
        radius = cell.size(step.diameter, f"{words}, step {i}, diameter") / 2
        if step.depth is None:
            if i != len(bore.steps):
                raise TableError(f"{words}: only the last step can be through", hint="give the others a depth")
            end = reach if reach is not None else length
        else:
            end = cell.size(step.depth, f"{words}, step {i}, depth")
        if end <= depth + EPS:
            raise TableError(
                f"{words}: step {i} ends at {said(end)}, which is not beyond {said(depth)}",
                rule="depths count from the bore's own face",
            )
        if end > length + EPS or (end > length - EPS and step.depth is not None):
            raise TableError(
                f"{words}: step {i} at {said(end)} reaches the other face at {said(length)}",
                hint="mark it as through",
            )
        end_radius = radius
        if step.end_diameter is not None:
            end_radius = cell.size(step.end_diameter, f"{words}, step {i}, end diameter") / 2
        out.append((depth, radius, f"{base}.{i}"))
        out.append((end, end_radius, f"{base}.{i}.floor"))
        depth, radius = end, end_radius
    if reach is None:
        out = _bottom(bore, out, depth, radius, length, cell)
    return out


def _bottom(bore: Bore, out: Profile, depth: float, radius: float, length: float, cell: Cells) -> Profile:
    base, words = f"bore.{bore.end}", f"bore from the {bore.end}"
    if bore.point is None:
        return [*out, (depth, 0.0, f"{base}.axis")]
    point = cell.angle(bore.point, f"{words}, point angle")
    tip = depth + radius / math.tan(point / 2)
    if tip >= length - EPS:
        raise TableError(f"{words}: its point at {said(tip)} reaches the other face at {said(length)}")
    return [*out[:-1], (depth, radius, f"{base}.tip"), (tip, 0.0, f"{base}.axis")]


def _shoulder_depth(profile: Profile | None) -> float:
    """Depth at which a blind bore's last shoulder stands."""
    assert profile is not None
    return max(d for d, _, name in profile if name.endswith((".floor", ".tip")))


def _open_end(profile: Profile, radius: float) -> Profile:
    """A blind bore that a through bore runs into: its floor ends at that bore's radius."""
    floor_depth = _shoulder_depth(profile)
    kept = [p for p in profile if p[0] <= floor_depth + EPS and p[1] > 0]
    if kept[-1][2].endswith(".tip"):
        d, r, name = kept[-1]
        kept[-1] = (d, r, name.removesuffix(".tip") + ".floor")
    return [*kept, (floor_depth, radius, "")]


def _check_meeting(profiles: dict[str, Profile], length: float) -> None:
    if len(profiles) < 2:
        return
    left, right = profiles["left"][-1][0], length - profiles["right"][-1][0]
    if left >= right - EPS:
        raise TableError(
            f"the bores from the two ends run into each other: the left one ends at {said(left)}, "
            f"the right one begins at {said(right)}",
            hint="mark one of them as through",
        )


def _mouth(bore: Bore, cell: Cells) -> Corner | None:
    if bore.mouth is None:
        return None
    words = f"bore from the {bore.end}, mouth"
    size = cell.size(bore.mouth.size, words)
    angle = cell.angle(bore.mouth.angle, f"{words} angle") if bore.mouth.kind == "chamfer" else 0.0
    surface = "after" if bore.end == "right" else "before"
    return Corner(bore.mouth.kind, size, angle, f"bore.{bore.end}.mouth", 0, surface)


def _joined(
    profiles: dict[str, Profile], corners: dict[str, Corner | None], length: float, through: bool
) -> list[Vertex]:
    """Right profile inwards, the axis or nothing between, left profile outwards."""
    path: list[Vertex] = []
    right = profiles.get("right", [])
    for i, (depth, radius, name) in enumerate(right):
        path.append(Vertex((length - depth, radius), name or "axis", corners.get("right") if i == 0 else None))
    if not right and not through:
        path.append(Vertex((length, 0.0), "axis"))
    left = profiles.get("left", [])
    if right and not left and not through:
        path.append(Vertex((0.0, 0.0), "face.left"))
    outward = list(reversed(left))
    for i, (depth, radius, _) in enumerate(outward):
        # walking outwards, the line that leaves a vertex is the one that led to it inwards
        name = outward[i + 1][2] if i + 1 < len(outward) else "face.left"
        path.append(Vertex((depth, radius), name, corners.get("left") if i == len(outward) - 1 else None))
    if not left and not right:
        path.append(Vertex((0.0, 0.0), "face.left"))
    if through and not left:
        path.append(Vertex((0.0, right[-1][1]), "face.left"))
    return [v if not v.leaving.endswith(".axis") else Vertex(v.at, "axis", v.corner) for v in path]
