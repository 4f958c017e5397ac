"""The user's guide: pages in Markdown, shown by the window, and written as one HTML file or PDF."""

from lathed_solid.guide.pages import PAGES, Page, find, page, page_for, text_of

__all__ = ["PAGES", "Page", "find", "page", "page_for", "text_of"]
