"""The verticals of the chosen cameras: rise and cross by hand, Plumb, and keeping plumb."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.widgets import Group, Slider, button, label, relabel
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.edits.cameras import keep_plumb, plumb_cameras
from altana.core.project import Camera
from altana.core.ranges import SHIFT_MM

RISE = FieldSpec(
    tr("Rise"), tr("Rise: shifts the lens up, more of what is above"), "mm", 1, 0.5, tr("Rise"),
    lambda c: c.rise_mm, lambda c, v: replace(c, rise_mm=v), SHIFT_MM,
)  # fmt: skip
CROSS = FieldSpec(
    tr("Cross"), tr("Cross: shifts the lens to the right"), "mm", 1, 0.5, tr("Cross"),
    lambda c: c.cross_mm, lambda c, v: replace(c, cross_mm=v), SHIFT_MM,
)  # fmt: skip


class VerticalsGroup:
    """Rise, cross, and straightening."""

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        self._edits, self._bridge, self._state = workspace.edits, workspace.bridge, workspace.state
        self.group = group = Group(tr("Verticals"))
        self.rise, self.cross = fields.field(RISE), fields.field(CROSS)
        # Typed with a per cent sign they are shares of the frame's height and width.
        self.rise.whole, self.cross.whole = (lambda: self._sensor_side(1)), (lambda: self._sensor_side(0))
        group.add_pair(tr("Rise, cross"), self.rise, self.cross)
        self.shares = label("", "quiet")
        self.shares.setAlignment(Qt.AlignmentFlag.AlignRight)
        group.add_wide(self.shares)
        self.amount = Slider()
        self.amount.setRange(0, 100)
        self.amount.setValue(100)
        self.amount.setAccessibleName(tr("Amount of plumb"))
        self.amount.setToolTip(tr("How much of the tilt Plumb takes out, per cent"))
        group.add_field(tr("Amount"), self.amount)
        self.keep_size = button(
            tr("Keep size"),
            "small",
            tr("Plumb keeps the subject's size at the middle of the frame"),
            checkable=True,
        )
        tip = tr("Upright verticals by levelling and shifting the lens; the subject stays (key P)")
        self.plumb = button(tr("Plumb"), "small", tip, self.plumb_now)
        group.add_wide(self.keep_size, self.plumb)
        tip = tr("Turned up or down the camera stays true: turning becomes rise, until a limit that is said")
        self.kept = button(tr("Keep plumb"), "small", tip, checkable=True)
        self.kept.clicked.connect(self._take_kept)
        self.roll_zero = button(tr("Roll to 0°"), "small", tr("Level the horizon exactly"), self.level_roll)
        group.add_wide(self.kept, self.roll_zero)

    def _sensor_side(self, axis: int) -> float:
        active = self._state.active
        return active.view().sensor_mm[axis] if active is not None else 0.0

    def plumb_now(self) -> None:
        """Straighten the verticals of the chosen cameras."""
        targets, amount, keep = self._edits.targets, self.amount.value() / 100.0, self.keep_size.isChecked()
        self._bridge.apply(tr("Plumb"), lambda project: plumb_cameras(project, targets, amount, keep))

    def toggle_kept(self) -> None:
        """Keep the chosen cameras plumb, or let them tilt again."""
        self.kept.setChecked(not self.kept.isChecked())
        self._take_kept()

    def _take_kept(self) -> None:
        steepest = self._bridge.project.limits.steepest_rise_deg
        kept = self.kept.isChecked()
        self._edits.commit(
            tr("Keep plumb") if kept else tr("Let it tilt"), lambda c, v: keep_plumb(c, v, steepest), kept
        )

    def level_roll(self) -> None:
        """Roll to exactly 0."""
        self._edits.do(tr("Roll to 0°"), lambda c: replace(c, roll_deg=0.0))

    def show_camera(self, camera: Camera, usable: bool, several: bool) -> None:
        """Follow the shown camera.  several : one of the chosen ones is tilted or rolled."""
        view = camera.view()
        true = abs(camera.tilt_deg) < 1e-9 and abs(camera.roll_deg) < 1e-9
        self.plumb.setEnabled(usable and (not true or several))
        relabel(self.plumb, tr("Already true") if true and not several else tr("Plumb"))
        self.kept.setChecked(camera.kept_plumb)
        self.roll_zero.setEnabled(usable and (camera.roll_deg != 0.0 or several))
        width, height = view.sensor_mm
        self.shares.setText(
            tr(
                "{rise_mm:+.0f} % · {cross_mm:+.0f} % of the frame",
                rise_mm=camera.rise_mm / height * 100,
                cross_mm=camera.cross_mm / width * 100,
            )
        )
        self.group.show_figure(_figure(camera, true, view.lean_deg()))


def _figure(camera: Camera, true: bool, lean_deg: float) -> str:
    if not true:
        return tr("lean {lean_deg:.1f}°", lean_deg=lean_deg)
    rise = tr(" · rise {rise_mm:.1f}", rise_mm=camera.rise_mm) if abs(camera.rise_mm) > 0.05 else ""
    kept = tr(" · kept") if camera.kept_plumb else ""
    return tr("true") + rise + kept
