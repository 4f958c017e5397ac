"""Loading the kernel's shared libraries ahead of their import, beside other work.

The import of OCP is one extension module that holds the interpreter's lock from end to end. Mapping and
relocating its libraries is the part of it that needs no lock: ``ctypes`` lets it go while the system's loader
works, and the later import finds the libraries in place.
"""

from __future__ import annotations

import ctypes
import importlib.machinery
import importlib.util
import logging
import threading
from pathlib import Path

log = logging.getLogger(__name__)


def extension() -> Path | None:
    """The file of the kernel's extension module; None when it is not installed."""
    spec = importlib.util.find_spec("OCP")
    for folder in (spec.submodule_search_locations or ()) if spec else ():
        for suffix in importlib.machinery.EXTENSION_SUFFIXES:
            path = Path(folder) / f"OCP{suffix}"
            if path.exists():
                return path
    return None


def preload() -> threading.Thread:
    """Start loading the libraries in a thread; a failure is left for the import to report."""
    thread = threading.Thread(target=_load, name="kernel preload", daemon=True)
    thread.start()
    return thread


def _load() -> None:
    try:
        path = extension()
        if path is not None:
            ctypes.CDLL(str(path))
    except (OSError, ImportError, ValueError) as exc:
        log.info("kernel libraries not loaded ahead: %s", exc)
