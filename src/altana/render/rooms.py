"""What walls, counters and panes of rooms mirror: an all-round picture of each room that is seen, as if taken
from its middle.

A line from a mirroring place is followed to the room's walls, taken as a box, and looked up where the
picture's eye sees that place (parallax correction, S. Lagarde and A. Zanuttini, "Local image-based lighting",
2012).  A picture depends on the model and its light alone, never on the view, so all views, tiles and film
frames of a room share it.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass

import moderngl
import numpy as np
import shapely

from altana.core.camera.view import View
from altana.core.conventions import Floats, Floats32, Ints, Vec3
from altana.core.model import Model, Room
from altana.render.outputs import Facts

#: So many rooms at most are mirrored in one picture: those that are seen most, and fill this share of it.
MOST_ROOMS, LEAST_SHARE = 6, 0.002
#: Every so many pixels of the small picture are asked which room they lie in.
APART = 2
#: So many pictures of rooms are kept.
KEPT = 32
#: A wall belongs to the room before it: places are taken so far off it, and rooms reach so far into their
#: walls (rooms.glsl has the same).
OFF_M, INTO_M = 0.25, 0.2
#: The eye stands so high above the floor, or half way up.
EYE_M = 1.5
#: Places across a room that are looked at for its eye.
ACROSS = 9
SHARP_UNIT, SOFT_UNIT = 13, 14


@dataclass(frozen=True, slots=True)
class Boxes:
    """Rooms as boxes, the smallest first: ``turn`` (k, 2) cosine and sine of how each is turned, ``low`` and
    ``high`` (k, 3) its corners in metres, turned back."""

    rooms: tuple[Room, ...]
    turn: Floats
    low: Floats
    high: Floats

    @classmethod
    def of(cls, model: Model) -> Boxes:
        """Those of a model that have an outline and a height."""
        rooms = [
            room for room in model.rooms if len(room.outline) >= 3 and room.ceiling_m > room.floor_m + 0.5
        ]
        turn = np.array([_turned(np.array(room.outline, float)) for room in rooms]).reshape(-1, 2)
        low, high = np.empty((len(rooms), 3)), np.empty((len(rooms), 3))
        for number, room in enumerate(rooms):
            outline = np.array([(*place, 0.0) for place in room.outline])
            at = turned_back(outline, turn[number])
            low[number] = (*at[:, :2].min(axis=0), room.floor_m)
            high[number] = (*at[:, :2].max(axis=0), room.ceiling_m)
        order = np.argsort(np.prod(high - low, axis=1), kind="stable")
        return cls(tuple(rooms[number] for number in order), turn[order], low[order], high[order])

    def before(self, place: Floats, normal: Floats) -> Ints:
        """(n,) the smallest room before each surface, -1 where there is none.  place, normal : (n, 3)."""
        number_of = np.full(len(place), -1)
        off = place + normal * OFF_M
        for number in reversed(range(len(self.rooms))):
            at = turned_back(off, self.turn[number])
            inside = (at > self.low[number] - INTO_M).all(axis=1)
            inside &= (at < self.high[number] + INTO_M).all(axis=1)
            number_of[inside] = number
        return number_of


def turned_back(place: Floats, turn: Floats) -> Floats:
    """(n, 3) places as a box sees them that is turned so: ``turn`` (2,) cosine and sine."""
    east, north = place[:, 0], place[:, 1]
    return np.column_stack([turn[0] * east + turn[1] * north, turn[0] * north - turn[1] * east, place[:, 2]])


def _turned(outline: Floats) -> tuple[float, float]:
    """Cosine and sine of the smallest rectangle's turn about an outline (n, 2), by less than a right
    angle."""
    around = shapely.minimum_rotated_rectangle(shapely.Polygon(outline))
    if around.geom_type != "Polygon":
        return 1.0, 0.0
    first, second = np.array(around.boundary.coords)[:2]
    angle = np.arctan2(*(second - first)[::-1]) % (np.pi / 2.0)
    return float(np.cos(angle)), float(np.sin(angle))


def seen_rooms(view: View, facts: Facts, boxes: Boxes) -> tuple[int, ...]:
    """The rooms that surfaces in a picture lie in, those that fill most of it, by size as in ``boxes``."""
    looked = np.zeros(facts.depth_m.shape, bool)
    looked[::APART, ::APART] = True
    rows, columns = np.nonzero(looked & np.isfinite(facts.depth_m) & (facts.material_index >= 0))
    if not len(rows) or not boxes.rooms:
        return ()
    along = view.rays(np.column_stack([columns + 0.5, rows + 0.5]))
    deep = facts.depth_m[rows, columns] / np.maximum(along @ view.pose.forward, 1e-9)
    normal = facts.normal[rows, columns].astype(float)
    # Panes and other thin things are seen from either side.
    normal[np.einsum("ij,ij->i", normal, along) > 0.0] *= -1.0
    which = boxes.before(np.asarray(view.pose.eye) + along * deep[:, None], normal)
    count = np.bincount(which[which >= 0], minlength=len(boxes.rooms))
    most = np.argsort(-count, kind="stable")[:MOST_ROOMS]
    least = LEAST_SHARE * looked.sum()
    return tuple(sorted(int(number) for number in most if count[number] > least))


def eye_in(room: Room, low: Floats, high: Floats) -> Vec3:
    """Where a room is looked round from: within its outline, as far as possible from its walls and from what
    stands in it.

    low, high : (n, 3) boxes of objects, metres.
    """
    outline = np.array(room.outline, float)
    least, most = outline.min(axis=0), outline.max(axis=0)
    share = (np.arange(ACROSS) + 0.5) / ACROSS
    x, y = np.meshgrid(least[0] + share * (most[0] - least[0]), least[1] + share * (most[1] - least[1]))
    at = np.column_stack([x.ravel(), y.ravel()])
    z = room.floor_m + min(EYE_M, 0.5 * (room.ceiling_m - room.floor_m))
    # What is wider than the room is its shell, or the land.
    wide = (high - low)[:, :2]
    stands = (low[:, 2] < z + 0.2) & (high[:, 2] > z - 0.2) & (wide < 0.7 * (most - least)).all(axis=1)
    footprint, places = shapely.Polygon(outline), shapely.points(at)
    clear = np.where(shapely.contains_xy(footprint, at), 1.0, -1.0) * shapely.distance(
        footprint.exterior, places
    )
    if stands.any():
        aside = np.maximum(
            np.maximum(low[None, stands, :2] - at[:, None], at[:, None] - high[None, stands, :2]), 0.0
        )
        clear = np.minimum(clear, np.linalg.norm(aside, axis=2).min(axis=1))
    best = at[int(np.argmax(clear))]
    return (float(best[0]), float(best[1]), float(z))


@dataclass(frozen=True, slots=True)
class RoomMirrors:
    """Pictures of the rooms of one view on the card, their boxes, and where they were taken, ``eye``
    (k, 3)."""

    sharp: moderngl.TextureArray
    soft: moderngl.TextureArray
    turn: Floats
    low: Floats
    high: Floats
    eye: Floats

    @property
    def switch(self) -> str:
        """What is defined in a program that mirrors these rooms."""
        return f":ROOMS {len(self.low)}"

    def uniforms(self) -> dict[str, object]:
        """What such a program is told."""
        self.sharp.use(SHARP_UNIT)
        self.soft.use(SOFT_UNIT)
        values: dict[str, object] = {"u_room_sharp": SHARP_UNIT, "u_room_soft": SOFT_UNIT}
        for name in ("turn", "low", "high", "eye"):
            values[f"u_room_{name}"] = getattr(self, name).astype(np.float32).tobytes()
        return values

    def release(self) -> None:
        """Take them off the card."""
        self.sharp.release()
        self.soft.release()


@dataclass(frozen=True, slots=True)
class RoomPicture:
    """An all-round picture of a room as folded squares, and where it was taken."""

    sharp: Floats32
    soft: Floats32
    eye: Vec3


class RoomShelf:
    """Pictures of rooms that were taken in this light, and those that are on the card."""

    def __init__(self, context: moderngl.Context) -> None:
        self._context = context
        self._held: OrderedDict[object, RoomPicture] = OrderedDict()
        self._on_card: tuple[object, RoomMirrors | None] = (None, None)

    def clear(self) -> None:
        """Forget them: the model is another, or its light."""
        self._held.clear()
        if self._on_card[1] is not None:
            self._on_card[1].release()
        self._on_card = (None, None)

    def picture(self, key: object) -> RoomPicture | None:
        """One that was taken."""
        return self._held.get(key)

    def keep(self, key: object, picture: RoomPicture) -> None:
        """Keep one; what was taken longest ago is let go."""
        self._held[key] = picture
        while len(self._held) > KEPT:
            self._held.popitem(last=False)

    def on_card(
        self, key: object, numbers: Sequence[int], boxes: Boxes, pictures: Sequence[RoomPicture]
    ) -> RoomMirrors:
        """Some of them as one."""
        if self._on_card[0] == key and self._on_card[1] is not None:
            return self._on_card[1]
        if self._on_card[1] is not None:
            self._on_card[1].release()
        chosen = list(numbers)
        mirrors = RoomMirrors(
            self._array(np.stack([item.sharp for item in pictures])),
            self._array(np.concatenate([item.soft for item in pictures])),
            boxes.turn[chosen],
            boxes.low[chosen],
            boxes.high[chosen],
            np.array([item.eye for item in pictures]),
        )
        self._on_card = (key, mirrors)
        return mirrors

    def _array(self, layers: Floats32) -> moderngl.TextureArray:
        count, high, wide = layers.shape[:3]
        data = np.ascontiguousarray(np.minimum(layers, 60_000.0).astype(np.float16)).tobytes()
        array = self._context.texture_array((wide, high, count), 3, data, dtype="f2", alignment=2)
        array.filter = (moderngl.LINEAR, moderngl.LINEAR)
        array.repeat_x = array.repeat_y = False
        return array
