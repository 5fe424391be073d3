"""Light of the chosen cameras: exposure, and date, time and sky of their own; depth of field."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.own_light import OwnLightFields, own_words
from altana.app.theme.widgets import Group, button, check_box, label
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.light.exposure import exposure_for
from altana.core.project import Camera, OwnLight
from altana.core.ranges import EV, F_NUMBER, FOCUS_M

EXPOSURE = FieldSpec(
    tr("Exposure"), tr("EV; lower is brighter"), "EV", 1, 0.1, tr("Exposure"),
    lambda c: c.ev, lambda c, v: replace(c, ev=v), EV,
)  # fmt: skip
APERTURE = FieldSpec(
    "f-number", tr("The smaller, the less is sharp"), "", 1, 0.5, "f-number",
    lambda c: c.f_number, lambda c, v: replace(c, f_number=v), F_NUMBER,
)  # fmt: skip
FOCUS = FieldSpec(
    tr("Focus"), tr("Distance in focus; to begin with what the camera looks at"), "m", 2, 0.1, tr("Focus"),
    lambda c: c.focus_m or c.aim_m, lambda c, v: replace(c, focus_m=v), FOCUS_M,
)  # fmt: skip


class LightGroup:
    """EV, what it means on a camera, and a proposal; light of its own; blur before and behind."""

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        self._edits, self._exposing, self._bridge = workspace.edits, workspace.exposing, workspace.bridge
        self.group = group = Group(tr("Light"))
        self.ev = fields.field(EXPOSURE)
        group.add_field(tr("Exposure"), self.ev)
        self.exposure = label("", "quiet")
        self.exposure.setToolTip(tr("f-number and shutter of this exposure at ISO 100"))
        tip = tr("The exposure at which the middle of the picture comes out as middle grey")
        self.propose = button(tr("Propose"), "small", tip, self.propose_exposure)
        group.add_wide(self.exposure, self.propose)
        self.follows = label("", "quiet")
        self.follows.setWordWrap(True)
        group.add_wide(self.follows)
        self.own = OwnLightFields(self._set_own, workspace.notices.trouble)
        self.own.add_to(group)
        self.blur = check_box(
            tr("Depth of field"),
            tr("Blur what is not in focus, by the lens's own figures; not while things move"),
        )
        self.blur.clicked.connect(
            lambda on: self._edits.commit(tr("Depth of field"), lambda c, v: replace(c, blur=v), on)
        )
        group.add_wide(self.blur)
        self.f_number, self.focus = fields.field(APERTURE), fields.field(FOCUS)
        group.add_field("f-number", self.f_number)
        group.add_field(tr("Focus"), self.focus)

    def _set_own(self, change: Callable[[OwnLight], OwnLight]) -> None:
        self._edits.commit(tr("Light of the camera"), lambda c, v: replace(c, light=v(c.light)), change)

    def propose_exposure(self) -> None:
        """Take the exposure of the chosen cameras from their pictures."""
        self._exposing.propose(self._edits.targets)

    def show_camera(self, camera: Camera) -> None:
        """Follow the shown camera."""
        words = exposure_for(camera.ev).words
        self.exposure.setText(words)
        own = own_words(camera.light)
        self.follows.setText(tr("Its own: {own}.", own=own) if own else tr("Follows the project's light."))
        self.own.show(camera.light, self._bridge.project.light)
        self.blur.setChecked(camera.blur)
        for part in (self.f_number, self.focus):
            part.setEnabled(camera.blur)
        self.group.show_figure(f"EV {camera.ev:.1f} · {own or words}")
