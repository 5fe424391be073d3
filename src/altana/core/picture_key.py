"""What a picture depends on, once, for every kind of picture: while its key stays equal, so does the picture.

A name, a note, a mark in a list changes no picture; what is left out, hidden, mended, the sun and whether its
soft light is known do.  Everything that shows pictures asks here whether what it shows is still so.
"""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass, replace

from altana.core.hiding import NOTHING_HIDDEN, Hiding
from altana.core.light.own import light_for
from altana.core.project import Camera, LeftOut, Light, Patch, Project, Qualities, Tone, Walk

#: How well the soft light of models is known: from a rule of thumb, from few points, or as pictures are made
#: with.
ESTIMATED, ROUGH, KNOWN = 0, 1, 2


@dataclass(frozen=True, slots=True)
class Scenery:
    """What all pictures of a project depend on.  ``scene`` counts the models opened; ``lit``: how well their
    soft light is known (ESTIMATED, ROUGH or KNOWN); ``known``: other lights than the project's whose soft
    light is known."""

    scene: int
    patches: tuple[Patch, ...]
    light: Light
    left_out: LeftOut
    lit: int
    known: frozenset[Light] = frozenset()

    @classmethod
    def of(cls, project: Project, scene: int, lit: int, known: frozenset[Light] = frozenset()) -> Scenery:
        """The scenery of a project as it is now."""
        return cls(scene, project.patches, project.light, project.left_out, lit, known)

    def for_camera(self, camera: Camera) -> Scenery:
        """What of it a camera's picture depends on."""
        return replace(self, known=self.known & {light_for(self.light, camera)})


@dataclass(frozen=True, slots=True)
class PictureKey:
    """Two pictures with equal keys are the same picture."""

    about: Hashable
    scenery: Scenery
    hiding: Hiding = NOTHING_HIDDEN


def camera_key(camera: Camera, scenery: Scenery, hiding: Hiding = NOTHING_HIDDEN) -> PictureKey:
    """A camera's picture in materials, at whatever size it is shown: Frame, small pictures, variants."""
    return PictureKey(
        (*_seen(camera), camera.view(), camera.ev, camera.inside, camera.far_dark, camera.light),
        scenery.for_camera(camera),
        hiding,
    )


def check_key(camera: Camera, scenery: Scenery) -> PictureKey:
    """What a camera's picture consists of: light and depth of field change nothing about that, nor what is
    hidden."""
    sharp, dark = (
        replace(camera.view(), blur=None),
        replace(scenery, light=Light(), lit=ESTIMATED, known=frozenset()),
    )
    return PictureKey((*_seen(camera), sharp), dark)


def round_key(camera: Camera, scenery: Scenery, hiding: Hiding = NOTHING_HIDDEN) -> PictureKey:
    """The panorama of a camera's place: lens, direction and bounds are set aside."""
    about = (*_seen(camera), camera.eye, camera.ev, camera.inside, camera.light)
    return PictureKey(("round", *about), scenery.for_camera(camera), hiding)


def walk_key(
    walk: Walk | None, size: tuple[float, float], scenery: Scenery, hiding: Hiding = NOTHING_HIDDEN
) -> PictureKey:
    """All film frames of a walk at one size."""
    bare = replace(walk, name="", note="", locked=False, hidden=False) if walk is not None else None
    return PictureKey(("walk", bare, size), scenery, hiding)


def row_key(item: Hashable, tone: Tone, qualities: Qualities, scenery: Scenery) -> PictureKey:
    """A picture of the shot list as its file shows it.  item : the row's item without what changes nothing in
    its picture."""
    return PictureKey(("row", item, tone, qualities), scenery)


def _seen(camera: Camera) -> tuple[Hashable, ...]:
    """What is there to be seen, wherever the camera looks."""
    return camera.left_out, camera.nudges, camera.cap
