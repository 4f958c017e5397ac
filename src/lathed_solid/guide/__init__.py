"""The user's guide: pages in Markdown, shown by the window, and written as one HTML file or PDF."""

from lathed_solid.guide.edition import ENGLISH, Edition
from lathed_solid.guide.pages import PAGES, Page, find, page, page_for, text_of, title_of

__all__ = ["ENGLISH", "PAGES", "Edition", "Page", "find", "page", "page_for", "text_of", "title_of"]
