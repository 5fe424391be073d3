"""The lens of the chosen cameras: focal length, angles of view, the subject held, fitting, the sensor."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QMenu

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.widgets import Group, button, menu_button
from altana.app.theme.words import capital, spoken, tr
from altana.app.workspace.fits import Fit
from altana.app.workspace.workspace import Workspace
from altana.core.camera.view import focal_for_angle
from altana.core.conventions import COMMON_FOCALS_MM
from altana.core.edits.settings import kept_value
from altana.core.lens import fit_by_distance, fit_by_lens, hold_subject, stretch_grade
from altana.core.project import Camera
from altana.core.ranges import ANGLE_OF_VIEW_DEG, FOCAL_MM, SENSOR_MM
from altana.core.targets import TARGETS, facade_ahead, target_points
from altana.core.wall_rays import wall_rays

#: Usual sensors and film gates, width before height.
SENSORS_MM = (
    (36.0, 24.0),
    (23.6, 15.7),
    (17.3, 13.0),
    (24.9, 18.7),
    (43.8, 32.9),
    (56.0, 41.5),
    (56.0, 56.0),
    (120.0, 96.0),
)
CHANGE = tr("Change lens")
SQUARE_FACADE = tr("façade, square to it,")


class LensGroup:
    """Focal length and angles of view; the sensor's field stands among those of the format."""

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        self._edits, self._bridge, self._state, self._studio = (
            workspace.edits,
            workspace.bridge,
            workspace.state,
            workspace.studio,
        )
        self._fits = workspace.fits
        self.group = group = Group(tr("Lens"))
        tip = tr("Focal length: the camera stays where it is, unless the subject's size is held")
        self.focal = fields.field(
            FieldSpec(
                tr("Focal length"),
                tip,
                "mm",
                1,
                1.0,
                CHANGE,
                lambda c: c.focal_mm,
                self._with_focal,
                FOCAL_MM,
            )
        )
        group.add_pair(
            tr("Focal length"),
            menu_button("▾", tr("Common focal lengths and own ones"), self._fill_focals),
            self.focal,
        )
        self.angle, self.angle_up = (
            fields.field(self._angle_field(axis, name, way))
            for axis, name, way in ((0, tr("View across"), tr("across")), (1, tr("View up"), tr("up")))
        )
        group.add_pair(tr("View"), self.angle, self.angle_up)
        tip = tr("Changing the lens walks as well, so that what is looked at keeps its size (key H)")
        self.hold = button(tr("Hold subject size"), "small", tip, checkable=True)
        self.fit = menu_button(
            tr("Fit ▾"),
            tr("Fit a chosen object, a room or a façade into the frame, by lens or by distance"),
            self._fill_fit,
        )
        group.add_wide(self.hold, self.fit)
        self._add_sensor(fields)

    def _add_sensor(self, fields: CameraFields) -> None:
        tip = tr("Sensor width: what the focal length refers to")
        self.sensor = fields.field(
            FieldSpec(
                tr("Sensor width"),
                tip,
                "mm",
                1,
                1.0,
                tr("Sensor"),
                lambda c: c.sensor_width_mm,
                _with_sensor,
                SENSOR_MM,
            )
        )
        self.sensor_sizes = menu_button("▾", tr("Sensor sizes by their dimensions"), self._fill_sensors)

    def _angle_field(self, axis: int, name: str, way: str) -> FieldSpec:
        return FieldSpec(
            name, tr("Angle of view {way} the picture", way=way), "°", 1, 1.0, CHANGE,
            lambda c: c.view().angles_of_view()[axis],
            lambda c, v: self._with_focal(c, focal_for_angle(v, c.view().sensor_mm[axis])),
            ANGLE_OF_VIEW_DEG,
        )  # fmt: skip

    def _with_focal(self, camera: Camera, focal: float) -> Camera:
        if self.hold.isChecked() and camera.aim_m > 0:
            return hold_subject(camera, focal)
        return replace(camera, focal_mm=focal)

    def take_focal(self, focal: float) -> None:
        """Use an exact focal length."""
        self._edits.commit(CHANGE, self._with_focal, focal)

    def step_focal(self, longer: int) -> None:
        """The next longer (1) or shorter (-1) common focal length."""
        active = self._state.active
        if active is None:
            return
        steps = sorted({*COMMON_FOCALS_MM, *self._bridge.project.own_focals_mm})
        longer_ones = [value for value in steps if value > active.focal_mm + 1e-6]
        shorter_ones = [value for value in reversed(steps) if value < active.focal_mm - 1e-6]
        wanted = longer_ones if longer > 0 else shorter_ones
        if wanted:
            self.take_focal(wanted[0])

    def toggle_hold(self) -> None:
        """Hold the subject's size while the lens changes, or not."""
        self.hold.setChecked(not self.hold.isChecked())

    def fit_to(self, target: str, by: str) -> None:
        """Frame the chosen object, the room looked into or the façade that the picture is of, also
        squarely."""
        scene, chosen = self._studio.scene, self._state.object_id
        if scene is None:
            return
        fit = fit_by_lens if by == "lens" else fit_by_distance

        def fitted(camera: Camera) -> Camera:
            square = None
            if target == SQUARE_FACADE:
                front = facade_ahead(scene.model, scene.walls or wall_rays(scene.model, scene.rays), camera)
                points, square = front.points, front.heading_deg
            else:
                points = target_points(scene.model, scene.rays, scene.owner, camera, target, chosen)
            result = fit(camera, points, square_deg=square)
            self._fits.keep(camera.id, Fit(result, points, by))
            return result

        self._edits.do(tr("Fit {target} by {by}", target=target, by=by), fitted)

    # ------------------------------------------------------------------ menus

    def _fill_focals(self, menu: QMenu) -> None:
        own, active = self._bridge.project.own_focals_mm, self._state.active
        for value in sorted({*COMMON_FOCALS_MM, *own}):
            menu.addAction(
                f"{value:g} mm" + ("  own" if value in own else ""), partial(self.take_focal, value)
            )
        if active is not None:
            menu.addSeparator()
            here = round(active.focal_mm, 2)
            keep, forget = (
                tr("Keep {here:g} mm as an own length", here=here),
                tr("Forget {here:g} mm as an own length", here=here),
            )
            text = forget if here in own else keep
            menu.addAction(
                text,
                lambda: self._bridge.apply(tr("Own values"), lambda p: kept_value(p, "own_focals_mm", here)),
            )
        menu.addSeparator()
        menu.addAction(tr("Next longer\tCtrl++"), lambda: self.step_focal(1))
        menu.addAction(tr("Next shorter\tCtrl+-"), lambda: self.step_focal(-1))

    def _fill_fit(self, menu: QMenu) -> None:
        for by in ("lens", "distance"):
            for name in (*TARGETS, SQUARE_FACADE):
                menu.addAction(
                    tr("{name} by {by}", name=capital(spoken(name)), by=spoken(by)),
                    partial(self.fit_to, name, by),
                )
            if by == "lens":
                menu.addSeparator()

    def _fill_sensors(self, menu: QMenu) -> None:
        for width, height in SENSORS_MM:
            menu.addAction(
                f"{width:g} × {height:g} mm", partial(self._edits.commit, tr("Sensor"), _with_sensor, width)
            )

    def show_camera(self, camera: Camera) -> None:
        """Follow the shown camera."""
        grade = stretch_grade(camera.view(), self._bridge.project.limits)
        self.group.show_figure(
            f"{camera.focal_mm:.4g} mm"
            + (tr(" · wide") if grade == 1 else tr(" · ! very wide") if grade else "")
        )


def _with_sensor(camera: Camera, width: float) -> Camera:
    return replace(camera, sensor_width_mm=width)
