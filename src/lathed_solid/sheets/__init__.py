"""Drawing sheets: reading their pages and the notes on them, in a process of their own with limits."""

from lathed_solid.sheets.client import SheetError, SheetPage, command, lettered, lettering_command, levels, page_of
from lathed_solid.sheets.texts import Text

__all__ = ["SheetError", "SheetPage", "Text", "command", "lettered", "lettering_command", "levels", "page_of"]
