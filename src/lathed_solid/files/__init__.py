"""Documents, journal, tables, settings on disk."""

from lathed_solid.files.document import document_json, read_document, write_document
from lathed_solid.files.errors import FileError
from lathed_solid.files.journal import Journal, Recovered, recoverable
from lathed_solid.files.verdict_csv import verdict_csv, write_verdict_csv

__all__ = [
    "FileError",
    "Journal",
    "Recovered",
    "document_json",
    "read_document",
    "recoverable",
    "verdict_csv",
    "write_document",
    "write_verdict_csv",
]
