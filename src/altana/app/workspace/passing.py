"""A camera that passes from inside to outside, or back: its exposure, group and name of the other side are
offered."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QObject

from altana.app.theme.words import tr
from altana.app.workspace.bridge import Bridge
from altana.app.workspace.exposing import Exposing
from altana.app.workspace.notices import Offer
from altana.app.workspace.studio import Studio
from altana.core.camera.bounds import place_of_sight
from altana.core.conventions import EV_INSIDE, EV_OUTSIDE, Vec3
from altana.core.edits.cameras import change_camera
from altana.core.model import Model
from altana.core.project import Camera, Project, free_name
from altana.core.standing import COMPASS, named_for_place, standing_trouble

#: A name as Altana gives it: a place, a direction, and perhaps a number.
GIVEN = re.compile(rf"(?P<place>.+), ({'|'.join(COMPASS)})( \d+)?")


class Passing(QObject):
    """Watches where cameras come to stand."""

    def __init__(self, bridge: Bridge, studio: Studio, exposing: Exposing) -> None:
        super().__init__()
        self._bridge, self._studio, self._exposing = bridge, studio, exposing
        self._eyes, self._of = self._now(), bridge.document
        bridge.settled.connect(self._settled)

    def _now(self) -> dict[str, Vec3]:
        return {camera.id: camera.eye for camera in self._bridge.project.cameras}

    def _settled(self) -> None:
        before, self._eyes = self._eyes, self._now()
        scene, of = self._studio.scene, self._of
        self._of = self._bridge.document
        if scene is None or of is not self._of:
            return
        for camera in self._bridge.project.cameras:
            if camera.locked or before.get(camera.id, camera.eye) == camera.eye:
                continue
            inside = scene.rays.roofed(place_of_sight(camera))
            # In the ground it is neither; the Frame says so.
            if inside != camera.inside and not standing_trouble(scene.rays, scene.floors, camera):
                self._offer(camera, inside)
                return

    def _offer(self, camera: Camera, inside: bool) -> None:
        named, grouped = self._given_name(camera) is not None, bool(camera.group)
        sentence = {
            (True, True): tr("“{name}” stands {there} now; its exposure and name are still of {other}."),
            (True, False): tr(
                "“{name}” stands {there} now; its exposure, group and name are still of {other}."
            ),
            (False, True): tr("“{name}” stands {there} now; its exposure is still of {other}."),
            (False, False): tr("“{name}” stands {there} now; its exposure and group are still of {other}."),
        }[named, grouped]
        inside_word, outside_word = tr("inside"), tr("outside")
        there, other = (inside_word, outside_word) if inside else (outside_word, inside_word)
        self._bridge.notices.note(
            sentence.format(name=camera.name, there=there, other=other),
            Offer(tr("Take those of {there}", there=there), partial(self.take, camera.id, inside)),
        )

    def _given_name(self, camera: Camera) -> str | None:
        """The name that tells its place, where it has one that tells another; None where the person named
        it."""
        scene = self._studio.scene
        match = GIVEN.fullmatch(camera.name)
        if scene is None or match is None or match["place"] not in _places(scene.model):
            return None
        return named_for_place(camera, scene.model).name

    def take(self, camera_id: str, inside: bool) -> None:
        """Make a camera one of the other side, as one step; its exposure is then taken from its picture."""
        camera = self._bridge.project.camera(camera_id)
        if camera is None:
            return
        side = replace(camera, inside=inside, ev=EV_INSIDE if inside else EV_OUTSIDE)
        name = self._given_name(side) or camera.name

        def edit(project: Project) -> Project:
            taken = tuple(item.name for item in project.cameras if item.id != camera_id)
            return change_camera(project, camera_id, lambda _: replace(side, name=free_name(name, taken)))

        if self._bridge.apply(tr("Inside or outside"), edit):
            self._exposing.propose([camera_id])


def _places(model: Model) -> set[str]:
    return {"Inside", "Outside", *(room.name for room in model.rooms)}
