"""Shade: what keeps the sun off a place, studies over a day or a year, hours of sun as a picture."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QLineEdit

from altana.app.theme.plain_text import tip_text
from altana.app.theme.widgets import Group, button, check_box, label, relabel
from altana.app.theme.words import tr
from altana.app.workspace.workspace import Workspace
from altana.core.errors import Refused
from altana.core.geometry.drawing import Drafter
from altana.core.geometry.sight import see
from altana.core.light.above import CUT_ABOVE_M, camera_above, with_camera
from altana.core.light.clock import hour_words, parse_hour
from altana.core.light.shade import SunDay, sun_day
from altana.core.light.study import Study, add_day_film, add_study, moments
from altana.core.project import Camera, Light, Project

#: So many spans and things are told; all stand in the command line's answer.
MOST = 4
STARTS = Study()


def day_words(day: SunDay) -> str:
    """A day at a place in a few lines: when the sun shines, and what stands before it for how long."""
    sun = [
        tr("{begin} to {end}", begin=hour_words(span.begin_h), end=hour_words(span.end_h))
        for span in day.spans
        if not span.object_id
    ]
    shading: dict[str, float] = {}
    for span in day.spans:
        if span.object_id:
            shading[span.by] = shading.get(span.by, 0.0) + span.end_h - span.begin_h
    longest = sorted(shading.items(), key=lambda item: -item[1])
    lines = [
        tr(
            "{hours:.1f} h of sun{more}{sun}{more_2}",
            hours=day.hours,
            more=": " if sun else "",
            sun=", ".join(sun[:MOST]),
            more_2=" …" if len(sun) > MOST else "",
        )
    ]
    lines += [
        tr("{name} before it for {hours:.1f} h", name=name, hours=hours) for name, hours in longest[:MOST]
    ]
    if len(longest) > MOST:
        lines.append(tr("… and %n things more", "", len(longest) - MOST))
    return "\n".join(lines)


class ShadeGroup(QObject):
    """What it says and makes is of the active camera."""

    #: The camera's id or the storey's name, and whether over the whole year.
    hours_wanted = Signal(str, str, bool)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self._bridge, self._state, self._studio = workspace.bridge, workspace.state, workspace.studio
        self._background = workspace.background
        self.group = group = Group(tr("Shade"))
        self.ask = button(
            tr("What shades the middle"),
            "small",
            tr("When the sun shines on what stands in the middle of the view, and what keeps it off"),
            self.tell,
        )
        self.said = label("", "quiet")
        self.said.setWordWrap(True)
        self.said.hide()
        group.add_wide(self.ask)
        group.add_wide(self.said)
        self.above = button(
            tr("Look from above"),
            "small",
            tr("A camera straight above the building, for plans with shadows"),
            lambda: self._look_down(False),
        )
        self.plan = button(
            tr("Plan of the storey"),
            "small",
            tr("A camera straight above this camera's storey, which is cut at 1.2 m"),
            lambda: self._look_down(True),
        )
        group.add_wide(self.above, self.plan)
        self._add_study_fields()
        self.view_hours = button(
            tr("Hours of sun here…"),
            "small",
            tr("On what this camera sees, in false colour"),
            lambda: self._want(False),
        )
        self.plan_hours = button(
            tr("…on the plan"),
            "small",
            tr("Over this camera's storey, in false colour"),
            lambda: self._want(True),
        )
        group.add_wide(self.view_hours, self.plan_hours)
        group.fold()
        group.unfolded.connect(self._count)
        workspace.state.selection_changed.connect(self._count)

    def _add_study_fields(self) -> None:
        """From when to when, how often, and what becomes of it."""
        group = self.group
        self.begin = self._field(tr("From"), STARTS.from_h, tr("The study begins, clock time"))
        self.end = self._field(tr("To"), STARTS.to_h, tr("The study ends, clock time"))
        self.step = self._field(
            tr("Every"), STARTS.step_h, tr("Hours and minutes from picture to picture, such as 1:00")
        )
        for text, field in ((tr("From"), self.begin), (tr("To"), self.end), (tr("Every"), self.step)):
            group.add_field(text, field)
        self.year = check_box(
            tr("On the four turning days"), tr("Spring, summer, autumn and winter of the date's year")
        )
        self.year.toggled.connect(self._count)
        self.film = check_box(
            tr("A film of the day too"), tr("The day goes by before the camera, 1.5 s an hour")
        )
        group.add_wide(self.year)
        group.add_wide(self.film)
        self.add = button(
            tr("Into the shot list"), "", tr("A row for each time at which the sun is up"), self.add_study
        )
        group.add_wide(self.add)

    def _field(self, name: str, value: float, tip: str) -> QLineEdit:
        field = QLineEdit(hour_words(value))
        field.setAccessibleName(tr("Shade study: {name}", name=name.lower()))
        field.setToolTip(tip_text(tip))
        field.editingFinished.connect(self._count)
        return field

    def _study(self) -> Study:
        begin, end, step = (parse_hour(field.text()) for field in (self.begin, self.end, self.step))
        return Study(begin, end, step, self.year.isChecked())

    def _camera(self) -> Camera | None:
        if self._state.active is None:
            self._bridge.notices.note(tr("Choose a camera first."))
        return self._state.active

    def _look_down(self, cut: bool) -> None:
        """Work with the camera above the building, or above the storey that is looked at; it is added where
        there is none yet."""
        scene, active = self._studio.scene, self._state.active
        if scene is None:
            return
        storey = scene.model.storey_of_eye(active.eye) if cut and active is not None else None
        if cut and storey is None:
            self._bridge.notices.note(tr("Choose a camera that stands on a storey first."))
            return
        level = storey or (scene.model.storeys[0] if scene.model.storeys else None)
        floor = level.elevation_m if level is not None else float(scene.model.bounds[0, 2])

        def draw() -> Camera:
            drawing = Drafter(scene.model, scene.rays).plan(floor, floor + CUT_ABOVE_M)
            return camera_above(scene.model, drawing, storey)

        self._background.run(tr("looking from above"), draw, self._stand_above)

    def _stand_above(self, camera: Camera) -> None:
        chosen = ""

        def edit(project: Project) -> Project:
            nonlocal chosen
            after, chosen = with_camera(project, camera)
            return after

        self._bridge.apply(camera.name, edit)
        if chosen:
            self._state.select(chosen)

    def _count(self) -> None:
        """How many pictures there will be, on the button."""
        if self.group.folded:
            return
        try:
            count = len(moments(self._bridge.project.light, self._study()))
        except Refused:
            relabel(self.add, tr("Into the shot list"))
            return
        relabel(self.add, tr("%n pictures into the shot list", "", count))

    def add_study(self) -> None:
        """Rows of the shot list for the active camera."""
        camera = self._camera()
        if camera is None:
            return
        try:
            study = self._study()
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            return
        film = self.film.isChecked()

        def edit(project: Project) -> Project:
            after = add_study(project, camera.id, study)
            return add_day_film(after, camera.id) if film else after

        before = len(self._bridge.project.shots)
        self._bridge.apply(tr("Shade study"), edit)
        added = len(self._bridge.project.shots) - before
        if added:
            self._bridge.notices.note(tr("%n rows were added to the shot list on Hand over.", "", added))

    def tell(self) -> None:
        """What keeps the sun off what stands on the active camera's line of sight."""
        camera, scene = self._camera(), self._studio.scene
        if camera is None or scene is None:
            return
        forward = camera.pose.forward
        met = see(scene.rays, np.array([camera.eye]), np.array([forward]), scene.panes)
        if met.face[0] < 0:
            self.said.setText(tr("The line of sight meets nothing."))
        else:
            # A little towards the eye: what is met is a surface.
            away = max(float(met.distance_m[0]) - 0.02, 0.0)
            x, y, z = (e + f * away for e, f in zip(camera.eye, forward, strict=True))
            day = sun_day(scene.model, scene.rays, self._bridge.project.light, (x, y, z))
            self.said.setText(day_words(day))
        self.said.show()

    def _want(self, plan: bool) -> None:
        camera, scene = self._camera(), self._studio.scene
        if camera is None or scene is None:
            return
        if not plan:
            self.hours_wanted.emit(camera.id, "", self.year.isChecked())
            return
        storey = scene.model.storey_of_eye(camera.eye)
        if storey is None:
            self._bridge.notices.note(tr("This camera stands on no storey; its plan cannot be chosen."))
            return
        self.hours_wanted.emit("", storey.name, self.year.isChecked())

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        self.said.hide()
        self._count()
