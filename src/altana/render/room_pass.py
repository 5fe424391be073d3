"""Takes the all-round pictures of rooms that a picture's surfaces mirror."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import moderngl
import numpy as np

from altana.core.camera.bounds import unbounded
from altana.core.camera.view import View
from altana.core.conventions import Floats32, Vec3
from altana.core.light.sky import Sky
from altana.core.model import Model
from altana.core.staging import Staging
from altana.render.folded import FACE_PX, folded
from altana.render.light_pass import LightPass
from altana.render.looks import Looks
from altana.render.panorama import FACES, Place, face_view
from altana.render.quality import Quality
from altana.render.rooms import Boxes, RoomMirrors, RoomPicture, RoomShelf, eye_in, seen_rooms
from altana.render.shadows import ShadowMap
from altana.render.shown import ModelDrawer
from altana.render.targets import TargetShelf, colour_of


class RoomPass:
    """Finds which rooms a view shows, and has pictures of them in the light of the hour."""

    def __init__(
        self,
        context: moderngl.Context,
        shown: ModelDrawer,
        targets: TargetShelf,
        light: LightPass,
        looks: Looks,
    ) -> None:
        self._shown, self._targets, self._light, self._looks = shown, targets, light, looks
        self._shelf = RoomShelf(context)
        self._boxes: tuple[Model | None, Boxes | None] = (None, None)
        self._seen: tuple[View | None, Staging | None, tuple[int, ...]] = (None, None, ())

    def clear(self) -> None:
        """The model is another, or its soft light."""
        self._shelf.clear()
        self._seen = (None, None, ())

    def take(
        self, view: View, sky: Sky, quality: Quality, inside: bool, shadows: tuple[ShadowMap, ...]
    ) -> Iterator[None]:
        """Take the pictures that are still wanted, stopping after each side of one, so that nobody waits for
        all of them.

        shadows : of the picture's first pass; the map round the building is the same for every view.
        """
        light = self._lit_by(sky, quality, inside)
        for number in self._seen_rooms(view):
            if self._shelf.picture((light, number)) is None:
                eye = self._eye(number)
                # Where lamps burn, once more without their glow.
                glows = (sky.lamps, 0.0) if sky.lamps > 0.0 else (0.0,)
                faces = np.empty((len(glows), len(FACES), FACE_PX, FACE_PX, 3), np.float32)
                for side, face in enumerate(FACES):
                    seen = unbounded(face_view(Place(eye), face, FACE_PX, 0.0))
                    for turn, glow in enumerate(glows):
                        self._shown.burn(glow)
                        faces[turn, side] = self._taken(seen, sky, quality, inside, shadows[1])
                        self._shown.burn(sky.lamps)
                        yield
                self._shelf.keep((light, number), RoomPicture(*folded(*faces), eye))

    def of(self, view: View, sky: Sky, quality: Quality, inside: bool) -> RoomMirrors | None:
        """What the rooms that a view shows look like all round, once they are taken; None where it shows
        none."""
        numbers = self._seen_rooms(view)
        light = self._lit_by(sky, quality, inside)
        pictures = [self._shelf.picture((light, number)) for number in numbers]
        known = [picture for picture in pictures if picture is not None]
        if not known or len(known) < len(numbers):
            return None
        return self._shelf.on_card((light, numbers), numbers, self._rooms(), known)

    def _lit_by(self, sky: Sky, quality: Quality, inside: bool) -> tuple[object, ...]:
        return (_key(sky), self._shown.staging, quality.passes, quality.shadow_px, inside)

    def _rooms(self) -> Boxes:
        model, boxes = self._boxes
        if boxes is None or model is not self._shown.model:
            boxes = Boxes.of(self._shown.model)
            self._boxes = (self._shown.model, boxes)
        return boxes

    def _seen_rooms(self, view: View) -> tuple[int, ...]:
        boxes = self._rooms()
        # Without soft light a room is not known well enough to be mirrored; the largest models have none.
        if not boxes.rooms or not self._shown.scene.light_known:
            return ()
        if self._seen[:2] != (view, self._shown.staging):
            rooms = seen_rooms(*self._looks.at(view, panes=True), boxes)
            self._seen = (view, self._shown.staging, rooms)
        return self._seen[2]

    def _eye(self, number: int) -> Vec3:
        solid = self._shown.scene.solid
        return eye_in(self._rooms().rooms[number], solid.low, solid.high)

    def _taken(self, view: View, sky: Sky, quality: Quality, inside: bool, shadow: ShadowMap) -> Floats32:
        """(FACE_PX, FACE_PX, 3) the light of one side."""
        target = self._targets.of(FACE_PX, FACE_PX)
        before = self._shown.wide_px
        self._shown.wide_px = float(FACE_PX)
        self._light.plainly(view, sky, quality, inside, (0, 0, FACE_PX, FACE_PX), target, (shadow, shadow))
        self._shown.wide_px = before
        return _read(colour_of(target.light))


def _read(texture: Any) -> Floats32:
    values = np.frombuffer(texture.read(), np.float16).reshape(FACE_PX, FACE_PX, 4)
    light: Floats32 = values[::-1, :, :3].astype(np.float32)
    return light


def _key(sky: Sky) -> tuple[object, ...]:
    """What the light of a picture depends on."""
    around = sky.around
    return (
        tuple(sky.sun),
        tuple(sky.sun_lux),
        (sky.scale, sky.haze, sky.dusk, sky.cover, sky.lamps),
        None if around is None else (around.key, around.lights, around.behind),
    )
