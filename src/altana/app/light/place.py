"""Where on earth: a town, degrees, or what the model file says; time zone and north."""

from __future__ import annotations

from PySide6.QtCore import QStringListModel, Qt
from PySide6.QtWidgets import QCompleter

from altana.app.theme.number_field import NumberField
from altana.app.theme.value_field import ValueField
from altana.app.theme.widgets import Group, button, label
from altana.app.theme.words import tr
from altana.app.workspace.background import Newest
from altana.app.workspace.workspace import Workspace
from altana.core.edits.light import light_from_model, set_light
from altana.core.errors import Refused, UserError
from altana.core.light.clock import offset_h, parse_zone
from altana.core.light.place import parse_place, place_words
from altana.core.project import Light, Project
from altana.core.ranges import NORTH_DEG
from altana.storage.towns import nearest_town, town_named, towns_like


class PlaceGroup:
    """Place, time zone, north."""

    def __init__(self, workspace: Workspace) -> None:
        self._bridge, self._studio = workspace.bridge, workspace.studio
        self.group = group = Group(tr("Place"))
        self.place = ValueField()
        self.place.setAccessibleName(tr("Place"))
        self.place.setToolTip(tr("A town, or degrees in any usual notation: 47.5, 9.4 or 47°30'N 9°24'E"))
        self.place.setPlaceholderText(tr("A town, or 47.5, 9.4"))
        self._towns = QStringListModel()
        self._looked: Newest[list[str]] = Newest(
            workspace.background, "looking for towns", self._offered, in_turn=True
        )
        completer = QCompleter(self._towns, self.place)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.setCompletionMode(QCompleter.CompletionMode.UnfilteredPopupCompletion)
        self.place.setCompleter(completer)
        self.place.textEdited.connect(self._offer)
        self.place.editingFinished.connect(self._typed)
        completer.activated.connect(self.take)
        group.add_wide(self.place)
        self.where = label("", "quiet")
        group.add_wide(self.where)
        tip = tr("Place and north as the model file says")
        self.from_model = button(tr("From the model"), "small", tip, self.take_from_model)
        group.add_wide(self.from_model)
        self.zone = ValueField()
        self.zone.setAccessibleName(tr("Time zone"))
        self.zone.setToolTip(tr("By name, with daylight saving (Europe/Zurich), or hours ahead of UTC (+2)"))
        self.zone.editingFinished.connect(self._zone_typed)
        group.add_field(tr("Time zone"), self.zone)
        self.north = NumberField(
            tr("North"),
            tr("Degrees from up on the plan to true north, clockwise"),
            "°",
            1,
            1.0,
            NORTH_DEG.low,
            NORTH_DEG.high,
        )
        self.north.changing.connect(self._north_dragged)
        self.north.changed.connect(self._north_set)
        group.add_field(tr("North"), self.north)

    def _offer(self, text: str) -> None:
        """Look for towns beside the window: the list takes a moment to be read."""
        if parse_safely(text) is not None:
            self._looked.forget()
            self._towns.setStringList([])
            return
        self._looked.wish(lambda: [town.words for town in towns_like(text)])

    def _offered(self, words: list[str]) -> None:
        self._towns.setStringList(words)
        if words and self.place.hasFocus() and self.place.isModified():
            self.place.completer().complete()

    def _typed(self) -> None:
        if self.place.isModified():
            self.place.setModified(False)
            self.take(self.place.text())

    def take(self, text: str) -> None:
        """Stand the project at a town or a place; its time zone comes along."""
        if not text.strip():
            return
        try:
            place = parse_place(text)
            town = town_named(text) if place is None else nearest_town(*place)
        except UserError as error:
            self._bridge.notices.trouble(error.sentence)
            self.show_light(self._bridge.project.light)
            return
        latitude, longitude = (town.latitude_deg, town.longitude_deg) if place is None else place
        name = town.words if place is None else ""

        def edit(project: Project) -> Project:
            return set_light(
                project, latitude_deg=latitude, longitude_deg=longitude, place=name, zone=town.zone
            )

        self._bridge.apply(tr("Place of the sun"), edit)

    def take_from_model(self) -> None:
        """What the model file says of where it stands."""
        scene = self._studio.scene
        place = scene.model.place if scene is not None else None

        def edit(project: Project) -> Project:
            after = light_from_model(project, place)
            zone = nearest_town(after.light.latitude_deg, after.light.longitude_deg).zone
            return set_light(after, zone=zone)

        self._bridge.apply(tr("Place from the model"), edit)

    def _zone_typed(self) -> None:
        if not self.zone.isModified():
            return
        self.zone.setModified(False)
        try:
            name, ahead = parse_zone(self.zone.text())
        except Refused as error:
            self._bridge.notices.trouble(error.sentence)
            return
        values: dict[str, object] = {"zone": name} if name else {"zone": "", "utc_offset_h": ahead}
        self._bridge.apply(tr("Time zone"), lambda project: set_light(project, **values))

    def _north_dragged(self, degrees: float) -> None:
        if not self._bridge.in_gesture:
            self._bridge.begin()
        self._bridge.preview(lambda project: set_light(project, north_deg=degrees))

    def _north_set(self, degrees: float) -> None:
        if self._bridge.in_gesture:
            self._bridge.preview(lambda project: set_light(project, north_deg=degrees))
            self._bridge.commit(tr("North"))
        else:
            self._bridge.apply(tr("North"), lambda project: set_light(project, north_deg=degrees))

    def show_light(self, light: Light) -> None:
        """Follow the project."""
        words = place_words(light.latitude_deg, light.longitude_deg)
        if not self.place.isModified():
            self.place.setText(light.place or words)
        self.where.setText(words if light.place else "")
        self.where.setVisible(bool(light.place))
        if not self.zone.isModified():
            self.zone.setText(light.zone or f"UTC{light.utc_offset_h:+g}")
        self.north.show_value(light.north_deg)
        scene = self._studio.scene
        there = scene is not None and scene.model.place is not None
        self.from_model.setEnabled(there and scene is not None and scene.model.place.latitude_deg is not None)  # type: ignore[union-attr]
        self.group.show_figure(f"{light.place.split(',')[0] or words} · UTC{offset_h(light):+g}")


def parse_safely(text: str) -> tuple[float, float] | None:
    """A place while it is being typed: None as long as it is none."""
    try:
        return parse_place(text)
    except Refused:
        return None
