"""A hand on the real window: its own X server, the application on it, mouse and keys by the XTEST extension.

Every entry is counted: clicks, drags, turns of the wheel, fields (what is typed into one place, with the Enter or Tab
that ends it), and keys outside fields. Moving the pointer is none.
"""

from __future__ import annotations

import contextlib
import json
import os
import shutil
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from pathlib import Path
from typing import Any

from PIL import Image
from Xlib import XK, X, display
from Xlib.error import BadWindow
from Xlib.ext import xtest

SIZE = (1280, 800)
_serving = threading.Lock()
BUTTONS = {"left": 1, "middle": 2, "right": 3}
#: the X server is asked for a number from here on
FIRST_DISPLAY = 120
PAUSE = 0.03
#: a person looks at a window that has come up before doing anything, s
READING = 1.5
PATIENCE = 60.0
KEYS = {"Enter": "Return", "Esc": "Escape", "Del": "Delete", "Ctrl": "Control_L", "Shift": "Shift_L", "Alt": "Alt_L"}
#: characters that the keyboard has by other names
NAMES = {
    " ": "space", "/": "slash", "-": "minus", "+": "plus", ".": "period", ",": "comma", "#": "numbersign",
    "*": "asterisk", "(": "parenleft", ")": "parenright", "<": "less", "=": "equal", "°": "degree", ":": "colon",
    ";": "semicolon",
}  # fmt: skip


class WindowLost(RuntimeError):
    """The application did not come up, ended, or no longer answers."""


class Hand:
    """Used with ``with``: everything it started ends with it."""

    def __init__(self, *arguments: str, size: tuple[int, int] = SIZE, home: Path | None = None) -> None:
        """``home``: where settings, state and data stand; a folder of its own when not given."""
        self.entries: Counter[str] = Counter()
        self.slowest = 0.0
        #: mm of the unit that places are given in
        self.scale = 1.0
        self._arguments, self._size, self._home = arguments, size, home
        self._ends = contextlib.ExitStack()
        self._in_field = False

    def __enter__(self) -> Hand:
        try:
            self._start()
        except BaseException:
            self._ends.close()
            raise
        return self

    def __exit__(self, *exc: object) -> None:
        self._ends.close()

    def _start(self) -> None:
        self.folder = Path(self._ends.enter_context(tempfile.TemporaryDirectory(prefix="hand-")))
        number = self._serve()
        tell = str(self.folder / "tell")
        home = self._home or self.folder
        places = {k: str(home / k.lower()) for k in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME")}
        self._environment = {**os.environ, **places, "DISPLAY": f":{number}", "LATHED_SOLID_TELL": tell,
                             "QT_QPA_PLATFORM": "xcb"}  # fmt: skip
        self._socket = tell
        self.display = display.Display(f":{number}")
        self._ends.callback(self.display.close)
        self.open(*self._arguments)

    def open(self, *arguments: str) -> None:
        """Start the application, on what was opened before or after it was killed."""
        with (self.folder / "out").open("w") as out:
            self._application = self._run(
                [sys.executable, "-m", "lathed_solid.cli", *arguments], self._environment, out
            )
        self._until(self._answers)
        self.settle()
        time.sleep(READING)
        self.slowest = 0.0  # coming up does not count

    def kill(self) -> None:
        """End the application without a chance to do anything about it."""
        self._application.kill()
        self._application.wait()
        Path(self._socket).unlink(missing_ok=True)

    def press_button(self, words: str) -> None:
        """A click on the button that says so. Raises WindowLost when there is none."""
        found = [w["at"] for w in self.ask("widgets") if w["text"].replace("&", "") == words and w["enabled"]]
        if not found:
            raise WindowLost(f"no button says {words}")
        self.click(*found[-1])

    def _serve(self) -> int:
        """An X server of its own; its number."""
        server = shutil.which("Xvfb")
        if server is None:
            raise WindowLost("there is no Xvfb")
        with _serving:  # two hands must not take one number
            for number in range(FIRST_DISPLAY, FIRST_DISPLAY + 200):
                if Path(f"/tmp/.X{number}-lock").exists():
                    continue
                screen = "{}x{}x24".format(*self._size)
                command = [server, f":{number}", "-screen", "0", screen, "+extension", "GLX", "-noreset"]
                process = self._run(command, dict(os.environ))
                end = time.monotonic() + 10
                while time.monotonic() < end and process.poll() is None:
                    if _listens(number):
                        return number
                    time.sleep(0.05)
        raise WindowLost("no X server came up")

    def _run(self, command: list[str], environment: dict[str, str], out: Any = subprocess.DEVNULL) -> Any:
        process = subprocess.Popen(command, env=environment, stdout=out, stderr=out, cwd=self.folder)
        self._ends.callback(_end, process)
        return process

    # asking --------------------------------------------------------------------------------------
    def ask(self, what: str, **more: Any) -> Any:
        """What the window tells. Raises WindowLost when it does not answer."""
        try:
            with socket.socket(socket.AF_UNIX) as s:
                s.settimeout(PATIENCE)
                s.connect(self._socket)
                s.sendall(json.dumps({"what": what, **more}).encode() + b"\n")
                data = b""
                while not data.endswith(b"\n") and (more_data := s.recv(1 << 20)):
                    data += more_data
        except OSError as exc:
            last = (self.folder / "out").read_text()[-1500:]
            raise WindowLost(f"the window does not answer: {exc}\n{last}") from None
        answer = json.loads(data)
        if isinstance(answer, dict) and "error" in answer:
            raise WindowLost(f"{what}: {answer['error']}")
        return answer

    def _answers(self) -> bool:
        try:
            return self.ask("status") is not None
        except WindowLost:
            return False

    def _until(self, done: Any) -> None:
        end = time.monotonic() + PATIENCE
        while not done():
            if time.monotonic() > end:
                raise WindowLost((self.folder / "out").read_text()[-2000:])
            time.sleep(0.05)

    def settle(self) -> None:
        """Until what was entered is taken in: the answer waits its turn behind it, and nothing is being built."""
        self.display.sync()
        time.sleep(PAUSE)
        self._focus()
        began = time.monotonic()
        self.ask("status")
        self.slowest = max(self.slowest, time.monotonic() - began)
        self._until(lambda: not self.ask("busy"))

    def look(self, path: Path) -> None:
        """A picture of the whole screen, as PNG."""
        width, height = self._size
        raw = self.display.screen().root.get_image(0, 0, width, height, X.ZPixmap, 0xFFFFFFFF)
        Image.frombytes("RGB", (width, height), raw.data, "raw", "BGRX").save(path)

    def _focus(self) -> None:
        """The keyboard to the uppermost window, as a window manager would give it."""
        mapped = []
        for window in self.display.screen().root.query_tree().children:
            try:
                seen = window.get_attributes()
            except BadWindow:
                continue
            if seen.map_state == X.IsViewable and not seen.override_redirect:
                mapped.append(window)
        if mapped and self.display.get_input_focus().focus != mapped[-1]:
            mapped[-1].set_input_focus(X.RevertToParent, X.CurrentTime)
            self.display.sync()
            time.sleep(PAUSE)

    # entering ------------------------------------------------------------------------------------
    def point(self, x: int, y: int) -> None:
        """Move the pointer to a place of the screen."""
        for at in (x - 2, x):
            xtest.fake_input(self.display, X.MotionNotify, x=at, y=y)
        self.settle()

    def click(self, x: int, y: int, *, shift: bool = False, times: int = 1, button: str = "left") -> None:
        """A click, or a double click, at a place of the screen."""
        self.point(x, y)
        with self._held("Shift" if shift else ""):
            for _ in range(times):
                for kind in (X.ButtonPress, X.ButtonRelease):
                    xtest.fake_input(self.display, kind, BUTTONS[button])
        self.entries["clicks"] += times
        self._in_field = False
        self.settle()

    def wheel(self, x: int, y: int, notches: int) -> None:
        """The wheel turned at a place, away from the hand (in) or toward it (out, negative)."""
        self.point(x, y)
        for _ in range(abs(notches)):
            for kind in (X.ButtonPress, X.ButtonRelease):
                xtest.fake_input(self.display, kind, 4 if notches > 0 else 5)
        self.entries["wheels"] += 1
        self.settle()

    def drag(self, a: tuple[int, int], b: tuple[int, int]) -> None:
        """Press at one place and let go at another."""
        self.point(*a)
        xtest.fake_input(self.display, X.ButtonPress, 1)
        for k in range(1, 9):
            x, y = (a[i] + (b[i] - a[i]) * k // 8 for i in (0, 1))
            xtest.fake_input(self.display, X.MotionNotify, x=x, y=y)
            self.display.sync()
            time.sleep(PAUSE / 3)
        xtest.fake_input(self.display, X.ButtonRelease, 1)
        self.entries["drags"] += 1
        self._in_field = False
        self.settle()

    def press(self, keys: str) -> None:
        """A key by its name, with others held: ``L``, ``Shift+R``, ``Ctrl+Z``, ``Enter``.

        Enter and Tab right after something was typed belong to its field.
        """
        *held, key = keys.split("+") if keys != "+" else ["+"]
        with contextlib.ExitStack() as stack:
            for name in held:
                stack.enter_context(self._held(name))
            self._stroke(key if len(key) > 1 else key.lower())
        if not (self._in_field and keys in ("Enter", "Tab")):
            self.entries["keys"] += 1
        self._in_field = False
        self.settle()

    def press_quietly(self, keys: str) -> None:
        """A key that belongs to what is typed next: no entry of its own."""
        before = self.entries.copy()
        self.press(keys)
        self.entries = before

    def type(self, text: str) -> None:
        """Characters into what has the keyboard."""
        for char in text:
            self._stroke(char)
            self.display.sync()
        self.entries["fields"] += 1
        self._in_field = True
        self.settle()

    @contextlib.contextmanager
    def _held(self, name: str) -> Any:
        if name:
            xtest.fake_input(self.display, X.KeyPress, self._code(KEYS.get(name, name))[0])
        try:
            yield
        finally:
            if name:
                xtest.fake_input(self.display, X.KeyRelease, self._code(KEYS.get(name, name))[0])

    def _stroke(self, key: str) -> None:
        code, shifted = self._code(KEYS.get(key, NAMES.get(key, key)))
        with self._held("Shift" if shifted else ""):
            for kind in (X.KeyPress, X.KeyRelease):
                xtest.fake_input(self.display, kind, code)

    def _code(self, name: str) -> tuple[int, bool]:
        symbol = XK.string_to_keysym(name)
        for code, level in self.display.keysym_to_keycodes(symbol) if symbol else ():
            if level in (0, 1):
                return code, level == 1
        raise ValueError(f"the keyboard has no {name!r}")


def _end(process: subprocess.Popen[bytes]) -> None:
    if process.poll() is None:
        process.terminate()
        try:
            process.wait(10)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait(10)


def _listens(number: int) -> bool:
    """Whether an X server takes connections; the socket alone may be what a killed one left."""
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as probe:
        try:
            probe.connect(f"/tmp/.X11-unix/X{number}")
        except OSError:
            return False
    return True
