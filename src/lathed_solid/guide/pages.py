"""The guide's pages in their order, which desk each belongs to, and finding words in them.

A page is Markdown (CommonMark with tables), in a folder for each language. The page of keys is written from the table
of actions, so that it cannot tell of a key that is not there.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from pathlib import Path

from lathed_solid.errors import LathedError
from lathed_solid.guide.edition import ENGLISH, Edition

HERE = Path(__file__).parent
PICTURES = HERE / "pictures"


@dataclass(frozen=True)
class Page:
    """``name`` is its file and its anchor; ``places``: desks and panes whose help it is."""

    name: str
    title: str
    places: tuple[str, ...] = ()


PAGES = (
    Page("start", "What this is, and the window"),
    Page("caliper", "First part from a caliper", ("read", "read: caliper log")),
    Page("drawing", "First part from a drawing", ("read: sheets", "read: chains")),
    Page("turned", "Turned parts", ("shape", "shape: turned")),
    Page("sketches", "Sketches", ("shape: sketch",)),
    Page("holes", "Holes, threads and the other steps", ("shape: hole", "shape: step")),
    Page("proof", "Proof, and what each word means", ("prove", "prove: verdicts", "prove: by hand", "prove: coverage")),
    Page("suspects", "Suspects: which slip explains it", ("prove: suspects", "prove: what matters", "prove: drawing")),
    Page("exercises", "Three exercises", ("prove: exercise",)),
    Page("fit", "Parts put together", ("fit",)),
    Page("hand-over", "What leaves the bench", ("hand over",)),
    Page("writing", "Notes, numbers and expressions"),
    Page("safe", "Files, undo, and what is never lost"),
    Page("command-line", "Without the window"),
    Page("scripting", "Parts in Python"),
    Page("keys", "Every key"),
)


def page(name: str) -> Page:
    """By its name. Raises LathedError for one that is not there."""
    found = next((p for p in PAGES if p.name == name), None)
    if found is None:
        raise LathedError(f"the guide has no page {name!r}", hint=", ".join(p.name for p in PAGES))
    return found


def page_for(place: str) -> Page:
    """The page that belongs to a desk, or to a pane of it ("prove: suspects"); the first page for none."""
    desk = place.partition(":")[0]
    return next((p for wanted in (place, desk) for p in PAGES if wanted in p.places), PAGES[0])


@cache
def text_of(name: str, edition: Edition = ENGLISH) -> str:
    """A page's Markdown, from its title on. Raises LathedError."""
    if page(name).name == "keys":
        from lathed_solid.guide.keys import keys_page

        return keys_page(edition)
    return (HERE / edition.language / f"{name}.md").read_text("utf-8")


def title_of(name: str, edition: Edition = ENGLISH) -> str:
    """A page's title as it stands over its text. Raises LathedError."""
    return page(name).title if edition.language == "en" else text_of(name, edition).partition("\n")[0].strip("# ")


def find(words: str, edition: Edition = ENGLISH) -> tuple[Page, ...]:
    """The pages that have all these words (case does not matter); those with one in the title first."""
    wanted = words.lower().split()[:20]
    if not wanted:
        return ()
    titles = {p.name: title_of(p.name, edition).lower() for p in PAGES}
    found = [p for p in PAGES if all(w in titles[p.name] or w in text_of(p.name, edition).lower() for w in wanted)]
    return tuple(sorted(found, key=lambda p: not any(w in titles[p.name] for w in wanted)))
