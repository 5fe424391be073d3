"""Checks of a walk before a night of rendering: where it goes through things, is too near, too fast, or
jumps.

Every finding has its time, place and figure; findings that follow each other are one flag with the worst
figure.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from altana.core.conventions import Bools, Floats, Vec3
from altana.core.geometry.rays import RayScene
from altana.core.project import Limits
from altana.core.walk.sample import WalkLine, WalkSamples

#: Walks are looked at this often, whatever their rate.
CHECK_HZ = Fraction(20)
#: Level directions in which free space is measured, at eye height and at the height of the hips.
AROUND = 12
HIPS_M = 0.65
#: A lens that changes by more than this share a second jumps.
LENS_SHARE_S = 0.6
#: An eye that goes so much further above a floor than it should goes over a void; deeper than the other it is
#: as good as none.
VOID_M, DEEPEST_M = 0.6, 99.0
#: Findings this close together are one.
JOIN_S = 0.6
#: Film frames are looked at this often, besides at every place.
PICTURES_HZ = 1.0

WORDS = {
    "solid": "goes through something solid",
    "clearance": "comes within {:.2f} m of something",
    "headroom": "has only {:.2f} m of headroom",
    "pace": "is walked at {:.2f} m/s",
    "acceleration": "speeds up or slows down by {:.2f} m/s²",
    "turn": "turns at {:.0f}°/s",
    "climb": "goes up or down at {:.2f} m/s",
    "void": "goes over a void, {:.1f} m above the nearest floor",
    "jump": "makes the eye jump ({:.1f} m/s² up or down)",
    "cut": "shows cut faces on {:.1%} of the film frame",
    "hole": "looks out through an opening that nothing closes, {:.1%} of the film frame",
    "ground": "sees the ground end, {:.1%} of the film frame",
    "lens": "changes its lens by {:.0%} a second",
}


@dataclass(frozen=True, slots=True)
class Flag:
    """Something on a walk: a code, from when to when (seconds), where it is worst (second and place), the
    figure there, the limit it passes, and one sentence."""

    code: str
    begin_s: float
    end_s: float
    worst_s: float
    place: Vec3
    figure: float
    limit: float
    sentence: str


def check_walk(line: WalkLine, rays: RayScene, floors: RayScene, limits: Limits) -> tuple[Flag, ...]:
    """The flags of a walk, in the order of time."""
    count = max(2, round(line.walk.seconds * float(CHECK_HZ)))
    rows = line.at_seconds(np.linspace(0.0, line.walk.seconds, count), CHECK_HZ)
    step = line.walk.seconds / (count - 1)
    flags: list[Flag] = []
    still = line.walk.turntable is not None

    def flag(code: str, wrong: Bools, figure: Floats, limit: float, worst_is_small: bool = False) -> None:
        flags.extend(_flags(code, wrong, figure, limit, rows, step, worst_is_small))

    blocked, near = _space(rows, rays, limits.clearance_m)
    flag("solid", blocked, near, 0.0, True)
    flag("clearance", (near < limits.clearance_m) & ~_spread(blocked, 3), near, limits.clearance_m, True)
    if not still:
        room = _headroom(rows, rays, floors)
        flag("headroom", room < limits.headroom_m, room, limits.headroom_m, True)
    if not still and line.walk.follow_floor:
        # The highest floor that is stepped on is the one the eye should stand above.
        over = np.nan_to_num(rows.eye[:, 2] - floors.floors_below(rows.eye), nan=math.inf)
        flag(
            "void",
            over > line.walk.eye_height_m + VOID_M,
            np.minimum(over, DEEPEST_M),
            line.walk.eye_height_m,
        )
    pace = line.timing.pace_at(rows.seconds)
    flag("pace", (pace > limits.pace_m_s) & (not still), pace, limits.pace_m_s)
    change = _jolts(line, rows.seconds, step)
    flag("acceleration", change > limits.acceleration_m_s2, change, limits.acceleration_m_s2)
    turn = np.abs(np.gradient(rows.heading_deg, step))
    flag("turn", turn > limits.turn_deg_s, turn, limits.turn_deg_s)
    climb = np.abs(np.gradient(rows.eye[:, 2], step))
    flag("climb", climb > limits.climb_m_s, climb, limits.climb_m_s)
    jump = _jumps(line, rows.seconds)
    flag("jump", jump > limits.jump_m_s2, jump, limits.jump_m_s2)
    lens = np.abs(np.gradient(np.log(rows.focal_mm), step))
    flag("lens", lens > LENS_SHARE_S, lens, LENS_SHARE_S)
    return tuple(sorted(flags, key=lambda item: (item.begin_s, item.code)))


def picture_moments(line: WalkLine) -> Floats:
    """(n,) seconds at which a walk's film frames are looked at for cut faces and gaps: once a second, and at
    each place."""
    even = np.linspace(0.0, line.walk.seconds, max(2, round(line.walk.seconds * PICTURES_HZ) + 1))
    moments: Floats = np.unique(np.round(np.concatenate([even, line.timing.key_s]), 2))
    return np.minimum(moments, line.walk.seconds)


def picture_flags(rows: WalkSamples, shares: Floats, limits: Limits) -> tuple[Flag, ...]:
    """The flags of film frames that were looked at: shares (n, 3) of each that show cut faces, look out
    through holes, and see the ground end."""
    cut, out, ground = shares.T
    flags: list[Flag] = []
    for code, share, limit in (
        ("cut", cut, limits.cut_share),
        ("hole", out, limits.gap_share),
        ("ground", ground, limits.gap_share),
    ):
        flags += _flags(code, share > limit, share, limit, rows, 1.0 / PICTURES_HZ, False)
    return tuple(sorted(flags, key=lambda item: (item.begin_s, item.code)))


def _jolts(line: WalkLine, seconds: Floats, step: float) -> Floats:
    """Acceleration along the way, m/s²; a step of the pace counts as if it took a fifth of a second."""
    pace = line.timing.pace_at(np.clip(seconds, 0.0, line.walk.seconds))
    change = np.abs(np.interp(seconds + 0.1, seconds, pace) - np.interp(seconds - 0.1, seconds, pace)) / 0.2
    # Setting off and arriving are not felt in a film: it begins and ends there.
    change[(seconds < 0.2) | (seconds > line.walk.seconds - 0.2)] = 0.0
    return change


def _jumps(line: WalkLine, seconds: Floats) -> Floats:
    """Acceleration up or down, m/s², felt over a fifth of a second on either side."""
    over = 0.2
    inner = np.clip(seconds, over, max(over, line.walk.seconds - over))
    heights = [line.at_seconds(inner + shift, CHECK_HZ).eye[:, 2] for shift in (-over, 0.0, over)]
    felt: Floats = np.abs(heights[0] - 2.0 * heights[1] + heights[2]) / over**2
    return felt


def _space(rows: WalkSamples, rays: RayScene, clearance_m: float) -> tuple[Bools, Floats]:
    """Whether the way to the next place is blocked, and the free space about each place."""
    run = np.diff(rows.eye, axis=0)
    length = np.linalg.norm(run, axis=1)
    moving = length > 1e-6
    blocked = np.zeros(len(rows.eye), bool)
    if moving.any():
        along = run[moving] / length[moving, None]
        hips = np.array([0.0, 0.0, -HIPS_M])
        hit = rays.blocked(rows.eye[:-1][moving], along, length[moving]) | rays.blocked(
            rows.eye[:-1][moving] + hips, along, length[moving]
        )
        blocked[np.flatnonzero(moving)[hit]] = True
    turn = np.arange(AROUND) * (2.0 * np.pi / AROUND)
    level = np.stack([np.sin(turn), np.cos(turn), np.zeros(AROUND)], axis=1)
    near = np.full(len(rows.eye), np.inf)
    for lower in (0.0, HIPS_M):
        start = np.repeat(rows.eye - (0.0, 0.0, lower), AROUND, axis=0)
        away = rays.cast(start, np.tile(level, (len(rows.eye), 1))).distance_m.reshape(-1, AROUND)
        near = np.minimum(near, away.min(axis=1))
    return blocked, near


def _headroom(rows: WalkSamples, rays: RayScene, floors: RayScene) -> Floats:
    """Clear height from the floor under each place to what is overhead."""
    floor = floors.floors_below(rows.eye)
    above = rays.cast(rows.eye, np.tile((0.0, 0.0, 1.0), (len(rows.eye), 1))).distance_m
    room: Floats = np.where(np.isfinite(floor), rows.eye[:, 2] + above - floor, np.inf)
    return room


def _spread(which: Bools, by: int) -> Bools:
    wider = which.copy()
    for step in range(1, by + 1):
        wider[step:] |= which[:-step]
        wider[:-step] |= which[step:]
    return wider


def _flags(
    code: str,
    wrong: Bools,
    figure: Floats,
    limit: float,
    rows: WalkSamples,
    step: float,
    worst_is_small: bool,
) -> list[Flag]:
    index = np.flatnonzero(wrong)
    if not len(index):
        return []
    flags = []
    apart = np.diff(rows.seconds[index]) > max(JOIN_S, 1.5 * step)
    for run in np.split(index, np.flatnonzero(apart) + 1):
        values = figure[run]
        worst = int(run[np.argmin(values) if worst_is_small else np.argmax(values)])
        x, y, z = rows.eye[worst].tolist()
        second = float(rows.seconds[worst])
        words = WORDS[code].format(float(figure[worst]))
        sentence = f"At {second:.1f} s the walk {words}."
        flags.append(
            Flag(
                code,
                float(rows.seconds[run[0]]),
                float(rows.seconds[run[-1]]),
                second,
                (x, y, z),
                float(figure[worst]),
                limit,
                sentence,
            )
        )
    return flags
