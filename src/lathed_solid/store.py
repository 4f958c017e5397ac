"""Bytes kept once, by their SHA-256, in the user's state folder: pictures and imported bodies that documents refer
to.
"""

from __future__ import annotations

import hashlib
from pathlib import Path

import platformdirs

APP = "lathed-solid"


def state_folder() -> Path:
    """Where journal, log and stored files stand, by the desktop's rules (XDG)."""
    return Path(platformdirs.user_state_dir(APP, appauthor=False))


def place_of(name: str) -> Path:
    """The file that holds the bytes of that name."""
    return state_folder() / "store" / name


def stored(name: str) -> bytes | None:
    """The bytes of that name; None when they are not here or are not what the name says."""
    try:
        data = place_of(name).read_bytes()
    except OSError:
        return None
    return data if hashlib.sha256(data).hexdigest() == name else None
