"""Short lists in the groups at the right of the Model desk."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem


def short_list(
    name: str, height: int, chosen: Callable[[QListWidgetItem], object] | None = None
) -> QListWidget:
    """A list so many pixels high; a press or Return on an item calls ``chosen``, where that is given."""
    made = QListWidget()
    made.setAccessibleName(name)
    made.setFixedHeight(height)
    made.setWordWrap(True)
    made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    if chosen is not None:
        made.itemActivated.connect(chosen)
        made.itemClicked.connect(chosen)
    return made
