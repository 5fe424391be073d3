"""The lens, exposure, sun, lamps, shift and bounds that the walk has at the chosen places."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QPushButton

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, button, relabel
from altana.app.theme.words import tr
from altana.app.walk.edits import WalkEdits
from altana.app.walk.fields import show_several
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.conventions import FAR_WHEN_ON_M, NEAR_WHEN_ON_M
from altana.core.project import WalkKey
from altana.core.ranges import HOUR, LAMP_LEVEL

#: Shares are shown in percent.
SHOWN_TIMES = {"lamps": 100.0}

#: What a place says of its camera: field, name, what it is, unit, decimals, step, lowest and highest.
FIELDS = (
    (
        "focal_mm",
        tr("Focal length"),
        tr("Focal length here; between places it changes smoothly"),
        "mm",
        1,
        1.0,
        4.0,
        1200.0,
    ),
    ("ev", tr("Exposure"), tr("Exposure here; lower is brighter"), "EV", 1, 0.1, -10.0, 25.0),
    ("rise_mm", tr("Rise"), tr("Shift of the lens up (or down) here"), "mm", 1, 0.5, -60.0, 60.0),
    ("cross_mm", tr("Cross"), tr("Shift of the lens to the right (or left) here"), "mm", 1, 0.5, -60.0, 60.0),
    (
        "heading_deg",
        tr("Heading"),
        tr("Where the walk looks here, when it looks as keyed"),
        "°",
        1,
        1.0,
        -720.0,
        720.0,
    ),
    ("tilt_deg", tr("Tilt"), tr("How far it looks up, when it looks as keyed"), "°", 1, 1.0, -89.0, 89.0),
)
#: What a place may say or leave open.
SWITCHED = (
    (
        "near_m",
        tr("Hide nearer"),
        tr("The near bound here, metres from the eye; between two places it moves evenly"),
        "m",
        2,
        0.1,
        0.02,
        1e4,
    ),
    ("far_m", tr("Hide beyond"), tr("The far bound here, metres from the eye"), "m", 1, 1.0, 0.1, 1e5),
    (
        "hour",
        tr("Time of day"),
        tr("Local hour here: the sun moves on between places that have one"),
        "h",
        2,
        0.25,
        HOUR.low,
        HOUR.high,
    ),
    (
        "lamps",
        tr("Lamps"),
        tr("How much of their light lamps give here; it changes evenly between places that say so"),
        "%",
        0,
        5.0,
        LAMP_LEVEL.low * 100.0,
        LAMP_LEVEL.high * 100.0,
    ),
)


class CameraHereGroup:
    """Between places these change smoothly; what is off at all places is off throughout."""

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self.group = group = Group(tr("Camera here"))
        self.key_fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in FIELDS:
            field = NumberField(text, tip, unit, decimals, step, low, high)
            field.changed.connect(partial(self._set_key_field, text, name))
            self.key_fields[name] = field
            group.add_field(text, field)
        self._add_switched()

    def _add_switched(self) -> None:
        group = self.group
        self.key_switches: dict[str, QPushButton] = {}
        for name, text, tip, unit, decimals, step, low, high in SWITCHED:
            field = NumberField(text, tip, unit, decimals, step, low, high)
            field.changed.connect(partial(self._set_key_field, text, name))
            switch = button(
                tr("off"),
                "small",
                tr("{text}: on or off here", text=text),
                partial(self._switch_key, text, name),
                checkable=True,
            )
            switch.setFixedWidth(38)
            self.key_fields[name], self.key_switches[name] = field, switch
            group.add_pair(text, switch, field)

    def _set_key_field(self, text: str, name: str, value: float) -> None:
        self._edits.set_places(text, **{name: value / SHOWN_TIMES.get(name, 1.0)})

    def _switch_key(self, text: str, name: str) -> None:
        on = self.key_switches[name].isChecked()
        self._edits.set_places(
            text if on else tr("{text} off", text=text), **{name: self._usual()[name] if on else None}
        )

    def _usual(self) -> dict[str, float]:
        """What a value is when it is switched on."""
        light = self._bridge.project.light
        return {
            "near_m": NEAR_WHEN_ON_M,
            "far_m": FAR_WHEN_ON_M,
            "hour": light.hour,
            "lamps": light.lamps.share,
        }

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
                relabel(switch, tr("on") if on else tr("off"))
                field.setEnabled(on)
                usual = self._usual()[name]
                values = [usual if value is None else value for value in values]
            show_several(field, [value * SHOWN_TIMES.get(name, 1.0) for value in values])
        focal = {item.focal_mm for item in keys}
        self.group.show_figure(
            f"{keys[0].focal_mm:g} mm · EV {keys[0].ev:.1f}" if len(focal) == 1 else tr("differ")
        )
