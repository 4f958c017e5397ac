"""The user's folders, settings, recent files and log.

Settings are a small JSON file in the configuration folder; an unreadable one gives the defaults and is
kept aside. The log is a rotating file in the state folder.
"""

from __future__ import annotations

import json
import logging
import logging.handlers
from pathlib import Path

import platformdirs
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.quantity import LengthUnit
from lathed_solid.store import APP, state_folder

MAX_RECENT = 10
#: languages of the interface, by their own names
LANGUAGES = {"en": "English", "de": "Deutsch"}

log = logging.getLogger(__name__)


class Settings(BaseModel):
    """What the window remembers. Unknown keys of a newer version are kept."""

    model_config = ConfigDict(frozen=True, extra="allow")

    dark: bool = False
    projection: str = Field(default="first", pattern="^(first|third)$")
    recent: tuple[str, ...] = Field(default=(), max_length=MAX_RECENT)
    note_history: tuple[str, ...] = Field(default=(), max_length=200)
    drawer_open: bool = True
    #: what the last new part began with
    unit: LengthUnit = "mm"
    material: str = Field(default="C45 steel", max_length=60)
    general: str = Field(default="ISO 2768-m", max_length=60)
    #: everything larger than the desktop's own scale asks for, percent
    scale: int = Field(default=100, ge=100, le=300)
    #: the interface's; empty for the desktop's
    language: str = Field(default="", pattern="^(en|de)?$")
    tips: bool = True
    tips_seen: tuple[str, ...] = Field(default=(), max_length=200)


def config_folder() -> Path:
    """Where the settings stand, by the desktop's rules (XDG)."""
    return Path(platformdirs.user_config_dir(APP, appauthor=False))


def load_settings() -> Settings:
    """The settings, or the defaults when there are none or they cannot be read."""
    file = config_folder() / "settings.json"
    try:
        return Settings.model_validate(json.loads(file.read_text("utf-8")))
    except FileNotFoundError:
        return Settings()
    except (OSError, ValueError, ValidationError) as exc:
        log.warning("settings not read: %s", exc)
        return Settings()


def save_settings(settings: Settings) -> None:
    """Write the settings; a failure is logged, for it must not disturb the work."""
    try:
        config_folder().mkdir(parents=True, exist_ok=True)
        text = json.dumps(settings.model_dump(mode="json"), indent=1)  # ASCII: names of files need not be UTF-8
        write_atomic(config_folder() / "settings.json", text.encode("ascii"))
    except (OSError, FileError) as exc:
        log.warning("settings not written: %s", exc)


def with_recent(settings: Settings, path: Path) -> Settings:
    """``path`` first among the recent files."""
    name = str(path.absolute())
    recent = (name, *(r for r in settings.recent if r != name))[:MAX_RECENT]
    return settings.model_copy(update={"recent": recent})


def start_logging() -> Path | None:
    """Log to a rotating file in the state folder; None when that folder cannot be written to."""
    root = logging.getLogger("lathed_solid")
    root.setLevel(logging.INFO)
    try:
        folder = state_folder()
        folder.mkdir(parents=True, exist_ok=True)
        file = folder / "lathed-solid.log"
        handler = logging.handlers.RotatingFileHandler(file, maxBytes=512 << 10, backupCount=3, encoding="utf-8")
    except OSError:
        root.addHandler(logging.NullHandler())
        return None
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(name)s: %(message)s"))
    root.addHandler(handler)
    return file
