"""Short lists in the groups at the right of the Model desk."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem


def short_list(
    name: str, height: int, chosen: Callable[[QListWidgetItem], object] | None = None
) -> QListWidget:
    """A list so many pixels high; a press or Return on an item calls ``chosen``, where that is given."""
    short = QListWidget()
    short.setAccessibleName(name)
    short.setFixedHeight(height)
    short.setWordWrap(True)
    short.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    if chosen is not None:
        short.itemActivated.connect(chosen)
        short.itemClicked.connect(chosen)
    return short
