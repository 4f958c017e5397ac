"""Editors by step kind: widgets that show a step and emit a changed one."""
