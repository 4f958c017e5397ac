"""Which sheet and scale a drawing takes: the smallest sheet at the largest scale on which everything has room; on more
sheets than one, all alike, where its notes need them.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from lathed_solid.engine.protocol import Figured
from lathed_solid.errors import LathedError
from lathed_solid.part.drawing_style import DrawingStyle
from lathed_solid.reports.drawing.choosing import Chosen, Shown
from lathed_solid.reports.drawing.cuts import cut_lines, letters_left, titles_of
from lathed_solid.reports.drawing.details import details_of, enlarged
from lathed_solid.reports.drawing.model import PAD
from lathed_solid.reports.drawing.sheets import LEAST, SCALES, SIZES, Angle, Laid, laid, taken_box
from lathed_solid.reports.drawing.title import noted, table_height
from lathed_solid.reports.drawing.views import Arranged, Viewed, in_rows_only, with_notes

#: sheets that are taken as long as the part is not too small on them
HANDY = 2
#: more notes than this no sheet has room for
MOST = 120

#: a sheet by its name, its scale, the views on it and where they stand
Fitted = tuple[str, float, list[Arranged], Laid]


class DrawingError(LathedError, ValueError):
    """A drawing that cannot be made."""


class Fitting:
    """Tries sheets and scales; what was arranged once is kept."""

    def __init__(self, figured: Figured, style: DrawingStyle, angle: Angle, notes: Sequence[str]) -> None:
        self._figured, self._style, self._angle, self._notes = figured, style, angle, notes
        self._arranged: dict[tuple[int, ...], _Arranging] = {}

    def sheets(self, found: Chosen, sizes: Sequence[str]) -> list[Fitted]:
        """All notes on one sheet, or on several that are alike. Raises DrawingError."""
        parted = self._parted(found, sizes, self._style.scale)
        if len(parted) > 1:
            largest = max((p[0] for p in parted), key=lambda size: SIZES[size])
            parted = self._parted(found, (largest,), min(p[1] for p in parted))
        return parted

    def _parted(self, found: Chosen, sizes: Sequence[str], scale: float | None) -> list[Fitted]:
        """One sheet where all notes fit on it; else each half of them on its own."""
        if len(found.shown) <= MOST:
            try:
                return [self._fitting(self._arranging(found), sizes, scale)]
            except DrawingError:
                if len(found.shown) < 2:
                    raise
        half = len(found.shown) // 2
        parts = (replace(found, shown=found.shown[:half]), replace(found, shown=found.shown[half:]))
        return [it for part in parts for it in self._parted(part, sizes, scale)]

    def _arranging(self, found: Chosen) -> _Arranging:
        key = tuple(s.balloons[0] for s in found.shown)
        if key not in self._arranged:
            self._arranged[key] = _Arranging(self._figured, found, PAD if self._style.balloons else 0.0)
        return self._arranged[key]

    def _fitting(self, arrange: _Arranging, sizes: Sequence[str], scale: float | None) -> Fitted:
        """The smallest sheet at the largest scale at which everything has room."""
        for size, at in _tries(arrange, sizes, (scale,) if scale is not None else SCALES):
            room = noted(self._notes, size)[1]
            taken = [taken_box(size, table_height(self._style.revisions)), *([room] if room is not None else [])]
            for details in (True, False) if arrange.has_details(at) else (False,):
                if laid(arrange.rows(at, details), size, self._angle, taken) is None:
                    continue
                views = arrange.at(at, details)
                found = laid(views, size, self._angle, taken)
                if found is not None:
                    return size, at, views, found
        raise DrawingError("the drawing does not fit", where=", ".join(sizes), hint="a larger sheet or a smaller scale")


class _Arranging:
    """Views arranged once for each scale."""

    def __init__(self, figured: Figured, found: Chosen, pad: float = 0.0) -> None:
        self._figured, self._found, self._pad = figured, found, pad
        self._rows: dict[tuple[float, bool], list[Arranged]] = {}
        self._known: dict[tuple[float, bool], list[Arranged]] = {}
        self._shown: dict[tuple[float, bool], list[tuple[Viewed, Sequence[Shown]]]] = {}
        self._cuts, self._titles = cut_lines(found), titles_of(found)

    def rows(self, scale: float, details: bool) -> list[Arranged]:
        """All views at a scale, without their notes; ``details``: what is small there drawn again, after them."""
        details = details and self.has_details(scale)
        if (scale, details) not in self._rows:
            self._rows[scale, details] = [in_rows_only(v, s, scale, self._pad) for v, s in self._viewed(scale, details)]
        return self._rows[scale, details]

    def at(self, scale: float, details: bool) -> list[Arranged]:
        """All views at a scale."""
        details = details and self.has_details(scale)
        if (scale, details) not in self._known:
            self._known[scale, details] = [
                with_notes(v, s, scale, self._pad)
                for v, (_, s) in zip(self.rows(scale, details), self._viewed(scale, details), strict=True)
            ]
        return self._known[scale, details]

    def has_details(self, scale: float) -> bool:
        """Whether something is drawn again at a scale."""
        return any(v.detail is not None for v, _ in self._viewed(scale, details=True))

    def _viewed(self, scale: float, details: bool) -> list[tuple[Viewed, Sequence[Shown]]]:
        """What each view shows, and its notes."""
        if (scale, details) not in self._shown:
            self._shown[scale, details] = self._parts(scale, details)
        return self._shown[scale, details]

    def _parts(self, scale: float, details: bool) -> list[tuple[Viewed, Sequence[Shown]]]:
        letters = letters_left(self._found)
        sides: list[tuple[Viewed, Sequence[Shown]]] = []
        small: list[tuple[Viewed, Sequence[Shown]]] = []
        for s in self._figured.sides:
            found, shown = details_of(s, list(self._of(s.side)), scale, letters) if details else ([], self._of(s.side))
            sides.append(
                (Viewed(s, self._cuts.get(s.side, ()), found, None, self._titles.get(s.side, "")), list(shown))
            )
            small += [(Viewed(enlarged(s, d), detail=d, title=d.title), d.shown) for d in found]
        return sides + small

    def _of(self, side: str) -> Iterator[Shown]:
        return (s for s in self._found.shown if s.side == side)

    @property
    def widest(self) -> float:
        """Of the part, mm."""
        low, high = self._figured.stood.low, self._figured.stood.high
        return max(b - a for a, b in zip(low, high, strict=True))

    def may_fit(self, scale: float, size: str) -> bool:
        """Whether the bare views have a chance."""
        return self.widest * scale < max(SIZES[size])


def _tries(arrange: _Arranging, sizes: Sequence[str], scales: Sequence[float]) -> Iterator[tuple[str, float]]:
    """Small sheets at full size or enlarged, then reduced; then larger sheets; last what would be very small."""
    both = [(size, scale) for size in sizes for scale in scales if arrange.may_fit(scale, size)]
    handy = sizes[:HANDY]

    def rank(it: tuple[str, float]) -> int:
        size, scale = it
        if arrange.widest * scale < LEAST:
            return 3
        return 2 if size not in handy else int(scale < 1)

    yield from sorted(both, key=rank)
