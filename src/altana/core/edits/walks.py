"""Changes to walks and to the project as a whole."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import replace

from altana.core.conventions import EV_OUTSIDE, Vec3, parse_rate
from altana.core.edits.cameras import add_camera, stays_plumb
from altana.core.errors import Refused
from altana.core.project import (
    AHEAD,
    CORNER,
    EVEN,
    KEYED,
    POINT,
    SMOOTH,
    Camera,
    Light,
    Look,
    Project,
    Turntable,
    Walk,
    WalkKey,
    free_name,
    next_id,
)
from altana.core.ranges import (
    EV,
    FOCAL_MM,
    HANDLE_M,
    HOUR,
    LAMP_LEVEL,
    LOOK_EARLY_M,
    PAUSE_S,
    RADIUS_M,
    SWEEP_DEG,
    WALK_S,
)
from altana.core.walk.sample import resolve


def add_walk(project: Project, walk: Walk) -> tuple[Project, str]:
    """Append a walk under a free id and name; returns the project and the id."""
    walk_id = next_id("walk", tuple(item.id for item in project.walks))
    name = free_name(walk.name or "Walk", tuple(item.name for item in project.walks))
    added = checked_walk(replace(walk, id=walk_id, name=name))
    return replace(project, walks=(*project.walks, added)), walk_id


def set_walk(project: Project, walk_id: str, **values: object) -> Project:
    """Set named fields of a walk.  Raises Refused with a sentence."""
    if project.walk(walk_id) is None:
        raise Refused(f"There is no walk {walk_id}.")
    return replace(
        project,
        walks=tuple(
            checked_walk(replace(item, **values)) if item.id == walk_id else item  # type: ignore[arg-type]
            for item in project.walks
        ),
    )


def remove_walk(project: Project, walk_id: str) -> Project:
    """Without this walk.  Raises Refused when there is no such walk."""
    if project.walk(walk_id) is None:
        raise Refused(f"There is no walk {walk_id}.")
    return replace(project, walks=tuple(item for item in project.walks if item.id != walk_id))


def checked_walk(walk: Walk) -> Walk:
    """The walk itself, or Refused naming what makes no film."""
    if walk.turntable is not None:
        _checked_turntable(walk.turntable)
    elif len(walk.keys) < 2:
        raise Refused("A walk needs at least two places to pass.")
    WALK_S.check("A length", walk.seconds)
    for a, b in zip(walk.keys, walk.keys[1:], strict=False):
        if max(abs(p - q) for p, q in zip(a.eye, b.eye, strict=True)) < 1e-3:
            raise Refused("Two places of the walk that follow each other are the same.")
    parse_rate(walk.rate)
    for value in (walk.ease_in_s, walk.ease_out_s, walk.dwell_ease_s, *(key.dwell_s for key in walk.keys)):
        PAUSE_S.check("A pause or an ease", value)
    for key in walk.keys:
        if key.bend not in (SMOOTH, CORNER, EVEN):
            raise Refused(f"“{key.bend}” is no way to pass a place. Ways: {SMOOTH}, {EVEN}, {CORNER}.")
        FOCAL_MM.check("A focal length", key.focal_mm)
        EV.check("An exposure", key.ev)
        if key.handle is not None and math.hypot(*key.handle) not in HANDLE_M:
            raise Refused("A handle of a place reaches 1 cm to 100 m.")
        if key.hour is not None:
            HOUR.check("An hour", key.hour)
        if key.lamps is not None:
            LAMP_LEVEL.check("What lamps are dimmed to", key.lamps)
        if key.at_s is not None and not 0.0 <= key.at_s <= walk.seconds:
            raise Refused(f"A place passed at {key.at_s:g} s lies outside the walk's {walk.seconds:g} s.")
    for look in walk.looks:
        if look.kind not in (AHEAD, KEYED, POINT) or not 0.0 <= look.start < look.end <= 1.0:
            raise Refused("A look has a kind and a span between 0 and 1 of the route.")
    if walk.anticipation_m not in LOOK_EARLY_M:
        raise Refused("Corners are looked round 0 to 50 m early.")
    return walk


def timed(project: Project, walk_id: str) -> Project:
    """The project itself, or Refused where the walk can no longer be timed."""
    walk = project.walk(walk_id)
    if walk is not None:
        resolve(walk, None)
    return project


def _checked_turntable(table: Turntable) -> None:
    numbers = (*table.centre, table.eye_m, table.start_deg, table.ev)
    if not all(abs(value) < 1e6 for value in numbers) or table.radius_m not in RADIUS_M:
        raise Refused("A turntable needs a finite centre and height, and a radius of 5 cm to 100 km.")
    if abs(table.sweep_deg) not in SWEEP_DEG:
        raise Refused("A turntable sweeps 0.1° to 3600°, either way.")
    FOCAL_MM.check("A focal length", table.focal_mm)
    EV.check("An exposure", table.ev)


def change_key(project: Project, walk_id: str, index: int, **values: object) -> Project:
    """Set fields of one key of a walk.  Raises Refused with a sentence."""
    walk = _walk(project, walk_id)
    if not 0 <= index < len(walk.keys):
        raise Refused(f"There is no place {index + 1}; the walk has {len(walk.keys)}.")
    changed = replace(walk.keys[index], **values)  # type: ignore[arg-type]
    return set_walk(project, walk_id, keys=(*walk.keys[:index], changed, *walk.keys[index + 1 :]))


def change_keys(project: Project, walk_id: str, indices: Iterable[int], **values: object) -> Project:
    """Set fields of several keys of a walk at once."""
    for index in indices:
        project = change_key(project, walk_id, index, **values)
    return project


def remove_keys(project: Project, walk_id: str, indices: Iterable[int]) -> Project:
    """Without several keys.  Raises Refused where fewer than two would be left."""
    walk = _walk(project, walk_id)
    gone = set(indices)
    return set_walk(
        project, walk_id, keys=tuple(key for index, key in enumerate(walk.keys) if index not in gone)
    )


def paste_keys(project: Project, walk_id: str, after: int, keys: Sequence[WalkKey]) -> Project:
    """Put copied keys in behind one of the walk's own, their seconds freed; one that would repeat its
    neighbour's place is passed over.  Raises Refused where nothing is left to put in."""
    walk = _walk(project, walk_id)
    all_keys = list(walk.keys[: after + 1])
    behind = walk.keys[after + 1 : after + 2]
    for key in keys:
        if math.dist(key.eye, all_keys[-1].eye) > 1e-3:
            all_keys.append(replace(key, at_s=None))
    while len(all_keys) > after + 1 and behind and math.dist(all_keys[-1].eye, behind[0].eye) <= 1e-3:
        all_keys.pop()
    if len(all_keys) == after + 1:
        raise Refused(
            "The copied places lie where the route already passes there. Choose another place to put them in behind."
        )
    return set_walk(project, walk_id, keys=(*all_keys, *walk.keys[after + 1 :]))


#: What of a key is its camera, as against its place and its time.
CAMERA_OF_KEY = (
    "heading_deg",
    "tilt_deg",
    "focal_mm",
    "ev",
    "rise_mm",
    "cross_mm",
    "near_m",
    "far_m",
    "hour",
    "lamps",
)


def paste_key_camera(project: Project, walk_id: str, indices: Iterable[int], key: WalkKey) -> Project:
    """Give keys the direction, lens, exposure, bounds, sun and lamps of a copied one."""
    return change_keys(project, walk_id, indices, **{name: getattr(key, name) for name in CAMERA_OF_KEY})


def shift_keys(project: Project, walk_id: str, seconds: Sequence[tuple[int, float]]) -> Project:
    """Give keys (index, second) seconds of their own, all at once; first and last stay at the ends."""
    walk = _walk(project, walk_id)
    keys = list(walk.keys)
    for index, second in seconds:
        if 0 < index < len(keys) - 1:
            keys[index] = replace(keys[index], at_s=round(second, 6))
    return set_walk(project, walk_id, keys=tuple(keys))


def add_look(project: Project, walk_id: str, look: Look) -> Project:
    """Another span of looking, after those there are; where spans overlap the later one counts."""
    walk = _walk(project, walk_id)
    return set_walk(project, walk_id, looks=(*walk.looks, look))


def change_look(project: Project, walk_id: str, index: int, **values: object) -> Project:
    """Set fields of one span of looking.  Raises Refused with a sentence."""
    walk = _walk(project, walk_id)
    if not 0 <= index < len(walk.looks):
        raise Refused(f"There is no span {index + 1} of looking; the walk has {len(walk.looks)}.")
    changed = replace(walk.looks[index], **values)  # type: ignore[arg-type]
    return set_walk(project, walk_id, looks=(*walk.looks[:index], changed, *walk.looks[index + 1 :]))


def remove_look(project: Project, walk_id: str, index: int) -> Project:
    """Without one span of looking."""
    walk = _walk(project, walk_id)
    return set_walk(project, walk_id, looks=(*walk.looks[:index], *walk.looks[index + 1 :]))


def _walk(project: Project, walk_id: str) -> Walk:
    walk = project.walk(walk_id)
    if walk is None:
        raise Refused(f"There is no walk {walk_id}.")
    return walk


def insert_key(project: Project, walk_id: str, index: int, key: WalkKey) -> Project:
    """Put a key before the one at an index, or at the end."""
    walk = _walk(project, walk_id)
    return set_walk(project, walk_id, keys=(*walk.keys[:index], key, *walk.keys[index:]))


def remove_key(project: Project, walk_id: str, index: int) -> Project:
    """Without one key.  Raises Refused where fewer than two would be left."""
    walk = _walk(project, walk_id)
    return set_walk(project, walk_id, keys=(*walk.keys[:index], *walk.keys[index + 1 :]))


def reversed_walk(walk: Walk) -> Walk:
    """The same route walked the other way, looking the other way."""
    if walk.turntable is not None:
        return replace(walk, turntable=replace(walk.turntable, sweep_deg=-walk.turntable.sweep_deg))
    turned = tuple(
        replace(
            key,
            heading_deg=(key.heading_deg + 180.0) % 360.0,
            at_s=None if key.at_s is None else walk.seconds - key.at_s,
            handle=None if key.handle is None else (-key.handle[0], -key.handle[1]),
        )
        for key in reversed(walk.keys)
    )
    # How one turns belongs to the way between two places: it is told at the later of them.
    turned = tuple(
        replace(key, long_way=after.long_way)
        for key, after in zip(
            turned, (replace(turned[0], long_way=False), *reversed(walk.keys)), strict=False
        )
    )
    looks = tuple(
        replace(
            look,
            start=1.0 - look.end,
            end=1.0 - look.start,
            point=look.to or look.point,
            to=look.point if look.to else None,
        )
        for look in reversed(walk.looks)
    )
    return replace(walk, keys=turned, looks=looks, ease_in_s=walk.ease_out_s, ease_out_s=walk.ease_in_s)


def split_walk(project: Project, walk_id: str, index: int) -> tuple[Project, str]:
    """Part a walk at a key into two, each with its share of the seconds; the project and the second walk's
    id."""
    walk = _walk(project, walk_id)
    if not 0 < index < len(walk.keys) - 1:
        raise Refused("A walk is parted at a place between its first and its last.")
    first, second = ([key.eye for key in keys] for keys in (walk.keys[: index + 1], walk.keys[index:]))
    lengths = [sum(math.dist(a, b) for a, b in itertools.pairwise(part)) for part in (first, second)]
    share = lengths[0] / max(sum(lengths), 1e-9)
    free = [
        tuple(replace(key, at_s=None) for key in keys) for keys in (walk.keys[: index + 1], walk.keys[index:])
    ]
    seconds = max(0.1, round(walk.seconds * share, 3))
    project = set_walk(project, walk_id, keys=free[0], seconds=seconds, looks=())
    return add_walk(
        project,
        replace(
            walk, keys=free[1], seconds=max(0.1, walk.seconds - seconds), looks=(), name=f"{walk.name}, on"
        ),
    )


def duplicate_walk(project: Project, walk_id: str) -> tuple[Project, str]:
    """A copy of a walk, unlocked; the project and the copy's id.  Raises Refused when there is no such
    walk."""
    walk = _walk(project, walk_id)
    return add_walk(project, replace(walk, locked=False))


def join_walks(project: Project, first_id: str, second_id: str) -> Project:
    """Two walks as one, the second after the first; it lasts as long as both."""
    first, second = project.walk(first_id), project.walk(second_id)
    if (
        first is None
        or second is None
        or first.turntable is not None
        or second.turntable is not None
        or first_id == second_id
    ):
        raise Refused("Two walkthroughs can be joined, not a turntable, and not one with itself.")
    keys = [replace(key, at_s=None) for key in (*first.keys, *second.keys)]
    kept = [
        key for index, key in enumerate(keys) if not index or math.dist(key.eye, keys[index - 1].eye) > 1e-3
    ]
    project = set_walk(project, first_id, keys=tuple(kept), seconds=first.seconds + second.seconds, looks=())
    return remove_walk(project, second_id)


def turntable_stills(project: Project, walk_id: str, count: int) -> Project:
    """Even stops of a turntable as cameras, in a group of its name.  Raises Refused for a walk that is
    none."""
    walk = project.walk(walk_id)
    if walk is None or walk.turntable is None:
        raise Refused("Only a turntable has even stops.")
    if not 1 <= count <= 360:
        raise Refused("A turntable is kept as 1 to 360 cameras.")
    table = walk.turntable
    for number in range(count):
        around = math.radians(table.start_deg + table.sweep_deg * number / count)
        x, y, z = table.centre
        eye = (x + table.radius_m * math.sin(around), y + table.radius_m * math.cos(around), table.eye_m)
        tilt = 0.0 if table.level else math.degrees(math.atan2(z - table.eye_m, table.radius_m))
        camera = Camera(
            "",
            f"{walk.name} {number + 1}",
            eye,
            (math.degrees(around) + 180.0) % 360.0,
            tilt,
            aim_m=math.hypot(table.radius_m, z - table.eye_m),
            focal_mm=table.focal_mm,
            width_px=walk.width_px,
            height_px=walk.height_px,
            ev=table.ev,
            group=walk.name,
            kept_plumb=walk.kept_plumb,
        )
        project = add_camera(project, stays_plumb(camera) if walk.kept_plumb else camera)[0]
    return project


def turntable_round(
    low: Vec3, high: Vec3, eye_m: float, focal_mm: float = 35.0, ev: float = EV_OUTSIDE
) -> Turntable:
    """A turntable round a box (lowest and highest corner, metres) that a lens just holds from every side."""
    middle = tuple((a + b) / 2 for a, b in zip(low, high, strict=True))
    reach = math.dist(low, high) / 2
    # The sphere round the box fits the frame's height, the narrower of both, with a little room.
    radius = max(reach * 1.1 / math.sin(math.atan(20.25 / 2 / focal_mm)), 0.5)
    return Turntable((middle[0], middle[1], middle[2]), radius, eye_m, focal_mm=focal_mm, ev=ev)


def key_from_camera(camera: Camera) -> WalkKey:
    """The place, direction, lens and exposure of a camera as a key of a walk."""
    return WalkKey(
        camera.eye,
        camera.heading_deg,
        camera.tilt_deg,
        camera.focal_mm,
        camera.ev,
        rise_mm=camera.rise_mm,
        cross_mm=camera.cross_mm,
        near_m=camera.near,
        far_m=camera.far,
    )


def set_light(project: Project, light: Light) -> Project:
    """With another sun."""
    return replace(project, light=light)


def rename(project: Project, name: str) -> Project:
    """Under another name.  Raises Refused for an empty one."""
    if not name.strip():
        raise Refused("A project needs a name.")
    return replace(project, name=name.strip())
