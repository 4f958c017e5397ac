"""The picture beneath a sketch, as it is painted."""

from __future__ import annotations

from PyQt6.QtCore import QBuffer, QIODevice, QSize
from PyQt6.QtGui import QImageReader, QPixmap

#: a larger picture is shown at this size: it is there to draw over
MOST_PIXELS = 4000


def read_picture(data: bytes | None) -> QPixmap | None:
    """The picture, at most MOST_PIXELS wide or high; a hostile size is refused before it is unpacked."""
    if data is None:
        return None
    buffer = QBuffer()
    buffer.setData(data)
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    reader = QImageReader(buffer)
    size = reader.size()
    if not size.isValid() or size.width() * size.height() > 400_000_000:
        return None
    if max(size.width(), size.height()) > MOST_PIXELS:
        scale = MOST_PIXELS / max(size.width(), size.height())
        reader.setScaledSize(QSize(max(1, round(size.width() * scale)), max(1, round(size.height() * scale))))
    image = reader.read()
    return None if image.isNull() else QPixmap.fromImage(image)
