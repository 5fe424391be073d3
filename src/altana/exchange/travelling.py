"""What travels: cameras as they stand, and walks as the camera of every film frame, in the coordinates of the
model's file."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from altana.core.camera.view import View
from altana.core.conventions import Floats, Vec3, parse_rate
from altana.core.geometry.rays import RayScene
from altana.core.project import Camera, Walk
from altana.core.walk.sample import resolve, sample


@dataclass(frozen=True, slots=True)
class Frame:
    """The camera at one moment: seconds from the walk's begin (0 for a camera that stands), its picture and
    its exposure value."""

    seconds: float
    view: View
    ev: float


@dataclass(frozen=True, slots=True)
class Travelling:
    """A camera (one frame) or a walk (a frame for each film frame) with what is said of it.  ``focus_m``:
    metres in focus, None without blur."""

    name: str
    frames: tuple[Frame, ...]
    rate: Fraction | None = None
    intent: str = ""
    note: str = ""
    f_number: float = 0.0
    focus_m: float | None = None

    @property
    def first(self) -> Frame:
        """How it begins."""
        return self.frames[0]


def camera_travelling(camera: Camera) -> Travelling:
    """A camera as it stands."""
    focus = (camera.focus_m or camera.aim_m) if camera.blur else None
    return Travelling(
        camera.name,
        (Frame(0.0, camera.view(), camera.ev),),
        None,
        camera.intent,
        camera.note,
        camera.f_number if camera.blur else 0.0,
        focus,
    )


def walk_travelling(walk: Walk, floors: RayScene, rate: str = "") -> Travelling:
    """A walk, film frame by film frame.  floors : what one stands on.  rate : film frames a second instead of
    the walk's own.  Raises Refused."""
    speed = parse_rate(rate or walk.rate)
    rows = sample(resolve(walk, floors), speed)
    frames = tuple(
        Frame(
            float(rows.seconds[number]),
            rows.view(number, walk.width_px, walk.height_px),
            float(rows.ev[number]),
        )
        for number in range(len(rows))
    )
    return Travelling(walk.name, frames, speed, "", walk.note)


def placement(view: View, offset: Vec3) -> Floats:
    """(4, 4) float64: x right, y up, looking along -z; metres, z up.  offset : what the model's file has been
    moved by in the project."""
    right, up, forward = view.pose.axes()
    matrix = np.eye(4)
    matrix[:3, :3] = np.stack([right, up, -forward], axis=1)
    matrix[:3, 3] = np.asarray(view.pose.eye) + np.asarray(offset)
    return matrix


def unheld(items: Sequence[Travelling], shift: bool, lens: bool) -> list[str]:
    """Sentences about what a format does not hold.  shift, lens : whether it has lens shift, and lenses that
    change on the way."""
    sentences = []
    shifted = [
        item.name
        for item in items
        if any(frame.view.lens.rise_mm or frame.view.lens.cross_mm for frame in item.frames)
    ]
    if shifted and not shift:
        sentences.append(
            f"Rise and cross are no part of this format and stand in its extras: {', '.join(shifted[:4])}."
        )
    changing = [item.name for item in items if len({frame.view.lens for frame in item.frames}) > 1]
    if changing and not lens:
        sentences.append(
            f"Lenses that change on the way are no part of this format and stand in its extras: {', '.join(changing[:4])}."
        )
    cut = [item.name for item in items if any(frame.view.cuts for frame in item.frames)]
    if cut:
        sentences.append(f"Wall cuts are not written: {', '.join(cut[:4])}.")
    return sentences
