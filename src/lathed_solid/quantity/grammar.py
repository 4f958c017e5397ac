"""Parsers from lark grammars, with their tables laid up beside the grammar.

Building the tables of an LALR parser takes a tenth of a second a grammar, at every start. So they stand in
``NAME.tables.json``, with the SHA-256 of what they were made from; where that differs, the parser is built from the
grammar, which is slower and never wrong. ``python tools/grammars.py`` lays them up anew.
"""

from __future__ import annotations

import hashlib
import json
from pathlib import Path
from typing import Any

#: which lexer each grammar is written for
LEXERS = {"note": "basic", "expression": "contextual"}


def parser(grammar: Path) -> Any:
    """The lark parser of a grammar file."""
    import lark

    text = grammar.read_text("utf-8")
    try:
        stored = json.loads(tables_path(grammar).read_text("utf-8"), object_hook=_whole_keys)
        if stored["made_from"] == fingerprint(text):
            return lark.Lark._load_from_dict(stored["data"], stored["memo"])
    except (OSError, ValueError, KeyError):
        pass
    return _built(grammar.stem, text)


def tables_path(grammar: Path) -> Path:
    """Where a grammar's stored tables stand."""
    return grammar.with_suffix(".tables.json")


def fingerprint(text: str) -> str:
    """What tables depend on: the grammar, and the library's version."""
    import lark

    return hashlib.sha256(f"{lark.__version__}\n{text}".encode()).hexdigest()


def tables(grammar: Path) -> str:
    """The tables of a grammar file, as JSON."""
    from lark.grammar import Rule
    from lark.lexer import TerminalDef

    text = grammar.read_text("utf-8")
    data, memo = _built(grammar.stem, text).memo_serialize([TerminalDef, Rule])
    return json.dumps({"made_from": fingerprint(text), "data": data, "memo": memo}, ensure_ascii=False, sort_keys=True)


def _built(name: str, text: str) -> Any:
    import lark

    return lark.Lark(text, parser="lalr", lexer=LEXERS[name], propagate_positions=True)


def _whole_keys(found: dict[str, Any]) -> dict[Any, Any]:
    """JSON turned the keys of numbered tables into text."""
    return {int(k) if k.isdigit() else k: v for k, v in found.items()}
