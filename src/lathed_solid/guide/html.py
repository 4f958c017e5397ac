"""The guide as HTML: a page for the window, or all pages in one file that needs no other.

Markdown is turned by markdown-it (CommonMark and tables; raw HTML in it is shown as text). A picture is named by its
stem, ``![words](shape)``; a link by its page, ``[words](proof)``, or ``exercise:NAME`` to begin one.
"""

from __future__ import annotations

import base64
import html
from collections.abc import Callable
from functools import cache
from pathlib import Path

from markdown_it import MarkdownIt
from markdown_it.token import Token

from lathed_solid.guide.edition import ENGLISH, Edition
from lathed_solid.guide.pages import PAGES, PICTURES, page, text_of, title_of
from lathed_solid.reports.pen import INK, LINE, QUIET, TINT

STYLE = f"""
body {{ font: 16px/1.5 sans-serif; color: {INK}; background: #F5F2EA; margin: 0; }}
main, nav {{ max-width: 50em; margin: 0 auto; padding: 1em; }}
section {{ margin: 0 0 4em; }}
img {{ max-width: 100%; border: 1px solid {LINE}; }}
table {{ border-collapse: collapse; }}
td, th {{ border-bottom: 1px solid {LINE}; padding: 4px 12px 4px 0; text-align: left; vertical-align: top; }}
code, pre {{ background: {TINT}; padding: 0 3px; }}
pre {{ padding: 8px 12px; overflow-x: auto; line-height: 1.3; }}
nav a {{ display: block; color: {INK}; }}
small {{ color: {QUIET}; }}
"""

Linked = Callable[[str], str]

TITLE = "Lathed Solid: the guide"


@cache
def parser() -> MarkdownIt:
    """CommonMark with tables; what looks like HTML is text."""
    return MarkdownIt("commonmark", {"html": False}).enable("table")


def tokens(name: str, edition: Edition = ENGLISH) -> list[Token]:
    """A page's Markdown, parsed. Raises LathedError."""
    return parser().parse(text_of(name, edition))


def picture(name: str) -> Path:
    """The file of a picture, by its stem."""
    return PICTURES / f"{Path(name).name}.jpg"


def body(name: str, image: Linked, link: Linked, edition: Edition = ENGLISH) -> str:
    """A page as HTML; ``image`` and ``link`` make the addresses of pictures and of what is linked."""
    found = tokens(name, edition)
    for token in found:
        for child in token.children or ():
            if child.type == "image":
                child.attrs["src"] = image(str(child.attrs["src"]))
            elif child.type == "link_open":
                child.attrs["href"] = link(str(child.attrs["href"]))
    return str(parser().renderer.render(found, parser().options, {}))


def whole(edition: Edition = ENGLISH) -> str:
    """All pages as one file, pictures within it."""

    def embedded(name: str) -> str:
        return "data:image/jpeg;base64," + base64.b64encode(picture(name).read_bytes()).decode("ascii")

    def address(target: str) -> str:
        return "#exercises" if target.startswith("exercise:") else f"#{page(target).name}"

    contents = "".join(f'<a href="#{p.name}">{html.escape(title_of(p.name, edition))}</a>' for p in PAGES)
    pages = "".join(f'<section id="{p.name}">{body(p.name, embedded, address, edition)}</section>' for p in PAGES)
    return (
        f'<!DOCTYPE html><html lang="{edition.language}"><head><meta charset="utf-8">'
        f'<meta name="viewport" content="width=device-width"><title>{html.escape(edition.spoken(TITLE))}</title>'
        f"<style>{STYLE}</style></head><body><nav><h1>Lathed Solid</h1>{contents}</nav>"
        f"<main>{pages}</main></body></html>"
    )
