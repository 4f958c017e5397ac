"""Lays up the parser tables of every grammar in the tree (see quantity/grammar.py)."""

from pathlib import Path

from lathed_solid.quantity.grammar import tables, tables_path

for grammar in sorted((Path(__file__).parents[1] / "src").rglob("*.lark")):
    tables_path(grammar).write_text(tables(grammar), "utf-8")
    print(tables_path(grammar).name)
