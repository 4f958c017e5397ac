"""The kernel's modules coming in beside a window that is already at work.

The import of OCP is one extension module of about a second, and it holds Python's lock from end to end: done
plainly, in whatever thread, it would stop the window for that long. Two things let the window live meanwhile:

- Mapping and relocating the libraries needs no lock. The system's loader is called as a foreign function, which
  lets the lock go; the later import finds the libraries in place. One library at a time, since the loader has a
  lock of its own, which the window's drawing needs now and then.
- The module's own initialisation makes some hundred thousand objects. Python's cycle collector runs after every
  ``EVERY`` of them and calls ``gc.callbacks``: there the import offers the lock, and rests for as long as the
  window was ``stirred`` a moment ago. The young generation alone is walked, each object once.
"""

from __future__ import annotations

import contextlib
import ctypes
import gc
import importlib
import importlib.machinery
import importlib.util
import logging
import os
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path

from lathed_solid.errors import LathedError

log = logging.getLogger(__name__)

#: objects between two offers of the lock; 500 are 1 to 4 ms of the import
EVERY = 500
#: no collection of the older generations while the modules come in
NEVER = 1_000_000
#: the import goes on when the window was left alone for so long, or has rested for so long, s
QUIET, LONGEST_REST = 0.005, 0.05
VIEWER = "lathed_solid.viewer.scene"


def arrived() -> bool:
    """Whether the viewer is imported, so that using it costs no wait."""
    module = sys.modules.get(VIEWER)
    spec = getattr(module, "__spec__", None)
    return spec is not None and not getattr(spec, "_initializing", False)


class Stirred:
    """When the window last had something to do; the window's side calls ``now``."""

    def __init__(self) -> None:
        self.at = 0.0
        self.hurry = False  #: set when the window closes: rest no more

    def now(self) -> None:
        """The window has something to do at this moment."""
        self.at = time.perf_counter()

    def rest(self) -> None:
        """Let the lock go until the window is quiet."""
        end = time.perf_counter() + LONGEST_REST
        time.sleep(0)
        while (t := time.perf_counter()) - self.at < QUIET and t < end and not self.hurry:
            time.sleep(0.001)


class KernelMissing(LathedError, ImportError):
    """The geometry kernel cannot be imported."""


def fetch(stirred: Stirred) -> None:
    """Import the viewer; called in a thread beside the window's. Raises KernelMissing.

    It cannot be broken off in C++: a program that ends meanwhile waits for it.
    """
    try:
        _load(stirred)
        with offering_the_lock(stirred):
            importlib.import_module(VIEWER)
    except (ImportError, OSError) as exc:
        log.error("the kernel cannot be imported: %s", exc)
        raise KernelMissing(f"the geometry kernel is missing: {exc}") from None


@contextlib.contextmanager
def offering_the_lock(stirred: Stirred) -> Iterator[None]:
    """Within it, the thread that entered offers Python's lock after every ``EVERY`` objects made."""
    importer = threading.get_ident()

    def offer(phase: str, _info: dict[str, int]) -> None:
        if phase == "stop" and threading.get_ident() == importer:
            stirred.rest()

    on, thresholds = gc.isenabled(), gc.get_threshold()
    gc.callbacks.append(offer)
    gc.set_threshold(EVERY, NEVER, NEVER)
    gc.enable()
    try:
        yield
    finally:
        gc.callbacks.remove(offer)
        gc.set_threshold(*thresholds)
        if not on:
            gc.disable()


def libraries() -> list[Path]:
    """The kernel's shared libraries, the extension module last; empty when it is not installed."""
    spec = importlib.util.find_spec("OCP")
    for folder in (spec.submodule_search_locations or ()) if spec else ():
        for suffix in importlib.machinery.EXTENSION_SUFFIXES:
            path = Path(folder) / f"OCP{suffix}"
            if path.exists():
                return [*sorted(path.parent.parent.glob("*ocp*.libs/libTK*")), path]
    return []


def _load(stirred: Stirred) -> None:
    """Map the libraries without Python's lock; a failure is left for the import to report."""
    system = ctypes.CDLL(None)
    system.dlopen.restype = ctypes.c_void_p
    system.dlopen.argtypes = [ctypes.c_char_p, ctypes.c_int]
    for path in libraries():
        if not system.dlopen(os.fsencode(path), os.RTLD_NOW):
            log.info("%s not loaded ahead", path.name)
        stirred.rest()
