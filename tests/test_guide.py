"""The guide: every command in it is run and prints what the page says, every figure is printed by one, every note is
read, every key is one, every link and picture is there; HTML and PDF hold all pages.
"""

from __future__ import annotations

import html
import io
import re
import shlex
from collections import Counter
from collections.abc import Iterator
from html.parser import HTMLParser
from pathlib import Path

import pypdfium2
import pytest
from click.testing import CliRunner, Result

from lathed_solid.cli import cli
from lathed_solid.errors import LathedError
from lathed_solid.exercises import EXERCISES
from lathed_solid.guide import ENGLISH, PAGES, Edition, find, page, page_for, text_of, title_of
from lathed_solid.guide.html import body, picture, tokens, whole
from lathed_solid.guide.pages import HERE, PICTURES
from lathed_solid.guide.written import written
from lathed_solid.notation import read_note
from lathed_solid.workbench.actions import ACTIONS, find_action

NAMES = [p.name for p in PAGES]
GERMAN = Edition("de")
WRITTEN = [n for n in NAMES if n != "keys"]


def fences(name: str, kind: str) -> Iterator[str]:
    return (t.content for t in tokens(name) if t.type == "fence" and t.info == kind)


def inline(name: str, kind: str) -> Iterator[str]:
    """Contents, or addresses, of the inline tokens of one kind."""
    for t in tokens(name):
        for child in t.children or ():
            if child.type == kind:
                yield child.content or str(child.attrs.get("href", child.attrs.get("src", "")))


def told(result: Result) -> list[str]:
    return [line.rstrip() for line in result.output.splitlines()]


def matches(expected: list[str], printed: list[str]) -> bool:
    """Each line as it is, in order; ``...`` stands for any number of lines."""
    if not expected:
        return not printed
    if expected[0] == "...":
        return any(matches(expected[1:], printed[k:]) for k in range(len(printed) + 1))
    return bool(printed) and printed[0] == expected[0].rstrip() and matches(expected[1:], printed[1:])


@pytest.mark.parametrize("name", [n for n in WRITTEN if any(fences(n, "console"))])
def test_commands_print_what_the_page_says(name: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    monkeypatch.setenv("COLUMNS", "80")
    everything = []
    for block in fences(name, "console"):
        for asked in block.split("$ ")[1:]:
            command, *expected = asked.rstrip("\n").splitlines()
            program, *words = shlex.split(command)
            assert program == "lathed-solid"
            result = CliRunner().invoke(cli, words, standalone_mode=False)
            assert result.exception is None, (command, result.exception)
            assert matches(expected, told(result)), (command, result.output)
            everything.append(result.output)
    printed = " ".join(everything)
    for figure in re.findall(r"[\d.]+ (?:g|mm³)\b", " ".join(inline(name, "text"))):
        assert figure in printed, f"{figure} is printed by no command of the page"


def test_the_matcher_can_fail() -> None:
    assert matches(["...", "b"], ["a", "b"]) and matches(["a", "..."], ["a"])
    assert not matches(["...", "c"], ["a", "b"]) and not matches(["a"], ["a", "b"]) and not matches(["a", "b"], ["a"])


def test_the_python_is_run(capsys: pytest.CaptureFixture[str]) -> None:
    names: dict[str, object] = {}
    for block in fences("scripting", "python"):
        exec(block, names)
    (said,) = fences("scripting", "text")
    assert capsys.readouterr().out == said


def test_other_commands_are_commands() -> None:
    shown = [line for n in WRITTEN for block in fences(n, "sh") for line in block.splitlines()]
    shown += [code for n in WRITTEN for code in inline(n, "code_inline") if code.startswith("lathed-solid ")]
    assert len(shown) > 6
    for line in shown:
        word = shlex.split(line)[1]
        assert word in cli.commands or word in ("FILE", "COMMAND"), line


def test_notes_keys_links_and_pictures_are_what_they_say() -> None:
    keys = {a.keys for a in ACTIONS} | {"Enter", "Esc", "Tab", "Home", "F2", "/", "D", "L", "C", "R", "A", "K", "B"}
    keys |= {"Shift+D", "Shift+J", "Shift+W", "Shift+B", "Alt+T", "Alt+K", "1", "9", "→", "←", "N"}
    for name in WRITTEN:
        for code in inline(name, "code_inline"):
            if re.fullmatch(r"(Ctrl|Shift|Alt)\+.*|[A-Z]|F\d+|Esc|Tab|Enter|Home|\d|[→←/]", code):
                assert code in keys, (name, code)
            elif re.match(r"(\d+X )?[⌀ØRM]\d|1x45°|Tr\d|\d/\d+-|G1", code):
                assert not read_note(code, unit="mm").unread, (name, code)
        for target in inline(name, "link_open"):
            kind, _, task = target.partition(":")
            assert target in NAMES or (kind == "exercise" and task in {e.name for e in EXERCISES}), (name, target)
    shown = {name for n in WRITTEN for name in pictures(n)}
    assert shown == {p.stem for p in PICTURES.glob("*.jpg")}
    assert all(picture(name).stat().st_size < 200_000 for name in shown)
    assert {p.stem for p in (HERE / "en").glob("*.md")} == set(WRITTEN)


def pictures(name: str) -> list[str]:
    return [str(c.attrs["src"]) for t in tokens(name) for c in t.children or () if c.type == "image"]


def test_words_in_quotation_are_actions() -> None:
    for title in ("Decide on a disputed note", "Compare with an earlier moment", "Write the inspection sheet",
                  "Write the package", "Unsaved work that waits…", "add a sketch"):  # fmt: skip
        assert any(title in text_of(n) for n in WRITTEN) and find_action(title) is not None, title


def _content(name: str, edition: Edition) -> dict[str, object]:
    """What a page must have in every language: commands, notes, keys, pictures, links, headings, tables, lists."""
    found = tokens(name, edition)
    children = [c for t in found for c in t.children or ()]
    return {
        "fences": [t.content for t in found if t.type == "fence"],
        "code": Counter(c.content for c in children if c.type == "code_inline"),
        "pictures": [c.attrs["src"] for c in children if c.type == "image"],
        "links": sorted(str(c.attrs["href"]) for c in children if c.type == "link_open"),
        "shape": [t.tag for t in found if t.type in ("heading_open", "tr_open", "list_item_open", "table_open")],
    }


@pytest.mark.parametrize("name", WRITTEN)
def test_the_german_page_has_all_of_the_english_one(name: str) -> None:
    english, german = _content(name, ENGLISH), _content(name, GERMAN)
    if name == "start":  # an action is typed by its German name there
        english["code"] -= Counter({"add a sketch": 1})  # type: ignore[operator]
    assert german == english
    assert title_of(name, GERMAN) != title_of(name) == page(name).title
    assert {p.stem for p in (HERE / "de").glob("*.md")} == set(WRITTEN)


def test_the_german_guide_is_written_and_found() -> None:
    text = written(".html", GERMAN).decode("utf-8")
    assert 'lang="de"' in text and all(html.escape(title_of(n, GERMAN)) in text for n in NAMES)
    assert [p.name for p in find("Passfedernuten", GERMAN)] == ["turned"] and find("Passfedernuten") == ()
    document = pypdfium2.PdfDocument(io.BytesIO(written(".pdf", GERMAN)))
    assert len(document) >= len(PAGES) and "Ma\u00dfbuch" in document[1].get_textpage().get_text_range()


def test_each_desk_has_its_page() -> None:
    wanted = {"read: sheets": "drawing", "shape: sketch": "sketches", "prove: suspects": "suspects", "fit": "fit",
              "shape: step": "holes", "prove: no such": "proof", "": "start"}  # fmt: skip
    assert {place: page_for(place).name for place in wanted} == wanted
    places = [place for p in PAGES for place in p.places]
    assert len(places) == len(set(places))


def test_words_are_found() -> None:
    assert find("suspects slip")[0].name == "suspects"
    assert find("") == () and find("zzzz") == ()
    assert find("WHAT IS NEVER LOST")[0].name == "safe"


def test_every_action_is_on_the_page_of_keys() -> None:
    keys = text_of("keys")
    assert all(a.title.rstrip("…") in keys and f"`{a.keys}`" in keys for a in ACTIONS if a.keys)


def test_pages_that_are_not_there_are_told() -> None:
    for wrong in ("../secret", "", "nothing"):
        with pytest.raises(LathedError, match="no page"):
            text_of(wrong)
    with pytest.raises(LathedError, match="HTML or PDF"):
        written(".docx")


class _Anchors(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.ids: set[str] = set()
        self.targets: set[str] = set()
        self.sources: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        values = {k: v or "" for k, v in attrs}
        self.ids |= {values["id"]} if "id" in values else set()
        self.targets |= {values["href"]} if tag == "a" else set()
        self.sources += [values["src"]] if tag == "img" else []


def test_the_html_needs_no_other_file() -> None:
    found = _Anchors()
    found.feed(whole())
    assert found.ids == set(NAMES) and found.targets == {f"#{n}" for n in found.ids}
    assert found.sources and all(s.startswith("data:image/jpeg;base64,") for s in found.sources)


def test_markup_in_a_page_is_text() -> None:
    assert "<script" not in body("writing", str, str) and html.escape("<") == "&lt;"


def test_the_pdf_has_every_page(tmp_path: Path) -> None:
    out = tmp_path / "guide.pdf"
    assert CliRunner().invoke(cli, ["guide", str(out)], standalone_mode=False).return_value == 0
    document = pypdfium2.PdfDocument(io.BytesIO(out.read_bytes()))
    text = "\n".join(p.get_textpage().get_text_range() for p in document)
    assert len(document) >= len(PAGES) and all(p.title in text for p in PAGES)
    assert "#N/A" not in text and "\ufffd" not in text
    assert written(".pdf") == out.read_bytes()
    assert isinstance(CliRunner().invoke(cli, ["guide", str(tmp_path / "guide.txt")]).exception, LathedError)
    assert page("proof").title in written(".html").decode("utf-8")
