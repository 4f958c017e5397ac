"""Saving with the questions it may need: a file that others changed, one that is write-protected, lost attachments."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Literal

from lathed_solid.files.errors import ChangedSince, FileError, MissingAttachments, WriteProtected
from lathed_solid.files.standing import free_name
from lathed_solid.workbench.filed import Consent
from lathed_solid.workbench.prompts import Prompts

#: what came of it; "compare": the user wants to see what differs first
Outcome = Literal["saved", "not saved", "compare"]


def save_asking(
    save: Callable[[Path, Consent], None], path: Path, ask: Prompts, tell: Callable[[str, bool], None], *, compare: bool
) -> Outcome:
    """Save to ``path``, asking what has to be asked. ``compare``: whether the file can be compared with."""
    consent = Consent.NONE
    while True:
        try:
            save(path, consent)
            return "saved"
        except ChangedSince as exc:
            answers = ["Keep both", "Compare", "Overwrite"] if compare else ["Keep both", "Overwrite"]
            words = (
                f"{path.name} was changed by somebody else since it was opened here. Keep both: yours goes beside it, "
                f"to {free_name(path).name}."
            )
            answer = ask.choose("The file has changed", words, answers)
            if answer == "Keep both":
                path = free_name(path)
            elif answer == "Overwrite":
                consent |= Consent.CHANGED
            else:
                if answer is None:
                    tell(exc.message, True)
                return "compare" if answer == "Compare" else "not saved"
        except WriteProtected as exc:
            words = f"{path.name} is write-protected: somebody does not want it to be changed."
            answer = ask.choose("A write-protected file", words, ["Another name", "Replace it"])
            if answer == "Replace it":
                consent |= Consent.PROTECTED
            elif answer == "Another name":
                path = free_name(path)
            else:
                tell(exc.message, True)
                return "not saved"
        except MissingAttachments as exc:
            words = f"{exc.what}: the saved file would be without them. What it holds otherwise is all here."
            if ask.choose("Something is missing", words, ["Save without them"]) is None:
                tell(exc.message, True)
                return "not saved"
            consent |= Consent.INCOMPLETE
        except FileError as exc:
            tell(exc.message, True)
            return "not saved"
