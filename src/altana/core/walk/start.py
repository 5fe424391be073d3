"""Start values of new walks: through places, through cameras, round a thing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from altana.core.conventions import Floats, Vec3
from altana.core.edits.walks import key_from_camera, turntable_round
from altana.core.project import AHEAD, KEYED, Camera, Project, Walk, WalkKey

#: A film of a walk lasts at least and at most so long, seconds.
SHORTEST_S, LONGEST_S = 8.0, 80.0
#: Film frames of a turntable, and how many of them a second.
TURN_FRAMES, TURN_RATE = 240, 25
#: The eye of a turntable stands at least so high over the thing's foot, and at this share of its height.
LOWEST_TURN_EYE_M, TURN_EYE_SHARE = 1.6, 0.35
#: Exposures to begin with, under the sky and under a roof.
EV_ROUND, EV_INSIDE = 13.4, 10.7


def calm_seconds(length_m: float) -> float:
    """A film length at a calm walking pace of one metre a second, within what is usual."""
    return float(min(LONGEST_S, max(SHORTEST_S, round(length_m))))


def _length(keys: Sequence[WalkKey]) -> float:
    return float(np.linalg.norm(np.diff([key.eye for key in keys], axis=0), axis=1).sum())


def walk_through(keys: tuple[WalkKey, ...]) -> Walk:
    """A walk through places, looking ahead."""
    return Walk("", "Walk", keys, seconds=calm_seconds(_length(keys)), looking=AHEAD)


def walk_of_cameras(cameras: Sequence[Camera]) -> Walk:
    """A walk through cameras, in their order and looking as they do."""
    first, last = cameras[0].name.split(",")[0], cameras[-1].name.split(",")[0]
    keys = tuple(key_from_camera(camera) for camera in cameras)
    return Walk("", f"{first} to {last}", keys, seconds=calm_seconds(_length(keys)), looking=KEYED)


def alike(walk: Walk, project: Project) -> Walk:
    """A new walk with the rate and the size of the project's last one, so that films of one project go
    together."""
    last = next((item for item in reversed(project.walks) if item.turntable is None), None)
    if last is None:
        return walk
    return replace(walk, rate=last.rate, width_px=last.width_px, height_px=last.height_px)


def turntable_for(points: Floats, name: str) -> Walk:
    """A turntable round points (n, 3), metres, that closes without a repeated frame."""
    low, high = points.min(axis=0), points.max(axis=0)
    eye = float(low[2] + max(LOWEST_TURN_EYE_M, TURN_EYE_SHARE * (high[2] - low[2])))
    table = turntable_round(_vec(low), _vec(high), eye, ev=EV_ROUND)
    table = replace(table, radius_m=round(table.radius_m, 2), eye_m=round(eye, 2))
    rate = TURN_RATE
    return Walk("", f"Round {name}", (), seconds=TURN_FRAMES / rate, rate=str(rate), turntable=table)


def _vec(values: Floats) -> Vec3:
    x, y, z = values.tolist()
    return x, y, z
