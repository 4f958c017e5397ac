"""The GLX context that is current, as the kernel's viewer takes it."""

from __future__ import annotations

import ctypes
from typing import Any

from lathed_solid.errors import LathedError


class ViewError(LathedError, RuntimeError):
    """The 3D view cannot be made (no GLX context, no X display)."""


def current_context() -> Any:
    """Its capsule. Raises ViewError where there is none."""
    try:
        glx = ctypes.CDLL("libGL.so.1")
    except OSError:
        raise ViewError("OpenGL is missing", hint="install libgl1") from None
    glx.glXGetCurrentContext.restype = ctypes.c_void_p
    pointer = glx.glXGetCurrentContext()
    if not pointer:
        raise ViewError("there is no GLX context", hint="run on X11 or XWayland: QT_QPA_PLATFORM=xcb")
    capsule = ctypes.pythonapi.PyCapsule_New
    capsule.restype, capsule.argtypes = ctypes.py_object, [ctypes.c_void_p, ctypes.c_char_p, ctypes.c_void_p]
    return capsule(pointer, None, None)
