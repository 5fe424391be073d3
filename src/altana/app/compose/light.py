"""The exposure of the chosen cameras."""

from __future__ import annotations

from dataclasses import replace

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.widgets import Group, button, label
from altana.app.workspace.workspace import Workspace
from altana.core.light.exposure import exposure_for
from altana.core.project import Camera
from altana.core.ranges import EV

EXPOSURE = FieldSpec(
    "Exposure", "EV; lower is brighter", "EV", 1, 0.1, "Exposure",
    lambda c: c.ev, lambda c, v: replace(c, ev=v), EV,
)  # fmt: skip


class LightGroup:
    """EV, what it means on a camera, and a proposal."""

    def __init__(self, workspace: Workspace, fields: CameraFields) -> None:
        self._edits, self._exposing = workspace.edits, workspace.exposing
        self.group = group = Group("Light")
        self.ev = fields.field(EXPOSURE)
        group.add_field("Exposure", self.ev)
        self.exposure = label("", "quiet")
        self.exposure.setToolTip("f-number and shutter of this exposure at ISO 100")
        tip = "The exposure at which the middle of the picture comes out as middle grey"
        self.propose = button("Propose", "small", tip, self.propose_exposure)
        group.add_wide(self.exposure, self.propose)

    def propose_exposure(self) -> None:
        """Take the exposure of the chosen cameras from their pictures."""
        self._exposing.propose(self._edits.targets)

    def show_camera(self, camera: Camera) -> None:
        """Follow the shown camera."""
        words = exposure_for(camera.ev).words
        self.exposure.setText(words)
        self.group.show_figure(f"EV {camera.ev:.1f} · {words}")
