"""Frame, Plan and Section on the Compose desk: one in the large place, the two others beside or below it."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QSplitter, QWidget

from altana.app.workspace.view_state import ViewState

#: Narrower pictures than this get the desk laid out side by side.
TALL = 0.92
PLACES = ("frame", "plan", "section")


class Places(QSplitter):
    """``large`` names what has the large place."""

    def __init__(self, state: ViewState, frame: QWidget, plan: QWidget, section: QWidget) -> None:
        super().__init__(Qt.Orientation.Vertical)
        self._state = state
        self._panes: dict[str, QWidget] = {"frame": frame, "plan": plan, "section": section}
        self.large = "frame"
        self._tall = False
        self._inner = QSplitter(Qt.Orientation.Horizontal)
        for split in (self, self._inner):
            split.setChildrenCollapsible(False)
            split.setHandleWidth(1)
        self.lay_out()

    def give(self, name: str) -> None:
        """Give the large place away; asked again, the Frame takes it back."""
        self.large = "frame" if name == self.large else name
        self.lay_out()
        self._panes[self.large].setFocus()

    def lay_out(self) -> None:
        """Put the large pane first and the two others beside or below it."""
        others = [name for name in PLACES if name != self.large]
        tall = self._tall and self.large == "frame"
        self.setOrientation(Qt.Orientation.Horizontal if tall else Qt.Orientation.Vertical)
        self._inner.setOrientation(Qt.Orientation.Vertical if tall else Qt.Orientation.Horizontal)
        self.insertWidget(0, self._panes[self.large])
        self.insertWidget(1, self._inner)
        for index, name in enumerate(others):
            self._inner.insertWidget(index, self._panes[name])
        self.setSizes(self._tall_sizes() if tall else [430, 300])
        self._inner.setSizes([500, 500])
        for index, stretch in ((0, 3), (1, 2)):
            self.setStretchFactor(index, stretch)
            self._inner.setStretchFactor(index, 1)
        # The sheets ask for different least sizes; evened out once they have their place.
        QTimer.singleShot(0, lambda: self._inner.setSizes([1000, 1000]))

    def _tall_sizes(self) -> list[int]:
        """As wide as a tall picture needs at this height, within reason."""
        camera = self._state.shown
        whole = max(self.width(), 600)
        proportion = camera.width_px / camera.height_px if camera is not None else 0.8
        wanted = round(max(self.height() - 62, 300) * proportion + 172)
        large = min(max(wanted, round(whole * 0.45)), round(whole * 0.64))
        return [large, whole - large]

    def follow_format(self) -> None:
        """A tall picture stands beside the drawings instead of over them."""
        camera = self._state.shown
        tall = camera is not None and camera.width_px / camera.height_px < TALL
        if tall != self._tall:
            self._tall = tall
            if self.large == "frame":
                self.lay_out()
