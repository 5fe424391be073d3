"""Reference lines of drawings: shown or not, and which of their layers; one state for every plan."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject, Signal

from altana.core.conventions import Floats
from altana.core.model import Linework


class ReferenceLines(QObject):
    """``changed`` when they are switched, or one of their layers is."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.shown = True
        #: Layers that are off, by name.
        self.off: frozenset[str] = frozenset()

    def toggle(self) -> None:
        """All of them on or off."""
        self.shown = not self.shown
        self.changed.emit()

    def toggle_layer(self, name: str) -> None:
        """One layer on or off; a layer switched on shows lines that were off."""
        if not self.shown:
            self.shown, self.off = True, self.off - {name}
        else:
            self.off = self.off ^ {name}
        self.changed.emit()

    def on_plan(self, linework: Linework) -> Floats:
        """(k, 2, 2) the lines that are shown, metres."""
        if not self.shown:
            return np.zeros((0, 2, 2))
        kept = np.array([name not in self.off for name in linework.layers], bool)
        points = linework.points[:, :, :2]
        lines: Floats = (points[kept[linework.layer]] if len(kept) else points).astype(float)
        return lines
