"""From the figures of a proven part to its drawing: views, dimensions, sheet and scale, frame and title.

Two questions go to the geometry: where each callout can be drawn, and, once sides are chosen, their hidden lines.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from lathed_solid.engine.protocol import DrawFigures, Figured
from lathed_solid.kernel.drawing.figures import Place
from lathed_solid.part import Document
from lathed_solid.part.drawing_style import DrawingStyle, SectionName
from lathed_solid.proof.inspection import document_hash
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.reports.drawing.balloons import balloons_of
from lathed_solid.reports.drawing.choosing import Chosen, chosen
from lathed_solid.reports.drawing.fitting import DrawingError, Fitting
from lathed_solid.reports.drawing.model import Dimension, DrawnSheet, DrawnView, Leader, Stroke, Words, shifted
from lathed_solid.reports.drawing.sheets import INCH, METRIC, SIZES, Angle
from lathed_solid.reports.drawing.title import Titles, framed, noted, ratio, wrapped
from lathed_solid.reports.drawing.views import Arranged
from lathed_solid.reports.status import status_of

Ask = Callable[[DrawFigures], Figured]


def wanted_style(
    style: DrawingStyle, size: str, angle: str | None, scale: float | None, balloons: bool = False,
    section: str | None = None,
) -> DrawingStyle:  # fmt: skip
    """A style with what is asked otherwise. Raises DrawingError for a scale that is none."""
    told = {"size": size.upper(), "angle": angle, "scale": scale, "balloons": balloons, "section": section}
    try:
        return DrawingStyle.model_validate(style.model_dump() | {k: v for k, v in told.items() if v})
    except ValueError:
        raise DrawingError("this is no scale", received=f"{scale}", hint="2 for 2:1, 0.5 for 1:2") from None


def drawing(
    document: Document, ask: Ask, style: DrawingStyle | None = None, spoken: Spoken = as_it_is
) -> tuple[DrawnSheet, ...]:
    """The drawing of a part, on more sheets than one where its notes need them; ``spoken``: the words of its title
    block. Raises DrawingError where it fits on no sheet that is allowed.
    """
    style = document.drawing if style is None else style
    found, figured = figures_of(document, ask, style.section)
    return drawn(document, figured, found, style, spoken)


def figures_of(document: Document, ask: Ask, section: SectionName = "") -> tuple[Chosen, Figured]:
    """What is drawn where, and the sides with their hidden lines: all that the geometry has to say."""
    first = ask(DrawFigures(document=document))
    found = chosen(document.notes, first.callouts, first.stood, section)
    return found, ask(DrawFigures(document=document, sides=found.sides, places=False))


def drawn(
    document: Document, figured: Figured, found: Chosen, style: DrawingStyle, spoken: Spoken = as_it_is
) -> tuple[DrawnSheet, ...]:
    """The sides with all their notes. Raises DrawingError."""
    angle: Angle = style.angle or ("third" if document.unit == "in" else "first")
    general = (*(left.text for left in found.left_out), *document.instructions)
    notes = tuple(line for text in general for line in wrapped(text))
    parted = Fitting(figured, style, angle, notes).sheets(found, _sizes(document, style))
    titles = _titles(document, figured, style)
    out = []
    for n, (size, scale, views, at) in enumerate(parted, 1):
        width, height = SIZES[size]
        sheet = DrawnSheet(document.name, size, width, height, scale, document.unit, left_out=found.left_out)
        for view, origin in zip(views, at.origins, strict=True):
            sheet = _with_view(sheet, view, _moved(origin, _shift(style, view=view.name)))
        sheet = _by_hand(sheet, style)
        sheet = replace(sheet, balloons=tuple(balloons_of(sheet))) if style.balloons else sheet
        number = spoken(f"{size}, {n} of {len(parted)}") if len(parted) > 1 else size
        strokes, words = framed(size, ratio(scale), angle, replace(titles, sheet=number), spoken)
        out.append(sheet.with_more(strokes, [*words, *noted(notes, size)[0]]))
    return tuple(out)


def _sizes(document: Document, style: DrawingStyle) -> Sequence[str]:
    if style.size:
        if style.size not in SIZES:
            raise DrawingError("there is no such sheet", received=style.size, hint=f"one of {', '.join(SIZES)}")
        return (style.size,)
    return tuple(INCH if document.unit == "in" else METRIC)


def _titles(document: Document, figured: Figured, style: DrawingStyle) -> Titles:
    general, mass = document.general, figured.summary.get("mass_g")
    return Titles(
        document.name, document.material, str(general), {"mm": "mm", "in": "inch"}[document.unit],
        "–" if mass is None else f"{mass:.4g} g", style.revisions, document_hash(document)[:10],
        status_of(figured.report),
    )  # fmt: skip


def _with_view(sheet: DrawnSheet, view: Arranged, by: Place) -> DrawnSheet:
    strokes = tuple(Stroke(shifted(s.curve, 1.0, by), s.pen) for s in view.strokes)
    hatched = tuple(tuple(_moved(p, by) for p in run) for run in view.hatched)
    left, low, right, high = view.box
    box = (left + by[0], low + by[1], right + by[0], high + by[1])
    it = DrawnView(view.name, by, box, view.side.cut is not None, view.title)
    pointers = ((_moved(tip, by), _moved(back, by)) for tip, back in view.pointers)
    return replace(
        sheet, views=(*sheet.views, it), strokes=(*sheet.strokes, *strokes), hatched=(*sheet.hatched, *hatched),
        dimensions=(*sheet.dimensions, *(_dimension(d, by) for d in view.dimensions)),
        leaders=(*sheet.leaders, *(_leader(n, by) for n in view.leaders)),
        words=(*sheet.words, *(_words(w, by) for w in view.words)), pointers=(*sheet.pointers, *pointers),
    )  # fmt: skip


def _shift(style: DrawingStyle, balloon: int = 0, view: str = "") -> Place:
    """How far a note or a view was moved by hand."""
    return next(((m.x, m.y) for m in style.moved if (m.balloon, m.view) == (balloon, view)), (0.0, 0.0))


def _by_hand(sheet: DrawnSheet, style: DrawingStyle) -> DrawnSheet:
    """Notes where a person put them: a dimension's line goes across, its number along; a leader keeps its tip."""
    if not style.moved:
        return sheet
    dimensions = tuple(_put(d, _shift(style, d.balloons[0])) for d in sheet.dimensions)
    leaders = tuple(replace(_leader(n, _shift(style, n.balloons[0])), tip=n.tip, opening=n.opening)
                    for n in sheet.leaders)  # fmt: skip
    return replace(sheet, dimensions=dimensions, leaders=leaders)


def _put(d: Dimension, by: Place) -> Dimension:
    return replace(d, row=d.row + by[0 if d.upright else 1], words=_words(d.words, by))


def _moved(p: Place, by: Place) -> Place:
    return p[0] + by[0], p[1] + by[1]


def _words(w: Words, by: Place) -> Words:
    return replace(w, at=_moved(w.at, by))


def _dimension(d: Dimension, by: Place) -> Dimension:
    row = d.row + by[0 if d.upright else 1]
    return replace(d, start=_moved(d.start, by), end=_moved(d.end, by), row=row, words=_words(d.words, by))


def _leader(n: Leader, by: Place) -> Leader:
    opening = n.opening
    if opening is not None:
        arc = replace(opening.arc, centre=_moved(opening.arc.centre, by))
        witnesses = tuple((_moved(a, by), _moved(b, by)) for a, b in opening.witnesses)
        opening = replace(opening, arc=arc, witnesses=witnesses)
    return replace(n, tip=_moved(n.tip, by), elbow=_moved(n.elbow, by), shelf=_moved(n.shelf, by),
                   words=tuple(_words(w, by) for w in n.words), opening=opening)  # fmt: skip
