"""Where the chosen cameras look: heading, tilt, roll, and what they look at."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from altana.app.compose.fields import CameraFields, FieldSpec
from altana.app.theme.widgets import Group, Segments, button
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import wrap_heading
from altana.core.project import Camera
from altana.core.ranges import AIM_M, ROLL_DEG, TILT_FIELD_DEG

TURNS = (-90.0, -15.0, 15.0, 90.0, 180.0)

HEADING = FieldSpec(
    tr("Heading"), tr("Degrees clockwise from north"), "°", 1, 1.0, tr("Turn"),
    lambda c: c.heading_deg, lambda c, v: replace(c, heading_deg=wrap_heading(v)),
)  # fmt: skip
TILT = FieldSpec(
    tr("Tilt"), tr("Tilt: degrees, up positive"), "°", 1, 1.0, tr("Tilt"),
    lambda c: c.tilt_deg, lambda c, v: replace(c, tilt_deg=v), TILT_FIELD_DEG,
)  # fmt: skip
ROLL = FieldSpec(
    tr("Roll"), tr("Roll: degrees clockwise"), "°", 1, 1.0, tr("Roll"),
    lambda c: c.roll_deg, lambda c, v: replace(c, roll_deg=v), ROLL_DEG,
)  # fmt: skip
AIM = FieldSpec(
    tr("Looks at"), tr("Distance of what is looked at"), "m", 2, 0.1, tr("Distance"),
    lambda c: c.aim_m, lambda c, v: replace(c, aim_m=max(AIM_M.low, v)), AIM_M,
)  # fmt: skip


class DirectionGroup:
    """Heading, tilt, roll and aim.  use_tool : stands the cameras by the building, by the tool's name."""

    def __init__(self, workspace: Workspace, fields: CameraFields, use_tool: Callable[[str], object]) -> None:
        self._edits = workspace.edits
        self.group = group = Group(tr("Direction"))
        self.heading, self.tilt, self.roll = (fields.field(spec) for spec in (HEADING, TILT, ROLL))
        group.add_field(tr("Heading"), self.heading)
        group.add_pair(tr("Tilt, roll"), self.tilt, self.roll)
        self.aim = fields.field(AIM)
        self._point = Segments(
            [
                (tr("point"), tr("The camera looks at a point: circling and holding its size go by it")),
                (tr("ahead"), tr("It only looks that way")),
            ]
        )
        self._point.chosen.connect(
            lambda index: self._edits.commit(
                tr("Looks at"), lambda c, v: replace(c, looks_at_point=v), index == 0
            )
        )
        group.add_pair(tr("Looks at"), self._point, self.aim)
        tip = tr("Exactly across the line of sight: a one-point view (key Q)")
        self.square = button(tr("Square to wall"), "small", tip, lambda: use_tool("Square to wall"))
        self.tilt_zero = button(
            tr("Tilt to 0°"), "small", tr("Level the line of sight (key 0)"), self.level_now
        )
        group.add_wide(self.square, self.tilt_zero)
        self.turns = {turn: button(*_turn_words(turn), partial(self.turn_by, turn)) for turn in TURNS}
        group.add_wide(*self.turns.values())

    def turn_by(self, degrees: float) -> None:
        """Turn the chosen cameras by a fixed angle."""
        name = tr("About-face") if degrees == 180.0 else tr("Turn by {degrees:+.0f}°", degrees=degrees)
        self._edits.commit(
            name, lambda c, v: replace(c, heading_deg=wrap_heading(c.heading_deg + v)), degrees
        )

    def level_now(self) -> None:
        """Tilt to 0."""
        self._edits.do(tr("Tilt to 0°"), lambda c: replace(c, tilt_deg=0.0))

    def show_camera(self, camera: Camera, usable: bool, several: bool) -> None:
        """Follow the shown camera.  several : one of the chosen ones is tilted or rolled."""
        self._point.take(0 if camera.looks_at_point else 1)
        self.tilt_zero.setEnabled(usable and (camera.tilt_deg != 0.0 or several))
        self.group.show_figure(f"{camera.heading_deg:.1f}° · {camera.tilt_deg:.1f}°")


def _turn_words(turn: float) -> tuple[str, str, str]:
    """Text, kind and tip of a button that turns by a fixed angle."""
    if turn == 180.0:
        return "180°", "small", tr("About-face: turn by exactly 180°")
    return f"{turn:+.0f}°", "small", tr("Turn by exactly {turn:+.0f}°", turn=turn)
