"""Documents, journal, settings on disk."""

from lathed_solid.files.document import document_json, read_document, write_document
from lathed_solid.files.errors import FileError
from lathed_solid.files.journal import Journal, Recovered, recoverable

__all__ = [
    "FileError",
    "Journal",
    "Recovered",
    "document_json",
    "read_document",
    "recoverable",
    "write_document",
]
