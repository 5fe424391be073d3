"""Settings of the selected cameras: Standpoint, Direction, Lens, Verticals, Cut-away, Light, Drawn as, Left
out, Format, Intent."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from altana.app.compose.cut_away import CutAwayGroup
from altana.app.compose.direction import DirectionGroup
from altana.app.compose.drawn import DrawnGroup
from altana.app.compose.fields import CameraFields
from altana.app.compose.format import FormatGroup
from altana.app.compose.intent import IntentGroup
from altana.app.compose.left_out import LeftOutGroup
from altana.app.compose.lens import LensGroup
from altana.app.compose.light import LightGroup
from altana.app.compose.standpoint import StandpointGroup
from altana.app.compose.verticals import VerticalsGroup
from altana.app.theme.widgets import Group, button, relabel, rule, scrolling
from altana.app.theme.words import tr
from altana.app.workspace.soon import Soon
from altana.app.workspace.workspace import Workspace
from altana.core.edits.shots import list_cameras
from altana.core.project import Camera

#: Groups that begin unfolded.  More at the top would push the others out of sight beside the Frame at 800 px;
#: the format stands below all but one.
OPEN_GROUPS = ("standpoint", "direction", "lens", "format")
#: While something is dragged the numbers follow at this interval.
FOLLOW_MS = 45


class CameraSettings(QWidget):
    """The groups of settings, one above the other; every change is one named undo step of the chosen
    cameras."""

    make_stills = Signal()

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._edits, self._bridge, self._state = workspace.edits, workspace.bridge, workspace.state
        self._soon = Soon(self, FOLLOW_MS, self.refresh)
        self.setObjectName("chrome")
        self.setFixedWidth(272)
        self._fields = fields = CameraFields(workspace.edits, workspace.state)
        self.cut = CutAwayGroup(workspace, fields)
        self.format = FormatGroup(workspace, fields)
        self.standpoint = StandpointGroup(workspace, fields)
        self.standpoint.add_back(self.cut.back.fill)
        self.direction = DirectionGroup(workspace, fields, self.standpoint.use_tool)
        self.lens = LensGroup(workspace, fields)
        self.format.group.add_pair(tr("Sensor width"), self.lens.sensor_sizes, self.lens.sensor)
        self.verticals = VerticalsGroup(workspace, fields)
        self.light = LightGroup(workspace, fields)
        self.drawn, self.left_out, self.intent = (
            DrawnGroup(workspace),
            LeftOutGroup(workspace),
            IntentGroup(workspace),
        )
        self.groups: dict[str, Group] = {
            "standpoint": self.standpoint.group,
            "direction": self.direction.group,
            "lens": self.lens.group,
            "verticals": self.verticals.group,
            "cut": self.cut.group,
            "light": self.light.group,
            "drawn as": self.drawn.group,
            "left out": self.left_out.group,
            "format": self.format.group,
            "intent": self.intent.group,
        }
        self._lay_out()
        # A change of cameras is told by what is shown, so it need not be heard twice.
        for signal in (
            workspace.bridge.left_out_changed,
            workspace.state.shown_changed,
            workspace.studio.opened,
            workspace.state.object_changed,
        ):
            signal.connect(self._changed)
        workspace.edits.tried.connect(self.refresh)
        workspace.bridge.settled.connect(self._show_rows)
        self.refresh()

    def _lay_out(self) -> None:
        inner = QWidget()
        inner.setObjectName("chrome")
        column = QVBoxLayout(inner)
        column.setContentsMargins(12, 6, 10, 4)
        column.setSpacing(3)
        for index, (name, group) in enumerate(self.groups.items()):
            if index:
                column.addWidget(rule())
            column.addWidget(group)
            if name not in OPEN_GROUPS:
                group.fold()
            group.unfolded.connect(self.refresh)
        column.addStretch(1)
        scroll = scrolling(inner)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(scroll, 1)
        outer.addLayout(self._foot())

    def _foot(self) -> QVBoxLayout:
        foot = QVBoxLayout()
        foot.setContentsMargins(12, 6, 12, 10)
        self.stills_button = button(
            tr("Make stills…"),
            "primary",
            tr("Pictures of the chosen cameras as files, in the background (key Ctrl+E)"),
            self.make_stills.emit,
        )
        self.shot_button = button(
            tr("In shot list"),
            "",
            tr("Whether this camera is delivered with the shot list (key S)"),
            self.toggle_shot,
            checkable=True,
        )
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.stills_button, 1)
        row.addWidget(self.shot_button)
        foot.addLayout(row)
        return foot

    def toggle_shot(self) -> None:
        """Into the shot list, or out of it."""
        active = self._state.active
        if active is not None:
            wanted, targets = not active.in_shot_list, self._edits.targets
            self._bridge.apply(
                tr("In shot list") if wanted else tr("Out of shot list"),
                lambda project: list_cameras(project, targets, wanted),
            )

    # ------------------------------------------------------------------ showing

    def _changed(self) -> None:
        """While something is dragged the panel follows a few times a second; otherwise at once."""
        if self._bridge.in_gesture:
            if not self._soon.isActive():
                self._soon.start()
        else:
            self._soon.stop()
            self.refresh()

    def _show_rows(self) -> None:
        """Rows of the shot list may change without their camera."""
        if self._state.shown is not None and self._state.active is not None:
            self.drawn.show_camera(self._state.shown)

    def refresh(self) -> None:
        """Show the camera that the Frame shows; nothing can be edited while it is locked or loose."""
        camera = self._state.shown if self._state.active is not None else None
        usable = self._edits.usable
        for group in self.groups.values():
            group.body.setEnabled(usable)
        self.stills_button.setEnabled(bool(self._bridge.project.cameras))
        count = len(self._state.selected)
        relabel(self.stills_button, tr("Make %n stills…", "", count) if count > 1 else tr("Make stills…"))
        self.shot_button.setEnabled(usable)
        if camera is not None:
            self._fields.show(camera)
            self._show_camera(camera, usable)
        else:
            self._fields.show_none()
            self.shot_button.setChecked(False)
            relabel(self.shot_button, tr("In shot list"))
            for group in self.groups.values():
                group.show_figure("")

    def _show_camera(self, camera: Camera, usable: bool) -> None:
        several = any(item.tilt_deg or item.roll_deg for item in self._edits.chosen)
        self.shot_button.setChecked(camera.in_shot_list)
        relabel(self.shot_button, tr("In list ✓") if camera.in_shot_list else tr("In shot list"))
        self.direction.show_camera(camera, usable, several)
        self.verticals.show_camera(camera, usable, several)
        self.cut.show_camera(camera, usable)
        for group in (
            self.standpoint,
            self.lens,
            self.light,
            self.drawn,
            self.left_out,
            self.format,
            self.intent,
        ):
            group.show_camera(camera)
