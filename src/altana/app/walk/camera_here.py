"""The lens, exposure, sun, shift and bounds that the walk has at the chosen places."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QPushButton

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, button, relabel
from altana.app.walk.edits import WalkEdits
from altana.app.walk.fields import show_several
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import FAR_WHEN_ON_M, NEAR_WHEN_ON_M
from altana.core.project import WalkKey


class CameraHereGroup:
    """Between places these change smoothly; what is off at all places is off throughout."""

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self.group = group = Group("Camera here")
        fields = (
            (
                "focal_mm",
                "Focal length",
                "Focal length here; between places it changes smoothly",
                "mm",
                1,
                1.0,
                4.0,
                1200.0,
            ),
            ("ev", "Exposure", "Exposure here; lower is brighter", "EV", 1, 0.1, -10.0, 25.0),
            ("rise_mm", "Rise", "Shift of the lens up (or down) here", "mm", 1, 0.5, -60.0, 60.0),
            ("cross_mm", "Cross", "Shift of the lens to the right (or left) here", "mm", 1, 0.5, -60.0, 60.0),
            (
                "heading_deg",
                "Heading",
                "Where the walk looks here, when it looks as keyed",
                "°",
                1,
                1.0,
                -720.0,
                720.0,
            ),
            ("tilt_deg", "Tilt", "How far it looks up, when it looks as keyed", "°", 1, 1.0, -89.0, 89.0),
        )
        self.key_fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in fields:
            made = NumberField(text, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_key_field, text, name))
            self.key_fields[name] = made
            group.add_field(text, made)
        self._add_switched()

    def _add_switched(self) -> None:
        group = self.group
        self.key_switches: dict[str, QPushButton] = {}
        switched = (
            (
                "near_m",
                "Hide nearer",
                "The near bound here, metres from the eye; between two places it moves evenly",
                "m",
                2,
                0.1,
                0.02,
                1e4,
            ),
            ("far_m", "Hide beyond", "The far bound here, metres from the eye", "m", 1, 1.0, 0.1, 1e5),
            (
                "hour",
                "Time of day",
                "Local hour here: the sun moves on between places that have one",
                "h",
                2,
                0.25,
                0.0,
                24.0,
            ),
        )
        for name, text, tip, unit, decimals, step, low, high in switched:
            made = NumberField(text, tip, unit, decimals, step, low, high)
            made.changed.connect(partial(self._set_key_field, text, name))
            switch = button(
                "off",
                "small",
                f"{text}: on or off here",
                partial(self._switch_key, text, name),
                checkable=True,
            )
            switch.setFixedWidth(38)
            self.key_fields[name], self.key_switches[name] = made, switch
            group.add_pair(text, switch, made)

    def _set_key_field(self, text: str, name: str, value: float) -> None:
        self._edits.set_places(text, **{name: value})

    def _switch_key(self, text: str, name: str) -> None:
        on = self.key_switches[name].isChecked()
        usual = {"near_m": NEAR_WHEN_ON_M, "far_m": FAR_WHEN_ON_M, "hour": self._bridge.project.light.hour}
        self._edits.set_places(text if on else f"{text} off", **{name: usual[name] if on else None})

    def show_places(self, there: bool) -> None:
        """Follow the chosen places.  there : there are any."""
        for part in (*self.key_fields.values(), *self.key_switches.values()):
            part.setEnabled(there)
        self.group.show_figure("")
        walk = self._state.walk
        if walk is not None and there and self._edits.line is not None:
            self._show_key_camera([walk.keys[number] for number in sorted(self._timeline.keys)])

    def _show_key_camera(self, keys: list[WalkKey]) -> None:
        for name, field in self.key_fields.items():
            values = [getattr(item, name) for item in keys]
            if name in self.key_switches:
                on = any(value is not None for value in values)
                switch = self.key_switches[name]
                switch.setChecked(on)
                relabel(switch, "on" if on else "off")
                field.setEnabled(on)
                usual = {
                    "near_m": NEAR_WHEN_ON_M,
                    "far_m": FAR_WHEN_ON_M,
                    "hour": self._bridge.project.light.hour,
                }
                values = [usual[name] if value is None else value for value in values]
            show_several(field, values)
        focal = {item.focal_mm for item in keys}
        self.group.show_figure(
            f"{keys[0].focal_mm:g} mm · EV {keys[0].ev:.1f}" if len(focal) == 1 else "differ"
        )
