"""The manual page, written from the commands themselves (man-pages(7), troff's man macros)."""

from __future__ import annotations

import click

from lathed_solid import __version__


def manual(program: click.Group) -> str:
    """Section 1: what the program is, every command with its arguments and options, exit codes, files."""
    lines = [
        f'.TH LATHED\\-SOLID 1 "" "lathed\\-solid {__version__}" "User Commands"',
        ".SH NAME",
        "lathed\\-solid \\- from a dimensioned drawing or a caliper log to a proven solid model",
        ".SH SYNOPSIS",
        ".B lathed\\-solid",
        "[\\fIOPTIONS\\fR] [\\fIFILE\\fR | \\fICOMMAND\\fR [\\fIARGS\\fR]...]",
        ".SH DESCRIPTION",
        "Without a command, opens the window; with a file, opens it there.",
        ".SH OPTIONS",
        *_options(program),
        ".SH COMMANDS",
    ]
    for name, command in sorted(program.commands.items()):
        lines += _command(name, command)
    lines += [
        ".SH EXIT STATUS",
        *(f".TP\n.B {code}\n{words}" for code, words in (
            (0, "fine"), (1, "a verdict is out, not found or without a limit, or a step failed"),
            (2, "an error, told in one line"))),
        ".SH FILES",
        ".TP\n.I *.lathed\na part or a fit: a zip of JSON, sheets and a small picture",
        ".TP\n.I $XDG_STATE_HOME/lathed\\-solid\nthe journals that unsaved work is taken up from",
    ]  # fmt: skip
    return "\n".join(lines) + "\n"


def _command(name: str, command: click.Command) -> list[str]:
    if isinstance(command, click.Group):
        found = [line for sub, c in sorted(command.commands.items()) for line in _command(f"{name} {sub}", c)]
        return found
    arguments = " ".join(f"\\fI{_text(p.human_readable_name)}\\fR" for p in command.params
                         if isinstance(p, click.Argument))  # fmt: skip
    lines = [f".SS {_text(name)} {arguments}".rstrip(), _text(" ".join((command.help or "").split()))]
    return lines + _options(command)


def _options(command: click.Command) -> list[str]:
    lines = []
    for option in command.params:
        if isinstance(option, click.Option) and not option.hidden:
            names = ", ".join(f"\\fB{_text(n)}\\fR" for n in (*option.opts, *option.secondary_opts))
            value = "" if option.is_flag else f" \\fI{_text(option.metavar or option.type.name.upper())}\\fR"
            lines += [".TP", names + value, _text(option.help or "")]
    return lines


def _text(words: str) -> str:
    """Words that troff leaves as they are: no line begins with a control character."""
    safe = words.replace("\\", "\\e").replace("-", "\\-")
    return f"\\&{safe}" if safe[:1] in (".", "'") else safe
