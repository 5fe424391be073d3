"""Reference lines of drawings: shown or not, and which of their layers; one state for every plan."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject, Signal

from altana.core.conventions import Floats32
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

    @property
    def which(self) -> tuple[bool, frozenset[str]]:
        """Another for every state."""
        return self.shown, self.off

    def on_plan(self, linework: Linework | None) -> Floats32:
        """(k, 2, 2) the lines that are shown, metres; of no drawing none."""
        if linework is None or not self.shown:
            return np.zeros((0, 2, 2), np.float32)
        points: Floats32 = linework.points[:, :, :2]
        off = [number for number, name in enumerate(linework.layers) if name in self.off]
        return points[~np.isin(linework.layer, off)] if off else points
