"""Settings of the selected cameras: Standpoint, Direction, Lens, Verticals, Format."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QScrollArea, QVBoxLayout, QWidget

from altana.app.bridge import Bridge
from altana.app.scene import Studio
from altana.app.state import ViewState
from altana.app.theme.widgets import Group, NumberField, Segments, button, label, relabel, rule
from altana.core.camera.view import focal_for_angle
from altana.core.conventions import COMMON_FOCALS_MM, LOW_M, SEATED_M, STANDING_M, wrap_heading
from altana.core.edits.cameras import change_camera, checked, plumb_cameras
from altana.core.project import Camera, Project
from altana.core.standing import clearances, floor_under

PRESETS = (("Standing", STANDING_M), ("Seated", SEATED_M), ("Low", LOW_M))
#: More open groups than this would not fit beside the Frame at 800 px.
OPEN_GROUPS = 3
FORMATS = (
    ("Screen 16:9", 1920, 1080),
    ("Screen, small", 1280, 720),
    ("Square", 1080, 1080),
    ("Tall 4:5", 1080, 1350),
    ("Tall 9:16", 1080, 1920),
    ("Wide 2:1", 2000, 1000),
    ("Wide 2.39:1", 2390, 1000),
    ("Photo 3:2", 2160, 1440),
)


class CameraSettings(QWidget):
    """Thin views of the selected cameras; every change is one named undo step."""

    make_stills = Signal()

    def __init__(self, bridge: Bridge, state: ViewState, studio: Studio) -> None:
        super().__init__()
        self._bridge, self._state, self._studio = bridge, state, studio
        self.setObjectName("chrome")
        self.setFixedWidth(262)
        inner = QWidget()
        inner.setObjectName("chrome")
        column = QVBoxLayout(inner)
        column.setContentsMargins(14, 10, 12, 8)
        column.setSpacing(6)
        self._groups = [self._standpoint(), self._direction(), self._lens(), self._verticals(), self._format(), self._light()]
        for index, group in enumerate(self._groups):
            if index:
                column.addWidget(rule())
            column.addWidget(group)
            if index >= OPEN_GROUPS:
                group.fold()
        column.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(inner)
        foot = QVBoxLayout()
        foot.setContentsMargins(14, 6, 14, 10)
        self.stills_button = button(
            "Make stills…", "primary", "Pictures of the chosen cameras as files, in the background (key Ctrl+E)", self.make_stills.emit
        )
        foot.addWidget(self.stills_button)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(scroll, 1)
        outer.addLayout(foot)
        bridge.cameras_changed.connect(self.refresh)
        state.selection_changed.connect(self.refresh)
        state.shown_changed.connect(self.refresh)
        studio.opened.connect(self.refresh)
        self.refresh()

    # ------------------------------------------------------------------ building

    def _field(
        self,
        group: Group,
        text: str,
        tip: str,
        unit: str,
        decimals: int,
        step: float,
        label_: str,
        change: Callable[[Camera, float], Camera],
        low: float = -1e6,
        high: float = 1e6,
    ) -> NumberField:
        field = NumberField(text, tip, unit, decimals, step, low, high)
        field.changing.connect(lambda value: self._preview(change, value))
        field.changed.connect(lambda value: self._commit(label_, change, value))
        group.add_field(text, field)
        return field

    def _standpoint(self) -> Group:
        group = Group("Standpoint")
        self._presets = Segments([(name, f"Eye {height:.2f} m above the floor under it") for name, height in PRESETS])
        self._presets.chosen.connect(lambda index: self._commit("Eye height", self._with_eye_height, PRESETS[index][1]))
        group.add_wide(self._presets)
        self.eye_height = self._field(
            group,
            "Eye above floor",
            "Height of the eye above the floor that is really under it",
            "m",
            2,
            0.05,
            "Eye height",
            self._with_eye_height,
        )
        self._walls = label("–")
        self._walls.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self._walls.setToolTip("Free distance to the left and to the right, at eye height")
        group.add_field("To side walls", self._walls)
        self.eye_x = self._field(
            group, "East, x", "Place of the eye", "m", 2, 0.1, "Move eye", lambda c, v: replace(c, eye=(v, c.eye[1], c.eye[2]))
        )
        self.eye_y = self._field(
            group, "North, y", "Place of the eye", "m", 2, 0.1, "Move eye", lambda c, v: replace(c, eye=(c.eye[0], v, c.eye[2]))
        )
        return group

    def _direction(self) -> Group:
        group = Group("Direction")
        self.heading = self._field(
            group, "Heading", "Degrees clockwise from north", "°", 1, 1.0, "Turn", lambda c, v: replace(c, heading_deg=wrap_heading(v))
        )
        self.tilt = self._field(
            group, "Tilt", "Degrees, up positive", "°", 1, 1.0, "Tilt", lambda c, v: replace(c, tilt_deg=v), -89.0, 89.0
        )
        self.tilt_zero = button(
            "Tilt to 0°",
            "",
            "Level the line of sight (key 0)",
            lambda: self._commit("Tilt to 0°", lambda c, v: replace(c, tilt_deg=v), 0.0),
        )
        self.about_face = button(
            "About-face",
            "",
            "Turn by exactly 180°",
            lambda: self._commit("About-face", lambda c, v: replace(c, heading_deg=wrap_heading(c.heading_deg + v)), 180.0),
        )
        group.add_wide(self.tilt_zero, self.about_face)
        return group

    def _lens(self) -> Group:
        group = Group("Lens")
        self.focal = self._field(
            group,
            "Focal length",
            "On a sensor of 36 mm unless changed; the camera stays where it is",
            "mm",
            1,
            1.0,
            "Change lens",
            lambda c, v: replace(c, focal_mm=v),
            4.0,
            1200.0,
        )
        self._focals = QComboBox()
        self._focals.setAccessibleName("Common focal lengths")
        self._focals.setToolTip("Common focal lengths")
        self._focals.addItems(["Common…", *(f"{value:g} mm" for value in COMMON_FOCALS_MM)])
        self._focals.activated.connect(self._take_focal)
        group.add_field("", self._focals)
        self.angle = self._field(
            group,
            "View across",
            "Angle of view across the picture",
            "°",
            1,
            1.0,
            "Change lens",
            lambda c, v: replace(c, focal_mm=focal_for_angle(v, c.view().sensor_mm[0])),
            2.0,
            150.0,
        )
        return group

    def _verticals(self) -> Group:
        group = Group("Verticals")
        self.rise = self._field(
            group,
            "Rise",
            "Shifts the lens upwards: more of what is above",
            "mm",
            1,
            0.5,
            "Rise",
            lambda c, v: replace(c, rise_mm=v),
            -60.0,
            60.0,
        )
        self.plumb = button("Plumb", "", "Upright verticals by levelling and shifting the lens; the subject stays (key P)", self.plumb_now)
        group.add_wide(self.plumb)
        return group

    def _format(self) -> Group:
        group = Group("Format")
        self._formats = QComboBox()
        self._formats.setAccessibleName("Formats")
        self._formats.setToolTip("Proportion and size of the picture, by where it goes")
        self._formats.addItems(["Own size", *(name for name, _, _ in FORMATS)])
        self._formats.activated.connect(self._take_format)
        self._swap = button(
            "Wide / high",
            "",
            "Swap width and height",
            lambda: self._commit("Swap format", lambda c, _: replace(c, width_px=c.height_px, height_px=c.width_px), 0.0),
        )
        group.add_wide(self._formats, self._swap)
        self.width_field = self._field(
            group, "Width", "Pixels across", "px", 0, 10.0, "Format", lambda c, v: replace(c, width_px=round(v)), 16, 32768
        )
        self.height_field = self._field(
            group, "Height", "Pixels up", "px", 0, 10.0, "Format", lambda c, v: replace(c, height_px=round(v)), 16, 32768
        )
        return group

    def _light(self) -> Group:
        group = Group("Light")
        self.ev = self._field(
            group, "Exposure", "EV; lower is brighter", "EV", 1, 0.1, "Exposure", lambda c, v: replace(c, ev=v), -6.0, 22.0
        )
        return group

    # ------------------------------------------------------------------ changing

    def _targets(self) -> tuple[str, ...]:
        project = self._bridge.project
        chosen = self._state.selected or ((self._state.active_id,) if self._state.active_id else ())
        return tuple(item for item in chosen if (camera := project.camera(item)) is not None and not camera.locked)

    def _edit(self, change: Callable[[Camera, float], Camera], value: float) -> Callable[[Project], Project]:
        targets = self._targets()

        def edit(project: Project) -> Project:
            for camera_id in targets:
                project = change_camera(project, camera_id, lambda camera: checked(change(camera, value)))
            return project

        return edit

    def _preview(self, change: Callable[[Camera, float], Camera], value: float) -> None:
        if not self._bridge.in_gesture:
            self._bridge.begin()
        self._bridge.preview(self._edit(change, value))

    def _commit(self, label_: str, change: Callable[[Camera, float], Camera], value: float) -> None:
        if self._bridge.in_gesture:
            self._bridge.preview(self._edit(change, value))
            self._bridge.commit(label_)
        else:
            self._bridge.apply(label_, self._edit(change, value))
        self.refresh()

    def _with_eye_height(self, camera: Camera, height: float) -> Camera:
        scene = self._studio.scene
        floor = floor_under(scene.floors, camera.eye) if scene is not None else 0.0
        if floor is None:
            raise ValueError("There is no floor under the eye; move it over a floor first.")
        return replace(camera, eye=(camera.eye[0], camera.eye[1], floor + height))

    def plumb_now(self) -> None:
        """Straighten the verticals of the chosen cameras."""
        targets = self._targets()
        self._bridge.apply("Plumb", lambda project: plumb_cameras(project, targets))

    def level_now(self) -> None:
        """Tilt to 0."""
        self._commit("Tilt to 0°", lambda c, v: replace(c, tilt_deg=v), 0.0)

    def _take_focal(self, index: int) -> None:
        self._focals.setCurrentIndex(0)
        if index > 0:
            self._commit("Change lens", lambda c, v: replace(c, focal_mm=v), COMMON_FOCALS_MM[index - 1])

    def _take_format(self, index: int) -> None:
        if index > 0:
            _, width, height = FORMATS[index - 1]
            self._commit("Format", lambda c, _: replace(c, width_px=width, height_px=height), 0.0)

    # ------------------------------------------------------------------ showing

    def refresh(self) -> None:
        """Show the active camera; locked ones and none at all disable the fields."""
        camera = self._state.shown
        active = self._state.active
        usable = active is not None and bool(self._targets())
        for group in self._groups:
            group.body.setEnabled(usable)
        self.stills_button.setEnabled(bool(self._bridge.project.cameras))
        count = len(self._state.selected)
        relabel(self.stills_button, f"Make {count} stills…" if count > 1 else "Make stills…")
        if camera is None:
            return
        self._show_standpoint(camera)
        view = camera.view()
        across, _ = view.angles_of_view()
        self.heading.show_value(camera.heading_deg)
        self.tilt.show_value(camera.tilt_deg)
        self.focal.show_value(camera.focal_mm)
        self.angle.show_value(across)
        self.rise.show_value(camera.rise_mm)
        self.width_field.show_value(camera.width_px)
        self.height_field.show_value(camera.height_px)
        self.ev.show_value(camera.ev)
        true = abs(camera.tilt_deg) < 1e-9 and abs(camera.roll_deg) < 1e-9
        self.plumb.setEnabled(usable and not true)
        relabel(self.plumb, "Plumb: already true" if true else "Plumb")
        self.tilt_zero.setEnabled(camera.tilt_deg != 0.0)
        self._groups[1].show_figure(f"{camera.heading_deg:.1f}° · {camera.tilt_deg:.1f}°")
        self._groups[2].show_figure(f"{camera.focal_mm:.4g} mm")
        self._groups[3].show_figure("true" if true else f"lean {view.lean_deg():.1f}°")
        self._groups[4].show_figure(_proportion(camera))
        self._groups[5].show_figure(f"EV {camera.ev:.1f}")
        index = next((i + 1 for i, (_, w, h) in enumerate(FORMATS) if (w, h) == (camera.width_px, camera.height_px)), 0)
        self._formats.setCurrentIndex(index)

    def _show_standpoint(self, camera: Camera) -> None:
        self.eye_x.show_value(camera.eye[0])
        self.eye_y.show_value(camera.eye[1])
        scene: Any = self._studio.scene
        if scene is None:
            return
        floor = floor_under(scene.floors, camera.eye)
        height = camera.eye[2] - floor if floor is not None else camera.eye[2]
        self.eye_height.show_value(height)
        self._presets.take(next((i for i, (_, h) in enumerate(PRESETS) if abs(h - height) < 0.005), -1))
        _, right, _, left = clearances(scene.rays, camera.eye, camera.heading_deg)
        self._walls.setText(
            " · ".join("open" if value > 99 else f"{value:.2f}" for value in (left, right)) + (" m" if min(left, right) <= 99 else "")
        )
        room = scene.model.room_at(camera.eye)
        storey = scene.model.storey_below(camera.eye[2] - 0.4)
        self._groups[0].show_figure(room.name if room else (storey.name if storey and camera.inside else "outside"))


def _proportion(camera: Camera) -> str:
    for name, w, h in ((n, w, h) for n, w, h in FORMATS):
        if camera.width_px * h == camera.height_px * w:
            return name.split()[-1] if name[-1].isdigit() else {"Square": "1:1", "Screen, small": "16:9"}.get(name, name)
    return f"{camera.width_px / camera.height_px:.2f}:1"
