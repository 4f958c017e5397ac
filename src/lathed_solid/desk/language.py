"""The interface's language: English words become another's where they are shown.

All words of another language stand in one catalogue (``words/de.po``, in gettext's format). A message is the text as
the window shows it in English, with ``{}`` where something is put in. A text is looked up as a whole, then line by
line, an error's by its pieces, then among the messages with holes, those that say most first, then part by part (what
``·`` or ``;`` divides); what stands in a hole is looked up in turn. What is in no message is shown as it is. Decimal
points become the language's comma in texts and holes that are nothing but numbers with their signs and units.
"""

from __future__ import annotations

import os
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from pathlib import Path

from lathed_solid.files.user_settings import LANGUAGES
from lathed_solid.guide.edition import Edition

WORDS = Path(__file__).parent / "words"
#: what divides a text into lines, and into parts that are looked up each by itself
LINES, PARTS = ("\t", "\n"), ("  ·  ", " · ", "        ", "; ", " — ", " → ")
#: between what an error says and its rule; between its place and it
SENTENCE, PLACE = "; ", ": "
HOLES = re.compile(r"(?:\{\})+")
#: units that stand with numbers, and what is no number (a date, a version)
UNITS = re.compile(r"(?<![A-Za-zÄÖÜäöüß])(?:mm|in|kg|g|ms|s|MiB|µm|x)(?![A-Za-zÄÖÜäöüß])")
NO_NUMBER = re.compile(r"\d\.\d+\.\d")
POINT = re.compile(r"(?<=\d)\.(?=\d)")
#: an error's line (``errors.py``): where, what and rule; what was received; what to try
ERROR = re.compile(r"(?P<what>.+?)(?: \(received (?P<received>.*?)\))?(?:\. Try: (?P<hint>.+))?", re.DOTALL)
#: between what a word is about and the word (gettext)
CONTEXT = "\x04"
#: texts that were looked up are remembered
KNOWN = 8192


@dataclass(frozen=True)
class Message:
    """A message with holes: how it is known, what it becomes (``{}`` or ``{0}``, ``{1}`` where the holes go)."""

    pattern: re.Pattern[str]
    text: str

    @cached_property
    def has_lines(self) -> bool:
        """Whether it stands in several lines."""
        return "\n" in self.pattern.pattern

    @cached_property
    def is_divided(self) -> bool:
        """Whether it is of two sentences: what divides them parts no other message."""
        return re.escape(SENTENCE) in self.pattern.pattern


@dataclass(frozen=True)
class Catalogue:
    """All words of a language: whole texts, and messages with holes by their first letters, the longest first."""

    whole: dict[str, str]
    begun: dict[str, tuple[Message, ...]]
    open: tuple[Message, ...]


_words: Catalogue | None = None
_language = "en"


def speak(language: str) -> None:
    """Use a language (``en``, ``de``) from now on. Raises KeyError for one that is not shipped."""
    global _words, _language
    if language not in LANGUAGES:
        raise KeyError(language)
    _language = language
    _words = None if language == "en" else read_catalogue(WORDS / f"{language}.po")
    _looked_up.cache_clear()


def desktop_language() -> str:
    """The desktop's language where it is shipped, else English."""
    told = next((v for k in ("LC_ALL", "LC_MESSAGES", "LANG") if (v := os.environ.get(k))), "")
    return told[:2] if told[:2] in LANGUAGES else "en"


def spoken(text: str, about: str = "") -> str:
    """A text as it is shown in the interface's language; ``about``: of what, where a word means several things."""
    if _words is None or not text:
        return text
    return _words.whole.get(f"{about}{CONTEXT}{text}") or _looked_up(text)


def edition() -> Edition:
    """The guide in the interface's language."""
    return Edition(_language, spoken)


def has_comma() -> bool:
    """Whether numbers are shown with a comma."""
    return _words is not None


def number(text: str) -> str:
    """A number as it is shown: with the language's comma."""
    return POINT.sub(",", text) if _words is not None else text


def read_catalogue(path: Path) -> Catalogue:
    """The words of a language. Raises OSError, ValueError for a file that is none."""
    import polib  # type: ignore[import-untyped]

    whole: dict[str, str] = {}
    begun: dict[str, list[tuple[int, Message]]] = {}
    for entry in polib.pofile(str(path)):
        if not entry.msgstr or entry.obsolete:
            continue
        told, said = (HOLES.sub("{}", text) for text in (entry.msgid, entry.msgstr))  # what touches is one hole
        pieces = told.split("{}")
        if len(pieces) == 1:
            whole[f"{entry.msgctxt}{CONTEXT}{entry.msgid}" if entry.msgctxt else entry.msgid] = entry.msgstr
            continue
        pattern = re.compile("(.+?)".join(map(re.escape, pieces)), re.DOTALL)
        begun.setdefault(pieces[0][:1], []).append((sum(map(len, pieces)), Message(pattern, said)))
    ordered = {head: tuple(m for _, m in sorted(found, key=lambda it: -it[0])) for head, found in begun.items()}
    return Catalogue(whole, ordered, ordered.pop("", ()))


@lru_cache(maxsize=KNOWN)
def _looked_up(text: str) -> str:
    assert _words is not None
    found = _words.whole.get(text)
    if found is not None:
        return found
    if _is_number(text):
        return number(text)
    by_lines = _put_in(text, lines=True) or _parted(text, LINES)
    return by_lines or _error(text) or _put_in(text, lines=False) or _parted(text, PARTS) or text


def _error(text: str) -> str | None:
    """An error's line by its pieces, what was received as it was; None for a text that is none."""
    found = ERROR.fullmatch(text)
    if found is None or (found["received"] is None and found["hint"] is None):
        return None
    received = f" ({_looked_up('received')} {found['received']})" if found["received"] is not None else ""
    hint = f". {_looked_up('Try:')} {_looked_up(found['hint'])}" if found["hint"] is not None else ""
    return f"{_looked_up(found['what'])}{received}{hint}"


def _put_in(text: str, *, lines: bool) -> str | None:
    """By a message with holes, of several ``lines`` or of one; None for a text that is none. A message known by its
    first letters goes before a place in front of one, and that before messages that begin with a hole.
    """
    assert _words is not None
    if lines and "\n" not in text:
        return None
    found = _filled(text, _words.begun.get(text[:1], ()), lines)
    if found is not None or (not lines and (found := _placed(text)) is not None):
        return found
    return _filled(text, _words.open, lines)


def _filled(text: str, messages: Sequence[Message], lines: bool) -> str | None:
    """By the first of these messages that a text is."""
    whole = lines or SENTENCE not in text
    for message in messages:
        fits = message.has_lines == lines and (whole or message.is_divided)
        if fits and (match := message.pattern.fullmatch(text)) is not None:
            return message.text.format(*map(_looked_up, match.groups()))
    return None


def _placed(text: str) -> str | None:
    """A place and a message known by its first letters: ``station 2: there is no corner here``."""
    assert _words is not None
    where, _, what = text.partition(PLACE)
    if not what or SENTENCE in text:
        return None
    said = _words.whole.get(what) or _filled(what, _words.begun.get(what[:1], ()), lines=False)
    return said and f"{_looked_up(where)}{PLACE}{said}"


def _is_number(text: str) -> bool:
    """Whether a text is nothing but numbers, with signs and units."""
    bare = UNITS.sub("", text)
    return any(c.isdigit() for c in bare) and not any(c.isalpha() for c in bare) and not NO_NUMBER.search(text)


def _parted(text: str, dividers: Sequence[str]) -> str | None:
    """Each part by itself where one of these divides a text; else None."""
    divider = next((d for d in dividers if d in text), None)
    if divider is None:
        return None
    return divider.join(_looked_up(part) if part.strip() else part for part in text.split(divider))
