"""Settings of the selected cameras: Standpoint, Direction, Lens, Verticals, Cut-away, Light, Drawn as, Left out, Format, Intent."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QScrollArea, QSizePolicy, QSlider, QVBoxLayout, QWidget

from altana.app.exposing import Exposing
from altana.app.settings.bounds import CutAwayGroup
from altana.app.settings.drawn import DrawnGroup
from altana.app.settings.framing import FormatGroup, IntentGroup, LeftOutGroup
from altana.app.settings.panel import Panel
from altana.app.theme.widgets import Group, Segments, button, label, menu_button, relabel, rule
from altana.app.workspace.workspace import Workspace
from altana.core.camera.bounds import place_of_sight
from altana.core.camera.view import focal_for_angle
from altana.core.conventions import COMMON_FOCALS_MM, LOW_M, SEATED_M, STANDING_M, wrap_heading
from altana.core.edits.cameras import keep_plumb, plumb_cameras
from altana.core.edits.keeping import tidy
from altana.core.edits.shots import list_cameras
from altana.core.errors import Refused
from altana.core.lens import fit_by_distance, fit_by_lens, hold_subject, stretch_grade
from altana.core.light.exposure import exposure_for
from altana.core.project import Camera
from altana.core.standing import TOOLS, back_to_wall, clearances, floor_under, mid_height
from altana.core.targets import TARGETS, target_points

PRESETS = (
    ("Standing", STANDING_M, "Eye 1.60 m above the floor under it"),
    ("Seated", SEATED_M, "Eye 1.20 m above the floor under it"),
    ("Child", LOW_M, "Eye 1.00 m above the floor under it"),
    ("Middle", 0.0, "Eye in the middle of the room's height"),
)
#: More open groups than this would not fit beside the Frame at 800 px.
OPEN_GROUPS = 3
#: While something is dragged the numbers follow at this interval.
FOLLOW_MS = 45
#: Usual sensors and film gates, width before height.
SENSORS_MM = ((36.0, 24.0), (23.6, 15.7), (17.3, 13.0), (24.9, 18.7), (43.8, 32.9), (56.0, 41.5), (56.0, 56.0), (120.0, 96.0))
TURNS = (-90.0, -15.0, 15.0, 90.0, 180.0)


class CameraSettings(Panel):
    """Thin views of the selected cameras; every change is one named undo step."""

    make_stills = Signal()
    shot_list = Signal()

    def __init__(self, workspace: Workspace) -> None:
        bridge, state, studio, book = workspace.bridge, workspace.state, workspace.studio, workspace.book
        super().__init__(workspace)
        self.book = book
        self.exposing = Exposing(workspace)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(FOLLOW_MS)
        self._soon.timeout.connect(self.refresh)
        self.setObjectName("chrome")
        self.setFixedWidth(272)
        inner = QWidget()
        inner.setObjectName("chrome")
        column = QVBoxLayout(inner)
        column.setContentsMargins(12, 6, 10, 4)
        column.setSpacing(3)
        self.cut = CutAwayGroup(self)
        self.near, self.far, self.near_on, self.far_on = self.cut.near, self.cut.far, self.cut.near_on, self.cut.far_on
        self.drawn = DrawnGroup(self)
        self.left_out = LeftOutGroup(self)
        self.format = FormatGroup(self)
        self.intent = IntentGroup(self)
        self.groups: dict[str, Group] = {
            "standpoint": self._standpoint(),
            "direction": self._direction(),
            "lens": self._lens(),
            "verticals": self._verticals(),
            "cut": self.cut.group,
            "light": self._light(),
            "drawn as": self.drawn.group,
            "left out": self.left_out.group,
            "format": self.format.group,
            "intent": self.intent.group,
        }
        for index, group in enumerate(self.groups.values()):
            if index:
                column.addWidget(rule())
            column.addWidget(group)
            if index >= OPEN_GROUPS:
                group.fold()
            group.unfolded.connect(self.refresh)
        column.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(inner)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(scroll, 1)
        outer.addLayout(self._foot())
        # A change of cameras is told by what is shown, so it need not be heard twice.
        for signal in (bridge.left_out_changed, state.shown_changed, studio.opened, state.object_changed):
            signal.connect(self._changed)
        bridge.settled.connect(self._show_rows)
        self.refresh()

    def _foot(self) -> QVBoxLayout:
        foot = QVBoxLayout()
        foot.setContentsMargins(12, 6, 12, 10)
        self.stills_button = button(
            "Make stills…", "primary", "Pictures of the chosen cameras as files, in the background (key Ctrl+E)", self.make_stills.emit
        )
        self.shot_button = button(
            "In shot list", "", "Whether this camera is delivered with the shot list (key S)", self.toggle_shot, checkable=True
        )
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.stills_button, 1)
        row.addWidget(self.shot_button)
        foot.addLayout(row)
        return foot

    # ------------------------------------------------------------------ building

    def _standpoint(self) -> Group:
        group = Group("Standpoint")
        self._presets = Segments([(name, tip) for name, _, tip in PRESETS])
        self._presets.chosen.connect(self._take_preset)
        group.add_wide(self._presets)
        self.eye_height = self.field(
            "Eye above floor",
            "Height of the eye above the floor that is really under it",
            "m",
            2,
            0.05,
            "Eye height",
            self._height_of,
            self._with_eye_height,
            costly=True,
        )
        group.add_pair(
            "Eye above floor", menu_button("own ▾", "Own eye heights: take one, or keep this one", self._fill_heights), self.eye_height
        )
        self.eye_x = self.field(
            "East, x",
            "Place of the eye: east",
            "m",
            2,
            0.1,
            "Move eye",
            lambda c: c.eye[0],
            lambda c, v: replace(c, eye=(v, c.eye[1], c.eye[2])),
        )
        self.eye_y = self.field(
            "North, y",
            "Place of the eye: north",
            "m",
            2,
            0.1,
            "Move eye",
            lambda c: c.eye[1],
            lambda c, v: replace(c, eye=(c.eye[0], v, c.eye[2])),
        )
        group.add_pair("Place x, y", self.eye_x, self.eye_y)
        self._walls = label("–")
        self._walls.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self._walls.setToolTip("Free distance to the left and to the right, at eye height")
        group.add_field("To side walls", self._walls)
        self.tools = {
            "Between walls": button(
                "Between walls", "small", "Slide until the side walls are equally far (key B)", lambda: self.use_tool("Between walls")
            ),
            "Corner": button("Corner", "small", "Into the nearest corner behind, looking across the room", lambda: self.use_tool("Corner")),
            "Middle of the room": button("Middle of room", "small", "To the middle both ways", lambda: self.use_tool("Middle of the room")),
            "Back to wall": button(
                "Back to wall",
                "small",
                "Step back to the wall behind; outdoors as far as there is free ground",
                lambda: self.use_tool("Back to wall"),
            ),
        }
        group.add_wide(self.tools["Between walls"], self.tools["Corner"])
        group.add_wide(self.tools["Middle of the room"], self.tools["Back to wall"])
        self.back = menu_button(
            "Back through wall ▾",
            "Back, out through the wall behind if need be, until a width of the far wall fits; the bound lands on the wall's inner face",
            lambda menu: self.cut.fill_back(menu),
        )
        self.back.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        group.add_wide(self.back)
        self._trouble = label("", "trouble")
        self._trouble.setWordWrap(True)
        group.add_wide(self._trouble)
        self._trouble.hide()
        return group

    def _direction(self) -> Group:
        group = Group("Direction")
        self.heading = self.add(
            group,
            "Heading",
            "Degrees clockwise from north",
            "°",
            1,
            1.0,
            "Turn",
            lambda c: c.heading_deg,
            lambda c, v: replace(c, heading_deg=wrap_heading(v)),
        )
        self.tilt = self.field(
            "Tilt",
            "Tilt: degrees, up positive",
            "°",
            1,
            1.0,
            "Tilt",
            lambda c: c.tilt_deg,
            lambda c, v: replace(c, tilt_deg=v),
            -89.0,
            89.0,
        )
        self.roll = self.field(
            "Roll", "Roll: degrees clockwise", "°", 1, 1.0, "Roll", lambda c: c.roll_deg, lambda c, v: replace(c, roll_deg=v), -180.0, 180.0
        )
        group.add_pair("Tilt, roll", self.tilt, self.roll)
        self.aim = self.field(
            "Looks at",
            "Distance of what is looked at",
            "m",
            2,
            0.1,
            "Distance",
            lambda c: c.aim_m,
            lambda c, v: replace(c, aim_m=max(0.1, v)),
            0.1,
            1e5,
        )
        self._point = Segments(
            [("point", "The camera looks at a point: circling and holding its size go by it"), ("ahead", "It only looks that way")]
        )
        self._point.chosen.connect(lambda index: self.commit("Looks at", lambda c, v: replace(c, looks_at_point=v), index == 0))
        group.add_pair("Looks at", self._point, self.aim)
        self.square = button(
            "Square to wall", "small", "Exactly across the line of sight: a one-point view (key Q)", lambda: self.use_tool("Square to wall")
        )
        self.tilt_zero = button("Tilt to 0°", "small", "Level the line of sight (key 0)", self.level_now)
        group.add_wide(self.square, self.tilt_zero)
        turns = [button(*_turn_words(turn), partial(self.turn_by, turn)) for turn in TURNS]
        self.turns = dict(zip(TURNS, turns, strict=True))
        group.add_wide(*turns)
        return group

    def _lens(self) -> Group:
        group = Group("Lens")
        self.focal = self.field(
            "Focal length",
            "Focal length: the camera stays where it is, unless the subject's size is held",
            "mm",
            1,
            1.0,
            "Change lens",
            lambda c: c.focal_mm,
            self._with_focal,
            4.0,
            1200.0,
        )
        group.add_pair("Focal length", menu_button("▾", "Common focal lengths and own ones", self._fill_focals), self.focal)
        self.angle = self.field(
            "View across",
            "Angle of view across the picture",
            "°",
            1,
            1.0,
            "Change lens",
            lambda c: c.view().angles_of_view()[0],
            lambda c, v: self._with_focal(c, focal_for_angle(v, c.view().sensor_mm[0])),
            1.0,
            150.0,
        )
        self.angle_up = self.field(
            "View up",
            "Angle of view up the picture",
            "°",
            1,
            1.0,
            "Change lens",
            lambda c: c.view().angles_of_view()[1],
            lambda c, v: self._with_focal(c, focal_for_angle(v, c.view().sensor_mm[1])),
            1.0,
            150.0,
        )
        group.add_pair("View", self.angle, self.angle_up)
        self.hold = button(
            "Hold subject size",
            "small",
            "Changing the lens walks as well, so that what is looked at keeps its size (key H)",
            checkable=True,
        )
        self.fit = menu_button("Fit ▾", "Fit a chosen object, a room or a façade into the frame, by lens or by distance", self._fill_fit)
        group.add_wide(self.hold, self.fit)
        self.sensor = self.field(
            "Sensor width",
            "Sensor width: what the focal length refers to",
            "mm",
            1,
            1.0,
            "Sensor",
            lambda c: c.sensor_width_mm,
            self._with_sensor,
            1.0,
            500.0,
        )
        sizes = menu_button("▾", "Sensor sizes by their dimensions", self._fill_sensors)
        self.format.group.add_pair("Sensor width", sizes, self.sensor)
        return group

    def _verticals(self) -> Group:
        group = Group("Verticals")
        self.rise = self.field(
            "Rise",
            "Rise: shifts the lens up, more of what is above",
            "mm",
            1,
            0.5,
            "Rise",
            lambda c: c.rise_mm,
            lambda c, v: replace(c, rise_mm=v),
            -60.0,
            60.0,
        )
        self.cross = self.field(
            "Cross",
            "Cross: shifts the lens to the right",
            "mm",
            1,
            0.5,
            "Cross",
            lambda c: c.cross_mm,
            lambda c, v: replace(c, cross_mm=v),
            -60.0,
            60.0,
        )
        # Typed with a per cent sign they are shares of the frame's height and width.
        self.rise.whole, self.cross.whole = (lambda: self._sensor_side(1)), (lambda: self._sensor_side(0))
        group.add_pair("Rise, cross", self.rise, self.cross)
        self._shares = label("", "quiet")
        self._shares.setAlignment(Qt.AlignmentFlag.AlignRight)
        group.add_wide(self._shares)
        self.amount = QSlider(Qt.Orientation.Horizontal)
        self.amount.setRange(0, 100)
        self.amount.setValue(100)
        self.amount.setAccessibleName("Amount of plumb")
        self.amount.setToolTip("How much of the tilt Plumb takes out, per cent")
        group.add_field("Amount", self.amount)
        self.keep_size = button("Keep size", "small", "Plumb keeps the subject's size at the middle of the frame", checkable=True)
        self.plumb = button(
            "Plumb", "small", "Upright verticals by levelling and shifting the lens; the subject stays (key P)", self.plumb_now
        )
        group.add_wide(self.keep_size, self.plumb)
        self.kept = button(
            "Keep plumb",
            "small",
            "Turned up or down the camera stays true: turning becomes rise, until a limit that is said",
            checkable=True,
        )
        self.kept.clicked.connect(self.toggle_kept)
        self.roll_zero = button("Roll to 0°", "small", "Level the horizon exactly", self.level_roll)
        group.add_wide(self.kept, self.roll_zero)
        return group

    def _light(self) -> Group:
        group = Group("Light")
        self.ev = self.add(
            group, "Exposure", "EV; lower is brighter", "EV", 1, 0.1, "Exposure", lambda c: c.ev, lambda c, v: replace(c, ev=v), -6.0, 22.0
        )
        self.exposure = label("", "quiet")
        self.exposure.setToolTip("f-number and shutter of this exposure at ISO 100")
        self.propose = button(
            "Propose", "small", "The exposure at which the middle of the picture comes out as middle grey", self.propose_exposure
        )
        group.add_wide(self.exposure, self.propose)
        return group

    def propose_exposure(self) -> None:
        """Take the exposure of the chosen cameras from their pictures."""
        self.exposing.propose(self.targets())

    # ------------------------------------------------------------------ standing

    def _height_of(self, camera: Camera) -> float:
        scene = self._studio.scene
        floor = scene.footing(place_of_sight(camera)).floor_m if scene is not None else 0.0
        return camera.eye[2] - (floor or 0.0)

    def _with_eye_height(self, camera: Camera, height: float) -> Camera:
        scene = self._studio.scene
        floor = floor_under(scene.floors, place_of_sight(camera)) if scene is not None else 0.0
        if floor is None:
            raise Refused("There is no floor under the eye; move it over a floor first.")
        return replace(camera, eye=(camera.eye[0], camera.eye[1], floor + height))

    def _take_preset(self, index: int) -> None:
        _, height, _ = PRESETS[index]
        if height:
            self.commit("Eye height", self._with_eye_height, height)
        else:
            self.commit("Eye in the middle", self._with_mid_height)

    def _with_mid_height(self, camera: Camera, _: Any) -> Camera:
        scene = self._studio.scene
        if scene is None:
            raise Refused("No model is open yet.")
        return self._with_eye_height(camera, mid_height(scene.rays, scene.floors, camera.eye))

    def _fill_heights(self, menu: QMenu) -> None:
        project, active = self._bridge.project, self._state.active
        for height in project.own_heights_m:
            menu.addAction(f"{height:.2f} m", lambda height=height: self.commit("Eye height", self._with_eye_height, height))
        menu.addSeparator()
        if active is not None:
            here = round(self._height_of(active), 3)
            menu.addAction(f"Keep {here:.2f} m as an own height", lambda: self._own("own_heights_m", here))
        for height in project.own_heights_m:
            menu.addAction(f"Forget {height:.2f} m", lambda height=height: self._own("own_heights_m", height))
        menu.addSeparator()
        menu.addAction("Tidy the place to 1 cm", lambda: self.commit("Tidy place", tidy, 0.01))
        menu.addAction("Tidy the place to 10 cm", lambda: self.commit("Tidy place", tidy, 0.1))

    def _own(self, kind: str, value: float) -> None:
        """Keep a value among one's own, or forget it."""
        held: tuple[float, ...] = getattr(self._bridge.project, kind)
        kept = tuple(item for item in held if item != value) if value in held else tuple(sorted((*held, value)))
        self._bridge.apply("Own values", lambda project: replace(project, **{kind: kept}))  # type: ignore[arg-type]

    def use_tool(self, name: str) -> None:
        """Stand the chosen cameras by the building: between walls, into a corner, square to a wall and so on."""
        scene = self._studio.scene
        if scene is None:
            return

        def change(camera: Camera, _: Any) -> Camera:
            if name == "Back to wall":
                return back_to_wall(camera, scene.rays, scene.floors)
            return TOOLS[name](camera, scene.rays)

        self.commit(name, change)

    def turn_by(self, degrees: float) -> None:
        """Turn the chosen cameras by a fixed angle."""
        name = "About-face" if degrees == 180.0 else f"Turn by {degrees:+.0f}°"
        self.commit(name, lambda c, v: replace(c, heading_deg=wrap_heading(c.heading_deg + v)), degrees)

    def level_now(self) -> None:
        """Tilt to 0."""
        self.commit("Tilt to 0°", lambda c, v: replace(c, tilt_deg=v), 0.0)

    # ------------------------------------------------------------------ lens

    def _with_focal(self, camera: Camera, focal: float) -> Camera:
        if self.hold.isChecked() and camera.aim_m > 0:
            return hold_subject(camera, focal)
        return replace(camera, focal_mm=focal)

    def _with_sensor(self, camera: Camera, width: float) -> Camera:
        return replace(camera, sensor_width_mm=width)

    def _fill_sensors(self, menu: QMenu) -> None:
        for width, height in SENSORS_MM:
            menu.addAction(f"{width:g} × {height:g} mm", partial(self.commit, "Sensor", self._with_sensor, width))

    def _fill_focals(self, menu: QMenu) -> None:
        own = self._bridge.project.own_focals_mm
        for value in sorted({*COMMON_FOCALS_MM, *own}):
            menu.addAction(f"{value:g} mm" + ("  own" if value in own else ""), lambda value=value: self.take_focal(value))
        active = self._state.active
        if active is not None:
            menu.addSeparator()
            here = round(active.focal_mm, 2)
            kept = here in own
            menu.addAction(f"{'Forget' if kept else 'Keep'} {here:g} mm as an own length", lambda: self._own("own_focals_mm", here))
        menu.addSeparator()
        menu.addAction("Next longer\tCtrl++", lambda: self.step_focal(1))
        menu.addAction("Next shorter\tCtrl+-", lambda: self.step_focal(-1))

    def take_focal(self, focal: float) -> None:
        """Use an exact focal length."""
        self.commit("Change lens", self._with_focal, focal)

    def step_focal(self, longer: int) -> None:
        """The next longer (1) or shorter (-1) common focal length."""
        active = self._state.active
        if active is None:
            return
        steps = sorted({*COMMON_FOCALS_MM, *self._bridge.project.own_focals_mm})
        wanted = [v for v in steps if v > active.focal_mm + 1e-6] if longer > 0 else [v for v in steps if v < active.focal_mm - 1e-6][::-1]
        if wanted:
            self.take_focal(wanted[0])

    def toggle_hold(self) -> None:
        """Hold the subject's size while the lens changes, or not."""
        self.hold.setChecked(not self.hold.isChecked())

    def _fill_fit(self, menu: QMenu) -> None:
        for name in TARGETS:
            menu.addAction(f"{name.capitalize()} by lens", lambda name=name: self.fit_to(name, "lens"))
        menu.addSeparator()
        for name in TARGETS:
            menu.addAction(f"{name.capitalize()} by distance", lambda name=name: self.fit_to(name, "distance"))

    def fit_to(self, target: str, by: str) -> None:
        """Frame the chosen object, the room looked into or the façade in the middle of the picture."""
        scene = self._studio.scene
        if scene is None:
            return
        fit = fit_by_lens if by == "lens" else fit_by_distance

        def change(camera: Camera, _: Any) -> Camera:
            return fit(camera, target_points(scene.model, scene.rays, scene.owner, camera, target, self._state.object_id))

        self.commit(f"Fit {target} by {by}", change)

    # ------------------------------------------------------------------ verticals and bounds

    def _sensor_side(self, axis: int) -> float:
        active = self._state.active
        return active.view().sensor_mm[axis] if active is not None else 0.0

    def toggle_kept(self) -> None:
        """Keep the chosen cameras plumb, or let them tilt again."""
        steepest = self._bridge.project.limits.steepest_rise_deg
        kept = self.kept.isChecked()
        self.commit("Keep plumb" if kept else "Let it tilt", lambda c, v: keep_plumb(c, v, steepest), kept)

    def level_roll(self) -> None:
        """Roll to exactly 0."""
        self.commit("Roll to 0°", lambda c, v: replace(c, roll_deg=v), 0.0)

    def plumb_now(self) -> None:
        """Straighten the verticals of the chosen cameras."""
        targets, amount, keep = self.targets(), self.amount.value() / 100.0, self.keep_size.isChecked()
        self._bridge.apply("Plumb", lambda project: plumb_cameras(project, targets, amount, keep))

    def toggle_shot(self) -> None:
        """Into the shot list, or out of it."""
        active = self._state.active
        if active is not None:
            wanted = not active.in_shot_list
            targets = self.targets()
            self._bridge.apply("In shot list" if wanted else "Out of shot list", lambda project: list_cameras(project, targets, wanted))

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
        usable = bool(self.targets()) and self._state.loose is None
        for group in self.groups.values():
            group.body.setEnabled(usable)
        self.stills_button.setEnabled(bool(self._bridge.project.cameras))
        count = len(self._state.selected)
        relabel(self.stills_button, f"Make {count} stills…" if count > 1 else "Make stills…")
        self.shot_button.setEnabled(usable)
        if camera is None:
            return
        self.show_fields(camera)
        self._show_standpoint(camera)
        self._show_figures(camera, usable)
        for part in (self.drawn, self.left_out, self.format, self.intent):
            part.show_camera(camera)

    def _show_figures(self, camera: Camera, usable: bool) -> None:
        view = camera.view()
        true = abs(camera.tilt_deg) < 1e-9 and abs(camera.roll_deg) < 1e-9
        several = any(item.tilt_deg or item.roll_deg for item in self.chosen())
        self.plumb.setEnabled(usable and (not true or several))
        relabel(self.plumb, "Already true" if true and not several else "Plumb")
        self.tilt_zero.setEnabled(usable and (camera.tilt_deg != 0.0 or several))
        self.exposure.setText(exposure_for(camera.ev).words)
        self._point.take(0 if camera.looks_at_point else 1)
        self.cut.show_camera(camera, usable)
        self.kept.setChecked(camera.kept_plumb)
        self.roll_zero.setEnabled(usable and (camera.roll_deg != 0.0 or several))
        width, height = view.sensor_mm
        self._shares.setText(f"{camera.rise_mm / height * 100:+.0f} % · {camera.cross_mm / width * 100:+.0f} % of the frame")
        self.shot_button.setChecked(camera.in_shot_list)
        relabel(self.shot_button, "In list ✓" if camera.in_shot_list else "In shot list")
        grade = stretch_grade(view, self._bridge.project.limits)
        figures = {
            "direction": f"{camera.heading_deg:.1f}° · {camera.tilt_deg:.1f}°",
            "lens": f"{camera.focal_mm:.4g} mm" + (" · wide" if grade == 1 else " · ! very wide" if grade else ""),
            "verticals": _verticals_text(camera, true, view.lean_deg()),
            "cut": self.cut.figure(camera),
            "light": f"EV {camera.ev:.1f} · {exposure_for(camera.ev).words}",
        }
        for name, text in figures.items():
            self.groups[name].show_figure(text)

    def _show_standpoint(self, camera: Camera) -> None:
        scene = self._studio.scene
        if scene is None:
            return
        height = self._height_of(camera)
        self._presets.take(next((i for i, (_, h, _) in enumerate(PRESETS) if abs(h - height) < 0.005), -1))
        _, right, _, left = clearances(scene.rays, camera.eye, camera.heading_deg)
        self._walls.setText(
            " · ".join("open" if value > 99 else f"{value:.2f}" for value in (left, right)) + (" m" if min(left, right) <= 99 else "")
        )
        place = place_of_sight(camera)
        trouble = scene.footing(place).trouble
        if trouble != self._trouble.text() or self._trouble.isHidden() == bool(trouble):
            self._trouble.setText(f"! {trouble}" if trouble else "")
            self._trouble.setVisible(bool(trouble))
        room = scene.model.room_at(place)
        storey = scene.model.storey_below(place[2] - 0.4)
        where = room.name if room else (storey.name if storey and camera.inside else "outside")
        count = len(self._state.selected)
        self.groups["standpoint"].show_figure(f"{count} cameras" if count > 1 else where)


def _turn_words(turn: float) -> tuple[str, str, str]:
    """Text, kind and tip of a button that turns by a fixed angle."""
    if turn == 180.0:
        return "180°", "small", "About-face: turn by exactly 180°"
    return f"{turn:+.0f}°", "small", f"Turn by exactly {turn:+.0f}°"


def _verticals_text(camera: Camera, true: bool, lean_deg: float) -> str:
    if not true:
        return f"lean {lean_deg:.1f}°"
    return "true" + (f" · rise {camera.rise_mm:.1f}" if abs(camera.rise_mm) > 0.05 else "") + (" · kept" if camera.kept_plumb else "")
