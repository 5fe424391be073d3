"""A turntable: radius, height, where it begins and how far it goes; its even stops as cameras."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from altana.app.theme.number_field import NumberField
from altana.app.theme.widgets import Group, Segments, button
from altana.app.theme.words import tr
from altana.app.walk.edits import WalkEdits
from altana.app.walk.timeline import Timeline
from altana.app.workspace.workspace import Workspace
from altana.core.edits.walks import turntable_stills
from altana.core.project import Walk


class TurntableGroup:
    """The figures of a turntable."""

    def __init__(self, workspace: Workspace, edits: WalkEdits, timeline: Timeline) -> None:
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._edits, self._timeline = edits, timeline
        self.group = group = Group(tr("Turntable"))
        fields = (
            ("radius_m", tr("Radius"), tr("Metres from the centre"), "m", 2, 0.5, 0.05, 1e5),
            ("eye_m", tr("Eye height"), tr("Height of the eye above zero"), "m", 2, 0.1, -1e4, 1e4),
            (
                "start_deg",
                tr("Begins at"),
                tr("Where it begins, seen from the centre: 180° is south"),
                "°",
                0,
                5.0,
                -3600.0,
                3600.0,
            ),
            (
                "sweep_deg",
                tr("Sweep"),
                tr("How far it goes, clockwise where positive"),
                "°",
                0,
                15.0,
                -3600.0,
                3600.0,
            ),
            ("focal_mm", tr("Focal length"), tr("Focal length"), "mm", 1, 1.0, 4.0, 1200.0),
        )
        self.table_fields: dict[str, NumberField] = {}
        for name, text, tip, unit, decimals, step, low, high in fields:
            field = NumberField(text, tip, unit, decimals, step, low, high)
            field.changed.connect(partial(self._set_table, name))
            self.table_fields[name] = field
            group.add_field(text, field)
        self.aimed = Segments(
            [
                (tr("At the centre"), tr("Tilted so that the centre lies in the middle")),
                (tr("Level"), tr("Level, whatever the height")),
            ]
        )
        self.aimed.chosen.connect(lambda index: self._set_table("level", index == 1))
        group.add_wide(self.aimed)
        self.stills = button(
            tr("Eight stops as cameras"),
            "small",
            tr("Keep eight even stops of this turntable as cameras"),
            self._keep_stills,
        )
        group.add_wide(self.stills)

    def _set_table(self, name: str, value: object) -> None:
        walk = self._state.walk
        if walk is not None and walk.turntable is not None:
            self._edits.set(tr("Turntable"), turntable=replace(walk.turntable, **{name: value}))  # type: ignore[arg-type]

    def _keep_stills(self) -> None:
        walk = self._state.walk
        if walk is not None:
            self._bridge.apply(tr("Stops as cameras"), lambda project: turntable_stills(project, walk.id, 8))

    def show_walk(self, walk: Walk) -> None:
        """Follow the chosen walk."""
        if walk.turntable is not None:
            for name, field in self.table_fields.items():
                field.show_value(float(getattr(walk.turntable, name)))
            self.aimed.take(int(walk.turntable.level))
