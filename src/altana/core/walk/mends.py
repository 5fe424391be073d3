"""What mends a flag of a walk: slower there, earlier round the corner, farther from what is near, without its
bound."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from altana.core.conventions import Vec3
from altana.core.edits.walks import key_from_camera
from altana.core.errors import Refused
from altana.core.geometry.rays import RayScene
from altana.core.project import AHEAD, CORNER, SMOOTH, Walk, WalkKey
from altana.core.walk.checks import AROUND, HIPS_M, Flag
from altana.core.walk.sample import WalkLine

SLOW, ROUND, CLEAR, UNBOUND = "slow", "round", "clear", "unbound"
#: What each mend is called on a button, and what it does.
WORDS = {
    SLOW: (
        "Slow down here",
        "The places about the flag come later; before and after nothing changes its pace",
    ),
    ROUND: ("Round the corner", "The corner is walked as a bend and looked round earlier"),
    CLEAR: ("Keep clear", "The route passes farther from what is near"),
    UNBOUND: ("Near bound off here", "The places about the flag lose their near bound"),
}
#: A little more than the limit asks for, so that the flag does not come back for a hair.
SPARE = 1.06
#: A route is moved aside by no more than this.
FARTHEST_M = 0.8
#: A place this near to where the route is too close is moved; otherwise a new one is put in.
SAME_M = 0.5


def mends_for(flag: Flag, line: WalkLine) -> tuple[str, ...]:
    """Which mends make sense for a flag, the likeliest first."""
    if line.walk.turntable is not None:
        return ()
    if flag.code == "turn":
        ahead = line.walk.looking == AHEAD
        return (ROUND, SLOW) if ahead else (SLOW,)
    if flag.code in ("pace", "climb", "acceleration", "jump"):
        return (SLOW,)
    if flag.code == "clearance":
        return (CLEAR,)
    if flag.code == "cut" and any(key.near_m is not None for key in line.walk.keys):
        return (UNBOUND,)
    return ()


def mended(line: WalkLine, flag: Flag, how: str, rays: RayScene | None = None) -> Walk:
    """The walk with one flag mended.  rays : the model, for CLEAR.  Raises Refused where that mend is none
    for it."""
    if how not in mends_for(flag, line):
        raise Refused(
            f"“{WORDS[how][0]}” does not mend what the flag says." if how in WORDS else f"“{how}” is no mend."
        )
    if how == SLOW:
        return _slower(line, flag)
    if how == ROUND:
        return _rounder(line, flag)
    if how == UNBOUND:
        return _unbound(line, flag)
    if rays is None:
        raise Refused("Keeping clear needs the model.")
    return _clearer(line, flag, rays)


def _about(line: WalkLine, flag: Flag) -> tuple[int, int]:
    """The places before and after a flag."""
    seconds = line.timing.key_s
    before = int(np.searchsorted(seconds, flag.begin_s - 1e-6, side="right")) - 1
    after = int(np.searchsorted(seconds, flag.end_s + 1e-6))
    return max(0, before), min(len(seconds) - 1, max(after, before + 1))


def _slower(line: WalkLine, flag: Flag) -> Walk:
    walk, (first, last) = line.walk, _about(line, flag)
    # Acceleration grows with the square of the pace.
    share = SPARE * flag.figure / flag.limit
    share = math.sqrt(share) if flag.code in ("jump", "acceleration") else share
    begin, end = float(line.timing.key_s[first]), float(line.timing.key_s[last])
    paused = sum(key.dwell_s for key in walk.keys[first:last])
    extra = max(0.0, (end - begin - paused) * (share - 1.0))
    keys = []
    for index, key in enumerate(walk.keys):
        at = key.at_s
        if 0 < index < len(walk.keys) - 1:
            if index == first:
                at = begin
            elif index == last:
                at = end + extra
            elif at is not None and index > last:
                at += extra
            elif at is not None and first < index < last:
                at = begin + (at - begin) * (1.0 + extra / max(end - begin, 1e-9))
        keys.append(replace(key, at_s=None if at is None else round(at, 3)))
    return replace(walk, keys=tuple(keys), seconds=round(walk.seconds + extra, 3))


def _rounder(line: WalkLine, flag: Flag) -> Walk:
    walk = line.walk
    place = float(line.timing.distance_at(np.array([flag.worst_s]))[0])
    nearest = int(np.argmin(np.abs(line.route.key_m - place)))
    keys = list(walk.keys)
    if keys[nearest].bend == CORNER:
        keys[nearest] = replace(keys[nearest], bend=SMOOTH, handle=None)
    early = min(3.0, max(walk.anticipation_m, 0.5) * max(1.3, SPARE * flag.figure / flag.limit))
    return replace(walk, keys=tuple(keys), anticipation_m=round(early, 2))


def _unbound(line: WalkLine, flag: Flag) -> Walk:
    first, last = _about(line, flag)
    keys = tuple(
        replace(key, near_m=None) if first <= index <= last else key
        for index, key in enumerate(line.walk.keys)
    )
    return replace(line.walk, keys=keys)


def _clearer(line: WalkLine, flag: Flag, rays: RayScene) -> Walk:
    turn = np.arange(4 * AROUND) * (2.0 * np.pi / (4 * AROUND))
    level = np.stack([np.sin(turn), np.cos(turn), np.zeros(len(turn))], axis=1)
    wanted = flag.limit * SPARE + 0.03
    push = np.zeros(2)
    for lower in (0.0, HIPS_M):
        start = np.asarray(flag.place) - (0.0, 0.0, lower)
        away = rays.cast(np.tile(start, (len(turn), 1)), level).distance_m
        nearest = int(np.argmin(away))
        short = wanted - float(away[nearest])
        # What stands on both levels pushes once.
        if short > float(np.linalg.norm(push)):
            push = -level[nearest, :2] * short
    length = float(np.linalg.norm(push))
    if not 0.0 < length <= FARTHEST_M:
        raise Refused("Nothing stands there that the route could keep clear of. Move the place by hand.")
    walk = line.walk
    distance = float(line.timing.distance_at(np.array([flag.worst_s]))[0])
    nearest = int(np.argmin(np.abs(line.route.key_m - distance)))
    x, y, z = flag.place
    moved: Vec3 = (x + float(push[0]), y + float(push[1]), z)
    keys = list(walk.keys)
    if abs(float(line.route.key_m[nearest]) - distance) < SAME_M:
        eye = keys[nearest].eye
        keys[nearest] = replace(keys[nearest], eye=(eye[0] + float(push[0]), eye[1] + float(push[1]), eye[2]))
    else:
        index = int(np.searchsorted(line.route.key_m, distance))
        keys.insert(index, _between(line, flag.worst_s, moved))
    return replace(walk, keys=tuple(keys))


def _between(line: WalkLine, second: float, eye: Vec3) -> WalkKey:
    """A new place with the direction, lens and bounds that the walk has there."""
    light = line.light_at(second)
    return replace(key_from_camera(line.camera_at(second)), eye=eye, hour=light.hour, lamps=light.lamps)
