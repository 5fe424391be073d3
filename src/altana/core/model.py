"""A building model as plain arrays plus the tree of what the triangles belong to.

Every importer produces this and everything else reads it: metres, Z up, triangles of one object
lying next to each other.  It carries no camera and is never changed; the project refers to it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Floats32, Ints, Ints32, Numbers, Vec2, Vec3
from altana.core.distinct import in_use
from altana.core.errors import Refused
from altana.core.extent import extent

#: Materials that let sight through, or that ripple, are drawn differently from solid ones.
SOLID, GLASS, WATER = "solid", "glass", "water"


#: How a picture's opacity is taken: not at all, as holes, or as a veil.
OPAQUE, MASK, BLEND = "opaque", "mask", "blend"

#: What lies beyond the edges of a picture: the picture again, the picture mirrored, or its edge.
REPEAT, MIRROR, CLAMP = "repeat", "mirror", "clamp"


#: An eye this high above a floor stands on it; a lower one looks over the edge of the storey below.
LOWEST_EYE_M = 0.4


@dataclass(frozen=True, slots=True)
class Maps:
    """Pictures that say more of a surface than its colour; each indexes Model.images or is -1.

    ``finish`` holds roughness in its green and metal in its blue channel.
    """

    normal: int = -1
    finish: int = -1
    occlusion: int = -1
    emission: int = -1
    opacity: int = -1

    def moved(self, by: int) -> Maps:
        """The same maps where the images start later."""
        return Maps(
            *(
                value + by if value >= 0 else -1
                for value in (self.normal, self.finish, self.occlusion, self.emission, self.opacity)
            )
        )


NO_MAPS = Maps()


@dataclass(frozen=True, slots=True)
class Material:
    """``colour`` is sRGB red, green, blue and opacity, 0 to 1; ``image`` indexes Model.images or is -1.

    ``emission`` is what the surface throws by itself, linear, 1 for a sheet of paper in the sun.  ``alpha``
    says how opacity in pictures is taken; with MASK what is less opaque than ``cutoff`` is a hole.  ``ior``
    is the index of refraction of what lets light through. ``wraps`` says what lies beyond the edges of its
    pictures, along u and along v.  ``solid_glass`` says that the file means a body that bends light, not a
    pane; of what goes through it ``absorbed`` of each colour is lost per metre (e-folds).
    """

    name: str
    colour: tuple[float, float, float, float] = (0.7, 0.7, 0.7, 1.0)
    image: int = -1
    roughness: float = 0.8
    kind: str = SOLID
    metal: float = 0.0
    emission: Vec3 = (0.0, 0.0, 0.0)
    alpha: str = OPAQUE
    cutoff: float = 0.5
    ior: float = 1.5
    maps: Maps = NO_MAPS
    #: The group of lamps whose light this is; empty for what glows by itself, as a sign does.
    lamp: str = ""
    wraps: tuple[str, str] = (REPEAT, REPEAT)
    solid_glass: bool = False
    absorbed: Vec3 = (0.0, 0.0, 0.0)

    @property
    def pictured(self) -> bool:
        """Whether any picture says how the surface looks, so that its places on it count."""
        return self.image >= 0 or self.maps != NO_MAPS

    @property
    def has_holes(self) -> bool:
        """Whether a picture makes parts of the surface vanish."""
        return self.alpha != OPAQUE and self.kind == SOLID and (self.image >= 0 or self.maps.opacity >= 0)


@dataclass(frozen=True, slots=True)
class EncodedImage:
    """A picture exactly as the file held it (PNG, JPEG), decoded only where it is drawn."""

    name: str
    data: bytes


@dataclass(frozen=True, slots=True)
class SceneObject:
    """One thing in the model; its triangles are ``first_face`` to ``first_face + face_count``."""

    id: str
    name: str
    category: str
    storey_id: str
    first_face: int
    face_count: int
    #: What a light fixture gives by its file, lumens and kelvin; 0 where the file does not say.
    lumens: float = 0.0
    kelvin: float = 0.0


@dataclass(frozen=True, slots=True)
class Storey:
    """A level to stand on; ``elevation_m`` is its finished floor."""

    id: str
    name: str
    elevation_m: float


@dataclass(frozen=True, slots=True)
class Room:
    """A named space: footprint (metres), floor and ceiling heights."""

    id: str
    name: str
    storey_id: str
    outline: tuple[Vec2, ...]
    floor_m: float
    ceiling_m: float


@dataclass(frozen=True, slots=True)
class Problem:
    """Something about the model that a person should know, in one sentence, and the objects it is about.

    ``remedy`` is what one press would do about it: ``unit:METRES`` or ``up:AXIS`` for what else an assumption
    could be, else empty.
    """

    code: str
    sentence: str
    object_ids: tuple[str, ...] = ()
    remedy: str = ""


@dataclass(frozen=True, slots=True)
class FoundCamera:
    """A camera that stood in the file, offered and never mixed in by itself.  Units as in the project."""

    name: str
    eye: Vec3
    heading_deg: float
    tilt_deg: float
    roll_deg: float
    focal_mm: float
    width_px: int = 1920
    height_px: int = 1080


@dataclass(frozen=True, slots=True)
class Linework:
    """Reference lines, apart from the building: ``points`` (k, 2, 3) float32 m, ``layer`` (k,) int32."""

    points: Floats32
    layer: Ints32
    layers: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Lamp:
    """A light of the file that is no thing: a point or a cone.  Metres, lumens, kelvin, degrees across."""

    name: str
    place: Vec3
    lumens: float
    kelvin: float = 3000.0
    direction: Vec3 | None = None
    cone_deg: float = 90.0

    @property
    def candela(self) -> float:
        """What it throws straight ahead, cd."""
        half = math.radians(self.cone_deg / 2.0)
        space = 2.0 * math.pi * (1.0 - math.cos(half)) if self.direction is not None else 4.0 * math.pi
        return self.lumens / space


NO_LINES = Linework(np.zeros((0, 2, 3), np.float32), np.zeros(0, np.int32))


NO_COLOURS: npt.NDArray[np.uint8] = np.zeros((0, 4), np.uint8)


@dataclass(frozen=True, slots=True)
class Place:
    """Where on earth the file says the model stands: degrees north and east, metres above the sea, and
    degrees clockwise from the model's +Y to true north.  ``origin`` are the map coordinates
    (east, north, up, metres) of the model's zero, ``grid`` their system."""

    latitude_deg: float | None = None
    longitude_deg: float | None = None
    height_m: float = 0.0
    north_deg: float = 0.0
    origin: Vec3 | None = None
    grid: str = ""


# Two models are the same only where they are one; what is reckoned from a model is kept beside it as long as
# it lives.
@dataclass(frozen=True, slots=True, eq=False, weakref_slot=True)
class Model:
    """Arrays: vertices (n, 3) and normals (n, 3) float32, uvs (n, 2) float32 with V upwards, faces (m, 3)
    int32, face_material (m,) int32; colours (n, 4) uint8 sRGB and opacity where the file paints its vertices,
    else (0, 4).  World = vertex + ``offset`` (metres), which is zero unless the file lay too far from the
    origin for single precision."""

    vertices: Floats32
    normals: Floats32
    uvs: Floats32
    faces: Ints32
    face_material: Ints32
    objects: tuple[SceneObject, ...]
    materials: tuple[Material, ...]
    images: tuple[EncodedImage, ...] = ()
    storeys: tuple[Storey, ...] = ()
    rooms: tuple[Room, ...] = ()
    problems: tuple[Problem, ...] = ()
    offset: Vec3 = (0.0, 0.0, 0.0)
    source: str = ""
    unit: str = "metre"
    linework: Linework = NO_LINES
    cameras: tuple[FoundCamera, ...] = ()
    colours: npt.NDArray[np.uint8] = field(default_factory=lambda: NO_COLOURS)
    place: Place | None = None
    lamps: tuple[Lamp, ...] = ()

    @property
    def bounds(self) -> Floats:
        """(2, 3) float64: lowest and highest corner of what belongs together, metres; of the lines where
        there are no surfaces."""
        used = self.vertices if len(self.vertices) else self.linework.points.reshape(-1, 3)
        astray = {name for item in self.problems if item.code == "stray-objects" for name in item.object_ids}
        if astray:
            together = np.array([item.id not in astray for item in self.objects], bool)[self.face_objects()]
            used = self.vertices[in_use(self.faces[together], len(self.vertices))] if together.any() else used
        return extent(used).astype(float) if len(used) else np.zeros((2, 3))

    def face_objects(self) -> Ints32:
        """(m,) int32: the index in ``objects`` that each triangle belongs to."""
        return np.repeat(
            np.arange(len(self.objects), dtype=np.int32), [item.face_count for item in self.objects]
        )

    def owners_of(self, faces: Numbers) -> Ints:
        """(n,) the index in ``objects`` that some triangles belong to: at once, however large the model; -1
        for the triangle -1."""
        numbers: Ints = np.asarray(faces, np.int64)
        ends = np.cumsum([item.face_count for item in self.objects])
        return np.where(numbers < 0, -1, np.searchsorted(ends, numbers, side="right"))

    def object_number(self, called: str) -> int:
        """The place in ``objects`` of the first one with this name or id.  Raises Refused for none."""
        for number, item in enumerate(self.objects):
            if called in (item.name, item.id):
                return number
        raise Refused(f"There is no object “{called}” in the model. Its tree names what there is.")

    def storey(self, storey_id: str) -> Storey | None:
        """The storey with this id, or None."""
        return next((item for item in self.storeys if item.id == storey_id), None)

    def storey_below(self, z: float) -> Storey | None:
        """The highest storey whose floor is at or below this height, else the lowest one."""
        below = [item for item in self.storeys if item.elevation_m <= z + 0.05]
        if below:
            return max(below, key=lambda item: item.elevation_m)
        return min(self.storeys, key=lambda item: item.elevation_m, default=None)

    def storey_of_eye(self, eye: Sequence[float]) -> Storey | None:
        """The storey on which an eye stands: the one whose floor lies at least LOWEST_EYE_M below it."""
        return self.storey_below(float(eye[2]) - LOWEST_EYE_M)

    def room_at(self, point: Sequence[float]) -> Room | None:
        """The room whose footprint and height hold this point; the smallest one when several do."""
        x, y, z = point
        holding = [
            room
            for room in self.rooms
            if room.floor_m - 0.3 <= z <= room.ceiling_m + 0.1 and _inside(room.outline, x, y)
        ]
        return min(holding, key=lambda room: abs(_area(room.outline)), default=None)


def _inside(outline: Sequence[Vec2], x: float, y: float) -> bool:
    inside = False
    x0, y0 = outline[-1]
    for x1, y1 in outline:
        if (y1 > y) != (y0 > y) and x < (x0 - x1) * (y - y1) / (y0 - y1) + x1:
            inside = not inside
        x0, y0 = x1, y1
    return inside


def _area(outline: Sequence[Vec2]) -> float:
    points = np.asarray(outline, float)
    x, y = points.T
    return float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2.0


def corner_normals(vertices: Floats32, faces: Ints32) -> tuple[Floats32, Ints32, Ints32]:
    """Flat normals: one vertex per corner.

    vertices : (n, 3), faces : (m, 3).  Returns (3m, 3) normals, (m, 3) new faces and (3m,) the source
    vertex of each corner.  Degenerate triangles get the normal (0, 0, 1).
    """
    source = faces.reshape(-1)
    corners = vertices[source].reshape(-1, 3, 3)
    one, two = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    # Column by column: three times as fast as a cross product of rows.
    across = np.empty((3, len(one)), one.dtype)
    for row, (a, b) in enumerate(((1, 2), (2, 0), (0, 1))):
        across[row] = one[:, a] * two[:, b]
        across[row] -= one[:, b] * two[:, a]
    length = np.sqrt(across[0] * across[0] + across[1] * across[1] + across[2] * across[2])
    flat = length > 1e-20
    across /= np.maximum(length, 1e-20)
    across[:, ~flat] = np.array([[0.0], [0.0], [1.0]])
    normals = np.empty((len(one), 3, 3), np.float32)
    normals[:] = np.ascontiguousarray(across.T)[:, None, :]
    return (normals.reshape(-1, 3), np.arange(len(source), dtype=np.int32).reshape(-1, 3), source)


def join(models: Sequence[Model]) -> Model:
    """Several models as one scene; ids of all but the first model get its number in front.

    The first model's ids stay, so that what the project says of its objects holds when another is added.
    With one model it is returned unchanged.  Raises Refused for no models.
    """
    if not models:
        raise Refused("There is no model to show.")
    if len(models) == 1:
        return models[0]
    vertex0 = np.cumsum([0] + [len(m.vertices) for m in models])
    face0 = np.cumsum([0] + [len(m.faces) for m in models])
    material0 = np.cumsum([0] + [len(m.materials) for m in models])
    image0 = np.cumsum([0] + [len(m.images) for m in models])
    origin = np.asarray(models[0].offset)
    parts = list(enumerate(models))
    return Model(
        vertices=np.concatenate(
            [(m.vertices + (np.asarray(m.offset) - origin)).astype(np.float32) for m in models]
        ),
        normals=np.concatenate([m.normals for m in models]),
        uvs=np.concatenate([m.uvs for m in models]),
        faces=np.concatenate([m.faces + np.int32(vertex0[i]) for i, m in parts]),
        face_material=np.concatenate([m.face_material + np.int32(material0[i]) for i, m in parts]),
        objects=tuple(_object_in(i, int(face0[i]), item) for i, m in parts for item in m.objects),
        materials=tuple(_with_images(x, int(image0[i])) for i, m in parts for x in m.materials),
        images=tuple(x for m in models for x in m.images),
        storeys=tuple(replace(s, id=_in(i, s.id)) for i, m in parts for s in m.storeys),
        rooms=tuple(
            replace(r, id=_in(i, r.id), storey_id=_in(i, r.storey_id)) for i, m in parts for r in m.rooms
        ),
        problems=tuple(_problem_in(i, m.source, item) for i, m in parts for item in m.problems),
        offset=models[0].offset,
        source=" + ".join(m.source for m in models),
        unit=models[0].unit,
        linework=_joined_lines(models, origin),
        colours=_joined_colours(models),
        place=next((m.place for m in models if m.place is not None), None),
        cameras=tuple(
            replace(c, eye=_vec(np.asarray(c.eye) + np.asarray(m.offset) - origin))
            for m in models
            for c in m.cameras
        ),
        lamps=tuple(
            replace(lamp, place=_vec(np.asarray(lamp.place) + np.asarray(m.offset) - origin))
            for m in models
            for lamp in m.lamps
        ),
    )


def _in(number: int, name: str) -> str:
    return f"{number}:{name}" if number and name else name


def _object_in(number: int, first: int, item: SceneObject) -> SceneObject:
    """An object of the model of this number, whose triangles begin later."""
    return replace(
        item,
        id=_in(number, item.id),
        storey_id=_in(number, item.storey_id),
        first_face=item.first_face + first,
    )


def _problem_in(number: int, source: str, item: Problem) -> Problem:
    names = tuple(_in(number, name) for name in item.object_ids)
    return replace(item, sentence=f"{source}: {item.sentence}", object_ids=names)


def _with_images(material: Material, by: int) -> Material:
    return replace(
        material, image=material.image + by if material.image >= 0 else -1, maps=material.maps.moved(by)
    )


def _joined_colours(models: Sequence[Model]) -> npt.NDArray[np.uint8]:
    if not any(len(m.colours) for m in models):
        return NO_COLOURS
    return np.concatenate(
        [m.colours if len(m.colours) else np.full((len(m.vertices), 4), 255, np.uint8) for m in models]
    )


def _vec(values: Floats) -> Vec3:
    x, y, z = values.tolist()
    return (x, y, z)


def _joined_lines(models: Sequence[Model], origin: Floats) -> Linework:
    layer0 = np.cumsum([0] + [len(m.linework.layers) for m in models])
    return Linework(
        np.concatenate(
            [(m.linework.points + (np.asarray(m.offset) - origin)).astype(np.float32) for m in models]
        ),
        np.concatenate([m.linework.layer + np.int32(layer0[i]) for i, m in enumerate(models)]),
        tuple(name for m in models for name in m.linework.layers),
    )


def signed_height(vertices: Floats32, normal: Floats) -> Floats:
    """(n,) float64: the position of each vertex along a unit normal, metres."""
    heights: Floats = vertices.astype(float) @ np.asarray(normal, float)
    return heights
