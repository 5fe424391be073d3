"""The panel of the project's light, beside whatever desk is in front."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from altana.app.light.around import AroundGroup
from altana.app.light.lamps import LampsGroup
from altana.app.light.moment import MomentGroup
from altana.app.light.place import PlaceGroup
from altana.app.light.shade import ShadeGroup
from altana.app.theme.widgets import button, label, stacked
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace

#: As wide as the settings of the desks.
WIDE_PX = 262


class LightPanel(QWidget):
    """``left`` when it is closed.  While it is there the sun's path of the day lies on the plans.

    It lies over the settings at the right of the desks (``over``), so that no picture becomes smaller for it.
    """

    left = Signal()

    def __init__(self, workspace: Workspace, over: QStackedWidget) -> None:
        super().__init__(over)
        over.installEventFilter(self)
        # A desk that comes to the front lies over everything else there.
        over.currentChanged.connect(self.raise_)
        self._over = over
        self._bridge, self._state = workspace.bridge, workspace.state
        self.setObjectName("chrome")
        self.setFixedWidth(WIDE_PX)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.moment, self.lamps = MomentGroup(workspace), LampsGroup(workspace)
        self.place, self.around = PlaceGroup(workspace), AroundGroup(workspace)
        self.shade = ShadeGroup(workspace)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 12, 10)
        column.setSpacing(8)
        head = QHBoxLayout()
        head.addWidget(label(tr("Light of the project"), "title"), 1)
        self.close_button = button(tr("Close"), "small", tr("Close this panel (key Shift+L)"), self.left.emit)
        head.addWidget(self.close_button)
        column.addLayout(head)
        column.addWidget(
            stacked(
                (self.moment.group, self.lamps.group, self.place.group, self.around.group, self.shade.group)
            ),
            1,
        )
        self._bridge.light_changed.connect(self.refresh)
        workspace.studio.opened.connect(self.refresh)
        self.refresh()

    def follow_project(self, path: Path) -> None:
        """Where the project lies, with its surroundings."""
        self.around.project_path = path

    def refresh(self) -> None:
        """Follow the project."""
        light = self._bridge.project.light
        for group in (self.moment, self.lamps, self.place, self.around, self.shade):
            group.show_light(light)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Keep to the right edge of the desks."""
        if event.type() == QEvent.Type.Resize:
            self._place()
        return super().eventFilter(watched, event)

    def _place(self) -> None:
        self.setGeometry(self._over.width() - WIDE_PX, 0, WIDE_PX, self._over.height())
        self.raise_()

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """The sun shows on the plans."""
        super().showEvent(event)
        self._place()
        self._state.show_sun(True)

    def hideEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """The sun leaves the plans."""
        super().hideEvent(event)
        self._state.show_sun(False)
