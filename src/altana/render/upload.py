"""Arrays to the graphics card: the only place where a Model becomes buffers and textures."""

from __future__ import annotations

from dataclasses import dataclass, replace

import moderngl
import numpy as np
import numpy.typing as npt

from altana.core.conventions import Floats, Ints
from altana.core.geometry.core_of import core_of
from altana.core.geometry.one_plane import smallness
from altana.core.geometry.runs import object_boxes
from altana.core.light.frosted import looked_through
from altana.core.light.transport import LightMap
from altana.core.model import GLASS, SOLID, WATER, Material, Model
from altana.render.coarse import coarser
from altana.render.once import Once, packed_once
from altana.render.textures import ROOTS, Textures, load, table_row, wrap_code

KIND_NUMBER = {SOLID: 0.0, GLASS: 1.0, WATER: 2.0}
#: Fields of a vertex: name in the shaders, the graphics library's word for it, and its type.
FIELDS = (
    ("position", "3f4", "3f4"),
    ("normal", "3f2 2x1", "4f2"),
    ("uv", "2f4", "2f4"),
    ("light", "2f4", "2f4"),
    ("ids", "2u4", "2u4"),
    ("paint", "4f1", "4u1"),
)
#: Corners of this many triangles are looked at together, and of so many to say where the building stands.
AT_A_TIME = 1_000_000


@dataclass(frozen=True, slots=True)
class Batches:
    """Index ranges, one for each object and kind of drawing: ``first``, ``count`` (k,) indices, ``owner``
    (k,), boxes ``low``, ``high`` (k, 3); ``array`` (k,) the texture array of their pictures or -1, ``holes``
    (k,) whether pictures make holes; ``coarse_first`` and ``coarse_count`` (k,) the indices of a coarser
    version, none where the count is 0.  Copies have the indices of their original."""

    first: Ints
    count: Ints
    low: Floats
    high: Floats
    owner: Ints
    array: Ints
    holes: npt.NDArray[np.bool_]
    coarse_first: Ints
    coarse_count: Ints
    #: (k,) the row of the places of copies that holds, 0 for what stands as it is.
    place: Ints

    def of(self, chosen: npt.NDArray[np.bool_]) -> Batches:
        """Only the chosen (k,) batches."""
        return Batches(*(getattr(self, name)[chosen] for name in self.__dataclass_fields__))


@dataclass(slots=True)
class Uploaded:
    """A model on the graphics card; ``solid`` and ``glass`` say which indices to draw, ``fields`` which
    vertices have."""

    vertices: moderngl.Buffer
    positions: moderngl.Buffer
    indices: moderngl.Buffer
    fields: tuple[str, ...]
    solid: Batches
    glass: Batches
    materials: moderngl.Texture
    textures: Textures
    light: moderngl.Texture
    light_known: bool
    centre: Floats
    core_radius_m: float
    #: The height on which haze lies: below nearly everything, strays left aside.
    ground_m: float
    #: How far from each other things stand that may throw shadows on one another.
    reach_m: float
    object_count: int
    #: Whether any material is metal.
    metal: bool
    #: Whether any pane is frosted.
    frosted: bool
    #: Whether any picture goes on beyond its edges otherwise than by being repeated.
    edges: bool
    #: Where copies of other objects stand; None where all have surfaces of their own.
    places: moderngl.Buffer | None

    def release(self) -> None:
        """Free everything."""
        self.textures.release()
        self.release_but_textures()

    def release_but_textures(self) -> None:
        """Free what another model has no use for; the same pictures stay."""
        for item in (self.vertices, self.positions, self.indices, self.materials, self.light):
            item.release()
        if self.places is not None:
            self.places.release()


def upload(
    context: moderngl.Context, model: Model, light: LightMap | None, before: Textures | None = None
) -> Uploaded:
    """Put a model, with its light map if there is one, on the graphics card.  held : pictures there."""
    textures = load(context, model, before)
    fields = tuple(
        name
        for name, _, _ in FIELDS
        if (name != "light" or light is not None) and (name != "paint" or len(model.colours))
    )
    # What has soft light has its own on every copy.
    once = packed_once(model) if light is None else None
    low, high = object_boxes(model)
    vertices, faces = _vertices(model, light, fields, once, smallness(low, high))
    group, order = _groups(model, textures)
    extra, coarse_counts = (
        coarser(model, low, high, None if once is None else once.copies.own)
        if light is None
        else (np.zeros((0, 3), np.int32), np.zeros(len(model.objects), np.int64))
    )
    drawn = len(faces) if once is None else once.face_count
    batches = _batches(model, group, order, (low, high), (3 * drawn, coarse_counts))
    if once is not None:
        batches = once.shared(batches, model)
    centre, radius, ground = core_of(model)
    indices = context.buffer(reserve=max(4, 12 * (drawn + len(extra))))
    at = _put_all(indices, model, faces, order, once)
    _put(indices, at, extra if once is None else once.moved(extra, coarse_counts))
    clear = batches.array == GLASS_ARRAY
    return Uploaded(
        vertices=context.buffer(vertices),
        positions=context.buffer(np.ascontiguousarray(vertices["position"])),
        indices=indices,
        fields=fields,
        solid=batches.of(~clear),
        glass=batches.of(clear),
        materials=_material_table(context, model, textures),
        textures=textures,
        light=_light_texture(context, light),
        light_known=light is not None,
        centre=centre,
        core_radius_m=radius,
        ground_m=ground,
        reach_m=float(np.linalg.norm(np.subtract(*model.bounds))),
        object_count=len(model.objects),
        metal=any(item.metal > 0.5 for item in model.materials),
        frosted=bool(looked_through(model)[1].any()),
        edges=any(wrap_code(item) for item in model.materials),
        places=None if once is None else context.buffer(once.rows()),
    )


def _put(indices: moderngl.Buffer, at: int, faces: npt.NDArray[np.integer]) -> int:
    """Write triangles (k, 3) into the indices from a triangle on; how many they were."""
    if len(faces):
        indices.write(np.ascontiguousarray(faces, np.uint32).tobytes(), offset=12 * at)
    return len(faces)


def _put_all(
    indices: moderngl.Buffer,
    model: Model,
    faces: npt.NDArray[np.integer],
    order: Ints | None,
    once: Once | None,
) -> int:
    """Write all triangles in their order, some at a time, copies left away; how many they were."""
    at, owner = 0, model.face_objects()
    for start in range(0, len(faces), AT_A_TIME):
        some = slice(start, start + AT_A_TIME) if order is None else order[start : start + AT_A_TIME]
        at += _put(indices, at, faces[some] if once is None else once.faces(model, owner, some))
    return at


#: Stands for the array of panes, which are drawn apart.
GLASS_ARRAY = -2


#: How small an object is stands above this bit of its vertices' materials.
SMALLNESS_BIT = 24


def _vertices(
    model: Model, light: LightMap | None, fields: tuple[str, ...], once: Once | None, small: Ints
) -> tuple[np.ndarray, npt.NDArray[np.integer]]:
    kinds = np.dtype([(name, kind) for name, _, kind in FIELDS if name in fields])
    if once is not None:
        packed = np.zeros(len(once.corners), kinds)
        packed["ids"] = once.ids(model)
        source: slice | Ints = once.corners
        faces: npt.NDArray[np.integer] = model.faces
    elif light is None:
        # Every vertex belongs to one object and one material, so the model's own will do.
        packed = np.zeros(len(model.vertices), kinds)
        owner = model.face_objects()
        for start in range(0, len(model.faces), AT_A_TIME):
            some = slice(start, start + AT_A_TIME)
            packed["ids"][model.faces[some], 0] = model.face_material[some, None]
            packed["ids"][model.faces[some], 1] = owner[some, None]
        source, faces = slice(None), model.faces
    else:
        corner = model.faces.reshape(-1).astype(np.int64)
        place = light.uv.reshape(-1, 2)
        # One vertex for each corner that differs in anything; most are shared by the triangles of a face.
        wide, high = 4 * light.pixels.shape[1] + 1, 4 * light.pixels.shape[0] + 1
        key = corner * np.int64(len(model.materials) + 1) + np.repeat(model.face_material, 3)
        key = (key * wide + np.rint(place[:, 0] * 4).astype(np.int64)) * high
        key = key + np.rint(place[:, 1] * 4).astype(np.int64)
        _, first, index = np.unique(key, return_index=True, return_inverse=True)
        packed = np.zeros(len(first), kinds)
        packed["light"] = place[first]
        packed["ids"][:, 0] = model.face_material[first // 3]
        packed["ids"][:, 1] = model.face_objects()[first // 3]
        source, faces = corner[first], index.reshape(-1, 3)
    if len(packed):
        packed["ids"][:, 0] |= small[packed["ids"][:, 1]].astype(np.uint32) << np.uint32(SMALLNESS_BIT)
    packed["position"] = model.vertices[source]
    packed["normal"][:, :3] = model.normals[source]
    packed["uv"] = model.uvs[source]
    if "paint" in fields:
        packed["paint"] = model.colours[source]
        packed["paint"][:, :3] = ROOTS[packed["paint"][:, :3]]
    return packed, faces


def _groups(model: Model, textures: Textures) -> tuple[Ints, Ints | None]:
    """(faces,) how each triangle is drawn, as a number for panes, holes and texture array; and the order that
    brings equal ones together within each object, None where they are so already."""
    by_material = np.array(
        [
            -1 if item.kind == GLASS else 2 * (shelf.array + 1) + (item.has_holes and shelf.layer >= 0)
            for item, shelf in zip(model.materials, textures.shelves, strict=True)
        ],
        np.int64,
    )
    group = by_material[model.face_material]
    if len(np.unique(by_material)) <= 1:
        return group, None
    order = np.argsort(
        model.face_objects().astype(np.int64) * (by_material.max() + 3) + group + 1, kind="stable"
    )
    return group, order


def _batches(
    model: Model, group: Ints, order: Ints | None, boxes: tuple[Floats, Floats], coarse: tuple[int, Ints]
) -> Batches:
    kind = group if order is None else group[order]
    owner = model.face_objects() if order is None else model.face_objects()[order]
    starts = (
        np.flatnonzero(np.r_[True, (owner[1:] != owner[:-1]) | (kind[1:] != kind[:-1])])
        if len(owner)
        else np.zeros(0, np.int64)
    )
    count = np.diff(np.r_[starts, len(owner)])
    of, kinds = owner[starts].astype(np.int64), kind[starts]
    low, high = boxes[0][of].copy(), boxes[1][of].copy()
    # An object that is drawn in several ways has a box for each, so that panes are ordered by where they
    # really are.
    several = np.flatnonzero(np.bincount(of, minlength=len(model.objects))[of] > 1)
    for at in several.tolist():
        mine = slice(int(starts[at]), int(starts[at] + count[at]))
        corner = model.vertices[model.faces[mine if order is None else order[mine]]].reshape(-1, 3)
        low[at], high[at] = corner.min(axis=0), corner.max(axis=0)
    base, counts = coarse
    first = base + 3 * (np.cumsum(counts) - counts)
    alone = np.ones(len(of), bool)
    alone[several] = False
    return Batches(
        starts * 3,
        count * 3,
        low.astype(float),
        high.astype(float),
        of,
        np.where(kinds < 0, GLASS_ARRAY, kinds // 2 - 1),
        (kinds >= 0) & (kinds % 2 == 1),
        first[of],
        np.where(alone, 3 * counts[of], 0),
        np.zeros(len(of), np.int64),
    )


def _material_table(context: moderngl.Context, model: Model, textures: Textures) -> moderngl.Texture:
    table = np.stack(
        [
            table_row(_burning(item, 0.0), shelf, KIND_NUMBER)
            for item, shelf in zip(model.materials, textures.shelves, strict=True)
        ]
    )
    texture = context.texture((3, len(table)), 4, np.ascontiguousarray(table).tobytes(), dtype="f4")
    texture.filter = (moderngl.NEAREST, moderngl.NEAREST)
    return texture


def set_lamps(texture: moderngl.Texture, model: Model, textures: Textures, share: float) -> None:
    """Let the lamps among the materials glow with a share of their light."""
    table = np.stack(
        [
            table_row(_burning(item, share), shelf, KIND_NUMBER)
            for item, shelf in zip(model.materials, textures.shelves, strict=True)
        ]
    )
    texture.write(np.ascontiguousarray(table).tobytes())


def _burning(material: Material, share: float) -> Material:
    """A lamp's material with a share of its light."""
    if not material.lamp:
        return material
    r, g, b = (value * share for value in material.emission)
    return replace(material, emission=(r, g, b))


def _light_texture(context: moderngl.Context, light: LightMap | None) -> moderngl.Texture:
    pixels = np.zeros((1, 1, 3), np.float32) if light is None else light.pixels
    height, width = pixels.shape[:2]
    texture = context.texture(
        (width, height), 3, np.minimum(pixels, np.float32(65_000.0)).astype(np.float16).tobytes(), dtype="f2"
    )
    texture.filter = (moderngl.LINEAR, moderngl.LINEAR)
    texture.repeat_x = texture.repeat_y = False
    return texture
