"""What GL context the 3D pane needs."""

from __future__ import annotations

from PyQt6.QtGui import QSurfaceFormat

SAMPLES = 4


def set_default_format() -> None:
    """Before the application object: what GL context the pane needs."""
    QSurfaceFormat.setDefaultFormat(gl_format(samples=0))


def gl_format(samples: int) -> QSurfaceFormat:
    """The pane alone is smoothed: a window with samples would compose every repaint fourfold."""
    f = QSurfaceFormat()
    f.setVersion(3, 3)
    f.setProfile(QSurfaceFormat.OpenGLContextProfile.CompatibilityProfile)
    f.setDepthBufferSize(24)
    f.setStencilBufferSize(8)
    f.setSamples(samples)
    return f
