"""COLLADA (DAE): its nodes by name, faces of any number of corners with their holes, materials, lines and
cameras."""

from __future__ import annotations

import io
import itertools
import math
import re
import warnings
from collections.abc import Hashable, Iterator
from pathlib import Path
from typing import Any

import collada
import numpy as np
from collada.material import OPAQUE_MODE, Map

from altana.core.conventions import Floats, Ints
from altana.core.errors import UserError
from altana.core.model import BLEND, CLAMP, MASK, MIRROR, OPAQUE, REPEAT, SOLID, Maps, Material, Problem
from altana.importers.copying import HERE, Copies
from altana.importers.extras import MOST_FOUND, as_camera
from altana.importers.finish import SOLID_FROM, as_mirror, is_mirror, is_silvered, kind_of, pane_roughness
from altana.importers.folder import ModelFolder
from altana.importers.memory import check_room
from altana.importers.naming import Names, category_of
from altana.importers.pictures import encoded_has_opacity, keep_picture
from altana.importers.polygons import ear_clipped, triangles_of
from altana.importers.raw import Part, RawModel
from altana.importers.units import settle

#: What the words of samplers mean; every other is the usual, the picture again.
WRAPS = {"MIRROR": MIRROR, "CLAMP": CLAMP, "BORDER": CLAMP}
DEEPEST, MOST_PLACED = 200, 500_000
WHILE_READING = 12
#: One flat face of three corners, for at most eight numbers a corner; what is too many is passed over.
STAND_IN = b"<p>" + b"0 " * 24 + b"</p>"
#: Lines from point to point, with their points and which of a point's numbers each input has.
STRIPS = re.compile(rb"<linestrips\b([^>]*)>(.*?)</linestrips>", re.DOTALL)
LINE, OFFSET, COUNT = (
    re.compile(rb"<p>([^<]*)</p>"),
    re.compile(rb'offset="(\d{1,4})"'),
    re.compile(rb'count="\d+"'),
)
#: What the library says where a thing in a scene leads nowhere.
LOST = re.compile(
    r"(geometry|node|controller) \S+ not found|url in (geometry|node|controller)", re.IGNORECASE
)


def read_dae(path: Path, unit_m: float = 0.0, up: str = "") -> tuple[RawModel, list[str]]:
    """The parts of a COLLADA file and the other files it was read from.  Raises UserError.

    unit_m, up : 0 and empty for what its header says.
    """
    data = path.read_bytes()
    check_room(len(data) * WHILE_READING, path.name)
    raw, folder = RawModel(), ModelFolder(path)
    with warnings.catch_warnings():
        # The library places things with a class of matrices that its own base warns of.
        warnings.simplefilter("ignore")
        try:
            document = collada.Collada(
                io.BytesIO(_with_stand_ins(_with_pairs(data))),
                ignore=[collada.common.DaeError],
                aux_file_loader=lambda name: folder.bytes_of(name) or b"",
            )
        except (collada.common.DaeError, SyntaxError, ValueError) as error:
            raise UserError(
                f"{path.name} is damaged and cannot be read as COLLADA. Nothing was changed. Export it again, or choose another file."
            ) from error
        reader = _Reader(document, folder, raw, path.name)
        reader.read()
    lost = sum(bool(LOST.search(str(error))) for error in document.errors)
    if lost:
        raw.problems.append(
            Problem(
                "incomplete",
                f"{lost} things in the file refer to shapes that it does not hold or that cannot be read; they are not shown.",
            )
        )
    scale = float(document.assetInfo.unitmeter or 1.0)
    if not 1e-6 < scale < 1e6:
        raise UserError(
            f"{path.name} says that its unit is {scale:g} m. Nothing was changed. Choose the unit, or export it again."
        )
    reader.add_cameras(
        settle(raw, unit_m, up, scale, {"X_UP": "x", "Z_UP": "z"}.get(str(document.assetInfo.upaxis), "y"))
    )
    folder.tell(raw)
    return raw, folder.read


def _with_pairs(data: bytes) -> bytes:
    """Lines that go on from point to point are written as lines of two points each: the library passes over
    shapes that have any."""
    if b"<linestrips" not in data:
        return data

    def paired(match: re.Match[bytes]) -> bytes:
        step = max((int(offset) for offset in OFFSET.findall(match[2])), default=0) + 1
        pairs = []
        for line in LINE.findall(match[2]):
            numbers = line.split()
            points = [numbers[at : at + step] for at in range(0, len(numbers), step)]
            pairs += [b" ".join(one + other) for one, other in itertools.pairwise(points)]
        part = LINE.sub(b"", match[2]) + b"<p>" + b" ".join(pairs) + b"</p>"
        return b"<lines" + COUNT.sub(b'count="%d"' % len(pairs), match[1]) + b">" + part + b"</lines>"

    return STRIPS.sub(paired, data)


def _with_stand_ins(data: bytes) -> bytes:
    """Faces with holes are read here, but the library passes over a group that has no others: each such group
    gets one that is flat."""
    if b"<ph>" not in data:
        return data
    return re.sub(
        rb"(<polygons\b.*?)(</polygons>)",
        lambda match: match[1] + (STAND_IN if b"<ph>" in match[1] else b"") + match[2],
        data,
        flags=re.DOTALL,
    )


class _Reader:
    def __init__(self, document: Any, folder: ModelFolder, raw: RawModel, name: str) -> None:
        self._document, self._folder, self._raw, self._name = document, folder, raw, name
        self._names = Names()
        self._materials: dict[Any, int] = {}
        self._pictures: dict[str, int] = {}
        self._placed = 0
        self._copies = Copies(name)
        self._lines: dict[Hashable, list[Floats]] = {}
        self._found: list[tuple[str, Floats, float, float]] = []

    def add_cameras(self, matrix: Floats) -> None:
        """Offer the file's cameras, once units and axes are known."""
        for name, placed, across, aspect in self._found:
            camera = as_camera(name, matrix @ placed, across, aspect)
            if camera is not None:
                self._raw.cameras.append(camera)

    def read(self) -> None:
        scene = self._document.scene or (self._document.scenes[0] if self._document.scenes else None)
        for node in scene.nodes if scene is not None else ():
            self._node(node, np.eye(4), "", 0)
        if not self._raw.parts and not self._raw.lines and not self._placed:
            # A file without a scene still holds its shapes.
            for geometry in self._document.geometries:
                self._geometry(geometry, [], str(geometry.name or geometry.id or "Object"), HERE)
        self._copies.settle()

    def _node(self, node: Any, above: Floats, name: str, depth: int) -> None:
        self._placed += 1
        if depth > DEEPEST or self._placed > MOST_PLACED:
            raise UserError(
                f"{self._name} is damaged: its parts are nested without end. Nothing was changed. Export it again."
            )
        # First, because the library takes a node that is placed again for a kind of node, too, but one
        # without a name.
        if isinstance(node, collada.scene.NodeNode):
            self._node(node.node, above, name, depth + 1)
        elif isinstance(node, collada.scene.Node):
            name_of_node = str(node.name or node.id or name)
            world = above @ np.asarray(node.matrix, float)
            for child in node.children:
                self._node(child, world, name_of_node, depth + 1)
        elif isinstance(node, collada.scene.GeometryNode):
            self._geometry(node.geometry, node.materials, name or str(node.geometry.name or "Object"), above)
        elif isinstance(node, collada.scene.ControllerNode):
            skin = getattr(node.controller, "geometry", None)
            if skin is not None:
                shape = np.asarray(getattr(node.controller, "bind_shape_matrix", np.eye(4)), float).reshape(
                    4, 4
                )
                self._geometry(skin, node.materials, name or str(skin.name or "Object"), above @ shape)
        elif isinstance(node, collada.scene.CameraNode):
            for bound in node.objects("camera", above):
                self._camera(bound, name)

    # ------------------------------------------------------------------ shapes

    def _geometry(self, geometry: Any, materials: list[Any], name: str, world: Floats) -> None:
        """A geometry with its materials, where (4, 4) brings it."""
        bound_to = ((item.symbol, id(item.target), str(item.inputs)) for item in materials)
        key = (id(geometry), *sorted(bound_to))
        shown = self._copies.read(key, lambda: self._parts(geometry, materials, key))
        for lines in self._lines.get(key, ()):
            self._raw.add_lines(name, lines @ world[:3, :3].T + world[:3, 3])
        if shown:
            own, number = self._names.of(name)
            self._raw.parts += self._copies.of(key, (number, own, category_of(own), ""), world)

    def _parts(self, geometry: Any, materials: list[Any], key: Hashable) -> Iterator[Part]:
        """The surfaces of a geometry as they lie in it; its lines are kept by ``key``."""
        for piece in geometry.bind(np.eye(4), {item.symbol: item for item in materials}).primitives():
            if piece.vertex is None or piece.vertex_index is None or not len(piece.vertex):
                continue
            points = np.asarray(piece.vertex, float)
            if isinstance(piece, collada.lineset.BoundLineSet):
                self._lines.setdefault(key, []).append(points[np.asarray(piece.vertex_index, int)])
                continue
            cut, corners = self._faces(piece, points)
            if len(cut):
                yield from self._part(piece, points, corners, cut)

    def _faces(self, piece: Any, points: Floats) -> tuple[Ints, Ints]:
        """(m, 3) places among the corners, and (corners, 3) numbers of vertex, normal and texture place, -1
        for none."""
        original = piece.original
        index = np.asarray(original.index, np.int64)
        index = index.reshape(-1, index.shape[-1]) if index.ndim > 1 else index[:, None]
        offsets = {name: inputs[0][0] for name, inputs in original.sources.items() if inputs}
        corners = np.full((len(index), 3), -1, np.int64)
        for column, name in enumerate(("VERTEX", "NORMAL", "TEXCOORD")):
            if name in offsets and offsets[name] < index.shape[1]:
                corners[:, column] = index[:, offsets[name]]
        counts = np.asarray(getattr(original, "vcounts", ()), np.int64)
        if not len(counts):
            counts = np.full(len(index) // 3, 3, np.int64)
        cut, face = triangles_of(points, counts, np.clip(corners[:, 0], 0, len(points) - 1))
        holed = [node for node in original.xmlnode.iter() if str(node.tag).rsplit("}", 1)[-1] == "ph"]
        if holed:
            # The last face only stood in for these.
            cut = cut[face < len(counts) - 1]
        for node in holed:
            extra, rows = _holed(node, offsets, index.shape[1], points)
            cut = np.vstack([cut, extra + len(corners)])
            corners = np.vstack([corners, rows])
        return cut, corners

    def _part(self, piece: Any, points: Floats, corners: Ints, cut: Ints) -> Iterator[Part]:
        used = corners[cut.reshape(-1)]
        sound = ((used[:, 0] >= 0) & (used[:, 0] < len(points))).reshape(-1, 3).all(axis=1)
        used = used.reshape(-1, 3, 3)[sound].reshape(-1, 3)
        normals = None if piece.normal is None else np.asarray(piece.normal, float)
        textures = np.asarray(piece.texcoordset[0], float)[:, :2] if piece.texcoordset else None
        shaded = (
            normals is not None
            and len(used) > 0
            and bool(((used[:, 1] >= 0) & (used[:, 1] < len(normals))).all())
        )
        textured = (
            textures is not None
            and len(used) > 0
            and bool(((used[:, 2] >= 0) & (used[:, 2] < len(textures))).all())
        )
        rows, places = np.unique(used * np.array([1, shaded, textured]), axis=0, return_inverse=True)
        if not len(rows):
            return
        surface = (
            points[rows[:, 0]],
            places.reshape(-1, 3),
            normals[rows[:, 1]] if shaded and normals is not None else None,
            textures[rows[:, 2]] if textured and textures is not None else None,
            _painted(piece.original, corners, rows),
        )
        yield Part("", "", "", "", self._material(piece.material), *surface)

    # ------------------------------------------------------------------ materials

    def _material(self, entry: Any) -> int:
        key = getattr(entry, "id", None) or id(entry) if entry is not None else None
        if key not in self._materials:
            self._materials[key] = len(self._raw.materials)
            self._raw.materials.append(self._converted(entry))
        return self._materials[key]

    def _converted(self, entry: Any) -> Material:
        effect = getattr(entry, "effect", None)
        if effect is None:
            return Material("Plain", (0.78, 0.76, 0.72, 1.0))
        name = str(entry.name or entry.id or "Material")
        image, colour = -1, np.array([0.7, 0.7, 0.7])
        if isinstance(effect.diffuse, Map):
            image, colour = (
                self._picture(effect.diffuse),
                np.ones(3) if self._picture(effect.diffuse) >= 0 else colour,
            )
        elif effect.diffuse is not None:
            colour = np.asarray(effect.diffuse[:3], float)
        opacity, holes = self._opacity(effect)
        cut = (
            image >= 0
            and encoded_has_opacity(self._raw.images[image].data)
            and (holes or isinstance(effect.transparent, Map))
        )
        kind = kind_of(name, opacity, image >= 0)
        glow = (
            np.zeros(3)
            if effect.emission is None or isinstance(effect.emission, Map)
            else np.asarray(effect.emission[:3], float)
        )
        shine = float(effect.shininess) if isinstance(effect.shininess, float | int) else 0.0
        rough = (
            float(np.clip((2.0 / (shine * (128.0 if shine <= 1.0 else 1.0) + 2.0)) ** 0.25, 0.1, 0.9))
            if shine > 0
            else 0.8
        )
        material = Material(
            name,
            tuple(np.clip([*colour, opacity], 0.0, 1.0).tolist()),
            image,
            pane_roughness(name) if kind != SOLID else max(rough, 0.3),
            SOLID if cut and opacity >= SOLID_FROM else kind,
            0.0,
            tuple(np.clip(glow, 0.0, 1.0).tolist()),
            MASK if cut else OPAQUE if holes < 0 else BLEND,
            0.5,
            1.5,
            Maps(
                normal=self._picture(effect.bumpmap) if isinstance(effect.bumpmap, Map) else -1,
                emission=self._picture(effect.emission) if isinstance(effect.emission, Map) else -1,
                opacity=max(holes, -1) if holes != image else -1,
            ),
            wraps=_wraps(effect.diffuse),
        )
        return self._silvered(material, effect) if kind == SOLID and image < 0 and not cut else material

    @staticmethod
    def _silvered(material: Material, effect: Any) -> Material:
        """A material as the looking-glass that its name or its effect says it is."""
        share, around = effect.reflectivity, effect.reflective
        if isinstance(share, float | int) and isinstance(around, tuple | list | np.ndarray):
            thrown = np.asarray(around[:3], float) * float(share)
            if is_silvered(material.colour, thrown.tolist()):
                return as_mirror(material, thrown.tolist())
        return as_mirror(material) if is_mirror(material.name) else material

    def _opacity(self, effect: Any) -> tuple[float, int]:
        """Opacity of the whole, and the picture that holds it or -1 (COLLADA 1.4.1, "Determining
        transparency")."""
        has_opacity = effect.xmlnode.find(".//{*}transparency") is not None
        share = (
            float(effect.transparency)
            if has_opacity and isinstance(effect.transparency, float | int)
            else 1.0
        )
        through = effect.transparent
        if isinstance(through, Map):
            return 1.0, self._picture(through)
        if through is None:
            # Writers that give no colour mean opacity by it; one of nothing at all is a slip of many of them.
            return (share if share > 0.0 else 1.0), -1
        red, green, blue, alpha = (*map(float, through), 1.0, 1.0, 1.0, 1.0)[:4]
        if effect.opaque_mode == OPAQUE_MODE.RGB_ZERO:
            return float(
                np.clip(1.0 - share * (0.212671 * red + 0.71516 * green + 0.072169 * blue), 0.0, 1.0)
            ), -1
        opacity = float(np.clip(share * alpha, 0.0, 1.0))
        return (opacity if opacity > 0.0 else 1.0), -1

    def _picture(self, entry: Any) -> int:
        image = entry.sampler.surface.image
        name = str(image.path)
        if name not in self._pictures:
            self._pictures[name] = keep_picture(
                self._raw, name.replace("\\", "/").rsplit("/", 1)[-1], self._folder.bytes_of(name)
            )
        return self._pictures[name]

    # ------------------------------------------------------------------ cameras

    def _camera(self, bound: Any, name: str) -> None:
        if not hasattr(bound, "xfov"):
            self._raw.problems.append(
                Problem("camera-skipped", f"“{name}” in the file is a parallel view and is not offered.")
            )
            return
        aspect = float(bound.aspect_ratio or 16 / 9)
        across = bound.xfov
        if across is None and bound.yfov is not None:
            across = 2 * math.degrees(math.atan(math.tan(math.radians(float(bound.yfov)) / 2) * aspect))
        if across is None:
            return
        if len(self._found) < MOST_FOUND:
            self._found.append(
                (
                    str(bound.original.id or name or "Camera"),
                    np.asarray(bound.matrix, float),
                    float(across),
                    aspect,
                )
            )


def _holed(node: Any, offsets: dict[str, int], stride: int, points: Floats) -> tuple[Ints, Ints]:
    """One ``ph`` element: its triangles, and (corners, 3) numbers of vertex, normal and texture place."""
    rings = []
    for ring in node:
        values = np.array(str(ring.text or "").split(), np.int64)
        rings.append(values[: len(values) // stride * stride].reshape(-1, stride))
    rows = np.concatenate(rings) if rings else np.zeros((0, stride), np.int64)
    corners = np.full((len(rows), 3), -1, np.int64)
    for column, name in enumerate(("VERTEX", "NORMAL", "TEXCOORD")):
        if name in offsets:
            corners[:, column] = rows[:, offsets[name]]
    if not len(rows) or corners[:, 0].min() < 0 or corners[:, 0].max() >= len(points):
        return np.zeros((0, 3), np.int64), corners
    places = [points[ring[:, offsets["VERTEX"]]] for ring in rings]
    return ear_clipped(places[0], places[1:]), corners


def _painted(original: Any, corners: Ints, rows: Ints) -> Any:
    """(rows, 4) uint8 of a COLOR input that goes with the vertices, else None."""
    inputs = original.sources.get("COLOR") or ()
    if not inputs:
        return None
    offset, source = inputs[0][0], np.asarray(inputs[0][4].data, float)
    index = (
        np.asarray(original.index, np.int64).reshape(len(corners), -1) if original.index is not None else None
    )
    if index is None or len(index) != len(corners) or offset >= index.shape[1]:
        return None
    by_vertex = np.zeros(int(corners[:, 0].max()) + 1, np.int64)
    by_vertex[corners[:, 0]] = index[:, offset]
    shades = source[np.clip(by_vertex[rows[:, 0]], 0, len(source) - 1)]
    colours = np.full((len(rows), 4), 255, np.uint8)
    colours[:, : min(4, shades.shape[1])] = np.rint(255 * np.clip(shades[:, :4], 0, 1))
    return colours


def _wraps(entry: Any) -> tuple[str, str]:
    """What lies beyond the edges of a surface's picture."""
    if not isinstance(entry, Map):
        return REPEAT, REPEAT
    wraps = {
        item.tag.rpartition("}")[2]: (item.text or "").strip().upper()
        for item in entry.sampler.xmlnode.iter()
    }
    u, v = (WRAPS.get(wraps.get(word, ""), REPEAT) for word in ("wrap_s", "wrap_t"))
    return u, v
