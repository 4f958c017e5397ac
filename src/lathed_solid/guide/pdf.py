"""The guide as PDF: A4, the shipped fonts, contents that can be clicked, page numbers."""

from __future__ import annotations

import html
import io
from collections.abc import Iterator
from functools import cache, partial
from typing import Any

from markdown_it.token import Token

from lathed_solid.guide.edition import ENGLISH, Edition
from lathed_solid.guide.html import TITLE, picture, tokens
from lathed_solid.guide.pages import PAGES, page, title_of
from lathed_solid.reports.pen import ASSETS, BODY, DRAWING, INK, LINE, MM, QUIET, TINT, register_fonts

BOLD, TYPED = "body-bold", "typed"
WIDTH = 178 * MM


def guide_pdf(edition: Edition = ENGLISH) -> bytes:
    """All pages, each on a new sheet, with their bookmarks."""
    from reportlab.lib.pagesizes import A4
    from reportlab.platypus import PageBreak, SimpleDocTemplate

    _register()
    out = io.BytesIO()
    margin = 16 * MM
    document = SimpleDocTemplate(
        out, pagesize=A4, leftMargin=margin, rightMargin=margin, topMargin=18 * MM, bottomMargin=18 * MM,
        title=edition.spoken(TITLE), author="Lathed Solid", invariant=True,
    )  # fmt: skip
    story: list[Any] = list(_contents(edition))
    for p in PAGES:
        story += [PageBreak(), *_flowables(p.name, edition)]
    footed = partial(_footed, edition.spoken(TITLE))
    document.build(story, onFirstPage=footed, onLaterPages=footed)
    return out.getvalue()


def _register() -> None:
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    register_fonts()
    for name, file in ((BOLD, "Barlow_600SemiBold.ttf"), (TYPED, "DejaVuSansMono.ttf")):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, str(ASSETS / file)))
    pdfmetrics.registerFontFamily(BODY, normal=BODY, bold=BOLD, italic=BODY, boldItalic=BOLD)


def _footed(title: str, canvas: Any, document: Any) -> None:
    canvas.saveState()
    canvas.setFont(BODY, 8)
    canvas.setFillColor(QUIET)
    canvas.drawRightString(194 * MM, 10 * MM, str(document.page))
    canvas.drawString(16 * MM, 10 * MM, title)
    canvas.restoreState()


@cache
def _styles() -> dict[str, Any]:
    from reportlab.lib.styles import ParagraphStyle

    plain = ParagraphStyle("plain", fontName=BODY, fontSize=10, leading=14, textColor=INK, spaceAfter=6)
    return {
        "p": plain,
        "h1": ParagraphStyle("h1", plain, fontName=BOLD, fontSize=18, leading=22, spaceAfter=10),
        "h2": ParagraphStyle("h2", plain, fontName=BOLD, fontSize=12.5, leading=16, spaceBefore=8),
        "cell": ParagraphStyle("cell", plain, fontSize=9, leading=12, spaceAfter=0),
        "pre": ParagraphStyle("pre", plain, fontName=TYPED, fontSize=7.2, leading=8.4, backColor=TINT,
                              borderPadding=5, spaceBefore=4, spaceAfter=10),
    }  # fmt: skip


def _contents(edition: Edition) -> Iterator[Any]:
    from reportlab.platypus import Paragraph

    styles = _styles()
    yield Paragraph(html.escape(edition.spoken(TITLE)), styles["h1"])
    for p in PAGES:
        yield Paragraph(f'<a href="#{p.name}" color="{INK}">{html.escape(title_of(p.name, edition))}</a>', styles["p"])


def _symbols(words: str) -> str:
    """Escaped, with letters that the body font lacks in a font that has them."""
    out = []
    for c in words:
        font = _font_of(c)
        out.append(html.escape(c) if font == BODY else f'<font name="{font}">{c}</font>')
    return "".join(out)


@cache
def _font_of(letter: str) -> str:
    from reportlab.pdfbase.pdfmetrics import getFont

    fonts = (BODY, DRAWING, TYPED)
    return next((f for f in fonts if ord(letter) in getFont(f).face.charToGlyph), BODY)


def _inline(children: list[Token]) -> str:
    """Paragraph markup of inline Markdown; pictures are flowables of their own."""
    out = []
    for t in children:
        if t.type == "text":
            out.append(_symbols(t.content))
        elif t.type == "code_inline":
            out.append(f'<font backColor="{TINT}">{_symbols(t.content)}</font>')
        elif t.type in ("softbreak", "hardbreak"):
            out.append(" ")
        elif t.type in ("strong_open", "strong_close"):
            out.append("<b>" if t.type.endswith("open") else "</b>")
        elif t.type in ("em_open", "em_close"):
            out.append(f'<font color="{QUIET}">' if t.type.endswith("open") else "</font>")
        elif t.type == "link_open":
            target = str(t.attrs["href"])
            name = "exercises" if target.startswith("exercise:") else page(target).name
            out.append(f'<a href="#{name}" color="#87601F">')
        elif t.type == "link_close":
            out.append("</a>")
    return "".join(out)


def _flowables(name: str, edition: Edition) -> Iterator[Any]:
    """A page's blocks: headings, paragraphs, pictures, lists, tables, code."""
    from reportlab.platypus import Image, Paragraph, Preformatted

    styles = _styles()
    heading, marks = "", list[int | None]()
    table: list[list[Any]] = []
    for t in tokens(name, edition):
        if t.type == "heading_open":
            heading = "h1" if t.tag == "h1" else "h2"
        elif t.type == "heading_close":
            heading = ""
        elif t.type in ("bullet_list_open", "ordered_list_open"):
            marks.append(0 if t.type.startswith("ordered") else None)
        elif t.type in ("bullet_list_close", "ordered_list_close"):
            marks.pop()
        elif t.type == "list_item_open" and (count := marks[-1]) is not None:
            marks[-1] = count + 1
        elif t.type == "tr_open":
            table.append([])
        elif t.type == "table_close":
            yield from _table(table)
            table = []
        elif t.type in ("fence", "code_block"):
            yield Preformatted(t.content.rstrip(), styles["pre"])
        elif t.type == "inline":
            children = t.children or []
            shown = next((c for c in children if c.type == "image"), None)
            words = _inline(children)
            if table:
                table[-1].append(Paragraph(words, styles["cell"]))
            elif shown is not None:
                file = picture(str(shown.attrs["src"]))
                image = Image(str(file), width=WIDTH, height=WIDTH * _shape(file), kind="proportional")
                yield image
            elif heading:
                anchor = f'<a name="{name}"/>' if heading == "h1" else ""
                yield Paragraph(anchor + words, styles[heading])
            elif marks:
                number = "•" if marks[-1] is None else f"{marks[-1]}."
                yield Paragraph(words, _item(len(marks)), bulletText=number)
            else:
                yield Paragraph(words, styles["p"])


@cache
def _item(depth: int) -> Any:
    from reportlab.lib.styles import ParagraphStyle

    return ParagraphStyle(f"item{depth}", _styles()["p"], leftIndent=16 * depth, bulletIndent=16 * depth - 14,
                          spaceAfter=3)  # fmt: skip


def _shape(file: Any) -> float:
    from PIL import Image as Picture

    with Picture.open(file) as found:
        return found.height / found.width


def _table(rows: list[list[Any]]) -> Iterator[Any]:
    from reportlab.platypus import Spacer, Table

    columns = len(rows[0])
    first = 0.24 if columns < 4 else 1 / columns
    widths = [WIDTH * first] + [WIDTH * (1 - first) / (columns - 1)] * (columns - 1)
    style = [("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE), ("VALIGN", (0, 0), (-1, -1), "TOP"),
             ("LEFTPADDING", (0, 0), (0, -1), 0)]  # fmt: skip
    yield Table(rows, widths, style=style)
    yield Spacer(1, 8)
